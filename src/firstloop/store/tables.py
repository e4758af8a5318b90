"""The tables. Ink is kept exactly as written; every result says which checker made it."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    JSON,
    Date,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
    false,
    text,
)
from sqlalchemy.orm import Mapped, mapped_column, relationship

from firstloop.store.base import NUMBERED, Base, OnLines, UtcDateTime


class School(Base):
    """What holds for all classes of these records; there is one row.

    ``pictures_days`` is how long pictures of pages are kept once the teacher has decided about them.
    ``ink_days`` is how long children are kept once their class is put away, for ever without, and
    ``ink_days_from`` since when that holds.
    """

    __tablename__ = "school"

    id: Mapped[int] = mapped_column(primary_key=True)
    time_zone: Mapped[str] = mapped_column(String(60))
    pictures_days: Mapped[int] = mapped_column(default=30, server_default=text("30"))
    ink_days: Mapped[int | None]
    ink_days_from: Mapped[datetime | None] = mapped_column(UtcDateTime)


class HouseStyleRow(Base):
    """One version of a school's choices of letterform; a change makes a new one, the old one stays.

    Versions of one style share their ``lineage``: the id of the first.
    """

    __tablename__ = "house_style"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    lineage: Mapped[int | None] = mapped_column(index=True)
    version: Mapped[int] = mapped_column(default=1)
    made_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class SchoolClass(Base):
    """A class or group, its ruling, style and level.

    ``washed`` says whether the middle band is tinted, if not as its ruling has it, ``line_names`` what it
    calls lines that do not have their usual names. ``pattern`` is how its
    rows go, if not as usual, ``fill_line`` whether they go on until the line is full, ``layered`` whether
    their letters are written on top of one another.
    """

    __tablename__ = "school_class"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80), unique=True)
    style_id: Mapped[int] = mapped_column(ForeignKey("house_style.id"))
    ruling: Mapped[str] = mapped_column(String(30), default="four-lines")
    xh_mm: Mapped[float] = mapped_column(default=10.0)
    level: Mapped[str] = mapped_column(String(10), default="growing")
    tolerances: Mapped[dict[str, float]] = mapped_column(JSON, default=dict)
    washed: Mapped[bool | None]
    line_names: Mapped[dict[str, str] | None] = mapped_column(JSON(none_as_null=True))
    pattern: Mapped[list[str] | None] = mapped_column(JSON(none_as_null=True))
    fill_line: Mapped[bool] = mapped_column(default=False, server_default=false())
    layered: Mapped[bool] = mapped_column(default=False, server_default=false())
    archived_at: Mapped[datetime | None] = mapped_column(UtcDateTime)

    style: Mapped[HouseStyleRow] = relationship()
    children: Mapped[list[Child]] = relationship(
        back_populates="school_class", order_by="Child.first_name", cascade="all, delete-orphan"
    )


class Child(Base):
    """A child: first name and initial only. Without a ``level`` of its own the class's holds."""

    __tablename__ = "child"
    __table_args__ = (UniqueConstraint("class_id", "first_name", "initial"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    first_name: Mapped[str] = mapped_column(String(40))
    initial: Mapped[str] = mapped_column(String(1))
    hand: Mapped[str] = mapped_column(String(5), default="right")
    level: Mapped[str | None] = mapped_column(String(10))
    caution: Mapped[str] = mapped_column(String(400), default="")

    school_class: Mapped[SchoolClass] = relationship(back_populates="children")
    rows: Mapped[list[Row]] = relationship(back_populates="child", cascade="all, delete-orphan")
    watched: Mapped[list[Watched]] = relationship(back_populates="child", cascade="all, delete-orphan")
    notes: Mapped[list[Note]] = relationship(
        back_populates="child", order_by="Note.at", cascade="all, delete-orphan"
    )
    words: Mapped[list[WrittenWord]] = relationship(back_populates="child", cascade="all, delete-orphan")
    dictated: Mapped[list[DictatedWord]] = relationship(back_populates="child", cascade="all, delete-orphan")


class ErasedChild(Base):
    """A child that was erased: for some days a file of it, as it would have been exported.

    It stands in no backup, and nothing reads it but the verb that brings the child back. ``child_id`` is the
    number it had. One that was let go of has no ``file`` any more, and stays until the backups that were made
    on this machine are cleared of it.
    """

    __tablename__ = "erased_child"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    erased_at: Mapped[datetime] = mapped_column(UtcDateTime)
    child_id: Mapped[int | None]
    file: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)


class Row(OnLines, Base):
    """A row of one letter: who, when, on which lines, with how much support.

    ``layered`` says whether the child wrote its letters on top of one another; kept they stand side by side.
    ``next_code`` is the teacher's choice of what to try next, in place of the checker's. ``settled``
    says whether the day's evidence (:class:`LetterDay`) holds what the row holds now, ``set_aside`` why
    the day could not be worked out.
    """

    __tablename__ = "row"
    __table_args__ = (
        Index("ix_row_child_id_started_at", "child_id", "started_at"),
        Index("ix_row_unsettled", "child_id", sqlite_where=text("settled = 0")),
        Index("ix_row_set_aside", "child_id", sqlite_where=text("set_aside IS NOT NULL")),
        NUMBERED,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id"))
    letter: Mapped[str] = mapped_column(String(4), index=True)
    started_at: Mapped[datetime] = mapped_column(UtcDateTime, index=True)
    finished_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    style_id: Mapped[int] = mapped_column(ForeignKey("house_style.id"))
    support: Mapped[list[str]] = mapped_column(JSON)
    layered: Mapped[bool] = mapped_column(default=False, server_default=false())
    next_code: Mapped[str | None] = mapped_column(String(30))
    settled: Mapped[bool] = mapped_column(default=False)
    set_aside: Mapped[str | None] = mapped_column(String(200))

    child: Mapped[Child] = relationship(back_populates="rows")
    style: Mapped[HouseStyleRow] = relationship()
    attempts: Mapped[list[Attempt]] = relationship(
        back_populates="row", order_by="Attempt.position", cascade="all, delete-orphan"
    )
    changes: Mapped[list[Change]] = relationship(
        back_populates="row", order_by="Change.id", cascade="all, delete-orphan"
    )


class Attempt(Base):
    """One writing of the letter. ``ink`` is the strokes as the pen gave them, page millimetres.

    ``best`` is the child's choice of the row, ``teachers_best`` the teacher's. ``evidence`` is where the ink
    comes from: of a ``scan`` nobody knows in which order and direction it was written.
    """

    __tablename__ = "attempt"
    __table_args__ = (UniqueConstraint("row_id", "position"), UniqueConstraint("key"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    row_id: Mapped[int] = mapped_column(ForeignKey("row.id"), index=True)
    key: Mapped[str] = mapped_column(String(40))
    position: Mapped[int]
    support: Mapped[str] = mapped_column(String(10))
    written_at: Mapped[datetime] = mapped_column(UtcDateTime)
    ink: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    evidence: Mapped[str] = mapped_column(String(5), default="ink", server_default="ink")
    crossed_out: Mapped[bool] = mapped_column(default=False)
    best: Mapped[bool] = mapped_column(default=False)
    teachers_best: Mapped[bool] = mapped_column(default=False)

    row: Mapped[Row] = relationship(back_populates="attempts")
    results: Mapped[list[Result]] = relationship(
        back_populates="attempt", order_by="Result.id", cascade="all, delete-orphan"
    )
    result: Mapped[Result | None] = relationship(
        primaryjoin="and_(Result.attempt_id == Attempt.id, Result.current)", viewonly=True
    )
    mark: Mapped[Mark | None] = relationship(back_populates="attempt", cascade="all, delete-orphan")


class Result(Base):
    """What a checker said of an attempt. When another looks again, the latest holds; all are kept."""

    __tablename__ = "result"
    __table_args__ = (
        Index("ix_result_attempt_id", "attempt_id", "current"),
        Index("ix_result_one_current", "attempt_id", unique=True, sqlite_where=text("current = 1")),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    attempt_id: Mapped[int] = mapped_column(ForeignKey("attempt.id"))
    checker: Mapped[str] = mapped_column(String(20))
    level: Mapped[str] = mapped_column(String(10), default="growing")
    current: Mapped[bool] = mapped_column(default=True)
    verdict: Mapped[str] = mapped_column(String(12))
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    error: Mapped[str | None] = mapped_column(Text)

    attempt: Mapped[Attempt] = relationship(back_populates="results")


class Mark(Base):
    """The teacher's own mark; it always wins in records."""

    __tablename__ = "mark"
    __table_args__ = (UniqueConstraint("attempt_id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    attempt_id: Mapped[int] = mapped_column(ForeignKey("attempt.id"))
    verdict: Mapped[str] = mapped_column(String(12))
    made_at: Mapped[datetime] = mapped_column(UtcDateTime)

    attempt: Mapped[Attempt] = relationship(back_populates="mark")


class Watched(Base):
    """What the teacher saw while a child wrote a letter on paper."""

    __tablename__ = "watched"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), index=True)
    letter: Mapped[str] = mapped_column(String(4))
    seen: Mapped[str] = mapped_column(String(20))
    at: Mapped[datetime] = mapped_column(UtcDateTime)

    child: Mapped[Child] = relationship(back_populates="watched")


class LetterDay(Base):
    """What one day says of a child's letter, and how the letter stood at its end.

    Worked out from rows, marks and watched notes whenever those of the day change, so that a map or a
    story over years reads days and not letters.

    ``alone`` holds a token for every piece of evidence (see ``core.progress.evidence``), ``in_words`` one
    for every time it was written inside a word, ``measures``
    the day's middle value of each measure, ``shown_id`` the attempt that stands for the day,
    ``waiting`` how many rows still want a mark, ``rules`` by which version of the rules of progress it
    was worked out.
    """

    __tablename__ = "letter_day"
    __table_args__ = (
        Index("ix_letter_day_day", "day", "child_id"),
        Index("ix_letter_day_waiting", "child_id", sqlite_where=text("waiting > 0")),
        {"sqlite_with_rowid": False},
    )

    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), primary_key=True)
    letter: Mapped[str] = mapped_column(String(4), primary_key=True)
    day: Mapped[date] = mapped_column(Date, primary_key=True)
    state_all: Mapped[str] = mapped_column(String(12), default="learning")
    state_direction: Mapped[str] = mapped_column(String(12), default="learning")
    state_shape: Mapped[str] = mapped_column(String(12), default="learning")
    state_size: Mapped[str] = mapped_column(String(12), default="learning")
    due: Mapped[date | None] = mapped_column(Date)
    strength_days: Mapped[float | None]
    shown_id: Mapped[int | None]
    rules: Mapped[int] = mapped_column(default=0)
    written: Mapped[int] = mapped_column(default=0)
    helped: Mapped[int] = mapped_column(default=0)
    waiting: Mapped[int] = mapped_column(default=0)
    alone: Mapped[list[str]] = mapped_column(JSON, default=list)
    in_words: Mapped[list[str]] = mapped_column(JSON, default=list, server_default=text("'[]'"))
    slips: Mapped[dict[str, int]] = mapped_column(JSON, default=dict)
    measures: Mapped[dict[str, float]] = mapped_column(JSON, default=dict)


class WrittenWord(OnLines, Base):
    """A word or a line that a child writes in one go, on which lines and in which style.

    Without ``ink`` it has been asked for and not written yet. ``checker`` is None until one has looked;
    ``measures`` is what it tells of the room between letters and words. What earlier checkers said is
    in ``earlier``. ``looked_at`` is when the teacher did. ``settled`` says whether the days of its letters
    hold what it says now.
    """

    __tablename__ = "written_word"
    __table_args__ = (
        Index("ix_written_word_child_id_started_at", "child_id", "started_at"),
        Index(
            "ix_written_word_waiting",
            "child_id",
            sqlite_where=text("looked_at IS NULL AND ink IS NOT NULL AND crossed_out = 0"),
        ),
        Index("ix_written_word_unsettled", "child_id", sqlite_where=text("settled = 0")),
        NUMBERED,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"))
    text: Mapped[str] = mapped_column(String(40))
    started_at: Mapped[datetime] = mapped_column(UtcDateTime)
    style_id: Mapped[int] = mapped_column(ForeignKey("house_style.id"))
    ink: Mapped[list[dict[str, Any]] | None] = mapped_column(JSON(none_as_null=True))
    evidence: Mapped[str] = mapped_column(String(5), default="ink", server_default="ink")
    crossed_out: Mapped[bool] = mapped_column(default=False)
    checker: Mapped[str | None] = mapped_column(String(20))
    level: Mapped[str | None] = mapped_column(String(10))
    document: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    measures: Mapped[dict[str, float]] = mapped_column(JSON, default=dict)
    error: Mapped[str | None] = mapped_column(Text)
    earlier: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)
    looked_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    settled: Mapped[bool] = mapped_column(default=False, server_default=false())

    child: Mapped[Child] = relationship(back_populates="words")
    style: Mapped[HouseStyleRow] = relationship()
    dictated: Mapped[DictatedWord | None] = relationship(back_populates="word", passive_deletes=True)


class Note(Base):
    """What a teacher wrote down about a child."""

    __tablename__ = "note"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime] = mapped_column(UtcDateTime)
    text: Mapped[str] = mapped_column(Text)

    child: Mapped[Child] = relationship(back_populates="notes")


class Change(Base):
    """A step somebody took on a row, so that it can be undone: the fields before and after."""

    __tablename__ = "change"

    id: Mapped[int] = mapped_column(primary_key=True)
    row_id: Mapped[int] = mapped_column(ForeignKey("row.id"), index=True)
    made_at: Mapped[datetime] = mapped_column(UtcDateTime)
    before: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    after: Mapped[list[dict[str, Any]]] = mapped_column(JSON)

    row: Mapped[Row] = relationship(back_populates="changes")


class Dictation(Base):
    """Words that are read out to a class. ``words`` are the texts with their units, in order."""

    __tablename__ = "dictation"
    __table_args__ = NUMBERED

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"), index=True)
    made_at: Mapped[datetime] = mapped_column(UtcDateTime)
    words: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class DictatedWord(Base):
    """What became of a dictated word with one child: which of its units were right.

    ``tries`` holds for each writing, the second one after a line through the first, the places of the units
    to mend; it is empty until the word is marked. ``word_id`` is the ink, where it was written on a tablet.
    It keeps its own text, so that it says the same in another class and after its dictation is gone.
    """

    __tablename__ = "dictated_word"
    __table_args__ = (
        UniqueConstraint("child_id", "dictation_id", "position"),
        Index("ix_dictated_word_child_id_at", "child_id", "at"),
        NUMBERED,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"))
    dictation_id: Mapped[int | None] = mapped_column(
        ForeignKey("dictation.id", ondelete="SET NULL"), index=True
    )
    position: Mapped[int]
    text: Mapped[str] = mapped_column(String(20))
    units: Mapped[list[str]] = mapped_column(JSON)
    at: Mapped[datetime] = mapped_column(UtcDateTime)
    tries: Mapped[list[list[int]]] = mapped_column(JSON, default=list)
    word_id: Mapped[int | None] = mapped_column(ForeignKey("written_word.id", ondelete="SET NULL"))

    child: Mapped[Child] = relationship(back_populates="dictated")
    word: Mapped[WrittenWord | None] = relationship(back_populates="dictated")
