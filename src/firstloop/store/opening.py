"""Opening the records at start: sound ones are brought up to date, of others is said what to do."""

from __future__ import annotations

import sqlite3
import time
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import Engine
from sqlalchemy.exc import DatabaseError

from firstloop.store.backup import BackupError, NoRoomError, backup, check, version_of
from firstloop.store.database import BUSY_TIMEOUT_MS, CONNECTIONS, open_engine, upgrade, versions
from firstloop.store.errors import RecordsError
from firstloop.store.places import backups_folder, clear_left_over

_SQLITE = b"SQLite format 3\x00"
_LOOK_S = 3.0  # for so long a start looks through the file; large records are used unread, as ever
_STEPS = 200_000


def open_records(database: Path, connections: int = CONNECTIONS) -> Engine:
    """Open the records, new ones if there are none, with tables up to date.

    Raises
    ------
    RecordsError
        If the file is damaged, foreign, of a later First Loop or read-only, if it has no content although
        there are backups, or if it cannot be brought up to date; nothing was changed.
    """
    clear_left_over(database.parent)
    found = _looked_at(database)
    if found == versions()[0]:
        return open_engine(database, connections)
    if found is not None:
        _copy_first(database, found)
    engine = open_engine(database, connections)
    try:
        upgrade(engine)
    except (DatabaseError, RuntimeError) as problem:
        engine.dispose()
        raise RecordsError(
            "The records could not be brought up to date"
            f" ({_short(problem)}). Nothing was changed, and there is a copy in the folder backups. "
            + ("Make room on the disk and start again." if "full" in str(problem) else "Start again.")
        ) from problem
    return engine


def _short(problem: Exception) -> str:
    return str(getattr(problem, "orig", None) or problem).splitlines()[0][:120]


def _looked_at(database: Path) -> str | None:
    """Version of the records; None where there are none yet."""
    if not _has_content(database):
        return None
    try:
        with closing(sqlite3.connect(database, timeout=BUSY_TIMEOUT_MS / 1000)) as connection:
            version, tables = version_of(connection), _tables(connection)
            if version is None:
                if tables:
                    raise _unusable(database, f"{database.name} was made by another program.")
                return None
            if version not in versions():
                if not _whole(connection):
                    raise _unusable(database, "The records are damaged.")
                raise RecordsError(
                    "The records were written by a later First Loop. Nothing was changed. Install that one, "
                    "or put a backup of this one in their place: first-loop restore FILE.zip"
                )
            connection.execute("BEGIN IMMEDIATE")
            connection.execute("ROLLBACK")
            if not _whole(connection):
                raise _unusable(database, "The records are damaged.")
            return version
    except sqlite3.DatabaseError as problem:
        if "locked" in str(problem):
            raise RecordsError(
                "Another program is using the records. Nothing was changed. Close it and start again."
            ) from problem
        raise _unusable(database, "The records are damaged.") from problem


def _has_content(database: Path) -> bool:
    """Whether there is a file of records that can be read and written."""
    if not database.exists() or database.stat().st_size == 0:
        if newest_good(database) is not None:
            raise _unusable(database, "The records are gone: their file is missing or has no content.")
        return False
    if not _can_write(database):
        raise RecordsError(
            f"The records cannot be written: {database.name} or its folder is read-only. "
            "Nothing was changed. Give leave to write there and start again."
        )
    with database.open("rb") as file:
        if file.read(len(_SQLITE)) != _SQLITE:
            raise _unusable(database, f"{database.name} holds no records of First Loop.")
    return True


def _can_write(database: Path) -> bool:
    """Whether the file and its folder can be written; by trying, since being allowed is not all."""
    trial = database.with_name(database.name + ".trial")
    try:
        with database.open("r+b"):
            trial.touch()
            trial.unlink()
    except OSError:
        return False
    return True


def _tables(connection: sqlite3.Connection) -> int:
    return int(connection.execute("SELECT count(*) FROM sqlite_schema").fetchone()[0])


def _whole(connection: sqlite3.Connection) -> bool:
    """Whether the file is sound as far as it can be looked through in a moment."""
    until = time.monotonic() + _LOOK_S
    connection.set_progress_handler(lambda: time.monotonic() > until, _STEPS)
    try:
        said: str = connection.execute("PRAGMA quick_check(1)").fetchone()[0]
    except sqlite3.OperationalError as problem:
        if "interrupted" in str(problem):
            return True
        raise
    finally:
        connection.set_progress_handler(None, 0)
    return said == "ok"


def newest_good(database: Path) -> Path | None:
    """The latest backup beside the records that is whole."""
    folder = database.parent / "backups"
    for file in sorted(folder.glob("*.zip"), key=lambda one: one.stat().st_mtime, reverse=True):
        try:
            check(file, database.parent)
        except (BackupError, NoRoomError):
            continue
        return file
    return None


def _unusable(database: Path, what: str) -> RecordsError:
    good = newest_good(database)
    if good is None:
        to_do = (
            "No backup lies in the folder backups beside them; put one of yours in their place: "
            "first-loop restore FILE.zip"
        )
    else:
        to_do = f"The latest good backup is backups/{good.name}: first-loop restore {good}"
    return RecordsError(f"{what} Nothing was changed. {to_do}")


def _copy_first(database: Path, version: str) -> None:
    """Keep the records as they are before their tables are changed."""
    target = backups_folder(database.parent) / f"before-upgrade-from-{version}.zip"
    try:
        backup(database, target, datetime.now(UTC))
    except (OSError, sqlite3.DatabaseError) as problem:
        raise RecordsError(
            "There is no room for a copy of the records, which is made before they are brought up to date. "
            "Nothing was changed. Make room on the disk and start again."
        ) from problem
