"""What stands on ruled lines, as items of a scene: the lines, a model, its starts, its blocks."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from firstloop.core import guides
from firstloop.core.curves import FloatArray, Path, length, split
from firstloop.core.letterforms.model import Letter, PointPen
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.moves import Move, Stroke
from firstloop.core.ruling import Box as LetterBox
from firstloop.core.ruling import Ruling, RulingKind
from firstloop.core.sheets.scene import Box, Item, Ring, Rule, Spot, Tone, Words, Written
from firstloop.core.sheets.wish import Finished

PEN_XH = 0.09  # width of a printed letter's line
STRONG_MM, FAINT_MM = 0.3, 0.18
RING_MM = 0.9
_DASH_MM = (1.2, 0.8)
_LEADER_MM, _LABEL_PT, _LABEL_DOWN_MM = 0.12, 7.0, 0.85
_LEADER_LEAST_MM, _BEFORE_LABEL_MM = 3.0, 0.9  # a number stands clear of its ring, a leader of its number
_NUMBER_MM = 1.7  # from the middle of a number to where another line may be
_SPACING_XH = 0.02  # of points along what is printed; the ends of its moves are among them

Strokes = tuple[tuple[Spot, ...], ...]


def ruled(kind: RulingKind, ruling: Ruling, left: float, right: float, washed: bool = True) -> list[Item]:
    """The lines of a ruling from one page x to another."""
    items: list[Item] = []
    if kind.washed and washed:
        items.append(Box((left, ruling.mid_mm, right, ruling.base_mm), Tone.BAND, filled=True))
    for one in kind.lines:
        y = ruling.base_mm - one.height_xh * ruling.xh_mm
        width, tone = (STRONG_MM, Tone.STRONG) if one.strong else (FAINT_MM, Tone.FAINT)
        items.append(Rule((left, y), (right, y), width, tone, _DASH_MM if one.dashed else None))
    return items


def boxed(
    kind: RulingKind, words: Sequence[Sequence[LetterBox]], ruling: Ruling, origin_mm: float
) -> list[Item]:
    """Boxes that a ruling draws around words, which are given by the boxes of their letters, xh.

    Between ruled lines only their sides are drawn: no edge is printed on a line.
    """
    xh, base = ruling.xh_mm, ruling.base_mm
    heights = {line.height_xh for line in kind.lines}
    boxes = kind.drawn_boxes(words)
    if boxes and all(low in heights and high in heights for _, low, _, high in boxes):
        bottom, top = min(low for _, low, _, _ in boxes), max(high for *_, high in boxes)
        sides = sorted({origin_mm + x * xh for left, _, right, _ in boxes for x in (left, right)})
        ends = base - top * xh, base - bottom * xh
        return [Rule((x, ends[0]), (x, ends[1]), FAINT_MM, Tone.FAINT) for x in sides]
    return [
        Box((origin_mm + left * xh, base - high * xh, origin_mm + right * xh, base - low * xh), Tone.FAINT)
        for left, low, right, high in boxes
    ]


def blocks(kind: RulingKind, model: Letter, ruling: Ruling, origin_mm: float) -> list[Item]:
    """Boxes that a ruling draws around a letter or word."""
    return boxed(kind, letter_boxes(model), ruling, origin_mm) if kind.boxes is not None else []


def written(model: Letter, ruling: Ruling, origin_mm: float, tone: Tone, dotted: bool = False) -> Written:
    """A letter or word on its lines."""
    xh = ruling.xh_mm
    return Written(model, (origin_mm, ruling.base_mm), xh, PEN_XH * xh, tone, dotted)


@lru_cache(maxsize=512)
def _starts(model: Letter, left_hand: bool) -> tuple[tuple[Spot, Spot, bool], ...]:
    """Where each stroke starts, where its number stands, xh, and whether it is a dot; of a word the first."""
    shown = guides.starts(model, left_hand, None if len(model.char) == 1 else 1)
    dots = (stroke.is_dot for stroke in model.strokes)
    return tuple((one.ring, one.label, dot) for one, dot in zip(shown, dots, strict=False))


def starts(
    model: Letter, ruling: Ruling, origin_mm: float, *, numbered: bool, left_hand: bool = False
) -> list[Item]:
    """The ring at each start, with its stroke's number on a short leader; of a word the first only."""
    items: list[Item] = []
    ink = np.concatenate([np.array(one) for one in way_of(model, ruling, origin_mm)]) if numbered else None
    for number, (ring, label, dot) in enumerate(_starts(model, left_hand), start=1):
        at = _on_page(ring, ruling, origin_mm)
        if ink is not None:
            right, up = label[0] - ring[0], label[1] - ring[1]
            far = max(math.hypot(right, up) * ruling.xh_mm, _LEADER_LEAST_MM)
            angle = _clear_of(ink, at, math.atan2(up, right), far)
            near, place = (_towards(at, angle, one) for one in (far - _BEFORE_LABEL_MM, far))
            items.append(Rule(at, near, _LEADER_MM, Tone.GREY))
            items.append(Words(str(number), (place[0], place[1] + _LABEL_DOWN_MM), _LABEL_PT, centred=True))
        if not (dot and numbered):  # which shows by itself where it is
            items.append(Ring(at, RING_MM, FAINT_MM, Tone.INK, on_paper=True))
    return items


def _clear_of(ink_mm: FloatArray, at: Spot, angle: float, far_mm: float) -> float:
    """The angle nearest to one at which a number so far from a ring stands on no line of the letter."""
    angles = (angle + sign * turn for turn in np.radians(range(0, 181, 15)) for sign in (1, -1))
    clear = (one for one in angles if np.hypot(*(ink_mm - _towards(at, one, far_mm)).T).min() > _NUMBER_MM)
    return next(clear, angle)


def _towards(at: Spot, angle: float, far_mm: float) -> Spot:
    return at[0] + far_mm * math.cos(angle), at[1] - far_mm * math.sin(angle)


def _on_page(spot: Spot, ruling: Ruling, origin_mm: float) -> Spot:
    return origin_mm + spot[0] * ruling.xh_mm, ruling.base_mm - spot[1] * ruling.xh_mm


@lru_cache(maxsize=512)
def _sampled(model: Letter) -> Strokes:
    pen = PointPen(_SPACING_XH)
    model.draw(pen)
    return tuple(tuple(map(tuple, stroke.points.tolist())) for stroke in pen.strokes)


def way_of(model: Letter, ruling: Ruling, origin_mm: float) -> Strokes:
    """The strokes of what is printed, page millimetres."""
    return tuple(tuple(_on_page(spot, ruling, origin_mm) for spot in stroke) for stroke in _sampled(model))


@lru_cache(maxsize=512)
def begun(model: Letter, how: Finished) -> Letter:
    """What is printed of a letter or word that is to be finished."""
    count = 1 if how is Finished.STROKE else (len(model.strokes) + 1) // 2
    if len(model.strokes) > 1:
        return Letter(model.char, model.strokes[:count])
    return Letter(model.char, (_half(model.strokes[0]),))


def _half(stroke: Stroke) -> Stroke:
    """The first half of a stroke by its length."""
    left = sum(length(move.path.points()) for move in stroke.moves) / 2
    moves: list[Move] = []
    for move in stroke.moves:
        pieces = []
        for piece in move.path.cubics:
            long = length(Path(piece[None]).points())
            pieces.append(piece if long <= left else split(piece, left / long)[0])
            left -= long
            if left <= 0:
                break
        moves.append(Move(move.kind, Path(np.array(pieces))))
        if left <= 0:
            break
    return Stroke(tuple(moves))
