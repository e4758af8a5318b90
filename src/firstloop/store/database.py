"""The database: SQLite with write-ahead log, foreign keys on, and a busy timeout."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path

import orjson
from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.engine.interfaces import DBAPIConnection
from sqlalchemy.orm import Session, sessionmaker
from sqlalchemy.pool import ConnectionPoolEntry

BUSY_TIMEOUT_MS = 2000
CONNECTIONS = 5
POOL_WAIT_S = 10
MIGRATIONS = Path(__file__).parent / "migrations"


def _prepare(connection: DBAPIConnection, _record: ConnectionPoolEntry) -> None:
    if not isinstance(connection, sqlite3.Connection):
        return
    cursor = connection.cursor()
    cursor.execute(f"PRAGMA busy_timeout={BUSY_TIMEOUT_MS}")
    cursor.execute("PRAGMA journal_mode=WAL")
    cursor.execute("PRAGMA foreign_keys=ON")
    cursor.execute("PRAGMA trusted_schema=OFF")
    cursor.execute("PRAGMA synchronous=FULL")  # a finished attempt survives the plug being pulled
    cursor.close()


def open_engine(path: Path, connections: int = CONNECTIONS) -> Engine:
    """Open (or create) the database file at `path`.

    Parameters
    ----------
    connections : int
        How many are kept open; whoever lets requests in lets in no more than that at a time.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    engine = create_engine(
        f"sqlite:///{path}",
        json_serializer=lambda value: orjson.dumps(value).decode(),
        json_deserializer=orjson.loads,
        pool_size=connections,
        pool_timeout=POOL_WAIT_S,
    )
    event.listen(engine, "connect", _prepare)
    return engine


def alembic_config(engine: Engine) -> Config:
    """Alembic settings for an open engine; no ini file is needed."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.attributes["engine"] = engine
    return config


@cache
def versions() -> tuple[str, ...]:
    """Every version the tables have had, the present one first."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    script = ScriptDirectory.from_config(config)
    return tuple(revision.revision for revision in script.walk_revisions())


def upgrade(engine: Engine, to: str = "head") -> None:
    """Bring the tables up to date: wholly, or not at all."""
    command.upgrade(alembic_config(engine), to)


def sessions(engine: Engine) -> sessionmaker[Session]:
    """Sessions on an up-to-date database."""
    return sessionmaker(engine, expire_on_commit=False)


@contextmanager
def session_on(database: Path) -> Iterator[Session]:
    """A session on the file of the records, for a process of its own."""
    engine = open_engine(database)
    try:
        with sessions(engine)() as session:
            yield session
    finally:
        engine.dispose()
