"""A teacher's own arrangement of families, on top of a scheme.

Every change gives a new arrangement, so that a step back is simply the one before. A letter moved
by hand keeps the rule's verdict beside it.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from firstloop.core.families.rules import read_rule
from firstloop.core.families.scheme import Family, Scheme, in_teaching_order
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.message import Message, message

NAME_MOST = 40


class BoardError(ValueError):
    """A change that cannot be made; the message says why."""


@dataclass(frozen=True)
class OwnFamily:
    """A family as the teacher has it; without a rule, letters are put into it by hand."""

    key: str
    name: str
    rule: str = ""


@dataclass(frozen=True)
class Arrangement:
    """Families, and what the teacher moved by hand: letters, and the order of both.

    Parameters
    ----------
    families : tuple of OwnFamily
        In the order in which their rules are asked.
    placed : tuple of (char, key)
        Letters that stand where the teacher put them, whatever the rules say.
    shown : tuple of key
        The order in which families stand, as far as the teacher chose it; a rule is asked no sooner for it.
    orders : tuple of (key, chars)
        The order of letters in a family, as far as the teacher chose it.
    """

    families: tuple[OwnFamily, ...]
    placed: tuple[tuple[str, str], ...] = ()
    shown: tuple[str, ...] = ()
    orders: tuple[tuple[str, str], ...] = ()

    @property
    def in_order(self) -> tuple[OwnFamily, ...]:
        """Families as they stand; one that the teacher has not put anywhere keeps its place."""
        by_key = {one.key: one for one in self.families}
        keys = [key for key in self.shown if key in by_key]
        for at, one in enumerate(self.families):
            if one.key not in keys:
                keys.insert(at, one.key)
        return tuple(by_key[key] for key in keys)

    def family(self, key: str) -> OwnFamily:
        """One family.

        Raises
        ------
        BoardError
        """
        found = next((one for one in self.families if one.key == key), None)
        if found is None:
            raise BoardError(f"there is no family {key!r} on this board")
        return found


@dataclass(frozen=True)
class Member:
    """A letter on the board: where it stands, why, and what its rule says if that is another family."""

    char: str
    reason: Message
    by_hand: bool
    by_rule: str | None


@dataclass(frozen=True)
class Column:
    """A family with its letters in the teacher's order, or else in teaching order."""

    family: OwnFamily
    places: tuple[Member, ...]


def from_scheme(scheme: Scheme, names: Mapping[str, str]) -> Arrangement:
    """The scheme as it is, nothing moved, its families called by `names` (by key)."""
    return Arrangement(tuple(OwnFamily(one.key, names[one.key], one.rule) for one in scheme.families))


def _scheme(board: Arrangement, origin: Scheme) -> Scheme:
    reasons = {(one.key, one.rule): one.reason for one in origin.families}
    with_rule = [one for one in board.families if one.rule]
    return Scheme(
        origin.key,
        tuple(Family(one.key, one.rule, reasons.get((one.key, one.rule))) for one in with_rule),
    )


def arranged(
    letters: Iterable[Letter], board: Arrangement, origin: Scheme, style: HouseStyle = DEFAULT_STYLE
) -> tuple[Column, ...]:
    """Put every letter where the teacher, or else the first rule that takes it, has it.

    A letter that no rule takes comes into the last family.
    """
    scheme, placed = _scheme(board, origin), dict(board.placed)
    names = {one.key: one.name for one in board.families}
    columns: dict[str, list[tuple[Letter, Member]]] = {one.key: [] for one in board.families}
    for letter in letters:
        by_rule = scheme.place(letter, style)
        hand = placed.get(letter.char)
        key = hand or (by_rule[0] if by_rule else board.families[-1].key)
        reason = by_rule[1] if by_rule else message("reason.no-rule", char=letter.char)
        moved = hand is not None and (by_rule is None or by_rule[0] != hand)
        if moved and by_rule:
            reason = message("reason.elsewhere", family=names[by_rule[0]], reason=reason)
        place = Member(letter.char, reason, moved, by_rule[0] if by_rule else None)
        columns[key].append((letter, place))
    out, orders = [], dict(board.orders)
    for one in board.in_order:
        why = {letter.char: place for letter, place in columns[one.key]}
        chars = [letter.char for letter in in_teaching_order(letter for letter, _ in columns[one.key])]
        own = orders.get(one.key, "")
        chars.sort(key=lambda char, own=own: own.find(char) if char in own else len(own))  # type: ignore[misc]
        out.append(Column(one, tuple(why[char] for char in chars)))
    return tuple(out)


def move(board: Arrangement, char: str, key: str) -> Arrangement:
    """Put a letter into a family by hand."""
    board.family(key)
    rest = tuple((c, k) for c, k in board.placed if c != char)
    return replace(board, placed=tuple(sorted((*rest, (char, key)))))


def order_letters(board: Arrangement, key: str, chars: str) -> Arrangement:
    """Let the letters of a family stand in this order."""
    board.family(key)
    rest = tuple((k, own) for k, own in board.orders if k != key)
    return replace(board, orders=(*rest, (key, chars)))


def order_families(board: Arrangement, keys: Iterable[str]) -> Arrangement:
    """Let families stand in this order; those that are not named follow as they stood."""
    wanted = [board.family(key).key for key in dict.fromkeys(keys)]
    rest = [one.key for one in board.in_order if one.key not in wanted]
    return replace(board, shown=(*wanted, *rest))


def back_to_rule(board: Arrangement, char: str) -> Arrangement:
    """Let the rules say again where a letter stands."""
    return replace(board, placed=tuple((c, k) for c, k in board.placed if c != char))


def rename(board: Arrangement, key: str, name: str) -> Arrangement:
    """Give a family another name."""
    clean = _named(board, name, key)
    return _changed(board, replace(board.family(key), name=clean))


def with_rule(board: Arrangement, key: str, rule: str) -> Arrangement:
    """Give a family another rule; an empty one means by hand.

    Raises
    ------
    BoardError, RuleError
    """
    text = read_rule(rule).text if rule.strip() else ""
    return _changed(board, replace(board.family(key), rule=text))


def add(board: Arrangement, name: str, rule: str = "") -> Arrangement:
    """A new family, by rule or by hand. It stands first, so that its rule is asked first."""
    clean = _named(board, name)
    text = read_rule(rule).text if rule.strip() else ""
    return replace(board, families=(OwnFamily(_new_key(board, clean), clean, text), *board.families))


def merge(board: Arrangement, key: str, into: str, members: Iterable[str]) -> Arrangement:
    """Put one family into another.

    Where both rules are of one kind they become one rule with two ways; else the `members` that
    stand in the family now are moved by hand.
    """
    if key == into:
        raise BoardError("a family cannot be merged with itself")
    gone, kept = board.family(key), board.family(into)
    rule = _either(kept.rule, gone.rule)
    if rule is not None:
        board = _changed(board, replace(kept, rule=rule))
    else:
        for char in members:
            board = move(board, char, into)
    return replace(
        board,
        families=tuple(one for one in board.families if one.key != key),
        placed=tuple((c, into if k == key else k) for c, k in board.placed),
    )


def _either(one: str, two: str) -> str | None:
    """One rule for what either takes, where that can be said."""
    if not one or not two or ";" in one + two or one.partition(":")[0] != two.partition(":")[0]:
        return None
    return f"{one} or {two.partition(':')[2].strip()}"


def split_into(board: Arrangement, key: str, parts: Iterable[Iterable[str]]) -> Arrangement:
    """Cut a family into parts: the first keeps its name and rule, the others are filled by hand."""
    family = board.family(key)
    rest = list(parts)[1:]
    at = board.families.index(family) + 1
    for number, chars in enumerate(rest, start=2):
        name = _free_name(board, f"{family.name} {number}")
        made = OwnFamily(_new_key(board, name), name)
        board = replace(board, families=(*board.families[:at], made, *board.families[at:]))
        at += 1
        for char in chars:
            board = move(board, char, made.key)
    return board


def _changed(board: Arrangement, family: OwnFamily) -> Arrangement:
    return replace(board, families=tuple(family if f.key == family.key else f for f in board.families))


def _named(board: Arrangement, name: str, but: str = "") -> str:
    clean = " ".join(name.split())[:NAME_MOST]
    if not clean:
        raise BoardError("a family needs a name")
    if any(one.name == clean and one.key != but for one in board.families):
        raise BoardError(f"there is already a family called {clean}")
    return clean


def _free_name(board: Arrangement, name: str) -> str:
    names = {one.name for one in board.families}
    return next(free for free in (name, *(f"{name}.{i}" for i in range(2, 200))) if free not in names)


def _new_key(board: Arrangement, name: str) -> str:
    keys = {one.key for one in board.families}
    base = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "family"
    return next(k for k in (base, *(f"{base}-{i}" for i in range(2, 200))) if k not in keys)


@dataclass(frozen=True)
class Moved:
    """A letter that stands elsewhere in a second grouping, and the reason there.

    ``parts`` says whether it goes another way than most letters of its family.
    """

    char: str
    before: str
    after: str
    reason: Message
    parts: bool = False


def compare(before: tuple[Column, ...], after: tuple[Column, ...]) -> tuple[Moved, ...]:
    """Letters whose company changes, by the names of their families."""
    was = {place.char: column.family.name for column in before for place in column.places}
    ways: dict[str, Counter[str]] = {}
    for column in after:
        for place in column.places:
            ways.setdefault(was.get(place.char, ""), Counter())[column.family.name] += 1
    most = {family: there.most_common(1)[0][0] for family, there in ways.items()}

    def moved(place: Member, now: str) -> Moved:
        family = was.get(place.char, "")
        return Moved(place.char, family, now, place.reason, parts=most[family] != now)

    return tuple(
        moved(place, column.family.name)
        for column in after
        for place in column.places
        if was.get(place.char) != column.family.name
    )
