"""Alembic's entry: runs migrations on the engine the application has opened."""

from alembic import context

from firstloop.store.tables import Base


def run() -> None:
    engine = context.config.attributes["engine"]
    with engine.connect() as connection:
        context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
        with context.begin_transaction():
            context.run_migrations()


run()
