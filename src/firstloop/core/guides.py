"""Marks that go with a model: the ring at each start, chevrons along the way, hops between strokes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from firstloop.core.curves import BoolArray, FloatArray, along, true_runs, written_twice
from firstloop.core.letterforms.model import SPACING_XH, Letter, SampledStroke
from firstloop.core.moves import MoveKind

CHEVRON_EVERY_XH = 0.30
CHEVRON_END_XH = 0.14  # kept clear at both ends of a move
BESIDE_XH = 0.12  # how far a way back is drawn beside the line it retraces
LEADER_XH = 0.26
LABEL_APART_XH = 0.24  # numbers stand at least so far from each other
_ON_TOP_XH = 0.02
_BACK_LEAST_XH = 0.2
_LEADERS_DEG = (135, 180, 90, 45, 0, 225)
_CLEAR_OF_A_LEFT_HAND = (90, 45, 135, 0)  # which lies to the left of the pen and below it


@dataclass(frozen=True)
class Chevron:
    """A small arrow: its place in letter space, its heading in degrees (0 = right, 90 = up), its move.

    ``beside`` says that it stands off the ink, along a way back.
    """

    x: float
    y: float
    heading_deg: float
    move: int
    beside: bool


@dataclass(frozen=True, eq=False)
class StrokeGuide:
    """Marks of one stroke.

    Parameters
    ----------
    ring : tuple of float
        Start of the stroke.
    label : tuple of float
        Where its number stands, on a short leader off the ink.
    beside : tuple of arrays
        Ways back, drawn a hair to the right of the line they retrace, each (n, 2).
    """

    ring: tuple[float, float]
    label: tuple[float, float]
    chevrons: tuple[Chevron, ...]
    beside: tuple[FloatArray, ...]


def _to_the_right(points: FloatArray) -> FloatArray:
    heading = np.gradient(points, axis=0)
    heading /= np.maximum(np.hypot(*heading.T), 1e-9)[:, None]
    return points + BESIDE_XH * np.column_stack([heading[:, 1], -heading[:, 0]])


def _way_back(sampled: SampledStroke) -> tuple[FloatArray, BoolArray, tuple[FloatArray, ...]]:
    """The stroke with every length that lies on earlier ink moved aside, which those are, and they alone."""
    back, _ = written_twice(sampled.points, _ON_TOP_XH, _BACK_LEAST_XH, SPACING_XH)
    points = np.where(back[:, None], _to_the_right(sampled.points), sampled.points)
    runs = tuple(points[a:b][::4] for a, b in true_runs(back))
    return points, back, runs


def _chevrons(drawn: FloatArray, points: FloatArray, back: BoolArray, move: int) -> list[Chevron]:
    """Chevrons of one move: their places on what is drawn, their headings from where the pen goes."""
    where = along(points)
    usable = where[-1] - 2 * CHEVRON_END_XH
    if usable <= 0:
        return []
    count = max(1, int(usable / CHEVRON_EVERY_XH))
    found = []
    for at in CHEVRON_END_XH + usable * (np.arange(count) + 0.5) / count:
        i = int(np.searchsorted(where, at))
        step = points[min(i + 2, len(points) - 1)] - points[max(i - 2, 0)]
        heading = float(np.degrees(np.arctan2(step[1], step[0])))
        found.append(Chevron(float(drawn[i, 0]), float(drawn[i, 1]), heading, move, bool(back[i])))
    return found


def chevrons_along(points: FloatArray) -> list[Chevron]:
    """Chevrons along any run of ink, letter space; none on a run too short for one."""
    return _chevrons(points, points, np.zeros(len(points), dtype=np.bool_), 0) if len(points) > 2 else []


def _leader(
    sampled: SampledStroke, letter: Letter, taken: list[tuple[float, float]], left_hand: bool
) -> tuple[float, float]:
    """A place for the number: off the start, away from the ink and from numbers already placed."""
    start = sampled.points[0]
    best, best_room = start, -1.0
    for deg in _CLEAR_OF_A_LEFT_HAND if left_hand else _LEADERS_DEG:
        place = start + LEADER_XH * np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))])
        room = float(np.hypot(*(letter.points - place).T).min())
        if any(np.hypot(*(place - np.array(other))) < LABEL_APART_XH for other in taken):
            continue
        if room > best_room + 0.02:
            best, best_room = place, room
    return float(best[0]), float(best[1])


@dataclass(frozen=True)
class StartMark:
    """Where a stroke starts, and where its number stands, letter space."""

    ring: tuple[float, float]
    label: tuple[float, float]


def starts(letter: Letter, left_hand: bool = False, most: int | None = None) -> tuple[StartMark, ...]:
    """Where strokes start; for a left hand the numbers stand where it does not lie.

    Parameters
    ----------
    most : int, optional
        Of so many strokes only: of a word the first tells where it begins.
    """
    out: list[StartMark] = []
    for stroke, sampled in zip(letter.strokes[:most], letter.sampled[:most], strict=True):
        label = _leader(sampled, letter, [one.label for one in out], left_hand)
        out.append(StartMark(stroke.start, label))
    return tuple(out)


def guides(letter: Letter) -> tuple[StrokeGuide, ...]:
    """Marks for every stroke of a letter."""
    out: list[StrokeGuide] = []
    for stroke, sampled, start in zip(letter.strokes, letter.sampled, starts(letter), strict=True):
        drawn, back, beside = _way_back(sampled)
        chevrons: list[Chevron] = []
        for m, move in enumerate(stroke.moves):
            mine = sampled.move == m
            if move.kind is not MoveKind.DOT and mine.sum() >= 3:
                chevrons += _chevrons(drawn[mine], sampled.points[mine], back[mine], m)
        out.append(StrokeGuide(start.ring, start.label, tuple(chevrons), beside))
    return tuple(out)
