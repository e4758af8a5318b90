"""A way along the lines of ink that goes as a model goes.

The pen is thought of as going along the middle lines of the ink, a small step for each small step of
the model: near where the model is, in the direction in which it goes, never leaving the line but where
the model lifts, or where there is no ink for what the model does. Of all such ways the cheapest is found
(Viterbi, 1967), the model is laid anew on what it was followed by, and once more.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from firstloop.core.check.ways.graph import InkGraph
from firstloop.core.curves import BoolArray, FloatArray, IntArray, length, resample

STEP_XH = 0.07
_HOPS = 3  # so many steps along the ink at most for one of the model's
_NEAR_XH = 0.22  # from the model: this far off costs 1 a step
_FAR_COST = 6.0  # and never more than this
_TURN_COST = 0.5  # for a step that goes another way than the model's by its own length
_NO_INK_COST = 1.8  # for each step of the model without ink
_LEAVE_COST = 2.5  # for leaving the ink and coming back where the model does not lift
_UNUSED_FREE = 0.25  # of the ink
_UNUSED_COST = 1.5  # for each step of ink that no part of the model accounts for
_ROUNDS = 3
_AT_ONCE = 200_000  # ways that are kept at a time
STEPS_MOST = 5_000_000  # of the model times those of the ink: a word of thirty letters has so many
NOWHERE = -1


@dataclass(frozen=True, eq=False)
class Lines:
    """The lines of ink in small steps.

    Parameters
    ----------
    spots : array, shape (p, 2)
        Letter space, xh.
    runs : tuple of arrays
        The spots of each line, its nodes included.
    near : array, shape (p, m)
        Spots that can be reached from each in a few steps, itself too; repeated to fill up.
    beside : tuple of tuples
        The spots next to each.
    width_xh : float
        Of the pen's line.
    """

    spots: FloatArray
    runs: tuple[IntArray, ...]
    near: IntArray
    beside: tuple[tuple[int, ...], ...]
    width_xh: float

    @cached_property
    def parts(self) -> IntArray:
        """Which piece of connected ink each spot is of; shape (p,)."""
        count = len(self.spots)
        ends = np.repeat(np.arange(count), self.near.shape[1]), self.near.ravel()
        return np.asarray(connected_components(coo_array((np.ones(self.near.size), ends), (count, count)))[1])

    @cached_property
    def came(self) -> IntArray:
        """Where the pen may have been before each spot, at last :data:`NOWHERE`; shape (m + 1, p)."""
        return np.vstack([self.near.T, np.full((1, len(self.spots)), NOWHERE)])

    @cached_property
    def moves(self) -> FloatArray:
        """The moves from there: squared length, x, y and 1, or 0 from nowhere; shape (4, (m + 1) p)."""
        x, y = np.moveaxis(self.spots - self.spots[self.came], -1, 0)
        every = np.stack([x**2 + y**2, x, y, np.ones_like(x)])
        every[:, -1] = 0.0
        return every.reshape(4, -1)

    def only(self, keep: BoolArray) -> Lines:
        """Whole pieces of connected ink, those whose spots are kept; shape (p,)."""
        number = np.cumsum(keep) - 1
        return Lines(
            self.spots[keep],
            tuple(number[run] for run in self.runs if keep[run[0]]),
            number[self.near[keep]],
            tuple(
                tuple(int(number[i]) for i in beside)
                for beside, kept in zip(self.beside, keep, strict=True)
                if kept
            ),
            self.width_xh,
        )

    @property
    def box(self) -> FloatArray:
        """Lowest and highest x and y; shape (2, 2)."""
        return np.stack([self.spots.min(0), self.spots.max(0)])


def stepped(graph: InkGraph, px_xh: float, to_letter: Callable[[FloatArray], FloatArray]) -> Lines:
    """The lines of a graph in steps of :data:`STEP_XH`.

    Parameters
    ----------
    px_xh : float
        Pixels of the graph in one xh.
    to_letter : callable
        Points in pixels, shape (n, 2), to letter space.
    """
    nodes: dict[int, int] = {}
    places: list[FloatArray] = []
    runs: list[IntArray] = []
    pairs: list[tuple[int, int]] = []
    for edge in graph.edges:
        points = to_letter(edge.points)
        for node, spot in ((edge.a, points[0]), (edge.b, points[-1])):
            if node not in nodes:
                nodes[node] = len(places)
                places.append(spot)
        if len(points) == 1:
            runs.append(np.array([nodes[edge.a]]))
            continue
        inner = resample(points, max(3, round(length(points) / STEP_XH) + 1))[1:-1]
        first = len(places)
        places.extend(inner)
        run = [nodes[edge.a], *range(first, len(places)), nodes[edge.b]]
        runs.append(np.array(run))
        pairs.extend(pairwise(run))
    beside: list[set[int]] = [set() for _ in places]
    for a, b in pairs:
        beside[a].add(b)
        beside[b].add(a)
    near, width_xh = _reached(beside), graph.width / px_xh
    return Lines(np.array(places), tuple(runs), near, tuple(map(tuple, beside)), width_xh)


def _reached(beside: Sequence[set[int]]) -> IntArray:
    """Which spots are a few steps from each, or fewer, by those next to each; as :attr:`Lines.near`."""
    near = [{spot, *those} for spot, those in enumerate(beside)]
    several = near
    for _ in range(_HOPS - 1):
        several = [set().union(*(near[spot] for spot in those)) for those in several]
    out = np.repeat(np.arange(len(near))[:, None], max(map(len, several)), axis=1)
    for spot, those in enumerate(several):
        out[spot, : len(those)] = sorted(those)
    return out


@dataclass(frozen=True, eq=False)
class Guide:
    """A model in small steps: points (n, 2), and which of them begin a stroke; shape (n,)."""

    points: FloatArray
    begins: IntArray

    def laid(self, points: FloatArray) -> Guide:
        """The same steps elsewhere."""
        return Guide(points, self.begins)

    @property
    def size(self) -> int:
        """How many steps."""
        return len(self.points)


def guide(strokes: Sequence[FloatArray]) -> Guide:
    """Strokes (n, 2) of a model in steps of :data:`STEP_XH`."""
    runs = [resample(one, max(2, round(length(one) / STEP_XH) + 1)) for one in strokes]
    starts = np.cumsum([0, *(len(one) for one in runs[:-1])])
    return Guide(np.concatenate(runs), starts)


@dataclass(frozen=True, eq=False)
class Followed:
    """Where a model goes on the ink.

    Parameters
    ----------
    at : array, shape (n,)
        The spot of each of its steps; :data:`NOWHERE` where there is no ink for it.
    laid : Guide
        The model as it was laid on the ink.
    cost : float
        A step, what is left unused of the ink included, but for a quarter of it: there may be something more.
    whole_cost : float
        The same with all that is left unused: what was written instead accounts for all of the ink.
    way_cost : float
        A step of the way alone: how well the letter is to be seen in the ink, whatever else is there.
    """

    at: IntArray
    laid: Guide
    cost: float
    whole_cost: float
    way_cost: float

    @property
    def missing(self) -> float:
        """The share of the model that there is no ink for."""
        return float((self.at == NOWHERE).mean())

    @property
    def tips(self) -> IntArray:
        """The spots where its strokes begin and end, those that there is ink for."""
        begins = self.laid.begins
        at = self.at[[*begins, *(begins[1:] - 1), -1]]
        return np.asarray(at[at != NOWHERE])


def follow(lines: Lines, model: Guide, layings: Sequence[FloatArray], relay: Relay | None = None) -> Followed:
    """The cheapest way of a model along ink.

    Parameters
    ----------
    layings : sequence of array, shape (n, 2)
        The model's steps laid on the ink in different ways; the best is taken and made better.
    relay : callable, optional
        Lays the steps anew, by the spots that they were followed by; one affine map where none is given.

    Returns
    -------
    Followed, at an infinite cost where there is more ink than can be followed.
    """
    if len(lines.spots) * model.size > STEPS_MOST:
        return Followed(np.full(model.size, NOWHERE), model, np.inf, np.inf, np.inf)
    best = min((_once(lines, model.laid(points)) for points in layings), key=lambda one: one.cost)
    for _ in range(_ROUNDS - 1):
        again = _once(lines, model.laid((relay or affinely)(model, best, lines)))
        if again.cost >= best.cost:
            break
        is_same = np.array_equal(again.at, best.at)  # and would be laid where it lies
        best = again
        if is_same:
            break
    return best


Relay = Callable[[Guide, Followed, Lines], FloatArray]


def affinely(model: Guide, followed: Followed, lines: Lines) -> FloatArray:
    """The model's steps where one affine map brings them, nearest to the spots that they were followed by."""
    seen = followed.at != NOWHERE
    if seen.sum() < 4:
        return followed.laid.points
    source, goal = model.points[seen], lines.spots[followed.at[seen]]
    middle = source.mean(0)
    # a little towards no change: a line alone says nothing of what lies across it
    own = np.linalg.lstsq(
        np.vstack([np.column_stack([source - middle, np.ones(len(source))]), 0.7 * np.eye(3)[:2]]),
        np.vstack([goal, 0.7 * np.eye(2)]),
        rcond=None,
    )[0]
    return np.asarray(np.column_stack([model.points - middle, np.ones(model.size)]) @ own)


def _once(lines: Lines, laid: Guide) -> Followed:
    """The cheapest way of a model that lies as it lies."""
    count, steps = len(lines.spots), laid.size
    x, y = lines.spots.T
    off_x, off_y = laid.points[:, :1] - x, laid.points[:, 1:] - y
    here = np.minimum((off_x**2 + off_y**2) / _NEAR_XH**2, _FAR_COST)
    begins = np.zeros(steps, dtype=np.bool_)
    begins[laid.begins] = True
    leave = np.where(begins, 0.0, _LEAVE_COST).tolist()
    # the turn is the square of what a move is off the wanted one, multiplied out
    wanted = np.diff(laid.points, axis=0, prepend=laid.points[:1])
    turn = _TURN_COST / STEP_XH**2 * np.column_stack([np.ones(steps), -2 * wanted, (wanted**2).sum(1)])
    cost, none, least = here.copy(), [_NO_INK_COST], [float(here[0].min())]
    came = lines.came
    way, before = np.zeros((steps, count), dtype=np.int64), np.empty(came.shape)
    on_ink, nowhere = before[:-1], before[-1]
    block = max(_AT_ONCE // came.size, 1)
    for start in range(1, steps, block):
        ways = (turn[start : start + block] @ lines.moves).reshape(-1, *came.shape)
        ways += here[start : start + block, None]
        for t, to_here in enumerate(ways, start):
            on, off = least[-1], none[-1]
            if begins[t]:
                cost[t] += min(on, off)
            else:
                cost[t - 1].take(came[:-1], None, on_ink, "clip")
                nowhere.fill(off + _LEAVE_COST)
                np.add(to_here, before, out=to_here)
                np.minimum.reduce(to_here, 0, None, cost[t])
            least.append(float(cost[t, cost[t].argmin()]))
            none.append(min(on + leave[t], off) + _NO_INK_COST)
        way[start : start + block] = ways.argmin(axis=1)

    best = cost.argmin(axis=1)
    back = came[way, np.arange(count)]
    at = np.full(steps, NOWHERE, dtype=np.int64)
    at[-1] = best[-1] if least[-1] <= none[-1] else NOWHERE
    for t in range(steps - 1, 0, -1):
        if at[t] != NOWHERE and not begins[t]:
            at[t - 1] = back[t, at[t]]
        elif least[t - 1] + leave[t] <= none[t - 1]:
            at[t - 1] = best[t - 1]
    total = float(min(least[-1], none[-1]))
    unused = count - len(np.unique(at[at != NOWHERE]))
    costs = (total + _UNUSED_COST * max(unused - free * count, 0) for free in (_UNUSED_FREE, 0.0, 1.0))
    return Followed(at, laid, *(cost / max(steps, 1) for cost in costs))
