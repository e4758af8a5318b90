"""How a class's rows go, and children that were erased and can still be brought back"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("school_class", sa.Column("pattern", sa.JSON()))
    op.create_table(
        "erased_child",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("erased_at", sa.DateTime(), nullable=False),
        sa.Column("file", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name="fk_erased_child_class_id_school_class",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name="pk_erased_child"),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_erased_child_class_id", "erased_child", ["class_id"])


def downgrade() -> None:
    """Take it back; who was erased cannot be brought back any more."""
    op.drop_table("erased_child")
    op.drop_column("school_class", "pattern")
