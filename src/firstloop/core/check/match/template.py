"""What the checker needs to know about a model letter, worked out once.

Named spots on the model (tops at the mid line, feet on the base line, places that close, lengths
written twice, parts that may be missing) are found from its geometry, so a new letter needs no
entry here.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np

from firstloop.core.curves import (
    BoolArray,
    FloatArray,
    IntArray,
    along,
    length,
    nearest,
    resample,
    written_twice,
)
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter, SampledStroke
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.core.moves import JOINS, MoveKind

K = MoveKind
FINE_XH = 0.04  # spacing of the template's points
_ON_LINE_XH = 0.03
_HEAD_XH = 0.6
_LANDMARK_REACH_XH = 0.30
_TWICE_XH = 0.03
_TWICE_LEAST_XH = 0.3
_CLEAR_XH = 0.12
_STRAIGHT = 0.99  # a move whose ends are this share of its length apart
_REACH_XH = (0.13, 0.20)
_JOIN_REACH_XH = 0.16
_BAR_GIVEN = np.array([1.0, 0.5])

_PART_NAMES: dict[MoveKind, str] = {
    K.DOT: "dot",
    K.BAR: "bar",
    K.ARCH: "arch",
    K.CUP: "cup",
    K.HOOK_LEFT: "tail",
    K.HOOK_RIGHT: "tail",
    K.ROUND_LEFT: "round",
    K.ROUND_RIGHT: "round",
    K.SLOPE_LEFT: "slope",
    K.SLOPE_RIGHT: "slope",
    K.SLOPE_UP: "slope",
}


@dataclass(frozen=True, eq=False)
class ModelPart:
    """A piece of the model that a child may leave out.

    ``points`` are those that stand clear of every other part; ink within ``reach_xh`` covers them.
    """

    name: str
    stroke: int
    move: int
    points: FloatArray
    reach_xh: float = 0.20

    def coverage(self, ink: FloatArray) -> float:
        """Share of its own points that have ink near; a bar may stand too high or low and still be there."""
        points = self.points
        if self.name == "bar":
            points, ink = points * _BAR_GIVEN, ink * _BAR_GIVEN
        return float((nearest(points, ink) <= self.reach_xh).mean())


@dataclass(frozen=True, eq=False)
class Closure:
    """A place where a bowl closes: template indices that end it and those it should touch."""

    ending: IntArray
    partner: IntArray
    move: int


class Landmark(NamedTuple):
    """Template indices at which to look for a landmark, and whether it comes soon after the pen-down."""

    near: IntArray
    is_soon: bool


@dataclass(frozen=True, eq=False)
class Template:
    """A model letter prepared for comparison; dots are kept apart from the body.

    ``points`` (n, 2), ``stroke`` (n,) and ``move`` (n,) run through all strokes but dots;
    the ``tops``, ``feet``, ``rises``, ``drops`` are index arrays of landmarks in them.
    """

    letter: Letter
    points: FloatArray
    stroke: IntArray
    move: IntArray
    kinds: tuple[MoveKind, ...]
    tops: IntArray
    feet: IntArray
    rises: IntArray
    drops: IntArray
    twice: BoolArray
    once: IntArray
    closures: tuple[Closure, ...]
    parts: tuple[ModelPart, ...]
    joins: tuple[ModelPart, ...]
    dot: FloatArray | None
    dot_stroke: int | None

    @cached_property
    def width(self) -> float:
        """Width of the body, xh."""
        return float(np.ptp(self.points[:, 0]))

    @cached_property
    def runs(self) -> dict[int, FloatArray]:
        """Points of each stroke but the dot, by its number."""
        return {int(s): self.points[self.stroke == s] for s in np.unique(self.stroke)}

    @cached_property
    def lengths(self) -> dict[int, float]:
        """Length of each stroke but the dot, xh."""
        return {s: length(points) for s, points in self.runs.items()}

    @property
    def is_lower(self) -> bool:
        """Whether it is a lower-case letter; capitals and digits are as tall as their band all over."""
        return self.letter.char.islower()

    @property
    def length(self) -> float:
        """Length of all strokes but dots, xh."""
        return sum(self.lengths.values())

    @cached_property
    def body(self) -> BoolArray:
        """Which points are of the letter itself and not of its joins; shape (n,)."""
        return np.array([kind not in JOINS for kind in self.kinds], dtype=np.bool_)

    @cached_property
    def upright(self) -> BoolArray:
        """Which points are of a move straight up or down; shape (n,)."""
        out = np.zeros(len(self.points), dtype=np.bool_)
        for s, stroke in enumerate(self.letter.strokes):
            for m, move in enumerate(stroke.moves):
                if move.kind in (K.DOWN, K.UP, K.RETRACE):
                    reach = float(np.hypot(*(move.path.end - move.path.start)))
                    out[self.of(s, m)] = reach > _STRAIGHT * length(move.path.points(0.05))
        return out

    @cached_property
    def lean_deg(self) -> float | None:
        """Lean of the downstrokes, degrees forward of the vertical; None without one."""
        total = np.zeros(2)
        for s, stroke in enumerate(self.letter.strokes):
            for m, move in enumerate(stroke.moves):
                across, up = move.path.end - move.path.start
                if self.upright[self.of(s, m)].any():
                    total += np.sign(up) * np.array([across, up])
        return float(np.degrees(np.arctan2(total[0], total[1]))) if total[1] > 0 else None

    def of(self, stroke: int, move: int) -> IntArray:
        """Indices of the points of one move."""
        return np.flatnonzero((self.stroke == stroke) & (self.move == move))

    @cached_property
    def since_pen_down(self) -> FloatArray:
        """Arc length from each point back to where the pen goes down, xh; shape (n,)."""
        begins = np.searchsorted(self.stroke, self.stroke)
        return np.asarray((np.arange(len(self.points)) - begins) * FINE_XH)

    def is_soon_after_start(self, index: int) -> bool:
        """Whether a point follows so soon on the pen-down that a misplaced start would move it."""
        return bool(0 < self.since_pen_down[index] <= _HEAD_XH + FINE_XH / 2)

    def near(self, index: int, reach_xh: float = _LANDMARK_REACH_XH) -> IntArray:
        """Indices of the same stroke within `reach_xh` of ink along it.

        A landmark soon after the pen went down looks forward only, so that a start in the wrong
        place does not pass for a wrong height.
        """
        count = round(reach_xh / FINE_XH)
        back = 1 if self.is_soon_after_start(index) else count
        span = np.arange(max(0, index - back), min(len(self.points), index + count + 1))
        return np.asarray(span[self.stroke[span] == self.stroke[index]])

    @cached_property
    def landmarks(self) -> dict[str, tuple[Landmark, ...]]:
        """The ``tops``, ``feet``, ``rises`` and ``drops``, and where to look for each."""
        return {
            name: tuple(
                Landmark(self.near(i), self.is_soon_after_start(i)) for i in getattr(self, name).tolist()
            )
            for name in ("tops", "feet", "rises", "drops")
        }


def _resampled(sampled: SampledStroke) -> tuple[FloatArray, IntArray]:
    where = along(sampled.points)
    count = max(2, round(float(where[-1]) / FINE_XH) + 1)
    at = np.linspace(0, where[-1], count)
    move = sampled.move[np.clip(np.searchsorted(where, at - 1e-9), 0, len(where) - 1)]
    return resample(sampled.points, count), move


def _extremes(y: FloatArray, stroke: IntArray, sign: float) -> IntArray:
    """Indices where a stroke turns back in height, its ends included."""
    found = []
    for s in np.unique(stroke):
        index = np.flatnonzero(stroke == s)
        level = sign * y[index]
        for k, i in enumerate(index):
            before, after = level[:k], level[k + 1 :]
            if (not len(before) or level[k] >= before[-1]) and (not len(after) or level[k] > after[0]):
                found.append(i)
    return np.array(found, dtype=np.int64)


def _on(index: IntArray, y: FloatArray, height: float, slack: float = _ON_LINE_XH) -> IntArray:
    return index[np.abs(y[index] - height) <= slack]


def _tops(template_y: FloatArray, stroke: IntArray, bar_only: set[int]) -> IntArray:
    """Tops at the mid line: turns inside a stroke where there are any, else pen-downs."""
    tops = _on(_extremes(template_y, stroke, 1.0), template_y, 1.0)
    tops = np.array([i for i in tops if int(stroke[i]) not in bar_only], dtype=np.int64)
    starts = {int(np.flatnonzero(stroke == s)[0]) for s in np.unique(stroke)}
    inner = np.array([i for i in tops if int(i) not in starts], dtype=np.int64)
    return inner if len(inner) else tops


def _twice(points: FloatArray, stroke: IntArray) -> tuple[BoolArray, IntArray]:
    """Mark points that lie on an earlier part of their own stroke, and where that part is."""
    mask, once = np.zeros(len(points), dtype=np.bool_), np.zeros(len(points), dtype=np.int64)
    for s in np.unique(stroke):
        index = np.flatnonzero(stroke == s)
        mask[index], earlier = written_twice(points[index], _TWICE_XH, _TWICE_LEAST_XH, FINE_XH)
        once[index] = index[earlier]
    return mask, once


def _closures(points: FloatArray, stroke: IntArray, move: IntArray, source: Letter) -> tuple[Closure, ...]:
    found = []
    for s, one in enumerate(source.strokes):
        for m, made in enumerate(one.moves):
            if not made.closes:
                continue
            inside = np.flatnonzero((stroke == s) & (move == m))
            end = inside[-1]
            gap = np.hypot(*(points - points[end]).T)
            far = (stroke == s) & (np.arange(len(points)) < end - 15)
            touch = int(np.where(far, gap, np.inf).argmin())
            partner = np.arange(max(0, touch - 8), touch + 9)
            beyond = np.arange(end - 7, min(len(points), end + 5))
            found.append(Closure(beyond[stroke[beyond] == s], partner[stroke[partner] == s], m))
    return tuple(found)


def _parts(source: Letter) -> tuple[tuple[ModelPart, ...], tuple[ModelPart, ...]]:
    """What a child may leave out: parts of the letter itself, and the ways in and out."""
    parts: list[ModelPart] = []
    joins: list[ModelPart] = []
    for s, (one, sampled) in enumerate(zip(source.strokes, source.sampled, strict=True)):
        for m, made in enumerate(one.moves):
            points = sampled.points[sampled.move == m][::4]
            if made.kind in (K.DOWN, K.UP):
                stem = m == 0 or (made.kind is K.UP)
                tail = float(made.path.end[1]) < -0.3
                name = "tail" if tail and not stem else "stem" if stem else "leg"
                parts.append(ModelPart(name, s, m, points))
            elif made.kind in _PART_NAMES:
                parts.append(ModelPart(_PART_NAMES[made.kind], s, m, points))
            elif made.kind in JOINS:
                name = "lead-in" if made.kind is K.ENTRY else "exit"
                joins.append(ModelPart(name, s, m, points, _JOIN_REACH_XH))
    body = tuple(_own(part, parts) for part in parts)
    every = _all_points(source)
    return body, tuple(replace(one, points=_clear_of(one, every)) for one in joins)


def _all_points(source: Letter) -> dict[tuple[int, int], FloatArray]:
    """Points of every move, by stroke and move."""
    return {
        (s, m): sampled.points[sampled.move == m][::4]
        for s, sampled in enumerate(source.sampled)
        for m in np.unique(sampled.move).tolist()
    }


def _clear_of(part: ModelPart, every: dict[tuple[int, int], FloatArray]) -> FloatArray:
    """The points of a part that stand clear of all other moves."""
    others = [points for key, points in every.items() if key != (part.stroke, part.move)]
    if not others:
        return part.points
    return part.points[nearest(part.points, np.concatenate(others)) > _CLEAR_XH]


def _own(part: ModelPart, parts: list[ModelPart]) -> ModelPart:
    """Keep only the points of a part that stand clear of all others."""
    others = [p.points for p in parts if p is not part]
    if part.name == "dot" or not others:
        return part
    away = nearest(part.points, np.concatenate(others))
    clear = away > _CLEAR_XH
    reach = float(np.clip(0.55 * np.median(away[clear]), *_REACH_XH)) if clear.any() else _REACH_XH[1]
    return ModelPart(part.name, part.stroke, part.move, part.points[clear], reach)


@lru_cache(maxsize=1024)
def template(char: str, style: HouseStyle) -> Template:
    """Prepare the model of `char` in a house style.

    Raises
    ------
    UnknownLetterError
        If the house has no model for `char`.
    """
    return template_of(letter(char, style))


@lru_cache(maxsize=256)
def template_in(text: str, index: int, style: HouseStyle) -> Template:
    """Prepare one letter of a word as it stands there, with its join on to the next.

    Raises
    ------
    UnknownLetterError
    """
    return template_of(word(text, style).letter_at(index))


def template_of(source: Letter) -> Template:
    """Prepare a model for comparison."""
    dot_stroke = next((s for s, kinds in enumerate(source.kinds) if kinds[0] is K.DOT), None)
    runs, strokes, moves = [], [], []
    for s, sampled in enumerate(source.sampled):
        if s == dot_stroke:
            continue
        points, move = _resampled(sampled)
        runs.append(points)
        moves.append(move)
        strokes.append(np.full(len(points), s, dtype=np.int64))
    points, stroke, move = np.concatenate(runs), np.concatenate(strokes), np.concatenate(moves)
    y = points[:, 1]
    bar_only = {s for s, kinds in enumerate(source.kinds) if set(kinds) == {K.BAR}}
    high, low = _extremes(y, stroke, 1.0), _extremes(y, stroke, -1.0)
    twice, once = _twice(points, stroke)
    parts, joins = _parts(source)
    return Template(
        letter=source,
        points=points,
        stroke=stroke,
        move=move,
        kinds=tuple(source.strokes[s].moves[m].kind for s, m in zip(stroke, move, strict=True)),
        tops=_tops(y, stroke, bar_only),
        feet=_on(low, y, 0.0),
        rises=high[y[high] > 1.4],
        drops=low[y[low] < -0.5],
        twice=twice,
        once=once,
        closures=_closures(points, stroke, move, source),
        parts=parts,
        joins=joins,
        dot=None if dot_stroke is None else source.sampled[dot_stroke].points.mean(0),
        dot_stroke=dot_stroke,
    )
