"""Where a First Loop keeps its records, and what it offers beside the real work."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

DATA_ENV = "FIRST_LOOP_DATA"


def default_data_dir() -> Path:
    """The folder named by ``FIRST_LOOP_DATA``, else ``first-loop`` in the user's own data folder."""
    named = os.environ.get(DATA_ENV)
    if named:
        return Path(named)
    share = os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share"
    return Path(share) / "first-loop"


@dataclass(frozen=True)
class Settings:
    """Choices made when the application starts.

    Parameters
    ----------
    data_dir : Path
        Folder of the database.
    simulated_pen : bool
        Whether the Write screen offers a pen that writes by itself, for showing it without a tablet.
    judges : int
        Processes in which ink is judged; 0 judges in the server itself, as tests and one-off work do.
    listens_on : tuple of str
        Addresses that it can be reached at beside those that only this machine has.
    offers_demo : bool
        Whether the demo school can be started beside it.
    pages_from : Path or None
        Folder that a scanner writes pictures of pages to; what it has finished is taken out of it.
    room : bool
        Whether it is reached over a network: then everything of the teacher's wants her session.
    secure_port : int
        Port on which it is then reached.
    nightly_to : Path or None
        Folder for the backup of every day; one beside the records unless another is named.
    """

    data_dir: Path
    simulated_pen: bool = False
    judges: int = 0
    listens_on: tuple[str, ...] = ()
    offers_demo: bool = False
    pages_from: Path | None = None
    room: bool = False
    secure_port: int = 0
    nightly_to: Path | None = None

    @property
    def nightly(self) -> Path:
        """Where the backup of every day goes."""
        return self.nightly_to or self.data_dir / "backups" / "nightly"

    @property
    def addresses(self) -> tuple[str, ...]:
        """Addresses that a tablet can open, most likely first; of this machine alone without a room."""
        if not self.room:
            return ("http://127.0.0.1:8000",)
        named = [f"[{one}]" if ":" in one else one for one in self.listens_on]
        return tuple(f"https://{one}:{self.secure_port}" for one in named)

    @property
    def database(self) -> Path:
        """The database file."""
        return self.data_dir / "first-loop.sqlite3"
