"""Families: schemes, the class's own board step by step, comparing and splitting."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import look_alikes
from firstloop.core.families import SCHEMES, board
from firstloop.core.families.board import Arrangement, Column, OwnFamily
from firstloop.core.families.rules import CLAUSES, WORDS
from firstloop.core.families.splitting import split, told
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.services.letters import LetterDrawing, drawing, ring_of
from firstloop.store import boards as store
from firstloop.store.classes import get_class
from firstloop.store.styles import style_of_class
from firstloop.text import put, say
from firstloop.text.families import about, family_names, part_reason


@dataclass(frozen=True)
class MemberView:
    """A letter in a family, and why; ``ring`` is where the mark of its start stands, SVG units.

    ``by_rule`` is the family its rule would put it in, where it was moved by hand.
    """

    drawing: LetterDrawing
    ring: list[float]
    reason: str
    by_hand: bool = False
    by_rule: str | None = None


@dataclass(frozen=True)
class FamilyView:
    """A family of letters; ``rule`` can be edited, ``words`` say the same to people."""

    key: str
    name: str
    rule: str
    words: str
    members: list[MemberView]


@dataclass(frozen=True)
class BoardView:
    """The families of one scheme and alphabet as the class has them."""

    scheme: str
    name: str
    alphabet: str
    families: list[FamilyView]
    can_undo: bool
    clauses: list[str]
    words: list[str]


@dataclass(frozen=True)
class MovedLetter:
    """A letter that stands elsewhere in the second grouping, and why; ``parts`` if most of its family goes
    another way."""

    letter: str
    before: str
    after: str
    reason: str
    parts: bool


@dataclass(frozen=True)
class FamilyPartView:
    """Some letters of a family, and why they are together."""

    letters: list[str]
    reason: str


@dataclass(frozen=True)
class BoardPlace:
    """Which board: of a class (or of none: the bare scheme), by which scheme, of which alphabet."""

    class_id: int | None
    scheme: str
    alphabet: str


def _arrangement(document: dict[str, Any] | None, scheme: str) -> Arrangement:
    if document is None:
        return board.from_scheme(SCHEMES[scheme], family_names(SCHEMES[scheme]))
    families = tuple(OwnFamily(**one) for one in document["families"])
    return Arrangement(
        families,
        tuple((char, key) for char, key in document["placed"]),
        tuple(document.get("shown", ())),
        tuple((key, chars) for key, chars in document.get("orders", ())),
    )


def present(session: Session, place: BoardPlace) -> Arrangement:
    """A board as it stands: the class's own, or the bare scheme."""
    kept = None
    if place.class_id is not None:
        kept = store.present(session, place.class_id, place.scheme, place.alphabet)
    return _arrangement(kept, place.scheme)


def columns(
    session: Session, class_id: int | None, scheme: str, alphabet: str, style: HouseStyle
) -> tuple[Column, ...]:
    """The board of a class, or the bare scheme without one."""
    letters = [plain(char, style) for char in ALPHABETS[alphabet]]
    here = present(session, BoardPlace(class_id, scheme, alphabet))
    return board.arranged(letters, here, SCHEMES[scheme], style)


def _columns(session: Session, place: BoardPlace) -> tuple[Column, ...]:
    style = style_of_class(session, place.class_id)
    return columns(session, place.class_id, place.scheme, place.alphabet, style)


def _member(member: board.Member, style: HouseStyle) -> MemberView:
    model = letter(member.char, style)
    return MemberView(drawing(model), ring_of(model), put(member.reason), member.by_hand, member.by_rule)


def view(session: Session, place: BoardPlace) -> BoardView:
    """A board to be shown. Families of the scheme itself that hold no letter are left out.

    Raises
    ------
    NotFoundError
    """
    scheme = SCHEMES[place.scheme]
    given, names = {family.key: family for family in scheme.families}, family_names(scheme)
    style = style_of_class(session, place.class_id)
    families = []
    for column in _columns(session, place):
        family = column.family
        if not column.places and names.get(family.key) == family.name:
            continue
        same_rule = family.key in given and given[family.key].rule == family.rule
        words = about(scheme, family.key) if same_rule else family.rule or say("family.by-hand")
        members = [_member(one, style) for one in column.places]
        families.append(FamilyView(family.key, family.name, family.rule, words, members))
    kept = place.class_id is not None and store.present(session, place.class_id, place.scheme, place.alphabet)
    return BoardView(
        scheme=scheme.key,
        name=say(f"scheme.{scheme.key}"),
        alphabet=place.alphabet,
        families=families,
        can_undo=bool(kept),
        clauses=list(CLAUSES),
        words=list(WORDS),
    )


def _step(session: Session, place: BoardPlace, change: Callable[[Arrangement], Arrangement]) -> BoardView:
    """Make one change and keep it as a step that can be taken back."""
    assert place.class_id is not None
    get_class(session, place.class_id)
    new = change(present(session, place))
    document = {
        "families": [asdict(one) for one in new.families],
        "placed": [list(one) for one in new.placed],
        "shown": list(new.shown),
        "orders": [list(one) for one in new.orders],
    }
    store.keep(session, place.class_id, place.scheme, place.alphabet, document)
    session.commit()
    return view(session, place)


def move(
    session: Session, place: BoardPlace, char: str, key: str | None, before: str | None = None
) -> BoardView:
    """Put a letter into a family by hand; without a family the rules place it again.

    Parameters
    ----------
    before : str, optional
        The letter of that family that it comes to stand before; empty for the last place. In its own family
        a letter only changes its place.

    Raises
    ------
    NotFoundError, BoardError
    """
    if key is None:
        return _step(session, place, lambda here: board.back_to_rule(here, char))
    if char not in ALPHABETS[place.alphabet]:
        raise board.BoardError(f"{char} is not on this board")
    members = _members(session, place, key)
    others = [one for one in members if one != char]
    at = others.index(before) if before in others else len(others)

    def change(here: Arrangement) -> Arrangement:
        there = here if char in members else board.move(here, char, key)
        if before is None:
            return there
        return board.order_letters(there, key, "".join([*others[:at], char, *others[at:]]))

    return _step(session, place, change)


def order_families(session: Session, place: BoardPlace, keys: Sequence[str]) -> BoardView:
    """Let families stand in this order.

    Raises
    ------
    NotFoundError, BoardError
    """
    return _step(session, place, lambda here: board.order_families(here, keys))


def rename(session: Session, place: BoardPlace, key: str, name: str) -> BoardView:
    """Give a family another name.

    Raises
    ------
    NotFoundError, BoardError
    """
    return _step(session, place, lambda here: board.rename(here, key, name))


def set_rule(session: Session, place: BoardPlace, key: str, rule: str) -> BoardView:
    """Give a family another rule; an empty one means that letters are put in by hand.

    Raises
    ------
    NotFoundError, BoardError, RuleError
    """
    return _step(session, place, lambda here: board.with_rule(here, key, rule))


def add(session: Session, place: BoardPlace, name: str, rule: str) -> BoardView:
    """A new family, by rule or by hand.

    Raises
    ------
    NotFoundError, BoardError, RuleError
    """
    return _step(session, place, lambda here: board.add(here, name, rule))


def merge(session: Session, place: BoardPlace, key: str, into: str) -> BoardView:
    """Put one family into another.

    Raises
    ------
    NotFoundError, BoardError
    """
    members = _members(session, place, key)
    return _step(session, place, lambda here: board.merge(here, key, into, members))


def split_into(session: Session, place: BoardPlace, key: str, parts: Sequence[Sequence[str]]) -> BoardView:
    """Cut a family into the given parts.

    Raises
    ------
    NotFoundError, BoardError
        If the parts do not hold every letter of the family once.
    """
    if sorted(char for part in parts for char in part) != sorted(_members(session, place, key)):
        raise board.BoardError("the parts must hold every letter of the family once")
    return _step(session, place, lambda here: board.split_into(here, key, parts))


def undo(session: Session, place: BoardPlace) -> BoardView:
    """Take the latest step on the board back.

    Raises
    ------
    NotFoundError, ConflictError
    """
    assert place.class_id is not None
    store.undo(session, get_class(session, place.class_id).id, place.scheme, place.alphabet)
    session.commit()
    return view(session, place)


def _members(session: Session, place: BoardPlace, key: str) -> list[str]:
    return [
        one.char for column in _columns(session, place) if column.family.key == key for one in column.places
    ]


def moved_letters(before: tuple[Column, ...], after: tuple[Column, ...]) -> list[MovedLetter]:
    """Letters that change family."""
    return [
        MovedLetter(one.char, one.before, one.after, put(one.reason), one.parts)
        for one in board.compare(before, after)
    ]


def compared(session: Session, first: BoardPlace, second: BoardPlace) -> list[MovedLetter]:
    """Letters that change company from one board to another, and why.

    Raises
    ------
    NotFoundError
    """
    return moved_letters(_columns(session, first), _columns(session, second))


def proposed_parts(session: Session, place: BoardPlace, key: str, most: int) -> list[FamilyPartView]:
    """How a family would be split into parts of at most `most`.

    Raises
    ------
    NotFoundError, BoardError
    """
    style = style_of_class(session, place.class_id)
    if key not in {column.family.key for column in _columns(session, place)}:
        raise board.BoardError(f"there is no family {key!r} on this board")
    chars = _members(session, place, key)
    parts = split([plain(char, style) for char in chars], most, _look_alikes(chars, style))
    return [FamilyPartView(list(part.chars), part_reason(part)) for part in parts]


def _look_alikes(chars: Sequence[str], style: HouseStyle) -> frozenset[frozenset[str]]:
    """Letters among these that are easily taken for one another."""
    return frozenset(
        frozenset({char, other.char})
        for char in chars
        for other in look_alikes(char, style)
        if other.char in chars
    )


def parts_as_wanted(
    session: Session, place: BoardPlace, key: str, parts: Sequence[str]
) -> list[FamilyPartView]:
    """What is to be said of a family split as the teacher wants it.

    Raises
    ------
    NotFoundError, BoardError
        If the parts do not hold every letter of the family once.
    """
    style = style_of_class(session, place.class_id)
    chars = _members(session, place, key)
    if sorted("".join(parts)) != sorted(chars):
        raise board.BoardError("the parts must hold every letter of the family once")
    letters = [[plain(char, style) for char in part] for part in parts]
    return [
        FamilyPartView(list(part.chars), part_reason(part, as_wanted=True))
        for part in told(letters, _look_alikes(chars, style))
    ]
