"""How a class's rows go further, what its lines are called, and whether the band is washed"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("school_class", sa.Column("washed", sa.Boolean()))
    op.add_column("school_class", sa.Column("line_names", sa.JSON()))
    for name in ("fill_line", "layered"):
        op.add_column(
            "school_class", sa.Column(name, sa.Boolean(), nullable=False, server_default=sa.false())
        )
    op.add_column("row", sa.Column("layered", sa.Boolean(), nullable=False, server_default=sa.false()))


def downgrade() -> None:
    """Take it back; rows stay as they were written."""
    op.drop_column("row", "layered")
    for name in ("layered", "fill_line", "line_names", "washed"):
        op.drop_column("school_class", name)
