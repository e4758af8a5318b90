"""Results of every checker kept, levels of children, a class's own tolerances, what was watched on paper"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("result") as batch:
        batch.drop_constraint("uq_result_attempt_id", type_="unique")
        batch.add_column(sa.Column("current", sa.Boolean(), nullable=False, server_default=sa.true()))
        batch.add_column(sa.Column("level", sa.String(length=10), nullable=False, server_default="growing"))
        batch.create_index("ix_result_attempt_id", ["attempt_id", "current"])
    with op.batch_alter_table("child") as batch:
        batch.add_column(sa.Column("level", sa.String(length=10)))
    with op.batch_alter_table("school_class") as batch:
        batch.add_column(sa.Column("tolerances", sa.JSON(), nullable=False, server_default="{}"))
    with op.batch_alter_table("attempt") as batch:
        batch.add_column(sa.Column("teachers_best", sa.Boolean(), nullable=False, server_default=sa.false()))
    with op.batch_alter_table("row") as batch:
        batch.add_column(sa.Column("next_code", sa.String(length=30)))
    op.create_table(
        "watched",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("letter", sa.String(length=4), nullable=False),
        sa.Column("seen", sa.String(length=20), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(
            ["child_id"], ["child.id"], name="fk_watched_child_id_child", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_watched"),
    )
    op.create_index("ix_watched_child_id", "watched", ["child_id"])


def downgrade() -> None:
    """Take the columns back; of each attempt only the result that holds remains."""
    op.drop_table("watched")
    with op.batch_alter_table("row") as batch:
        batch.drop_column("next_code")
    with op.batch_alter_table("attempt") as batch:
        batch.drop_column("teachers_best")
    with op.batch_alter_table("school_class") as batch:
        batch.drop_column("tolerances")
    with op.batch_alter_table("child") as batch:
        batch.drop_column("level")
    op.execute("DELETE FROM result WHERE NOT current")
    with op.batch_alter_table("result") as batch:
        batch.drop_index("ix_result_attempt_id")
        batch.drop_column("level")
        batch.drop_column("current")
        batch.create_unique_constraint("uq_result_attempt_id", ["attempt_id"])
