"""What a teacher sees while children write on paper."""

from __future__ import annotations

from firstloop.api.deps import Db, Now
from firstloop.api.given import Given, LetterChar, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import NOT_FOUND
from firstloop.formats.bounds import SeenName
from firstloop.services import watching
from firstloop.services.watching import WatchedView

router = resource("watched", "/watched")


class WatchedIn(Given):
    """What was seen while a child wrote a letter on paper."""

    child_id: RecordId
    letter: LetterChar
    seen: SeenName


@router.post("", status_code=201, responses=NOT_FOUND)
def log_watched(session: Db, at: Now, given: WatchedIn) -> WatchedView:
    """Note what was seen while a child wrote a letter on paper."""
    return watching.log(session, given.child_id, given.letter, given.seen, at)


@router.delete("/{note_id}", status_code=204, responses=NOT_FOUND)
def take_back_watched(session: Db, note_id: RecordId) -> None:
    """Take a note back."""
    watching.take_back(session, note_id)
