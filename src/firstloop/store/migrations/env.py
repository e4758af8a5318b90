"""Alembic's entry: runs migrations on the engine the application has opened."""

from alembic import context

from firstloop.store.tables import Base


def run() -> None:
    engine = context.config.attributes["engine"]
    with engine.connect() as connection:
        # SQLite changes a table by making it anew and dropping the old one, which would take along
        # every row that points to it
        connection.exec_driver_sql("PRAGMA foreign_keys=OFF")
        connection.commit()
        context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
        with context.begin_transaction():
            context.run_migrations()
        connection.commit()
        broken = connection.exec_driver_sql("PRAGMA foreign_key_check").all()
        connection.exec_driver_sql("PRAGMA foreign_keys=ON")
        if broken:
            raise RuntimeError(f"records point to what is not there: {broken[:3]}")


run()
