"""Pages that came back: files, pictures, pages and what was found on them; where ink comes from"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def _fk(table: str, column: str, other: str, ondelete: str) -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_{column}_{other}")
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=name, ondelete=ondelete)


def upgrade() -> None:
    for name in ("attempt", "written_word"):
        op.add_column(name, sa.Column("evidence", sa.String(5), nullable=False, server_default="ink"))
    op.add_column(
        "school", sa.Column("pictures_days", sa.Integer(), nullable=False, server_default=sa.text("30"))
    )
    op.create_table(
        "brought_file",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer()),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("brought_at", sa.DateTime(), nullable=False),
        sa.Column("pictures", sa.Integer()),
        sa.Column("problem", sa.String(200)),
        sa.Column("stopped", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_brought_file")),
        sa.UniqueConstraint("digest", name=op.f("uq_brought_file_digest")),
        _fk("brought_file", "class_id", "school_class", "CASCADE"),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_brought_file_class_id"), "brought_file", ["class_id"])
    op.create_table(
        "picture",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("file_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("read_at", sa.DateTime()),
        sa.Column("problem", sa.String(200)),
        sa.Column("image", sa.LargeBinary()),
        sa.Column("wide_px", sa.Integer()),
        sa.Column("tall_px", sa.Integer()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_picture")),
        sa.UniqueConstraint("file_id", "number", name=op.f("uq_picture_file_id")),
        _fk("picture", "file_id", "brought_file", "CASCADE"),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_picture_waiting", "picture", ["file_id"], sqlite_where=sa.text("read_at IS NULL"))
    op.create_table(
        "returned_page",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("picture_id", sa.Integer()),
        sa.Column("class_id", sa.Integer()),
        sa.Column("child_id", sa.Integer()),
        sa.Column("came_at", sa.DateTime(), nullable=False),
        sa.Column("status", sa.String(12), nullable=False),
        sa.Column("sheet", sa.String(6)),
        sa.Column("copy", sa.Integer()),
        sa.Column("page", sa.Integer()),
        sa.Column("layout", sa.JSON()),
        sa.Column("style", sa.JSON()),
        sa.Column("ruling", sa.String(30)),
        sa.Column("to_px", sa.JSON()),
        sa.Column("turned_deg", sa.Double()),
        sa.Column("dpi", sa.Double()),
        sa.Column("residual_mm", sa.Double()),
        sa.Column("straight", sa.LargeBinary()),
        sa.Column("written_on", sa.Date(), nullable=False),
        sa.Column("agreed_at", sa.DateTime()),
        sa.Column("dropped_at", sa.DateTime()),
        sa.Column("steps", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_returned_page")),
        _fk("returned_page", "picture_id", "picture", "SET NULL"),
        _fk("returned_page", "class_id", "school_class", "CASCADE"),
        _fk("returned_page", "child_id", "child", "CASCADE"),
        sqlite_autoincrement=True,
    )
    for column in ("picture_id", "class_id", "child_id"):
        op.create_index(op.f(f"ix_returned_page_{column}"), "returned_page", [column])
    op.create_index("ix_returned_page_code", "returned_page", ["sheet", "copy", "page"])
    op.create_table(
        "page_entry",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("page_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(12), nullable=False),
        sa.Column("row", sa.Integer(), nullable=False),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("expected", sa.String(120), nullable=False),
        sa.Column("support", sa.String(10), nullable=False),
        sa.Column("ruling", sa.String(30), nullable=False),
        sa.Column("rise_mm", sa.Double(), nullable=False),
        sa.Column("mid_mm", sa.Double(), nullable=False),
        sa.Column("base_mm", sa.Double(), nullable=False),
        sa.Column("drop_mm", sa.Double(), nullable=False),
        sa.Column("box", sa.JSON(), nullable=False),
        sa.Column("found", sa.String(12), nullable=False),
        sa.Column("ticked", sa.Boolean(), nullable=False),
        sa.Column("decided", sa.Boolean(), nullable=False),
        sa.Column("ink", sa.JSON(), nullable=False),
        sa.Column("level", sa.String(10), nullable=False),
        sa.Column("checker", sa.String(20), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("moved_mm", sa.Double(), nullable=False),
        sa.Column("mark", sa.String(12)),
        sa.Column("teachers_best", sa.Boolean(), nullable=False),
        sa.Column("attempt_id", sa.Integer()),
        sa.Column("word_id", sa.Integer()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_page_entry")),
        sa.UniqueConstraint("page_id", "key", name=op.f("uq_page_entry_page_id")),
        _fk("page_entry", "page_id", "returned_page", "CASCADE"),
        _fk("page_entry", "attempt_id", "attempt", "SET NULL"),
        _fk("page_entry", "word_id", "written_word", "SET NULL"),
        sqlite_autoincrement=True,
    )
    for column in ("attempt_id", "word_id"):
        op.create_index(op.f(f"ix_page_entry_{column}"), "page_entry", [column])


def downgrade() -> None:
    """Take it back; pages that came back go, the rows and words they became stay."""
    for name in ("page_entry", "returned_page", "picture", "brought_file"):
        op.drop_table(name)
    op.drop_column("school", "pictures_days")
    for name in ("written_word", "attempt"):
        op.drop_column(name, "evidence")
