"""Words and lines that children write"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    lines: list[sa.Column[float]] = [
        sa.Column(name, sa.Double(), nullable=False) for name in ("rise_mm", "mid_mm", "base_mm", "drop_mm")
    ]
    op.create_table(
        "written_word",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("text", sa.String(length=40), nullable=False),
        sa.Column("started_at", sa.DateTime(), nullable=False),
        sa.Column("style_id", sa.Integer(), nullable=False),
        sa.Column("ruling", sa.String(length=30), nullable=False),
        *lines,
        sa.Column("ink", sa.JSON()),
        sa.Column("crossed_out", sa.Boolean(), nullable=False),
        sa.Column("checker", sa.String(length=20)),
        sa.Column("level", sa.String(length=10)),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("measures", sa.JSON(), nullable=False),
        sa.Column("error", sa.Text()),
        sa.Column("earlier", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["child_id"], ["child.id"], name="fk_written_word_child_id_child", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["style_id"], ["house_style.id"], name="fk_written_word_style_id_house_style"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_written_word"),
    )
    op.create_index("ix_written_word_child_id_started_at", "written_word", ["child_id", "started_at"])


def downgrade() -> None:
    """Take it back; the words that were written are lost."""
    op.drop_table("written_word")
