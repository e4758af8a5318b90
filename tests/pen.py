"""Hand-made ink: strokes drawn from plain points, so that a test knows exactly what was written."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray, along, resample
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.ruling import Ruling
from firstloop.text import findings

LINES = Ruling(mid_mm=20.0, base_mm=30.0, rise_mm=10.0, drop_mm=40.0)
Points = Sequence[tuple[float, float]]


def even(points: FloatArray, spacing: float = 0.03) -> FloatArray:
    """A run with points about `spacing` apart, its corners kept by keeping it fine."""
    size = float(along(points)[-1])
    return resample(points, max(2, int(size / spacing) + 1))


def lines(*strokes: Points) -> list[FloatArray]:
    """Strokes of straight lines through corners."""
    return [even(np.array(stroke, dtype=float)) for stroke in strokes]


def model(char: str, style: HouseStyle = DEFAULT_STYLE) -> list[FloatArray]:
    """The model's own strokes, to be spoilt by a test."""
    return [even(stroke.points) for stroke in letter(char, style).sampled]


def ink(
    strokes: Sequence[FloatArray],
    truth: str,
    *,
    ruling: Ruling = LINES,
    left_mm: float = 15.0,
    hand: str = "right",
    script: str = "print",
    timed: bool = True,
) -> InkGroup:
    """Letter-space strokes on a page, 10 ms a point when `timed`."""
    clock, made = 0.0, []
    for stroke in strokes:
        t = clock + 10.0 * np.arange(len(stroke))
        clock = float(t[-1]) + 300.0
        made.append(InkStroke(ruling.to_page(np.asarray(stroke, dtype=float), left_mm), t if timed else None))
    return InkGroup(tuple(made), ruling, truth, script, hand)


def teacher(finding: Finding, xh_mm: float = 10.0) -> str:
    """What a finding says to the teacher."""
    return findings.to_teacher(finding.code, finding.value, finding.facts, xh_mm)


def child(finding: Finding, xh_mm: float = 10.0) -> str:
    """What a finding says to the child."""
    return findings.to_child(finding.code, finding.value, finding.facts, xh_mm)
