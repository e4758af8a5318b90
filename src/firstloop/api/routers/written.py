"""Words and lines that children write."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from firstloop.api import written
from firstloop.api.deps import Db, JudgeDep, Now
from firstloop.api.errors import CONFLICT, NOT_FOUND
from firstloop.api.schemas import RecordId, StrokeInk
from firstloop.store import written as store
from firstloop.store.classes import get_child, get_class

router = APIRouter(tags=["written"])


@router.post("/written", status_code=201, responses=NOT_FOUND)
def ask_for_word(session: Db, at: Now, given: written.WordIn) -> written.WordOut:
    """Ask a child to write a word or a line."""
    return written.word_out(written.ask(session, given, at))


@router.get("/written/{word_id}", responses=NOT_FOUND)
def get_word(session: Db, word_id: RecordId) -> written.WordOut:
    """One word or line."""
    return written.word_out(store.get_word(session, word_id))


@router.put("/written/{word_id}/ink", responses={**NOT_FOUND, **CONFLICT})
def write_word(session: Db, judge: JudgeDep, word_id: RecordId, given: written.WordInkIn) -> written.WordOut:
    """Keep what was written, then judge it. Sending the same ink again changes nothing."""
    return written.word_out(written.keep_and_judge(session, store.get_word(session, word_id), given, judge))


@router.put("/written/{word_id}/crossed-out", responses=NOT_FOUND)
def cross_out_word(session: Db, word_id: RecordId, given: written.CrossOutIn) -> written.WordOut:
    """Cross a word out, or take that back. It does not count while it is crossed out; its ink stays."""
    word = store.get_word(session, word_id)
    store.cross_out(session, word, given.crossed_out)
    return written.word_out(word)


@router.post("/words-looked-at", status_code=204, responses=NOT_FOUND)
def look_at_words(session: Db, at: Now, given: written.LookedAtIn) -> None:
    """Note that the teacher looked at words, or take that back."""
    store.look_at(session, given.word_ids, at if given.looked_at else None)


@router.get("/classes/{class_id}/words-to-look-at", responses=NOT_FOUND)
def words_to_look_at(
    session: Db, class_id: RecordId, limit: Annotated[int, Query(ge=1, le=200)] = 60
) -> list[written.WordOut]:
    """Words of a class that the teacher has not looked at yet, latest first."""
    get_class(session, class_id)
    return [written.word_out(word) for word in store.waiting(session, class_id, limit)]


@router.get("/written/{word_id}/simulated-pen", responses=NOT_FOUND)
def simulated_pen_word(session: Db, word_id: RecordId) -> list[StrokeInk]:
    """Ink for a word, in true time, as if a pen were writing it now."""
    return written.pen_ink(store.get_word(session, word_id))


@router.get("/children/{child_id}/written", responses=NOT_FOUND)
def list_words(
    session: Db, child_id: RecordId, limit: Annotated[int, Query(ge=1, le=200)] = 30
) -> list[written.WordOut]:
    """What a child has written, latest first."""
    get_child(session, child_id)
    return [written.word_out(word) for word in store.words_of(session, child_id, limit)]


@router.get("/children/{child_id}/words-within-reach", responses=NOT_FOUND)
def list_words_within_reach(session: Db, child_id: RecordId) -> list[str]:
    """Words that need no letter but those the child has begun."""
    return written.offered(session, child_id)
