"""For how long what children wrote is kept once their class is put away, and since when that holds"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("school", sa.Column("ink_days", sa.Integer()))
    op.add_column("school", sa.Column("ink_days_from", sa.DateTime()))


def downgrade() -> None:
    op.drop_column("school", "ink_days_from")
    op.drop_column("school", "ink_days")
