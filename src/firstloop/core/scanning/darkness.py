"""How dark a straight page is, and its printed rings taken out of it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from firstloop.core.curves import BoolArray, FloatArray
from firstloop.core.scanning.owners import where_kept

_PAPER_MM = 4.0  # what is darker over less than this is no paper
_COARSE = 4
_SOFT_MM = 0.13  # finer is the paper's grain
_SOME = 4  # of so many pixels each way one tells of it
_BAND_MM = 1.3  # about a line that is looked at
SEEN_LEAST = 0.07
NOISES = 4.0
_THROUGH_MM = 3.0  # about a number: what is longer outside than inside goes through it
_WORD_EDGE_MM = 0.3  # print may lie so far aside
_UNCOVERED, _DARKER = 0.25, 0.15  # of a ring, at least; than it is there
_WORD_PALER = 0.5  # of what is darkest in a word
_SECTORS, _RING_MM, _RING_LINE_MM, _ASIDE_MM = 24, 0.4, 0.2, 0.7


@dataclass(frozen=True, eq=False)
class Darkness:
    """A page as darkness against its own paper.

    Parameters
    ----------
    values : array, shape (height, width)
        0 is paper and 1 is black.
    px_mm : float
    noise : float
        Of the paper, standard deviation.
    """

    values: FloatArray
    px_mm: float
    noise: float


def darkness(grey: np.ndarray, px_mm: float) -> Darkness:
    """How dark each place is against the paper about it, whatever the light; 8 bit, shape (height, width)."""
    few = cv2.resize(grey, None, fx=1 / _COARSE, fy=1 / _COARSE, interpolation=cv2.INTER_AREA)
    size = round(_PAPER_MM * px_mm / _COARSE) | 1
    paper = cv2.morphologyEx(few, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    paper = cv2.GaussianBlur(paper, (0, 0), size / 3)
    paper = cv2.resize(paper, (grey.shape[1], grey.shape[0]), interpolation=cv2.INTER_LINEAR)
    soft = cv2.GaussianBlur(grey.astype(np.float32), (0, 0), _SOFT_MM * px_mm)
    values = np.clip(1 - soft / np.maximum(paper, 16), 0, 1)
    some = values[::_SOME, ::_SOME]
    light = some[some < 0.1]
    noise = 1.48 * float(np.median(light)) if len(light) else 0.0
    return Darkness(np.asarray(values, dtype=np.float64), px_mm, noise)


def without_ring(dark: Darkness, x_mm: float, y_mm: float, radius_mm: float, pale: float = 0.0) -> None:
    """Take a printed ring out of a page where no ink crosses it.

    Ink that crosses it goes on inside and outside: there the ring stays; and so does what is plainly darker
    than the ring, as a tail that runs along it. What is no darker than `pale` is print.
    """
    px_mm, size = dark.px_mm, round((radius_mm + _BAND_MM) * dark.px_mm)
    square, (low, top) = _around(dark.values, x_mm * px_mm, y_mm * px_mm, size)
    across = np.arange(square.shape[1]) + low + 0.5 - x_mm * px_mm
    down = np.arange(square.shape[0])[:, None] + top + 0.5 - y_mm * px_mm
    away = np.hypot(across, down) / px_mm - radius_mm
    sector = np.round(np.arctan2(down, across) / (2 * np.pi) * _SECTORS).astype(int) % _SECTORS
    on_ring = np.abs(away) < _RING_MM
    if not on_ring.any():
        return
    least = max(SEEN_LEAST, NOISES * dark.noise, 0.4 * float(np.median(square[on_ring])))
    least = max(least, pale + SEEN_LEAST if pale else 0.0)

    def darkest(there: BoolArray) -> FloatArray:
        most = np.zeros(_SECTORS)
        np.maximum.at(most, sector[there], square[there])
        return most

    outside = (darkest((away >= _RING_MM) & (away < 2 * _RING_MM)) > least)[sector]
    inside = (darkest((away <= -_RING_MM) & (away > -2 * _RING_MM)) > least)[sector]
    touched = outside & ~inside & (away > _RING_LINE_MM)  # ink that only comes near keeps what is its own
    darker = square > float(np.quantile(darkest(np.abs(away) < _RING_LINE_MM), _UNCOVERED)) + _DARKER
    square[on_ring & ~(outside & inside) & ~touched & ~darker] = 0.0


def ring_middle(dark: Darkness, x_mm: float, y_mm: float, radius_mm: float) -> tuple[float, float]:
    """Where the middle of a printed ring is, mm: where it should be, or a little aside.

    There all of it is dark; where it lies on a letter half of it may be darker.
    """
    turns = np.linspace(0, 2 * np.pi, 2 * _SECTORS, endpoint=False)
    most = round(_ASIDE_MM * dark.px_mm)
    aside = np.arange(-most, most + 1) / dark.px_mm
    dx, dy = (one.ravel() for one in np.meshgrid(aside, aside))
    x = (x_mm + dx[:, None] + radius_mm * np.cos(turns)) * dark.px_mm
    y = (y_mm + dy[:, None] + radius_mm * np.sin(turns)) * dark.px_mm
    tall, wide = dark.values.shape
    around = dark.values[y.astype(int).clip(0, tall - 1), x.astype(int).clip(0, wide - 1)]
    on_it = np.partition(around, _SECTORS, axis=1)[:, :_SECTORS].mean(1)
    best = int((on_it - 1e-3 * np.hypot(dx, dy)).argmax())
    return x_mm + float(dx[best]), y_mm + float(dy[best])


def without_spot(dark: Darkness, left_mm: float, top_mm: float, right_mm: float, bottom_mm: float) -> None:
    """Take everything out of a small area."""
    low, top, high, bottom = (round(one * dark.px_mm) for one in (left_mm, top_mm, right_mm, bottom_mm))
    dark.values[max(top, 0) : max(bottom, 0), max(low, 0) : max(high, 0)] = 0.0


def without_word(dark: Darkness, left_mm: float, top_mm: float, right_mm: float, bottom_mm: float) -> None:
    """Take print out of a small area, but no stroke through it, and nothing that hangs on by a line.

    What hangs on by a line much paler than itself hangs on by nothing.
    """
    room = round(_THROUGH_MM * dark.px_mm)
    low, top, high, bottom = (round(one * dark.px_mm) for one in (left_mm, top_mm, right_mm, bottom_mm))
    corner = max(low - room, 0), max(top - room, 0)
    part = dark.values[corner[1] : max(bottom + room, 0), corner[0] : max(high + room, 0)]
    if not part.size:
        return
    (x0, y0), (x1, y1) = (np.clip(np.subtract(one, corner), 0, None) for one in ((low, top), (high, bottom)))
    least = max(SEEN_LEAST, NOISES * dark.noise, _WORD_PALER * float(part[y0:y1, x0:x1].max(initial=0.0)))
    count, pieces = cv2.connectedComponents((part > least).astype(np.uint8), connectivity=8)
    here = pieces[y0:y1, x0:x1]
    inside, of_all = (np.bincount(one.ravel(), minlength=count) for one in (here, pieces))
    taken = inside > of_all / 2
    taken[0] = False
    edge = round(_WORD_EDGE_MM * dark.px_mm)
    area = np.zeros(part.shape, dtype=np.bool_)
    area[max(y0 - edge, 0) : y1 + edge, max(x0 - edge, 0) : x1 + edge] = True
    size, near = 2 * edge + 1, where_kept(np.asarray(pieces), taken)
    part[area & (cv2.dilate(near.astype(np.uint8), np.ones((size, size))) > 0)] = 0.0


def _around(values: FloatArray, x: float, y: float, size: int) -> tuple[FloatArray, tuple[int, int]]:
    """A view of the square around a place, as far as it lies on the page, and its corner."""
    low, top = max(round(x) - size, 0), max(round(y) - size, 0)
    return values[top : max(round(y) + size + 1, 0), low : max(round(x) + size + 1, 0)], (low, top)
