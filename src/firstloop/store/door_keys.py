"""The keys of the door, beside the records and never in them: a backup given away lets nobody in.

One small file holds the teacher's passphrase and the recovery words as hashes, and the sessions that have
not ended. It is replaced whole or not at all.
"""

from __future__ import annotations

import json
import os
from dataclasses import asdict, dataclass, field
from pathlib import Path

_FILE = "keys.json"
_OWN = 0o600
_OWN_FOLDER = 0o700


@dataclass(frozen=True)
class DoorKeys:
    """What opens the door. All of it is hashed: whoever reads it cannot open anything.

    Parameters
    ----------
    passphrase : str
        Argon2id, as its own text form says.
    recovery : str
        The same of the recovery words; empty once they have been used.
    sessions : dict
        SHA-256 of a session's token, and when it ends, seconds since 1970.
    """

    passphrase: str
    recovery: str
    sessions: dict[str, float] = field(default_factory=dict)


class KeysError(Exception):
    """The keys cannot be read; the message says what to do."""


def door_folder(data_dir: Path) -> Path:
    """Where the keys lie, open to nobody else of this machine."""
    folder = data_dir / "door"
    folder.mkdir(parents=True, exist_ok=True, mode=_OWN_FOLDER)
    return folder


def read_keys(data_dir: Path) -> DoorKeys | None:
    """The keys; None where no passphrase was ever set.

    Raises
    ------
    KeysError
    """
    file = data_dir / "door" / _FILE
    try:
        return DoorKeys(**json.loads(file.read_text(encoding="utf-8")))
    except FileNotFoundError:
        return None
    except (OSError, TypeError, ValueError):
        raise KeysError(
            f"The keys of the door cannot be read ({file}). The records are whole. "
            "Set a new passphrase on this machine: first-loop passphrase"
        ) from None


def write_keys(data_dir: Path, keys: DoorKeys) -> None:
    """Put other keys in their place, so that a kill leaves the old ones or the new.

    Raises
    ------
    OSError
        If the folder cannot be written.
    """
    write_own(door_folder(data_dir) / _FILE, json.dumps(asdict(keys)).encode())


def write_own(file: Path, content: bytes) -> None:
    """Write a file that only this user of the machine can read, whole or not at all.

    Raises
    ------
    OSError
    """
    making = file.with_suffix(".making")
    making.unlink(missing_ok=True)
    with os.fdopen(os.open(making, os.O_WRONLY | os.O_CREAT | os.O_EXCL, _OWN), "wb") as out:
        out.write(content)
        out.flush()
        os.fsync(out.fileno())
    making.replace(file)
