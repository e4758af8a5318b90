"""A letter: strokes of moves, which draw themselves on a pen.

A *pen* is anything with three methods. SVG paths, the curves of a PDF page, the pixels of a PNG and
sampled points are pens; bounds, guides, timing and all comparing work on the sampled points, and the
words said while writing on the moves themselves. So there is no second drawing of a letter anywhere.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from firstloop.core.curves import FloatArray, IntArray, Point
from firstloop.core.letterforms.parts import Parts
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.moves import JOINS, Move, MoveKind, Stroke

SPACING_XH = 0.01

NARROW_XH = 0.30  # a letter narrower than this (l, i, 1) has no width to be compared by


@dataclass(frozen=True)
class Making:
    """What an alphabet needs to make one letter: the measures of its parts and the school's choices."""

    parts: Parts
    style: HouseStyle

    @property
    def joined(self) -> bool:
        """Whether the letter is made for joined writing."""
        return self.style.is_joined

    def pick(self, key: str) -> str:
        """The form the school has chosen."""
        return self.style.pick(key)


Maker = Callable[[Making], tuple[Stroke, ...]]
"""Makes the strokes of one letter, upright and at even width."""


class Pen(Protocol):
    """What a letter draws itself on."""

    def pen_down(self, start: Point) -> None:
        """Begin a stroke."""

    def make(self, move: Move) -> None:
        """Make one move of the stroke."""

    def pen_up(self) -> None:
        """End the stroke."""


@dataclass(frozen=True, eq=False)
class SampledStroke:
    """A stroke as points: ``points`` (n, 2) in xh, ``move`` (n,) the index of each point's move."""

    points: FloatArray
    move: IntArray


@dataclass(frozen=True, eq=False)
class Letter:
    """A letter of one house style, in letter space."""

    char: str
    strokes: tuple[Stroke, ...]

    def draw(self, pen: Pen) -> None:
        """Draw every stroke in order on `pen`."""
        for stroke in self.strokes:
            pen.pen_down(stroke.start)
            for move in stroke.moves:
                pen.make(move)
            pen.pen_up()

    def transformed(self, matrix: FloatArray) -> Letter:
        """Return the letter under a linear map, shape (2, 2)."""
        return Letter(self.char, tuple(stroke.transformed(matrix) for stroke in self.strokes))

    def shifted(self, dx: float) -> Letter:
        """Return the letter further along the line."""
        return Letter(self.char, tuple(stroke.shifted(dx) for stroke in self.strokes))

    @cached_property
    def sampled(self) -> tuple[SampledStroke, ...]:
        """Every stroke as points 0.01 xh apart, with the move each belongs to."""
        pen = PointPen()
        self.draw(pen)
        return tuple(pen.strokes)

    @cached_property
    def points(self) -> FloatArray:
        """All points of all strokes, shape (n, 2)."""
        return np.concatenate([np.zeros((0, 2)), *(stroke.points for stroke in self.sampled)])

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """Left, bottom, right, top in xh; all 0 where nothing is drawn (a space)."""
        if not self.strokes:
            return 0.0, 0.0, 0.0, 0.0
        low, high = self.points.min(0), self.points.max(0)
        return float(low[0]), float(low[1]), float(high[0]), float(high[1])

    @cached_property
    def body_bounds(self) -> tuple[float, float, float, float]:
        """As :attr:`bounds`, without dots: they say nothing about the band a letter stands in."""
        body = tuple(stroke for stroke in self.strokes if not stroke.is_dot)
        return Letter(self.char, body).bounds if body else self.bounds

    @property
    def has_dot(self) -> bool:
        """Whether one of its strokes is a dot."""
        return any(stroke.is_dot for stroke in self.strokes)

    @cached_property
    def kinds(self) -> tuple[tuple[MoveKind, ...], ...]:
        """Kinds of moves, stroke by stroke."""
        return tuple(stroke.kinds for stroke in self.strokes)


class PointPen:
    """Collects sampled points and the move each belongs to."""

    def __init__(self, spacing: float = SPACING_XH) -> None:
        self.spacing = spacing
        self.strokes: list[SampledStroke] = []
        self._points: list[FloatArray] = []
        self._moves: list[IntArray] = []

    def pen_down(self, start: Point) -> None:
        """Begin collecting."""
        self._points, self._moves = [], []

    def make(self, move: Move) -> None:
        """Sample one move."""
        points = move.path.points(self.spacing)
        if self._points:
            points = points[1:]
        self._points.append(points)
        self._moves.append(np.full(len(points), len(self._moves), dtype=np.int64))

    def pen_up(self) -> None:
        """Keep the stroke."""
        self.strokes.append(SampledStroke(np.concatenate(self._points), np.concatenate(self._moves)))


class SvgPen:
    """Writes SVG path data, y downwards, one string a stroke and one a move.

    Parameters
    ----------
    scale : float
        SVG units in one xh.
    """

    def __init__(self, scale: float = 100.0) -> None:
        self.scale = scale
        self.moves: list[list[str]] = []

    def _at(self, point: FloatArray) -> str:
        x, y = point[0] * self.scale, -point[1] * self.scale
        return f"{round(x, 2) + 0.0:g} {round(y, 2) + 0.0:g}"

    def pen_down(self, start: Point) -> None:
        """Begin a stroke."""
        self.moves.append([])

    def make(self, move: Move) -> None:
        """Write one move as ``M`` and ``C`` commands."""
        curves = " ".join("C " + ", ".join(self._at(p) for p in piece[1:]) for piece in move.path.cubics)
        self.moves[-1].append(f"M {self._at(move.path.start)} {curves}")

    def pen_up(self) -> None:
        """Nothing to close: strokes are open."""

    @property
    def strokes(self) -> list[str]:
        """Path data of whole strokes."""
        return [" ".join([moves[0], *(m[m.index("C") :] for m in moves[1:])]) for moves in self.moves]


def without_joins(model: Letter) -> list[FloatArray]:
    """The strokes of a letter without its joins, which make all letters of a joined hand alike."""
    out = []
    for stroke, sampled in zip(model.strokes, model.sampled, strict=True):
        own = np.array([move.kind not in JOINS for move in stroke.moves])[sampled.move]
        if own.any():
            out.append(sampled.points[own])
    return out
