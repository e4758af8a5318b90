"""A page as a scene: everything on it in millimetres, origin at the top left, y downwards.

PDF, SVG and PNG draw this scene and nothing else; what is to be read back later (cells, lines, marks,
codes) stands beside the items it was made with.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from itertools import pairwise

from firstloop.core.letterforms.model import Letter
from firstloop.core.ruling import Ruling
from firstloop.core.supports import Support

Spot = tuple[float, float]
Area = tuple[float, float, float, float]
"""Left, top, right, bottom."""


class Tone(StrEnum):
    """How dark something is printed; what it comes to is for the output to say, colour or black-only."""

    INK = "ink"
    GREY = "grey"
    PALE = "pale"
    STRONG = "strong"
    FAINT = "faint"
    BAND = "band"


@dataclass(frozen=True)
class Rule:
    """A straight line; dashed where it has a dash, (on, off)."""

    start: Spot
    end: Spot
    width_mm: float
    tone: Tone
    dash_mm: tuple[float, float] | None = None


@dataclass(frozen=True)
class Box:
    """A rectangle, filled or only drawn around."""

    area: Area
    tone: Tone
    filled: bool = False
    width_mm: float = 0.2
    dash_mm: tuple[float, float] | None = None


def _edges(box: Box) -> list[tuple[Spot, Spot]]:
    """The four lines around a box."""
    left, top, right, bottom = box.area
    corners = ((left, top), (right, top), (right, bottom), (left, bottom), (left, top))
    return list(pairwise(corners))


@dataclass(frozen=True)
class Way:
    """A run of points: ink, or an arrow's shaft."""

    points: tuple[Spot, ...]
    width_mm: float
    tone: Tone


@dataclass(frozen=True, eq=False)
class Written:
    """A letter, word or part of one as a pen writes it, its origin at a place on the base line."""

    letter: Letter
    origin: Spot
    xh_mm: float
    width_mm: float
    tone: Tone
    dotted: bool = False


@dataclass(frozen=True)
class Words:
    """Words in type with their base line's left end, or its middle, at a place."""

    text: str
    at: Spot
    size_pt: float
    bold: bool = False
    tone: Tone = Tone.INK
    centred: bool = False


@dataclass(frozen=True)
class Ring:
    """An open circle: to be ticked, or where a stroke starts, then with paper inside."""

    centre: Spot
    radius_mm: float
    width_mm: float
    tone: Tone
    on_paper: bool = False


Item = Rule | Box | Way | Written | Words | Ring


@dataclass(frozen=True)
class Mark:
    """A mark of DICT_4X4_50 by which a page is found; corners clockwise from its own top left."""

    number: int
    corners: tuple[Spot, Spot, Spot, Spot]


@dataclass(frozen=True)
class Code:
    """A code that says which page this is; corners as of a mark."""

    text: str
    corners: tuple[Spot, Spot, Spot, Spot]


@dataclass(frozen=True)
class Entry:
    """Something a child writes on the page, in its own box on its own lines.

    Parameters
    ----------
    key : str
        Tells it from all others of the sheet.
    row, place : int
        Counted from 1.
    expected : str
        One letter, or a word or line.
    best : (x, y, radius) or None
        The ring to tick if it is the best one.
    printed : tuple of strokes
        What is printed in it to trace or finish.
    aside : tuple of items
        What else is printed in it and is no writing: start rings with their numbers, boxes.
    """

    key: str
    row: int
    place: int
    expected: str
    support: Support
    box: Area
    lines: Ruling
    best: tuple[float, float, float] | None = None
    printed: tuple[tuple[Spot, ...], ...] = ()
    aside: tuple[Item, ...] = ()

    @property
    def is_letter(self) -> bool:
        """Whether it is a letter by itself."""
        return len(self.expected) == 1

    @property
    def start_rings(self) -> list[tuple[float, float, float]]:
        """The rings its letter begins in: middle and radius."""
        return [(*one.centre, one.radius_mm) for one in self.aside if isinstance(one, Ring)]

    @property
    def lines_aside(self) -> list[tuple[Spot, Spot]]:
        """The ends of the straight lines among what is printed aside: leaders, and the edges of boxes."""
        rules = [(one.start, one.end) for one in self.aside if isinstance(one, Rule)]
        return rules + [edge for one in self.aside if isinstance(one, Box) for edge in _edges(one)]


@dataclass(frozen=True)
class Page:
    """One page.

    Parameters
    ----------
    rows : tuple of (number, top, bottom)
        Where each row of the wish stands on it, by its place among the rows, mm.
    """

    number: int
    size_mm: tuple[float, float]
    items: tuple[Item, ...]
    entries: tuple[Entry, ...] = ()
    marks: tuple[Mark, ...] = ()
    codes: tuple[Code, ...] = ()
    rows: tuple[tuple[int, float, float], ...] = ()


@dataclass(frozen=True)
class Sheet:
    """Pages that belong together, known by a code of six characters.

    Parameters
    ----------
    fit : sequence of mapping
        For each row of the wish, how many of each of its texts stand on a line.
    room_mm : float
        What is left on the last page.
    """

    code: str
    script: str
    pages: tuple[Page, ...]
    fit: Sequence[Mapping[str, int]] = field(default=())
    room_mm: float = 0.0
