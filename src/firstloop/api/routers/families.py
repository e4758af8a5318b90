"""Families: schemes, the class's own board, comparing, splitting, and the order of sounds."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from firstloop.api import families
from firstloop.api.deps import ClassId, Db, style_of
from firstloop.api.errors import CONFLICT, NOT_FOUND
from firstloop.api.families import AlphabetKey, BoardOut, ChangeIn, MovedOut, PartOut, SchemeKey
from firstloop.api.schemas import RecordId
from firstloop.store import boards as store
from firstloop.store.classes import get_class

router = APIRouter(tags=["families"])
Alphabet = Annotated[AlphabetKey, Query()]


@router.get("/families", responses=NOT_FOUND)
def get_families(
    session: Db,
    class_id: ClassId = None,
    scheme: SchemeKey = "by-movement",
    alphabet: Alphabet = "lower case",
) -> BoardOut:
    """The families of a scheme as the class has them, each letter with its reason."""
    return families.board_out(session, class_id, scheme, alphabet, style_of(session, class_id))


@router.post("/classes/{class_id}/families", responses={**NOT_FOUND})
def change_families(
    session: Db, class_id: RecordId, given: ChangeIn, scheme: SchemeKey, alphabet: Alphabet
) -> BoardOut:
    """Change the board by one step that can be taken back."""
    style = style_of(session, class_id)
    families.change_board(session, class_id, scheme, alphabet, style, given.change)
    return families.board_out(session, class_id, scheme, alphabet, style)


@router.post("/classes/{class_id}/families/undo", responses={**NOT_FOUND, **CONFLICT})
def undo_families(session: Db, class_id: RecordId, scheme: SchemeKey, alphabet: Alphabet) -> BoardOut:
    """Take the latest step on the board back."""
    style = style_of(session, class_id)
    store.undo(session, class_id, scheme, alphabet)
    return families.board_out(session, class_id, scheme, alphabet, style)


@router.get("/families/compare", responses=NOT_FOUND)
def compare_families(
    session: Db,
    first: SchemeKey,
    second: SchemeKey,
    class_id: ClassId = None,
    alphabet: Alphabet = "lower case",
) -> list[MovedOut]:
    """Letters that change company from one scheme to another, and why."""
    style = style_of(session, class_id)
    before, after = (families.columns(session, class_id, one, alphabet, style) for one in (first, second))
    return families.moved_out(before, after)


@router.get("/families/split", responses={**NOT_FOUND})
def split_family(
    session: Db,
    family: Annotated[str, Query(max_length=60)],
    most: Annotated[int, Query(ge=1, le=26)] = 4,
    class_id: ClassId = None,
    scheme: SchemeKey = "by-movement",
    alphabet: Alphabet = "lower case",
) -> list[PartOut]:
    """Parts of teachable size: made alike together, look-alikes apart, even."""
    style = style_of(session, class_id)
    chars = families.family_chars(session, class_id, scheme, alphabet, style, family)
    return families.proposed_parts(chars, most, style)


@router.get("/classes/{class_id}/sounds", responses=NOT_FOUND)
def get_sounds(session: Db, class_id: RecordId) -> families.SoundsOut:
    """The school's own order of sounds, in sets."""
    return families.sounds_out(session, class_id, style_of(session, class_id))


@router.put("/classes/{class_id}/sounds", responses={**NOT_FOUND})
def set_sounds(session: Db, class_id: RecordId, given: families.SoundsIn) -> families.SoundsOut:
    """Set the order of sounds, one set a line."""
    get_class(session, class_id)
    families.keep_sounds(session, class_id, given.text)
    return families.sounds_out(session, class_id, style_of(session, class_id))
