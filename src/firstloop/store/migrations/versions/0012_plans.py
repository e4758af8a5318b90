"""Plans of a term, step by step, and the lessons that were run"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "plan_step",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("said", sa.JSON(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_plan_step")),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_plan_step_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_plan_step_class_id"), "plan_step", ["class_id"])
    op.create_table(
        "held_lesson",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("lesson", sa.Integer(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("started_at", sa.DateTime(), nullable=False),
        sa.Column("finished_at", sa.DateTime()),
        sa.Column("parts", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_held_lesson")),
        sa.UniqueConstraint("class_id", "lesson", name=op.f("uq_held_lesson_class_id")),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_held_lesson_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_held_lesson_day"), "held_lesson", ["day"])


def downgrade() -> None:
    """Take it back; plans and what was noted of lessons go."""
    op.drop_table("held_lesson")
    op.drop_table("plan_step")
