"""A way along ink as the strokes of a pen that uses all of the ink.

What the cheapest way of a model left out is what a pen drew beside it: one of two passes goes along the line
beside the other, ends go on, and what is no part of the letter comes after it.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from firstloop.core.check.ways.follow import NOWHERE, Followed, Lines
from firstloop.core.curves import FloatArray, IntArray, along, length, nearest, true_runs

_UNUSED_LEAST_XH = 0.12  # a shorter end of a line is what thinning adds
_RUNS_ON = 0.0  # cosine: a way that turns back at a meeting keeps its point
_KINK_WIDTHS = 0.6
_ALIKE_XH = 0.03  # passes whose models differ by less from a line beside them go alike
_RUN_LEAST, _STRAIGHT_ON, _TINY = 4, 0.85, 1e-9  # spots of a run at its end; cosine
_POINT_XH = 0.3  # a short end that is the point of a sharp turn
_TURNS = 0.5  # cosine
_STEM_ON = 0.97  # cosine: of a longer end to the stem that it goes on, times how straight it is


def as_strokes(lines: Lines, followed: Followed) -> list[FloatArray]:
    """The strokes of a way along ink: all of the ink, as the model goes where it goes, the rest after it."""
    if not (followed.at != NOWHERE).any():
        return [lines.spots[run] for run in lines.runs]
    ways = _all_used(lines, followed, _ways(lines, followed))
    return [_freed_at_meetings(lines, [spot for spot, _ in way]) for way in ways]


def _freed_at_meetings(lines: Lines, way: Sequence[int]) -> FloatArray:
    """The points of a way; where it runs on through a meeting, without the kink that thinning makes there."""
    points = lines.spots[way]
    keep = np.ones(len(way), dtype=np.bool_)
    so_far = along(points)
    for k in range(2, len(way) - 2):
        if len(lines.beside[way[k]]) > 2 and way[k - 1] != way[k + 1]:
            into, out = points[k] - points[k - 2], points[k + 2] - points[k]
            if into @ out > _RUNS_ON * np.hypot(*into) * np.hypot(*out):
                keep &= np.abs(so_far - so_far[k]) > _KINK_WIDTHS * lines.width_xh
    keep[[0, -1, *(k for k in range(1, len(way) - 1) if way[k - 1] == way[k + 1])]] = True  # and every point
    return points[keep]


Way = list[tuple[int, int]]
"""Spots one after the other, each with the step of the model that it was followed at."""


def _ways(lines: Lines, followed: Followed) -> list[Way]:
    """One way for each time the pen was down."""
    out: list[Way] = []
    edges = [*followed.laid.begins.tolist(), followed.laid.size]
    for low, high in pairwise(edges):
        for first, last in true_runs(followed.at[low:high] != NOWHERE):
            way: Way = []
            for t in range(low + first, low + last):
                spot = int(followed.at[t])
                if way and spot == way[-1][0]:
                    continue
                between = _between(lines, way[-1][0], spot) if way else []
                way += [(one, t) for one in (*between, spot)]
            out.append(way)
    return out


def _between(lines: Lines, start: int, end: int) -> list[int]:
    """The spots between two that are few steps apart, by the shortest way."""
    came = {start: start}
    front = [start]
    while front and end not in came:
        front, last = [], front
        for one in last:
            for then in lines.beside[one]:
                if then not in came:
                    came[then] = one
                    front.append(then)
    out: list[int] = []
    spot = came.get(end, start)
    while spot != start:
        out.append(spot)
        spot = came[spot]
    return out[::-1]


def _all_used(lines: Lines, followed: Followed, ways: list[Way]) -> list[Way]:
    """Ways that use the lines they left out: one of two passes takes the line beside, ends go on."""
    used = np.zeros(len(lines.spots), dtype=np.bool_)
    for way in ways:
        used[[spot for spot, _ in way]] = True
    rest = [run[max(low - 1, 0) : high + 1] for run in lines.runs for low, high in true_runs(~used[run])]
    for run in sorted(_joined(lines, rest), key=len, reverse=True):
        if _goes_beside(lines, followed, ways, run) or _goes_on(ways, run) or _turns_into(lines, ways, run):
            continue
        if not used[run[[0, -1]]].any() or length(lines.spots[run]) > _UNUSED_LEAST_XH:
            ways.append([(int(spot), followed.laid.size - 1) for spot in run])
    return ways


def _joined(lines: Lines, runs: Sequence[IntArray]) -> list[IntArray]:
    """Runs, those that go straight on through what crosses them as one."""
    out = list(runs)
    while (pair := _straight_on(lines, out)) is not None:
        (a, before), (b, after) = pair
        out = [run for k, run in enumerate(out) if k not in (a, b)]
        out.append(np.concatenate([before, after[int(before[-1] == after[0]) :]]))
    return out


def _straight_on(
    lines: Lines, runs: Sequence[IntArray]
) -> tuple[tuple[int, IntArray], tuple[int, IntArray]] | None:
    """Which run goes on most straight as which other, each as it is gone along; None where none does."""
    ended = [(k, one) for k, run in enumerate(runs) if len(run) >= _RUN_LEAST for one in (run, run[::-1])]
    if not ended:
        return None
    number = np.array([k for k, _ in ended])
    tips, backs = (lines.spots[[one[at] for _, one in ended]] for at in (-1, -_RUN_LEAST))
    ways, over, apart = tips - backs, backs - backs[:, None], tips - tips[:, None]
    ways /= np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), _TINY)
    over /= np.maximum(np.linalg.norm(over, axis=2, keepdims=True), _TINY)
    is_far = np.linalg.norm(apart, axis=2) > lines.width_xh
    straight = np.minimum(-ways @ ways.T, (ways[:, None] * over).sum(-1))
    straight[is_far | (number == number[:, None])] = -1.0
    a, b = (int(k) for k in np.unravel_index(int(straight.argmax()), straight.shape))
    if straight[a, b] <= _STRAIGHT_ON:
        return None
    return ended[a], (ended[b][0], ended[b][1][::-1])


def _goes_on(ways: list[Way], run: IntArray) -> bool:
    """Whether a way that ends, or begins, where the run does was made longer by it."""
    for way in ways:
        for end, spots in ((way[-1], run), (way[-1], run[::-1])):
            if end[0] == spots[0]:
                way.extend((int(spot), end[1]) for spot in spots[1:])
                return True
        for end, spots in ((way[0], run), (way[0], run[::-1])):
            if end[0] == spots[-1]:
                way[:0] = [(int(spot), end[1]) for spot in spots[:-1]]
                return True
    return False


def _turns_into(lines: Lines, ways: list[Way], run: IntArray) -> bool:
    """Whether a way that turns sharply where an end begins now goes into that point and back.

    A long one is a stem's that was made too long, and goes on as the stem does.
    """
    size = length(lines.spots[run])
    least = 0.0 if size <= _POINT_XH else _STEM_ON
    for spots in (run, run[::-1]):
        if len(lines.beside[spots[-1]]) > 1:
            continue
        towards = lines.spots[spots[-1]] - lines.spots[spots[0]]
        for way in ways:
            points = lines.spots[[spot for spot, _ in way]]
            for k in range(2, len(way) - 2):
                if way[k][0] != spots[0]:
                    continue
                into, out = points[k] - points[k - 2], points[k + 2] - points[k]
                turns = into @ out < _TURNS * np.hypot(*into) * np.hypot(*out)
                if turns and towards @ (into - out) > least * size * np.hypot(*(into - out)):
                    there = [int(spot) for spot in spots[1:]]
                    way[k + 1 : k + 1] = [(one, way[k][1]) for one in (*there, *there[-2::-1], way[k][0])]
                    return True
    return False


def _goes_beside(lines: Lines, followed: Followed, ways: list[Way], run: IntArray) -> bool:
    """Whether one of two passes between the ends of a run now goes along it."""
    a, b = int(run[0]), int(run[-1])
    if a == b:
        return False
    passes: list[tuple[float, Way, int, int, bool]] = []
    for way in ways:
        spots = [spot for spot, _ in way]
        for i, j in _passes(spots, a, b):
            model = followed.laid.points[sorted({way[k][1] for k in range(i, j + 1)})]
            own, other = lines.spots[spots[i : j + 1]], lines.spots[run]
            if not 0.5 < (length(other) + 0.1) / (length(own) + 0.1) < 2.0:
                continue
            gain = float(nearest(other, model).mean() - nearest(own, model).mean())
            passes.append((gain, way, i, j, spots[i] == a))
    if len(passes) < 2:
        return False
    least = min(gain for gain, *_ in passes)
    # of passes that go alike, the last: a stem is made first, and the way back goes wide
    _, way, i, j, forwards = next(one for one in reversed(passes) if one[0] < least + _ALIKE_XH)
    step = way[i][1]
    way[i : j + 1] = [(int(spot), step) for spot in (run if forwards else run[::-1])]
    return True


def _passes(spots: Sequence[int], a: int, b: int) -> list[tuple[int, int]]:
    """Where a way goes from one of two spots to the other, touching neither in between."""
    out: list[tuple[int, int]] = []
    last: int | None = None
    for k, spot in enumerate(spots):
        if spot in (a, b):
            if last is not None and spots[last] != spot:
                out.append((last, k))
            last = k
    return out
