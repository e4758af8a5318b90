"""Sheets that are kept, and those that were printed, copy by copy"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_sheet",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("wish", sa.JSON(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("dropped_at", sa.DateTime()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_kept_sheet")),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_kept_sheet_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_kept_sheet_class_id"), "kept_sheet", ["class_id"])
    op.create_table(
        "printed_sheet",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("code", sa.String(6), nullable=False),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("printed_at", sa.DateTime(), nullable=False),
        sa.Column("style", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_printed_sheet")),
        sa.UniqueConstraint("code", name=op.f("uq_printed_sheet_code")),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_printed_sheet_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_printed_sheet_class_id"), "printed_sheet", ["class_id"])
    op.create_table(
        "sheet_copy",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("sheet_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer()),
        sa.Column("wish", sa.JSON(), nullable=False),
        sa.Column("pages", sa.Integer(), nullable=False),
        sa.Column("layout", sa.LargeBinary(), nullable=False),
        sa.Column("back_on", sa.Date()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sheet_copy")),
        sa.UniqueConstraint("sheet_id", "number", name=op.f("uq_sheet_copy_sheet_id")),
        sa.ForeignKeyConstraint(
            ["sheet_id"],
            ["printed_sheet.id"],
            name=op.f("fk_sheet_copy_sheet_id_printed_sheet"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["child_id"], ["child.id"], name=op.f("fk_sheet_copy_child_id_child"), ondelete="CASCADE"
        ),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_sheet_copy_child_id"), "sheet_copy", ["child_id"])


def downgrade() -> None:
    """Take it back; kept sheets go, and pages that come back are not known any more."""
    op.drop_table("sheet_copy")
    op.drop_table("printed_sheet")
    op.drop_table("kept_sheet")
