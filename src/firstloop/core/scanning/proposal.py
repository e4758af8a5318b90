"""Any picture of writing: where its paper lies in it, and where its lines are, as far as can be seen.

What is found is a proposal: a person drags it right, types what was written, and from there a page is read
as any sheet is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from scipy.ndimage import gaussian_filter1d

from firstloop.core.curves import BoolArray, FloatArray
from firstloop.core.scanning.darkness import darkness

FLAT_PX = 1000  # wide is a page made flat to be looked at
_PAPER_MM = 210.0  # taken to be so wide while nobody has said
_SEEN_PX = 800  # the longer side of what the paper is looked for in
_PAPER_SHARE, _ALL_SHARE, _FILLS = 0.15, 0.96, 0.9  # of a picture that is paper; of its four sides
_BEND = 0.03  # of the way around it, a side may be from straight
_INK_PX, _SHARP = 25, (110.0, 70.0, 40.0, 20.0)  # thicker than ink; how plain an edge is, the plainest first
_RULED_LEAST, _EDGE = 3, 0.03
_TURNS_DEG = np.arange(-5.0, 5.01, 0.25)
_STRIPS = 14
_LINE_DARK, _ALONG = 0.025, 0.6  # how dark a line is in a strip, and in how many strips it is seen
_SAME_PX, _SOFT_PX = 5, 1.0
_INK_DARK, _INK_COLUMNS = 0.22, 0.04
_PAIRED = 0.75  # a smaller gap that comes in turn with a larger one is a middle band
_BAND_OF_GAP = 0.5  # of a small letter, where each line is a base line
_BAND_LEAST_PX, _BAND_LEAST, _MUCH, _ANY, _BLUR_PX = 8, 0.35, 0.35, 0.06, 5.0


@dataclass(frozen=True)
class Band:
    """A row of writing between its mid and its base line, as shares of a flat page's height."""

    mid: float
    base: float


@dataclass(frozen=True, eq=False)
class Proposal:
    """What a picture of writing seems to hold.

    Parameters
    ----------
    corners : array, shape (4, 2)
        Of the paper in the picture, pixels, clockwise from its top left.
    lines, uprights : tuple of float
        Ruled lines from the top, as shares of the flat page's height; margins from the left, of its width.
    bands : tuple of Band
        Rows in which something is written.
    """

    corners: FloatArray
    lines: tuple[float, ...]
    uprights: tuple[float, ...]
    bands: tuple[Band, ...]


def propose(grey: np.ndarray, corners: FloatArray | None = None) -> Proposal:
    """Paper, lines and rows of a picture; 8 bit, shape (height, width).

    Parameters
    ----------
    corners : array, shape (4, 2), optional
        Where a person says that the paper's corners are.
    """
    if corners is None:
        seen = _paper(grey)
        where = _upright(grey, _whole(grey) if seen is None else seen, seen is not None)
    else:
        where = corners
    dark = _dark(grey, where)
    tall = len(dark)
    lines = _lines(dark)
    bands = _ruled_bands(dark, lines) if len(lines) >= _RULED_LEAST else _bands(dark)
    shares = tuple(Band(mid / tall, base / tall) for mid, base in bands)
    uprights = tuple(one / FLAT_PX for one in _lines(dark.T))
    return Proposal(where, tuple(one / tall for one in lines), uprights, shares)


def flat(grey: np.ndarray, corners: FloatArray) -> np.ndarray:
    """The paper between four corners as a page, :data:`FLAT_PX` wide; as tall as its sides tell."""
    wide, tall = sides(corners)
    height = int(np.clip(round(FLAT_PX * tall / wide), FLAT_PX / 10, FLAT_PX * 10))
    there = np.array([(0, 0), (FLAT_PX, 0), (FLAT_PX, height), (0, height)], dtype=np.float32)
    to_flat = cv2.getPerspectiveTransform(corners.astype(np.float32), there)
    return np.asarray(cv2.warpPerspective(grey, to_flat, (FLAT_PX, height), borderValue=255))


def sides(corners: FloatArray) -> tuple[float, float]:
    """How wide and how tall what lies between four corners is, pixels: the middle of opposite sides."""
    a, b, c, d = corners
    wide = (np.hypot(*(b - a)) + np.hypot(*(c - d))) / 2
    tall = (np.hypot(*(d - a)) + np.hypot(*(c - b))) / 2
    return max(float(wide), 1.0), max(float(tall), 1.0)


def _whole(grey: np.ndarray) -> FloatArray:
    tall, wide = grey.shape
    return np.array([(0.0, 0.0), (wide, 0.0), (wide, tall), (0.0, tall)])


def _paper(grey: np.ndarray) -> FloatArray | None:
    """Corners of the largest thing with four plain sides; None where there is none."""
    scale = min(1.0, _SEEN_PX / max(grey.shape))
    small = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    soft = cv2.GaussianBlur(small, (0, 0), 3)
    bare = cv2.morphologyEx(soft, cv2.MORPH_CLOSE, np.ones((_INK_PX, _INK_PX), np.uint8))  # of ink and lines
    for sharp in _SHARP:
        edges = cv2.dilate(cv2.Canny(bare, sharp / 2, sharp), np.ones((3, 3), np.uint8))
        if found := _with_four_sides(np.asarray(255 - edges)):
            return _clockwise(max(found, key=cv2.contourArea).reshape(4, 2) / scale)
    return None


def _with_four_sides(mask: np.ndarray) -> list[np.ndarray]:
    """Corners, shape (4, 1, 2), of large things in a mask that fill four straight sides."""
    outlines, _ = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_SIMPLE)
    found = []
    for outline in outlines:
        hull = cv2.convexHull(outline)
        corners = cv2.approxPolyDP(hull, _BEND * cv2.arcLength(hull, closed=True), closed=True)
        area = cv2.contourArea(hull)
        if (
            len(corners) == 4
            and _PAPER_SHARE * mask.size < area < _ALL_SHARE * mask.size
            and cv2.contourArea(outline) > _FILLS * cv2.contourArea(corners)
        ):
            found.append(corners)
    return found


def _clockwise(corners: FloatArray) -> FloatArray:
    """From the top left on; y downwards."""
    away = corners - corners.mean(0)
    turned = corners[np.argsort(np.arctan2(away[:, 1], away[:, 0]))]
    return np.asarray(np.roll(turned, -int(turned.sum(1).argmin()), axis=0))


def _upright(grey: np.ndarray, corners: FloatArray, is_seen: bool) -> FloatArray:
    """Corners so turned that ruled lines run level: by a quarter, and by a little where no paper is seen."""
    ways = [corners, np.roll(corners, -1, axis=0)]
    if not is_seen:
        ways = [_turned(one, _slope_deg(grey, one)) for one in ways]
    own, other = (len(_lines(_dark(grey, one))) for one in ways)
    return ways[1] if other >= _RULED_LEAST and other > own else ways[0]


def _dark(grey: np.ndarray, corners: FloatArray) -> FloatArray:
    return darkness(flat(grey, corners), FLAT_PX / _PAPER_MM).values


def _turned(corners: FloatArray, turn_deg: float) -> FloatArray:
    turn = np.deg2rad(turn_deg)
    spin = np.array([(np.cos(turn), -np.sin(turn)), (np.sin(turn), np.cos(turn))])
    middle = corners.mean(0)
    return np.asarray((corners - middle) @ spin.T + middle)


def _slope_deg(grey: np.ndarray, corners: FloatArray) -> float:
    """How far a page is turned: the small turn by which its rows differ most clearly from each other."""
    page = cv2.resize(flat(grey, corners), None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    dark = darkness(page, FLAT_PX / 2 / _PAPER_MM).values.astype(np.float32)
    tall, wide = dark.shape
    inner = slice(tall // 12, -tall // 12), slice(wide // 12, -wide // 12)

    def clearly(turn_deg: float) -> float:
        spin = cv2.getRotationMatrix2D((wide / 2, tall / 2), turn_deg, 1.0)
        rows = cv2.warpAffine(dark, spin, (wide, tall))[inner].mean(1)
        return float(np.square(np.diff(rows)).mean())

    return float(max(sorted(_TURNS_DEG.tolist(), key=abs), key=clearly))


def _lines(dark: FloatArray) -> list[float]:
    """Rows of a flat page along which a line runs: seen in most strips, at much the same height."""
    from scipy.signal import find_peaks  # noqa: PLC0415  # slow to load, seldom needed

    strips = np.array_split(dark, _STRIPS, axis=1)[1:-1]
    # what is dark nearly all along a strip: letters are not
    along = [gaussian_filter1d(np.quantile(strip, 0.3, axis=1), _SOFT_PX) for strip in strips]
    votes = np.zeros(len(dark))
    for one in along:
        peaks, _ = find_peaks(one, height=_LINE_DARK, prominence=_LINE_DARK / 2)
        near = np.zeros(len(dark))
        near[peaks] = 1
        votes += cv2.dilate(near[:, None], np.ones((2 * _SAME_PX + 1, 1), np.uint8)).ravel()
    seen = gaussian_filter1d(votes, _SAME_PX / 2)
    peaks, _ = find_peaks(seen, height=_ALONG * len(strips), distance=2 * _SAME_PX)
    edge = _EDGE * len(dark)  # what runs along the very edge is the paper's own, or a frame
    return [float(one) for one in peaks if edge < one < len(dark) - edge]


def _ruled_bands(dark: FloatArray, lines: Sequence[float]) -> list[tuple[float, float]]:
    """Middle bands between ruled lines in which something is written."""
    gaps = np.diff(lines)
    even, odd = float(np.median(gaps[::2])), float(np.median(gaps[1::2])) if len(gaps) > 1 else np.inf
    if len(gaps) > 2 and min(even, odd) < _PAIRED * max(even, odd):
        first = 0 if even < odd else 1
        bands = [(lines[i], lines[i + 1]) for i in range(first, len(lines) - 1, 2)]
    else:
        band = _BAND_OF_GAP * float(np.median(gaps))
        bands = [(base - band, base) for base in lines if base > band]
    return [one for one in bands if _is_written(dark, *one)]


def _is_written(dark: FloatArray, mid: float, base: float) -> bool:
    inside = (base - mid) / 5
    band = dark[round(mid + inside) : round(base - inside) + 1]
    return bool(len(band)) and bool((band.max(0) > _INK_DARK).mean() > _INK_COLUMNS)


def _bands(dark: FloatArray) -> list[tuple[float, float]]:
    """Middle bands of rows without lines: where most ink is, between rows that have none."""
    edge = dark.shape[1] // 20
    profile = gaussian_filter1d((dark[:, edge:-edge] > _INK_DARK).mean(1), _BLUR_PX)
    rim = round(_EDGE * len(profile))
    profile[:rim] = profile[-rim:] = 0.0
    written: BoolArray = profile > _ANY * profile.max(initial=0.0)
    found = []
    starts = np.flatnonzero(np.diff(np.append(False, written).astype(int)) == 1)
    for start in starts:
        stop = start + int(np.argmin(np.append(written[start:], False)))
        part = profile[start:stop]
        most = np.flatnonzero(part > _MUCH * part.max())
        mid, base = float(start + most[0]), float(start + most[-1])
        found.append((mid, base))
    tallest = max((base - mid for mid, base in found), default=0.0)
    least = max(_BAND_LEAST_PX, _BAND_LEAST * tallest)  # less is the edge of a frame
    return [(mid, base) for mid, base in found if base - mid > least]
