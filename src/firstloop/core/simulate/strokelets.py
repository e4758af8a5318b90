"""A second hand, built as hands move: short overlapping strokes with lognormal speed.

The sigma-lognormal model (Plamondon, 1995, "A kinematic theory of rapid human movements"; O'Reilly
and Plamondon, 2009, "Development of a Sigma-Lognormal representation for on-line signatures"):
a movement is a sum of strokelets, each an arc towards a target that is run through with a lognormal
speed, begun before the one before it has ended. Where they overlap, corners are rounded and targets
undershot, as a quick hand does.

The other hand (:func:`firstloop.core.simulate.hand.vary`) bends finished lines. What a checker is
tuned on should not be what it is measured on: tolerances are set with that one, the table is kept
with this one.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from firstloop.core.curves import FloatArray, along, resample
from firstloop.core.simulate.hand import REPORT_MS, STEP_XH, SimHand, Strokes, overall

_CORNER_DEG = 40.0  # more of a turn than this within a short way is a corner
_CORNER_REACH = 4  # samples either side
_TURN_MOST_DEG = 60.0  # one strokelet turns no further, and goes no further
_LONG_XH = 0.8
_SHORT_XH = 0.12
_SIGMA = 0.30
_TAIL = 2.5  # standard deviations of a strokelet's time that are run through
_BASE_MS, _PER_XH_MS = 130.0, 230.0
_OVERLAP, _OVERLAP_CORNER = (0.10, 0.30), (0.0, 0.10)
_TARGET_SHARE = 1.0  # of the hand's wobble, by which a target is missed
_BEND_DEG = 4.0
_TREMOR_HZ = (7.0, 11.0)


@dataclass(frozen=True)
class Strokelet:
    """One arc: from one target to the next, turning by `turn` radians, begun at `begin_ms`."""

    start: FloatArray
    end: FloatArray
    turn: float
    begin_ms: float
    duration_ms: float

    def gone(self, t_ms: FloatArray) -> FloatArray:
        """How far along the arc it is by each time, as displacement; shape (len(t_ms), 2)."""
        t = np.maximum(t_ms - self.begin_ms, 1e-6)
        mu = np.log(self.duration_ms) - _TAIL * _SIGMA
        share = np.clip(ndtr((np.log(t) - mu) / _SIGMA) / ndtr(_TAIL), 0.0, 1.0)
        chord = self.end - self.start
        if abs(self.turn) < 1e-3:
            return np.asarray(share[:, None] * chord)
        # an arc of a circle whose chord is `chord`: rotate the chord as it is built up
        half = self.turn / 2
        angle = half * (share - 1)
        size = np.sin(half * share) / np.sin(half)
        cos, sin = size * np.cos(angle), size * np.sin(angle)
        return np.column_stack([cos * chord[0] - sin * chord[1], sin * chord[0] + cos * chord[1]])


def targets(points: FloatArray) -> tuple[list[int], list[bool]]:
    """Where strokelets end in an evenly spaced run: indices with both ends, and which are corners."""
    step = points[1:] - points[:-1]
    heading = np.unwrap(np.arctan2(step[:, 1], step[:, 0]))
    n = len(heading)
    lag = np.arange(_CORNER_REACH, n - _CORNER_REACH)
    turn = (
        np.abs(heading[lag + _CORNER_REACH - 1] - heading[lag - _CORNER_REACH]) if len(lag) else np.zeros(0)
    )
    sharp = turn > np.radians(_CORNER_DEG + 4)
    out, corner = [0], [False]
    last = 0
    i = 1
    while i < n:
        k = i - _CORNER_REACH
        peak = 0 <= k < len(turn) and sharp[k] and turn[k] >= turn[max(0, k - 4) : k + 5].max()
        turned = abs(heading[i] - heading[min(last + 1, n - 1)]) > np.radians(_TURN_MOST_DEG)
        far = (i - last) * STEP_XH > _LONG_XH
        if (peak or turned or far) and (i - last) * STEP_XH > _SHORT_XH and (n - i) * STEP_XH > _SHORT_XH:
            out.append(i)
            corner.append(bool(peak))
            last = i
            if peak:
                i += _CORNER_REACH
        i += 1
    return [*out, len(points) - 1], [*corner, False]


def _turn(run: FloatArray) -> float:
    """By how much the arc turns that stands off its chord as far as a run does, radians; left is positive.

    At most half a circle: a run that goes there and back is no arc.
    """
    chord = run[-1] - run[0]
    size = float(np.hypot(*chord))
    if size == 0.0:
        return 0.0
    aside = (run - run[0]) @ np.array([chord[1], -chord[0]]) / size
    off = float(np.clip(aside[np.abs(aside).argmax()] / size, -0.5, 0.5))
    return 4.0 * float(np.arctan(2.0 * off))


def _strokelets(points: FloatArray, hand: SimHand, rng: np.random.Generator) -> list[Strokelet]:
    where, corners = targets(points)
    aims = points[where] + rng.normal(0, _TARGET_SHARE * hand.wobble_xh, (len(where), 2))
    out = []
    clock = 0.0
    for a, b, i in zip(where[:-1], where[1:], range(1, len(where)), strict=True):
        run = points[a : b + 1]
        turn = _turn(run) + np.radians(rng.normal(0, _BEND_DEG))
        size = float(along(run)[-1])
        duration = (_BASE_MS + _PER_XH_MS * size) / hand.pace * rng.uniform(0.85, 1.2)
        out.append(Strokelet(aims[i - 1], aims[i], turn, clock, duration))
        overlap = rng.uniform(*(_OVERLAP_CORNER if corners[i] else _OVERLAP))
        clock += duration * (1 - overlap)
    return out


def _tremor(t_ms: FloatArray, size_xh: float, rng: np.random.Generator) -> FloatArray:
    """Shaking at the rate of a resting hand; shape (n, 2)."""
    out = np.zeros((len(t_ms), 2))
    for hertz in rng.uniform(*_TREMOR_HZ, 3):
        phase = rng.uniform(0, 2 * np.pi, 2)
        out += rng.normal(0, size_xh / 2, 2) * np.sin(2 * np.pi * hertz * t_ms[:, None] / 1000 + phase)
    return out


def move(strokes: Strokes, hand: SimHand, rng: np.random.Generator) -> tuple[Strokes, Strokes]:
    """Write strokes (letter space) with strokelets.

    Returns
    -------
    points, times : lists of arrays, (n, 2) letter space and (n,) ms
    """
    laid = overall(strokes, hand, rng)
    clock, points_out, times_out = 0.0, [], []
    for stroke in laid:
        points = resample(stroke, max(2, int(float(along(stroke)[-1]) / STEP_XH) + 1))
        run = _strokelets(points, hand, rng)
        total = max(one.begin_ms + one.duration_ms for one in run)
        t = np.arange(0.0, total + REPORT_MS, REPORT_MS)
        drawn = run[0].start + sum((one.gone(t) for one in run), np.zeros((len(t), 2)))
        drawn = drawn + _tremor(t, hand.tremor_xh, rng)
        points_out.append(drawn)
        times_out.append(np.round(clock + t))
        clock += float(t[-1]) + rng.uniform(250, 520)
    return points_out, times_out
