"""Which order and direction of the ink's strokes, on which variant of the model, fits best.

Every plausible arrangement is laid on every variant in two ways and compared as one continuous run,
by a few points; a small price on each departure lets the ordinary explanation win where two fit alike.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import permutations, product
from typing import NamedTuple

import numpy as np

from firstloop.core.check.ink.cleaning import box_size
from firstloop.core.check.match.template import Template
from firstloop.core.check.match.variants import COARSE, Variant, Variants, variants
from firstloop.core.check.match.warp import warp_costs
from firstloop.core.curves import FloatArray, IntArray, along, length, resample
from firstloop.core.letterforms.model import NARROW_XH

_ALL_ORDERS = 4  # with more strokes than this only the written order is tried
_ALL_DIRECTIONS = 6
_MANY = 24  # candidates; more than this are first thinned out
_VERY_MANY = 160
_SHORTLIST = 8
_INVERSION_PRICE_XH = 0.012
_REVERSAL_PRICE_XH = 0.018
_WHOLE_REVERSAL_PRICE_XH = 0.045  # a letter of one stroke is seldom written from its end
_FLAT_XH = 0.05  # ink no wider, or no higher, than this is not stretched that way
_SCALE_RANGE = (0.45, 2.2)
_DOT_REACH_XH = 0.45  # how far from its place a dot is still one, where the pen ran on to it
_LATE = 0.6  # of the model's length: from here on its end is looked for
_RUN_ON_LEAST_XH = 0.8
_BY_SIZE, _AS_WRITTEN = 0, 1  # ways to lay ink on a variant


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
        turned = _WHOLE_REVERSAL_PRICE_XH if n == 1 else _REVERSAL_PRICE_XH
        return inversions * _INVERSION_PRICE_XH + sum(self.backwards) * turned


@lru_cache(maxsize=64)
def _arrangements(count: int) -> tuple[Arrangement, ...]:
    orders = list(permutations(range(count))) if count <= _ALL_ORDERS else [tuple(range(count))]
    if count <= _ALL_DIRECTIONS:
        directions = list(product((False, True), repeat=count))
    else:
        directions = [(False,) * count, (True,) * count]
    if count == _ALL_ORDERS:  # 24 orders: allow one stroke backwards, or all
        directions = [d for d in directions if sum(d) in (0, 1, count)]
    return tuple(Arrangement(order, tuple(d)) for order in orders for d in directions)


def _shares(lengths: FloatArray, total: int) -> tuple[int, ...]:
    """Split `total` points between strokes by length, at least two each."""
    lengths = np.maximum(lengths, 1e-3)
    counts = np.maximum(2, np.round(total * lengths / lengths.sum()).astype(int))
    counts[int(lengths.argmax())] += total - int(counts.sum())
    return tuple(max(2, int(c)) for c in counts)


@lru_cache(maxsize=1024)
def _reorderings(sizes: tuple[int, ...]) -> tuple[IntArray, FloatArray]:
    """Where each arrangement takes its points from, shape (p, sum of sizes), and its price, shape (p,)."""
    plans = _arrangements(len(sizes))
    ends = np.cumsum(sizes)
    runs = [np.arange(end - size, end) for end, size in zip(ends, sizes, strict=True)]
    index = np.stack(
        [
            np.concatenate(
                [runs[i][::-1] if b else runs[i] for i, b in zip(p.order, p.backwards, strict=True)]
            )
            for p in plans
        ]
    )
    return index, np.array([plan.price for plan in plans])


def _frames(written: FloatArray, models: Variants) -> tuple[FloatArray, FloatArray]:
    """Two ways to lay ink on each variant: box on box, and as written but slid sideways.

    Returns
    -------
    scale, shift : arrays, shape (v, 2, 2)
        Ink times scale, plus shift: by variant, way and axis.
    """
    low, high = written.min(0), written.max(0)
    size, goal = high - low, models.high - models.low
    fitted = goal / np.maximum(size, 1e-6)
    if size[0] < _FLAT_XH:
        fitted[:, 0] = fitted[:, 1]
    else:
        fitted[:, 0] = np.where(goal[:, 0] < NARROW_XH, fitted[:, 1], fitted[:, 0])
    if size[1] < _FLAT_XH:
        fitted[:, 1] = 1.0
    scale = np.ones((len(goal), 2, 2))
    scale[:, _BY_SIZE] = np.clip(fitted, *_SCALE_RANGE)
    shift = ((models.low + models.high) / 2)[:, None] - scale * ((low + high) / 2)
    shift[:, _AS_WRITTEN, 1] = 0.0
    return scale, shift


@dataclass(frozen=True, eq=False)
class Candidates:
    """One letter's ink, and every way to lay it on its model; the cheapest is to be found.

    ``ink`` and ``model`` (c, points, 2) are the candidate pairs; ``scale`` and ``shift`` as of
    :func:`_frames`.
    """

    template: Template
    strokes: list[FloatArray]
    body: list[int]
    dot: int | None
    ink: FloatArray
    model: FloatArray
    prices: FloatArray
    scale: FloatArray
    shift: FloatArray

    def match(self, best: int) -> Selected:
        """What is to be matched finely when candidate `best` is the cheapest."""
        plans = _arrangements(len(self.body))
        v, frame, p = np.unravel_index(best, (*self.scale.shape[:2], len(plans)))
        return Selected(
            self,
            plans[p],
            variants(self.template).options[v],
            self.scale[v, frame],
            self.shift[v, frame],
            float(self.prices[best]),
        )


class Selected(NamedTuple):
    """The arrangement, the variant and the frame that fit best, and their price."""

    of: Candidates
    plan: Arrangement
    option: Variant
    scale: FloatArray
    shift: FloatArray
    price: float


def candidates(ink: tuple[FloatArray, ...], template: Template) -> Candidates:
    """Every way to lay the ink of a letter on its model."""
    dot = find_dot(ink, template)
    body = [i for i in range(len(ink)) if i != dot]
    strokes = [ink[i] for i in body]
    sizes = _shares(np.array([length(s) for s in strokes]), COARSE)
    written = np.concatenate([resample(s, n) for s, n in zip(strokes, sizes, strict=True)])
    index, prices = _reorderings(sizes)
    models = variants(template)
    scale, shift = _frames(written, models)
    shape = (len(models.options), 2, len(index))
    laid = written[index] * scale[:, :, None, None] + shift[:, :, None, None]
    model = np.broadcast_to(models.points[:, None, None], (*shape, COARSE, 2))
    return Candidates(
        template,
        strokes,
        body,
        dot,
        laid.reshape(-1, *laid.shape[3:]),
        model.reshape(-1, COARSE, 2),
        np.broadcast_to(models.prices[:, None, None] + prices, shape).ravel(),
        scale,
        shift,
    )


def cheapest(letters: Sequence[Candidates]) -> list[int]:
    """Which candidate of each warps most cheaply; of many, a few are first picked by every other point."""
    likely = [_straight(one) for one in letters]
    many = [k for k, few in enumerate(likely) if len(few) > _MANY]
    rough = _warped([(letters[k].ink[likely[k], ::2], letters[k].model[likely[k], ::2]) for k in many])
    for k, costs in zip(many, rough, strict=True):
        likely[k] = likely[k][np.argsort(costs + letters[k].prices[likely[k]])[:_SHORTLIST]]
    pairs = [(one.ink[few], one.model[few]) for one, few in zip(letters, likely, strict=True)]
    return [
        int(few[(costs + one.prices[few]).argmin()])
        for one, few, costs in zip(letters, likely, _warped(pairs), strict=True)
    ]


def _straight(one: Candidates) -> IntArray:
    """All candidates; of very many, those as written and those nearest to the model point by point."""
    if len(one.prices) <= _VERY_MANY:
        return np.arange(len(one.prices))
    off = one.ink[:, ::2] - one.model[:, ::2]
    far = np.hypot(off[..., 0], off[..., 1]).mean(1)
    plans = len(_arrangements(len(one.body)))  # the first of which takes the strokes as they came
    return np.union1d(np.argsort(far + one.prices)[:_VERY_MANY], np.arange(0, len(far), plans))


def _warped(pairs: Sequence[tuple[FloatArray, FloatArray]]) -> list[FloatArray]:
    """Costs of several stacks of candidates; those with as many points each are warped together."""
    out: list[FloatArray] = [np.zeros(0)] * len(pairs)
    for size in {ink.shape[1] for ink, _ in pairs}:
        alike = [k for k, (ink, _) in enumerate(pairs) if ink.shape[1] == size]
        costs = warp_costs(
            np.concatenate([pairs[k][0] for k in alike]), np.concatenate([pairs[k][1] for k in alike])
        )
        ends = np.cumsum([len(pairs[k][0]) for k in alike])
        for k, part in zip(alike, np.split(costs, ends[:-1]), strict=True):
            out[k] = part
    return out


def find_dot(ink: tuple[FloatArray, ...], template: Template) -> int | None:
    """The stroke that is meant as the dot: small, and above the rest of the ink."""
    if template.dot is None or len(ink) < 2:
        return None
    sizes = [box_size(stroke) for stroke in ink]
    small = [i for i, size in enumerate(sizes) if size <= max(0.45, 0.3 * max(sizes))]
    big_top = max(float(s[:, 1].max()) for i, s in enumerate(ink) if i not in small or len(small) == len(ink))
    above = [i for i in small if float(ink[i][:, 1].mean()) > big_top - 0.25]
    return max(above, key=lambda i: float(ink[i][:, 1].mean()), default=None)


def dot_freed(
    ink: tuple[FloatArray, ...], template: Template
) -> tuple[tuple[FloatArray, ...], FloatArray | None]:
    """The ink with its dot as a stroke of its own, and what ran on up to it where the pen was not lifted.

    Told from a letter that is only too tall by the way back: the pen has been at the end of the letter first.
    """
    if template.dot is None or find_dot(ink, template) is not None:
        return ink, None
    number = max(range(len(ink)), key=lambda i: length(ink[i]))
    stroke = ink[number]
    run = template.runs[0]
    here = stroke[0] - run[0]
    off = np.hypot(*(stroke - (run[-1] + here)).T)
    late = along(stroke) > _LATE * template.lengths[0]
    at = int(np.where(late, off, np.inf).argmin())
    rest = stroke[at:]
    near_dot = float(np.hypot(*(stroke[-1] - (template.dot + here)))) < _DOT_REACH_XH
    if not late.any() or off[at] > _DOT_REACH_XH or not near_dot or length(rest) < _RUN_ON_LEAST_XH:
        return ink, None
    freed = tuple(stroke[: at + 1] if i == number else one for i, one in enumerate(ink))
    return (*freed, stroke[-2:]), rest
