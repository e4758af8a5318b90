"""Results keep codes and facts and no sentences; days know by which rules they were worked out"""

from collections.abc import Callable
from typing import Any

import orjson
import sqlalchemy as sa
from alembic import op

from firstloop.formats.old_results import group_without_sentences, letter_without_sentences

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_AT_ONCE = 500


def upgrade() -> None:
    op.add_column("letter_day", sa.Column("rules", sa.Integer(), nullable=False, server_default="1"))
    connection = op.get_bind()
    _convert(connection, "result", "document", letter_without_sentences)
    _convert(connection, "written_word", "document", group_without_sentences)
    _convert(connection, "written_word", "earlier", _earlier)


def _earlier(said: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{**one, "document": group_without_sentences(one["document"])} for one in said]


def _convert(connection: sa.Connection, table: str, column: str, convert: Callable[[Any], Any]) -> None:
    last = 0
    while True:
        found = connection.execute(
            sa.text(f"SELECT id, {column} FROM {table} WHERE id > :last ORDER BY id LIMIT :most"),
            {"last": last, "most": _AT_ONCE},
        ).all()
        if not found:
            return
        last = found[-1][0]
        put = sa.text(f"UPDATE {table} SET {column} = :new WHERE id = :id")
        changed = [
            {"id": number, "new": orjson.dumps(convert(orjson.loads(kept))).decode()}
            for number, kept in found
        ]
        connection.execute(put, changed)


def downgrade() -> None:
    """Take the column back; results stay without their sentences, which a recheck writes anew."""
    op.drop_column("letter_day", "rules")
