"""What a reader would take the ink for, wherever the pen came from.

Ink and models are compared as pictures: the distance from each point to the nearest point of the
other, to the fourth power and averaged both ways, so that a part without a partner weighs far more
than a wobble.
Ink is judged at its true place on the lines: only sideways may it be slid and stretched.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from firstloop.core.curves import FloatArray, IntArray, length, resample
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import NARROW_XH, without_joins
from firstloop.core.letterforms.style import HouseStyle

PICTURE_POINTS = 48
_STRETCH = (0.72, 1.4)
_CAP_XH = 0.6
_LIFTS = np.array([[-0.12], [0.12]], dtype=np.float32)  # xh
PLAIN_XH = 0.055  # a letter that fits itself better than this is not taken for another
_FAR_XH = 1000.0  # no letter is anywhere near there
_CLOSE = 4  # letters compared in full
_RISES_XH = 0.2  # what reaches less far beyond a line has no rise or drop
_OWN_LENGTH_XH = 0.03  # the price of a rise or drop of another length

Array32 = np.ndarray[tuple[int, ...], np.dtype[np.float32]]
Picture32 = tuple[Array32, Array32]
"""x and y of points, in half the digits: half the work, and still far finer than ink."""


@dataclass(frozen=True, eq=False)
class ClassSet:
    """The letters a class may write, as pictures: ``pictures`` (k, 48, 2)."""

    chars: str
    pictures: FloatArray

    @cached_property
    def mirror_cost(self) -> float:
        """How badly the first letter fits its own mirror image, xh."""
        return float(reading_costs(mirror(self.pictures[0]), self)[0])

    @cached_property
    def boxes(self) -> tuple[FloatArray, FloatArray]:
        """Lowest and highest x and y of every letter; shape (k, 2) each."""
        return self.pictures.min(1), self.pictures.max(1)

    @cached_property
    def fine(self) -> Picture32:
        """x and y of every point; shape (k, 48) each."""
        x, y = np.ascontiguousarray(self.pictures.transpose(2, 0, 1), dtype=np.float32)
        return x, y


def picture(strokes: tuple[FloatArray, ...] | list[FloatArray]) -> FloatArray:
    """Spread 48 points evenly over all strokes; shape (48, 2)."""
    lengths = [max(length(stroke), 0.08) for stroke in strokes]
    total = sum(lengths)
    shares = [max(1, int(PICTURE_POINTS * one / total)) for one in lengths]
    shares[lengths.index(max(lengths))] += PICTURE_POINTS - sum(shares)
    runs = [resample(s, max(1, n)) for s, n in zip(strokes, shares, strict=True)]
    return np.concatenate(runs)[:PICTURE_POINTS]


@lru_cache(maxsize=128)
def class_set(chars: str, style: HouseStyle, *, joins: bool = False) -> ClassSet:
    """Prepare the letters of a class, without their joins or with them."""
    models = [letter(char, style) for char in chars]
    runs = [[s.points for s in model.sampled] if joins else without_joins(model) for model in models]
    return ClassSet(chars, np.stack([picture(one) for one in runs]))


def _chamfer(ink: Picture32, model: Picture32) -> FloatArray:
    """Fourth-power mean of nearest distances both ways, xh, for each of k pairs of pictures; shape (k,).

    x and y are (k, n) and (k, m).
    """
    across, up = (a[:, :, None] - b[:, None] for a, b in zip(ink, model, strict=True))
    across *= across
    up *= up
    squared = np.add(across, up, out=across)
    fourth = np.zeros(len(squared))
    for nearest in (squared.min(2), squared.min(1)):
        np.minimum(nearest, _CAP_XH**2, out=nearest)
        fourth += np.einsum("kn,kn->k", nearest, nearest) / (2 * nearest.shape[1])
    return np.asarray(fourth**0.25)


def _slid(ink: FloatArray, low: FloatArray, high: FloatArray) -> FloatArray:
    """Slide and stretch the ink sideways onto letters that reach from `low` to `high`; its x, (k, n)."""
    own_low, own_high = float(ink[:, 0].min()), float(ink[:, 0].max())
    width = max(own_high - own_low, 1e-6)
    stretch = np.ones(len(low))
    if width >= NARROW_XH:
        stretch = np.where(high - low < NARROW_XH, 1.0, ((high - low) / width).clip(*_STRETCH))
    middle = (low + high) / 2
    return np.asarray((ink[:, 0] - (own_low + own_high) / 2) * stretch[:, None] + middle[:, None])


def _within_reach(ink: FloatArray, letters: ClassSet) -> IntArray:
    """The letters whose top and foot are not too far from the ink's to be it, and always the first."""
    low, high = letters.boxes
    off = np.maximum(np.abs(low[:, 1] - ink[:, 1].min()), np.abs(high[:, 1] - ink[:, 1].max()))
    near = off < _CAP_XH
    if not near.any():
        near[:] = True
    near[0] = True
    return np.flatnonzero(near)


def reading_costs(ink: FloatArray, letters: ClassSet) -> FloatArray:
    """How badly the ink fits each letter of the class at its place on the lines; shape (k,), xh.

    Letters that end elsewhere are no more than "not there"; others that are far off are compared by
    every third point only. Where the first letter of the class set does not fit plainly as it stands,
    a slight lift off the line (0.12 xh) is forgiven it and those that fit best.
    """
    ink = ink.clip(-_FAR_XH, _FAR_XH)
    costs = np.full(len(letters.chars), _CAP_XH)
    few = _within_reach(ink, letters)
    low, high = letters.boxes
    x = _slid(ink, low[few, 0], high[few, 0]).astype(np.float32)
    y = ink[:, 1].astype(np.float32)[None]
    their_x, their_y = (one[few] for one in letters.fine)
    if len(few) > _CLOSE:
        costs[few] = _chamfer((x[:, ::3], y[:, ::3]), (their_x[:, ::3], their_y[:, ::3]))
        best = np.unique(np.append(costs[few].argsort()[:_CLOSE], 0))
        few, x, their_x, their_y = few[best], x[best], their_x[best], their_y[best]
    costs[few] = _chamfer((x, y), (their_x, their_y))
    if costs[0] > PLAIN_XH:
        lifted = np.repeat(y + _LIFTS, len(few), axis=0)
        x, their_x, their_y = (np.tile(one, (len(_LIFTS), 1)) for one in (x, their_x, their_y))
        up_or_down = _chamfer((x, lifted), (their_x, their_y)).reshape(len(_LIFTS), -1).min(0)
        costs[few] = np.minimum(costs[few], up_or_down)
    return costs


def own_costs(ink: FloatArray, letters: ClassSet) -> FloatArray:
    """As :func:`reading_costs` for each letter in a class of its own, all at once; shape (k,), xh."""
    ink = ink.clip(-_FAR_XH, _FAR_XH)
    low, high = letters.boxes
    x = _slid(ink, low[:, 0], high[:, 0]).astype(np.float32)
    y = np.repeat(ink[:, 1].astype(np.float32)[None], len(x), axis=0)
    their_x, their_y = letters.fine
    costs = _chamfer((x, y), (their_x, their_y))
    (not_plain,) = np.nonzero(costs > PLAIN_XH)
    for lift in _LIFTS[:, 0] if len(not_plain) else ():
        moved = _chamfer((x[not_plain], y[not_plain] + lift), (their_x[not_plain], their_y[not_plain]))
        costs[not_plain] = np.minimum(costs[not_plain], moved)
    return costs


def likeliest(strokes: tuple[FloatArray, ...], chars: str, style: HouseStyle) -> str:
    """The letter of the house that ink of nobody knows what looks most like, at its place on the lines.

    It may be written with joins or without, and in a hand with rises and drops of its own length: these
    are laid on the letter's for a small price.

    Parameters
    ----------
    strokes : tuple of array, shape (n, 2)
        Letter space, xh.
    """
    ink = picture(strokes).clip(-_FAR_XH, _FAR_XH)
    cost = np.full(len(chars), np.inf)
    for joins in (False, True):
        letters = class_set(chars, style, joins=joins)
        low, high = letters.boxes
        x = _slid(ink, low[:, 0], high[:, 0]).astype(np.float32)
        y = np.repeat(ink[None, :, 1], len(chars), axis=0)
        for price, as_high in ((0.0, y), (_OWN_LENGTH_XH, as_far(y, low[:, 1:], high[:, 1:]))):
            cost = np.minimum(cost, _chamfer((x, as_high.astype(np.float32)), letters.fine) + price)
    return chars[int(cost.argmin())]


def as_far(y: FloatArray, low: FloatArray, high: FloatArray) -> FloatArray:
    """Stretch what stands above the mid line and below the base line to another's reach; heights (k, n).

    Parameters
    ----------
    low, high : arrays, shape (k, 1)
        How far down and up that reaches.
    """
    for line, out, reach in ((1.0, 1.0, high), (0.0, -1.0, low)):
        beyond = (y - line) * out
        own, theirs = beyond.max(1, keepdims=True), (reach - line) * out
        both = (own > _RISES_XH) & (theirs > _RISES_XH)
        scale = np.where(both, theirs / np.where(both, own, 1.0), 1.0)
        y = np.where(beyond > 0, line + out * beyond * scale, y)
    return y


def mirror(points: FloatArray) -> FloatArray:
    """Flip left and right about the middle."""
    middle = points[:, 0].min() + points[:, 0].max()
    return np.column_stack([middle - points[:, 0], points[:, 1]])
