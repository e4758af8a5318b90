"""What the tables look like, to tell records that First Loop made from anything else."""

from __future__ import annotations

import sqlite3
import tempfile
from contextlib import closing
from functools import lru_cache
from pathlib import Path
from typing import Any

from alembic import command

from firstloop.store.database import alembic_config, open_engine, upgrade, versions
from firstloop.store.metadata import METADATA

Shape = dict[str, tuple[Any, ...]]
_ACTIVE = ("trigger", "view")


def shape(connection: sqlite3.Connection) -> Shape:
    """For every table its columns, indexes and references; triggers, views and virtual tables by kind."""
    found: Shape = {}
    for kind, name, sql in connection.execute("SELECT type, name, sql FROM sqlite_schema ORDER BY name"):
        if name.startswith("sqlite_") or kind == "index":
            continue
        if kind in _ACTIVE or (sql or "").upper().startswith("CREATE VIRTUAL"):
            found[name] = ("active",)
        else:
            found[name] = (_columns(connection, name), _indexes(connection, name), _refers(connection, name))
    return found


def _columns(connection: sqlite3.Connection, table: str) -> tuple[Any, ...]:
    found = connection.execute(
        "SELECT name, type, [notnull], pk, hidden FROM pragma_table_xinfo(?)", (table,)
    )
    return tuple(sorted(found))


def _indexes(connection: sqlite3.Connection, table: str) -> tuple[Any, ...]:
    query = "SELECT name, [unique], partial FROM pragma_index_list(?)"
    columns = "SELECT name FROM pragma_index_xinfo(?) WHERE key"
    return tuple(
        sorted(
            # an index that a constraint makes has a number for a name, which says nothing
            (
                "" if name.startswith("sqlite_") else name,
                unique,
                partial,
                tuple(connection.execute(columns, (name,))),
            )
            for name, unique, partial in connection.execute(query, (table,)).fetchall()
        )
    )


def _refers(connection: sqlite3.Connection, table: str) -> tuple[Any, ...]:
    query = "SELECT [table], [from], [to], on_delete FROM pragma_foreign_key_list(?)"
    return tuple(sorted(connection.execute(query, (table,))))


@lru_cache(maxsize=16)
def _made(version: str) -> Shape:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "made.sqlite3"
        engine = open_engine(path)
        if version == versions()[0]:  # at once: all the upgrades take a second, and a busy server's time
            METADATA.create_all(engine)
            command.stamp(alembic_config(engine), "head")
        else:
            upgrade(engine, version)
        engine.dispose()
        with closing(sqlite3.connect(path)) as connection:
            return shape(connection)


def differs(connection: sqlite3.Connection, version: str) -> str | None:
    """Name of the first table, view or trigger that is not as First Loop made it at a version, if any."""
    found, wanted = shape(connection), _made(version)
    return next((name for name in sorted(found | wanted) if found.get(name) != wanted.get(name)), None)
