"""The class's own words for the movement of a letter, in place of the generated ones."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from firstloop.api.deps import Db, style_of
from firstloop.api.errors import NOT_FOUND
from firstloop.api.schemas import Given, LetterChar, RecordId
from firstloop.core.letterforms.library import letter
from firstloop.core.patter import checked_words
from firstloop.store import boards as store

router = APIRouter(tags=["words"])


class OwnWordsIn(Given):
    """One phrase for each phrase of the generated words; none to go back to those."""

    phrases: list[str] = Field(max_length=40)


class OwnWordsOut(BaseModel):
    """The class's own phrases of one letter."""

    letter: str
    phrases: list[str]


@router.get("/classes/{class_id}/words", responses=NOT_FOUND)
def get_words(session: Db, class_id: RecordId) -> list[OwnWordsOut]:
    """Every letter for which the class has words of its own."""
    style_of(session, class_id)
    own = store.own_words(session, class_id)
    return [OwnWordsOut(letter=one, phrases=own[one]) for one in sorted(own)]


@router.put("/classes/{class_id}/words/{char}", responses={**NOT_FOUND})
def set_words(session: Db, class_id: RecordId, char: LetterChar, given: OwnWordsIn) -> OwnWordsOut:
    """Keep the class's own words for a letter, if there are as many phrases as its moves need."""
    model = letter(char, style_of(session, class_id))
    phrases = checked_words(model, given.phrases) if given.phrases else []
    store.keep_words(session, class_id, char, phrases)
    return OwnWordsOut(letter=char, phrases=phrases)
