"""Alembic's entry: runs migrations on the engine the application has opened, all in one transaction."""

import sqlite3

from alembic import context

from firstloop.store.tables import Base


def run() -> None:
    engine = context.config.attributes["engine"]
    with engine.connect() as connection:
        raw = connection.connection.dbapi_connection
        assert isinstance(raw, sqlite3.Connection)
        usual = raw.isolation_level
        # left to itself, Python's module ends a transaction before every CREATE, ALTER and DROP, and a
        # power cut in the middle would leave tables that are neither old nor new
        raw.isolation_level = None
        try:
            # SQLite changes a table by making it anew and dropping the old one, which would take along
            # every row that points to it
            connection.exec_driver_sql("PRAGMA foreign_keys=OFF")
            connection.exec_driver_sql("BEGIN IMMEDIATE")
            context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
            context.run_migrations()
            broken = connection.exec_driver_sql("PRAGMA foreign_key_check").all()
            if broken:
                raise RuntimeError(f"records point to what is not there: {broken[:3]}")
            connection.commit()
        finally:
            connection.rollback()
            connection.exec_driver_sql("PRAGMA foreign_keys=ON")
            raw.isolation_level = usual


run()
