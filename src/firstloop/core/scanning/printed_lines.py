"""Printed straight lines taken out of a page where no ink is on them; ink on one stays whole.

In each column of a line (in each row of one down the page) it is a short run of dark. How thick, how dark and
how much it is usually is learnt from the line itself, or from all lines that are printed alike: a run that is
thicker, darker or lies aside is ink, and so is more of it over some length.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from scipy.ndimage import gaussian_filter1d, percentile_filter

from firstloop.core.curves import BoolArray, FloatArray, IntArray, true_runs
from firstloop.core.scanning.darkness import NOISES, SEEN_LEAST, Darkness
from firstloop.core.scanning.smooth import off_smooth_way

_BAND_MM = 1.3  # about a line that is looked at
_OFF_MM = 0.5  # from where it should be, a line may be
_LINE_MOST_MM = 1.0  # as thick as a printed line is at most, blurred
_HALF = 0.45
_SMOOTH_MM, _ALIKE_MM = 9.0, 30.0  # so far its way is smooth; so far it is printed alike
_THICKER_PX, _ASIDE_PX, _DARKER = 1.6, 1.7, 0.13  # than the line about it: so much more is ink on it
_AS_DARK, _LIGHT_PX = 0.05, 2.0  # no more than the line about it is line; so far beside it ink has ended
_ALONG_MM, _BAR_MM = 0.4, 1.4  # a bar along a line: looked for over, and its length
_MORE, _MORE_MM = 1.3, 0.15  # how much more there is: times what is usual, and as black of this thickness
_BENDS, _ON_WAY_PX, _ON_WAY = 3, 1.2, 0.8
_LONG_MM = 40.0
_ACROSS_SHARE = 0.8  # of what is so far from its way: no more than usual
_NEARLY_ALL, _RIDGE_PX = 25, 2  # per cent of a short line that ink leaves at least; so far off it is its own
_ABOUT_MM, _CLEAR_MM = 4.0, 8.0  # nothing is written so near; over so much at least
_WINDOW_MM, _ALL_ALONG, _HERE_AND_THERE = 3.2, 0.7, 0.35  # the longest dash and its gap; in so many windows
_SEEN = 0.6  # of the lines that are printed alike: all are, or none of what a copy has lost
_UNLIKE = 1.3  # lines that are printed alike differ by no more: the lens is not as sharp everywhere
_MEASURES = {"thick": (50, 1.5), "peak": (80, 1.4), "much": (50, 2.0)}
"""Of a line: per cent that are no more (printed over it is paler), and times that of two on one another."""
_DASH_MM, _DASHES_LEAST, _EVEN = (0.5, 1.7), 8, 1.5  # as long as dashes are, all alike; a copy breaks anyhow
_LONGER = 1.9  # times a dash: it is no dash any more
_STEM_MM = 0.9  # as wide as a stem where it crosses
_PLACES = np.arange(-8, 8.5, 0.5)
"""Pixels from the way of a line: no line is as thick."""

Spans = tuple[tuple[float, float], ...]
_PLAIN, _DOUBLE, _TRACED = _KINDS = (0, 1, 2)


@dataclass(frozen=True)
class PrintedLine:
    """A straight line on a page, mm.

    Parameters
    ----------
    at, start, end : float
        Where it is across, and where it begins and ends along.
    double : tuple of (start, end)
        Where another line is printed on it, as the edge of a box.
    traced : tuple of (start, end)
        Where a letter to trace is printed: more of the line there may be that.
    """

    at: float
    start: float
    end: float
    double: Spans = ()
    traced: Spans = ()


@dataclass(frozen=True, eq=False)
class _Runs:
    """Of every column the run of dark that lies nearest the line; arrays of shape (columns,)."""

    there: BoolArray
    top: IntArray
    bottom: IntArray
    peak: FloatArray
    much: FloatArray

    @property
    def thick(self) -> FloatArray:
        return np.asarray(self.bottom - self.top + 1, dtype=np.float64)

    @property
    def middle(self) -> FloatArray:
        return np.asarray((self.top + self.bottom) / 2)


@dataclass(frozen=True, eq=False)
class _Look:
    """A line as it is on the page.

    Parameters
    ----------
    band : array, shape (rows, columns)
        A view of the darkness about it.
    at : array, shape (columns,)
        Its darkest row in each column.
    like : array, shape (columns,)
        Where what is there looks like a line.
    kind : array, shape (columns,)
        What is printed there: plain, double or traced.
    """

    band: FloatArray
    at: IntArray
    runs: _Runs
    like: BoolArray
    kind: IntArray


@dataclass(frozen=True, eq=False)
class _Told:
    """Of every column of a line its way, how thick it usually is, and whether it is line alone, or a bar."""

    look: _Look
    way: FloatArray
    thick: FloatArray
    line: BoolArray
    is_bar: BoolArray

    @cached_property
    def off(self) -> FloatArray:
        """How many rows below its way each place of its band is."""
        return np.asarray(np.arange(len(self.look.band))[:, None] - self.way)


def without_lines(
    dark: Darkness, lines: Sequence[PrintedLine], *, upright: bool = False, pale: float = 0.0
) -> None:
    """Take out lines that are printed alike, across the page or down it.

    Parameters
    ----------
    pale : float
        How dark print to trace is, 0 where it is not known: what is darker, and than the line, is ink.
    """
    if upright:
        dark = Darkness(dark.values.T, dark.px_mm, dark.noise)  # a view: what is taken out there is out here
    looks = [one for line in lines if (one := _looked_at(dark, line)) is not None]
    if not looks or len(looks) < _SEEN * len(lines):
        return  # a copy has lost them all: what looks like one is a stem, or a row of feet
    of_all = {one: {kind: _of_all(looks, one, kind) for kind in _KINDS} for one in _MEASURES}
    usuals = [{one: _usual(look, one, of_all[one], dark.px_mm) for one in _MEASURES} for look in looks]
    for look, usual in zip(looks, usuals, strict=True) if pale else ():
        _as_dark_as_print(look, usual["peak"], pale)
    dash_px = _dash(looks, dark.px_mm)
    every = [_told(look, usual, dash_px, dark.px_mm) for look, usual in zip(looks, usuals, strict=True)]
    for told, across in zip(every, _profiles(every, dark.px_mm), strict=True):
        _take_out(told, across, dark)


def _of_all(looks: Sequence[_Look], name: str, kind: int) -> tuple[float, int]:
    """What is usual of all lines that are printed alike, and the columns that was learnt from."""
    every = np.concatenate([getattr(one.runs, name)[one.like & (one.kind == kind)] for one in looks])
    return float(np.percentile(every, _MEASURES[name][0])) if len(every) else 0.0, len(every)


def _usual(look: _Look, name: str, of_all: Mapping[int, tuple[float, int]], px_mm: float) -> FloatArray:
    """What is usual of a line in each column: that of the line about it, and not far more than that of all.

    A row of letters may cover most of a line, and a copy may have lost it there.
    """
    share, double = _MEASURES[name]
    own = np.asarray(getattr(look.runs, name), dtype=np.float64)
    out = np.zeros(len(own))
    plain, columns = of_all[_PLAIN]
    for kind in _KINDS:
        here = look.kind == kind
        if not here.any():
            continue
        over_mm = _SMOOTH_MM if kind == _TRACED else _ALIKE_MM
        out[here] = _smoothed(own[here], look.like[here], share, over_mm * px_mm)
        if kind != _TRACED:
            out[here] = np.minimum(out[here], _UNLIKE * of_all[kind][0])
        if kind == _DOUBLE and columns > _CLEAR_MM * px_mm:
            out[here] = np.minimum(out[here], double * plain)
    return out


def _as_dark_as_print(look: _Look, usual: FloatArray, pale: float) -> None:
    """Where a letter is to be traced a line is usually no darker than the letter, or than it is elsewhere.

    Where all of a row was traced, what is usual there is the pencil.
    """
    plain = look.runs.peak[look.like & (look.kind == _PLAIN)]
    if len(plain):
        traced, line = look.kind == _TRACED, float(np.percentile(plain, _MEASURES["peak"][0]))
        usual[traced] = np.minimum(usual[traced], _UNLIKE * max(pale, line))


def _dash(looks: Sequence[_Look], px_mm: float) -> float:
    """The usual length of a dash, pixels; infinite for lines that are none."""
    runs = [run for one in looks for run in true_runs(one.like & (one.kind == _PLAIN))]
    lengths = [end - begin for begin, end in runs]
    if len(lengths) < _DASHES_LEAST:
        return np.inf
    usual, longer = np.percentile(lengths, (50, 75))
    shortest, longest = (one * px_mm for one in _DASH_MM)
    return float(usual) if shortest < usual < longest and longer < _EVEN * usual else np.inf


def _looked_at(dark: Darkness, line: PrintedLine) -> _Look | None:
    """A line where it is on the page; None where none is to be seen."""
    px_mm, values = dark.px_mm, dark.values
    reach = round(_BAND_MM * px_mm)
    middle = round(line.at * px_mm - 0.5)
    top, bottom = middle - reach, middle + reach + 1
    low, high = max(round(line.start * px_mm), 0), min(round(line.end * px_mm), values.shape[1])
    if top < 0 or bottom > values.shape[0] or high - low < 2 * px_mm:
        return None
    band = values[top:bottom, low:high]
    at = _darkest(band, round(_OFF_MM * px_mm))
    if high - low <= _LONG_MM * px_mm and (ridge := _ridge(band, round(_OFF_MM * px_mm))) is not None:
        at = _darkest(band, _RIDGE_PX, ridge)
    peak = band[at, np.arange(band.shape[1])]
    runs = _runs(band, np.maximum(max(SEEN_LEAST, NOISES * dark.noise), _HALF * peak), at)
    like = runs.there & (runs.thick <= _LINE_MOST_MM * px_mm)
    clear = _clear(values, middle, low, high, px_mm)
    if like.sum() < px_mm or not _is_a_line(runs, like, clear, px_mm):
        return None
    x = (np.arange(low, high) + 0.5) / px_mm
    kind = np.full(len(x), _PLAIN)
    for name, spans in ((_DOUBLE, line.double), (_TRACED, line.traced)):
        for start, end in spans:
            kind[(x > start) & (x < end)] = name
    return _Look(band, at, runs, like, kind)


def _told(look: _Look, usual: dict[str, FloatArray], dash_px: float, px_mm: float) -> _Told:
    """Where a line is nothing but itself, and where a bar was drawn along it."""
    runs = look.runs
    way = _smoothed(runs.middle, look.like, 50, _SMOOTH_MM * px_mm)
    on_way = runs.there & (np.abs(runs.middle - way) <= _ASIDE_PX)
    line = on_way & (runs.thick <= usual["thick"] + _THICKER_PX) & (runs.peak <= usual["peak"] + _DARKER)
    plain = on_way & look.like & (look.kind == _PLAIN)
    is_bar = _is_no_dash(plain, runs.there, dash_px, px_mm)
    line &= ~is_bar
    is_bar |= (look.kind != _TRACED) & _has_ink_along(runs.much, usual["much"], line, px_mm)
    return _Told(look, way, usual["thick"], line & ~is_bar, is_bar)


def _take_out(told: _Told, across: FloatArray | None, dark: Darkness) -> None:
    """Take a line out of its band, but for what is more than is usual there.

    Parameters
    ----------
    across : array, optional
        As of :func:`_profiles`.
    """
    look, band = told.look, told.look.band
    skirt = _runs(band, np.full(band.shape[1], max(SEEN_LEAST, NOISES * dark.noise) / 2), look.at)
    rows = np.arange(len(band))[:, None]
    near = np.abs(rows - told.way) <= told.thick + 2
    out = (rows >= skirt.top) & (rows <= skirt.bottom) & near & told.line
    if across is not None:
        out |= _beside_ink(told, across, dark) & ~told.is_bar & (look.kind != _TRACED)
    band[out] = 0.0


def _beside_ink(told: _Told, across: FloatArray, dark: Darkness) -> BoolArray:
    """Where the line is beside ink that ends on it or near it.

    It is taken from either edge on, as far as it is no darker than it usually is so far off its way. Ink
    that goes through it is there on both sides.
    """
    band = told.look.band
    half = float(np.abs(_PLACES[across > SEEN_LEAST]).max(initial=0.0)) + 1.0
    if half > _LINE_MOST_MM / 2 * dark.px_mm + 1.5:  # thicker than a line: letters in a row
        return np.zeros(band.shape, dtype=np.bool_)
    is_line = band <= np.interp(told.off, _PLACES, across, 0.0, 0.0) + _AS_DARK + NOISES * dark.noise
    elsewhere = np.abs(told.off) > half + _LIGHT_PX  # light need be only what is next to the line
    from_above = np.logical_and.accumulate(is_line | (elsewhere & (told.off < 0)), axis=0)
    from_below = np.logical_and.accumulate((is_line | (elsewhere & (told.off > 0)))[::-1], axis=0)[::-1]
    return np.asarray((from_above | from_below) & (np.abs(told.off) <= half) & ~told.line)


def _has_ink_along(much: FloatArray, usual: FloatArray, line: BoolArray, px_mm: float) -> BoolArray:
    """Where a bar was drawn along a line, as on f and t: there is more of it over some length than is usual.

    In no single column it can be told from the line.
    """
    sigma = _ALONG_MM * px_mm
    weight = np.maximum(gaussian_filter1d(line.astype(np.float64), sigma), 1e-3)
    mean = gaussian_filter1d(np.where(line, much, 0.0), sigma) / weight
    more = (mean > np.maximum(_MORE * usual, usual + _MORE_MM * px_mm)).astype(np.uint8)
    shortest = np.ones((1, max(1, round(_BAR_MM * px_mm))), np.uint8)
    return np.asarray(cv2.morphologyEx(more[None], cv2.MORPH_OPEN, shortest)[0] > 0)


def _is_no_dash(straight: BoolArray, there: BoolArray, dash_px: float, px_mm: float) -> BoolArray:
    """Where a dashed line goes on for longer than a dash: there is a bar along it, which a stem may cross."""
    bridge = np.ones((1, round(_STEM_MM * px_mm)), np.uint8)
    whole = cv2.morphologyEx(straight[None].astype(np.uint8), cv2.MORPH_CLOSE, bridge)[0] > 0
    whole &= there
    longer = np.zeros_like(straight)
    for begin, end in true_runs(whole):
        longer[begin:end] = end - begin > _LONGER * dash_px
    return longer


def _ridge(band: FloatArray, off: int) -> int | None:
    """The row near the middle of a band along which it is darker than beside it, nearly everywhere.

    A stem beside a short line, as of i in its box, is darker than the line and seldom as long.
    """
    first = len(band) // 2 - off
    faint = np.percentile(band[first - 1 : first + 2 * off + 2], _NEARLY_ALL, axis=1)
    here = faint[1:-1]
    ridges = np.flatnonzero((here > SEEN_LEAST) & (here >= faint[:-2]) & (here > faint[2:]))
    return int(ridges[np.abs(ridges - off).argmin()] + first) if len(ridges) else None


def _profiles(alike: Sequence[_Told], px_mm: float) -> list[FloatArray | None]:
    """How dark each line usually is at :data:`_PLACES` across; None where too little is known of that.

    The edge of a box may have a stem beside it all along: it is as dark on either side as on the paler one,
    and no darker than those that are printed alike.
    """
    own = [_profile(told) if told.line.sum() >= px_mm else None for told in alike]
    enough = _CLEAR_MM * px_mm
    if any(len(told.line) > _LONG_MM * px_mm for told in alike):
        return [one if told.line.sum() >= enough else None for told, one in zip(alike, own, strict=True)]
    paler = [None if one is None else np.minimum(one, one[::-1]) for one in own]
    seen = [one for one in paler if one is not None]
    if not seen or sum(told.line.sum() for told in alike) < enough:
        return [None] * len(alike)
    of_all = np.median(seen, axis=0)
    return [of_all if one is None else np.minimum(one, _UNLIKE * of_all) for one in paler]


def _profile(told: _Told) -> FloatArray:
    """How dark a line usually is across where it is nothing but itself."""
    seen, place = told.look.band[:, told.line].ravel(), np.rint(2 * told.off[:, told.line]).ravel() / 2
    order = np.argsort(place + seen / 4)  # by place, then by darkness: places are half a pixel apart
    seen, place = seen[order], place[order]
    first, after = (np.searchsorted(place, _PLACES, side) for side in ("left", "right"))
    most = np.interp(first + _ACROSS_SHARE * (after - first - 1), np.arange(len(seen)), seen)
    return np.where(after > first, most, 0.0)


def _darkest(band: FloatArray, off: int, middle: int | None = None) -> IntArray:
    """The darkest row of every column so near the middle of a band, or a row of it."""
    first = (len(band) // 2 if middle is None else middle) - off
    return np.asarray(band[first : first + 2 * off + 1].argmax(0) + first)


def _runs(band: FloatArray, limit: FloatArray, at: IntArray) -> _Runs:
    """The run of every column that holds a row of it, of what is darker than its limit."""
    is_dark = band > limit
    up, down = np.zeros(band.shape, dtype=np.int64), np.zeros(band.shape, dtype=np.int64)
    for r in range(len(band)):
        up[r] = is_dark[r] * ((up[r - 1] if r else 0) + 1)
        down[-r - 1] = is_dark[-r - 1] * ((down[-r] if r else 0) + 1)
    columns = np.arange(band.shape[1])
    top, bottom = at - up[at, columns] + 1, at + down[at, columns] - 1
    rows = np.arange(len(band))[:, None]
    much = np.where((rows >= top) & (rows <= bottom), band, 0.0).sum(0)
    return _Runs(is_dark[at, columns], top, bottom, band[at, columns], np.asarray(much))


def _clear(values: FloatArray, middle: int, low: int, high: int, px_mm: float) -> BoolArray:
    """Columns along a line with nothing written near: none where the next line is as near."""
    reach, off = round(_ABOUT_MM * px_mm), round(_BAND_MM * px_mm)
    beside = slice(max(middle - reach, 0), middle - off), slice(middle + off, middle + reach)
    written = np.any([(values[rows, low:high] > SEEN_LEAST).any(axis=0) for rows in beside], axis=0)
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
    if (is_long and on_way.mean() >= _ON_WAY and windows >= _HERE_AND_THERE) or windows >= _ALL_ALONG:
        return True
    return bool(clear.sum() > _CLEAR_MM * px_mm and clear[columns[on_way]].sum() >= _ALL_ALONG * clear.sum())


def _smoothed(values: FloatArray, like: BoolArray, share: int, over_px: float) -> FloatArray:
    """What is usual among the columns about that look like a line, carried over to the others.

    Parameters
    ----------
    share : int
        Per cent of those that are no more.
    over_px : float
        So far about each column.
    """
    columns = np.flatnonzero(like)
    if not len(columns):
        return np.zeros(len(values))
    some = max(3, min(round(over_px), len(columns)) | 1)
    smooth = percentile_filter(values[columns].astype(np.float64), share, some, mode="nearest")
    return np.asarray(np.interp(np.arange(len(values)), columns, smooth))
