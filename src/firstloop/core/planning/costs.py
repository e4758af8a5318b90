"""What an order of letters costs: one function, which the search asks and the screen explains.

Three things are wanted of an order and cannot all be had: that each letter is made like the one before
it, that words can be written soon, and that letters easily taken for one another come far apart.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

FORTNIGHT = 14
_WEEK = 7
LONG_AGO = -10_000
"""Day of a letter that was taught before all else: no look-alike comes too soon after it."""

Days = NDArray[np.float64]


@dataclass(frozen=True)
class Costs:
    """What an order costs; of each the less the better.

    Parameters
    ----------
    movement : float
        How unlike a letter is, on the mean, to the one before it: cost of turning its moves into those of
        the other (``families.distance``).
    words : float
        Share of the term, 0 to 1, that a word waits until all its letters are taught; the mean over words.
    apart : float
        Mean over pairs of look-alikes of one over the weeks between them.
    clashes : int
        Pairs of look-alikes that are new within a fortnight of each other.
    """

    movement: float
    words: float
    apart: float
    clashes: int


@dataclass(frozen=True, eq=False)
class Measure:
    """What orders of some letters are measured by.

    Parameters
    ----------
    chars : tuple of str
        All letters that count: those to be dealt out, then those whose day stands.
    free : int
        How many are to be dealt out.
    fixed_days : tuple of int
        Days of the others; :data:`LONG_AGO` for those taught before.
    distance : array, shape (chars, chars)
        How unlike two letters are to make.
    alike : sequence of (int, int)
        Pairs of look-alikes, by place in `chars`, of which at least one is to be dealt out.
    words : sequence of frozenset of str
        Words by their letters, each of `chars`.
    span : (int, int)
        First and last day over which words are waited for.
    """

    chars: tuple[str, ...]
    free: int
    fixed_days: tuple[int, ...]
    distance: NDArray[np.float64]
    alike: tuple[tuple[int, int], ...]
    words: tuple[frozenset[str], ...]
    span: tuple[int, int]

    @cached_property
    def place(self) -> Mapping[str, int]:
        """Where each letter stands in `chars`."""
        return {char: i for i, char in enumerate(self.chars)}

    @cached_property
    def _letters(self) -> tuple[NDArray[np.intp], NDArray[np.float32]]:
        """Letters of each set that some word has, shape (sets, most letters), and how many words have it."""
        counts = Counter(self.words)
        most = max(map(len, counts), default=1)
        rows = [
            [*(own := sorted(self.place[char] for char in word)), *[own[0]] * (most - len(own))]
            for word in counts
        ]
        return np.array(rows, dtype=np.intp).reshape(-1, most), np.array([*counts.values()], dtype=np.float32)

    def days(self, given: Mapping[str, int]) -> Days:
        """Days of all letters, in the order of `chars`."""
        return np.array([*(given[char] for char in self.chars[: self.free]), *self.fixed_days], dtype=float)

    def of(self, days: Days, rank: Days) -> NDArray[np.float64]:
        """Costs of many orders at once.

        Parameters
        ----------
        days : array, shape (orders, chars)
            Day on which each letter is new.
        rank : array, shape (orders, chars)
            Place of each letter in the order; settles who comes first within a day.

        Returns
        -------
        array, shape (orders, 4)
            Movement, words, apart, clashes.
        """
        out = np.zeros((len(days), 4))
        if len(self.chars) > 1:
            sequence = np.argsort(rank, axis=1)
            steps = self.distance[sequence[:, :-1], sequence[:, 1:]]
            new = np.take_along_axis(days, sequence[:, 1:], axis=1) > LONG_AGO
            out[:, 0] = (steps * new).sum(axis=1) / np.maximum(new.sum(axis=1), 1)
        sets, weights = self._letters
        if len(sets):
            first, last = self.span
            waited = np.clip((days - first) / max(last - first, 1), 0, 1).astype(np.float32)
            longest = waited[:, sets[:, 0]]
            for column in sets.T[1:]:
                np.maximum(longest, waited[:, column], out=longest)
            out[:, 1] = longest @ weights / weights.sum()
        if self.alike:
            one, other = np.array(self.alike).T
            gap = np.abs(days[:, one] - days[:, other])
            out[:, 2] = (_WEEK / np.maximum(gap, 1)).mean(axis=1)
            out[:, 3] = (gap < FORTNIGHT).sum(axis=1)
        return out

    def costs(self, lessons: Sequence[tuple[int, Sequence[str]]]) -> Costs:
        """Costs of one order, given as lessons: the day, and the letters new on it."""
        days = {char: day for day, chars in lessons for char in chars}
        at = {char: float(i) for i, char in enumerate(char for _, chars in lessons for char in chars)}
        found = self.of(self.days(days)[None], self.ranks(self.days(days), at)[None])[0]
        return Costs(float(found[0]), float(found[1]), float(found[2]), int(found[3]))

    def ranks(self, days: Days, at: Mapping[str, float]) -> Days:
        """Place of every letter over all: by day, then as it stands in its lesson, then as fixed."""
        within = np.array([at.get(char, i) for i, char in enumerate(self.chars)], dtype=float)
        return np.asarray(days * len(self.chars) * 2 + within)


Apart = tuple[str, str, int]
"""Two look-alikes, and the days between them."""


def gaps(days: Mapping[str, int], confused: Callable[[str, str], bool]) -> list[Apart]:
    """All look-alikes among letters by the days on which they are new, the nearest first."""
    pairs = [(one, other) for one, other in combinations(days, 2) if confused(one, other)]
    return sorted(((a, b, abs(days[a] - days[b])) for a, b in pairs), key=lambda one: one[2])


def ready(words: Iterable[frozenset[str]], days: Mapping[str, int], by: Iterable[int]) -> list[int]:
    """How many words can be written by the end of each of some days; a letter without a day never can."""
    latest = np.array([max(days[char] for char in word) for word in words if word <= days.keys()])
    return [int((latest <= day).sum()) for day in by]
