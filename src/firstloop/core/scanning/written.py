"""A simulated child at a printed page: what is written, ticked, crossed out, rubbed out or left empty."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from firstloop.core.curves import FloatArray
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.scene import Entry
from firstloop.core.simulate.evaluate import fault_size
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import SimHand
from firstloop.core.simulate.pencil import Lead, rub_out, write_on
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.core.supports import Support

_STEEPEST = 0.6  # a slanting line's width of its height
_SLANTING, _BARRED = "xXzZ7", "ftA"  # which a slanting line would go along, and which a level one
_FLAT_MM = 1.0  # what is no taller is a level line itself, and so is a zigzag over it
_TICK_MM = ((-0.8, -0.1), (-0.2, 0.8), (1.1, -1.2))


@dataclass(frozen=True)
class Chances:
    """How often each happens to a place, 0 to 1."""

    empty: float = 0.08
    crossed: float = 0.08
    fault: float = 0.35
    ticked: float = 0.12
    rubbed: float = 0.1


USUAL = Chances()


@dataclass(frozen=True, eq=False)
class Place:
    """What was done in one place: the ink (none where it was left empty), and what else."""

    entry: Entry
    ink: InkGroup | None = None
    is_crossed: bool = False
    is_ticked: bool = False
    is_clean: bool = False


def filled(
    entry: Entry,
    paper: np.ndarray,
    dpi: float,
    style: HouseStyle,
    hand: SimHand,
    lead: Lead,
    rng: np.random.Generator,
    chances: Chances = USUAL,
) -> tuple[Place, np.ndarray]:
    """What a child does in one place of a page, and the page with it."""
    if rng.random() < chances.empty:
        return Place(entry), paper
    faults = [
        code
        for code, one in FAULTS.items()
        if code != "unreadable" and entry.expected in one.letters_in(style.script)
    ]
    fault = str(rng.choice(faults)) if faults and rng.random() < chances.fault else None
    size = fault_size(fault, float(rng.choice([2.0, 4.0]))) if fault else 0.0
    how: dict[str, Any] = {"style": style, "ruling": entry.lines, "hand": hand}
    if entry.is_letter:
        ink = write(entry.expected, rng, fault=fault, size=size, **how)
    else:
        ink = write_text(entry.expected, rng, **how)
    ink = _in_its_place(ink, entry)
    strokes = [stroke.points_mm for stroke in ink.strokes]
    if entry.is_letter and rng.random() < chances.rubbed:
        first = _in_its_place(write(entry.expected, rng, style=style, ruling=entry.lines, hand=hand), entry)
        paper = rub_out(paper, dpi, [stroke.points_mm for stroke in first.strokes], lead, rng)
    crossed = rng.random() < chances.crossed and entry.support is Support.ALONE
    if crossed:
        strokes += _crossing(np.concatenate(strokes), entry.expected, rng)
    ticked = entry.best is not None and rng.random() < chances.ticked
    if ticked and entry.best is not None:
        strokes.append(np.array(_TICK_MM) * rng.uniform(0.8, 1.3) + entry.best[:2] + rng.normal(0, 0.2, 2))
    paper = write_on(paper, dpi, strokes, lead, rng)
    return Place(entry, ink, crossed, ticked, fault is None), paper


def _in_its_place(ink: InkGroup, entry: Entry) -> InkGroup:
    """The ink moved to the middle of its box."""
    every = np.concatenate([stroke.points_mm for stroke in ink.strokes])
    dx = (entry.box[0] + entry.box[2]) / 2 - (every[:, 0].min() + every[:, 0].max()) / 2
    moved = tuple(InkStroke(stroke.points_mm + np.array([dx, 0.0])) for stroke in ink.strokes)
    return replace(ink, strokes=moved)


def _crossing(points: FloatArray, written: str, rng: np.random.Generator) -> list[FloatArray]:
    """A line through a letter, two lines, or a zigzag: as a person can see that it is crossed out.

    A slanting line is no steeper than a child's, however narrow the letter. None goes along a line of the
    letter itself: through x it goes level, through t it slants.
    """
    (left, top), (right, bottom) = points.min(0), points.max(0)
    reach = 0.6 + rng.uniform(0, 0.8)
    kinds = [1, 3] if written in _SLANTING else [0, 2, 3] if written in _BARRED else [0, 1, 2, 3]
    kind = rng.choice([0, 2] if bottom - top < _FLAT_MM else kinds)
    if kind in (0, 2):
        reach = max(reach, (_STEEPEST * (bottom - top) - (right - left)) / 2)
    corners = np.array([(left - reach, bottom + reach / 2), (right + reach, top - reach / 2)])
    if kind == 0:
        return [_by_hand(corners, rng)]
    if kind == 1:
        middle = (top + bottom) / 2
        return [_by_hand(np.array([(left - reach - 0.8, middle), (right + reach + 0.8, middle)]), rng)]
    if kind == 2:
        other = np.array([(left - reach, top - reach / 2), (right + reach, bottom + reach / 2)])
        return [_by_hand(corners, rng), _by_hand(other, rng)]
    ways = 7
    x = np.linspace(left - reach / 2, right + reach / 2, ways)
    y = np.where(np.arange(ways) % 2, top, bottom)
    return [_by_hand(np.column_stack([x, y]), rng)]


def _by_hand(corners: FloatArray, rng: np.random.Generator) -> FloatArray:
    """A run through some corners, not quite straight."""
    share = np.linspace(0, len(corners) - 1, 24 * (len(corners) - 1))
    line = np.column_stack([np.interp(share, np.arange(len(corners)), corners[:, k]) for k in (0, 1)])
    bend = 0.12 * np.sin(share[:, None] * 2.1 + rng.uniform(0, 6, 2))
    return np.asarray(line + bend + rng.normal(0, 0.1, 2))
