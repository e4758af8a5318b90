"""Families for the wire: schemes, the class's own board, comparing and splitting."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from firstloop.api.models import LetterDrawing, drawing, ring_of
from firstloop.api.schemas import Given
from firstloop.core.check.lookalikes import look_alikes
from firstloop.core.families import SCHEMES, board, sounds
from firstloop.core.families.board import Arrangement, Column, OwnFamily
from firstloop.core.families.rules import CLAUSES, WORDS
from firstloop.core.families.splitting import split
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.store import boards as store

BY_SOUND = "by-sound"
SchemeKey = Literal["by-movement", "by-first-move", "by-height", "by-join"]
AlphabetKey = Literal["lower case", "capitals", "digits", "marks"]
Name = Annotated[str, Field(min_length=1, max_length=board.NAME_MOST)]
Key = Annotated[str, Field(min_length=1, max_length=60)]
Char = Annotated[str, Field(min_length=1, max_length=1)]


class MemberOut(BaseModel):
    """A letter in a family, and why; ``ring`` is where the mark of its start stands, SVG units.

    ``by_rule`` is the family its rule would put it in, where it was moved by hand.
    """

    drawing: LetterDrawing
    ring: list[float]
    reason: str
    by_hand: bool = False
    by_rule: str | None = None


class FamilyOut(BaseModel):
    """A family of letters; ``rule`` can be edited, ``words`` say the same to people."""

    key: str
    name: str
    rule: str
    words: str
    members: list[MemberOut]


class BoardOut(BaseModel):
    """The families of one scheme and alphabet as the class has them."""

    scheme: str
    name: str
    alphabet: str
    families: list[FamilyOut]
    can_undo: bool
    clauses: list[str]
    words: list[str]


class Move(Given):
    """Put a letter into a family by hand; without a family the rules place it again."""

    action: Literal["move"]
    letter: Char
    family: Key | None = None


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


Change = Annotated[Move | Rename | NewRule | Add | Merge | Split, Field(discriminator="action")]


class ChangeIn(Given):
    """One change to a board."""

    change: Change


class MovedOut(BaseModel):
    """A letter that stands elsewhere in the second grouping, and why."""

    letter: str
    before: str
    after: str
    reason: str


class PartOut(BaseModel):
    """Some letters of a family, and why they are together."""

    letters: list[str]
    reason: str


class SoundUnitOut(BaseModel):
    """A sound as it is written."""

    text: str
    drawing: LetterDrawing


class SoundSetOut(BaseModel):
    """Sounds taught together."""

    number: int
    units: list[SoundUnitOut]


class SoundsOut(BaseModel):
    """The school's own order of sounds; ``text`` is what was typed."""

    text: str
    sets: list[SoundSetOut]
    can_undo: bool


class SoundsIn(Given):
    """One set a line, sounds with spaces between them."""

    text: str = Field(max_length=2000)


def _letters(alphabet: str, style: HouseStyle) -> list[Any]:
    return [plain(char, style) for char in ALPHABETS[alphabet]]


def _arrangement(document: dict[str, Any] | None, scheme: str) -> Arrangement:
    if document is None:
        return board.from_scheme(SCHEMES[scheme])
    families = tuple(OwnFamily(**one) for one in document["families"])
    return Arrangement(families, tuple((char, key) for char, key in document["placed"]))


def columns(
    session: Session, class_id: int | None, scheme: str, alphabet: str, style: HouseStyle
) -> tuple[Column, ...]:
    """The board of a class, or the bare scheme without one."""
    document = None if class_id is None else store.present(session, class_id, scheme, alphabet)
    here = _arrangement(document, scheme)
    return board.arranged(_letters(alphabet, style), here, SCHEMES[scheme], style)


def _member(char: str, style: HouseStyle, reason: str, by_hand: bool, by_rule: str | None) -> MemberOut:
    model = letter(char, style)
    return MemberOut(
        drawing=drawing(model), ring=ring_of(model), reason=reason, by_hand=by_hand, by_rule=by_rule
    )


def board_out(
    session: Session, class_id: int | None, scheme: str, alphabet: str, style: HouseStyle
) -> BoardOut:
    """A board for the wire. Families of the scheme itself that hold no letter are left out."""
    given = {family.key: family for family in SCHEMES[scheme].families}
    families = []
    for column in columns(session, class_id, scheme, alphabet, style):
        family = column.family
        untouched = family.key in given and given[family.key].name == family.name
        if not column.places and untouched:
            continue
        same_rule = family.key in given and given[family.key].rule == family.rule
        families.append(
            FamilyOut(
                key=family.key,
                name=family.name,
                rule=family.rule,
                words=given[family.key].words if same_rule else family.rule or "letters put here by hand",
                members=[_member(p.char, style, p.reason, p.by_hand, p.by_rule) for p in column.places],
            )
        )
    return BoardOut(
        scheme=scheme,
        name=SCHEMES[scheme].name,
        alphabet=alphabet,
        families=families,
        can_undo=class_id is not None and store.present(session, class_id, scheme, alphabet) is not None,
        clauses=list(CLAUSES),
        words=list(WORDS),
    )


def change_board(
    session: Session, class_id: int, scheme: str, alphabet: str, style: HouseStyle, change: Change
) -> None:
    """Make one change and keep it as a step.

    Raises
    ------
    BoardError, RuleError
    """
    here = _arrangement(store.present(session, class_id, scheme, alphabet), scheme)
    match change:
        case Move(letter=char, family=None):
            new = board.back_to_rule(here, char)
        case Move(letter=char, family=str(key)):
            new = board.move(here, _known(char, alphabet), key)
        case Rename(family=key, name=name):
            new = board.rename(here, key, name)
        case NewRule(family=key, rule=rule):
            new = board.with_rule(here, key, rule)
        case Add(name=name, rule=rule):
            new = board.add(here, name, rule)
        case Merge(family=key, into=into):
            members = _members(session, class_id, scheme, alphabet, style, key)
            new = board.merge(here, key, into, members)
        case Split(family=key, parts=parts):
            members = _members(session, class_id, scheme, alphabet, style, key)
            if sorted(char for part in parts for char in part) != sorted(members):
                raise board.BoardError("the parts must hold every letter of the family once")
            new = board.split_into(here, key, parts)
    document = {
        "families": [asdict(one) for one in new.families],
        "placed": [list(one) for one in new.placed],
    }
    store.keep(session, class_id, scheme, alphabet, document)


def _known(char: str, alphabet: str) -> str:
    if char not in ALPHABETS[alphabet]:
        raise board.BoardError(f"{char} is not on this board")
    return char


def _members(
    session: Session, class_id: int, scheme: str, alphabet: str, style: HouseStyle, key: str
) -> list[str]:
    found = columns(session, class_id, scheme, alphabet, style)
    return [place.char for column in found if column.family.key == key for place in column.places]


def moved_out(before: tuple[Column, ...], after: tuple[Column, ...]) -> list[MovedOut]:
    """Letters that change family."""
    return [
        MovedOut(letter=one.char, before=one.before, after=one.after, reason=one.reason)
        for one in board.compare(before, after)
    ]


def proposed_parts(chars: list[str], most: int, style: HouseStyle) -> list[PartOut]:
    """How a family would be split."""
    apart = frozenset(
        frozenset({char, other.char})
        for char in chars
        for other in look_alikes(char, style)
        if other.char in chars
    )
    parts = split([plain(char, style) for char in chars], most, apart)
    return [PartOut(letters=list(part.chars), reason=part.reason) for part in parts]


def family_chars(
    session: Session, class_id: int | None, scheme: str, alphabet: str, style: HouseStyle, key: str
) -> list[str]:
    """The letters that stand in one family now.

    Raises
    ------
    BoardError
    """
    found = [c for c in columns(session, class_id, scheme, alphabet, style) if c.family.key == key]
    if not found:
        raise board.BoardError(f"there is no family {key!r} on this board")
    return [place.char for place in found[0].places]


def sounds_out(session: Session, class_id: int, style: HouseStyle) -> SoundsOut:
    """The class's sound order; empty until one is typed."""
    document = store.present(session, class_id, BY_SOUND, "all")
    if document is None:
        return SoundsOut(text="", sets=[], can_undo=False)
    sets = [
        SoundSetOut(
            number=one.number,
            units=[SoundUnitOut(text=unit, drawing=_unit(unit, style)) for unit in one.units],
        )
        for one in sounds.read_sounds(document["text"])
    ]
    return SoundsOut(text=document["text"], sets=sets, can_undo=True)


def _unit(text: str, style: HouseStyle) -> LetterDrawing:
    return drawing(letter(text, style) if len(text) == 1 else word(text, style))


def keep_sounds(session: Session, class_id: int, text: str) -> None:
    """Keep a sound order once it can be read.

    Raises
    ------
    SoundError
    """
    sounds.read_sounds(text)
    store.keep(session, class_id, BY_SOUND, "all", {"text": text})
