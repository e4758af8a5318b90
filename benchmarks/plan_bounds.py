"""How good the orders of a term are known to be: each beside a bound that no order can better.

``python -m benchmarks.plan_bounds`` prints them for a term of 13 weeks and a year of 38. Both bounds are of
easier problems, in which families need not stay together and look-alikes not apart:

* words: every order of the letters at all is tried, by a table over all sets of letters (2^26), each letter
  on the earliest day that its place in an order could have;
* movement: no way through all letters is shorter than a tree that spans them, tightened by Held and Karp's
  ascent (1970) with a letter more that is near to all.

For look-alikes furthest apart the bound is that of the term alone: no pair is further apart than its ends.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass
from datetime import date

import numpy as np
from scipy.sparse.csgraph import minimum_spanning_tree

from firstloop.core.check.recognise.lookalikes import are_confused
from firstloop.core.families import BY_MOVEMENT, edit_distance, group
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.planning.costs import Measure
from firstloop.core.planning.course import Course, Family, course
from firstloop.core.planning.orders import Aim, Search
from firstloop.core.planning.term import Holiday, LessonKind, Term, slots
from firstloop.formats.word_bank import shipped_bank

AIMS = (Aim.MOVEMENT, Aim.WORDS, Aim.APART)
_ROUNDS = 300


def _day(*when: int) -> int:
    return date(*when).toordinal()


def autumn() -> Term:
    """13 weeks, two lessons in each, a half-term."""
    half_term = Holiday(_day(2026, 10, 19), _day(2026, 10, 23), "Half-term")
    return Term(_day(2026, 9, 7), _day(2026, 12, 4), (0, 15, 0, 15, 0, 0, 0), (half_term,))


def year() -> Term:
    """38 weeks of school, holidays taken off."""
    off = (
        Holiday(_day(2026, 10, 19), _day(2026, 10, 23)),
        Holiday(_day(2026, 12, 21), _day(2027, 1, 1)),
        Holiday(_day(2027, 2, 15), _day(2027, 2, 19)),
        Holiday(_day(2027, 3, 29), _day(2027, 4, 9)),
        Holiday(_day(2027, 5, 31), _day(2027, 6, 4)),
    )
    return Term(_day(2026, 9, 7), _day(2027, 7, 16), (0, 15, 0, 15, 0, 0, 0), off)


@dataclass(frozen=True)
class Problem:
    """The lower-case letters over the lessons of a term."""

    term: Term
    course: Course
    days: tuple[int, ...]
    measure: Measure

    @property
    def family(self) -> dict[str, str]:
        """Family of every letter."""
        return {char: one.key for one in self.course.families for char in one.chars}

    def search(self, seed: int = 7) -> Search:
        """A search for orders."""
        return Search(self.course, self.days, self.measure, np.random.default_rng(seed))

    def movement_bound(self) -> float:
        """No order's mean step is smaller."""
        count = len(self.measure.chars)
        cost = np.zeros((count + 1, count + 1))
        cost[:count, :count] = self.measure.distance  # the last is near to all: a tour through it is a way
        pi, best = np.zeros(count + 1), 0.0
        for i in range(_ROUNDS):
            length, degree = _one_tree(cost + pi[:, None] + pi[None, :])
            best = max(best, length - 2 * pi.sum())
            pi += 0.9**i * (degree - 2) + 0.02 / (1 + i) * (degree - 2)
        return best / (count - 1)

    def words_bound(self) -> float:
        """No order's mean waiting share is smaller."""
        letters = self.measure.chars
        place = {char: i for i, char in enumerate(letters)}
        size = 1 << len(letters)
        ready = np.zeros(size, dtype=np.int16)
        for word in self.measure.words:
            ready[sum(1 << place[char] for char in word)] += 1
        for i in range(len(letters)):  # over all subsets
            split = ready.reshape(-1, 2, 1 << i)
            split[:, 1] += split[:, 0]
        first, last = self.measure.span
        share = (np.array(self._earliest()) - first) / max(last - first, 1)
        step = np.diff(share, prepend=0.0)
        total = len(self.measure.words)
        best = np.full(size, np.inf, dtype=np.float32)
        best[0] = 0.0
        count = np.zeros(size, dtype=np.int8)
        for i in range(len(letters)):
            split_count = count.reshape(-1, 2, 1 << i)
            split_count[:, 1] += 1
        for k in range(len(letters)):
            here = np.flatnonzero(count == k)
            cost = best[here] + np.float32(step[k]) * (total - ready[here])
            for i in range(len(letters)):
                free = (here >> i) & 1 == 0
                to = here[free] | (1 << i)
                best[to] = np.minimum(best[to], cost[free])
        return float(best[-1]) / total

    def _earliest(self) -> list[int]:
        """The earliest day for the first letter of an order, the second and so on: fullest lessons first."""
        sizes = sorted((size for part in self.course.parts for size in part.sizes), reverse=True)
        days = self.search().days
        return [day for day, size in zip(days, sizes, strict=True) for _ in range(size)]


def _one_tree(cost: np.ndarray) -> tuple[float, np.ndarray]:
    """Length of the least 1-tree on the last node, and the degree of every node."""
    shift = 1.0 - cost.min()  # the library takes no entry for no edge
    tree = minimum_spanning_tree(cost[:-1, :-1] + shift).tocoo()
    degree = np.zeros(len(cost))
    np.add.at(degree, tree.row, 1)
    np.add.at(degree, tree.col, 1)
    length = float(tree.data.sum()) - shift * len(tree.data)
    near = np.argsort(cost[-1, :-1])[:2]
    degree[near] += 1
    degree[-1] = 2
    return length + float(cost[-1, near].sum()), degree


def problem(term: Term | None = None) -> Problem:
    """The letters of the scheme by movement over a term."""
    given = term or autumn()
    letters = {char: plain(char) for char in ALPHABETS["lower case"]}
    families = [
        Family(one.family.key, tuple(member.char for member in one.members))
        for one in group(letters.values(), BY_MOVEMENT)
    ]
    days = tuple(one.day for one in slots(given) if one.kind is LessonKind.NEW)
    made = course(families, len(days), are_confused)
    chars = tuple(char for one in made.families for char in one.chars)
    distance = np.array([[edit_distance(letters[a], letters[b]) for b in chars] for a in chars])
    pairs = [(a, b) for b in range(len(chars)) for a in range(b)]
    alike = tuple((a, b) for a, b in pairs if are_confused(chars[a], chars[b]))
    words = tuple(word.letters for word in shipped_bank() if word.letters <= set(chars))
    return Problem(
        given, made, days, Measure(chars, len(chars), (), distance, alike, words, (days[0], given.last))
    )


def main() -> None:
    """Print every order beside its bound."""
    for name, term in (("13 weeks", autumn()), ("38 weeks", year())):
        given = problem(term)
        found = given.search().orders()
        scheme = found[Aim.SCHEME].costs
        bounds = {Aim.MOVEMENT: given.movement_bound(), Aim.WORDS: given.words_bound()}
        bounds[Aim.APART] = 7 / (given.days[-1] - given.days[0])
        for aim in AIMS:
            costs = found[aim].costs
            own, least = getattr(costs, aim), bounds[aim]
            sys.stdout.write(
                f"{name} {aim}: scheme {getattr(scheme, aim):.3f}, found {own:.3f}, bound {least:.3f} "
                f"({100 * (own / least - 1):.0f} % above it); clashes {scheme.clashes} -> {costs.clashes}\n"
            )


if __name__ == "__main__":
    main()
