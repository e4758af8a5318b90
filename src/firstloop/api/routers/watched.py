"""What a teacher sees while children write on paper."""

from __future__ import annotations

from fastapi import APIRouter

from firstloop.api.deps import Db, Now
from firstloop.api.errors import NOT_FOUND
from firstloop.api.schemas import RecordId, WatchedIn, WatchedOut
from firstloop.api.settling import settle
from firstloop.api.writing import watched_out
from firstloop.store import watched
from firstloop.store.school import school_time

router = APIRouter(prefix="/watched", tags=["watched"])


@router.post("", status_code=201, responses=NOT_FOUND)
def log_watched(session: Db, at: Now, given: WatchedIn) -> WatchedOut:
    """Note what was seen while a child wrote a letter on paper."""
    note = watched.log(session, given.child_id, given.letter, given.seen, at)
    settle(session, [(note.child_id, note.letter, school_time(session).day(note.at))])
    return watched_out(note)


@router.delete("/{note_id}", status_code=204, responses=NOT_FOUND)
def take_back_watched(session: Db, note_id: RecordId) -> None:
    """Take a note back."""
    note = watched.take_back(session, note_id)
    settle(session, [(note.child_id, note.letter, school_time(session).day(note.at))])
