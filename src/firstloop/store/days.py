"""Days of evidence: what the records say of a letter on a day, and keeping what was worked out of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, NamedTuple

from sqlalchemy import ColumnElement, and_, case, delete, func, select, update
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from firstloop.core.letterforms.alphabets import EVERY
from firstloop.store.school import school_time
from firstloop.store.tables import Attempt, Child, LetterDay, Mark, Result, Row, Watched, WrittenWord


class Key(NamedTuple):
    """Which day of evidence: of which letter of which child."""

    child_id: int
    letter: str
    day: date


_IDS_AT_ONCE = 500
_DAY = ["child_id", "letter", "day"]


@dataclass(frozen=True)
class Written:
    """An attempt without its ink. ``document`` is empty where no checker has looked."""

    id: int
    row_id: int
    style_id: int
    xh_mm: float
    support: str
    picked: bool
    verdict: str
    mark: str | None
    document: dict[str, Any]


def unsettled(
    session: Session, child_id: int | None = None, *, rested: tuple[datetime, datetime] | None = None
) -> list[Key]:
    """Days with rows that changed since their evidence was worked out, oldest first.

    With ``rested`` only of rows in which nothing was written between two moments.
    """
    query = select(Row.child_id, Row.letter, Row.started_at).where(~Row.settled, Row.set_aside.is_(None))
    if child_id is not None:
        query = query.where(Row.child_id == child_id)
    if rested is not None:
        query = query.where(~Row.attempts.any(Attempt.written_at.between(*rested)))
    day = school_time(session).day
    keys = {Key(child, char, day(at)) for child, char, at in session.execute(query)}
    return sorted(keys, key=lambda key: (key.day, key))


def unsettled_words(session: Session, child_id: int | None = None) -> dict[int, list[Key]]:
    """The days of the letters of every word that changed since their evidence was worked out, by word."""
    query = select(WrittenWord.id, WrittenWord.child_id, WrittenWord.text, WrittenWord.started_at).where(
        ~WrittenWord.settled, WrittenWord.checker.is_not(None)
    )
    if child_id is not None:
        query = query.where(WrittenWord.child_id == child_id)
    day = school_time(session).day
    return {
        word_id: [Key(child, char, day(at)) for char in dict.fromkeys(text) if char in EVERY]
        for word_id, child, text, at in session.execute(query)
    }


def settle_words(session: Session, word_ids: Sequence[int]) -> None:
    """Note that the days of some words hold what the words say; nothing is committed."""
    for first in range(0, len(word_ids), _IDS_AT_ONCE):
        some = WrittenWord.id.in_(word_ids[first : first + _IDS_AT_ONCE])
        session.execute(update(WrittenWord).where(some).values(settled=True))


def word_days_after(session: Session, key: Key) -> list[Key]:
    """Days after one on which the child wrote its letter in a word, oldest first."""
    here = school_time(session)
    query = select(WrittenWord.started_at).where(
        WrittenWord.child_id == key.child_id,
        WrittenWord.started_at >= here.bounds(key.day)[1],
        func.instr(WrittenWord.text, key.letter) > 0,
    )
    found = sorted({here.day(at) for at in session.scalars(query)})
    return [Key(key.child_id, key.letter, day) for day in found]


def in_words(session: Session, key: Key) -> list[dict[str, Any]]:
    """What a checker said of a letter inside the words of a day that are not crossed out, in order."""
    start, end = school_time(session).bounds(key.day)
    query = (
        select(WrittenWord.document)
        .where(
            WrittenWord.child_id == key.child_id,
            WrittenWord.started_at >= start,
            WrittenWord.started_at < end,
            WrittenWord.checker.is_not(None),
            ~WrittenWord.crossed_out,
            func.instr(WrittenWord.text, key.letter) > 0,
        )
        .order_by(WrittenWord.started_at, WrittenWord.id)
    )
    every = (one for document in session.scalars(query) for one in document.get("letters", []))
    return [one for one in every if one["expected"] == key.letter]


def watched_only(session: Session) -> list[Key]:
    """Days on which something was watched and of which no evidence is kept, oldest first."""
    query = select(Watched.child_id, Watched.letter, Watched.at).order_by(Watched.at)
    day = school_time(session).day
    seen = dict.fromkeys(Key(child, char, day(at)) for child, char, at in session.execute(query))
    return [key for key in seen if session.get(LetterDay, key) is None]


def outdated(session: Session, rules: int) -> list[Key]:
    """Days that were worked out by other rules of progress, oldest first."""
    query = select(LetterDay.child_id, LetterDay.letter, LetterDay.day).where(LetterDay.rules != rules)
    return [Key(*key) for key in session.execute(query.order_by(LetterDay.day, LetterDay.child_id))]


def set_aside(session: Session, key: Key, why: str) -> None:
    """Note that a day could not be worked out, until one of its rows changes; nothing is committed.

    What was known of it counts no longer.
    """
    child_id, char, day = key
    own = (LetterDay.child_id == child_id, LetterDay.letter == char, LetterDay.day == day)
    session.execute(delete(LetterDay).where(*own))
    here = school_time(session).day
    query = select(Row.id, Row.started_at).where(Row.child_id == child_id, Row.letter == char)
    found = session.execute(query)
    ids = [row_id for row_id, at in found if here(at) == day]
    session.execute(update(Row).where(Row.id.in_(ids)).values(set_aside=why[:200]))


class SetAside(NamedTuple):
    """A row whose day could not be worked out, and why."""

    child: Child
    letter: str
    started_at: datetime
    why: str


def all_set_aside(session: Session) -> list[SetAside]:
    """Everything that could not be worked out, oldest first."""
    query = (
        select(Child, Row.letter, Row.started_at, Row.set_aside)
        .join(Row, Row.child_id == Child.id)
        .where(Row.set_aside.is_not(None))
        .order_by(Row.started_at, Row.id)
    )
    return [SetAside(child, char, at, why or "") for child, char, at, why in session.execute(query)]


def written(session: Session, key: Key) -> list[Written]:
    """Attempts of a letter on a day that are not crossed out, in order."""
    child_id, char, day = key
    start, end = school_time(session).bounds(day)
    found = session.execute(
        select(
            Attempt.id,
            Row.id,
            Row.style_id,
            Row.base_mm - Row.mid_mm,
            Attempt.support,
            Attempt.best,
            Attempt.teachers_best,
            Result.verdict,
            Mark.verdict,
            Result.document,
        )
        .join(Row, Row.id == Attempt.row_id)
        .outerjoin(Result, and_(Result.attempt_id == Attempt.id, Result.current))
        .outerjoin(Mark, Mark.attempt_id == Attempt.id)
        .where(
            Row.child_id == child_id,
            Row.letter == char,
            Row.started_at >= start,
            Row.started_at < end,
            ~Attempt.crossed_out,
        )
        .order_by(Row.started_at, Row.id, Attempt.position)
    )
    return [
        Written(a, r, s, xh, support, best or teachers, verdict or "not-seen", mark, document or {})
        for a, r, s, xh, support, best, teachers, verdict, mark, document in found
    ]


def seen(session: Session, key: Key) -> Sequence[str]:
    """What was watched of a letter on a day."""
    child_id, char, day = key
    start, end = school_time(session).bounds(day)
    return session.scalars(
        select(Watched.seen)
        .where(Watched.child_id == child_id, Watched.letter == char, Watched.at >= start, Watched.at < end)
        .order_by(Watched.at)
    ).all()


def keep_day(session: Session, key: Key, fields: dict[str, Any] | None) -> None:
    """Keep a day's evidence in place of what was known of it; None where there is none any more.

    The rows of the day count as settled; nothing is committed.
    """
    child_id, char, day = key
    start, end = school_time(session).bounds(day)
    if fields is None:
        own = (LetterDay.child_id == child_id, LetterDay.letter == char, LetterDay.day == day)
        session.execute(delete(LetterDay).where(*own))
    else:
        put = insert(LetterDay).values(child_id=child_id, letter=char, day=day, **fields)
        session.execute(put.on_conflict_do_update(index_elements=_DAY, set_=fields))
    session.execute(
        update(Row)
        .where(Row.child_id == child_id, Row.letter == char, Row.started_at >= start, Row.started_at < end)
        .values(settled=True)
    )


class DayRow(NamedTuple):
    """A day of evidence as it is kept (see ``tables.LetterDay``), to be read."""

    child_id: int
    letter: str
    day: date
    state_all: str
    due: date | None
    strength_days: float | None
    shown_id: int | None
    helped: int
    alone: list[str]
    in_words: list[str]
    slips: dict[str, int]
    measures: dict[str, float]


_READ = [getattr(LetterDay, name) for name in DayRow._fields]


def days(session: Session, *where: ColumnElement[bool], class_id: int | None = None) -> list[DayRow]:
    """Days of evidence, by child, letter and date."""
    query = select(*_READ).where(*where).order_by(LetterDay.child_id, LetterDay.letter, LetterDay.day)
    if class_id is not None:
        query = query.where(LetterDay.child_id.in_(select(Child.id).where(Child.class_id == class_id)))
    return [DayRow(*row) for row in session.execute(query)]


def of_letter(session: Session, child_id: int, char: str) -> Sequence[LetterDay]:
    """All days of one letter of a child, oldest first, to be changed."""
    return session.scalars(
        select(LetterDay)
        .where(LetterDay.child_id == child_id, LetterDay.letter == char)
        .order_by(LetterDay.day)
        .execution_options(populate_existing=True)
    ).all()


@dataclass(frozen=True)
class Cell:
    """How a child's letter stood on a day, without what it rests on."""

    child_id: int
    letter: str
    day: date
    state: str
    due: date | None
    strength_days: float | None


def cells(session: Session, class_id: int, aspect: str, until: date) -> list[Cell]:
    """How every letter of every child of a class stood at the end of a day."""
    own = select(Child.id).where(Child.class_id == class_id)
    state = getattr(LetterDay, f"state_{aspect}")
    # SQLite gives the other columns of the row that holds the maximum
    query = (
        select(
            LetterDay.child_id,
            LetterDay.letter,
            func.max(LetterDay.day),
            state,
            LetterDay.due,
            LetterDay.strength_days,
        )
        .where(LetterDay.child_id.in_(own), LetterDay.day <= until)
        .group_by(LetterDay.child_id, LetterDay.letter)
    )
    return [Cell(*row) for row in session.execute(query)]


@dataclass(frozen=True)
class LetterSum:
    """A letter of a child: how it stands, the day of its latest evidence, and how often it was written."""

    letter: str
    day: date
    state: str
    written: int


def letters_of(session: Session, child_id: int) -> list[LetterSum]:
    """Every letter of a child."""
    query = (
        select(LetterDay.letter, func.max(LetterDay.day), LetterDay.state_all)
        .where(LetterDay.child_id == child_id)
        .group_by(LetterDay.letter)
        .order_by(LetterDay.letter)
    )
    counts = dict(
        session.execute(
            select(LetterDay.letter, func.sum(LetterDay.written))
            .where(LetterDay.child_id == child_id)
            .group_by(LetterDay.letter)
        ).all()
    )
    return [LetterSum(char, day, state, counts[char]) for char, day, state in session.execute(query)]


def waiting(session: Session, class_id: int) -> tuple[int, int]:
    """How many rows of a class want a mark, and by how many children."""
    own = select(Child.id).where(Child.class_id == class_id)
    query = select(
        func.coalesce(func.sum(LetterDay.waiting), 0), func.count(LetterDay.child_id.distinct())
    ).where(LetterDay.child_id.in_(own), LetterDay.waiting > 0)
    found, children = session.execute(query).one()
    return int(found), int(children)


def dates(session: Session, class_id: int) -> Sequence[date]:
    """Days on which a class wrote, oldest first."""
    own = select(Child.id).where(Child.class_id == class_id)
    query = select(LetterDay.day).where(LetterDay.child_id.in_(own)).distinct().order_by(LetterDay.day)
    return session.scalars(query).all()


def first_and_last_alone(session: Session, class_id: int) -> dict[tuple[int, str], tuple[date, date | None]]:
    """For every child and letter of a class: the first day of it in any way, and the last day alone."""
    own = select(Child.id).where(Child.class_id == class_id)
    alone = case((func.json_array_length(LetterDay.alone) > 0, LetterDay.day))
    query = (
        select(LetterDay.child_id, LetterDay.letter, func.min(LetterDay.day), func.max(alone))
        .where(LetterDay.child_id.in_(own))
        .group_by(LetterDay.child_id, LetterDay.letter)
    )
    return {(child, char): (first, last) for child, char, first, last in session.execute(query)}


class Shown(NamedTuple):
    """A written letter, to be drawn: its ink and the lines it stands on."""

    attempt_id: int
    position: int
    ink: list[dict[str, Any]]
    row_id: int
    started_at: datetime
    base_mm: float
    mid_mm: float


def shown(session: Session, attempt_ids: Sequence[int]) -> list[Shown]:
    """Some attempts as they were written."""
    query = (
        select(Attempt.id, Attempt.position, Attempt.ink, Row.id, Row.started_at, Row.base_mm, Row.mid_mm)
        .join(Row, Row.id == Attempt.row_id)
        .where(Attempt.id.in_(attempt_ids))
    )
    return [Shown(*row) for row in session.execute(query)]
