"""A scheme is a list of families; a family is a rule over the moves of a letter."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import lru_cache

from firstloop.core.families.distance import edit_distance
from firstloop.core.families.rules import read_rule
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.message import Message

Reason = Callable[[Letter], Message]
"""Says better than the rule itself why a letter belongs."""


@dataclass(frozen=True)
class Family:
    """One family and its rule. Its name stands in the catalogue.

    Parameters
    ----------
    rule : str
        For :func:`read_rule`: "begins with: down, back, over".
    reason : callable, optional
        Gives a better reason than the rule itself does.
    """

    key: str
    rule: str
    reason: Reason | None = None

    def why(self, letter: Letter, style: HouseStyle = DEFAULT_STYLE) -> Message | None:
        """Why a letter belongs, or None when it does not."""
        found = _reason(self.rule, letter, style)
        return self.reason(letter) if found is not None and self.reason else found


@lru_cache(maxsize=8192)
def _reason(rule: str, letter: Letter, style: HouseStyle) -> Message | None:
    return read_rule(rule).why(letter, style)


@dataclass(frozen=True)
class Scheme:
    """An ordered list of families; a letter joins the first whose rule takes it."""

    key: str
    families: tuple[Family, ...]

    def place(self, letter: Letter, style: HouseStyle = DEFAULT_STYLE) -> tuple[str, Message] | None:
        """Key of the family whose rule takes the letter, and why; None where no rule does."""
        for family in self.families:
            reason = family.why(letter, style)
            if reason is not None:
                return family.key, reason
        return None


@dataclass(frozen=True)
class Membership:
    """A letter in a family, and why."""

    char: str
    reason: Message


@dataclass(frozen=True)
class Grouping:
    """A family with the letters its rule took, each next to the one most like it."""

    family: Family
    members: tuple[Membership, ...]


def in_teaching_order(letters: Iterable[Letter]) -> list[Letter]:
    """Begin with the fewest moves, then always the letter nearest to one already taught."""
    left = sorted(letters, key=lambda one: (sum(map(len, one.kinds)), one.char))
    taught: list[Letter] = []
    while left:
        pick = left[0]
        if taught:
            pick = min(left, key=lambda one: (min(edit_distance(one, old) for old in taught), one.char))
        left.remove(pick)
        taught.append(pick)
    return taught


def group(
    letters: Iterable[Letter], scheme: Scheme, style: HouseStyle = DEFAULT_STYLE
) -> tuple[Grouping, ...]:
    """Sort `letters` into the families of `scheme`.

    Returns
    -------
    One grouping a family, in the order of the scheme; a family may be empty. A letter that no rule
    takes is left out, so a scheme that must hold every letter ends with a family that takes the rest.
    """
    taken: dict[str, list[tuple[Letter, Message]]] = {family.key: [] for family in scheme.families}
    for letter in letters:
        placed = scheme.place(letter, style)
        if placed is not None:
            taken[placed[0]].append((letter, placed[1]))
    groupings = []
    for family in scheme.families:
        why = {letter.char: reason for letter, reason in taken[family.key]}
        order = in_teaching_order([letter for letter, _ in taken[family.key]])
        groupings.append(Grouping(family, tuple(Membership(one.char, why[one.char]) for one in order)))
    return tuple(groupings)
