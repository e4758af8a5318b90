"""Marks that go with a model: the ring at each start, chevrons along the way, hops between strokes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from firstloop.core.curves import FloatArray, along
from firstloop.core.letterforms.model import Letter, SampledStroke
from firstloop.core.moves import MoveKind

CHEVRON_EVERY_XH = 0.30
CHEVRON_END_XH = 0.14  # kept clear at both ends of a move
BESIDE_XH = 0.085  # how far a way back is drawn beside the line it retraces
LEADER_XH = 0.26


@dataclass(frozen=True)
class Chevron:
    """A small arrow: its place in letter space, its heading in degrees (0 = right, 90 = up), its move."""

    x: float
    y: float
    heading_deg: float
    move: int


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


def _chevrons(points: FloatArray, move: int) -> list[Chevron]:
    where = along(points)
    usable = where[-1] - 2 * CHEVRON_END_XH
    if usable <= 0:
        return []
    count = max(1, int(usable / CHEVRON_EVERY_XH))
    found = []
    for at in CHEVRON_END_XH + usable * (np.arange(count) + 0.5) / count:
        i = int(np.clip(np.searchsorted(where, at), 2, len(points) - 3)) if len(points) > 5 else len(points) // 2
        step = points[min(i + 2, len(points) - 1)] - points[max(i - 2, 0)]
        heading = float(np.degrees(np.arctan2(step[1], step[0])))
        found.append(Chevron(float(points[i, 0]), float(points[i, 1]), heading, move))
    return found


def _leader(sampled: SampledStroke, letter: Letter) -> tuple[float, float]:
    """A place for the number: off the start, away from where the stroke goes and from other ink."""
    start = sampled.points[0]
    best, best_room = start, -1.0
    for deg in (135, 180, 90, 45, 0, 225):
        place = start + LEADER_XH * np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))])
        room = float(np.hypot(*(letter.points - place).T).min())
        if room > best_room + 0.02:
            best, best_room = place, room
    return float(best[0]), float(best[1])


def guides(letter: Letter) -> tuple[StrokeGuide, ...]:
    """Marks for every stroke of a letter."""
    out = []
    for stroke, sampled in zip(letter.strokes, letter.sampled, strict=True):
        chevrons: list[Chevron] = []
        beside = []
        for m, move in enumerate(stroke.moves):
            points = sampled.points[sampled.move == m]
            if move.kind is MoveKind.DOT or len(points) < 3:
                continue
            if move.kind is MoveKind.RETRACE:
                points = _to_the_right(points)
                beside.append(points[::4])
            chevrons += _chevrons(points, m)
        x, y = stroke.start
        out.append(StrokeGuide((x, y), _leader(sampled, letter), tuple(chevrons), tuple(beside)))
    return tuple(out)
