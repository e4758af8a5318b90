"""A third hand: it knows a few places of each stroke and runs smoothly through them.

Between two corners the pen follows a cubic spline, speeding up and slowing down as a movement of least
jerk does (Flash and Hogan, 1985, "The coordination of arm movements"), and stops in each corner. The pen
is a plain one: sixty reports a second, in steps of a hundredth of a millimetre at 10 mm an x-height.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from firstloop.core.curves import FloatArray, along, resample
from firstloop.core.simulate.hand import STEP_XH, SimHand, Strokes, overall
from firstloop.core.simulate.strokelets import targets

_REPORT_MS = 1000 / 60
_APART_XH = 0.22  # places that are known, at least
_LEAST_MS, _PER_XH_MS = 110.0, 260.0
_WHOLE_XH = 0.001


def _known(points: FloatArray, apart: int) -> FloatArray:
    """Places along an evenly spaced run, both ends with it."""
    count = max(2, round(len(points) / apart) + 1)
    return np.asarray(points[np.linspace(0, len(points) - 1, count).astype(np.int64)])


def _through(places: FloatArray) -> FloatArray:
    """A smooth run through places, finely sampled."""
    knots = along(places)
    if len(places) < 3 or (np.diff(knots) <= 0).any():
        return resample(places, 40)
    from scipy.interpolate import CubicSpline  # noqa: PLC0415  # slow to import; for evaluations only

    fine = np.linspace(0, knots[-1], max(40, int(knots[-1] / 0.005)))
    return np.asarray(CubicSpline(knots, places, bc_type="natural")(fine))


def _run(points: FloatArray, hand: SimHand, rng: np.random.Generator) -> FloatArray:
    """From one stop to the next: where the pen is at every report."""
    places = _known(points, int(_APART_XH / STEP_XH))
    path = _through(places + rng.normal(0, hand.wobble_xh / 2, places.shape))
    size = along(path)
    took = (_LEAST_MS + _PER_XH_MS * float(size[-1])) / hand.pace * rng.uniform(0.85, 1.2)
    tau = np.arange(0, took, _REPORT_MS) / took
    gone = size[-1] * (10 * tau**3 - 15 * tau**4 + 6 * tau**5)
    return np.column_stack([np.interp(gone, size, path[:, k]) for k in (0, 1)])


def run_through(strokes: Strokes, hand: SimHand, rng: np.random.Generator) -> tuple[Strokes, Strokes]:
    """Write strokes (letter space) by splines.

    Returns
    -------
    points, times : lists of arrays, (n, 2) letter space and (n,) ms
    """
    clock, points_out, times_out = 0.0, [], []
    for stroke in overall(strokes, hand, rng):
        points = resample(stroke, max(2, int(float(along(stroke)[-1]) / STEP_XH) + 1))
        where, corners = targets(points)
        stops = [0, *(i for i, corner in zip(where, corners, strict=True) if corner), len(points) - 1]
        drawn = np.concatenate([_run(points[a : b + 1], hand, rng) for a, b in pairwise(stops)])
        drawn = drawn + rng.normal(0, hand.tremor_xh / 2, drawn.shape)
        points_out.append(np.round(drawn / _WHOLE_XH) * _WHOLE_XH)
        times_out.append(np.round(clock + np.arange(len(drawn)) * _REPORT_MS))
        clock = float(times_out[-1][-1]) + rng.uniform(250, 520)
    return points_out, times_out
