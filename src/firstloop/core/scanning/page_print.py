"""What is printed on a page, taken out of it: codes, rings, lines, numbers."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

import numpy as np

from firstloop.core.scanning.darkness import Darkness, ring_middle, without_ring, without_spot, without_word
from firstloop.core.scanning.printed_lines import PrintedLine, without_lines
from firstloop.core.scanning.streaks import without_streaks
from firstloop.core.sheets.scene import Entry, Page, Rule, Spot, Words

_LEADER_MM, _POINT_MM = 0.3, 0.3528
_LINE_OUT_MM = 8.0
_EDGE_MM = 0.4
_CODE_MM = 0.5


def without_print(dark: Darkness, page: Page, pale: float) -> None:
    """Take out of a page what is printed on it and about its places; print to trace stays.

    Parameters
    ----------
    pale : float
        How dark print to trace is; 0 where there is none.
    """
    _without_codes(dark, page)
    rings = [ring for entry in page.entries for ring in _rings(dark, entry, pale)]
    _without_rings(dark, rings)
    _without_lines(dark, page, pale)
    without_streaks(dark)
    _without_rings(dark, rings)  # once more: where a line ran into a ring there was more than a ring
    for entry in page.entries:  # now that no line leads from a ring to its number
        _without_numbers(dark, entry)


def _without_codes(dark: Darkness, page: Page) -> None:
    """Take the marks of a page out, and its codes, of which a place near them has some above it."""
    for corners in (one.corners for many in (page.marks, page.codes) for one in many):
        (left, top), (right, bottom) = np.min(corners, axis=0), np.max(corners, axis=0)
        without_spot(dark, left - _CODE_MM, top - _CODE_MM, right + _CODE_MM, bottom + _CODE_MM)


def _without_lines(dark: Darkness, page: Page, pale: float) -> None:
    """Take printed lines out: down the page, rulings, what else goes across, and the ways to numbers."""
    aside = [line for entry in page.entries for line in entry.lines_aside]
    without_lines(dark, lines_down(aside), upright=True)
    rulings = _rulings(page, lines_across(aside))
    for lines in rulings:
        without_lines(dark, lines, pale=pale)
    ruled = [line for lines in rulings for line in lines]
    for alike in [aside, *_drawn_alike(page)]:
        others = [at for at in lines_across(alike) if all(abs(at[0] - line.at) > _EDGE_MM for line in ruled)]
        without_lines(dark, [PrintedLine(*one) for one in others])
    for start, end in aside:
        if start[0] != end[0] and start[1] != end[1]:
            _without_leader(dark, start, end)


def _drawn_alike(page: Page) -> list[list[tuple[Spot, Spot]]]:
    """The lines of a page itself, as the one for a name, by how they are drawn."""
    alike: dict[object, list[tuple[Spot, Spot]]] = {}
    for one in page.items:
        if isinstance(one, Rule):
            alike.setdefault((one.width_mm, one.tone, one.dash_mm), []).append((one.start, one.end))
    return list(alike.values())


def lines_across(aside: Iterable[tuple[Spot, Spot]]) -> list[tuple[float, float, float]]:
    """Lines across the page, each once: how far down, from where to where."""
    return sorted({(a[1], min(a[0], b[0]), max(a[0], b[0])) for a, b in aside if a[1] == b[1]})


def lines_down(aside: Iterable[tuple[Spot, Spot]]) -> list[PrintedLine]:
    """Lines down the page, the edges of boxes that stand on one another as one."""
    out: list[PrintedLine] = []
    for x, top, bottom in sorted((a[0], min(a[1], b[1]), max(a[1], b[1])) for a, b in aside if a[0] == b[0]):
        if out and out[-1].at == x and top <= out[-1].end:
            out[-1] = replace(out[-1], end=max(bottom, out[-1].end))
        else:
            out.append(PrintedLine(x, top, bottom))
    return out


def _rulings(page: Page, levels: Iterable[tuple[float, float, float]]) -> list[list[PrintedLine]]:
    """Ruled lines from side to side, base lines together, and where edges or print to trace lie on them."""
    spans: dict[float, tuple[float, float]] = {}
    traced: dict[float, list[tuple[float, float]]] = {}
    height: dict[float, float] = {}
    for entry in page.entries:
        left, _, right, _ = entry.box
        for y in entry.lines.lines_mm:
            low, high = spans.get(y, (left, right))
            spans[y] = min(low, left - _LINE_OUT_MM), max(high, right + _LINE_OUT_MM)
            height[y] = round((entry.lines.base_mm - y) / entry.lines.xh_mm, 2)
            if entry.printed:
                traced.setdefault(y, []).append((left, right))
    alike: dict[float, list[PrintedLine]] = {}
    for y, (start, end) in spans.items():
        double = tuple((a, b) for at, a, b in levels if abs(at - y) <= _EDGE_MM)
        line = PrintedLine(y, start, end, double, tuple(traced.get(y, ())))
        alike.setdefault(height[y], []).append(line)
    return list(alike.values())


def _rings(dark: Darkness, entry: Entry, pale: float) -> Iterator[tuple[float, float, float, float]]:
    """The rings printed for a place, where they are: middle and radius, mm, and what is print beside them."""
    if entry.best is not None:
        x, y, radius = entry.best
        yield *ring_middle(dark, x, y, radius), radius, 0.0
    for x, y, radius in entry.start_rings:
        yield *ring_middle(dark, x, y, radius), radius, pale if entry.printed else 0.0


def _without_rings(dark: Darkness, rings: Iterable[tuple[float, float, float, float]]) -> None:
    for ring in rings:
        without_ring(dark, *ring)


def _without_numbers(dark: Darkness, entry: Entry) -> None:
    for item in entry.aside:
        if isinstance(item, Words):
            size, (x, y) = item.size_pt * _POINT_MM, item.at
            wide = 0.45 * size * len(item.text)
            without_word(dark, x - wide, y - 0.95 * size, x + wide, y + 0.2 * size)


def _without_leader(dark: Darkness, start: Spot, end: Spot) -> None:
    """Take the short line from a ring to its number out, but where it leaves the ring."""
    for share in np.linspace(0.25, 1, 12):
        x, y = np.array(start) + share * (np.array(end) - np.array(start))
        without_spot(dark, x - _LEADER_MM / 2, y - _LEADER_MM / 2, x + _LEADER_MM / 2, y + _LEADER_MM / 2)
