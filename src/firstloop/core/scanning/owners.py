"""Whose ink is whose: what hangs together belongs to the place it was written in, however far it reaches."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from firstloop.core.curves import BoolArray, IntArray
from firstloop.core.sheets.scene import Entry

FINER = 2  # times finer than the page, so that lines are thinned between its pixels
_OWN_SHARE = 0.5  # of a piece of ink that lies in one place
_WIDE, _WIDE_XH = 0.5, 1.0  # of its place, or so much: a letter of its own in a piece of several
_TALL_XH = 0.5  # in its place; less is no letter
_STEM_XH, _STANDS_XH = 1.2, 0.5  # in its place, of a letter as narrow as f: how tall, how near its line
_STRAY_SHARE = 0.3  # of a piece that lies in one place, where it is most
_CUT_XH = 0.5  # so far from the border between two places they may be cut apart


@dataclass(frozen=True, eq=False)
class InkAbout:
    """Ink in and about one place.

    Parameters
    ----------
    mask : array, shape (height, width)
        Where it is, :data:`FINER` times as fine as the page.
    left, top : int
        The mask's corner in pixels of the page.
    dark : float
        The ink's darkness, 0 where there is none.
    """

    entry: Entry
    mask: BoolArray
    left: int
    top: int
    dark: float


def own_ink(about: Sequence[InkAbout], px_mm: float) -> Iterator[tuple[BoolArray, BoolArray]]:
    """Of the ink about each place of a page, what was written there and what was written in no place at all.

    A piece of ink belongs to the place most of it lies in, a letter that is half outside too. Where letters
    of several places run into one another it is cut between them, near the border, where it is thinnest.
    """
    if not about:
        return
    pieces, sizes = _pieces_of_page(about)
    wrote = [_written_there(pieces, sizes, one.entry, px_mm) for one in about]
    _give_strays(wrote, pieces, sizes, [one.entry for one in about], px_mm)
    writers: dict[int, list[Entry]] = {}
    for one, numbers in zip(about, wrote, strict=True):
        for number in numbers:
            writers.setdefault(number, []).append(one.entry)
    is_owned = _any_of(writers, len(sizes))
    for one, numbers in zip(about, wrote, strict=True):
        tall, wide = (size // FINER for size in one.mask.shape)
        here = pieces[one.top : one.top + tall, one.left : one.left + wide]
        own = where_kept(here, _any_of(numbers, len(sizes)))
        for number in numbers:
            for other in writers[number]:
                if other is not one.entry:
                    _cut_off(own, here == number, one, other, px_mm)
        free = ~where_kept(here, is_owned)
        yield one.mask & _finer(own), one.mask & _finer(free)


def _any_of(numbers: Iterable[int], count: int) -> BoolArray:
    """Of so many numbers from 0 whether each is one of these."""
    out = np.zeros(count, dtype=np.bool_)
    out[list(numbers)] = True
    return out


def where_kept(pieces: IntArray, kept: BoolArray) -> BoolArray:
    """Where those of some numbered pieces lie that are kept; what has number 0 lies outside of all.

    As ``kept[pieces]``, in a fifth of its time where most is outside.

    Examples
    --------
    >>> where_kept(np.array([[0, 1, 2], [2, 1, 0]]), np.array([False, True, False])).astype(int)
    array([[0, 1, 0],
           [0, 1, 0]])
    """
    out = pieces > 0
    out[out] = kept[pieces[out]]
    return out


def _finer(mask: BoolArray) -> BoolArray:
    tall, wide = mask.shape
    finer = cv2.resize(mask.view(np.uint8), (wide * FINER, tall * FINER), interpolation=cv2.INTER_NEAREST)
    return np.asarray(finer.view(np.bool_))


def _coarser(mask: BoolArray) -> BoolArray:
    """Whether any of the places is set that a pixel of the page has."""
    parts = [mask[down::FINER, across::FINER] for down in range(FINER) for across in range(FINER)]
    return np.asarray(np.logical_or.reduce(parts))


def _pieces_of_page(about: Sequence[InkAbout]) -> tuple[IntArray, IntArray]:
    """What hangs together on the page, as numbers from 1; and how many pixels each number has."""
    shape = np.max([[o.top + o.mask.shape[0] // FINER, o.left + o.mask.shape[1] // FINER] for o in about], 0)
    ink = np.zeros(shape, dtype=np.uint8)
    for one in about:
        tall, wide = (size // FINER for size in one.mask.shape)
        ink[one.top : one.top + tall, one.left : one.left + wide] |= _coarser(one.mask)
    _, numbers, facts, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    return np.asarray(numbers), np.asarray(facts[:, 4])


def _written_there(pieces: IntArray, sizes: IntArray, entry: Entry, px_mm: float) -> list[int]:
    """The numbers of the pieces that were written in a place, or a letter of them."""
    here = _inside(pieces, entry, px_mm)
    inside = np.bincount(here.ravel(), minlength=len(sizes))
    inside[0] = 0
    left, _, right, _ = (one * px_mm for one in entry.box)
    xh = entry.lines.xh_mm * px_mm
    wide = min(_WIDE * (right - left), _WIDE_XH * xh)
    base = entry.lines.base_mm * px_mm - max(round(entry.box[1] * px_mm), 0)
    out = []
    for number in np.flatnonzero(inside):
        if inside[number] > _OWN_SHARE * sizes[number]:
            out.append(int(number))
        elif inside[number] > wide:
            down, across = np.nonzero(here == number)
            is_wide = np.ptp(across) >= wide and np.ptp(down) >= _TALL_XH * xh
            is_stem = np.ptp(down) >= _STEM_XH * xh and down.max() > base - _STANDS_XH * xh
            if is_wide or is_stem:
                out.append(int(number))
    return out


def _inside(pieces: IntArray, entry: Entry, px_mm: float) -> IntArray:
    left, top, right, bottom = (max(round(one * px_mm), 0) for one in entry.box)
    return pieces[top:bottom, left:right]


def _give_strays(
    wrote: Sequence[list[int]], pieces: IntArray, sizes: IntArray, entries: Sequence[Entry], px_mm: float
) -> None:
    """Give what was written in no place, as a stem far too low, to the place that has most of it."""
    inside = np.array([np.bincount(_inside(pieces, e, px_mm).ravel(), minlength=len(sizes)) for e in entries])
    inside[:, 0] = 0
    taken = {number for numbers in wrote for number in numbers}
    for number in np.flatnonzero(inside.max(axis=0) > _STRAY_SHARE * sizes):
        if number in taken:
            continue
        place = int(inside[:, number].argmax())
        down, _ = np.nonzero(_inside(pieces, entries[place], px_mm) == number)
        if np.ptp(down) >= _TALL_XH * entries[place].lines.xh_mm * px_mm:
            wrote[place].append(int(number))


def _cut_off(own: BoolArray, piece: BoolArray, one: InkAbout, other: Entry, px_mm: float) -> None:
    """Take from a piece what lies beyond the border to another place that has a letter of it."""
    most = _CUT_XH * one.entry.lines.xh_mm
    for axis, corner in enumerate((one.left, one.top)):  # beside first, then above or below
        low, high = one.entry.box[axis], one.entry.box[axis + 2]
        is_after, is_before = other.box[axis] >= high - most, other.box[axis + 2] <= low + most
        if is_after or is_before:
            border = (high if is_after else low) * px_mm - corner
            at = _thinnest(piece.sum(axis=axis), border, most * px_mm)
            places = np.arange(piece.shape[1 - axis])
            beyond = places >= at if is_after else places < at
            own &= ~(piece & (beyond[:, None] if axis else beyond))
            return


def _thinnest(ink: IntArray, border: float, most: float) -> int:
    """Where there is least ink in a row of counts, near a border; of several places the nearest."""
    at = np.arange(len(ink))
    off = np.abs(at - border)
    return int(at[np.lexsort((off, np.where(off <= most, ink, ink.max() + 1)))[0]])
