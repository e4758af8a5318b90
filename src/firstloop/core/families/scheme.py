"""A scheme is a list of families; a family is a rule over the moves of a letter."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from firstloop.core.families.distance import edit_distance
from firstloop.core.letterforms.model import Letter

Rule = Callable[[Letter], str | None]
"""Says why a letter belongs, or None when it does not."""


@dataclass(frozen=True)
class Family:
    """One family: a name, its rule in plain words, and the rule itself."""

    key: str
    name: str
    rule_words: str
    rule: Rule


@dataclass(frozen=True)
class Scheme:
    """An ordered list of families; a letter joins the first whose rule takes it."""

    key: str
    name: str
    families: tuple[Family, ...]


@dataclass(frozen=True)
class Membership:
    """A letter in a family, and why."""

    char: str
    reason: str


@dataclass(frozen=True)
class Grouping:
    """A family with the letters its rule took, each next to the one most like it."""

    family: Family
    members: tuple[Membership, ...]


def _in_teaching_order(letters: list[Letter]) -> list[Letter]:
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


def group(letters: Iterable[Letter], scheme: Scheme) -> tuple[Grouping, ...]:
    """Sort `letters` into the families of `scheme`.

    Returns
    -------
    One grouping a family, in the order of the scheme; a family may be empty. A letter that no rule
    takes is left out, so a scheme that must hold every letter ends with a family that takes the rest.
    """
    taken: dict[str, list[tuple[Letter, str]]] = {family.key: [] for family in scheme.families}
    for letter in letters:
        for family in scheme.families:
            reason = family.rule(letter)
            if reason is not None:
                taken[family.key].append((letter, reason))
                break
    groupings = []
    for family in scheme.families:
        why = {letter.char: reason for letter, reason in taken[family.key]}
        order = _in_teaching_order([letter for letter, _ in taken[family.key]])
        groupings.append(Grouping(family, tuple(Membership(one.char, why[one.char]) for one in order)))
    return tuple(groupings)
