"""Splitting a large family into parts of teachable size.

Letters made alike stay together, look-alikes are kept apart, parts are even. A good first cut is
made along the teaching order; letters then change places for as long as that makes things better.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import combinations

from firstloop.core.families.distance import edit_distance
from firstloop.core.families.scheme import in_teaching_order
from firstloop.core.letterforms.model import Letter

APART_COST = 4.0  # as bad as letters that have four moves not in common


@dataclass(frozen=True)
class FamilyPart:
    """Some letters of a family, in teaching order, and what was minded in putting them together.

    Parameters
    ----------
    apart : tuple of pairs
        A letter of this part and its look-alike, which is kept in another.
    together : tuple of pairs
        Look-alikes that are in this part all the same.
    """

    chars: tuple[str, ...]
    apart: tuple[tuple[str, str], ...] = ()
    together: tuple[tuple[str, str], ...] = ()


def _sizes(count: int, most: int) -> list[int]:
    parts = -(-count // most)
    return [count // parts + (i < count % parts) for i in range(parts)]


def split(
    letters: Iterable[Letter], most: int, look_alikes: frozenset[frozenset[str]] = frozenset()
) -> tuple[FamilyPart, ...]:
    """Split letters into the fewest parts of at most `most`.

    Parameters
    ----------
    look_alikes : set of pairs
        Characters that should not be in one part.

    Raises
    ------
    ValueError
        If `most` is below 1.

    Examples
    --------
    Sizes never differ by more than one: seven letters in parts of at most three are 3, 2 and 2.
    """
    if most < 1:
        raise ValueError("a part needs at least one letter")
    order = in_teaching_order(letters)
    if not order:
        return ()
    cost = _PairCosts(order, look_alikes)
    parts: list[list[Letter]] = []
    for size in _sizes(len(order), most):
        parts.append(order[:size])
        order = order[size:]
    while _swap_once(parts, cost):
        pass
    return tuple(_part(in_teaching_order(part), parts, look_alikes) for part in parts)


class _PairCosts:
    """What it costs to have two letters in one part."""

    def __init__(self, letters: list[Letter], look_alikes: frozenset[frozenset[str]]) -> None:
        self._costs = {
            frozenset({a.char, b.char}): edit_distance(a, b)
            + (APART_COST if frozenset({a.char, b.char}) in look_alikes else 0.0)
            for a, b in combinations(letters, 2)
        }

    def within(self, part: list[Letter]) -> float:
        """All pairs of a part."""
        return sum(self._costs[frozenset({a.char, b.char})] for a, b in combinations(part, 2))


def _swap_once(parts: list[list[Letter]], cost: _PairCosts) -> bool:
    """Let the two letters change places that gain most by it; whether any did."""
    best, choice = -1e-9, None
    for one, two in combinations(range(len(parts)), 2):
        before = cost.within(parts[one]) + cost.within(parts[two])
        for i, a in enumerate(parts[one]):
            for j, b in enumerate(parts[two]):
                left = [*parts[one][:i], b, *parts[one][i + 1 :]]
                right = [*parts[two][:j], a, *parts[two][j + 1 :]]
                change = cost.within(left) + cost.within(right) - before
                if change < best:
                    best, choice = change, (one, two, left, right)
    if choice is None:
        return False
    one, two, parts[one], parts[two] = choice
    return True


def told(
    parts: Iterable[Iterable[Letter]], look_alikes: frozenset[frozenset[str]] = frozenset()
) -> tuple[FamilyPart, ...]:
    """What there is to say of parts as they are, whoever made them."""
    made = [list(part) for part in parts]
    return tuple(_part(part, made, look_alikes) for part in made)


def _part(
    part: list[Letter], parts: list[list[Letter]], look_alikes: frozenset[frozenset[str]]
) -> FamilyPart:
    chars = tuple(letter.char for letter in part)
    elsewhere = {letter.char for other in parts for letter in other} - set(chars)
    apart = sorted((a, b) for a in chars for b in elsewhere if frozenset({a, b}) in look_alikes)
    together = [(a, b) for a, b in combinations(chars, 2) if frozenset({a, b}) in look_alikes]
    return FamilyPart(chars, tuple(apart), tuple(together))
