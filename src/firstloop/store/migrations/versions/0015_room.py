"""A class that writes on tablets: the room, the tablets, who has which, what was handed out"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def _fk(table: str, column: str, other: str) -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_{column}_{other}")
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=name, ondelete="CASCADE")


def _number() -> sa.Column[int]:
    return sa.Column("id", sa.Integer(), nullable=False)


def upgrade() -> None:
    op.create_table(
        "room",
        _number(),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("code", sa.String(12), nullable=False),
        sa.Column("phone_code", sa.String(12), nullable=False),
        sa.Column("opened_at", sa.DateTime(), nullable=False),
        sa.Column("closed_at", sa.DateTime()),
        sa.Column("pens_down", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_room")),
        _fk("room", "class_id", "school_class"),
        sqlite_autoincrement=True,
    )
    op.create_index(
        "ix_room_one_open", "room", ["class_id"], unique=True, sqlite_where=sa.text("closed_at IS NULL")
    )
    op.create_index("ix_room_closed_at", "room", ["closed_at"])
    op.create_table(
        "tablet",
        _number(),
        sa.Column("room_id", sa.Integer(), nullable=False),
        sa.Column("token_hash", sa.String(64), nullable=False),
        sa.Column("is_phone", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.Column("joined_at", sa.DateTime(), nullable=False),
        sa.Column("admitted_at", sa.DateTime()),
        sa.Column("sent_away_at", sa.DateTime()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tablet")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_tablet_token_hash")),
        _fk("tablet", "room_id", "room"),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_tablet_room_id"), "tablet", ["room_id"])
    op.create_table(
        "seat",
        _number(),
        sa.Column("tablet_id", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("since", sa.DateTime(), nullable=False),
        sa.Column("until", sa.DateTime()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_seat")),
        _fk("seat", "tablet_id", "tablet"),
        _fk("seat", "child_id", "child"),
        sqlite_autoincrement=True,
    )
    op.create_index(
        "ix_seat_one_child", "seat", ["tablet_id"], unique=True, sqlite_where=sa.text("until IS NULL")
    )
    for column in ("tablet_id", "child_id"):
        op.create_index(op.f(f"ix_seat_{column}"), "seat", [column])
    op.create_table(
        "handout",
        _number(),
        sa.Column("room_id", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("row_id", sa.Integer()),
        sa.Column("word_id", sa.Integer()),
        sa.Column("handed_at", sa.DateTime(), nullable=False),
        sa.Column("collected_at", sa.DateTime()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_handout")),
        _fk("handout", "room_id", "room"),
        _fk("handout", "child_id", "child"),
        _fk("handout", "row_id", "row"),
        _fk("handout", "word_id", "written_word"),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_handout_room_id_child_id", "handout", ["room_id", "child_id"])
    for column in ("child_id", "row_id", "word_id"):
        op.create_index(op.f(f"ix_handout_{column}"), "handout", [column])


def downgrade() -> None:
    """Take it back; what the children wrote stays."""
    for name in ("handout", "seat", "tablet", "room"):
        op.drop_table(name)
