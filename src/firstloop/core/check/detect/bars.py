"""Bars and dots: how high they stand, whether they touch, whether they are alike.

All are judged after the letter has been laid on its model.
"""

from __future__ import annotations

import numpy as np

from firstloop.core.check.match.case import Case
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray, IntArray, length, nearest
from firstloop.core.heights import height_name
from firstloop.core.moves import MoveKind

K = MoveKind
_INSIDE_XH = 0.15  # a bar nearer than this to the top or foot of its letter is judged by the letter's size
_TOUCH_XH = 0.03
_EQUAL = 0.12
_SAME_SIDE_XH = 0.08
_SHORTEST_XH = 0.04


def bar_findings(case: Case) -> list[Finding]:
    """Everything wrong with bars and dots."""
    return bar_height(case) + bar_detached(case) + bars_uneven(case) + dot_gap(case)


def _bars(case: Case) -> list[tuple[int, int, IntArray]]:
    """Stroke, move and matched ink of each bar of the model that has ink."""
    found = []
    for s, stroke in enumerate(case.template.letter.strokes):
        for m, move in enumerate(stroke.moves):
            if move.kind is K.BAR:
                where = case.match.matched(case.template.of(s, m))
                if len(where) > 1:
                    found.append((s, m, where))
    return found


def bar_height(case: Case) -> list[Finding]:
    """Height of a bar that crosses or leaves the middle of its letter."""
    _, low, _, high = case.template.letter.bounds
    for s, m, where in _bars(case):
        goal = float(case.template.letter.strokes[s].moves[m].path.points(0.05)[:, 1].mean())
        if not low + _INSIDE_XH < goal < high - _INSIDE_XH:
            continue
        off = float(np.median(case.normal[where, 1])) - goal
        middle = np.array([float(np.median(case.normal[where, 0])), goal])
        found = case.find(
            "shape.bar-height",
            abs(off),
            where,
            stroke=s,
            move=m,
            goal=middle,
            way="high" if off > 0 else "low",
            place=height_name(goal),
        )
        if found:
            return found
    return []


def _ink_of(case: Case, stroke: int) -> tuple[list[int], FloatArray]:
    """Numbers of the ink strokes that write a stroke of the model, and their points laid on it."""
    writers = case.strokes_of(stroke)
    return writers, np.concatenate([np.zeros((0, 2)), *(case.dense[i] for i in writers)])


def bar_detached(case: Case) -> list[Finding]:
    """Gap between a bar and the stroke it should touch; the widest is told."""
    runs = case.template.runs
    worst: list[Finding] = []
    for s, kinds in enumerate(case.template.letter.kinds):
        if set(kinds) != {K.BAR} or s not in runs:
            continue
        mine, bar = _ink_of(case, s)
        for other, points in runs.items():
            if other == s or float(nearest(runs[s], points).min()) > _TOUCH_XH:
                continue
            theirs, ink = _ink_of(case, other)
            if not len(bar) or not len(ink) or set(mine) & set(theirs):
                continue
            gaps = nearest(bar, ink)
            here = case.ink[mine[0]]
            found = case.find(
                "shape.bar-detached", float(gaps.min()), here, stroke=s, other=case.part_name(other)
            )
            if found and (not worst or found[0].value > worst[0].value):
                worst = found
    return worst


def bars_uneven(case: Case) -> list[Finding]:
    """Longest against shortest of bars that are equal in the model and begin below one another."""
    bars = []
    for s, m, where in _bars(case):
        path = case.template.letter.strokes[s].moves[m].path
        run = case.normal[where]
        bars.append((float(path.start[0]), length(path.points(0.05)), float(np.ptp(run[:, 0])), s, m, where))
    for left, model, *_ in bars[:1]:
        alike = [b for b in bars if abs(b[0] - left) < _SAME_SIDE_XH and abs(b[1] / model - 1) < _EQUAL]
        if len(alike) > 1:
            short, long_ = min(alike, key=lambda b: b[2]), max(alike, key=lambda b: b[2])
            off = 100 * (long_[2] / max(short[2], _SHORTEST_XH) - 1)
            return case.find("shape.bars-uneven", off, long_[5], stroke=long_[3], move=long_[4])
    return []


def dot_gap(case: Case) -> list[Finding]:
    """Dot too close to its stem, too far from it, or beside it."""
    template, match = case.template, case.match
    if template.dot is None or template.dot_stroke is None or match.dot is None:
        return []
    dot = case.all_normal[match.dot]
    dx, dy = (float(v) for v in (dot.min(0) + dot.max(0)) / 2 - template.dot)
    sideways, up = "right" if dx > 0 else "left", "above" if dy > 0 else "close"
    way = sideways if abs(dx) > abs(dy) else up
    span = case.ink[match.dot]
    return case.find(
        "shape.dot-gap",
        float(np.hypot(dx, dy)),
        span,
        stroke=template.dot_stroke,
        goal=template.dot,
        way=way,
    )
