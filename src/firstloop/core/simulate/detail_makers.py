"""How faults of single parts are made: points and rounds, bars, dots, arms, joins and loops."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from firstloop.core.curves import FloatArray, IntArray, resample
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.moves import JOINS, MoveKind
from firstloop.core.simulate.hand import Strokes
from firstloop.core.simulate.makers import plain

K = MoveKind
_SET_DOWN_XH = 0.02
_RADIUS_XH = 0.17
_SIDE_SHARE = 0.45
_LOWER_HALF = 0.6
_STEPS = 40


def leaning(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Lean `size` degrees forward or back of the house slant."""
    sign = 1.0 if rng.random() < 0.5 else -1.0
    more = np.tan(np.radians(style.slant_deg + sign * size)) - np.tan(np.radians(style.slant_deg))
    return [stroke + np.outer(stroke[:, 1], [more, 0.0]) for stroke in plain(model)]


def _moves(model: Letter, *kinds: MoveKind) -> Iterator[tuple[int, int, IntArray]]:
    """Stroke, move and sample indices of every move of the given kinds."""
    for s, stroke in enumerate(model.strokes):
        for m, move in enumerate(stroke.moves):
            if move.kind in kinds:
                yield s, m, np.flatnonzero(model.sampled[s].move == m)


def _through(a: FloatArray, b: FloatArray, c: FloatArray, count: int) -> FloatArray:
    return resample(np.stack([a, b, c]), count)


def corner(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Make the round pointed, or, in a letter of slopes, the points in its lower half round."""
    out = plain(model)
    rounds = list(_moves(model, K.CUP, K.ARCH))
    for s, m, where in rounds:
        run = out[s][where]
        up = -run[:, 1] if model.kinds[s][m] is K.CUP else run[:, 1]
        apex = run[up >= up.max() - 1e-3].mean(0)
        out[s][where] = _through(run[0], apex, run[-1], len(run))
    if not rounds:
        for s, stroke in enumerate(out):
            corners = np.flatnonzero(np.diff(model.sampled[s].move))
            out[s] = _as_tall_as(stroke, _rounded(stroke, corners))
    return out


def _rounded(stroke: FloatArray, corners: IntArray) -> FloatArray:
    """Cut every corner in the lower half by the arc of a circle that touches both its sides."""
    high = _LOWER_HALF * float(stroke[:, 1].max())
    ends = [0, *corners.tolist(), len(stroke) - 1]
    pieces = [stroke[:1]]
    for before, at, after in zip(ends, ends[1:], ends[2:], strict=False):
        if stroke[at, 1] > high:
            pieces.append(stroke[at : at + 1])
            continue
        into, out = stroke[before] - stroke[at], stroke[after] - stroke[at]
        sides = np.hypot(*into), np.hypot(*out)
        into, out = into / sides[0], out / sides[1]
        half = 0.5 * np.arccos(np.clip(into @ out, -1, 1))
        tangent = min(_RADIUS_XH / np.tan(half), _SIDE_SHARE * min(sides))
        radius = tangent * np.tan(half)
        middle = stroke[at] + (into + out) / np.hypot(*(into + out)) * radius / np.sin(half)
        first, last = stroke[at] + tangent * into - middle, stroke[at] + tangent * out - middle
        begin, end = np.arctan2(first[1], first[0]), np.arctan2(last[1], last[0])
        turn = (end - begin + np.pi) % (2 * np.pi) - np.pi
        angles = begin + np.linspace(0, turn, _STEPS)
        pieces.append(middle + radius * np.column_stack([np.cos(angles), np.sin(angles)]))
    return resample(np.concatenate([*pieces, stroke[-1:]]), len(stroke))


def _as_tall_as(goal: FloatArray, points: FloatArray) -> FloatArray:
    """Stretch a run to the height of another."""
    low, high = points[:, 1].min(), points[:, 1].max()
    y = (points[:, 1] - low) / (high - low) * np.ptp(goal[:, 1]) + goal[:, 1].min()
    return np.column_stack([points[:, 0], y])


def arm(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Make the arm, hook, foot or tail of the first stroke too long by `size` %, or too short."""
    out = plain(model)
    at = 0 if model.char == "f" else len(model.strokes[0].moves) - 1
    where = model.sampled[0].move == at
    stem = float(np.median(out[0][model.sampled[0].move == (1 if at == 0 else at - 1), 0]))
    short = rng.random() < 0.5 and size <= 85
    factor = 1 - size / 100 if short else 1 + size / 100
    out[0][where, 0] = stem + (out[0][where, 0] - stem) * factor
    return out


def bar_height(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Cross the stem too high or too low."""
    out = plain(model)
    s = max(s for s, _, _ in _moves(model, K.BAR))
    out[s] = out[s] + np.array([0.0, size if rng.random() < 0.5 else -size])
    return out


def bar_detached(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Begin the last bar `size` away from its stem."""
    out = plain(model)
    s = max(s for s, _, _ in _moves(model, K.BAR))
    others = np.concatenate([stroke for i, stroke in enumerate(out) if i != s])
    level = others[np.abs(others[:, 1] - out[s][:, 1].mean()) < 0.05]
    out[s] = out[s] + np.array([level[:, 0].min() + size - out[s][:, 0].min(), 0.0])
    return out


def bars_uneven(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Draw one of several bars too long by `size` %."""
    out = plain(model)
    bars = [s for s, _, _ in _moves(model, K.BAR)]
    s = bars[int(rng.integers(len(bars)))]
    left = out[s][0]
    out[s] = left + (out[s] - left) * np.array([1 + size / 100, 1.0])
    return out


def dot_off(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Set the dot `size` away: above, to the left or to the right."""
    out = plain(model)
    dx, dy = ((0.0, 1.0), (1.0, 0.1), (-1.0, 0.1))[int(rng.integers(3))]
    out[1] = out[1] + size * np.array([dx, dy])
    return out


def join_missing(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Leave out the exit; from two on the lead-in as well."""
    out = plain(model)
    kinds = model.kinds[0]
    gone = [m for m, kind in enumerate(kinds) if kind in JOINS]
    gone = gone[-1:] if size < 2 else gone
    out[0] = out[0][~np.isin(model.sampled[0].move, gone)]
    return out


def join_break(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Lift on the way out, and from two on the way in, and set down again a little off."""
    out = plain(model)
    joins = [(m, where) for s, m, where in _moves(model, *JOINS) if s == 0]
    cuts = [int(where[len(where) // 2]) for _, where in joins[-max(1, round(size)) :]]
    pieces = np.split(out[0], cuts)
    return [*(piece + rng.normal(0, _SET_DOWN_XH, 2) for piece in pieces), *out[1:]]


def join_crossing(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Bring the loop of a tail up too high before it crosses the stem."""
    out = plain(model)
    _, _, where = next(one for one in _moves(model, K.LOOP) if out[one[0]][one[2], 1].min() < -0.3)
    low = where[int(out[0][where, 1].argmin())]
    rise = np.zeros(len(out[0]))
    rise[low : where[-1] + 1] = np.linspace(0, size, where[-1] + 1 - low)
    after = len(rise) - where[-1] - 1
    rise[where[-1] + 1 :] = np.linspace(size, 0, after) if after else rise[where[-1] + 1 :]
    out[0] = out[0] + np.column_stack([np.zeros(len(rise)), rise])
    return out
