"""Letters for the wall: each on its lines with its starts, and beside every move an arrow of its way."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import product

import numpy as np

from firstloop.core.curves import FloatArray, along, nearest, resample
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import MoveKind
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.sheets import draw
from firstloop.core.sheets.scene import Item, Page, Spot, Tone, Way

XH_MM = 14.0
COLUMNS = 6
_ROOM_XH, _ABOVE_XH, _BELOW_XH = 1.5, 0.55, 0.35
_SIDE_XH = 0.17  # how far an arrow stands from its move
_LONGEST_XH, _CLEAR_END_XH = 0.62, 0.1
_PLACES, _ASIDE_XH = (0.5, 0.25, 0.75, 0.0, 1.0), 0.04  # along the free part; how much worse than its middle
_SIZES = ((1.0, 0.0), (0.45, 0.03))  # whole and short, each with how much worse it is, xh of room
_SIDES = ((_SIDE_XH, 0.0), (-_SIDE_XH, 0.005))
_ENOUGH_XH = 0.16
_LEAST_XH = 0.2  # a move shorter than this is seen from its neighbours
_HEAD_XH, _HEAD_DEG = 0.085, 32.0
_POINTS = 16
_ARROW_MM = 0.35
_MARGIN_MM = 10.0


@lru_cache(maxsize=256)
def arrows(model: Letter) -> tuple[FloatArray, ...]:
    """Shafts of the arrows of a letter, each (16, 2) in letter space, in the order of its moves."""
    moves = [
        (move.kind, sampled.points[sampled.move == number])
        for stroke, sampled in zip(model.strokes, model.sampled, strict=True)
        for number, move in enumerate(stroke.moves)
    ]
    shafts: list[FloatArray] = []
    for k, (kind, points) in enumerate(moves):
        long = along(points)[-1] if len(points) > 1 else 0.0
        if kind is MoveKind.DOT or long < _LEAST_XH:
            continue
        free = np.concatenate([points[:0], *(p for j, (_, p) in enumerate(moves) if j != k), *shafts])
        shafts.append(_beside(points, long, free))
    return tuple(shafts)


def _beside(move: FloatArray, long: float, others: FloatArray) -> FloatArray:
    """The shaft where most room is: at the middle of its move or off it, to the right or to the left."""
    longest = min(_LONGEST_XH, long - 2 * _CLEAR_END_XH) if long > 3 * _CLEAR_END_XH else long * 0.7
    ink = np.concatenate([move, others])
    best, best_room = move, -np.inf
    for share, (size, shorter), (side, left) in product(_PLACES, _SIZES, _SIDES):
        part = size * longest
        shaft = _part(move, (long - part) * share, part)
        there = shaft + side * _to_the_right(shaft)
        room = min(float(nearest(there, ink).min()), _ENOUGH_XH)
        worse = _ASIDE_XH * abs(share - 0.5) + shorter + left
        if room - worse > best_room:
            best, best_room = there, room - worse
    return best


def _part(points: FloatArray, start: float, long: float) -> FloatArray:
    where = along(points)
    inside = (where >= start - 1e-9) & (where <= start + long + 1e-9)
    return resample(points[inside], _POINTS)


def _to_the_right(shaft: FloatArray) -> FloatArray:
    heading = np.gradient(shaft, axis=0)
    normal = np.column_stack([heading[:, 1], -heading[:, 0]])
    return np.asarray(normal / np.maximum(np.hypot(*normal.T), 1e-9)[:, None])


def _arrow(shaft: FloatArray, ruling: Ruling, origin_mm: float) -> list[Item]:
    """A shaft and the two sides of its head, on the page."""
    back = shaft[-4] - shaft[-1]
    back = back / max(float(np.hypot(*back)), 1e-9) * _HEAD_XH
    turn = np.radians(_HEAD_DEG) * np.array([1.0, -1.0])
    sides = [
        shaft[-1]
        + np.array([np.cos(a) * back[0] - np.sin(a) * back[1], np.sin(a) * back[0] + np.cos(a) * back[1]])
        for a in turn
    ]
    head = np.array([sides[0], shaft[-1], sides[1]])
    return [Way(_on_page(one, ruling, origin_mm), _ARROW_MM, Tone.STRONG) for one in (shaft, head)]


def _on_page(points: FloatArray, ruling: Ruling, origin_mm: float) -> tuple[Spot, ...]:
    return tuple((float(x), float(y)) for x, y in ruling.to_page(points, origin_mm))


def wall(letters: Sequence[Letter], ruling: str, columns: int = COLUMNS, xh_mm: float = XH_MM) -> Page:
    """A page, as large as it needs to be, of letters with their rings, numbers and arrows.

    Raises
    ------
    RulingError
    """
    kind = ruling_kind(ruling)
    widest = max((one.bounds[2] - one.bounds[0] for one in letters), default=1.0)
    wide, above = (widest + _ROOM_XH) * xh_mm, _ABOVE_XH * xh_mm
    tall = (kind.rise_xh - kind.drop_xh + _ABOVE_XH + _BELOW_XH) * xh_mm
    items: list[Item] = []
    for k, one in enumerate(letters):
        left, top = _MARGIN_MM + k % columns * wide, _MARGIN_MM + k // columns * tall
        lines = kind.ruled(xh_mm, top_mm=top + above)
        low, _, high, _ = one.bounds
        origin = left + wide / 2 - (low + high) / 2 * xh_mm
        items += draw.ruled(kind, lines, left, left + wide)
        items += draw.blocks(kind, one, lines, origin)
        items.append(draw.written(one, lines, origin, Tone.INK))
        for shaft in arrows(one):
            items += _arrow(shaft, lines, origin)
        items += draw.starts(one, lines, origin, numbered=True)
    rows = -(-len(letters) // columns)
    size = (columns * wide + 2 * _MARGIN_MM, max(rows, 1) * tall + 2 * _MARGIN_MM)
    return Page(1, size, tuple(items))
