"""The streaks of a copier's dirty glass: thin lines that nobody printed, from edge to edge of a page."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from firstloop.core.curves import BoolArray, FloatArray, true_runs
from firstloop.core.scanning.darkness import NOISES, SEEN_LEAST, Darkness
from firstloop.core.scanning.printed_lines import PrintedLine, without_lines

_PIECE_MM = 5.0  # dark somewhere in each such piece: between rows and in margins nobody writes
_ALONG = 0.93  # of its pieces: a picture may end before the page does
_BESIDE_MM, _BESIDE = 1.2, 0.6  # so far beside a thin line no more of the pieces are dark
_STEEPEST, _STEP_MM = 0.02, 0.25  # how far a page may lie askew, its sine; and so far a step at its end
_STRAIGHT_PIECES = 6  # of a streak that is looked at as one upright line


def without_streaks(dark: Darkness) -> None:
    """Take streaks out of a page whose printed lines are out already, down the page and across."""
    for values in (dark.values, dark.values.T):  # views: what is taken out there is out here
        turned = Darkness(values, dark.px_mm, dark.noise)
        for streak in list(_streaks(turned)):
            without_lines(turned, streak, upright=True)


def _streaks(dark: Darkness) -> Iterator[list[PrintedLine]]:
    """Each streak down a page, in pieces that are as good as upright."""
    px_mm = dark.px_mm
    seen = _seen(dark)
    count = len(seen)
    if count < _STRAIGHT_PIECES:
        return
    most = round(_STEEPEST * count * _PIECE_MM / _STEP_MM)
    aside = [
        np.rint(np.linspace(-0.5, 0.5, count) * k * _STEP_MM * px_mm).astype(int)
        for k in range(-most, most + 1)
    ]
    along = np.stack([_dark_along(seen, off) for off in aside])
    beside = round(_BESIDE_MM * px_mm)
    padded = np.pad(along, ((0, 0), (beside, beside)))
    is_thin = (padded[:, : -2 * beside] < _BESIDE) & (padded[:, 2 * beside :] < _BESIDE)
    best = np.where(is_thin, along, 0.0)
    for low, high in true_runs(best.max(0) > _ALONG):
        k, at = np.unravel_index(int(best[:, low:high].argmax()), (len(aside), high - low))
        yield _pieces(aside[k], int(low + at), px_mm)


def _seen(dark: Darkness) -> BoolArray:
    """Where a page is dark, by columns and pieces down it; shape (pieces, width)."""
    size = round(_PIECE_MM * dark.px_mm)
    count = len(dark.values) // size
    least = max(SEEN_LEAST, NOISES * dark.noise)
    return np.asarray(dark.values[: count * size].reshape(count, size, -1).max(1) > least)


def _dark_along(seen: BoolArray, aside: np.ndarray) -> FloatArray:
    """The share of pieces that are dark, each so many columns aside; what is outside is not dark."""
    pieces, wide = seen.shape
    dark = np.zeros(wide)
    for row, off in zip(seen, aside.tolist(), strict=True):
        low, high = max(0, -off), min(wide, wide - off)
        dark[low:high] += row[low + off : high + off]
    return np.asarray(dark / pieces)


def _pieces(aside: np.ndarray, at: int, px_mm: float) -> list[PrintedLine]:
    """A streak in upright lines, each as long as a few pieces."""
    out = []
    for first in range(0, len(aside), _STRAIGHT_PIECES):
        last = min(first + _STRAIGHT_PIECES, len(aside))
        x_mm = (at + 0.5 + float(aside[first:last].mean())) / px_mm
        out.append(PrintedLine(x_mm, first * _PIECE_MM, last * _PIECE_MM))
    return out
