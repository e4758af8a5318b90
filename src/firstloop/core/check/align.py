"""Which ink belongs to which part of the model.

The child may lift where the model does not, run strokes together, write them in another order or
from the wrong end. Every plausible arrangement (order and direction of the ink's strokes, and the
few ways in which children commonly take a letter apart) is compared with the model as one
continuous run; the cheapest wins, with a small price on each departure so that the ordinary
explanation is preferred when two fit alike.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from itertools import permutations, product
from typing import NamedTuple

import numpy as np

from firstloop.core.check.mending import find_dot
from firstloop.core.check.template import Template
from firstloop.core.check.warp import warp_costs, warp_path
from firstloop.core.curves import FloatArray, IntArray, length, resample
from firstloop.core.moves import MoveKind

K = MoveKind

_MODEL_POINTS = 56  # at most about so many model points in the fine match
COARSE = 24  # points for choosing an arrangement
INK_XH = 0.02  # spacing of the ink in the result
_MATCH_XH = 0.09
_ALL_ORDERS = 4  # with more strokes than this only the written order is tried
_ALL_DIRECTIONS = 6
_MANY = 24  # candidates; more than this are first thinned out
_SHORTLIST = 8
_INVERSION_PRICE_XH = 0.012
_REVERSAL_PRICE_XH = 0.018
_VARIANT_PRICE_XH = {
    "as-modelled": 0.0,
    "round-reversed": 0.015,
    "without-first-down": 0.015,
    "part-missing": 0.05,
    "without-joins": 0.03,
}
_LAST_TWO = ((K.ARCH, K.DOWN), (K.DOWN, K.HOOK_LEFT), (K.ARCH, K.ROUND_RIGHT))
_NARROW_XH = 0.30
_SCALE_RANGE = (0.45, 2.2)

Box = tuple[FloatArray, FloatArray]


@dataclass(frozen=True, eq=False)
class Variant:
    """A way to take the model apart: template indices in writing order, and what is different."""

    name: str
    index: IntArray
    points: FloatArray

    @cached_property
    def coarse(self) -> FloatArray:
        """The few points that an arrangement is chosen by; shape (COARSE, 2)."""
        return np.asarray(self.points[_spread(len(self.index), COARSE)])

    @cached_property
    def fine(self) -> tuple[IntArray, FloatArray]:
        """Template indices of the fine match, and their points."""
        some = _spread(len(self.index), min(len(self.index), _MODEL_POINTS))
        return self.index[some], self.points[some]

    @cached_property
    def box(self) -> Box:
        """Lowest and highest x and y."""
        return self.points.min(0), self.points.max(0)


def _spread(length: int, count: int) -> IntArray:
    """`count` whole numbers, evenly spread from 0 to `length` - 1."""
    gaps = max(count - 1, 1)
    return np.asarray((np.arange(count) * (2 * (length - 1)) + gaps) // (2 * gaps))


@dataclass(frozen=True, eq=False)
class Arrangement:
    """Ink strokes in the model's order: ``order`` (indices) and ``backwards`` (per stroke of `order`)."""

    order: tuple[int, ...]
    backwards: tuple[bool, ...]

    @property
    def price(self) -> float:
        """What departing from the plain arrangement costs, xh."""
        n = len(self.order)
        inversions = sum(self.order[i] > self.order[j] for i in range(n) for j in range(i + 1, n))
        return inversions * _INVERSION_PRICE_XH + sum(self.backwards) * _REVERSAL_PRICE_XH


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
    def since_pen_down(self) -> FloatArray:
        """Arc length from each ink point back to its own pen-down, in the order written, xh; shape (m,)."""
        out = np.zeros(len(self.ink))
        for number, backwards in zip(self.arrangement.order, self.arrangement.backwards, strict=True):
            mine = np.flatnonzero(self.ink_stroke == number)
            since = np.arange(len(mine)) * INK_XH
            out[mine] = since[::-1] if backwards else since
        return out

    def matched(self, indices: IntArray) -> IntArray:
        """Positions in ``ink`` that belong to any of the given template indices, in order."""
        known = indices[self.first[indices] >= 0]
        count = len(self.ink) + 1
        change = np.bincount(self.first[known], minlength=count)
        change -= np.bincount(self.last[known] + 1, minlength=count)
        return np.flatnonzero(change.cumsum()[:-1])

    def strokes_of(self, model_stroke: int, template: Template, least: float = 0.2) -> list[int]:
        """Ink strokes that write a fair share of a model stroke, in the model's order."""
        of_ink = template.stroke[self.model]
        found = []
        for ink_stroke in self.arrangement.order:
            mine = self.ink_stroke == ink_stroke
            here = (mine & (of_ink == model_stroke)).sum()
            share_of_model = here * INK_XH / max(template.lengths.get(model_stroke, 0.0), 0.1)
            if here / max(mine.sum(), 1) > 0.5 or share_of_model > least:
                found.append(ink_stroke)
        return found


@lru_cache(maxsize=512)
def variants(template: Template) -> tuple[Variant, ...]:
    """The model as it is, and the ways in which children commonly take it apart."""
    everything = np.arange(len(template.points))

    def variant(name: str, index: IntArray) -> Variant:
        return Variant(name, index, template.points[index])

    out = [variant("as-modelled", everything)]
    rounds = [k in (K.ROUND_LEFT, K.ROUND_RIGHT) for k in template.kinds]
    first = template.letter.kinds[0]
    if any(rounds) and len(first) > 1 and not {K.ROUND_LEFT, K.ROUND_RIGHT} <= set(first):
        bowl = np.array(rounds) | np.array([k is K.ARCH for k in template.kinds])
        bowl &= template.stroke == 0
        before = everything[: int(np.argmax(bowl))]
        if K.ROUND_RIGHT in first:
            before = before[[template.kinds[i] is not K.RETRACE for i in before]]
        after = everything[np.flatnonzero(bowl)[-1] + 1 :]
        out.append(variant("round-reversed", np.concatenate([before, everything[bowl][::-1], after])))
    if first[:2] == (K.DOWN, K.RETRACE):
        out.append(variant("without-first-down", everything[(template.move > 0) | (template.stroke > 0)]))
    out += [variant("part-missing", everything[keep]) for keep in _without_a_part(template)]
    if not template.body.all():
        out.append(variant("without-joins", everything[template.body]))
    return tuple(out)


def _without_a_part(template: Template) -> list[np.ndarray[tuple[int], np.dtype[np.bool_]]]:
    """Masks of the model with one stroke left out, or its only stroke cut short."""
    count = len(template.letter.strokes) - (template.dot_stroke is not None)
    if count > 1:
        return [template.stroke != s for s in range(count)]
    kinds = template.letter.kinds[0]
    last = len(kinds) - (2 if kinds[-2:] in _LAST_TWO else 1)
    while last > 0 and kinds[last - 1] is K.RETRACE:
        last -= 1
    masks = [template.move < last] if last > 0 else []
    if kinds[0] is K.BAR:
        masks.append(template.move > 0)
    return masks


def _arrangements(count: int) -> list[Arrangement]:
    orders = list(permutations(range(count))) if count <= _ALL_ORDERS else [tuple(range(count))]
    if count <= _ALL_DIRECTIONS:
        directions = list(product((False, True), repeat=count))
    else:
        directions = [(False,) * count, (True,) * count]
    if count == _ALL_ORDERS:  # 24 orders: allow one stroke backwards, or all
        directions = [d for d in directions if sum(d) in (0, 1, count)]
    return [Arrangement(order, tuple(d)) for order in orders for d in directions]


def _shares(strokes: list[FloatArray], total: int) -> list[int]:
    """Split `total` points between strokes by length, at least two each."""
    lengths = np.array([max(length(s), 1e-3) for s in strokes])
    counts = np.maximum(2, np.round(total * lengths / lengths.sum()).astype(int))
    counts[int(lengths.argmax())] += total - int(counts.sum())
    return [max(2, int(c)) for c in counts]


def fitted(ink: Box, model: Box) -> tuple[FloatArray, FloatArray]:
    """Scale and shift (each shape (2,)) that lay the box of ink on the box of a model."""
    size, goal = ink[1] - ink[0], model[1] - model[0]
    scale = goal / np.maximum(size, 1e-6)
    if goal[0] < _NARROW_XH or size[0] < 0.05:
        scale[0] = scale[1]
    if size[1] < 0.05:
        scale[1] = 1.0
    scale = np.clip(scale, *_SCALE_RANGE)
    return scale, (model[0] + model[1]) / 2 - scale * (ink[0] + ink[1]) / 2


def _frames(ink: Box, model: Box) -> list[tuple[FloatArray, FloatArray]]:
    """Two ways to lay ink on the model: box on box, and as written but slid sideways."""
    slide = (model[0][0] + model[1][0] - ink[0][0] - ink[1][0]) / 2
    return [fitted(ink, model), (np.ones(2), np.array([slide, 0.0]))]


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
    dot = find_dot(ink, template)
    body = [i for i in range(len(ink)) if i != dot]
    strokes = [ink[i] for i in body]
    pieces = [resample(s, n) for s, n in zip(strokes, _shares(strokes, COARSE), strict=True)]
    plans = _arrangements(len(body))
    written = np.concatenate(pieces)
    runs = np.stack(
        [
            np.concatenate(
                [pieces[i][::-1] if b else pieces[i] for i, b in zip(p.order, p.backwards, strict=True)]
            )
            for p in plans
        ]
    )
    options = variants(template)
    box = written.min(0), written.max(0)
    candidates: list[FloatArray] = []
    models: list[FloatArray] = []
    tags: list[tuple[int, tuple[FloatArray, FloatArray], int]] = []
    for v, option in enumerate(options):
        for frame in _frames(box, option.box):
            candidates.append(runs * frame[0] + frame[1])
            models += [option.coarse] * len(plans)
            tags += [(v, frame, p) for p in range(len(plans))]
    prices = np.array([plans[p].price + _VARIANT_PRICE_XH[options[v].name] for v, _, p in tags])
    best = _cheapest(np.concatenate(candidates), np.array(models), prices)
    v, frame, p = tags[best]
    return _finish(strokes, body, plans[p], options[v], frame, template, dot, float(prices[best]))


def _cheapest(ink: FloatArray, model: FloatArray, prices: FloatArray) -> int:
    """Which candidate pair warps most cheaply; of many, a few are first picked by every other point."""
    likely = np.arange(len(ink))
    if len(likely) > _MANY:
        rough = warp_costs(ink[:, ::2], model[:, ::2]) + prices
        likely = np.argsort(rough)[:_SHORTLIST]
    return int(likely[(warp_costs(ink[likely], model[likely]) + prices[likely]).argmin()])


def rematch(
    match: Correspondence, template: Template, lay: Callable[[FloatArray], FloatArray]
) -> Correspondence:
    """Match once more with the ink laid on the model by `lay`, keeping the arrangement and the variant.

    The first match is made box on box, where one stray end moves everything; this one is not. What
    comes back is `match` itself where it was the better one.
    """
    tied = _tie(match.ink, match.spots, lay(match.ink[match.spots]), match.option, template)
    cost = tied.cost + match.price
    if cost >= match.cost:
        return match
    return replace(match, model=tied.model, first=tied.first, last=tied.last, cost=cost)


def _finish(
    strokes: list[FloatArray],
    body: list[int],
    plan: Arrangement,
    option: Variant,
    frame: tuple[FloatArray, FloatArray],
    template: Template,
    dot: int | None,
    price: float,
) -> Correspondence:
    """Match the chosen arrangement finely and carry the match over to closely spaced ink."""
    fine, labels, coarse, position = [], [], [], []
    offset = 0
    for i, backwards in zip(plan.order, plan.backwards, strict=True):
        size = length(strokes[i])
        points = resample(strokes[i], max(2, int(size / INK_XH) + 1))
        few = _spread(len(points), min(len(points), max(2, int(size / _MATCH_XH) + 1)))
        points = points[::-1] if backwards else points
        fine.append(points)
        labels.append(np.full(len(points), body[i], dtype=np.int64))
        coarse.append(points[few])
        position.append(few + offset)
        offset += len(points)
    scale, shift = frame
    ink, spots = np.concatenate(fine), np.concatenate(position)
    tied = _tie(ink, spots, np.concatenate(coarse) * scale + shift, option, template)
    return Correspondence(
        ink=ink,
        ink_stroke=np.concatenate(labels),
        spots=spots,
        model=tied.model,
        first=tied.first,
        last=tied.last,
        arrangement=Arrangement(tuple(body[i] for i in plan.order), plan.backwards),
        dot=dot,
        price=price,
        cost=tied.cost + price,
        option=option,
    )


class _Tied(NamedTuple):
    """Which template index each ink point belongs to, the ink range of each index, and the mean distance."""

    model: IntArray
    first: IntArray
    last: IntArray
    cost: float


def _tie(ink: FloatArray, spots: IntArray, laid: FloatArray, option: Variant, template: Template) -> _Tied:
    """Warp the ink points at `spots`, laid on the model, and carry the match over to all ink."""
    index, points = option.fine
    pairs, cost = warp_path(laid, points)
    mean = np.bincount(pairs[:, 0], weights=pairs[:, 1]) / np.bincount(pairs[:, 0])
    at = np.interp(np.arange(len(ink)), spots, mean)
    first, last = _ranges(pairs, spots, index, len(template.points))
    return _Tied(index[np.clip(at.round().astype(int), 0, len(index) - 1)], first, last, cost)


def _ranges(pairs: IntArray, spots: IntArray, index: IntArray, count: int) -> tuple[IntArray, IntArray]:
    """First and last ink position of every template index; indices thinned out borrow a neighbour's."""
    low = np.full(len(index), len(spots))
    high = np.full(len(index), -1)
    np.minimum.at(low, pairs[:, 1], pairs[:, 0])
    np.maximum.at(high, pairs[:, 1], pairs[:, 0])
    first, last = np.full(count, -1), np.full(count, -1)
    order = np.argsort(index)
    every = np.arange(count)
    near = np.clip(np.searchsorted(index[order], every), 0, len(index) - 1)
    close = np.abs(index[order][near] - every) <= 2
    source = order[near]
    halfway = (spots[:-1] + spots[1:] + 1) // 2  # each matched point answers for the ink around it
    begins = np.concatenate([spots[:1], halfway])
    ends = np.concatenate([halfway - 1, spots[-1:]])
    first[close], last[close] = begins[low[source]][close], ends[high[source]][close]
    return first, last
