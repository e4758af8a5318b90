"""The ways in which children commonly take a letter apart."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from firstloop.core.check.match.template import Template
from firstloop.core.curves import FloatArray, IntArray
from firstloop.core.moves import MoveKind

K = MoveKind
COARSE = 24  # points for choosing an arrangement
_MODEL_POINTS = 56  # at most about so many model points in the fine match
_PRICE_XH = {
    "as-modelled": 0.0,
    "round-reversed": 0.015,
    "without-first-down": 0.015,
    "climbed-first": 0.03,
    "part-missing": 0.05,
    "without-joins": 0.03,
}
_TALL_XH = 1.4
_LAST_TWO = ((K.ARCH, K.DOWN), (K.DOWN, K.HOOK_LEFT), (K.ARCH, K.ROUND_RIGHT))


@dataclass(frozen=True, eq=False)
class Variant:
    """A way to take the model apart: template indices in writing order, and what is different.

    ``count`` is that of all points of the model.
    """

    name: str
    index: IntArray
    points: FloatArray
    count: int

    @cached_property
    def never_goes_back(self) -> bool:
        """Whether the model's points follow one another as in the model."""
        return bool((np.diff(self.index) > 0).all())

    @cached_property
    def fine(self) -> tuple[IntArray, FloatArray]:
        """Template indices of the fine match, and their points."""
        some = spread(len(self.index), min(len(self.index), _MODEL_POINTS))
        return self.index[some], self.points[some]

    @cached_property
    def nearest_fine(self) -> tuple[IntArray, IntArray]:
        """Template indices with one of the fine match close by, and which of those it is."""
        index, _ = self.fine
        order = np.argsort(index, kind="stable")
        every = np.arange(self.count)
        near = order[np.clip(np.searchsorted(index[order], every), 0, len(index) - 1)]
        close = np.flatnonzero(np.abs(index[near] - every) <= 2)
        return close, near[close]


@dataclass(frozen=True, eq=False)
class Variants:
    """All variants of a model, side by side for choosing between them.

    ``points`` (v, COARSE, 2) are the few points that an arrangement is chosen by, ``low`` and
    ``high`` (v, 2) the boxes, ``prices`` (v,) what each costs, xh.
    """

    options: tuple[Variant, ...]
    points: FloatArray
    low: FloatArray
    high: FloatArray
    prices: FloatArray


def spread(length: int, count: int) -> IntArray:
    """`count` whole numbers, evenly spread from 0 to `length` - 1."""
    gaps = max(count - 1, 1)
    return np.asarray((np.arange(count) * (2 * (length - 1)) + gaps) // (2 * gaps))


@lru_cache(maxsize=512)
def variants(template: Template) -> Variants:
    """The model as it is, and the ways in which children commonly take it apart."""
    everything = np.arange(len(template.points))

    def variant(name: str, index: IntArray) -> Variant:
        return Variant(name, index, template.points[index], len(template.points))

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
        if template.points[0, 1] > _TALL_XH:
            out.append(variant("climbed-first", _climbed_first(template)))
    out += [variant("part-missing", everything[keep]) for keep in _without_a_part(template)]
    if not template.body.all():
        out.append(variant("without-joins", everything[template.body]))
    return Variants(
        options=tuple(out),
        points=np.stack([one.points[spread(len(one.index), COARSE)] for one in out]),
        low=np.stack([one.points.min(0) for one in out]),
        high=np.stack([one.points.max(0) for one in out]),
        prices=np.array([_PRICE_XH[one.name] for one in out]),
    )


def _climbed_first(template: Template) -> IntArray:
    """A tall stem climbed from its foot, come down again, and the letter gone on with from there."""
    stem, back = template.of(0, 0), template.of(0, 1)
    again = stem[template.points[stem, 1] >= template.points[back[-1], 1]]
    return np.concatenate([stem[::-1], again, np.arange(back[-1] + 1, len(template.points))])


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
