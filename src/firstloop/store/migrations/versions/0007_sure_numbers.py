"""Numbers never given again, one current result an attempt, days set aside, the school's time zone"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

NUMBERED = (
    "house_style",
    "school_class",
    "child",
    "row",
    "attempt",
    "written_word",
    "watched",
    "note",
)


def upgrade() -> None:
    op.execute(
        "UPDATE result SET current = 0 WHERE current AND id NOT IN "
        "(SELECT max(id) FROM result WHERE current GROUP BY attempt_id)"
    )
    op.create_index(
        "ix_result_one_current", "result", ["attempt_id"], unique=True, sqlite_where=sa.text("current = 1")
    )
    op.add_column("row", sa.Column("set_aside", sa.String(length=200)))
    op.create_index("ix_row_set_aside", "row", ["child_id"], sqlite_where=sa.text("set_aside IS NOT NULL"))
    op.create_table(
        "school",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("time_zone", sa.String(length=60), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_school"),
    )
    for name in NUMBERED:
        with op.batch_alter_table(name, recreate="always", table_kwargs={"sqlite_autoincrement": True}):
            pass


def downgrade() -> None:
    """Take it back; the time zone is forgotten."""
    for name in NUMBERED:
        with op.batch_alter_table(name, recreate="always"):
            pass
    op.drop_table("school")
    op.drop_index("ix_row_set_aside", "row")
    op.drop_column("row", "set_aside")
    op.drop_index("ix_result_one_current", "result")
