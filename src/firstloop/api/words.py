"""The class's own words for the movement of a letter, in place of the generated ones."""

from __future__ import annotations

from pydantic import Field

from firstloop.api.deps import Db
from firstloop.api.given import Given, LetterChar, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import NOT_FOUND
from firstloop.services import own_words
from firstloop.services.own_words import OwnWordsView

router = resource("words")


class OwnWordsIn(Given):
    """One phrase for each phrase of the generated words; none to go back to those."""

    phrases: list[str] = Field(max_length=40)


@router.get("/classes/{class_id}/words", responses=NOT_FOUND)
def get_words(session: Db, class_id: RecordId) -> list[OwnWordsView]:
    """Every letter for which the class has words of its own."""
    return own_words.every(session, class_id)


@router.put("/classes/{class_id}/words/{char}", responses={**NOT_FOUND})
def set_words(session: Db, class_id: RecordId, char: LetterChar, given: OwnWordsIn) -> OwnWordsView:
    """Keep the class's own words for a letter, if there are as many phrases as its moves need."""
    return own_words.keep(session, class_id, char, given.phrases)
