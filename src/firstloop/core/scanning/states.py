"""What was done in a place of a page: written, left empty, crossed out, written over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache
from itertools import combinations

import numpy as np

from firstloop.core.check.match.template import Template, template
from firstloop.core.check.recognise.pictures import ClassSet, class_set, picture, reading_costs
from firstloop.core.check.ways.follow import STEP_XH, Lines
from firstloop.core.check.ways.graph import InkGraph
from firstloop.core.check.ways.traces import drawn
from firstloop.core.curves import FloatArray, IntArray, cross, nearest
from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle

_ENDS_MOST, _SAME_SHARE = 14, 0.75
_BESIDE_XH, _BESIDE_LEAST = 0.12, 2  # so far to each side, so many spots of other ink
_LIKE_DEG, _LIKE_TIMES = 38.0, 1.8  # a letter's own straight line, written crooked or too long
_PLAIN_XH = 0.06  # what looks like a letter as well as this is one
_ASKED_XH = 0.09  # and like the one that was asked for
_TEXT_XH = 1.5  # a line through less may be a bar
_GROWN_MOST, _STEEP_DEG = 2.5, 45.0
_SCRIBBLE_LENGTH, _SCRIBBLE_MEETINGS = 2.0, 7  # times the model's; more than the model's
_MUCH_INK, _MUCH_IN_TEXT = 2.05, 1.7  # times the model's, drawn by the pen of the page
_OVER_LENGTH, _OVER_MEETINGS, _OVER_LIKE_XH = 1.35, 2, 0.16


class Found(StrEnum):
    """What is in a place of a page."""

    INK = "ink"
    WRITTEN_OVER = "written-over"
    CROSSED_OUT = "crossed-out"
    EMPTY = "empty"
    UNCLEAR = "unclear"


def letter_state(
    lines: Lines, graph: InkGraph, inked_xh: float, expected: str, style: HouseStyle, chars: str
) -> Found:
    """What was done where one letter was asked for, and there is ink.

    Parameters
    ----------
    inked_xh : float
        How long a line of the pen would be that covers as much paper: a zigzag runs into one blot, whose
        middle lines say nothing.
    chars : str
        The letters that it may be instead.
    """
    model = template(expected, style)
    meetings = sum(count > 2 for count in graph.degrees.values())
    size = _written_size(lines, model)
    times = len(lines.spots) * STEP_XH / size
    if inked_xh > _MUCH_INK * size:
        return Found.CROSSED_OUT
    if times > _SCRIBBLE_LENGTH and meetings > _SCRIBBLE_MEETINGS:
        return Found.CROSSED_OUT
    if meetings and _is_struck_out(lines, expected, style, chars):
        return Found.CROSSED_OUT
    twice = times > _OVER_LENGTH and meetings > _meetings(model) + _OVER_MEETINGS
    if twice and _likest(lines, class_set(expected, style, joins=True)) < _OVER_LIKE_XH:
        return Found.WRITTEN_OVER
    return Found.INK


def text_state(lines: Lines, graph: InkGraph, inked_xh: float, text: str, style: HouseStyle) -> Found:
    """What was done where a word or line was asked for, and there is ink; as :func:`letter_state`."""
    (low, bottom), (high, top) = lines.box
    models = [one for char in text if char in EVERY and len((one := template(char, style)).points)]
    if models and inked_xh > _MUCH_IN_TEXT * sum(_once(one) for one in models) * _grown(lines, models):
        return Found.CROSSED_OUT
    for strike in _strikes(lines, ends_most=40):
        points = lines.spots[strike]
        if np.ptp(points[:, 0]) > 0.7 * (high - low) and high - low > _TEXT_XH:
            return Found.CROSSED_OUT
    meetings = sum(count > 2 for count in graph.degrees.values())
    dense = len(lines.spots) * STEP_XH / max((high - low) * min(top - bottom, 2.0), 0.5)
    return Found.CROSSED_OUT if dense > 6.0 and meetings > 40 else Found.INK


def _written_size(lines: Lines, model: Template) -> float:
    """How long the model is, made as tall as the ink where that is taller, xh."""
    return max(_once(model) * _grown(lines, [model], 2.0), 0.5)


def _once(model: Template) -> float:
    """How much paper a model covers, what is drawn twice once, xh along its line."""
    return float(model.length) - float(model.twice.sum()) * 0.04


def _meetings(model: Template) -> int:
    """About how many places of a model have more than two lines."""
    return len(model.closures) + len(model.runs) + int(model.twice.any())


def _likest(lines: Lines, letters: ClassSet, runs: Sequence[IntArray] | None = None) -> float:
    """How little ink, or some runs of it, looks like the letter that it looks most like, xh."""
    strokes = [lines.spots[run] for run in (lines.runs if runs is None else runs) if len(run) > 1]
    return float(reading_costs(picture(strokes), letters).min()) if strokes else float("inf")


def _is_struck_out(lines: Lines, expected: str, style: HouseStyle, chars: str) -> bool:
    """Whether a line goes through a letter that is none of its own, and makes no letter of it.

    What it makes may look like another one, as a line through l like t. It is struck out all the same if
    what is left without the line is the letter that was asked for, and the whole is not.
    """
    strikes = _strikes(lines)
    if not _is_struck(lines, strikes, expected, style):
        return False
    asked = class_set(expected, style, joins=True)
    if _likest(lines, class_set(expected + chars, style, joins=True)) > _PLAIN_XH:
        return True
    if _likest(lines, asked) < _ASKED_XH:
        return False
    rests = ([run[~np.isin(run, strike)] for run in lines.runs] for strike in strikes)
    return any(_likest(lines, asked, rest) < _ASKED_XH for rest in rests)


def _is_struck(lines: Lines, strikes: Sequence[IntArray], expected: str, style: HouseStyle) -> bool:
    """Whether one of the straight lines through ink is none of the letter's own.

    There are more of them than go through the letter as it should be, or one that is like none of its
    straight lines by slope and length; of a letter that is too tall the steep ones are longer.
    """
    through, straight = _own_lines(expected, style)
    if len(strikes) > through:
        return True
    grown = _grown(lines, [template(expected, style)], _GROWN_MOST)
    left = list(straight)
    for slope, size in (_slope_and_size(lines, strike) for strike in strikes):
        like = [
            own
            for own in left
            if abs((slope - own[0] + 90) % 180 - 90) < _LIKE_DEG
            and size < _LIKE_TIMES * own[1] * (grown if _is_steep(slope) else 1.0)
        ]
        if not like:
            return True
        left.remove(like[0])
    return False


def _is_steep(slope_deg: float) -> bool:
    return abs((slope_deg + 90) % 180 - 90) > _STEEP_DEG


def _grown(lines: Lines, models: Sequence[Template], most: float = np.inf) -> float:
    """How many times as tall as its models together ink is: once at least, and no more than `most`."""
    (_, bottom), (_, top) = lines.box
    own = float(np.ptp(np.concatenate([model.points[:, 1] for model in models])))
    return min(max((top - bottom) / own, 1.0), most) if own > STEP_XH else 1.0


@lru_cache(maxsize=512)
def _own_lines(expected: str, style: HouseStyle) -> tuple[int, tuple[tuple[float, float], ...]]:
    """Of a letter as it should be, how many nearly straight lines go through it; and all that are in it.

    Of each its slope in degrees and its length, xh.
    """
    lines = drawn([one.points for one in letter(expected, style).sampled])
    every = _strikes(lines, replace(_NEARLY, by_itself=True))
    return len(_strikes(lines, _NEARLY)), tuple(_slope_and_size(lines, strike) for strike in every)


def _slope_and_size(lines: Lines, strike: IntArray) -> tuple[float, float]:
    spots = lines.spots[strike]
    along = np.linalg.svd(spots - spots.mean(0), full_matrices=False)[2][0]
    size = float(np.ptp(spots @ along))
    return float(np.degrees(np.arctan2(along[1], along[0]))), size


@dataclass(frozen=True)
class _Straight:
    """How far off a straight line may be, how much of it is there, how far it stands out, how long.

    ``by_itself``: it need not go through other ink.
    """

    off_xh: float
    cover: float
    stands_out_xh: float
    stands_out_widths: float
    least_xh: float
    by_itself: bool = False


_NEARLY, _CLEARLY = _Straight(0.2, 0.7, -1.0, -1.0, 0.5), _Straight(0.09, 0.85, 0.06, 1.2, 0.9)


def _strikes(lines: Lines, straight: _Straight = _CLEARLY, ends_most: int = _ENDS_MOST) -> list[IntArray]:
    """The spots of straight lines through other ink that stand out at both ends, the longest first."""
    ends = [i for i, beside in enumerate(lines.beside) if len(beside) == 1]
    if len(ends) > ends_most:
        return []
    found: list[tuple[float, IntArray]] = []
    for a, b in combinations(ends, 2):
        start, end = lines.spots[a], lines.spots[b]
        size = float(np.hypot(*(end - start)))
        if size < straight.least_xh:
            continue
        chord = start + np.linspace(0, 1, max(2, int(size / STEP_XH)))[:, None] * (end - start)
        if (nearest(chord, lines.spots) < straight.off_xh).mean() < straight.cover:
            continue
        mine = np.flatnonzero(nearest(lines.spots, chord) < straight.off_xh)
        if straight.by_itself:
            found.append((size, mine))
            continue
        met = lines.spots[[i for i in mine if len(lines.beside[i]) > 2]]
        least = max(straight.stands_out_xh, straight.stands_out_widths * lines.width_xh)
        if not len(met) or min(np.hypot(*(met - tip).T).min() for tip in (start, end)) <= least:
            continue
        if _lies_on_both_sides(np.delete(lines.spots, mine, axis=0), start, end):
            found.append((size, mine))
    out: list[IntArray] = []
    for _, mine in sorted(found, key=lambda one: -one[0]):
        if all(len(np.intersect1d(mine, other)) < _SAME_SHARE * len(mine) for other in out):
            out.append(mine)
    return out


def _lies_on_both_sides(others: FloatArray, start: FloatArray, end: FloatArray) -> bool:
    """Whether other ink lies left and right of a line: a stem has its bowl on one side only."""
    way = (end - start) / np.hypot(*(end - start))
    beside = cross(way, others - start)
    along_it = (others - start) @ way
    over = (along_it > 0) & (along_it < np.hypot(*(end - start)))
    return min(int((over & (sign * beside > _BESIDE_XH)).sum()) for sign in (-1, 1)) >= _BESIDE_LEAST
