"""Rings: from word to word by one unit at a time, and back to where one began.

Words and the gaps between them are a bipartite graph: a word is joined to every *gap* it fills, its units
with one of them left open (``m-_-n``), and two words are one step apart where they fill the same gap. A ring
is a cycle of that graph. That it passes no gap twice means that no two steps on end change the same place,
so every step asks for another look at the word.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.units import SPLIT

if TYPE_CHECKING:
    import networkx as nx

LEAST, MOST = 4, 12  # words in a ring; five can never be, since each place has to change back
USUAL = 7
_LOOKED_AT = 20_000  # steps of a search before it says what it has
_STARTS = 40  # words that a search begins from
_GAP = ""

Units = tuple[str, ...]
_Node = tuple[
    str, Units
]  # ("word", units), ("gap", units with one open) or ("drop", a word and a shorter one)


class Wanted(StrEnum):
    """Which rings come first."""

    USUAL = "usual"
    SHORTEST = "shortest"
    LONGEST = "longest"
    EASIEST = "easiest"


@dataclass(frozen=True)
class Step:
    """From one word of a ring to the next: which unit goes, and which comes in its place.

    An added unit has nothing that goes, a dropped one nothing that comes.
    """

    place: int
    gone: str
    new: str


@dataclass(frozen=True)
class Ring:
    """Words in order; the last leads back to the first."""

    words: tuple[BankWord, ...]

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """The step from each word to the one after it."""
        following = (*self.words[1:], self.words[0])
        return tuple(step(one.units, other.units) for one, other in zip(self.words, following, strict=True))

    @property
    def units(self) -> frozenset[str]:
        """All units in its words."""
        return frozenset().union(*(word.sounds for word in self.words))


def step(one: Units, other: Units) -> Step:
    """What changes from one row of units to another.

    Raises
    ------
    ValueError
        If more than one unit does.
    """
    same = 0
    while same < min(len(one), len(other)) and one[same] == other[same]:
        same += 1
    for gone, new in ((1, 1), (1, 0), (0, 1)):
        if one[same + gone :] == other[same + new :] and (
            one[same : same + gone] or other[same : same + new]
        ):
            return Step(same, "".join(one[same : same + gone]), "".join(other[same : same + new]))
    raise ValueError(f"{one} and {other} are more than one step apart")


def _gaps(units: Units) -> Iterator[_Node]:
    for at, unit in enumerate(units):
        if SPLIT not in unit or at + 1 < len(units):
            yield ("gap", (*units[:at], _GAP, *units[at + 1 :]))


def _shorter(units: Units, bank: Bank) -> Iterator[Units]:
    """Words of the bank with one unit less."""
    without = {(*units[:at], *units[at + 1 :]) for at in range(len(units))}
    yield from sorted(shorter for shorter in without if shorter in bank.by_units)


class RingFinder:
    """Rings in the words that are given, worked out once and asked many times.

    Parameters
    ----------
    bank : Bank
        The words that may stand in a ring, such as those of letters and units taught.
    allow_drop : bool
        Whether a step may add a unit or drop one.
    """

    def __init__(self, bank: Bank, allow_drop: bool = False) -> None:
        import networkx as nx  # noqa: PLC0415  # slow to load, seldom needed

        self.bank = bank
        graph: nx.Graph[_Node] = nx.Graph()
        for word in bank:
            for gap in _gaps(word.units):
                graph.add_edge(("word", word.units), gap)
            for shorter in _shorter(word.units, bank) if allow_drop else ():
                between = ("drop", (*word.units, _GAP, *shorter))  # of these two and no others
                graph.add_edge(("word", word.units), between)
                graph.add_edge(("word", shorter), between)
        self.graph = nx.k_core(graph, 2) if graph else graph  # nothing that leads nowhere is in a ring

    def rings(
        self,
        rng: np.random.Generator,
        start: str | None = None,
        through: str | None = None,
        length: int = USUAL,
        wanted: Wanted = Wanted.USUAL,
        most: int = 6,
        known: Sequence[str] = (),
    ) -> list[Ring]:
        """Some rings, none twice, each with other words than those before it where that can be.

        Parameters
        ----------
        rng : Generator
            By which the choice among equally good ones is made.
        start : str or None
            Word that the ring begins and ends with.
        through : str or None
            A unit that at least one word holds.
        length : int
            About how many words, 4 to 12.
        wanted : Wanted
            Shortest and longest go before `length`; the easiest have the units taught first.
        known : sequence of str
            Units in the order in which they were taught.
        """
        starts = [node for node in self._starts(start, through) if node in self.graph]
        rng.shuffle(starts)
        longest = {Wanted.SHORTEST: LEAST, Wanted.LONGEST: MOST}.get(wanted, length)
        found = self._found(starts[:_STARTS], longest, through, rng)
        if len(found) < most and longest < MOST:
            found |= self._found(starts[:_STARTS], MOST, through, rng)
        order = {unit: number for number, unit in enumerate(known)}
        best = sorted(found.values(), key=lambda ring: _rank(ring, wanted, length, order))
        return _unlike(best, most)

    def _found(
        self, starts: Sequence[_Node], longest: int, through: str | None, rng: np.random.Generator
    ) -> dict[frozenset[Units], Ring]:
        """Rings of at most so many words through each of the starts, by their words."""
        share = max(1, _LOOKED_AT // max(1, len(starts)))
        found: dict[frozenset[Units], Ring] = {}
        for node in starts:
            for cycle in self._cycles(node, longest, share, rng):
                if through is None or any(through in units for units in cycle):
                    found.setdefault(frozenset(cycle), self._ring(cycle))
        return found

    def _starts(self, start: str | None, through: str | None) -> list[_Node]:
        if start is not None:
            word = self.bank.by_text.get(start)
            return [] if word is None else [("word", word.units)]
        words = self.bank if through is None else self.bank.holding(through)
        return [("word", word.units) for word in words]

    def _ring(self, cycle: Sequence[Units]) -> Ring:
        return Ring(tuple(self.bank.by_units[units] for units in cycle))

    def _cycles(
        self, start: _Node, longest: int, looked_at: int, rng: np.random.Generator
    ) -> Iterator[tuple[Units, ...]]:
        """Cycles through a word, of at most so many words; the search ends after so many steps."""
        from networkx import single_source_shortest_path_length  # noqa: PLC0415  # as above

        home = single_source_shortest_path_length(self.graph, start, cutoff=longest)
        path, seen = [start], {start}
        ways = [iter(self._ways(start, rng))]
        left = looked_at
        while ways and left > 0:
            left -= 1
            node = next(ways[-1], None)
            if node is None:
                ways.pop()
                seen.discard(path.pop())
                continue
            if node == start and len(path) >= 2 * LEAST:
                yield tuple(units for kind, units in path if kind == "word")
            # what lies too far to get home again in time is not gone into
            if node in seen or len(path) + home.get(node, 2 * longest) > 2 * longest:
                continue
            path.append(node)
            seen.add(node)
            ways.append(iter(self._ways(node, rng)))

    def _ways(self, node: _Node, rng: np.random.Generator) -> list[_Node]:
        ways = list(self.graph.adj[node])
        rng.shuffle(ways)
        return ways


def _rank(ring: Ring, wanted: Wanted, length: int, order: Mapping[str, int]) -> tuple[float, ...]:
    size = len(ring.words)
    newest = max(order.get(unit, len(order)) for unit in ring.units)
    hard = sum(order.get(unit, len(order)) for unit in ring.units) / len(ring.units)
    by_heart = sum(word.by_heart for word in ring.words)
    asked = {
        Wanted.USUAL: float(abs(size - length)),
        Wanted.SHORTEST: float(size),
        Wanted.LONGEST: float(-size),
        Wanted.EASIEST: float(newest),
    }
    return asked[wanted], by_heart, abs(size - length), newest, hard


def _unlike(rings: Sequence[Ring], most: int) -> list[Ring]:
    """The first ones that share no more than half of their words with one before; then the others."""
    chosen: list[Ring] = []
    for ring in rings:
        texts = {word.text for word in ring.words}
        if all(2 * len(texts & {word.text for word in one.words}) <= len(texts) for one in chosen):
            chosen.append(ring)
        if len(chosen) == most:
            return chosen
    return [*chosen, *(ring for ring in rings if ring not in chosen)][:most]
