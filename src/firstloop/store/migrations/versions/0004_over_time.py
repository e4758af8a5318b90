"""Over time: a day's evidence of a letter, notes, kept groups, cautions, archived classes"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("row") as batch:
        batch.add_column(sa.Column("settled", sa.Boolean(), nullable=False, server_default=sa.false()))
        batch.drop_index("ix_row_child_id")
        batch.create_index("ix_row_child_id_started_at", ["child_id", "started_at"])
    op.create_index("ix_row_unsettled", "row", ["child_id"], sqlite_where=sa.text("settled = 0"))
    with op.batch_alter_table("child") as batch:
        batch.add_column(sa.Column("caution", sa.String(length=400), nullable=False, server_default=""))
    with op.batch_alter_table("school_class") as batch:
        batch.add_column(sa.Column("archived_at", sa.DateTime()))
    states = [
        sa.Column(f"state_{aspect}", sa.String(length=12), nullable=False)
        for aspect in ("all", "direction", "shape", "size")
    ]
    op.create_table(
        "letter_day",
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("letter", sa.String(length=4), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        *states,
        sa.Column("due", sa.Date()),
        sa.Column("strength_days", sa.Double()),
        sa.Column("shown_id", sa.Integer()),
        sa.Column("written", sa.Integer(), nullable=False),
        sa.Column("helped", sa.Integer(), nullable=False),
        sa.Column("waiting", sa.Integer(), nullable=False),
        sa.Column("alone", sa.JSON(), nullable=False),
        sa.Column("slips", sa.JSON(), nullable=False),
        sa.Column("measures", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["child_id"], ["child.id"], name="fk_letter_day_child_id_child", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("child_id", "letter", "day", name="pk_letter_day"),
        sqlite_with_rowid=False,
    )
    op.create_index("ix_letter_day_day", "letter_day", ["day", "child_id"])
    op.create_index("ix_letter_day_waiting", "letter_day", ["child_id"], sqlite_where=sa.text("waiting > 0"))
    op.create_table(
        "note",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["child_id"], ["child.id"], name="fk_note_child_id_child", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_note"),
    )
    op.create_index("ix_note_child_id", "note", ["child_id"])
    op.create_table(
        "kept_groups",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name="fk_kept_groups_class_id_school_class",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("class_id", name="pk_kept_groups"),
    )


def downgrade() -> None:
    """Take it back; notes and kept groups are lost, evidence can be worked out again."""
    op.drop_table("kept_groups")
    op.drop_table("note")
    op.drop_table("letter_day")
    with op.batch_alter_table("school_class") as batch:
        batch.drop_column("archived_at")
    with op.batch_alter_table("child") as batch:
        batch.drop_column("caution")
    op.drop_index("ix_row_unsettled", "row")
    with op.batch_alter_table("row") as batch:
        batch.drop_index("ix_row_child_id_started_at")
        batch.create_index("ix_row_child_id", ["child_id"])
        batch.drop_column("settled")
