"""What the pen and the hand add that is no writing: strokes cut in two by a bad pen, taps, a palm's dots.

Ink is kept as it came; this is only for looking at it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from firstloop.core.curves import FloatArray, spline, steps
from firstloop.core.ink import InkGroup, InkStroke

_HOP_MS = 60.0  # no hand lifts and sets down again as fast as this
_HOP_XH = 0.2
_DUPLICATE_XH = 1e-6
_SPARSE_XH = 0.15  # points further apart than this are a slow tablet's: corners were cut between them
_CURVE_LEAST = 4
TAP_XH = 0.12  # a mark smaller than this is a tap, or a dot


def mended(group: InkGroup) -> InkGroup:
    """Put strokes together again that the pen cut in two: less than a hand can do lies between."""
    strokes: list[InkStroke] = []
    for stroke in group.strokes:
        if strokes and _is_cut(strokes[-1], stroke, group.ruling.xh_mm):
            strokes[-1] = _joined(strokes[-1], stroke)
        else:
            strokes.append(stroke)
    return group if len(strokes) == len(group.strokes) else replace(group, strokes=tuple(strokes))


def _is_cut(before: InkStroke, after: InkStroke, xh_mm: float) -> bool:
    if before.t_ms is None or after.t_ms is None:
        return False
    hop_ms = float(after.t_ms[0] - before.t_ms[-1])
    hop_xh = float(np.hypot(*(after.points_mm[0] - before.points_mm[-1]))) / xh_mm
    return 0 <= hop_ms <= _HOP_MS and hop_xh <= _HOP_XH


def _joined(a: InkStroke, b: InkStroke) -> InkStroke:
    t = None if a.t_ms is None or b.t_ms is None else np.concatenate([a.t_ms, b.t_ms])
    force = None if a.force is None or b.force is None else np.concatenate([a.force, b.force])
    return InkStroke(np.concatenate([a.points_mm, b.points_mm]), t, force)


def is_tap(stroke: FloatArray) -> bool:
    """Whether a stroke (letter space) is no longer than a tap of the pen."""
    return box_size(stroke) < TAP_XH


def box_size(stroke: FloatArray) -> float:
    """From corner to corner of a stroke's box."""
    return float(np.hypot(*(stroke.max(0) - stroke.min(0))))


def without_taps(strokes: Sequence[FloatArray], dots: int = 0) -> list[int]:
    """Numbers of the strokes that are writing: all but taps, of which the `dots` highest stay.

    All of them where nothing but taps was written.
    """
    taps = [i for i, stroke in enumerate(strokes) if is_tap(stroke)]
    if len(taps) == len(strokes) or not taps:
        return list(range(len(strokes)))
    highest = sorted(taps, key=lambda i: -float(strokes[i][:, 1].mean()))[:dots]
    return [i for i in range(len(strokes)) if i not in taps or i in highest]


def smoothed(stroke: FloatArray) -> FloatArray:
    """Drop points that repeat the one before (a resting pen); draw curves through points far apart."""
    moved = steps(stroke)
    points, size = stroke, float(moved.sum())
    if len(moved) and moved.min() <= _DUPLICATE_XH:
        points = stroke[np.concatenate([[True], moved > _DUPLICATE_XH])]
    if len(points) >= _CURVE_LEAST and size > _SPARSE_XH * (len(points) - 1):
        return spline(points)
    return points
