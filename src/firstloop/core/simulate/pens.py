"""What pens, tablets and fidgeting do to ink: the same writing, badly recorded."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from firstloop.core.ink import InkGroup, InkStroke

_SLOW_MS = 33.3
_GRID_MM = 0.25
_JUMP = (3, 6)  # points that a mouse loses in a row
_DOT_MM = 0.15
_REPORT_MS = 8.0
_REST_POINTS = 60
_LONG = 24  # points that a stroke needs to be spoilt on the way

Pen = Callable[[InkGroup, np.random.Generator], InkGroup]


def _picked(stroke: InkStroke, keep: np.ndarray[tuple[int], np.dtype[np.int64]]) -> InkStroke:
    force = None if stroke.force is None else stroke.force[keep]
    return InkStroke(stroke.points_mm[keep], None if stroke.t_ms is None else stroke.t_ms[keep], force)


def slow_tablet(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """Thirty points a second."""
    out = []
    for stroke in group.strokes:
        t = stroke.t_ms if stroke.t_ms is not None else np.arange(len(stroke.points_mm)) * 8.0
        wanted = np.arange(t[0], t[-1], _SLOW_MS)
        keep = np.unique(np.append(np.searchsorted(t, wanted), len(t) - 1))
        out.append(_picked(stroke, keep))
    return replace(group, strokes=tuple(out))


def coarse_grid(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """Whole numbers of a quarter of a millimetre."""
    out = [replace(s, points_mm=np.round(s.points_mm / _GRID_MM) * _GRID_MM) for s in group.strokes]
    return replace(group, strokes=tuple(out))


def no_times(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """Points in their order, and nothing else."""
    return replace(group, strokes=tuple(InkStroke(s.points_mm) for s in group.strokes))


def mouse(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """Some points lost in a row, and the rest in whole pixels."""
    out = []
    for stroke in group.strokes:
        lost = np.zeros(len(stroke.points_mm), dtype=np.bool_)
        for at in rng.integers(1, max(2, len(lost) - 1), 2):
            lost[at : at + rng.integers(*_JUMP)] = True
        lost[[0, -1]] = False
        out.append(_picked(stroke, np.flatnonzero(~lost)))
    return coarse_grid(replace(group, strokes=tuple(out)), rng)


def bad_pen(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """Strokes cut in two: the pen loses the paper for a moment."""
    out: list[InkStroke] = []
    for stroke in group.strokes:
        count = len(stroke.points_mm)
        if count < _LONG:
            out.append(stroke)
            continue
        cut = int(rng.integers(8, count - 8))
        out += [_picked(stroke, np.arange(cut)), _picked(stroke, np.arange(cut + 2, count))]
    return replace(group, strokes=tuple(out))


def double_tap(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """The pen touches down twice before it writes."""
    first = group.strokes[0]
    spot = first.points_mm[:1] + rng.normal(0, _DOT_MM, (3, 2))
    t = None if first.t_ms is None else first.t_ms[0] - np.array([260.0, 252.0, 244.0])
    return replace(group, strokes=(InkStroke(spot, t), *group.strokes))


def resting_palm(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """Dots below and beside the letter where the hand lay."""
    every = np.concatenate([s.points_mm for s in group.strokes])
    low, high = every.min(0), every.max(0)
    dots = []
    for _ in range(int(rng.integers(1, 4))):
        where = np.array([rng.uniform(low[0], high[0] + 4), high[1] + rng.uniform(-2, 6)])
        dots.append(InkStroke(where + rng.normal(0, _DOT_MM / 3, (2, 2))))
    at = int(rng.integers(0, len(group.strokes) + 1))
    return replace(group, strokes=(*group.strokes[:at], *dots, *group.strokes[at:]))


def hesitant(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """The pen rests and trembles where it starts before it goes."""
    first = group.strokes[0]
    spots = first.points_mm[:1] + np.cumsum(rng.normal(0, 0.03, (25, 2)), axis=0)
    back = np.linspace(1, 0, 25)[:, None]
    held = first.points_mm[:1] + (spots - first.points_mm[:1]) * back
    t = (
        None
        if first.t_ms is None
        else np.concatenate([first.t_ms[0] - 8.0 * np.arange(25, 0, -1), first.t_ms])
    )
    joined = InkStroke(np.concatenate([held, first.points_mm]), t)
    return replace(group, strokes=(joined, *group.strokes[1:]))


def rests(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """The hand stands still for half a second on the way through the longest stroke."""
    longest = max(range(len(group.strokes)), key=lambda i: len(group.strokes[i].points_mm))
    stroke = group.strokes[longest]
    count = len(stroke.points_mm)
    if stroke.t_ms is None or count < _LONG:
        return group
    at = int(rng.integers(8, count - 8)) + 1
    still = stroke.points_mm[at - 1] + rng.normal(0, 0.01, (_REST_POINTS, 2))
    since = stroke.t_ms[at - 1] + np.arange(1, _REST_POINTS + 1) * _REPORT_MS
    late = _REST_POINTS * _REPORT_MS
    rested = InkStroke(
        np.insert(stroke.points_mm, at, still, axis=0),
        np.concatenate([stroke.t_ms[:at], since, stroke.t_ms[at:] + late]),
    )
    after = [s if s.t_ms is None else replace(s, t_ms=s.t_ms + late) for s in group.strokes[longest + 1 :]]
    return replace(group, strokes=(*group.strokes[:longest], rested, *after))


PENS: dict[str, Pen] = {
    "thirty-points-a-second": slow_tablet,
    "whole-quarter-millimetres": coarse_grid,
    "no-times": no_times,
    "a-mouse-that-jumps": mouse,
    "strokes-cut-in-two": bad_pen,
    "touched-down-twice": double_tap,
    "a-resting-palm": resting_palm,
    "a-hesitant-start": hesitant,
    "a-rest-on-the-way": rests,
}
