"""Everything in one file, and back again; nothing is replaced before the file has been checked."""

from __future__ import annotations

import hashlib
import sqlite3
import tempfile
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import orjson
from alembic.script import ScriptDirectory
from sqlalchemy import Engine

from firstloop.store.database import alembic_config, open_engine, upgrade

FORMAT = "first-loop-backup"
_MANIFEST, _DATABASE = "manifest.json", "records.sqlite3"
_COUNTED = {"classes": "school_class", "children": "child", "rows": "row", "attempts": "attempt"}
_CHUNK = 1 << 20
# what zipfile raises for a file that is none, is cut or damaged, or is packed in a way it does not know
_UNREADABLE = (zipfile.BadZipFile, zlib.error, KeyError, EOFError, OSError, RuntimeError)


class BackupError(ValueError):
    """A file that cannot be restored; the message says why. Nothing has been changed."""


@dataclass(frozen=True)
class Contents:
    """What a backup holds, or the records hold now."""

    made_at: datetime
    classes: int
    children: int
    rows: int
    attempts: int


def _counts(database: Path) -> dict[str, int]:
    with closing(sqlite3.connect(database)) as connection:
        return {
            name: int(connection.execute(f'SELECT count(*) FROM "{table}"').fetchone()[0])
            for name, table in _COUNTED.items()
        }


def _digest(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while chunk := file.read(_CHUNK):
            digest.update(chunk)
    return digest.hexdigest()


def _copy(source: Path, target: Path) -> None:
    """Copy a database as it stands, also while it is in use; what was in `target` is replaced at once."""
    with closing(sqlite3.connect(source)) as a, closing(sqlite3.connect(target)) as b:
        a.backup(b)


def backup(database: Path, target: Path, at: datetime) -> Contents:
    """Write everything in the records to one file."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / _DATABASE
        _copy(database, copy)
        counts = _counts(copy)
        manifest = {"format": FORMAT, "made_at": at.isoformat(), "sha256": _digest(copy), **counts}
        making = target.with_name(target.name + ".making")
        with zipfile.ZipFile(making, "w", zipfile.ZIP_DEFLATED) as packed:
            packed.writestr(_MANIFEST, orjson.dumps(manifest))
            packed.write(copy, _DATABASE)
        making.replace(target)
    return Contents(made_at=at, **counts)


def check(file: Path) -> Contents:
    """What is in a backup, once it has been found whole.

    Raises
    ------
    BackupError
    """
    with _unpacked(file) as (_, contents):
        return contents


def restore(file: Path, database: Path, aside: Path) -> Contents:
    """Put a backup in place of the records, which are first written to `aside` as a backup of their own.

    Raises
    ------
    BackupError
        If the file is not whole; nothing has been changed.
    """
    with _unpacked(file) as (checked, contents):
        backup(database, aside, datetime.now(UTC))
        _copy(checked, database)
        return contents


@contextmanager
def _unpacked(file: Path) -> Iterator[tuple[Path, Contents]]:
    """The database of a backup in a folder of its own, checked and brought up to date."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / _DATABASE
        manifest = _unpack(file, copy)
        if _digest(copy) != manifest["sha256"]:
            raise BackupError("The file is damaged: its records are not those that were written.")
        _sound(copy)
        engine = open_engine(copy)
        try:
            _known(engine)
            upgrade(engine)
        finally:
            engine.dispose()
        yield copy, Contents(made_at=datetime.fromisoformat(manifest["made_at"]), **_counts(copy))


def _unpack(file: Path, target: Path) -> dict[str, Any]:
    try:
        with zipfile.ZipFile(file) as packed:
            manifest = orjson.loads(packed.read(_MANIFEST))
            if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
                raise BackupError("This is no backup from First Loop.")
            with packed.open(_DATABASE) as source, target.open("wb") as out:
                while chunk := source.read(_CHUNK):
                    out.write(chunk)
    except (*_UNREADABLE, orjson.JSONDecodeError) as problem:
        raise BackupError("This is no backup from First Loop, or it is damaged.") from problem
    if not {"sha256", "made_at"} <= set(manifest):
        raise BackupError("This is no backup from First Loop, or it is damaged.")
    return manifest


def _sound(database: Path) -> None:
    try:
        with closing(sqlite3.connect(database)) as connection:
            whole = connection.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
            loose = connection.execute("PRAGMA foreign_key_check").fetchone()
    except sqlite3.DatabaseError as problem:
        raise BackupError("The records in the file cannot be read.") from problem
    if not whole or loose is not None:
        raise BackupError("The records in the file are not whole.")


def _known(engine: Engine) -> None:
    """Refuse records of a later First Loop, whose tables this one does not know."""
    script = ScriptDirectory.from_config(alembic_config(engine))
    ours = {revision.revision for revision in script.walk_revisions()}
    with engine.connect() as connection:
        found = connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar()
    if found not in ours:
        raise BackupError("The backup was made by a later First Loop; bring this one up to date first.")
