"""Families: schemes, the class's own board, comparing, splitting, and the order of sounds."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Query
from pydantic import Field
from sqlalchemy.orm import Session

from firstloop.api.deps import ClassId, Db
from firstloop.api.given import AlphabetKey, Given, LetterChar, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import CONFLICT, NOT_FOUND
from firstloop.core.families.board import NAME_MOST
from firstloop.services import families, family_rules, sounds
from firstloop.services.families import (
    BoardPlace,
    BoardView,
    FamilyPartView,
    MovedLetter,
)
from firstloop.services.family_rules import MoveWord, RulePreview
from firstloop.services.sounds import SoundsView

router = resource("families")
Alphabet = Annotated[AlphabetKey, Query()]
SchemeKey = Literal["by-movement", "by-first-move", "by-height", "by-join"]
Name = Annotated[str, Field(min_length=1, max_length=NAME_MOST)]
Key = Annotated[str, Field(min_length=1, max_length=60)]
Char = Annotated[str, Field(min_length=1, max_length=1)]
PartLetters = Annotated[str, Field(min_length=1, max_length=26)]


class Move(Given):
    """Put a letter into a family by hand, before another or last; without one the rules place it again."""

    action: Literal["move"]
    letter: Char
    family: Key | None = None
    before: Annotated[str, Field(max_length=1)] | None = None


class Rename(Given):
    """Give a family another name."""

    action: Literal["rename"]
    family: Key
    name: Name


class NewRule(Given):
    """Give a family another rule; an empty one means that letters are put in by hand."""

    action: Literal["rule"]
    family: Key
    rule: str = Field(max_length=400)


class Add(Given):
    """A new family, by rule or by hand."""

    action: Literal["add"]
    name: Name
    rule: str = Field(default="", max_length=400)


class Merge(Given):
    """Put one family into another."""

    action: Literal["merge"]
    family: Key
    into: Key


class Split(Given):
    """Cut a family into the given parts."""

    action: Literal["split"]
    family: Key
    parts: list[list[Char]] = Field(min_length=2, max_length=26)


class OrderFamilies(Given):
    """Let the families stand in this order."""

    action: Literal["order"]
    families: list[Key] = Field(min_length=1, max_length=60)


Change = Annotated[
    Move | Rename | NewRule | Add | Merge | Split | OrderFamilies, Field(discriminator="action")
]


class ChangeIn(Given):
    """One change to a board."""

    change: Change


class SoundsIn(Given):
    """One set a line, sounds with spaces between them."""

    text: str = Field(max_length=2000)


def _changed(session: Session, place: BoardPlace, change: Change) -> BoardView:
    match change:
        case Move(letter=char, family=key, before=before):
            made = families.move(session, place, char, key, before)
        case OrderFamilies(families=keys):
            made = families.order_families(session, place, keys)
        case Rename(family=key, name=name):
            made = families.rename(session, place, key, name)
        case NewRule(family=key, rule=rule):
            made = families.set_rule(session, place, key, rule)
        case Add(name=name, rule=rule):
            made = families.add(session, place, name, rule)
        case Merge(family=key, into=into):
            made = families.merge(session, place, key, into)
        case Split(family=key, parts=parts):
            made = families.split_into(session, place, key, parts)
    return made


@router.get("/families", responses=NOT_FOUND)
def get_families(
    session: Db,
    class_id: ClassId = None,
    scheme: SchemeKey = "by-movement",
    alphabet: Alphabet = "lower case",
) -> BoardView:
    """The families of a scheme as the class has them, each letter with its reason."""
    return families.view(session, BoardPlace(class_id, scheme, alphabet))


@router.post("/classes/{class_id}/families", responses={**NOT_FOUND})
def change_families(
    session: Db, class_id: RecordId, given: ChangeIn, scheme: SchemeKey, alphabet: Alphabet
) -> BoardView:
    """Change the board by one step that can be taken back."""
    return _changed(session, BoardPlace(class_id, scheme, alphabet), given.change)


@router.post("/classes/{class_id}/families/undo", responses={**NOT_FOUND, **CONFLICT})
def undo_families(session: Db, class_id: RecordId, scheme: SchemeKey, alphabet: Alphabet) -> BoardView:
    """Take the latest step on the board back."""
    return families.undo(session, BoardPlace(class_id, scheme, alphabet))


@router.get("/families/compare", responses=NOT_FOUND)
def compare_families(
    session: Db,
    first: SchemeKey,
    second: SchemeKey,
    class_id: ClassId = None,
    alphabet: Alphabet = "lower case",
) -> list[MovedLetter]:
    """Letters that change company from one scheme to another, and why."""
    before, after = (BoardPlace(class_id, scheme, alphabet) for scheme in (first, second))
    return families.compared(session, before, after)


@router.get("/families/split", responses={**NOT_FOUND})
def split_family(
    session: Db,
    family: Annotated[str, Query(max_length=60)],
    most: Annotated[int, Query(ge=1, le=26)] = 4,
    class_id: ClassId = None,
    scheme: SchemeKey = "by-movement",
    alphabet: Alphabet = "lower case",
    part: Annotated[list[PartLetters] | None, Query(max_length=26)] = None,
) -> list[FamilyPartView]:
    """Parts of teachable size: made alike together, look-alikes apart, even; or what to say of given ones."""
    place = BoardPlace(class_id, scheme, alphabet)
    if part:
        return families.parts_as_wanted(session, place, family, part)
    return families.proposed_parts(session, place, family, most)


@router.get("/families/moves/{char}", responses=NOT_FOUND)
def get_moves_for_a_rule(session: Db, char: LetterChar, class_id: ClassId = None) -> list[MoveWord]:
    """The moves of a letter, as a rule names them, each with its picture."""
    return family_rules.moves_of(session, class_id, char)


@router.get("/families/rule", responses={**NOT_FOUND})
def preview_rule(
    session: Db,
    rule: Annotated[str, Query(min_length=1, max_length=400)],
    family: Annotated[str, Query(max_length=60)] = "",
    class_id: ClassId = None,
    scheme: SchemeKey = "by-movement",
    alphabet: Alphabet = "lower case",
) -> RulePreview:
    """Which letters a rule would have before it is used, in a family that is there or in a new one."""
    return family_rules.preview(session, BoardPlace(class_id, scheme, alphabet), family or None, rule)


@router.get("/classes/{class_id}/sounds", responses=NOT_FOUND)
def get_sounds(session: Db, class_id: RecordId) -> SoundsView:
    """The school's own order of sounds, in sets."""
    return sounds.view(session, class_id)


@router.put("/classes/{class_id}/sounds", responses={**NOT_FOUND})
def set_sounds(session: Db, class_id: RecordId, given: SoundsIn) -> SoundsView:
    """Set the order of sounds, one set a line."""
    return sounds.keep(session, class_id, given.text)
