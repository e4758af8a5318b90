"""Rows, words and lines by the simulated writer: each letter a little different, the whole on one line."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

import numpy as np

from firstloop.core.curves import FloatArray, IntArray
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.spacing import model_gaps
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.letterforms.words import Word, finger_xh, word
from firstloop.core.moves import JOINS
from firstloop.core.ruling import Ruling
from firstloop.core.simulate.hand import ORDINARY_HAND, SimHand, Strokes
from firstloop.core.simulate.own_forms import OwnForms
from firstloop.core.simulate.writer import TEN_MM, penned, sketch

_GAP_XH = 0.05  # how much the room after a letter varies, standard deviation
_LETTER_SHARE = 0.7  # of a hand's variation that is from letter to letter and not of the whole word
_SET_DOWN_XH = 0.02
# of a hand's variation, by which it grows and climbs from letter to letter
_TREND_SIZE, _TREND_XH = 0.12, 0.15
_STROKE_LEAST = 3


LetterFault = tuple[str, float]
"""A code and its size."""


@dataclass(frozen=True)
class Spread:
    """How the letters of a line differ from the model, each array with one value a character.

    ``size`` is a factor, ``lift`` up from the base line and ``room`` added before the letter, xh.
    """

    size: FloatArray
    lift: FloatArray
    room: FloatArray


def even(count: int) -> Spread:
    """Letters exactly as the model has them."""
    return Spread(np.ones(count), np.zeros(count), np.zeros(count))


def _natural(spread: Spread, hand: SimHand, rng: np.random.Generator) -> Spread:
    count = len(spread.size)
    share = _LETTER_SHARE
    so_far = np.arange(count) - (count - 1) / 2
    grows, climbs = rng.normal(0, 1, 2) * (_TREND_SIZE * hand.size, _TREND_XH * hand.shift_xh)

    def some(scale: float) -> FloatArray:
        return np.asarray(np.clip(rng.normal(0, 1, count), -2.2, 2.2) * scale)

    return Spread(
        spread.size * (1 + some(share * hand.size) + grows * so_far),
        spread.lift + some(share * hand.shift_xh) + climbs * so_far,
        spread.room + some(_GAP_XH),
    )


def _fault_spread(
    fault: str | None, size: float, text: str, style: HouseStyle, rng: np.random.Generator
) -> Spread:
    """The letters of a text with one fault of the whole."""
    out = even(len(text))
    inner = np.array([i for i, c in enumerate(text) if i and c != " " and text[i - 1] != " "], dtype=np.int64)
    spaces = np.array([i for i, c in enumerate(text) if c == " "], dtype=np.int64)
    if fault == "size.uneven":
        high = (1 + size / 100) ** 0.5
        out.size[:] = np.where((np.arange(len(text)) + rng.integers(2)) % 2, high, 1 / high)
    elif fault == "spacing.wide":
        out.room[inner] = size
    elif fault == "spacing.tight":
        out.room[inner] = -size
    elif fault == "spacing.uneven":
        apart = np.where(np.arange(len(inner)) % 2, 1.0, -1.0)
        apart -= apart.mean()
        usual = float(np.median(model_gaps(text, style)))
        out.room[inner] = size / 100 * usual * apart / (apart.std() or 1.0)
    elif fault in ("words.tight", "words.wide"):
        out.room[spaces] = (size - 1) * finger_xh(style)
    elif fault == "line.drift":
        middle = np.array(word(text, style).lefts)
        sign = 1.0 if rng.random() < 0.5 else -1.0
        out.lift[:] = sign * np.tan(np.radians(size)) * (middle - middle.mean())
    return out


WHOLE_FAULTS = (
    "size.uneven",
    "spacing.tight",
    "spacing.wide",
    "spacing.uneven",
    "words.tight",
    "words.wide",
    "line.drift",
)
LARGEST_WHOLE = {"spacing.tight": 0.9}  # letters on top of one another are no longer close together


def _owners(model: Word, stroke: int) -> IntArray:
    """Which character each sample of a stroke belongs to."""
    spans = [span for span in model.spans if span.stroke == stroke]
    moves = {m: span.index for span in spans for m in range(span.first, span.last + 1)}
    return np.array([moves[int(m)] for m in model.sampled[stroke].move], dtype=np.int64)


def _placed(model: Word, spread: Spread, joined: bool) -> Strokes:
    """Every letter at its own size, height and place; between joined letters the change is gradual."""
    lefts = np.array(model.lefts)
    shift = np.cumsum(spread.room)
    out = []
    for s, sampled in enumerate(model.sampled):
        owner = _owners(model, s)
        values = np.column_stack([spread.size, spread.lift, shift])[owner]
        origin = lefts[owner]
        if joined and len(np.unique(owner)) > 1:
            values, origin = _gradual(model, s, owner, values, origin)
        size, lift, moved = values.T
        x = origin + (sampled.points[:, 0] - origin) * size + moved
        out.append(np.column_stack([x, sampled.points[:, 1] * size + lift]))
    return out


def _gradual(
    model: Word, stroke: int, owner: IntArray, values: FloatArray, origin: FloatArray
) -> tuple[FloatArray, FloatArray]:
    """Along joins, go over from one letter's values to the next one's."""
    kinds = [move.kind in JOINS for move in model.strokes[stroke].moves]
    join = np.array(kinds)[model.sampled[stroke].move]
    at = np.arange(len(owner))
    keep = ~join
    if not keep.any():
        return values, origin
    both = np.column_stack([values, origin])
    smooth = np.column_stack([np.interp(at, at[keep], column[keep]) for column in both.T])
    return smooth[:, :3], smooth[:, 3]


def write_text(
    text: str,
    rng: np.random.Generator,
    *,
    fault: str | None = None,
    size: float = 0.0,
    style: HouseStyle = DEFAULT_STYLE,
    ruling: Ruling = TEN_MM,
    hand: SimHand = ORDINARY_HAND,
    left_mm: float = 10.0,
    room_xh: float = 0.0,
    lifts: tuple[int, ...] = (),
    slips: Mapping[int, LetterFault] = MappingProxyType({}),
) -> InkGroup:
    """Write a row, a word or a line.

    Parameters
    ----------
    fault : str, optional
        One of :data:`WHOLE_FAULTS`, made no larger than it says.
    room_xh : float
        Added before every letter but the first: a row of one letter stands further apart than a word.
    lifts : tuple of int
        Characters of a joined word after which the pen comes up on the way to the next.
    slips : mapping
        Faults of single letters, by their place in the text; of letters that stand apart only.
    """
    model = hand.forms.of(word(text, style))
    made = min(size, LARGEST_WHOLE.get(fault or "", size))
    spread = _fault_spread(fault, made, text, style, rng)
    spread.room[1:] += room_xh
    spread = _natural(spread, hand, rng)
    strokes = _placed(model, spread, style.is_joined)
    if slips:
        strokes = _slipped(model, strokes, spread, slips, style, hand.forms, rng)
    strokes = _lifted(model, strokes, lifts, rng)
    whole = replace(hand, size=hand.size * (1 - _LETTER_SHARE), shift_xh=hand.shift_xh * (1 - _LETTER_SHARE))
    points, times = penned(strokes, whole, rng)
    ink = [InkStroke(ruling.to_page(p, left_mm), t) for p, t in zip(points, times, strict=True)]
    return InkGroup(tuple(ink), ruling, truth=text, script=str(style.script))


def _slipped(
    model: Word,
    strokes: Strokes,
    spread: Spread,
    slips: Mapping[int, LetterFault],
    style: HouseStyle,
    forms: OwnForms,
    rng: np.random.Generator,
) -> Strokes:
    """The strokes of a text with some letters as a child who makes a fault means them."""
    shift = np.cumsum(spread.room)
    out: Strokes = []
    made = set()
    for s, stroke in enumerate(strokes):
        at = int(_owners(model, s)[0])
        if at not in slips:
            out.append(stroke)
        elif at not in made:
            made.add(at)
            place = np.array([model.lefts[at] + shift[at], spread.lift[at]])
            meant = sketch(model.char[at], rng, *slips[at], style, forms)
            out += [points * spread.size[at] + place for points in meant]
    return out


def _lifted(model: Word, strokes: Strokes, after: tuple[int, ...], rng: np.random.Generator) -> Strokes:
    """Cut strokes halfway along the join that follows each of the given characters."""
    if not after:
        return strokes
    out: Strokes = []
    for s, stroke in enumerate(strokes):
        owner = _owners(model, s)
        on_join = np.array([move.kind in JOINS for move in model.strokes[s].moves])[model.sampled[s].move]
        cuts = []
        for index in after:
            mine = np.flatnonzero((owner == index) & on_join)
            if len(mine) and mine[-1] < len(stroke) - 1:
                cuts.append(int(mine[len(mine) // 2]))
        pieces = [piece for piece in np.split(stroke, sorted(cuts)) if len(piece) >= _STROKE_LEAST]
        out += [piece + rng.normal(0, _SET_DOWN_XH, 2) * (len(pieces) > 1) for piece in pieces]
    return out
