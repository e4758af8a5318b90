"""Dictations, and what became of each word with each child."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session, joinedload

from firstloop.store.errors import NotFoundError
from firstloop.store.tables import Child, DictatedWord, Dictation, WrittenWord


def add(session: Session, class_id: int, words: list[dict[str, Any]], at: datetime) -> Dictation:
    """Keep the words of a dictation; nothing is committed."""
    made = Dictation(class_id=class_id, words=words, made_at=at)
    session.add(made)
    session.flush()
    return made


def get(session: Session, dictation_id: int) -> Dictation:
    """One dictation.

    Raises
    ------
    NotFoundError
    """
    found = session.get(Dictation, dictation_id)
    if found is None:
        raise NotFoundError("dictation", dictation_id)
    return found


def of_class(session: Session, class_id: int, limit: int) -> Sequence[Dictation]:
    """Dictations of a class, latest first."""
    query = select(Dictation).where(Dictation.class_id == class_id)
    return session.scalars(query.order_by(Dictation.made_at.desc(), Dictation.id.desc()).limit(limit)).all()


def drop(session: Session, dictation: Dictation) -> None:
    """Take a dictation back that no child has written yet; nothing is committed."""
    session.delete(dictation)


def word(session: Session, dictation: Dictation, child: Child, position: int, at: datetime) -> DictatedWord:
    """What there is of a word with a child; a new one where there is nothing yet.

    Raises
    ------
    NotFoundError
        If the dictation has no such word.
    """
    if not 0 <= position < len(dictation.words):
        raise NotFoundError("word of the dictation", position + 1)
    query = select(DictatedWord).where(
        DictatedWord.dictation_id == dictation.id,
        DictatedWord.child_id == child.id,
        DictatedWord.position == position,
    )
    found = session.scalar(query)
    if found is None:
        fresh = {"child_id": child.id, "dictation_id": dictation.id, "position": position, "at": at}
        put = insert(DictatedWord).values(**fresh, **dictation.words[position], tries=[])
        session.execute(put.on_conflict_do_nothing())  # somebody else may be as quick
        found = session.scalars(query).one()
    return found


def words(session: Session, dictation_id: int) -> Sequence[DictatedWord]:
    """What there is of a dictation with all children."""
    query = select(DictatedWord).where(DictatedWord.dictation_id == dictation_id)
    load = joinedload(DictatedWord.word)
    return session.scalars(query.options(load.joinedload(WrittenWord.style))).all()


def how_many_marked(session: Session, dictation_ids: Sequence[int]) -> dict[int, int]:
    """How many words of each dictation are marked."""
    query = select(DictatedWord.dictation_id, DictatedWord.tries).where(
        DictatedWord.dictation_id.in_(dictation_ids)
    )
    out: dict[int, int] = {}
    for dictation_id, tries in session.execute(query):
        if tries and dictation_id is not None:
            out[dictation_id] = out.get(dictation_id, 0) + 1
    return out


def marked(
    session: Session, until: datetime, *, class_id: int | None = None, child_id: int | None = None
) -> list[tuple[int, datetime, list[str], list[list[int]]]]:
    """Child, moment, units and tries of every marked word before a moment, oldest first."""
    query = (
        select(DictatedWord.child_id, DictatedWord.at, DictatedWord.units, DictatedWord.tries)
        .where(DictatedWord.at < until)
        .order_by(DictatedWord.at, DictatedWord.id)
    )
    if class_id is not None:
        query = query.join(DictatedWord.child).where(Child.class_id == class_id)
    if child_id is not None:
        query = query.where(DictatedWord.child_id == child_id)
    return [(child, at, units, tries) for child, at, units, tries in session.execute(query) if tries]


def of_child(session: Session, child_id: int, limit: int) -> Sequence[DictatedWord]:
    """Dictated words of a child that are marked or written, latest first."""
    query = select(DictatedWord).where(DictatedWord.child_id == child_id)
    latest = query.order_by(DictatedWord.at.desc(), DictatedWord.position.desc(), DictatedWord.id.desc())
    return session.scalars(latest.limit(limit).options(joinedload(DictatedWord.word))).all()
