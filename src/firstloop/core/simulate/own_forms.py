"""Letterforms of one's own: the letters of the class as somebody writes them who learnt others.

Heights, order and direction stay those of the model. What is one's own is what no school prescribes to a
hair: how full a round is, where an arch springs, how wide a letter comes, whether a stem is quite straight.
It is worked into the curves themselves (knots, and how far their handles reach), so that a round becomes
squarer or more pointed and not merely a model that has been bent.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TypeVar

import numpy as np

from firstloop.core.curves import FloatArray, Path
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.words import Word
from firstloop.core.moves import Move, Stroke

Drawn = TypeVar("Drawn", bound=Letter)

# how far people differ, standard deviation; held to twice that
_WIDE, _FULL, _SPRING_XH, _BOW_XH, _LEAN = 0.05, 0.08, 0.025, 0.015, 0.02


@dataclass(frozen=True)
class OwnForms:
    """How one writer's letterforms differ from the model.

    Parameters
    ----------
    wide : float
        Width against the model's.
    full_out, full_in : float
        Reach of a curve's handles against the model's, where it leaves a knot and where it comes to one:
        more makes a round squarer, less more pointed; unequal ones make it heavier on one side.
    spring_xh : float
        By how much what stands between the lines (where arches leave, where bars cross) stands higher.
    bow_xh : float
        How far a stem swells to the right between two lines.
    lean : float
        Sideways for one up.
    """

    wide: float = 1.0
    full_out: float = 1.0
    full_in: float = 1.0
    spring_xh: float = 0.0
    bow_xh: float = 0.0
    lean: float = 0.0

    @classmethod
    def someone(cls, rng: np.random.Generator) -> OwnForms:
        """Draw a writer."""
        wide, out, come, spring, bow, lean = np.clip(rng.normal(0, 1, 6), -2, 2).tolist()
        return cls(
            1 + _WIDE * wide,
            1 + _FULL * out,
            1 + _FULL * come,
            _SPRING_XH * spring,
            _BOW_XH * bow,
            _LEAN * lean,
        )

    def of(self, model: Drawn) -> Drawn:
        """The letter, or the word, in these forms."""
        if self == THE_MODELS:
            return model
        strokes = tuple(self._stroke(stroke) for stroke in model.strokes)
        if isinstance(model, Word):
            return replace(model, strokes=strokes, lefts=tuple(self.wide * left for left in model.lefts))
        return replace(model, strokes=strokes)

    def _placed(self, points: FloatArray) -> FloatArray:
        x, y = points[..., 0], points[..., 1]
        between = np.sin(np.pi * y)  # nothing on a line, most halfway to the next
        across = self.wide * x + self.lean * y + self.bow_xh * np.abs(between)
        return np.stack([across, y + self.spring_xh * between], axis=-1)

    def _path(self, path: Path) -> Path:
        a, b, c, d = (path.cubics[:, i] for i in range(4))
        b, c = a + self.full_out * (b - a), d + self.full_in * (c - d)
        return Path(self._placed(np.stack([a, b, c, d], axis=1)))

    def _stroke(self, stroke: Stroke) -> Stroke:
        return Stroke(tuple(Move(move.kind, self._path(move.path), move.closes) for move in stroke.moves))


THE_MODELS = OwnForms()
"""The letterforms of the class."""
