"""Of a child that was erased, the number it had: by it the backups made here are cleared of it"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("erased_child", sa.Column("child_id", sa.Integer()))


def downgrade() -> None:
    op.drop_column("erased_child", "child_id")
