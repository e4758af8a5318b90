"""How a class's rows go further: until the line is full, on top of itself; and whether the band is washed"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("school_class", sa.Column("washed", sa.Boolean()))
    for name in ("fill_line", "layered"):
        op.add_column(
            "school_class", sa.Column(name, sa.Boolean(), nullable=False, server_default=sa.false())
        )
    op.add_column("row", sa.Column("layered", sa.Boolean(), nullable=False, server_default=sa.false()))


def downgrade() -> None:
    """Take it back; rows stay as they were written."""
    op.drop_column("row", "layered")
    for name in ("layered", "fill_line", "washed"):
        op.drop_column("school_class", name)
