"""House styles in versions, rows that remember theirs, family boards, a class's own words"""

import orjson
import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("house_style") as batch:
        batch.add_column(sa.Column("lineage", sa.Integer()))
        batch.add_column(sa.Column("version", sa.Integer(), nullable=False, server_default="1"))
        batch.add_column(sa.Column("made_at", sa.DateTime()))
        batch.add_column(sa.Column("document", sa.JSON(), nullable=False, server_default="{}"))
    connection = op.get_bind()
    styles = sa.text("SELECT id, name, script, slant_deg, width FROM house_style")
    for row in connection.execute(styles).mappings().all():
        known = {key: row[key] for key in ("name", "script", "slant_deg", "width")}
        connection.execute(
            sa.text("UPDATE house_style SET lineage = id, document = :document WHERE id = :id"),
            {"id": row["id"], "document": orjson.dumps(known).decode()},
        )
    with op.batch_alter_table("house_style") as batch:
        batch.drop_column("script")
        batch.drop_column("slant_deg")
        batch.drop_column("width")
        batch.create_index("ix_house_style_lineage", ["lineage"])

    with op.batch_alter_table("row") as batch:
        batch.add_column(sa.Column("style_id", sa.Integer()))
    connection.execute(
        sa.text(
            "UPDATE row SET style_id = (SELECT school_class.style_id FROM child "
            "JOIN school_class ON school_class.id = child.class_id WHERE child.id = row.child_id)"
        )
    )
    with op.batch_alter_table("row") as batch:
        batch.alter_column("style_id", nullable=False, existing_type=sa.Integer())
        batch.create_foreign_key("fk_row_style_id_house_style", "house_style", ["style_id"], ["id"])

    op.create_table(
        "board",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("scheme", sa.String(length=30), nullable=False),
        sa.Column("alphabet", sa.String(length=20), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name="fk_board_class_id_school_class", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_board"),
    )
    op.create_index("ix_board_class_id", "board", ["class_id"])
    op.create_table(
        "own_words",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("letter", sa.String(length=4), nullable=False),
        sa.Column("phrases", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name="fk_own_words_class_id_school_class", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_own_words"),
        sa.UniqueConstraint("class_id", "letter", name="uq_own_words_class_id"),
    )
    op.create_index("ix_own_words_class_id", "own_words", ["class_id"])


def downgrade() -> None:
    """Take the tables back; of each style the choices that the first tables had a column for remain."""
    op.drop_table("own_words")
    op.drop_table("board")
    with op.batch_alter_table("row") as batch:
        batch.drop_constraint("fk_row_style_id_house_style", type_="foreignkey")
        batch.drop_column("style_id")
    with op.batch_alter_table("house_style") as batch:
        batch.add_column(sa.Column("script", sa.String(20), nullable=False, server_default="print"))
        batch.add_column(sa.Column("slant_deg", sa.Double(), nullable=False, server_default="0"))
        batch.add_column(sa.Column("width", sa.String(10), nullable=False, server_default="even"))
    connection = op.get_bind()
    for row in connection.execute(sa.text("SELECT id, document FROM house_style")).mappings().all():
        document = orjson.loads(row["document"])
        connection.execute(
            sa.text(
                "UPDATE house_style SET script = :script, slant_deg = :slant, width = :width WHERE id = :id"
            ),
            {
                "id": row["id"],
                "script": document.get("script", "print"),
                "slant": document.get("slant_deg", 0.0),
                "width": document.get("width", "even"),
            },
        )
    with op.batch_alter_table("house_style") as batch:
        batch.drop_index("ix_house_style_lineage")
        for name in ("lineage", "version", "made_at", "document"):
            batch.drop_column(name)
