"""Everything in one file, and back again; nothing is replaced before the file has been checked."""

from __future__ import annotations

import errno
import hashlib
import shutil
import sqlite3
import zipfile
from collections.abc import Iterator, Sequence
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

import orjson
from sqlalchemy import select

from firstloop.formats.zips import UNREADABLE_ZIP
from firstloop.store.database import open_engine, sessions, upgrade, versions
from firstloop.store.errors import StoreError
from firstloop.store.places import new_name, work_folder
from firstloop.store.shape import differs
from firstloop.store.tables import Child

FORMAT = "first-loop-backup"
_MANIFEST, _DATABASE = "manifest.json", "records.sqlite3"
_COUNTED = {"classes": "school_class", "children": "child", "rows": "row", "attempts": "attempt"}
_CHUNK = 1 << 20
_COMPRESSED = 1  # to a quarter, and not to a fifth in four times the time: children write meanwhile
_MANIFEST_MOST = 1 << 16
_ROOM_LEFT = 200_000_000  # bytes that unpacking leaves free on the disk
_FAR_ON = 1_000_000  # numbers go on from here where nobody knows which were given
_NONE = "This is no backup from First Loop, or it is damaged. Nothing was changed."


class BackupError(ValueError):
    """A file that cannot be restored; the message says why. Nothing has been changed."""


class NoRoomError(StoreError):
    """There is not enough room on the disk; nothing has been changed."""


@dataclass(frozen=True)
class Contents:
    """What a backup holds, or the records hold now."""

    made_at: datetime
    classes: int
    children: int
    rows: int
    attempts: int


@dataclass(frozen=True)
class Checked:
    """A backup that was found whole: its records, unpacked and up to date, and what they hold."""

    records: Path
    contents: Contents


def _counts(database: Path) -> dict[str, int]:
    with closing(sqlite3.connect(database)) as connection:
        return {
            name: int(connection.execute(f'SELECT count(*) FROM "{table}"').fetchone()[0])
            for name, table in _COUNTED.items()
        }


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _copy(source: Path, target: Path) -> None:
    """Copy a database as it stands, also while it is in use; what was in `target` is replaced at once."""
    with closing(sqlite3.connect(source)) as a, closing(sqlite3.connect(target)) as b:
        a.backup(b)


def _without_erased(copy: Path) -> None:
    """Leave nothing of the children that were erased, not even where it stood in the file."""
    with closing(sqlite3.connect(copy)) as connection:
        connection.execute("PRAGMA secure_delete = ON")
        if connection.execute("SELECT 1 FROM sqlite_schema WHERE name = 'erased_child'").fetchone():
            connection.execute("DELETE FROM erased_child")
            connection.commit()
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def backup(database: Path, target: Path | IO[bytes], at: datetime) -> Contents:
    """Write everything in the records to one file, which is there whole or not at all.

    Raises
    ------
    OSError
        If there is no room, or no leave to write.
    """
    if isinstance(target, Path):
        making = target.with_name(target.name + ".making")
        try:
            with making.open("wb") as file:
                made = backup(database, file, at)
            making.replace(target)
        finally:
            making.unlink(missing_ok=True)
        return made
    with work_folder(database.parent) as folder:
        copy = folder / _DATABASE
        _copy(database, copy)
        _without_erased(copy)
        counts = _counts(copy)
        manifest = {"format": FORMAT, "made_at": at.isoformat(), "sha256": _digest(copy), **counts}
        with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=_COMPRESSED) as packed:
            packed.writestr(_MANIFEST, orjson.dumps(manifest))
            packed.write(copy, _DATABASE)
    return Contents(made_at=at, **counts)


@contextmanager
def checked(file: Path | IO[bytes], data_dir: Path) -> Iterator[Checked]:
    """A backup unpacked beside the records, found whole and brought up to date.

    Raises
    ------
    BackupError
        If it is not whole, or not First Loop's.
    NoRoomError
        If there is no room to unpack it.
    """
    with work_folder(data_dir) as folder:
        copy = folder / _DATABASE
        try:
            manifest = _unpack(file, copy)
            if _digest(copy) != manifest["sha256"]:
                raise BackupError("The file is damaged: its records are not those that were written.")
            _sound(copy)
            engine = open_engine(copy)
            try:
                upgrade(engine)
            finally:
                engine.dispose()
        except OSError as problem:
            if problem.errno not in (errno.ENOSPC, errno.EDQUOT):
                raise
            raise NoRoomError("There is no room to unpack the file. Nothing was changed.") from problem
        yield Checked(copy, Contents(made_at=manifest["made_at"], **_counts(copy)))


def check(file: Path | IO[bytes], data_dir: Path) -> Contents:
    """What is in a backup, once it has been found whole.

    Raises
    ------
    BackupError, NoRoomError
    """
    with checked(file, data_dir) as found:
        return found.contents


def replace(found: Checked, database: Path, folder: Path, at: datetime) -> Path:
    """Put a checked backup in place of the records; nobody else may be writing to them.

    What was there is first written to a backup of its own in `folder`, whose name is returned; records
    that cannot be read any more are moved there as they are.
    """
    if database.exists() and readable(database):
        aside = new_name(folder, "before-restore", at, ".zip")
        backup(database, aside, at)
        _go_on_from(found.records, _given(database))
        _copy(found.records, database)
        return aside
    _go_on_from(found.records, {})
    aside = new_name(folder, "unreadable", at, ".sqlite3")
    for ending in ("", "-wal", "-shm"):
        old = database.with_name(database.name + ending)
        if old.exists():
            old.replace(aside.with_name(aside.name + ending))
    with closing(sqlite3.connect(found.records)) as connection:
        connection.execute("PRAGMA journal_mode=DELETE")  # one file, whole
    found.records.replace(database)
    return aside


def readable(database: Path) -> bool:
    """Whether a file holds records that this First Loop can read."""
    try:
        with closing(sqlite3.connect(f"file:{database.as_posix()}?mode=ro", uri=True)) as connection:
            if version_of(connection) not in versions():
                return False
            whole: str = connection.execute("PRAGMA quick_check(1)").fetchone()[0]
            return whole == "ok"
    except sqlite3.DatabaseError:
        return False


def version_of(connection: sqlite3.Connection) -> str | None:
    """Version of the tables in a database; None where it has none."""
    try:
        found = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    except sqlite3.OperationalError as problem:
        if "no such" not in str(problem):
            raise
        return None
    return None if found is None else str(found[0])


def _given(database: Path) -> dict[str, int]:
    """The highest number given in each table, of what was erased too."""
    with closing(sqlite3.connect(database)) as connection:
        try:
            return dict(connection.execute("SELECT name, seq FROM sqlite_sequence").fetchall())
        except sqlite3.OperationalError:
            return {}  # records from before numbers were kept count


def _go_on_from(records: Path, given: dict[str, int]) -> None:
    """Let numbers in `records` go on from the higher of theirs and those given; far on if none is known."""
    with closing(sqlite3.connect(records)) as connection, connection:
        connection.execute(
            "INSERT INTO sqlite_sequence (name, seq) SELECT name, 0 FROM sqlite_schema "
            "WHERE sql LIKE '%AUTOINCREMENT%' AND name NOT IN (SELECT name FROM sqlite_sequence)"
        )
        for name, own in connection.execute("SELECT name, seq FROM sqlite_sequence").fetchall():
            highest = max(own, given[name]) if name in given else own + (0 if given else _FAR_ON)
            connection.execute("UPDATE sqlite_sequence SET seq = ? WHERE name = ?", (highest, name))


def _unpack(file: Path | IO[bytes], target: Path) -> dict[str, Any]:
    try:
        with zipfile.ZipFile(file) as packed:
            manifest = _manifest(packed)
            size = packed.getinfo(_DATABASE).file_size
            if size > shutil.disk_usage(target.parent).free - _ROOM_LEFT:
                raise NoRoomError("There is no room to unpack the file. Nothing was changed.")
            with packed.open(_DATABASE) as source, target.open("wb") as out:
                shutil.copyfileobj(source, out, _CHUNK)
    except BackupError:
        raise
    except UNREADABLE_ZIP as problem:
        if isinstance(problem, OSError) and problem.errno in (errno.ENOSPC, errno.EDQUOT):
            raise
        raise BackupError(_NONE) from problem
    return manifest


def _manifest(packed: zipfile.ZipFile) -> dict[str, Any]:
    with packed.open(_MANIFEST) as source:
        text = source.read(_MANIFEST_MOST + 1)
    if len(text) > _MANIFEST_MOST:
        raise BackupError(_NONE)
    manifest = orjson.loads(text)
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise BackupError("This is no backup from First Loop. Nothing was changed.")
    if not isinstance(manifest.get("sha256"), str):
        raise BackupError(_NONE)
    try:
        made_at = datetime.fromisoformat(manifest["made_at"])
    except (KeyError, TypeError, ValueError):
        raise BackupError("The backup does not say when it was made. Nothing was changed.") from None
    return {"sha256": manifest["sha256"], "made_at": made_at.astimezone(UTC)}


def _sound(database: Path) -> None:
    """Refuse what is not exactly records of this First Loop or an earlier one."""
    try:
        with closing(sqlite3.connect(database)) as connection:
            connection.execute("PRAGMA trusted_schema=OFF")
            version = version_of(connection)
            if version is None:
                raise BackupError("The records in the file do not say their version. Nothing was changed.")
            if version not in versions():
                raise BackupError(
                    "The backup was made by a later First Loop; bring this one up to date first."
                )
            odd = differs(connection, version)
            if odd is not None:
                raise BackupError(f"The file holds {odd[:40]!r}, which First Loop did not make so.")
            whole = connection.execute("PRAGMA integrity_check(1)").fetchone()[0] == "ok"
            loose = connection.execute("PRAGMA foreign_key_check").fetchone()
    except sqlite3.DatabaseError as problem:
        raise BackupError("The records in the file cannot be read. Nothing was changed.") from problem
    if not whole or loose is not None:
        raise BackupError("The records in the file are not whole. Nothing was changed.")


def made_here(data_dir: Path) -> list[Path]:
    """Every backup that was made beside the records: of the day, and before a restore or an upgrade."""
    found = [one for one in (data_dir / "backups").rglob("*.zip") if one.stat().st_size]
    return sorted(found)


def clear_of_children(file: Path, data_dir: Path, child_ids: Sequence[int]) -> int:
    """Take children out of a backup, with everything of theirs; how many were in it.

    The file is replaced whole or not at all; one that cannot be read is left as it is.
    """
    try:
        with checked(file, data_dir) as found:
            engine = open_engine(found.records)
            with sessions(engine)() as session:
                there = session.scalars(select(Child).where(Child.id.in_(child_ids))).all()
                for child in there:
                    session.delete(child)
                session.commit()
            engine.dispose()
            if there:
                with closing(sqlite3.connect(found.records)) as connection:
                    connection.execute("VACUUM")  # nothing of them stays where it stood in the file
                backup(found.records, file, found.contents.made_at)
    except (BackupError, sqlite3.DatabaseError):
        return 0
    return len(there)
