"""Printed straight lines taken out of a page where no ink is on them; ink on one stays whole.

In each column of a line (in each row of one down the page) it is a short run of dark. How thick, how dark and
how much it is usually is learnt from the line itself, or from all lines that are printed alike: a run that is
thicker, darker or lies aside is ink, and so is more of it over some length. Of a dashed line it is learnt
where its dashes are: what is between two of them is ink.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

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
_EDGE_PX = 1.0  # beyond the middle half of a printed line, and it is no line any more
_ALONG_MM, _BAR_MM = 0.4, 1.4  # a bar along a line: looked for over, and its length
_MORE, _MORE_MM = 1.3, 0.15  # how much more there is: times what is usual, and as black of this thickness
_BENDS, _ON_WAY_PX, _ON_WAY = 3, 1.2, 0.8
_LONG_MM = 40.0
_ABOUT_MM, _CLEAR_MM = 4.0, 8.0  # nothing is written so near; over so much at least
_WINDOW_MM, _ALL_ALONG, _HERE_AND_THERE = 3.2, 0.7, 0.3  # the longest dash and its gap; in so many windows
_UNLIKE = 1.3  # lines that are printed alike differ by no more: the lens is not as sharp everywhere
_MEASURES = {"thick": (50, 1.5), "peak": (80, 1.4), "much": (50, 2.0)}
"""Of a line: per cent that are no more (printed over it is paler), and times that of two on one another."""
_PERIODS_MM = (2.0, 3.2)  # from dash to dash, as sheets are printed
_DASH_LEAST, _DASH_MOST = 0.2, 0.85  # of the period
_DASHES_LEAST, _DASHED_SHARE = 8, 0.5  # so many, and so much of all that looks like a line
_IN_STEP, _IN_STEP_MM = 0.3, 6.0  # solid lines: 0; three fifths dark: 0.5
_DASH_EDGE_PX = 1.5  # as far as its ends are blurred
_BAR_PENS, _BAR_PX = 1.4, 3  # as thick as a bar is at most; so near to a dash it shows
_JOINT_PENS, _REACH_MOST_PX = 1.4, 24  # as wide as ink is where strokes meet; so far paper is looked for
_SKIRT_PX, _SKIRT = 2.0, 25  # beside a line; per cent that are no darker there
_MORE_INK, _INK = 0.15, 0.1  # darkness: beside a line than is usual there; of the palest ink

Spans = tuple[tuple[float, float], ...]
_PLAIN, _DOUBLE, _TRACED = 0, 1, 2


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
    low : int
        Its first column, on the page.
    at : array, shape (columns,)
        Its darkest row in each column.
    like : array, shape (columns,)
        Where what is there looks like a line.
    kind : array, shape (columns,)
        What is printed there: plain, double or traced.
    """

    band: FloatArray
    low: int
    at: IntArray
    runs: _Runs
    like: BoolArray
    kind: IntArray

    @property
    def span(self) -> tuple[int, int]:
        """Where it begins on the page, and how long it is."""
        return self.low, len(self.at)

    @property
    def is_plain_line(self) -> BoolArray:
        """Where what is there looks like a line that is printed by itself."""
        return np.asarray(self.like & (self.kind == _PLAIN))


def without_lines(
    dark: Darkness, lines: Sequence[PrintedLine], pen_mm: float = math.inf, *, upright: bool = False
) -> None:
    """Take out lines that are printed alike, across the page or down it.

    Parameters
    ----------
    pen_mm : float
        How wide what is written on the page is; infinite where that is not known.
    """
    if upright:
        dark = Darkness(dark.values.T, dark.px_mm, dark.noise)  # a view: what is taken out there is out here
    looks = [one for line in lines if (one := _looked_at(dark, line)) is not None]
    printed = _printed(looks, dark.px_mm)
    looks = [replace(look, like=look.like & there) for look, there in zip(looks, printed, strict=True)]
    of_all = _of_all(looks, dark.px_mm)
    usuals = [{one: _usual(look, of_all, one, dark.px_mm) for one in _MEASURES} for look in looks]
    for look, usual, there in zip(looks, usuals, printed, strict=True):
        _take_out(look, usual, there, pen_mm, dark)


def _of_all(looks: Sequence[_Look], px_mm: float) -> dict[tuple[str, int], tuple[float, bool]]:
    """By measure and kind what is usual of lines that are alike, and whether enough of it was seen."""
    out = {}
    for name, (share, _) in _MEASURES.items():
        for kind in (_PLAIN, _DOUBLE, _TRACED):
            parts = [getattr(one.runs, name)[one.like & (one.kind == kind)] for one in looks]
            every = np.concatenate(parts) if parts else np.zeros(0)
            usual = float(np.percentile(every, share)) if len(every) else 0.0
            out[name, kind] = usual, len(every) > _CLEAR_MM * px_mm
    return out


def _usual(
    look: _Look, of_all: dict[tuple[str, int], tuple[float, bool]], name: str, px_mm: float
) -> FloatArray:
    """What is usual of a line in each column: that of the line about it, and not far more than that of all.

    A row of letters may cover most of a line, and a copy may have lost it there.
    """
    share, double = _MEASURES[name]
    own = np.asarray(getattr(look.runs, name), dtype=np.float64)
    out = np.zeros(len(own))
    most = np.inf
    for kind in (_PLAIN, _DOUBLE, _TRACED):
        here = look.kind == kind
        if not here.any():
            continue
        usual, was_seen = of_all[name, kind]
        if kind == _PLAIN and was_seen:
            most = double * usual
        over_mm = _SMOOTH_MM if kind == _TRACED else _ALIKE_MM
        out[here] = _smoothed(own[here], look.like[here], share, over_mm * px_mm)
        if kind != _TRACED:
            out[here] = np.minimum(out[here], _UNLIKE * usual)
        if kind == _DOUBLE:
            out[here] = np.minimum(out[here], most)
    return out


def _printed(looks: Sequence[_Look], px_mm: float) -> list[BoolArray]:
    """Of every line the columns in which there may be print: where it is dashed, all but the gaps.

    Lines from the same place to the same place are in step, whatever was written on one of them.
    """
    everywhere = [np.ones(len(one.at), dtype=np.bool_) for one in looks]
    dashes = _dashes(looks, px_mm)
    if dashes is None:
        return everywhere
    period, on = dashes
    mates: dict[tuple[int, int], list[BoolArray]] = {}
    for one in looks:
        mates.setdefault(one.span, []).append(one.is_plain_line)
    steps = {span: _step(np.mean(every, axis=0), period, px_mm) for span, every in mates.items()}
    out = []
    for look in looks:
        step = steps[look.span]
        turn = 2 * np.pi * np.arange(len(step)) / period + np.angle(step)
        off = np.abs((turn + np.pi) % (2 * np.pi) - np.pi) * period / (2 * np.pi)
        unsure = (np.abs(step) < _IN_STEP) | (look.kind != _PLAIN)
        out.append(np.asarray(unsure | (off <= on / 2 + _DASH_EDGE_PX)))
    return out


def _dashes(looks: Sequence[_Look], px_mm: float) -> tuple[float, float] | None:
    """From one dash to the next, and how long one is, pixels; None of lines that are not dashed."""
    lengths = [end - begin for one in looks for begin, end in true_runs(one.is_plain_line)]
    on = np.array(lengths, dtype=np.float64)
    best, least = None, _IN_STEP
    for period_mm in _PERIODS_MM:
        period = period_mm * px_mm
        short = on[(on > _DASH_LEAST * period) & (on < _DASH_MOST * period)]
        if len(short) < _DASHES_LEAST or short.sum() < _DASHED_SHARE * on.sum():
            continue
        steps = [np.abs(_step(one.is_plain_line.astype(np.float64), period, px_mm)) for one in looks]
        in_step = float(np.median(np.concatenate(steps)))
        if in_step > least:
            best, least = (period, float(np.median(short))), in_step
    return best


def _step(dark: FloatArray, period: float, px_mm: float) -> FloatArray:
    """How much in step what is dark along a line is with a period, about each column: a complex number, whose
    size is 1 where it comes at one place of the period only, and whose angle tells at which.
    """
    turns = dark * np.exp(-2j * np.pi * np.arange(len(dark)) / period)
    sigma = _IN_STEP_MM * px_mm
    weight = np.maximum(gaussian_filter1d(dark, sigma), 1e-6)
    return np.asarray(
        (gaussian_filter1d(turns.real, sigma) + 1j * gaussian_filter1d(turns.imag, sigma)) / weight
    )


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
    return _Look(band, low, at, runs, like, kind)


def _take_out(
    look: _Look, usual: dict[str, FloatArray], printed: BoolArray, pen_mm: float, dark: Darkness
) -> None:
    """Take a line out of its band, but for what is more than is usual there."""
    runs, band, px_mm = look.runs, look.band, dark.px_mm
    as_thick = runs.thick <= usual["thick"] + _THICKER_PX
    way = _smoothed(runs.middle, look.like & as_thick, 50, _SMOOTH_MM * px_mm)
    on_way = runs.there & (np.abs(runs.middle - way) <= _ASIDE_PX)
    line = on_way & as_thick & (runs.peak <= usual["peak"] + _DARKER)
    line &= printed & ~_is_bar_over_dashes(runs, on_way, printed, pen_mm * px_mm)
    line &= (look.kind == _TRACED) | ~_has_ink_along(runs.much, usual["much"], line, px_mm)
    ends: FloatArray | float = 1.0
    if not printed.all():
        line, ends = _among_dashes(look, line, way, usual["thick"], as_thick, printed, pen_mm * px_mm, px_mm)
    skirt = _runs(band, np.full(band.shape[1], max(SEEN_LEAST, NOISES * dark.noise) / 2), look.at)
    rows = np.arange(len(band))[:, None]
    near = np.abs(rows - way) <= usual["thick"] + 2
    band[(rows >= skirt.top) & (rows <= skirt.bottom) & near & line] = 0.0
    band *= ends


def _among_dashes(
    look: _Look,
    line: BoolArray,
    way: FloatArray,
    thick: FloatArray,
    as_thick: BoolArray,
    printed: BoolArray,
    pen_px: float,
    px_mm: float,
) -> tuple[BoolArray, FloatArray]:
    """The columns of dashes that are dashes only, and how much of each place of the band is ink.

    Where ink comes out of a dash to one side and ends in it, it ends as far from its other edge as a pen is
    wide, or a little more where two strokes meet. Elsewhere all that is there is ink, or none.
    """
    ink, off = _runs(look.band, np.full(len(way), _INK), look.at), thick / 2 + _SKIRT_PX
    over = (ink.top <= way - off) & _is_more(look, way - off, as_thick, px_mm)
    under = (ink.bottom >= way + off) & _is_more(look, way + off, as_thick, px_mm)
    crosses = _near(over & ~under, pen_px) & _near(under & ~over, pen_px)
    line = line & ((look.kind == _TRACED) | ~(over | under | crosses))
    above, below = way - thick / 2 - _EDGE_PX, way + thick / 2 + _EDGE_PX
    over |= look.runs.there & (look.runs.top < above)
    under |= look.runs.there & (look.runs.bottom > below)
    among = printed & ~line & (look.kind != _TRACED)
    rows, out = np.arange(len(look.band))[:, None], np.ones(look.band.shape)
    zone = slice(max(math.floor(above.min()), 0), math.ceil(below.max()) + 1)
    in_line = (rows >= above) & (rows <= below) & among
    for ends, deep in (
        (over & ~under, rows - np.where(over, ink.top - 1, np.floor(above))),
        (under & ~over, np.where(under, ink.bottom + 1, np.ceil(below)) - rows),
    ):
        some = (in_line & ends)[zone]
        if some.any():
            near, far = _to_either_side(deep[zone].astype(np.float64), 2 * pen_px)
            inside = np.minimum(pen_px - near, _JOINT_PENS * pen_px - far) + 0.5
            out[zone][some] = np.clip(inside, 0.0, 1.0)[some]
    return line, out


def _near(columns: BoolArray, reach: float) -> BoolArray:
    """The columns that are so near to some, pixels."""
    wide = 2 * round(min(reach, _REACH_MOST_PX)) + 1
    return np.asarray(cv2.dilate(columns[None].astype(np.uint8), np.ones((1, wide), np.uint8))[0] > 0)


def _is_more(look: _Look, at: FloatArray, as_thick: BoolArray, px_mm: float) -> BoolArray:
    """Where there is more beside a line than its own skirt: ink, however much paler than the line."""
    columns = np.arange(len(look.at))
    beside = look.band[np.clip(np.round(at).astype(int), 0, len(look.band) - 1), columns]
    skirt = _smoothed(beside, look.like & as_thick, _SKIRT, _ALIKE_MM * px_mm)
    return np.asarray(beside > skirt + _MORE_INK)


def _to_either_side(deep: FloatArray, reach: float) -> tuple[FloatArray, FloatArray]:
    """How far each place in a line is from paper, on the side of it where paper is nearer, and on the other.

    Parameters
    ----------
    deep : array, shape (rows, columns)
        How far it is from the last paper of its column.
    reach : float
        So far paper is looked for to either side; pixels, as all of it.
    """
    sides = []
    for step in (1, -1):
        nearest = np.abs(deep)
        for aside in range(1, math.ceil(min(reach, _REACH_MOST_PX)) + 1):
            beside = np.roll(deep, step * aside, axis=1)
            nearest = np.minimum(nearest, np.hypot(aside, beside))
        sides.append(nearest)
    return np.asarray(np.minimum(*sides)), np.asarray(np.maximum(*sides))


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


def _is_bar_over_dashes(runs: _Runs, on_way: BoolArray, printed: BoolArray, pen_px: float) -> BoolArray:
    """Where a bar was drawn along a dashed line: it shows in the gaps, and goes on under a dash between.

    One that shows at one end of a dash only ends somewhere under it.
    """
    bar = on_way & ~printed & (runs.thick <= _BAR_PENS * pen_px)
    out = np.zeros_like(printed)
    for begin, end in true_runs(printed):
        before = bool(bar[max(begin - _BAR_PX, 0) : begin].any())
        after = bool(bar[end : end + _BAR_PX].any())
        middle = (begin + end) // 2
        out[begin if before else middle : end if after else middle] = True
    return out & bool(bar.any())


def _darkest(band: FloatArray, off: int) -> IntArray:
    """The darkest row of every column near the middle of a band."""
    first = len(band) // 2 - off
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
