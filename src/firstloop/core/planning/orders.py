"""Orders of the same letters: as the scheme has it, or searched for by what is wanted of an order.

An order takes the parts of the families one after another, and the letters of a family over its parts; a
part is never broken. The search is a local one, begun at the scheme's own order: it takes the best of all
single changes (a part elsewhere, two letters of a family changed over) while one is better, then shakes
what it found and tries again. It never gives an order that is worse than the scheme's by the measure asked
for, and of those it looks at takes one in which fewest look-alikes are new within a fortnight.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from firstloop.core.planning.costs import Costs, Measure
from firstloop.core.planning.course import Course, spread

Lessons = tuple[tuple[str, ...], ...]
_Cost = Callable[[NDArray[np.float64]], NDArray[np.float64]]
SHAKES = 12
_SLACK = 1e-9
_CLASH = 1e3  # more than any cost: fewer clashes come first
_WORSE = 1e6  # more than all clashes: never worse than the scheme


class Aim(StrEnum):
    """What an order is to be good at."""

    SCHEME = "scheme"
    MOVEMENT = "movement"
    WORDS = "words"
    APART = "apart"


SEARCHED = (Aim.MOVEMENT, Aim.WORDS, Aim.APART)


@dataclass(frozen=True)
class Ordered:
    """An order of letters by lesson, and what it costs."""

    lessons: Lessons
    costs: Costs


@dataclass(frozen=True)
class Weights:
    """How much each thing counts, and the two ends by which they are made to count alike.

    Parameters
    ----------
    share : tuple of 3 float
        Of movement, words and apart.
    best, worst : tuple of 3 float
        The least and the greatest cost of each that the orders to choose from have.
    """

    share: tuple[float, float, float]
    best: tuple[float, float, float] = (0.0, 0.0, 0.0)
    worst: tuple[float, float, float] = (1.0, 1.0, 1.0)

    def of(self, costs: NDArray[np.float64]) -> NDArray[np.float64]:
        """One cost of three; shape (orders,)."""
        best, worst = np.array(self.best), np.array(self.worst)
        scaled = (costs[:, :3] - best) / np.maximum(worst - best, _SLACK)
        return np.asarray(scaled @ np.array(self.share))


_ALONE = {
    Aim.MOVEMENT: Weights((1.0, 0.0, 0.0)),
    Aim.WORDS: Weights((0.0, 1.0, 0.0)),
    Aim.APART: Weights((0.0, 0.0, 1.0)),
}


@dataclass(frozen=True)
class _Arrangement:
    """Parts in the order taught, and each family's letters in the order in which its lessons take them."""

    parts: tuple[int, ...]
    letters: Lessons


class Search:
    """Orders of a course over the days of its lessons.

    Parameters
    ----------
    days : sequence of int
        Day of every lesson, in order; as many as the course takes, or more, over which it is spread.
    rng : numpy Generator
        Shakes what was found.
    """

    def __init__(
        self, course: Course, days: Sequence[int], measure: Measure, rng: np.random.Generator
    ) -> None:
        self._course = course
        self._days = spread(days, course.lessons)
        self._measure = measure
        self._rng = rng
        self._start = _Arrangement(
            tuple(range(len(course.parts))), tuple(one.chars for one in course.families)
        )

    @property
    def days(self) -> list[int]:
        """Day of each lesson of the course."""
        return self._days

    def scheme(self) -> Ordered:
        """The order of the scheme itself."""
        return self._ordered(self._start)

    def order(self, aim: Aim) -> Ordered:
        """The order that is best at one thing, or that of the scheme."""
        return self.scheme() if aim is Aim.SCHEME else self.best(_ALONE[aim])

    def orders(self) -> dict[Aim, Ordered]:
        """The four orders to choose from."""
        return {aim: self.order(aim) for aim in Aim}

    def between(self, share: tuple[float, float, float], ends: Mapping[Aim, Ordered]) -> Ordered:
        """An order that is good at each thing by its share."""
        costs = np.array([(one.costs.movement, one.costs.words, one.costs.apart) for one in ends.values()])
        low, high = costs.min(axis=0), costs.max(axis=0)
        best = (float(low[0]), float(low[1]), float(low[2]))
        return self.best(Weights(share, best, (float(high[0]), float(high[1]), float(high[2]))))

    def best(self, weights: Weights) -> Ordered:
        """The best order found by one measure."""
        limit = float(weights.of(self._costs([self._start]))[0]) + _SLACK

        def full(costs: NDArray[np.float64]) -> NDArray[np.float64]:
            alone = weights.of(costs)
            return alone + _CLASH * costs[:, 3] + _WORSE * (alone > limit)

        found = self._down(self._down(self._start, weights.of), full)
        value = float(full(self._costs([found]))[0])
        for _ in range(SHAKES):
            other = self._down(self._shaken(found), full)
            its = float(full(self._costs([other]))[0])
            if its < value - _SLACK:
                found, value = other, its
        return self._ordered(found)

    def _down(self, here: _Arrangement, cost: _Cost) -> _Arrangement:
        """Take the best single change while there is one that is better."""
        value = float(cost(self._costs([here]))[0])
        while True:
            around = list(self._around(here))
            if not around:
                return here
            costs = cost(self._costs(around))
            least = int(costs.argmin())
            if costs[least] >= value - _SLACK:
                return here
            here, value = around[least], float(costs[least])

    def _around(self, here: _Arrangement) -> Iterator[_Arrangement]:
        parts = here.parts
        for i in range(len(parts)):
            rest = parts[:i] + parts[i + 1 :]
            for j in range(len(parts)):
                if j != i and j != i - 1:  # the neighbour's own step does the same
                    yield _Arrangement((*rest[:j], parts[i], *rest[j:]), here.letters)
        for family, chars in enumerate(here.letters):
            for i, j in combinations(range(len(chars)), 2):
                yield _Arrangement(parts, _with(here.letters, family, _swapped(chars, i, j)))

    def _shaken(self, here: _Arrangement) -> _Arrangement:
        parts = list(here.parts)
        for _ in range(2):
            one = parts.pop(int(self._rng.integers(len(parts))))
            parts.insert(int(self._rng.integers(len(parts) + 1)), one)
        letters = here.letters
        for _ in range(2):
            family = int(self._rng.integers(len(letters)))
            i, j = (int(at) for at in self._rng.integers(len(letters[family]), size=2))
            letters = _with(letters, family, _swapped(letters[family], i, j))
        return _Arrangement(tuple(parts), letters)

    def _lessons(self, here: _Arrangement) -> Lessons:
        used = [0] * len(here.letters)
        shares: dict[int, list[tuple[str, ...]]] = {}
        for number, part in enumerate(self._course.parts):  # letters go to parts as the scheme has these
            shares[number] = []
            for size in part.sizes:
                at = used[part.family]
                shares[number].append(here.letters[part.family][at : at + size])
                used[part.family] += size
        return tuple(lesson for part in here.parts for lesson in shares[part])

    def _costs(self, some: Sequence[_Arrangement]) -> NDArray[np.float64]:
        measure = self._measure
        days = np.empty((len(some), len(measure.chars)))
        ranks = np.empty_like(days)
        for row, one in enumerate(some):
            lessons = self._lessons(one)
            days[row] = measure.days(
                {char: day for day, chars in zip(self._days, lessons, strict=True) for char in chars}
            )
            order = {char: float(i) for i, char in enumerate(char for chars in lessons for char in chars)}
            ranks[row] = measure.ranks(days[row], order)
        return measure.of(days, ranks)

    def _ordered(self, here: _Arrangement) -> Ordered:
        lessons = self._lessons(here)
        return Ordered(lessons, self._measure.costs(list(zip(self._days, lessons, strict=True))))


def _swapped(chars: tuple[str, ...], i: int, j: int) -> tuple[str, ...]:
    out = list(chars)
    out[i], out[j] = out[j], out[i]
    return tuple(out)


def _with(letters: Lessons, family: int, chars: tuple[str, ...]) -> Lessons:
    return (*letters[:family], chars, *letters[family + 1 :])
