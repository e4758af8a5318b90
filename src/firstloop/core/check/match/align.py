"""Which ink belongs to which part of the model.

The child may lift where the model does not, run strokes together, write them in another order or
from the wrong end. The arrangement and the variant that fit best are chosen first; this one is then
matched finely and carried over to closely spaced ink.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from firstloop.core.check.match.arrangements import Arrangement, Selected, candidates, cheapest
from firstloop.core.check.match.template import Template
from firstloop.core.check.match.variants import Variant, spread, variants
from firstloop.core.check.match.warp import warp_paths
from firstloop.core.curves import FloatArray, IntArray, length, resample

INK_XH = 0.02  # spacing of the ink in the result
_MATCH_XH = 0.09


class InkRun(NamedTuple):
    """One ink stroke in a correspondence: its number, whether it is turned round, and where it is."""

    number: int
    backwards: bool
    at: slice

    @property
    def size(self) -> int:
        """How many points it has."""
        return int(self.at.stop - self.at.start)

    @property
    def positions(self) -> IntArray:
        """Their positions in the matched ink."""
        return np.arange(self.at.start, self.at.stop)


@dataclass(frozen=True, eq=False)
class Correspondence:
    """Ink tied to the model.

    Parameters
    ----------
    ink : array, shape (m, 2)
        Ink as written, letter space, in the model's order.
    ink_stroke : array, shape (m,)
        Which ink stroke each point is of.
    spots : array, shape (k,)
        The ink points that were matched; the others lie between.
    model : array, shape (m,)
        Template index that each ink point belongs to.
    first, last : array, shape (len(template.points),)
        Range of ink points that each template index belongs to; -1 where the variant leaves it out.
    dot : int or None
        The ink stroke taken for the dot.
    price : float
        What the arrangement and the variant cost, xh.
    cost : float
        Mean distance of the match, xh, the price included.
    option : Variant
        The way in which the model had to be taken apart.
    """

    ink: FloatArray
    ink_stroke: IntArray
    spots: IntArray
    model: IntArray
    first: IntArray
    last: IntArray
    arrangement: Arrangement
    dot: int | None
    price: float
    cost: float
    option: Variant

    @property
    def variant(self) -> str:
        """Name of the variant that fits."""
        return self.option.name

    @cached_property
    def runs(self) -> tuple[InkRun, ...]:
        """The ink stroke by stroke, in the model's order."""
        edges = [0, *(np.flatnonzero(np.diff(self.ink_stroke)) + 1).tolist(), len(self.ink)]
        plan = zip(self.arrangement.order, self.arrangement.backwards, pairwise(edges), strict=True)
        return tuple(InkRun(number, backwards, slice(*edge)) for number, backwards, edge in plan)

    @cached_property
    def since_pen_down(self) -> FloatArray:
        """Arc length from each ink point back to its own pen-down, in the order written, xh; shape (m,)."""
        out = np.zeros(len(self.ink))
        for run in self.runs:
            since = np.arange(run.size) * INK_XH
            out[run.at] = since[::-1] if run.backwards else since
        return out

    def is_of_one_stroke(self, *positions: IntArray) -> bool:
        """Whether ink points, each array in order, were written without a lift between them."""
        ends = {int(self.ink_stroke[some[i]]) for some in positions for i in (0, -1)}
        return len(ends) == 1

    def matched(self, indices: IntArray) -> IntArray:
        """Positions in ``ink`` that belong to any of the given template indices, in order."""
        first = self.first[indices]
        known = indices[first >= 0]
        if not len(known):
            return known
        if known[-1] - known[0] == len(known) - 1 and self.option.never_goes_back:
            return np.arange(self.first[known[0]], self.last[known[-1]] + 1)
        count = len(self.ink) + 1
        change = np.bincount(self.first[known], minlength=count)
        change -= np.bincount(self.last[known] + 1, minlength=count)
        return change.cumsum()[:-1].nonzero()[0]


def align(ink: tuple[FloatArray, ...], template: Template) -> Correspondence:
    """Find the cheapest way to read `ink` as the model.

    Parameters
    ----------
    ink : tuple of arrays, shape (n, 2)
        Strokes in letter space, in the order written; at least one.

    Returns
    -------
    Correspondence
    """
    return align_all([(ink, template)])[0]


def align_all(asked: Sequence[tuple[tuple[FloatArray, ...], Template]]) -> list[Correspondence]:
    """As :func:`align`, for many letters at once: one table of costs for all of them."""
    letters = [candidates(ink, template) for ink, template in asked]
    matches = [one.match(best) for one, best in zip(letters, cheapest(letters), strict=True)]
    laid = [_finely(match) for match in matches]
    ties = _tie_all([one.task for one in laid])
    return [one.tied(tied) for one, tied in zip(laid, ties, strict=True)]


Laying = Callable[[FloatArray], FloatArray]


def as_modelled(match: Correspondence, template: Template) -> Correspondence:
    """The same ink in the same arrangement, to be matched with the model as it is."""
    return replace(match, option=variants(template).options[0], price=match.arrangement.price)


def rematch_all(asked: Sequence[tuple[Correspondence, Laying]]) -> list[Correspondence]:
    """Match once more with the ink laid on the model otherwise, keeping arrangements and variants.

    The first match is made box on box, where one stray end moves everything; this one is not.
    """
    ties = _tie_all([_Task(m.ink, m.spots, laying(m.ink[m.spots]), m.option) for m, laying in asked])
    return [
        replace(m, model=tied.model, first=tied.first, last=tied.last, cost=tied.cost + m.price)
        for (m, _), tied in zip(asked, ties, strict=True)
    ]


class _Task(NamedTuple):
    """Closely spaced ink, which of its points are matched, and these laid on the model."""

    ink: FloatArray
    spots: IntArray
    laid: FloatArray
    option: Variant


class _Fine(NamedTuple):
    """A task with what it is of."""

    task: _Task
    ink_stroke: IntArray
    match: Selected

    def tied(self, tied: _Tied) -> Correspondence:
        """The correspondence that comes of it."""
        match, body = self.match, self.match.of.body
        return Correspondence(
            ink=self.task.ink,
            ink_stroke=self.ink_stroke,
            spots=self.task.spots,
            model=tied.model,
            first=tied.first,
            last=tied.last,
            arrangement=Arrangement(tuple(body[i] for i in match.plan.order), match.plan.backwards),
            dot=match.of.dot,
            price=match.price,
            cost=tied.cost + match.price,
            option=match.option,
        )


def _finely(match: Selected) -> _Fine:
    """The ink of the chosen arrangement, closely spaced, and the spots of it that are matched."""
    fine, labels, position = [], [], []
    offset = 0
    for i, backwards in zip(match.plan.order, match.plan.backwards, strict=True):
        stroke = match.of.strokes[i]
        size = length(stroke)
        points = resample(stroke, max(2, int(size / INK_XH) + 1))
        fine.append(points[::-1] if backwards else points)
        few = spread(len(points), min(len(points), max(2, int(size / _MATCH_XH) + 1)))
        position.append(few + offset)
        labels.append(np.full(len(points), match.of.body[i], dtype=np.int64))
        offset += len(points)
    ink, spots = np.concatenate(fine), np.concatenate(position)
    return _Fine(
        _Task(ink, spots, ink[spots] * match.scale + match.shift, match.option), np.concatenate(labels), match
    )


class _Tied(NamedTuple):
    """Which template index each ink point belongs to, the ink range of each index, and the mean distance."""

    model: IntArray
    first: IntArray
    last: IntArray
    cost: float


def _tie_all(tasks: Sequence[_Task]) -> list[_Tied]:
    """Warp the spots of each on its model, and carry the match over to all ink."""
    paths = warp_paths([task.laid for task in tasks], [task.option.fine[1] for task in tasks])
    return [_tied(task, *path) for task, path in zip(tasks, paths, strict=True)]


def _tied(task: _Task, pairs: IntArray, cost: float) -> _Tied:
    index, _ = task.option.fine
    ours, theirs = pairs[:, 0], pairs[:, 1]
    mean = np.bincount(ours, weights=theirs) / np.bincount(ours)
    at = np.interp(np.arange(len(task.ink)), task.spots, mean)
    first, last = _ranges(ours, theirs, task.spots, task.option)
    return _Tied(index[at.round().astype(int)], first, last, cost)


def _ranges(ours: IntArray, theirs: IntArray, spots: IntArray, option: Variant) -> tuple[IntArray, IntArray]:
    """First and last ink position of every template index; indices thinned out borrow a neighbour's."""
    close, source = option.nearest_fine
    every = np.arange(theirs[-1] + 1)  # a match leaves nothing out and never goes back
    low = ours[theirs.searchsorted(every)]
    high = ours[theirs.searchsorted(every, "right") - 1]
    halfway = (spots[:-1] + spots[1:] + 1) // 2  # each matched point answers for the ink around it
    begins = np.concatenate([spots[:1], halfway])
    ends = np.concatenate([halfway - 1, spots[-1:]])
    first, last = np.full(option.count, -1), np.full(option.count, -1)
    first[close], last[close] = begins[low[source]], ends[high[source]]
    return first, last
