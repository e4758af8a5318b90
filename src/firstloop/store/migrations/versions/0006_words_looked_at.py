"""When the teacher looked at a word"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("written_word", sa.Column("looked_at", sa.DateTime()))
    op.create_index(
        "ix_written_word_waiting",
        "written_word",
        ["child_id"],
        sqlite_where=sa.text("looked_at IS NULL AND ink IS NOT NULL AND crossed_out = 0"),
    )


def downgrade() -> None:
    """Take it back; what was looked at is forgotten."""
    op.drop_index("ix_written_word_waiting", "written_word")
    op.drop_column("written_word", "looked_at")
