"""What a teacher saw while a child wrote on paper: evidence for Direction."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from firstloop.store.classes import get_child
from firstloop.store.errors import NotFoundError
from firstloop.store.tables import Child, Watched


def log(session: Session, child_id: int, letter: str, seen: str, at: datetime) -> Watched:
    """Keep one note.

    Raises
    ------
    NotFoundError
        If there is no such child.
    """
    note = Watched(child_id=get_child(session, child_id).id, letter=letter, seen=seen, at=at)
    session.add(note)
    session.flush()
    return note


def take_back(session: Session, note_id: int) -> Watched:
    """Take a note back; returns what it was.

    Raises
    ------
    NotFoundError
    """
    note = session.get(Watched, note_id)
    if note is None:
        raise NotFoundError("watched note", note_id)
    session.delete(note)
    session.flush()
    return note


def notes(
    session: Session, class_id: int | None = None, child_id: int | None = None, letter: str | None = None
) -> Sequence[Watched]:
    """Notes, latest first."""
    query = select(Watched).join(Child).order_by(Watched.at.desc(), Watched.id.desc())
    if class_id is not None:
        query = query.where(Child.class_id == class_id)
    if child_id is not None:
        query = query.where(Watched.child_id == child_id)
    if letter is not None:
        query = query.where(Watched.letter == letter)
    return session.scalars(query).all()
