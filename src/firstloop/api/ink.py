"""Ink between the wire and the core."""

from __future__ import annotations

import numpy as np

from firstloop.api.schemas import StrokeInk
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.ruling import Ruling


def to_stroke(stroke: StrokeInk) -> InkStroke:
    """Stroke from the wire."""
    points = np.column_stack([stroke.x, stroke.y]).astype(np.float64)
    t = None if stroke.t is None else np.array(stroke.t, dtype=np.float64)
    f = None if stroke.f is None else np.array(stroke.f, dtype=np.float64)
    return InkStroke(points, t, f)


def to_group(
    strokes: list[StrokeInk], ruling: Ruling, truth: str, script: str = "print", hand: str = "right"
) -> InkGroup:
    """Group from the wire."""
    return InkGroup(tuple(to_stroke(stroke) for stroke in strokes), ruling, truth, script, hand)


def from_stroke(stroke: InkStroke) -> StrokeInk:
    """Stroke for the wire, to a hundredth of a millimetre."""
    return StrokeInk(
        x=np.round(stroke.points_mm[:, 0], 2).tolist(),
        y=np.round(stroke.points_mm[:, 1], 2).tolist(),
        t=None if stroke.t_ms is None else np.round(stroke.t_ms, 1).tolist(),
        f=None if stroke.force is None else np.round(stroke.force, 3).tolist(),
    )
