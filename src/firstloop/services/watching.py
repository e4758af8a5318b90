"""What a teacher sees while children write on paper."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from sqlalchemy.orm import Session

from firstloop.services import evidence
from firstloop.store import watched as store
from firstloop.store.classes import get_class
from firstloop.store.tables import Watched

Seen = Literal["bottom", "direction", "lift", "order", "fine"]


@dataclass(frozen=True)
class WatchedView:
    """A kept note."""

    id: int
    child_id: int
    letter: str
    seen: Seen
    at: datetime


def watched_view(note: Watched) -> WatchedView:
    """A note to be shown."""
    return WatchedView(note.id, note.child_id, note.letter, note.seen, note.at)  # type: ignore[arg-type]


def notes_of_class(session: Session, class_id: int, letter: str | None) -> list[WatchedView]:
    """What was seen while the children of a class wrote, latest first.

    Raises
    ------
    NotFoundError
    """
    found = store.notes(session, class_id=get_class(session, class_id).id, letter=letter)
    return [watched_view(note) for note in found]


def log(session: Session, child_id: int, letter: str, seen: Seen, at: datetime) -> WatchedView:
    """Note what was seen while a child wrote a letter.

    Raises
    ------
    NotFoundError
    """
    note = store.log(session, child_id, letter, seen, at)
    evidence.work_out_note(session, note)
    return watched_view(note)


def take_back(session: Session, note_id: int) -> None:
    """Take a note back.

    Raises
    ------
    NotFoundError
    """
    note = store.take_back(session, note_id)
    evidence.work_out_note(session, note)
