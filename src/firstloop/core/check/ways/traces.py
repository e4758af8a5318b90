"""Traces of which only the picture counts: their order, direction and cuts mean nothing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from scipy.ndimage import binary_dilation

from firstloop.core.check.ways.follow import Lines, stepped
from firstloop.core.check.ways.graph import ink_graph
from firstloop.core.check.ways.letters import letter_strokes
from firstloop.core.check.ways.words import text_strokes
from firstloop.core.curves import BoolArray, FloatArray, steps
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.style import HouseStyle

PX_XH = 32.0  # in which traces are drawn
_PEN_PX = 3  # wide
_ROOM_PX = 4
_PIXELS_MOST, _SIDE_MOST = 12e6, 40_000  # ink strewn further is drawn coarser; it is no letter anyway


def along_traces(group: InkGroup, text: str, style: HouseStyle, chars: str) -> InkGroup:
    """The same ink with strokes that go as the text asked for does.

    Parameters
    ----------
    chars : str
        The letters that any letter might be instead.
    """
    return along_lines(group, drawn(group.in_letter_space), text, style, chars)


def along_lines(group: InkGroup, lines: Lines, text: str, style: HouseStyle, chars: str) -> InkGroup:
    """A group whose strokes go along lines of ink as the text asked for does."""
    strokes = (letter_strokes if len(text) == 1 else text_strokes)(lines, text, style, chars)
    made = tuple(InkStroke(group.ruling.to_page(stroke)) for stroke in strokes)
    return replace(group, strokes=made or group.strokes)


def drawn(strokes: Sequence[FloatArray]) -> Lines:
    """Traces as the lines that a thin pen would leave."""
    every = np.concatenate(strokes)
    wide, tall = np.maximum(np.ptp(every, axis=0), 1 / PX_XH)
    px_xh = min(PX_XH, float(np.sqrt(_PIXELS_MOST / (wide * tall))), _SIDE_MOST / max(wide, tall))
    corner = every.min(0) - _ROOM_PX / px_xh
    size = np.ceil((every.max(0) - corner) * px_xh).astype(int) + _ROOM_PX
    mask: BoolArray = np.zeros((size[1], size[0]), dtype=np.bool_)
    for stroke in strokes:
        x, y = _dense((stroke - corner) * px_xh).astype(int).T
        mask[y, x] = True
    mask = np.asarray(binary_dilation(mask, np.ones((_PEN_PX, _PEN_PX), dtype=np.bool_)))
    return stepped(ink_graph(mask), px_xh, lambda points: points / px_xh + corner)


def _dense(points: FloatArray) -> FloatArray:
    """Points less than a pixel apart along a run: the same for each piece of it, wherever it is cut."""
    if len(points) == 1:
        return points
    counts = np.ceil(2 * steps(points)).astype(int) + 1
    within = np.concatenate([np.linspace(0, 1, count) for count in counts])[:, None]
    return np.asarray(
        np.repeat(points[:-1], counts, axis=0) * (1 - within) + np.repeat(points[1:], counts, axis=0) * within
    )
