"""When the pen is where: a letter in time, slow at corners and ends as a hand is.

The speed along a curve follows the two-thirds power law (Lacquaniti, Terzuolo and Viviani, 1983,
"The law relating the kinematic and figural aspects of drawing movements"): speed falls with the
cube root of curvature. Corners are curvature too, only sharp; ends are rest. A limit on
acceleration ties them together.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from firstloop.core.curves import FloatArray, IntArray, steps
from firstloop.core.letterforms.model import Letter

CURVE_WINDOW = 4  # samples either side over which a corner is felt
POWER = -1.0 / 3.0


@dataclass(frozen=True)
class Tempo:
    """How fast a hand goes.

    Parameters
    ----------
    cruise_xh_s : float
        Top speed on a straight, xh a second.
    curve_xh_s : float
        Speed on a curve of radius 1 xh.
    accel_xh_s2 : float
        Greatest change of speed, xh a second squared.
    hop_ms : float
        Time the pen is in the air between strokes.
    """

    cruise_xh_s: float = 2.6
    curve_xh_s: float = 2.2
    accel_xh_s2: float = 12.0
    hop_ms: float = 420.0


MODEL_TEMPO = Tempo()


@dataclass(frozen=True, eq=False)
class TimedStroke:
    """A stroke in time: ``points`` (n, 2) xh, ``t_ms`` (n,), ``move`` (n,) index of the move."""

    points: FloatArray
    t_ms: FloatArray
    move: IntArray


def curvature(points: FloatArray) -> FloatArray:
    """Unsigned curvature (1 / unit) at every sample of an evenly spaced run; shape (n,)."""
    n = len(points)
    if n < 3:
        return np.zeros(n)
    window = min(CURVE_WINDOW, (n - 1) // 2)
    index = np.arange(n)
    before, after = np.clip(index - window, 0, None), np.clip(index + window, None, n - 1)
    into, out = points - points[before], points[after] - points
    cross = into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0]
    turn = np.abs(np.arctan2(cross, (into * out).sum(1)))
    reach = 0.5 * (np.hypot(*into.T) + np.hypot(*out.T))
    return np.asarray(turn / np.maximum(reach, 1e-6))


def speeds(points: FloatArray, tempo: Tempo) -> FloatArray:
    """Speed at every sample in xh a second, starting and ending near rest; shape (n,)."""
    bend = np.maximum(curvature(points), 1e-3)
    cap = np.minimum(tempo.cruise_xh_s, tempo.curve_xh_s * bend**POWER)
    rest = 0.12 * tempo.cruise_xh_s
    cap[[0, -1]] = np.minimum(cap[[0, -1]], rest)
    sharp = bend > np.radians(70) / (CURVE_WINDOW * 0.01)
    cap[sharp] = rest
    # at a steady acceleration the square of the speed grows evenly along the way
    reach = np.concatenate([[0.0], np.cumsum(2 * tempo.accel_xh_s2 * steps(points))])
    square = np.minimum.accumulate(cap**2 - reach) + reach
    square = np.minimum.accumulate((square + reach)[::-1])[::-1] - reach
    return np.asarray(np.sqrt(square))


def durations_ms(points: FloatArray, tempo: Tempo) -> FloatArray:
    """Time at every sample since the first, ms; shape (n,)."""
    if len(points) < 2:
        return np.zeros(len(points))
    speed = speeds(points, tempo)
    return np.concatenate([[0.0], np.cumsum(1000.0 * steps(points) / (0.5 * (speed[1:] + speed[:-1])))])


@lru_cache(maxsize=256)
def timed(letter: Letter, tempo: Tempo = MODEL_TEMPO) -> tuple[TimedStroke, ...]:
    """Every stroke of `letter` in time; the clock runs on through the hops between strokes."""
    clock, strokes = 0.0, []
    for sampled in letter.sampled:
        t = clock + durations_ms(sampled.points, tempo)
        strokes.append(TimedStroke(sampled.points, t, sampled.move))
        clock = float(t[-1]) + tempo.hop_ms
    return tuple(strokes)
