"""A backup of every day, made on this machine by itself; the last seven are kept."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from sqlalchemy.orm import Session, sessionmaker

from firstloop.services import records
from firstloop.store import audit, backup

log = logging.getLogger(__name__)
LOOKS_S = 300.0
FIRST_LOOK_S = 60.0  # after a start there is other work to do
KEPT = 7
_NAME = "first-loop-????-??-??.zip"


class Nightly:
    """Makes the day's backup once, some time after the day began, and lets go of the eighth."""

    def __init__(
        self, sessions: sessionmaker[Session], database: Path, folder: Path, clock: Callable[[], datetime]
    ) -> None:
        self._sessions, self._database, self._folder, self._clock = sessions, database, folder, clock
        self._stopped = threading.Event()
        self._thread: threading.Thread | None = None

    def start(self) -> None:
        """Begin."""
        self._thread = threading.Thread(target=self._work, name="nightly backup", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """End."""
        self._stopped.set()
        if self._thread is not None:
            self._thread.join()

    def look(self) -> Path | None:
        """Make the backup of today unless it is there, or nothing is in the records; the file made."""
        at = self._clock()
        with self._sessions() as session:
            day, there = records.today(session, at), records.count(session).classes
        file = self._folder / f"first-loop-{day:%Y-%m-%d}.zip"
        if file.exists() or not there:
            return None
        self._folder.mkdir(parents=True, exist_ok=True)
        backup.backup(self._database, file, at)
        for old in sorted(self._folder.glob(_NAME))[:-KEPT]:
            old.unlink(missing_ok=True)
        return file

    def _work(self) -> None:
        wait_s = FIRST_LOOK_S
        while not self._stopped.wait(wait_s):
            wait_s = LOOKS_S
            try:
                self.look()
                audit.forget_the_old(self._database.parent, self._clock())
            except Exception:  # a full disk, a locked file: the next look tries again
                log.exception("the backup of today could not be made")
