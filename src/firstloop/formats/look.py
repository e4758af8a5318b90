"""How a scene looks in print, whatever draws it: colours, widths and dashes, and the squares of its codes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache

import segno

from firstloop.core.sheets.marks import black_modules, merged
from firstloop.core.sheets.scene import Area, Box, Code, Item, Page, Rule, Tone, Words, Written
from firstloop.core.sheets.wish import Printing

_COLOURS: dict[Printing, dict[Tone, str]] = {
    Printing.COLOUR: {
        Tone.INK: "#1b2a44",
        Tone.GREY: "#565f6e",
        Tone.PALE: "#c8d1e0",
        Tone.STRONG: "#5b78a6",
        Tone.FAINT: "#b9c6da",
        Tone.BAND: "#f5eee0",
    },
    Printing.GREY: {
        Tone.INK: "#000000",
        Tone.GREY: "#555555",
        Tone.PALE: "#c4c4c4",
        Tone.STRONG: "#777777",
        Tone.FAINT: "#b0b0b0",
        Tone.BAND: "#f4f4f4",
    },
    Printing.BLACK: {
        Tone.INK: "#000000",
        Tone.GREY: "#000000",
        Tone.PALE: "#000000",
        Tone.STRONG: "#000000",
        Tone.FAINT: "#000000",
        Tone.BAND: "#ffffff",
    },
}
# A copier that knows black only loses a pale line and keeps dots: two fifths of a faint line are black, of a
# strong one three. None is longer than a pencil's line is wide; dashes come back as dark as the ink on them.
_BLACK_LINE_MM, _BLACK_DASHED_MM = 0.2, (0.2, 0.6)
_BLACK_DOTS_MM = {Tone.STRONG: (0.3, 0.2), Tone.FAINT: (0.2, 0.3)}
_DOT_OF_PEN, _DOT_LEAST_MM, _DOT_APART = 0.45, 0.3, 2.6  # of a pen's width; of a dot's own


@dataclass(frozen=True)
class Look:
    """The colour of an item, the width of its line, mm, and its dash; a dash of no length is a dot."""

    colour: str
    width_mm: float = 0.0
    dash_mm: tuple[float, float] | None = None

    @property
    def round_ends(self) -> bool:
        """Whether its ends are round: of all but dashes."""
        return self.dash_mm is None or not self.dash_mm[0]


def look(item: Item, printing: Printing) -> Look:
    """How an item is drawn."""
    colour = _COLOURS[printing][item.tone]
    if isinstance(item, Words):
        return Look(colour)
    width, dash = item.width_mm, item.dash_mm if isinstance(item, Rule | Box) else None
    black = printing is Printing.BLACK
    if isinstance(item, Written) and (item.dotted or (black and item.tone is Tone.PALE)):
        dot = max(_DOT_LEAST_MM, _DOT_OF_PEN * width)
        return Look(_COLOURS[printing][Tone.PALE if black else Tone.GREY], dot, (0.0, _DOT_APART * dot))
    if isinstance(item, Rule | Box) and black and item.tone in _BLACK_DOTS_MM:
        width, dash = min(width, _BLACK_LINE_MM), _BLACK_DASHED_MM if dash else _BLACK_DOTS_MM[item.tone]
    return Look(colour, width, dash)


def washes_first(items: Iterable[Item]) -> list[Item]:
    """Items in the order of drawing: nothing is hidden by a wash."""
    return sorted(items, key=lambda one: not (isinstance(one, Box) and one.filled))


def black_areas(page: Page) -> Iterator[Area]:
    """The black squares of the marks and codes of a page."""
    for mark in page.marks:
        yield from black_modules(mark)
    for code in page.codes:
        yield from _code_areas(code)


def _code_areas(code: Code) -> list[Area]:
    (left, top), (right, _), *_ = code.corners
    return merged(_code_rows(code.text), left, top, right - left)


@lru_cache(maxsize=64)
def _code_rows(text: str) -> tuple[str, ...]:
    matrix = segno.make(text, error="q", micro=False, boost_error=False).matrix
    return tuple("".join("01"[not dark] for dark in row) for row in matrix)
