"""Tables of what a teacher arranges, plans and prints: no child's ink is in them."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import JSON, Date, ForeignKey, Index, LargeBinary, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from firstloop.store.base import NUMBERED, Base, UtcDateTime
from firstloop.store.tables import Child


class Board(Base):
    """A step in arranging the families of one scheme and alphabet; the latest is the one that holds."""

    __tablename__ = "board"

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    scheme: Mapped[str] = mapped_column(String(30))
    alphabet: Mapped[str] = mapped_column(String(20))
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class OwnWords(Base):
    """The class's own words for a letter, one phrase a line, in place of the generated ones."""

    __tablename__ = "own_words"
    __table_args__ = (UniqueConstraint("class_id", "letter"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    letter: Mapped[str] = mapped_column(String(4))
    phrases: Mapped[list[str]] = mapped_column(JSON)


class KeptGroups(Base):
    """The groups of a class as the teacher changed them; they stay until she asks for fresh ones."""

    __tablename__ = "kept_groups"

    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), primary_key=True)
    made_at: Mapped[datetime] = mapped_column(UtcDateTime)
    document: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class BankEdit(Base):
    """What was done to a word of the bank; of all edits of a word the latest holds.

    Without ``units`` the word is hidden. Edits made in one step, such as a list brought in, share their
    ``step``, and are undone together.
    """

    __tablename__ = "bank_edit"
    __table_args__ = (Index("ix_bank_edit_step", "step"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    step: Mapped[int]
    text: Mapped[str] = mapped_column(String(20), index=True)
    units: Mapped[list[str] | None] = mapped_column(JSON(none_as_null=True))
    by_heart: Mapped[bool] = mapped_column(default=False)
    made_at: Mapped[datetime] = mapped_column(UtcDateTime)


class PlanStep(Base):
    """A step in planning a class's term; the latest is the plan that holds.

    ``said`` is what moved by it, as messages of the catalogue; ``number`` grows by one with every change,
    also when a step is taken back.
    """

    __tablename__ = "plan_step"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    made_at: Mapped[datetime] = mapped_column(UtcDateTime)
    said: Mapped[list[str]] = mapped_column(JSON, default=list)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class HeldLesson(Base):
    """A lesson that was run: what was done of it when. No change of a plan touches it.

    ``parts`` are the parts gone through, each with its key, when it was begun, and whether it was skipped.
    """

    __tablename__ = "held_lesson"
    __table_args__ = (UniqueConstraint("class_id", "lesson"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"))
    lesson: Mapped[int]
    day: Mapped[date] = mapped_column(Date, index=True)
    started_at: Mapped[datetime] = mapped_column(UtcDateTime)
    finished_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    parts: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)


class KeptSheet(Base):
    """A sheet that a class keeps under a name; ``wish`` is what it is laid out from."""

    __tablename__ = "kept_sheet"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    wish: Mapped[dict[str, Any]] = mapped_column(JSON)
    changed_at: Mapped[datetime] = mapped_column(UtcDateTime)
    dropped_at: Mapped[datetime | None] = mapped_column(UtcDateTime)


class PrintedSheet(Base):
    """A sheet that was printed, known by the code on its pages; ``style`` is that of its letters."""

    __tablename__ = "printed_sheet"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    code: Mapped[str] = mapped_column(String(6), unique=True)
    name: Mapped[str] = mapped_column(String(60))
    day: Mapped[date] = mapped_column(Date)
    printed_at: Mapped[datetime] = mapped_column(UtcDateTime)
    style: Mapped[dict[str, Any]] = mapped_column(JSON)

    copies: Mapped[list[SheetCopy]] = relationship(
        back_populates="sheet", order_by="SheetCopy.number", cascade="all, delete-orphan"
    )


class SheetCopy(Base):
    """One copy of a printed sheet: whose it is, what is on it, and when it came back.

    ``layout`` says where everything on it is, as JSON packed by zlib: it holds although the composer may
    have changed since. No name stands on the paper's marks: whose copy it is, only the records know.
    """

    __tablename__ = "sheet_copy"
    __table_args__ = (UniqueConstraint("sheet_id", "number"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    sheet_id: Mapped[int] = mapped_column(ForeignKey("printed_sheet.id", ondelete="CASCADE"))
    number: Mapped[int]
    child_id: Mapped[int | None] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), index=True)
    wish: Mapped[dict[str, Any]] = mapped_column(JSON)
    pages: Mapped[int]
    layout: Mapped[bytes] = mapped_column(LargeBinary)
    back_on: Mapped[date | None] = mapped_column(Date)

    sheet: Mapped[PrintedSheet] = relationship(back_populates="copies")
    child: Mapped[Child | None] = relationship()
