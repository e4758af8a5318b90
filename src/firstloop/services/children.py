"""Children: who they are, their notes, and how strict to be with them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.style import Hand
from firstloop.formats.names import NamesRead, read_names
from firstloop.store import classes as store
from firstloop.store.tables import Child, Note


@dataclass(frozen=True)
class ChildView:
    """A child, by first name and initial only."""

    id: int
    class_id: int
    first_name: str
    initial: str
    name: str
    hand: Hand
    level: Level | None


@dataclass(frozen=True)
class NoteView:
    """What the teacher wrote down."""

    id: int
    at: datetime
    text: str


def child_view(child: Child) -> ChildView:
    """A child to be shown."""
    return ChildView(
        id=child.id,
        class_id=child.class_id,
        first_name=child.first_name,
        initial=child.initial,
        name=f"{child.first_name} {child.initial}",
        hand=Hand(child.hand),
        level=None if child.level is None else Level(child.level),
    )


def note_view(note: Note) -> NoteView:
    """A note to be shown."""
    return NoteView(note.id, note.at, note.text)


def file_name(session: Session, child_id: int) -> str:
    """A child's name as files are called by it.

    Raises
    ------
    NotFoundError
    """
    child = store.get_child(session, child_id)
    return f"{child.first_name}-{child.initial}"


def add(session: Session, class_id: int, first_name: str, initial: str, hand: str) -> ChildView:
    """Add a child to a class.

    Raises
    ------
    NotFoundError, ConflictError
    """
    child = store.add_child(session, class_id, first_name, initial, hand)
    session.commit()
    return child_view(child)


def change(session: Session, child_id: int, **fields: Any) -> ChildView:
    """Change what is known of a child, how strict to be with it, or its class.

    Parameters
    ----------
    fields
        Of ``first_name``, ``initial``, ``hand``, ``level``, ``caution``, ``class_id``. A child goes to
        another class with everything it has written.

    Raises
    ------
    NotFoundError
    ConflictError
        If the class has another child of that name.
    """
    child = store.get_child(session, child_id)
    if "class_id" in fields:
        store.get_class(session, fields["class_id"])
    store.change_child(session, child, **fields)
    session.commit()
    return child_view(child)


@dataclass(frozen=True)
class NewChild:
    """A child to be added."""

    first_name: str
    initial: str
    hand: str


def add_many(session: Session, class_id: int, given: Sequence[NewChild]) -> list[ChildView]:
    """Add several children to a class; all of them or none.

    Raises
    ------
    NotFoundError, ConflictError
    """
    made = [store.add_child(session, class_id, one.first_name, one.initial, one.hand) for one in given]
    session.commit()
    return [child_view(child) for child in made]


def read_list(session: Session, class_id: int, text: str) -> NamesRead:
    """What a pasted list of names or a CSV file would add to a class; nothing is added.

    Raises
    ------
    NotFoundError
    """
    known = [(child.first_name, child.initial) for child in store.get_class(session, class_id).children]
    return read_names(text, known)


def add_note(session: Session, child_id: int, text: str, at: datetime) -> NoteView:
    """Write something down about a child.

    Raises
    ------
    NotFoundError
    """
    note = store.add_note(session, child_id, text, at)
    session.commit()
    return note_view(note)


def take_back_note(session: Session, child_id: int, note_id: int) -> None:
    """Take a note back.

    Raises
    ------
    NotFoundError
        If there is no such note of this child.
    """
    store.take_back_note(session, child_id, note_id)
    session.commit()
