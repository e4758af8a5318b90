"""Alembic's entry: runs migrations on the engine the application has opened, all in one transaction."""

from alembic import context

from firstloop.store.metadata import METADATA


def run() -> None:
    engine = context.config.attributes["engine"]
    with engine.connect() as connection:
        try:
            # SQLite changes a table by making it anew and dropping the old one, which would take along
            # every row that points to it
            connection.exec_driver_sql("PRAGMA foreign_keys=OFF")
            # Python's module begins no transaction before CREATE, ALTER and DROP: each would hold by itself,
            # and a power cut in the middle would leave tables that are neither old nor new
            connection.exec_driver_sql("BEGIN IMMEDIATE")
            context.configure(connection=connection, target_metadata=METADATA, render_as_batch=True)
            context.run_migrations()
            broken = connection.exec_driver_sql("PRAGMA foreign_key_check").all()
            if broken:
                raise RuntimeError(f"records point to what is not there: {broken[:3]}")
            connection.commit()
        finally:
            connection.rollback()
            connection.exec_driver_sql("PRAGMA foreign_keys=ON")


run()
