"""How dark a straight page is, and its printed lines taken out of it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy.ndimage import gaussian_filter1d, percentile_filter

from firstloop.core.curves import BoolArray, FloatArray, IntArray
from firstloop.core.scanning.smooth import off_smooth_way

_PAPER_MM = 4.0  # what is darker over less than this is no paper
_COARSE = 4
_SOFT_MM = 0.13  # finer is the paper's grain
_BAND_MM = 1.3  # about a line that is looked at
_OFF_MM = 0.5  # from where it should be, a line may be
_LINE_MOST_MM = 1.0  # as thick as a printed line is at most, blurred
_SEEN_LEAST, _HALF = 0.07, 0.45
_SMOOTH_MM, _ALIKE_MM = 9.0, 30.0  # so far its way is smooth; so far it is printed alike
_THICKER_PX, _ASIDE_PX, _DARKER = 1.6, 1.7, 0.13  # than the line about it: so much more is ink on it
_NOISES = 4.0
_ALONG_MM, _BAR_MM = 0.4, 1.4  # a bar along a line: looked for over, and its length
_MORE, _MORE_MM = 1.3, 0.15  # how much more there is: times what is usual, and as black of this thickness
_BENDS, _ON_WAY_PX, _ON_WAY = 3, 1.2, 0.8
_LONG_MM = 40.0
_ABOUT_MM, _CLEAR_MM = 4.0, 8.0  # nothing is written so near; over so much at least
_WINDOW_MM, _ALL_ALONG = 3.2, 0.7  # the longest dash and its gap; in so many windows
_MOSTLY = 80  # per cent of a line are no darker: a line that is printed over is paler there
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
    light = values[values < 0.1]
    noise = 1.48 * float(np.median(light)) if len(light) else 0.0
    return Darkness(np.asarray(values, dtype=np.float64), px_mm, noise)


def without_line(
    dark: Darkness, y_mm: float, left_mm: float, right_mm: float, *, is_even: bool = False
) -> None:
    """Take a printed line out of a page where no ink crosses it; what crosses it stays whole.

    In each column the line is a short run of dark, as thick and as dark as in the columns about it: a run
    that is thicker, darker or lies aside is ink.

    Parameters
    ----------
    is_even : bool
        Whether the line is printed alike all along, so that more of it somewhere is ink.
    """
    px_mm, values = dark.px_mm, dark.values
    reach = round(_BAND_MM * px_mm)
    middle = round(y_mm * px_mm - 0.5)
    top, bottom = middle - reach, middle + reach + 1
    low, high = max(round(left_mm * px_mm), 0), min(round(right_mm * px_mm), values.shape[1])
    if top < 0 or bottom > values.shape[0] or high - low < 2 * px_mm:
        return
    band = values[top:bottom, low:high]
    seen = max(_SEEN_LEAST, _NOISES * dark.noise)
    at = _darkest(band, round(_OFF_MM * px_mm))
    peak = band[at, np.arange(band.shape[1])]
    runs = _runs(band, np.maximum(seen, _HALF * peak), at)
    like = runs.there & (runs.thick <= _LINE_MOST_MM * px_mm)
    clear = _clear(values, middle, low, high, px_mm)
    if like.sum() < px_mm or not _is_a_line(runs, like, clear, px_mm):
        return
    usual = _about(runs, like, (_ALIKE_MM if is_even else _SMOOTH_MM) * px_mm, _SMOOTH_MM * px_mm)
    line = runs.there & (runs.thick <= usual.thick + _THICKER_PX)
    line &= (np.abs(runs.middle - usual.middle) <= _ASIDE_PX) & (runs.peak <= usual.peak + _DARKER)
    if is_even:
        line &= ~_has_ink_along(band, runs, line, px_mm)
    skirt = _runs(band, np.full(band.shape[1], seen / 2), at)
    rows = np.arange(len(band))[:, None]
    near = np.abs(rows - usual.middle) <= usual.thick + 2
    band[(rows >= skirt.top) & (rows <= skirt.bottom) & near & line] = 0.0


def _has_ink_along(band: FloatArray, runs: _Runs, line: BoolArray, px_mm: float) -> BoolArray:
    """Where a bar was drawn along a line, as on f and t: there is more of it over some length than about it.

    In no single column it can be told from the line.
    """
    columns = np.flatnonzero(line)
    if not len(columns):
        return np.zeros_like(line)
    rows = np.arange(len(band))[:, None]
    on_it = (rows >= runs.top) & (rows <= runs.bottom)
    much = np.where(on_it, band, 0.0).sum(0)
    some = max(3, min(round(_ALIKE_MM * px_mm), len(columns)) | 1)
    usual = np.interp(np.arange(len(line)), columns, percentile_filter(much[line], 50, some, mode="nearest"))
    sigma = _ALONG_MM * px_mm
    weight = np.maximum(gaussian_filter1d(line.astype(np.float64), sigma), 1e-3)
    mean = gaussian_filter1d(np.where(line, much, 0.0), sigma) / weight
    more = (mean > np.maximum(_MORE * usual, usual + _MORE_MM * px_mm)).astype(np.uint8)
    shortest = np.ones((1, max(1, round(_BAR_MM * px_mm))), np.uint8)
    return np.asarray(cv2.morphologyEx(more[None], cv2.MORPH_OPEN, shortest)[0] > 0)


def _darkest(band: FloatArray, off: int) -> IntArray:
    """The darkest row of every column near the middle of a band."""
    first = len(band) // 2 - off
    return np.asarray(band[first : first + 2 * off + 1].argmax(0) + first)


@dataclass(frozen=True, eq=False)
class _Runs:
    """Of every column the run of dark that lies nearest the line; arrays of shape (columns,)."""

    there: BoolArray
    top: IntArray
    bottom: IntArray
    peak: FloatArray

    @property
    def thick(self) -> FloatArray:
        return np.asarray(self.bottom - self.top + 1, dtype=np.float64)

    @property
    def middle(self) -> FloatArray:
        return np.asarray((self.top + self.bottom) / 2)


def _runs(band: FloatArray, limit: FloatArray, at: IntArray) -> _Runs:
    """The run of every column that holds a row of it, of what is darker than its limit."""
    is_dark = band > limit
    up, down = np.zeros(band.shape, dtype=np.int64), np.zeros(band.shape, dtype=np.int64)
    for r in range(len(band)):
        up[r] = is_dark[r] * ((up[r - 1] if r else 0) + 1)
        down[-r - 1] = is_dark[-r - 1] * ((down[-r] if r else 0) + 1)
    columns = np.arange(band.shape[1])
    top, bottom = at - up[at, columns] + 1, at + down[at, columns] - 1
    return _Runs(is_dark[at, columns], top, bottom, band[at, columns])


@dataclass(frozen=True, eq=False)
class _Usual:
    """What a line is like about each column."""

    thick: FloatArray
    middle: FloatArray
    peak: FloatArray


def _clear(values: FloatArray, middle: int, low: int, high: int, px_mm: float) -> BoolArray:
    """Columns along a line with nothing written near: none where the next line is as near."""
    reach, off = round(_ABOUT_MM * px_mm), round(_BAND_MM * px_mm)
    beside = slice(max(middle - reach, 0), middle - off), slice(middle + off, middle + reach)
    written = np.any([(values[rows, low:high] > _SEEN_LEAST).any(axis=0) for rows in beside], axis=0)
    near = np.ones((1, 2 * reach + 1), np.uint8)
    spread: IntArray = np.asarray(cv2.dilate(written[None].astype(np.uint8), near), dtype=np.int64)
    return np.asarray(spread[0] == 0)


def _is_a_line(runs: _Runs, like: BoolArray, clear: BoolArray, px_mm: float) -> bool:
    """Whether a line is there at all: on one smooth way, all along, or wherever nothing is written.

    Not so the bars of a row of t. A copy may have lost it, or break it about what is written.
    """
    columns = np.flatnonzero(like)
    on_way = off_smooth_way(columns.astype(np.float64), runs.middle[like], _BENDS, _ON_WAY_PX) <= _ON_WAY_PX
    window = max(1, round(_WINDOW_MM * px_mm))
    windows = len(np.unique(columns[on_way] // window)) / max(1, len(like) // window)
    is_long = len(like) > _LONG_MM * px_mm  # a short way is smooth for ink too
    if (is_long and on_way.mean() >= _ON_WAY) or windows >= _ALL_ALONG:
        return True
    return bool(clear.sum() > _CLEAR_MM * px_mm and clear[columns[on_way]].sum() >= _ALL_ALONG * clear.sum())


def _about(runs: _Runs, like: BoolArray, alike_px: float, smooth_px: float) -> _Usual:
    """What is usual among the columns about that look like a line, carried over to the others.

    It is printed alike over so much; its way is smooth over so much.
    """
    columns = np.flatnonzero(like)
    every = np.arange(len(like))

    def smooth(values: FloatArray, share: int, over_px: float) -> FloatArray:
        some = max(3, min(round(over_px), len(columns)) | 1)
        return np.asarray(np.interp(every, columns, percentile_filter(values, share, some, mode="nearest")))

    thick, middle, peak = (one[like].astype(np.float64) for one in (runs.thick, runs.middle, runs.peak))
    return _Usual(smooth(thick, 50, alike_px), smooth(middle, 50, smooth_px), smooth(peak, _MOSTLY, alike_px))


def without_upright(dark: Darkness, x_mm: float, top_mm: float, bottom_mm: float) -> None:
    """As :func:`without_line`, for a line down the page."""
    turned = Darkness(dark.values.T, dark.px_mm, dark.noise)  # a view: what is taken out there is out here
    without_line(turned, x_mm, top_mm, bottom_mm)


def without_ring(dark: Darkness, x_mm: float, y_mm: float, radius_mm: float, pale: float = 0.0) -> None:
    """Take a printed ring out of a page where no ink crosses it.

    Ink that crosses it goes on inside and outside: there the ring stays. What is no darker than `pale` is
    print.
    """
    px_mm, size = dark.px_mm, round((radius_mm + _BAND_MM) * dark.px_mm)
    x_mm, y_mm = _where_it_is(dark, x_mm, y_mm, radius_mm)
    square, (low, top) = _around(dark.values, x_mm * px_mm, y_mm * px_mm, size)
    across, down = np.meshgrid(
        np.arange(square.shape[1]) + low + 0.5 - x_mm * px_mm,
        np.arange(square.shape[0]) + top + 0.5 - y_mm * px_mm,
    )
    away = np.hypot(across, down) / px_mm - radius_mm
    sector = np.round(np.arctan2(down, across) / (2 * np.pi) * _SECTORS).astype(int) % _SECTORS
    on_ring = np.abs(away) < _RING_MM
    if not on_ring.any():
        return
    least = max(_SEEN_LEAST, _NOISES * dark.noise, 0.4 * float(np.median(square[on_ring])))
    least = max(least, pale + _SEEN_LEAST if pale else 0.0)

    def has_ink(there: BoolArray) -> BoolArray:
        most = np.zeros(_SECTORS)
        np.maximum.at(most, sector[there], square[there])
        return np.asarray((most > least)[sector])

    outside = has_ink((away >= _RING_MM) & (away < 2 * _RING_MM))
    inside = has_ink((away <= -_RING_MM) & (away > -2 * _RING_MM))
    touched = outside & ~inside & (away > _RING_LINE_MM)  # ink that only comes near keeps what is its own
    square[on_ring & ~(outside & inside) & ~touched] = 0.0


def _where_it_is(dark: Darkness, x_mm: float, y_mm: float, radius_mm: float) -> tuple[float, float]:
    """The middle of a printed ring that lies where it should, or a little aside."""
    turns = np.linspace(0, 2 * np.pi, 2 * _SECTORS, endpoint=False)
    aside = np.arange(-_ASIDE_MM, _ASIDE_MM + 1e-9, 1 / dark.px_mm)
    dx, dy = (one.ravel() for one in np.meshgrid(aside, aside))
    x = (x_mm + dx[:, None] + radius_mm * np.cos(turns)) * dark.px_mm
    y = (y_mm + dy[:, None] + radius_mm * np.sin(turns)) * dark.px_mm
    tall, wide = dark.values.shape
    on_it = dark.values[y.astype(int).clip(0, tall - 1), x.astype(int).clip(0, wide - 1)].mean(1)
    best = int((on_it - 1e-3 * np.hypot(dx, dy)).argmax())
    return x_mm + float(dx[best]), y_mm + float(dy[best])


def without_spot(dark: Darkness, left_mm: float, top_mm: float, right_mm: float, bottom_mm: float) -> None:
    """Take everything out of a small area."""
    low, top, high, bottom = (round(one * dark.px_mm) for one in (left_mm, top_mm, right_mm, bottom_mm))
    dark.values[max(top, 0) : max(bottom, 0), max(low, 0) : max(high, 0)] = 0.0


def _around(values: FloatArray, x: float, y: float, size: int) -> tuple[FloatArray, tuple[int, int]]:
    """A view of the square around a place, as far as it lies on the page, and its corner."""
    low, top = max(round(x) - size, 0), max(round(y) - size, 0)
    return values[top : max(round(y) + size + 1, 0), low : max(round(x) + size + 1, 0)], (low, top)
