"""Words and lines that children write."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query
from pydantic import Field, field_validator

from firstloop.api.deps import Db, JudgeDep, Now
from firstloop.api.given import Given, Moment, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import CONFLICT, NOT_FOUND
from firstloop.formats.bounds import WordStrokes
from firstloop.services import simulated_pen, written_words
from firstloop.services.queue import Order
from firstloop.services.simulated_pen import KeptStrokes
from firstloop.services.written_words import OfferedWord, WordView

router = resource("written")


class WordIn(Given):
    """A word or a line that a child is to write."""

    child_id: RecordId
    text: str = Field(max_length=40)

    @field_validator("text")
    @classmethod
    def _with_single_spaces(cls, text: str) -> str:
        text = " ".join(text.split())
        if len(text.replace(" ", "")) < 2:
            raise ValueError("a word has at least two letters")
        return text


class WordInkIn(Given):
    """What the pen wrote, and for which word. Sending it again changes nothing."""

    word_started_at: Moment | None = None
    strokes: WordStrokes


class CrossOutIn(Given):
    """Whether it is crossed out."""

    crossed_out: bool


class LookedAtIn(Given):
    """Words that the teacher looked at, or did not after all."""

    word_ids: list[RecordId] = Field(min_length=1, max_length=200)
    looked_at: bool


@router.post("/written", status_code=201, responses=NOT_FOUND)
def ask_for_word(session: Db, at: Now, given: WordIn) -> WordView:
    """Ask a child to write a word or a line."""
    return written_words.ask(session, given.child_id, given.text, at)


@router.get("/written/{word_id}", responses=NOT_FOUND)
def get_word(session: Db, word_id: RecordId) -> WordView:
    """One word or line."""
    return written_words.get(session, word_id)


@router.put("/written/{word_id}/ink", responses={**NOT_FOUND, **CONFLICT})
def write_word(session: Db, judge: JudgeDep, word_id: RecordId, given: WordInkIn) -> WordView:
    """Keep what was written, then judge it. Sending the same ink again changes nothing."""
    strokes = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    return written_words.write(session, word_id, strokes, given.word_started_at, judge)


@router.put("/written/{word_id}/crossed-out", responses=NOT_FOUND)
def cross_out_word(session: Db, word_id: RecordId, given: CrossOutIn) -> WordView:
    """Cross a word out, or take that back. It does not count while it is crossed out; its ink stays."""
    return written_words.cross_out(session, word_id, given.crossed_out)


@router.post("/words-looked-at", status_code=204, responses=NOT_FOUND)
def look_at_words(session: Db, at: Now, given: LookedAtIn) -> None:
    """Note that the teacher looked at words, or take that back."""
    written_words.look_at(session, given.word_ids, at if given.looked_at else None)


@router.get("/classes/{class_id}/words-to-look-at", responses=NOT_FOUND)
def words_to_look_at(
    session: Db,
    class_id: RecordId,
    order: Order = "newest",
    limit: Annotated[int, Query(ge=1, le=200)] = 60,
) -> list[WordView]:
    """Words of a class that the teacher has not looked at yet: the latest day first, each in the order."""
    return written_words.waiting(session, class_id, order, limit)


@router.get("/written/{word_id}/simulated-pen", responses=NOT_FOUND)
def simulated_pen_word(session: Db, word_id: RecordId) -> KeptStrokes:
    """Ink for a word, in true time, as if a pen were writing it now."""
    return simulated_pen.whole_word(session, word_id)


@router.get("/children/{child_id}/written", responses=NOT_FOUND)
def list_words(
    session: Db, child_id: RecordId, limit: Annotated[int, Query(ge=1, le=200)] = 30
) -> list[WordView]:
    """What a child has written, latest first."""
    return written_words.of_child(session, child_id, limit)


@router.get("/children/{child_id}/words-within-reach", responses=NOT_FOUND)
def list_words_within_reach(session: Db, child_id: RecordId) -> list[OfferedWord]:
    """Words that need no letter but those the child has begun."""
    return written_words.offered(session, child_id)
