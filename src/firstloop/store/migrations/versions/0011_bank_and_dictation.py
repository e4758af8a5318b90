"""The school's changes to the word bank, dictations, and letters written inside words as evidence"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "bank_edit",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("step", sa.Integer(), nullable=False),
        sa.Column("text", sa.String(20), nullable=False),
        sa.Column("units", sa.JSON()),
        sa.Column("by_heart", sa.Boolean(), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_bank_edit")),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_bank_edit_step", "bank_edit", ["step"])
    op.create_index(op.f("ix_bank_edit_text"), "bank_edit", ["text"])
    op.create_table(
        "dictation",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("words", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_dictation")),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_dictation_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sqlite_autoincrement=True,
    )
    op.create_index(op.f("ix_dictation_class_id"), "dictation", ["class_id"])
    op.create_table(
        "dictated_word",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("child_id", sa.Integer(), nullable=False),
        sa.Column("dictation_id", sa.Integer()),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("text", sa.String(20), nullable=False),
        sa.Column("units", sa.JSON(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("tries", sa.JSON(), nullable=False),
        sa.Column("word_id", sa.Integer()),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_dictated_word")),
        sa.UniqueConstraint("child_id", "dictation_id", "position", name=op.f("uq_dictated_word_child_id")),
        sa.ForeignKeyConstraint(
            ["child_id"], ["child.id"], name=op.f("fk_dictated_word_child_id_child"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["dictation_id"],
            ["dictation.id"],
            name=op.f("fk_dictated_word_dictation_id_dictation"),
            ondelete="SET NULL",
        ),
        sa.ForeignKeyConstraint(
            ["word_id"],
            ["written_word.id"],
            name=op.f("fk_dictated_word_word_id_written_word"),
            ondelete="SET NULL",
        ),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_dictated_word_child_id_at", "dictated_word", ["child_id", "at"])
    op.create_index(op.f("ix_dictated_word_dictation_id"), "dictated_word", ["dictation_id"])
    op.add_column(
        "letter_day", sa.Column("in_words", sa.JSON(), nullable=False, server_default=sa.text("'[]'"))
    )
    op.add_column(
        "written_word", sa.Column("settled", sa.Boolean(), nullable=False, server_default=sa.false())
    )
    op.create_index(
        "ix_written_word_unsettled", "written_word", ["child_id"], sqlite_where=sa.text("settled = 0")
    )


def downgrade() -> None:
    """Take it back; what was done to the bank, and dictations, go."""
    op.drop_index("ix_written_word_unsettled", "written_word")
    op.drop_column("written_word", "settled")
    op.drop_column("letter_day", "in_words")
    op.drop_table("dictated_word")
    op.drop_table("dictation")
    op.drop_table("bank_edit")
