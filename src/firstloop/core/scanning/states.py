"""What was done in a place of a page: written, left empty, crossed out, written over."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum
from itertools import combinations

import numpy as np

from firstloop.core.check.match.template import Template, template
from firstloop.core.check.recognise.pictures import ClassSet, class_set, picture, reading_costs
from firstloop.core.check.ways.follow import STEP_XH, Lines
from firstloop.core.check.ways.graph import InkGraph
from firstloop.core.curves import BoolArray, IntArray, nearest, true_runs
from firstloop.core.letterforms.style import HouseStyle

_INK_LEAST_XH, _INK_LEAST_MM = 0.12, 0.9  # less is no writing
_STRIKE_LEAST_XH = 0.8
_STRIKE_OFF_XH = 0.10  # a hand's straight line through a letter is straighter
_STRIKE_COVER = 0.85
_STRIKES_MOST, _ENDS_MOST = 4, 14
_SHARE, _LIKE_XH = 0.62, 0.16  # so much better the letter looks without the line, and so well
_SCRIBBLE_LENGTH, _SCRIBBLE_MEETINGS = 2.0, 7  # times the model's; more than the model's
_OVER_LENGTH, _OVER_MEETINGS, _OVER_LIKE_XH = 1.35, 2, 0.2
_REST_LEAST = 6  # spots


class Found(StrEnum):
    """What is in a place of a page."""

    INK = "ink"
    WRITTEN_OVER = "written-over"
    CROSSED_OUT = "crossed-out"
    EMPTY = "empty"
    UNCLEAR = "unclear"


def is_empty(graph: InkGraph, px_mm: float, xh_mm: float) -> bool:
    """Whether there is less ink than the smallest letter has."""
    return graph.length + graph.width < max(_INK_LEAST_MM, _INK_LEAST_XH * xh_mm) * px_mm


def letter_state(lines: Lines, graph: InkGraph, expected: str, style: HouseStyle) -> Found:
    """What was done where one letter was asked for, and there is ink."""
    model = template(expected, style)
    meetings = sum(count > 2 for count in graph.degrees.values())
    times = len(lines.spots) * STEP_XH / _written_size(lines, model)
    if times > _SCRIBBLE_LENGTH and meetings > _SCRIBBLE_MEETINGS:
        return Found.CROSSED_OUT
    letters = class_set(expected, style, joins=True)
    every = np.ones(len(lines.spots), dtype=np.bool_)
    whole = _unlike(lines, every, letters)
    if meetings and _is_struck(lines, whole, letters):
        return Found.CROSSED_OUT
    if times > _OVER_LENGTH and meetings > _meetings(model) + _OVER_MEETINGS and whole < _OVER_LIKE_XH:
        return Found.WRITTEN_OVER
    return Found.INK


def text_state(lines: Lines, graph: InkGraph, wide_xh: float) -> Found:
    """What was done where a word or line was asked for, and there is ink."""
    (low, bottom), (high, top) = lines.box
    for strike in _strikes(lines, ends_most=40):
        points = lines.spots[strike]
        if np.ptp(points[:, 0]) > 0.7 * (high - low) and high - low > wide_xh:
            return Found.CROSSED_OUT
    meetings = sum(count > 2 for count in graph.degrees.values())
    dense = len(lines.spots) * STEP_XH / max((high - low) * min(top - bottom, 2.0), 0.5)
    return Found.CROSSED_OUT if dense > 6.0 and meetings > 40 else Found.INK


def _written_size(lines: Lines, model: Template) -> float:
    """How long the model is, made as tall as the ink where that is taller, xh."""
    (_, bottom), (_, top) = lines.box
    own = float(np.ptp(model.points[:, 1]))
    grown = max((top - bottom) / own, 1.0) if own > STEP_XH else 1.0
    once = model.length - float(model.twice.sum()) * 0.04
    return max(once * min(grown, 2.0), 0.5)


def _meetings(model: Template) -> int:
    """About how many places of a model have more than two lines."""
    return len(model.closures) + len(model.runs) + int(model.twice.any())


def _unlike(lines: Lines, keep: BoolArray, letters: ClassSet) -> float:
    """How little ink looks like the letter, xh."""
    runs = [run[low:high] for run in lines.runs for low, high in true_runs(keep[run])]
    return float(reading_costs(picture([lines.spots[run] for run in runs]), letters)[0])


def _is_struck(lines: Lines, whole: float, letters: ClassSet) -> bool:
    """Whether lines go through the letter, without which it is far more like itself."""
    strikes = _strikes(lines, _ENDS_MOST)[:_STRIKES_MOST]
    for count in range(1, len(strikes) + 1):
        for some in combinations(strikes, count):
            rest = np.ones(len(lines.spots), dtype=np.bool_)
            rest[np.concatenate(some)] = False
            if rest.sum() >= _REST_LEAST and _unlike(lines, rest, letters) < min(_SHARE * whole, _LIKE_XH):
                return True
    return False


def _strikes(lines: Lines, ends_most: int) -> Sequence[IntArray]:
    """The spots of straight lines from end to end of ink, through other ink, the longest first."""
    ends = [i for i, beside in enumerate(lines.beside) if len(beside) == 1]
    if len(ends) > ends_most:
        return []
    out: list[tuple[float, IntArray]] = []
    for a, b in combinations(ends, 2):
        start, end = lines.spots[a], lines.spots[b]
        size = float(np.hypot(*(end - start)))
        if size < _STRIKE_LEAST_XH:
            continue
        chord = start + np.linspace(0, 1, max(2, int(size / STEP_XH)))[:, None] * (end - start)
        if (nearest(chord, lines.spots) < _STRIKE_OFF_XH).mean() < _STRIKE_COVER:
            continue
        mine = np.flatnonzero(nearest(lines.spots, chord) < _STRIKE_OFF_XH)
        if sum(len(lines.beside[i]) > 2 for i in mine):
            out.append((size, mine))
    return [mine for _, mine in sorted(out, key=lambda one: -one[0])]
