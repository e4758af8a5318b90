"""Words for a class: found by conditions, rings, which one fits, sorts, ladders, sentences."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Depends, Query
from pydantic import Field

from firstloop.api.deps import Day, Db, Today
from firstloop.api.given import RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import NOT_FOUND
from firstloop.core.words.find import Conditions, Counted, Place
from firstloop.core.words.joins import JoinKind
from firstloop.core.words.rings import LEAST, MOST, USUAL, Wanted
from firstloop.services import sentences, word_lists
from firstloop.services.letters import LetterDrawing
from firstloop.services.sentences import SentenceList, SentenceView
from firstloop.services.taught import Asked
from firstloop.services.word_lists import (
    DrawnWord,
    FoundWords,
    GapView,
    RingView,
    SortWord,
    TimeView,
)

router = resource("words", "/classes/{class_id}/word-lists")

Unit = Annotated[str, Query(min_length=1, max_length=4, pattern="^[A-Za-z]{1,4}$|^[a-z]_[a-z]$")]
AnyUnit = Annotated[str, Query(max_length=4, pattern="^$|^[A-Za-z]{1,4}$|^[a-z]_[a-z]$")]
Word = Annotated[str, Query(max_length=20)]
Seed = Annotated[int, Query(ge=0, le=2**31)]
Text = Annotated[str, Query(max_length=200)]


def asked(
    class_id: RecordId,
    today: Today,
    child_id: Annotated[RecordId | None, Query(description="Of the letters this child has begun.")] = None,
    on: Annotated[Day | None, Query(description="Taught by this day; today without it.")] = None,
    sets: Annotated[
        int | None, Query(ge=1, le=60, description="Sets of sounds taught; all without it.")
    ] = None,
    family: Annotated[str | None, Query(max_length=60, description="Only letters of a family.")] = None,
    before: Annotated[bool, Query(description="With those of the families before it.")] = True,
    any_letters: Annotated[bool, Query(description="Letters not taught too.")] = False,
) -> Asked:
    """Whose words are asked for."""
    return Asked(class_id, on or today, child_id, sets, family, before, any_letters)


Whose = Annotated[Asked, Depends(asked)]


@router.get("/found", responses=NOT_FOUND)
def find_words(
    session: Db,
    whose: Whose,
    holds: AnyUnit = "",
    place: Place = Place.ANYWHERE,
    as_sound: bool = False,
    least: Annotated[int, Query(ge=1, le=20)] = 1,
    most: Annotated[int | None, Query(ge=1, le=20)] = None,
    counted: Counted = Counted.LETTERS,
    practise: Literal["", "due", "wrong"] = "",
    pair: Annotated[str, Query(pattern="^$|^[a-z]{2}$")] = "",
    join: JoinKind | None = None,
    by_heart: bool | None = None,
    one_length: bool = False,
    limit: Annotated[int, Query(ge=1, le=200)] = 45,
) -> FoundWords:
    """Words that meet every condition, the best first."""
    given = Conditions(
        holds=holds, place=place, as_sound=as_sound, least=least, most=most, counted=counted, pair=pair,
        join=join, by_heart=by_heart,
    )  # fmt: skip
    return word_lists.found(session, whose, given, practise, one_length, limit)


@router.get("/rings", responses=NOT_FOUND)
def find_rings(
    session: Db,
    whose: Whose,
    seed: Seed = 0,
    start: Word = "",
    through: AnyUnit = "",
    length: Annotated[int, Query(ge=LEAST, le=MOST)] = USUAL,
    wanted: Wanted = Wanted.USUAL,
    allow_drop: bool = False,
) -> list[RingView]:
    """Rings: one unit changes at a time, and back to where it began."""
    return word_lists.rings(session, whose, seed, start, through, length, wanted, allow_drop)


@router.get("/gaps", responses=NOT_FOUND)
def find_gaps(
    session: Db,
    whose: Whose,
    one: Unit,
    other: Unit,
    seed: Seed = 0,
    both: bool = False,
    most: Annotated[int, Query(ge=2, le=24)] = 8,
) -> list[GapView]:
    """Words with a gap into which one of two units fits."""
    return word_lists.gap_words(session, whose, seed, one, other, both, most)


@router.get("/sort", responses=NOT_FOUND)
def make_sort(
    session: Db,
    whose: Whose,
    unit: Unit,
    place: Place = Place.FIRST,
    seed: Seed = 0,
    half: Annotated[int, Query(ge=2, le=12)] = 6,
) -> list[SortWord]:
    """Words that begin, end or hold a unit among words that do not."""
    return word_lists.sort_words(session, whose, seed, unit, place, half)


@router.get("/ladder", responses=NOT_FOUND)
def make_ladder(
    session: Db,
    whose: Whose,
    seed: Seed = 0,
    count: Annotated[int, Query(ge=1, le=12)] = 6,
    practise: Annotated[list[Annotated[str, Field(max_length=4)]] | None, Query(max_length=12)] = None,
) -> list[DrawnWord]:
    """Words to dictate, from two units to four."""
    return word_lists.ladder_words(session, whose, seed, count, frozenset(practise or ()))


@router.get("/sentence", responses=NOT_FOUND)
def look_at_sentence(session: Db, whose: Whose, text: Text) -> SentenceView:
    """A sentence looked at: what is not taught, how it begins and ends, how long it takes."""
    return sentences.look_at(session, whose, text)


@router.get("/sentences", responses=NOT_FOUND)
def list_sentences(session: Db, whose: Whose, holds: Word = "") -> SentenceList:
    """Sentences of the bank within reach."""
    return sentences.within_reach(session, whose, holds)


@router.get("/joined", responses=NOT_FOUND)
def draw_joined(
    session: Db, class_id: RecordId, text: Annotated[str, Query(min_length=1, max_length=20)]
) -> LetterDrawing:
    """A word in the joined hand of a class."""
    return word_lists.joined_form(session, class_id, text)


@router.get("/time", responses=NOT_FOUND)
def tell_time(
    session: Db,
    class_id: RecordId,
    text: Annotated[list[Annotated[str, Field(max_length=200)]], Query(min_length=1, max_length=60)],
) -> TimeView:
    """How long texts take the class to write."""
    return word_lists.writing_time(session, class_id, text)
