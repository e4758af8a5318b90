"""A page made straight: by its marks, then by its own printed lines and rings, which take out what curls."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from scipy.interpolate import RBFInterpolator
from scipy.ndimage import gaussian_filter1d

from firstloop.core.curves import FloatArray
from firstloop.core.scanning.find import FoundPage
from firstloop.core.scanning.smooth import off_smooth_way
from firstloop.core.sheets.scene import Entry, Page

PX_MM = 8.0  # of a straightened page: 203 dots to the inch
_ROUGH_PX_MM = 6.0  # where its lines are looked for
_SEEK_MM, _STEP_MM, _WIDE_MM = 3.0, 4.0, 3.0  # how far a line is looked for, how often, and over what width
_DARKER, _LINE_ABOUT_PX = 6.0, 2  # grey levels darker than the paper about it; what of it counts
_POWERS_X, _POWERS_Y = 4, 3
_RIDGE, _BEYOND_MM = 1e-3, 20.0
_ROUNDS, _OUTLIER_MM = 4, 0.35
_WAVE_MM, _NOISE, _OFF_WAVE_MM = 20.0, 0.3, 0.15  # what is left of a page that waves: how far, how sure
_SEEN_LEAST = 20
_LINE_SHARE, _ON_LINE_MM = 0.6, 0.25
_RING_FITS = 0.45
_GRID_MM = 4.0  # between places where the way to the picture is worked out: less than a wave
_A_BEND_MM, _SEEN_A_BEND = 25.0, 4  # of a line that waves

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
    rough = _taken(grey, *_map(found, _ROUGH_PX_MM))
    aside, lower = _rings_seen(rough, found.page, _ROUGH_PX_MM)
    lower = np.concatenate([lower, _lines_seen(rough, found.page, _ROUGH_PX_MM)])
    across, down = (_Surface(one, size_mm) if len(one) >= _SEEN_LEAST else None for one in (aside, lower))
    from_x, from_y = _map(found, px_mm, across, down)
    return Straight(_taken(grey, from_x, from_y), from_x, from_y, down.before_mm if down else 0.0)


def _map(
    found: FoundPage, px_mm: float, across: _Surface | None = None, down: _Surface | None = None
) -> tuple[Map, Map]:
    """Where every pixel of a straight page is in the picture, counted from the middle of its first pixel.

    Worked out at places a little apart, and in straight lines between them.
    """
    assert found.page is not None
    apart = round(_GRID_MM * px_mm)
    width, height = (round(one * px_mm) for one in found.page.size_mm)
    # one beyond each edge; in the middle of as many pixels as they are apart
    cols, rows = (
        np.asarray((np.arange(-1, -(-one // apart) + 1) + 0.5) * apart / px_mm, dtype=np.float64)
        for one in (width, height)
    )
    xs, ys = np.meshgrid(cols, rows)
    right, lower = (one.at(cols, rows) if one else 0.0 for one in (across, down))
    x, y, w = np.tensordot(found.to_px, np.stack([xs + right, ys + lower, np.ones_like(xs)]), 1)
    fine = (cv2.resize((one / w - 0.5).astype(np.float32), None, fx=apart, fy=apart) for one in (x, y))
    from_x, from_y = (one[apart : apart + height, apart : apart + width].copy() for one in fine)
    return from_x, from_y


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
        places = np.arange(left + _WIDE_MM / 2, right - _WIDE_MM / 2, _STEP_MM)
        columns = np.round(places * px_mm).astype(int)[:, None] + np.arange(-half, half + 1)
        strips = grey[middle - reach : middle + reach + 1, columns.clip(0, grey.shape[1] - 1)]
        lower = (middle + _line_in(strips) + 0.5) / px_mm - base
        mine = [(x, base, low) for x, low in zip(places, lower, strict=True) if np.isfinite(low)]
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
    bends = max(2, min(int(np.ptp(x) / _A_BEND_MM) + 2, len(x) // _SEEN_A_BEND))
    keep = off_smooth_way(x, off, bends, _ON_LINE_MM) <= _ON_LINE_MM
    return (
        [one for one, kept in zip(mine, keep, strict=True) if kept]
        if keep.sum() >= _LINE_SHARE * places
        else []
    )


def _line_in(strips: FloatArray) -> FloatArray:
    """How far below the middle of strips their line runs, pixels; NaN where none is plain to see.

    A line is dark all along: the lighter half of each row counts, so that letters across it do not.

    Parameters
    ----------
    strips : array, shape (height, strips, width)
    """
    rows = gaussian_filter1d(np.quantile(strips, 0.7, axis=2), 0.8, axis=0)
    darker = np.median(rows, axis=0) - rows
    at = darker.argmax(axis=0)
    places = np.arange(len(rows))[:, None]
    weight = np.where(np.abs(places - at) <= _LINE_ABOUT_PX, darker.clip(0), 0)
    with np.errstate(invalid="ignore"):
        middle = (places * weight).sum(axis=0) / weight.sum(axis=0) - len(rows) // 2
    return np.where(darker.max(axis=0) >= _DARKER, middle, np.nan)


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
        self._waves = self._what_is_left(seen, off - powers @ self._weights)

    @staticmethod
    def _what_is_left(seen: FloatArray, left: FloatArray) -> RBFInterpolator:
        """The waves of paper that was damp or folded: no further than a wave from what was seen of them."""
        keep = np.ones(len(seen), dtype=bool)
        for _ in range(_ROUNDS):
            waves = RBFInterpolator(
                seen[keep, :2],
                left[keep],
                kernel="gaussian",
                epsilon=1 / _WAVE_MM,
                smoothing=_NOISE,
                degree=-1,
            )
            off = np.abs(left - waves(seen[:, :2]))
            keep = off < max(_OFF_WAVE_MM, 3 * float(np.median(off)))
        return waves

    def _powers(self, x: FloatArray, y: FloatArray) -> FloatArray:
        u, v = 2 * x / self._size[0] - 1, 2 * y / self._size[1] - 1
        return np.stack(
            [u**i * v**j for i in range(_POWERS_X + 1) for j in range(self._powers_y + 1)], axis=-1
        )

    def at(self, cols: FloatArray, rows: FloatArray) -> FloatArray:
        """How far off the page is, mm, where columns and rows cross; shape (rows, columns)."""
        (left, top), (right, bottom) = self._first, self._last
        x, y = np.meshgrid(cols.clip(left, right), rows.clip(top, bottom))
        waves = self._waves(np.stack([x, y], axis=-1).reshape(-1, 2))
        return np.asarray(self._powers(x, y) @ self._weights + waves.reshape(x.shape))
