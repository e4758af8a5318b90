"""A page made straight: by its marks, then by its own printed lines and rings, which take out what curls."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from scipy.ndimage import gaussian_filter1d

from firstloop.core.curves import FloatArray
from firstloop.core.scanning.find import FoundPage
from firstloop.core.scanning.smooth import off_smooth_way
from firstloop.core.sheets.scene import Entry, Page

PX_MM = 8.0  # of a straightened page: 203 dots to the inch
_ROUGH_PX_MM = 6.0  # where its lines are looked for
_SEEK_MM, _STEP_MM, _WIDE_MM = 3.0, 4.0, 3.0  # how far a line is looked for, how often, and over what width
_DARKER = 6.0  # grey levels by which a line is darker than the paper about it
_POWERS_X, _POWERS_Y = 4, 3
_RIDGE, _BEYOND_MM = 1e-3, 20.0
_ROUNDS, _OUTLIER_MM = 4, 0.35
_SEEN_LEAST = 20
_LINE_SHARE, _ON_LINE_MM = 0.6, 0.25
_RING_FITS = 0.45
_GRID_MM = 2.0

Map = npt.NDArray[np.float32]
"""A number for every pixel of a picture, as OpenCV takes it; shape (height, width)."""


@dataclass(frozen=True, eq=False)
class Straight:
    """A page as it should lie.

    Parameters
    ----------
    grey : array, shape (height, width)
        8 bit, :data:`PX_MM` pixels a millimetre.
    from_x, from_y : arrays, shape (height, width)
        Where every pixel was taken from in the picture.
    curl_mm : float
        How far printed lines and rings were up or down from where the marks alone put them (root of the
        mean square).
    """

    grey: np.ndarray
    from_x: Map
    from_y: Map
    curl_mm: float


def straightened(grey: np.ndarray, found: FoundPage, px_mm: float = PX_MM) -> Straight:
    """A page without its turn, its perspective and its curl."""
    assert found.page is not None
    size_mm = found.page.size_mm
    xs, ys = _grid(size_mm, _ROUGH_PX_MM)
    rough = _taken(grey, *_to_picture(found.to_px, xs, ys))
    aside, lower = _rings_seen(rough, found.page, _ROUGH_PX_MM)
    lower = np.concatenate([lower, _lines_seen(rough, found.page, _ROUGH_PX_MM)])
    xs, ys = _grid(size_mm, px_mm)
    curl_mm, across, down = 0.0, xs, ys
    if len(lower) >= _SEEN_LEAST:
        surface = _Surface(lower, size_mm)
        down = ys + surface.at(xs, ys)
        curl_mm = surface.before_mm
    if len(aside) >= _SEEN_LEAST:
        across = xs + _Surface(aside, size_mm).at(xs, ys)
    from_x, from_y = _to_picture(found.to_px, across, down)
    return Straight(_taken(grey, from_x, from_y), from_x, from_y, curl_mm)


def _grid(size_mm: tuple[float, float], px_mm: float) -> tuple[Map, Map]:
    """The places of a page, mm, at the middle of every pixel of its straight picture."""
    xs, ys = (((np.arange(round(one * px_mm)) + 0.5) / px_mm).astype(np.float32) for one in size_mm)
    across, down = np.meshgrid(xs, ys)
    return across, down


def _to_picture(to_px: FloatArray, xs: Map, ys: Map) -> tuple[Map, Map]:
    """Where places of the page are in the picture; pixels are counted from the middle of the first."""
    (a, b, c), (d, e, f), (g, h, i) = to_px.tolist()
    w = g * xs + h * ys + i
    return (a * xs + b * ys + c) / w - 0.5, (d * xs + e * ys + f) / w - 0.5


def _taken(grey: np.ndarray, from_x: Map, from_y: Map) -> np.ndarray:
    """The picture at such places."""
    return np.asarray(
        cv2.remap(
            grey,
            from_x,
            from_y,
            cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_CONSTANT,
            borderValue=255,
        )
    )


def _lines_seen(taken: np.ndarray, page: Page, px_mm: float) -> FloatArray:
    """Where printed base lines are: rows of x, y as they should be, and how much lower they are, mm."""
    grey = taken.astype(float)
    spans: dict[float, tuple[float, float]] = {}
    for one in page.entries:
        y = _lowest_line(one)
        left, right = spans.get(y, (one.box[0], one.box[2]))
        spans[y] = min(left, one.box[0]), max(right, one.box[2])
    seen = []
    half, reach = round(_WIDE_MM * px_mm / 2), round(_SEEK_MM * px_mm)
    for base, (left, right) in spans.items():
        middle = round(base * px_mm - 0.5)
        if middle - reach < 0 or middle + reach >= len(grey):
            continue
        mine = []
        places = np.arange(left + _WIDE_MM / 2, right - _WIDE_MM / 2, _STEP_MM)
        for x in places:
            column = round(x * px_mm)
            strip = grey[middle - reach : middle + reach + 1, column - half : column + half + 1]
            lower = _line_in(strip)
            if lower is not None:
                mine.append((x, base, (middle + lower + 0.5) / px_mm - base))
        seen += _of_one_line(mine, len(places))
    return np.array(seen).reshape(-1, 3)


def _lowest_line(entry: Entry) -> float:
    """Page y of a line that is printed all along a place: the foot of its boxes, or its base line."""
    wide = (entry.box[2] - entry.box[0]) / 3
    level = [a[1] for a, b in entry.lines_aside if a[1] == b[1] and abs(b[0] - a[0]) > wide]
    return max(level, default=entry.lines.base_mm)


def _rings_seen(taken: np.ndarray, page: Page, px_mm: float) -> tuple[FloatArray, FloatArray]:
    """How far aside of their places printed rings are, and how much lower: both as `_lines_seen` says it."""
    rows: dict[float, list[tuple[float, float, float, float]]] = {}
    places: dict[float, int] = {}
    for entry in page.entries:
        for x, y, radius in [*([entry.best] if entry.best else []), *entry.start_rings]:
            places[y] = places.get(y, 0) + 1
            off = _ring_in(taken, x, y, radius, px_mm)
            if off is not None:
                rows.setdefault(y, []).append((x, y, *off))
    aside, lower = (
        [
            one
            for y, mine in rows.items()
            for one in _of_one_line([(x, at, off[k]) for x, at, *off in mine], places[y])
        ]
        for k in (0, 1)
    )
    return np.array(aside).reshape(-1, 3), np.array(lower).reshape(-1, 3)


def _ring_in(
    taken: np.ndarray, x: float, y: float, radius: float, px_mm: float
) -> tuple[float, float] | None:
    """How far to the right and down of where it should be a ring is, mm; None where none is plain to see."""
    size, reach = round((radius + 0.5) * px_mm), round(_SEEK_MM * px_mm)
    ring = np.full((2 * size + 1, 2 * size + 1), 255, dtype=np.uint8)
    cv2.circle(ring, (size, size), round(radius * px_mm), 0, 1, cv2.LINE_AA)
    col, row, far = round(x * px_mm - 0.5), round(y * px_mm - 0.5), size + reach
    part = taken[max(row - far, 0) : row + far + 1, max(col - far, 0) : col + far + 1]
    if part.shape != (2 * far + 1, 2 * far + 1):
        return None
    fits = cv2.matchTemplate(part, ring, cv2.TM_CCOEFF_NORMED)
    down, across = (int(one) for one in np.unravel_index(int(fits.argmax()), fits.shape))
    inside = 0 < down < len(fits) - 1 and 0 < across < fits.shape[1] - 1
    if not inside or fits[down, across] <= _RING_FITS:
        return None
    right = across - reach + _top(fits[down, across - 1 : across + 2])
    lower = down - reach + _top(fits[down - 1 : down + 2, across])
    return (col + right + 0.5) / px_mm - x, (row + lower + 0.5) / px_mm - y


def _top(three: np.ndarray) -> float:
    """Where a parabola through a highest value and those beside it is highest, of it."""
    before, at, after = three.astype(float)
    bend = before - 2 * at + after
    return (before - after) / (2 * bend) if bend < 0 else 0.0


def _of_one_line(mine: list[tuple[float, float, float]], places: int) -> list[tuple[float, float, float]]:
    """Those that lie on one smooth line; none where most do not: then nothing is printed there."""
    if len(mine) < max(_LINE_SHARE * places, 4):
        return []
    x, _, off = np.array(mine).T
    keep = off_smooth_way(x, off, 2, _ON_LINE_MM) <= _ON_LINE_MM
    return (
        [one for one, kept in zip(mine, keep, strict=True) if kept]
        if keep.sum() >= _LINE_SHARE * places
        else []
    )


def _line_in(strip: FloatArray) -> float | None:
    """How far below the middle of a strip its line runs, pixels; None where none is plain to see.

    A line is dark all along: the lighter half of each row counts, so that letters across it do not.
    """
    rows = np.quantile(strip, 0.7, axis=1)
    rows = gaussian_filter1d(rows, 0.8)
    paper = np.median(rows)
    at = int(rows.argmin())
    if paper - rows[at] < _DARKER:
        return None
    near = slice(max(at - 2, 0), at + 3)
    weight = np.clip(paper - rows[near], 0, None)
    return float((np.arange(len(rows))[near] * weight).sum() / weight.sum() - len(rows) // 2)


class _Surface:
    """How far off a page's points are from where the marks alone say: smooth, fitted to what is seen of it.

    A little beyond the outermost that is seen it bends no more: powers would run away from there.
    """

    def __init__(self, seen: FloatArray, size_mm: tuple[float, float]) -> None:
        self._size = size_mm
        x, y, off = seen.T
        self._first, self._last = seen[:, :2].min(0) - _BEYOND_MM, seen[:, :2].max(0) + _BEYOND_MM
        self._powers_y = min(_POWERS_Y, len(np.unique(y)) - 1)  # no more bends than rows can tell of
        keep = np.ones(len(seen), dtype=bool)
        powers = self._powers(x, y)
        for _ in range(_ROUNDS):
            a = powers[keep]
            ridge = _RIDGE * len(a) * np.eye(a.shape[1])
            self._weights = np.linalg.solve(a.T @ a + ridge, a.T @ off[keep])
            left = np.abs(off - powers @ self._weights)
            limit = max(_OUTLIER_MM, 3 * float(np.median(left)))
            keep = left < limit
        self.before_mm = float(np.sqrt((off[keep] ** 2).mean()))

    def _powers(self, x: FloatArray, y: FloatArray) -> FloatArray:
        u, v = 2 * x / self._size[0] - 1, 2 * y / self._size[1] - 1
        return np.stack(
            [u**i * v**j for i in range(_POWERS_X + 1) for j in range(self._powers_y + 1)], axis=-1
        )

    def at(self, xs: Map, ys: Map) -> Map:
        """How far off the page is at places, mm; worked out on a coarse grid."""
        cols = np.arange(0, self._size[0] + _GRID_MM, _GRID_MM)
        rows = np.arange(0, self._size[1] + _GRID_MM, _GRID_MM)
        cols, rows = (
            np.clip(one, *ends) for one, *ends in zip((cols, rows), self._first, self._last, strict=True)
        )
        coarse = self._powers(*np.meshgrid(cols, rows)) @ self._weights
        return np.asarray(
            cv2.remap(
                coarse.astype(np.float32),
                xs / _GRID_MM,
                ys / _GRID_MM,
                cv2.INTER_LINEAR,
                borderMode=cv2.BORDER_REPLICATE,
            )
        )
