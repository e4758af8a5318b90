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

from firstloop.core.curves import FloatArray, along, resample
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.moves import JOINS

PICTURE_POINTS = 48
_STRETCH = (0.72, 1.4)
_NARROW_XH = 0.30
_CAP_XH = 0.6
_LIFT = np.array([0.0, 0.12])  # xh
_CLOSE = 4  # letters compared in full


@dataclass(frozen=True, eq=False)
class ClassSet:
    """The letters a class may write, as pictures: ``pictures`` (k, 48, 2)."""

    chars: str
    pictures: FloatArray

    @cached_property
    def mirror_cost(self) -> float:
        """How badly the first letter fits its own mirror image, xh."""
        return float(reading_costs(mirror(self.pictures[0]), self)[0])


def picture(strokes: tuple[FloatArray, ...] | list[FloatArray]) -> FloatArray:
    """Spread 48 points evenly over all strokes; shape (48, 2)."""
    lengths = [max(float(along(stroke)[-1]), 0.08) for stroke in strokes]
    shares = np.maximum(1, np.floor(PICTURE_POINTS * np.array(lengths) / sum(lengths)).astype(int))
    shares[int(np.argmax(lengths))] += PICTURE_POINTS - int(shares.sum())
    return np.concatenate([resample(s, max(1, int(n))) for s, n in zip(strokes, shares, strict=True)])[
        :PICTURE_POINTS
    ]


@lru_cache(maxsize=64)
def class_set(chars: str, style: HouseStyle) -> ClassSet:
    """Prepare the letters of a class."""
    return ClassSet(chars, np.stack([picture(bare(letter(c, style))) for c in chars]))


def bare(model: Letter) -> list[FloatArray]:
    """The strokes of a letter without its joins, which make all letters of a joined hand alike."""
    out = []
    for stroke, sampled in zip(model.strokes, model.sampled, strict=True):
        own = np.array([move.kind not in JOINS for move in stroke.moves])[sampled.move]
        if own.any():
            out.append(sampled.points[own])
    return out


def _chamfer(ink: FloatArray, pictures: FloatArray) -> FloatArray:
    """Fourth-power mean of nearest distances both ways; ink (k, n, 2) against pictures (k, m, 2)."""
    a, b = ink.astype(np.float32), pictures.astype(np.float32)  # half the work, and far finer than ink
    squared = a @ (-2 * b).transpose(0, 2, 1)
    squared += np.einsum("kni,kni->kn", a, a)[:, :, None]
    squared += np.einsum("kmi,kmi->km", b, b)[:, None, :]
    np.minimum(np.maximum(squared, 0.0, out=squared), _CAP_XH**2, out=squared)
    there, back = squared.min(2), squared.min(1)
    fourth = np.einsum("kn,kn->k", there, there) / there.shape[1]
    fourth += np.einsum("km,km->k", back, back) / back.shape[1]
    return np.asarray((0.5 * fourth) ** 0.25, dtype=np.float64)


def _slid(ink: FloatArray, pictures: FloatArray) -> FloatArray:
    """Slide and stretch the ink sideways onto each picture; shape (k, n, 2)."""
    low, high = pictures[:, :, 0].min(1), pictures[:, :, 0].max(1)
    own_low, own_high = ink[:, 0].min(), ink[:, 0].max()
    width = max(float(own_high - own_low), 1e-6)
    stretch = np.clip((high - low) / width, *_STRETCH)
    stretch = np.where((high - low < _NARROW_XH) | (width < _NARROW_XH), 1.0, stretch)
    x = (ink[None, :, 0] - (own_low + own_high) / 2) * stretch[:, None] + ((low + high) / 2)[:, None]
    return np.stack([x, np.broadcast_to(ink[None, :, 1], x.shape)], axis=2)


def reading_costs(ink: FloatArray, letters: ClassSet) -> FloatArray:
    """How badly the ink fits each letter of the class at its place on the lines; shape (k,), xh.

    Letters that are far off are compared by every other point only. For the first letter of the
    class set and for those that fit best a slight lift off the line (0.12 xh) is forgiven.
    """
    slid = _slid(ink, letters.pictures)
    best = _chamfer(slid[:, ::2], letters.pictures[:, ::2])
    few = np.union1d(np.argsort(best)[:_CLOSE], [0])
    level, pictures = slid[few], letters.pictures[few]
    lifts = np.concatenate([level, level - _LIFT, level + _LIFT])
    best[few] = _chamfer(lifts, np.tile(pictures, (3, 1, 1))).reshape(3, -1).min(0)
    return best


def mirror(points: FloatArray) -> FloatArray:
    """Flip left and right about the middle."""
    middle = points[:, 0].min() + points[:, 0].max()
    return np.column_stack([middle - points[:, 0], points[:, 1]])
