"""Words and lines that children write: asked for, kept, judged, crossed out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import ColumnElement, func, select, update
from sqlalchemy.orm import Session, joinedload, selectinload

from firstloop.core.ruling import Ruling
from firstloop.store.base import line_columns
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.school import school_time
from firstloop.store.tables import Child, WrittenWord

_SAID = ("checker", "level", "document", "measures", "error")


@dataclass(frozen=True)
class WordResult:
    """What a checker said of a word; ``error`` tells why there is no ``document``."""

    document: dict[str, Any]
    measures: dict[str, float]
    error: str | None = None


def ask(
    session: Session, child: Child, text: str, at: datetime, ruling_key: str, ruling: Ruling
) -> WrittenWord:
    """Note that a child is to write a text, on these lines; it has its number once the session is flushed."""
    word = WrittenWord(
        child_id=child.id,
        text=text,
        started_at=at,
        style_id=child.school_class.style_id,
        **line_columns(ruling_key, ruling),
    )
    session.add(word)
    return word


def get_word(session: Session, word_id: int) -> WrittenWord:
    """One word or line.

    Raises
    ------
    NotFoundError
    """
    found = session.get(WrittenWord, word_id)
    if found is None:
        raise NotFoundError("written word", word_id)
    return found


def words_of(session: Session, child_id: int, limit: int) -> Sequence[WrittenWord]:
    """What a child has written, latest first."""
    return session.scalars(
        select(WrittenWord)
        .where(WrittenWord.child_id == child_id, WrittenWord.ink.is_not(None))
        .order_by(WrittenWord.started_at.desc(), WrittenWord.id.desc())
        .limit(limit)
        .options(joinedload(WrittenWord.style), selectinload(WrittenWord.dictated))
    ).all()


def waiting(session: Session, class_id: int, limit: int) -> Sequence[WrittenWord]:
    """Words of a class that the teacher has not looked at, latest first."""
    return session.scalars(
        select(WrittenWord)
        .join(WrittenWord.child)
        .where(*_waits(class_id))
        .order_by(WrittenWord.started_at.desc(), WrittenWord.id.desc())
        .limit(limit)
        .options(
            joinedload(WrittenWord.style), joinedload(WrittenWord.child), selectinload(WrittenWord.dictated)
        )
    ).all()


def how_many_wait(session: Session, class_id: int) -> int:
    """How many words of a class the teacher has not looked at."""
    query = select(func.count(WrittenWord.id)).join(WrittenWord.child).where(*_waits(class_id))
    return session.scalar(query) or 0


def _waits(class_id: int) -> tuple[ColumnElement[bool], ...]:
    return (
        Child.class_id == class_id,
        WrittenWord.looked_at.is_(None),
        WrittenWord.ink.is_not(None),
        ~WrittenWord.crossed_out,
    )


def look_at(session: Session, ids: Sequence[int], at: datetime | None) -> None:
    """Note that the teacher looked at words, or (None) take that back.

    Raises
    ------
    NotFoundError
        If one is not there; nothing is noted.
    """
    for word in [get_word(session, word_id) for word_id in ids]:
        word.looked_at = at


def keep_ink(session: Session, word: WrittenWord, ink: list[dict[str, Any]]) -> None:
    """Keep what the pen wrote; the same ink again changes nothing.

    Raises
    ------
    ConflictError
        If other ink is there already.
    """
    empty = update(WrittenWord).where(WrittenWord.id == word.id, WrittenWord.ink.is_(None))
    # whether it is still empty is the database's to say, in the same step
    session.execute(empty.values(ink=ink), execution_options={"synchronize_session": False})
    session.refresh(word, ["ink"])
    if word.ink != ink:
        raise ConflictError("This has been written already; ask for it again to write it again.")


def keep_result(word: WrittenWord, checker: str, level: str, result: WordResult) -> None:
    """Keep what a checker said; what one said before is kept beside it."""
    if word.checker is not None:
        before = {name: getattr(word, name) for name in _SAID}
        word.earlier = [*word.earlier, before]
    word.checker, word.level, word.settled = checker, level, False
    word.document, word.measures, word.error = result.document, result.measures, result.error


def written(session: Session) -> Sequence[WrittenWord]:
    """Every word that was written."""
    return session.scalars(select(WrittenWord).where(WrittenWord.ink.is_not(None))).all()


def unjudged(session: Session) -> Sequence[int]:
    """Numbers of the words that were written and not looked at yet, oldest first."""
    return session.scalars(
        select(WrittenWord.id).where(WrittenWord.ink.is_not(None), WrittenWord.checker.is_(None))
    ).all()


def letters_in_words(
    session: Session, until: date, *, class_id: int | None = None, child_id: int | None = None
) -> dict[tuple[int, str], date]:
    """For every child and letter the last day on which it was written in a word or line not crossed out."""
    here = school_time(session)
    one = func.json_each(WrittenWord.document, "$.letters").table_valued("value", joins_implicitly=True)
    char = func.json_extract(one.c.value, "$.expected")
    query = (
        select(WrittenWord.child_id, char, func.max(WrittenWord.started_at))
        .where(
            WrittenWord.started_at < here.bounds(until)[1],
            ~WrittenWord.crossed_out,
            func.json_extract(one.c.value, "$.verdict") != "not-seen",
        )
        .group_by(WrittenWord.child_id, char)
    )
    if class_id is not None:
        query = query.join(WrittenWord.child).where(Child.class_id == class_id)
    if child_id is not None:
        query = query.where(WrittenWord.child_id == child_id)
    return {(child, letter): here.day(at) for child, letter, at in session.execute(query)}


_LATEST = 300  # words of a class by which its pace is told


def durations(session: Session, class_id: int, lines: bool | None = None) -> list[tuple[int, float]]:
    """How many letters each of the latest words of a class has, and how long it took, seconds.

    Parameters
    ----------
    lines : bool, optional
        Only lines of several words, or only single words; all without it.
    """
    took = func.json_extract(WrittenWord.ink, "$[#-1].t[#-1]")
    query = (
        select(func.length(func.replace(WrittenWord.text, " ", "")), took / 1000.0)
        .join(WrittenWord.child)
        .where(Child.class_id == class_id, WrittenWord.ink.is_not(None), ~WrittenWord.crossed_out)
        .order_by(WrittenWord.started_at.desc())
        .limit(_LATEST)
    )
    if lines is not None:
        query = query.where((func.instr(WrittenWord.text, " ") > 0) == lines)
    return [(int(letters), float(s)) for letters, s in session.execute(query) if s is not None]


def measures(session: Session, child_id: int, until: date) -> list[tuple[date, str, dict[str, float]]]:
    """Day, text and measures of what a child wrote up to a day and did not cross out, oldest first."""
    here = school_time(session)
    _, end = here.bounds(until)
    found = session.execute(
        select(WrittenWord.started_at, WrittenWord.text, WrittenWord.measures)
        .where(
            WrittenWord.child_id == child_id,
            WrittenWord.started_at < end,
            WrittenWord.ink.is_not(None),
            ~WrittenWord.crossed_out,
        )
        .order_by(WrittenWord.started_at)
    )
    return [(here.day(at), text, measured) for at, text, measured in found]
