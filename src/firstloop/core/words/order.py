"""The order in which units are taught, worked out from the bank and from nothing else.

Most words soonest: at every step the unit comes next that brings most words nearer to being written, a
word counting the more the less it still lacks. Words that name things count, because what is read and
written first wants something to point at. A unit of several letters waits for those letters. Units that
look or sound alike are kept apart: never in one set, nor in two that follow one another where anything
else can come first.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Callable, Mapping, Sequence

from firstloop.core.words.bank import Bank, Kind
from firstloop.core.words.units import SPLIT, sound_alike

SET_MOST = 4
LEAST_WORDS = 3  # a unit in fewer words of the bank is left to the school
_LESS = 6.0  # by how much less a word counts for every unit more that it lacks


def unit_sets(bank: Bank, look_alike: Callable[[str, str], bool]) -> list[tuple[str, ...]]:
    """Sets of units in the order in which they are best taught.

    Words to know by heart do not count: their units do not sound as usual.

    Parameters
    ----------
    look_alike : callable
        Whether two letters are easily taken for one another.
    """
    words = [word.sounds for word in bank if not word.by_heart and word.kind in (Kind.NAMING, None)]
    counts = Counter(unit for units in words for unit in units)
    left = {unit for unit, count in counts.items() if count >= LEAST_WORDS}
    lacking = [set(units) for units in words if units <= left]
    sets: list[list[str]] = [[]]
    while left:
        if len(sets[-1]) == SET_MOST:
            sets.append([])
        ready = [unit for unit in left if len(unit) == 1 or left.isdisjoint(unit.replace(SPLIT, ""))]
        in_set = _apart(ready, sets[-1], look_alike)
        if not in_set:
            sets.append([])
            continue
        worth = _worth(lacking)
        pool = _apart(in_set, sets[-2] if len(sets) > 1 else [], look_alike) or in_set
        unit = max(pool, key=lambda one: (worth[one], counts[one], one))
        sets[-1].append(unit)
        left.discard(unit)
        for word in lacking:
            word.discard(unit)
    return [tuple(one) for one in sets if one]


def _apart(units: Sequence[str], others: Sequence[str], look_alike: Callable[[str, str], bool]) -> list[str]:
    """Those units that are like none of the others."""
    return [unit for unit in units if not any(_alike(unit, other, look_alike) for other in others)]


def _worth(lacking: Sequence[set[str]]) -> Mapping[str, float]:
    """How much every unit would bring: over the words that lack it, by how little they lack."""
    worth: dict[str, float] = defaultdict(float)
    for word in lacking:
        for unit in word:
            worth[unit] += _LESS ** -len(word)
    return worth


def _alike(one: str, other: str, look_alike: Callable[[str, str], bool]) -> bool:
    letters = len(one) == len(other) == 1 and look_alike(one, other)
    return letters or sound_alike(one, other)


def words_by_set(bank: Bank, sets: Sequence[Sequence[str]]) -> list[int]:
    """How many words of the bank can be made after each set."""
    known: set[str] = set()
    out = []
    for one in sets:
        known.update(one)
        out.append(sum(word.sounds <= known for word in bank))
    return out
