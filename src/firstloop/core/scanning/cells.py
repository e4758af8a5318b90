"""The ink of each place of a page, freed from what is printed there."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

import cv2
import numpy as np

from firstloop.core.check.ways.follow import Lines, stepped
from firstloop.core.check.ways.graph import InkGraph, ink_graph
from firstloop.core.curves import BoolArray, FloatArray, IntArray, length
from firstloop.core.letterforms.library import EVERY, letter
from firstloop.core.scanning.darkness import Darkness
from firstloop.core.scanning.owners import FINER, InkAbout, own_ink, where_kept
from firstloop.core.scanning.page_print import lines_across, lines_down, without_print
from firstloop.core.sheets.scene import Area, Entry, Page
from firstloop.core.supports import Support

_BESIDE_MM, _BESIDE_XH = 5.0, 0.7  # how far around its place a letter may reach, across and up and down
_ABOVE_XH, _REACH_XH = 1.2, 2.2
_INK_LEAST = 0.13  # darkness: no pencil that can be read is paler
_OF_INK, _OF_INK_WEAK = 0.55, 0.38  # of the ink's own darkness; the weaker only joined to the stronger
_STRONG_AREA_MM2 = 0.12
_OF_OTHERS, _ALONE_LEAST = 0.45, 0.2  # of what is usual on the page; where nothing is
_PALE_SHARE, _PALE_PLACES = 0.25, 0.2  # of print to trace that nobody traced: of a place's, of places
_PALE_MOST = 0.42  # print to trace that is darker than this is as dark as ink
_ABOVE_PALE, _OF_ABOVE_PALE = 0.10, 0.42
_SPECK_MM2, _DOT_MM, _DOT_ROUND = 0.045, 1.2, 0.5
_HOLE_EDGE_MORE = 8  # a hole of n pixels, one beside the other, has 2 n and so many about it
_DOT_LONGEST_MM, _DOT_LONGEST_XH = 1.6, 0.25  # of a blunt pen's
_OWN_SHARE = 0.5  # of a dot that lies above its place
_TICK_RADII, _TICK_INSIDE, _TICK_MM2, _TICK_WIDE = 1.25, 0.75, 0.25, 0.25
_TICK_ON_INK, _TICK_REACH = 1.0, 1.1  # radii: so wide is a tick that a letter runs into; so far it is cut out
_REST_MM, _REST_OFF_MM = 1.3, 0.4
_LEAST_MM, _LEAST_XH = 1.5, 0.23  # less is no writing


@dataclass(frozen=True, eq=False)
class CellInk:
    """What was written in one place.

    Parameters
    ----------
    mask : array, shape (height, width)
        Where there is ink, :data:`FINER` times as fine as the page.
    corner_mm : (x, y)
        Of the mask, on the page.
    px_mm : float
        Of the mask.
    is_ticked : bool
        Whether the ring of the best one is.
    dark : float
        The ink's darkness, 0 where there is none.
    """

    entry: Entry
    mask: BoolArray
    corner_mm: tuple[float, float]
    px_mm: float
    is_ticked: bool
    dark: float

    def on_page(self, points: FloatArray) -> FloatArray:
        """Points of the mask, shape (n, 2), in page millimetres."""
        return np.asarray(points / self.px_mm + np.array(self.corner_mm))

    def graph(self) -> InkGraph:
        """Its middle lines, in pixels of the mask."""
        return ink_graph(self.mask, self._is_rest_of_a_line)

    def _is_rest_of_a_line(self, points: FloatArray) -> bool:
        """Whether a short side branch lies along a printed line, which could not be told from ink there."""
        return length(points) < _REST_MM * self.px_mm and any(self.on_print(self.on_page(points)))

    def on_print(self, spots: FloatArray) -> tuple[bool, bool]:
        """Whether some spots of the page all lie along one printed line across, and along one down."""
        x, y = spots.T
        aside = self.entry.lines_aside
        levels = [*self.entry.lines.lines_mm, *(level for level, _, _ in lines_across(aside))]
        return any(np.abs(y - level).max() < _REST_OFF_MM for level in levels), any(
            np.abs(x - one.at).max() < _REST_OFF_MM
            and one.start - _REST_OFF_MM < y.mean() < one.end + _REST_OFF_MM
            for one in lines_down(aside)
        )

    def in_ring(self, best: tuple[float, float, float]) -> IntArray | None:
        """Where its ink is in a ring, shape (2, n), if a tick may be there; None if not."""
        left, top, right, bottom = _ring_box(best)
        x, y = self.corner_mm
        tall, wide = (size / self.px_mm for size in self.mask.shape)
        if left > x + wide or top > y + tall or right < x or bottom < y:
            return None
        away, seen = _from_ring(self.mask, best, self.corner_mm, self.px_mm)
        if not _is_ticked(away, seen, best[2], self.px_mm, _TICK_ON_INK):
            return None
        return seen[:, away < _TICK_REACH]

    def without_tick(self, seen: IntArray) -> CellInk:
        """The same without some of its ink, shape (2, n), which is a tick, and what hung on by it alone."""
        pieces, _, _ = _pieces(self.mask)
        reaching = np.isin(pieces, pieces[tuple(seen)])
        mask = self.mask.copy()
        mask[tuple(seen)] = False
        parts, _, sizes = _pieces(mask & reaching)
        if len(sizes):
            mask &= ~reaching | (parts == 1 + sizes.argmax())
        return replace(self, mask=mask)

    def lines(self, graph: InkGraph) -> Lines:
        """The middle lines in small steps, letter space."""
        ruling = self.entry.lines
        return stepped(
            graph, self.px_mm * ruling.xh_mm, lambda points: ruling.to_letter(self.on_page(points))
        )


def cells_of(dark: Darkness, page: Page) -> list[CellInk]:
    """The ink of every place of a page, from its darkness, out of which print is taken on the way."""
    pale = _pale(dark, page.entries)
    without_print(dark, page, pale)
    taken = [one.box for one in page.entries] + [_ring_box(one.best) for one in page.entries if one.best]
    about = [_about(dark, entry, pale) for entry in page.entries]
    owned = own_ink(about, dark.px_mm)
    return _without_ghosts(
        [_cell(one, own, free, taken, dark.px_mm) for one, (own, free) in zip(about, owned, strict=True)]
    )


def _without_ghosts(cells: list[CellInk]) -> list[CellInk]:
    """Without what is far paler than all else that was written on the page: it was rubbed out."""
    levels = [cell.dark for cell in cells if cell.mask.any()]
    least = _OF_OTHERS * float(np.median(levels)) if len(levels) > 2 else _ALONE_LEAST
    return [
        replace(cell, mask=np.zeros_like(cell.mask)) if cell.mask.any() and cell.dark < least else cell
        for cell in cells
    ]


def _pale(dark: Darkness, entries: Iterable[Entry]) -> float:
    """How dark print to trace is on this page, where it was traced least; 0 where there is none to see."""
    seen = [
        np.quantile(dark.values[_pixels(dark, np.concatenate(one.printed))], _PALE_SHARE)
        for one in entries
        if one.printed
    ]
    pale = float(np.quantile(seen, _PALE_PLACES)) if seen else 0.0
    return pale if pale <= _PALE_MOST else 0.0


def _pixels(dark: Darkness, spots: FloatArray) -> tuple[np.ndarray, np.ndarray]:
    x, y = np.clip(np.floor(spots * dark.px_mm).astype(int), 0, np.array(dark.values.shape)[::-1] - 1).T
    return y, x


def _about(dark: Darkness, entry: Entry, pale: float) -> InkAbout:
    """The ink in and about a place, whosever it is."""
    left, top, right, bottom = (max(round(one * dark.px_mm), 0) for one in _around(entry))
    part = dark.values[top:bottom, left:right]
    corner, px_mm = (left / dark.px_mm, top / dark.px_mm), dark.px_mm * FINER
    fine = cv2.resize(part.astype(np.float32), None, fx=FINER, fy=FINER, interpolation=cv2.INTER_CUBIC)
    here = _inside(entry.box, corner, px_mm, fine.shape)
    if entry.best is not None:
        here |= _inside(_ring_box(entry.best), corner, px_mm, fine.shape)
    mask, level = _ink(fine, here, px_mm, dark.noise, pale if entry.printed else 0.0)
    return InkAbout(entry, mask, left, top, level)


def _cell(about: InkAbout, own: BoolArray, free: BoolArray, taken: Iterable[Area], page_px: float) -> CellInk:
    entry = about.entry
    corner, px_mm = (about.left / page_px, about.top / page_px), page_px * FINER
    above = _above(entry, taken, corner, px_mm, own.shape)
    dots = _dots(free, above, max(_DOT_LONGEST_MM, _DOT_LONGEST_XH * entry.lines.xh_mm), px_mm)
    ticked = entry.best is not None and _is_ticked(
        *_from_ring(free & ~dots, entry.best, corner, px_mm), entry.best[2], px_mm, _TICK_WIDE
    )
    down, across = _around_ink(own | dots | _inside(entry.box, corner, px_mm, own.shape))
    mask = _without_specks(own[down, across], px_mm) | dots[down, across]
    corner = (corner[0] + across.start / px_mm, corner[1] + down.start / px_mm)
    cell = CellInk(entry, mask, corner, px_mm, ticked, about.dark)
    _without_rests(cell)
    if entry.printed and mask.any():
        _without_dots(cell)
    if not _is_written(cell):
        return replace(cell, mask=np.zeros_like(mask))
    if entry.support is Support.FINISH:
        _with_print(cell)
    return cell


def _above(
    entry: Entry, taken: Iterable[Area], corner: tuple[float, float], px_mm: float, shape: tuple[int, int]
) -> BoolArray:
    """Above a place, where nothing else is: there may be the dot of a letter that was written too high."""
    left, top, right, _ = entry.box
    if not _has_dot(entry.expected):
        return np.zeros(shape, dtype=np.bool_)
    area = _inside((left, top - _ABOVE_XH * entry.lines.xh_mm, right, top), corner, px_mm, shape)
    for other in taken:
        if other[0] < right and other[2] > left and other[3] > top - _ABOVE_XH * entry.lines.xh_mm:
            area &= ~_inside(other, corner, px_mm, shape)
    return area


def _has_dot(text: str) -> bool:
    return any(letter(char).has_dot for char in text if char in EVERY)


def _is_written(cell: CellInk) -> bool:
    """Whether one piece of ink at least is as large as the smallest letter."""
    least = max(_LEAST_MM, _LEAST_XH * cell.entry.lines.xh_mm) * cell.px_mm
    _, boxes, _ = _pieces(cell.mask)
    return bool((boxes[:, 2:].max(axis=1, initial=0) > least).any())


def _pieces(mask: BoolArray) -> tuple[IntArray, IntArray, IntArray]:
    """What hangs together in a mask: the number of each place, 0 outside; of each piece left, top, width
    and height, shape (n, 4), and how many places it has.
    """
    part = _around_ink(mask)
    numbers: np.ndarray = np.zeros(mask.shape, dtype=np.int32)
    if not mask[part].size:
        return numbers, np.zeros((0, 4), dtype=np.int64), np.zeros(0, dtype=np.int64)
    _, found, facts, _ = cv2.connectedComponentsWithStats(
        np.ascontiguousarray(mask[part]).view(np.uint8), connectivity=8
    )
    numbers[part] = found
    down, across = part
    return numbers, np.asarray(facts[1:, :4] + [across.start, down.start, 0, 0]), np.asarray(facts[1:, 4])


def _around(entry: Entry) -> Area:
    left, top, right, bottom = entry.box
    xh = entry.lines.xh_mm
    beside = min(_BESIDE_MM, _BESIDE_XH * xh)
    below = bottom + _REACH_XH * xh
    if entry.best is not None:
        below = max(below, entry.best[1] + _TICK_RADII * entry.best[2])
    return left - beside, top - _REACH_XH * xh, right + beside, below


def _ring_box(best: tuple[float, float, float]) -> Area:
    x, y, radius = best
    return x - radius, y - radius, x + radius, y + radius


def _from_ring(
    mask: BoolArray, best: tuple[float, float, float], corner: tuple[float, float], px_mm: float
) -> tuple[FloatArray, IntArray]:
    """How far from the middle of a ring ink is, in its radii, and where: shapes (n,) and (2, n)."""
    x, y, radius = best
    seen = np.stack(np.unravel_index(np.flatnonzero(mask), mask.shape))
    off = (seen + 0.5) / px_mm + np.array([[corner[1] - y], [corner[0] - x]])
    return np.hypot(*off) / radius, seen


def _is_ticked(away: FloatArray, seen: IntArray, radius_mm: float, px_mm: float, wide: float) -> bool:
    """Whether ink is a tick in a ring: enough, and so many radii wide (a copier's streak goes down the page).

    Parameters
    ----------
    away, seen : arrays
        As of :func:`_from_ring`.
    """
    inside = seen[:, away < _TICK_INSIDE]
    if inside.shape[1] < _TICK_MM2 * px_mm**2:
        return False
    return bool(np.ptp(inside[1]) > wide * radius_mm * px_mm)


def _inside(box: Area, corner: tuple[float, float], px_mm: float, shape: tuple[int, int]) -> BoolArray:
    x = (np.arange(shape[1]) + 0.5) / px_mm + corner[0]
    y = (np.arange(shape[0]) + 0.5) / px_mm + corner[1]
    across, down = (x > box[0]) & (x < box[2]), (y > box[1]) & (y < box[3])
    return np.asarray(down[:, None] & across)


def _ink(
    fine: np.ndarray, here: BoolArray, px_mm: float, noise: float, pale: float
) -> tuple[BoolArray, float]:
    """Where there is ink, and how dark that is in its own place."""
    least = max(_INK_LEAST, 6 * noise)
    if pale:
        least = max(least, pale + _ABOVE_PALE)
    seen = fine[here & (fine > least)]
    if len(seen) < _STRONG_AREA_MM2 * px_mm**2:
        return np.zeros(fine.shape, dtype=np.bool_), 0.0
    level = float(np.quantile(seen, 0.8))
    limit, weak = max(least, _OF_INK * level), max(least, _OF_INK_WEAK * level)
    if pale:
        limit = max(limit, pale + _OF_ABOVE_PALE * (level - pale))
        weak = limit
    # a line may go pale for a moment
    mask = np.asarray(fine > weak)
    part = _around_ink(mask)
    mask[part] = _hysteresis(fine[part], weak, limit)
    part = _around_ink(mask)
    closed = cv2.morphologyEx(mask[part].astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8)) > 0
    mask[part] = _without_grain(np.asarray(closed), px_mm)
    return mask, level


def _hysteresis(fine: np.ndarray, weak: float, strong: float) -> BoolArray:
    """What is darker than `weak` and hangs together with something darker than `strong`.

    As skimage.filters.apply_hysteresis_threshold, in a fifth of its time.
    """
    count, pieces = cv2.connectedComponents((fine > weak).view(np.uint8), connectivity=4)
    kept = np.zeros(count, dtype=np.bool_)
    kept[pieces[fine > strong]] = True
    return where_kept(np.asarray(pieces), kept)


def _without_grain(mask: BoolArray, px_mm: float) -> BoolArray:
    """Without the small holes that the paper's grain leaves in a pencil's line."""
    most = _SPECK_MM2 * px_mm**2
    out = mask.astype(np.uint8)
    edges, tree = cv2.findContours(out, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    for edge, (*_, outer) in zip(edges, tree[0] if edges else (), strict=True):
        if outer < 0 or len(edge) > 2 * most + _HOLE_EDGE_MORE:  # it goes around ink; around much paper
            continue
        left, top, width, height = cv2.boundingRect(edge)
        part, within = out[top : top + height, left : left + width], np.zeros((height, width), dtype=np.uint8)
        cv2.drawContours(within, [edge], 0, 1, cv2.FILLED, offset=(-left, -top))
        if int((within > part).sum()) < most:
            part |= within
    return np.asarray(out.view(np.bool_))


def _around_ink(mask: BoolArray) -> tuple[slice, slice]:
    """The smallest part of a mask that has all that is set, and a place around it."""
    left, top, width, height = cv2.boundingRect(mask.view(np.uint8))
    if not width:
        return slice(0, 0), slice(0, 0)
    return slice(max(top - 1, 0), top + height + 1), slice(max(left - 1, 0), left + width + 1)


def _without_specks(mask: BoolArray, px_mm: float) -> BoolArray:
    pieces, _, sizes = _pieces(mask)
    return where_kept(pieces, np.append(False, sizes >= _SPECK_MM2 * px_mm**2))


def _dots(mask: BoolArray, above: BoolArray, longest_mm: float, px_mm: float) -> BoolArray:
    """The dots of ink of nobody's that are above a place."""
    if not above.any():
        return np.zeros_like(mask)
    pieces, boxes, sizes = _pieces(mask)
    over = np.bincount(pieces[above], minlength=len(sizes) + 1)[1:]
    longer, shorter = boxes[:, 2:].max(axis=1), boxes[:, 2:].min(axis=1)
    dot = (longer <= longest_mm * px_mm) & (shorter >= _DOT_ROUND * longer) & (over > _OWN_SHARE * sizes)
    return where_kept(pieces, np.append(False, dot & (sizes >= _SPECK_MM2 * px_mm**2)))


def _without_rests(cell: CellInk) -> None:
    """Take out what is left of printed lines by itself: of dashes, and where edges of boxes cross lines.

    The dot of a letter may lie on a line, where it is not to be told from what is left of that.
    """
    pieces, boxes, _ = _pieces(cell.mask)
    if len(boxes) < 2:
        return
    has_dots = _has_dot(cell.entry.expected)
    for number, box in enumerate(boxes, start=1):
        if box[2:].max() > _REST_MM * cell.px_mm:
            continue
        left, top, width, height = box
        area = np.s_[top : top + height, left : left + width]
        piece = pieces[area] == number
        down, across = np.nonzero(piece)
        spots = np.column_stack([across + left, down + top]).astype(np.float64) + 0.5
        on_print = cell.on_print(cell.on_page(spots))
        if all(on_print) or (any(on_print) and not (has_dots and _is_round(box))):
            cell.mask[area] &= ~piece


def _is_round(box: IntArray) -> bool:
    """Whether a piece is as wide as high, or nearly: left, top, width, height."""
    return bool(box[2:].min() >= _DOT_ROUND * box[2:].max())


def _without_dots(cell: CellInk) -> None:
    """Take dots to trace out that nobody traced."""
    way = np.concatenate([np.array(stroke) for stroke in cell.entry.printed])
    for piece, middle in _short_pieces(cell, way, _DOT_MM, _DOT_MM / 3):
        if not _is_models_dot(cell, middle):
            cell.mask[piece] = False


def _short_pieces(
    cell: CellInk, spots: FloatArray, longest_mm: float, near_mm: float
) -> Iterator[tuple[BoolArray, FloatArray]]:
    """Masks of short pieces of ink near any of some spots of the page, and the middle of each, page mm."""
    pieces, boxes, _ = _pieces(cell.mask)
    for number, (left, top, width, height) in enumerate(boxes, start=1):
        if max(width, height) > longest_mm * cell.px_mm:
            continue
        middle = cell.on_page(np.array([[left + width / 2, top + height / 2]]))
        if np.hypot(*(spots - middle).T).min() < near_mm:
            yield pieces == number, middle


def _is_models_dot(cell: CellInk, middle: FloatArray) -> bool:
    """Whether a short piece lies on a stroke that is a dot itself."""
    short = (np.array(one) for one in cell.entry.printed if np.ptp(np.array(one), axis=0).max() < _DOT_MM)
    return any(np.hypot(*(one - middle).T).min() < _DOT_MM / 2 for one in short)


def _with_print(cell: CellInk) -> None:
    """Add what is printed of a letter that was to be finished, in the width of the child's line."""
    width = max(cell.graph().width, 2.0)
    drawn = np.zeros(cell.mask.shape, dtype=np.uint8)
    for stroke in cell.entry.printed:
        points = (np.array(stroke) - np.array(cell.corner_mm)) * cell.px_mm - 0.5
        cv2.polylines(
            drawn,
            [np.round(points * 16).astype(np.int32).reshape(-1, 1, 2)],
            False,
            255,
            round(width),
            shift=4,
        )
    cell.mask[drawn > 0] = True
