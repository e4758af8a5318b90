"""A page in a picture, read: what is in each place, and what the checker says of it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import groupby

import numpy as np
from scipy.spatial import KDTree

from firstloop.core.check.group import JUDGED, GroupResult, check_group
from firstloop.core.check.ink.limits import too_much
from firstloop.core.check.letter import check_letters
from firstloop.core.check.match.cases import Asked
from firstloop.core.check.results import LetterResult
from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.check.ways.follow import Lines
from firstloop.core.check.ways.graph import InkGraph
from firstloop.core.check.ways.traces import along_lines
from firstloop.core.check.whole.placement import PlacedLetter
from firstloop.core.check.whole.whole import Whole, judge_whole
from firstloop.core.ink import Evidence, InkGroup, InkStroke
from firstloop.core.letterforms.alphabets import ALPHABETS, EVERY
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.scanning.cells import CellInk, cells_of
from firstloop.core.scanning.darkness import darkness
from firstloop.core.scanning.find import FoundPage
from firstloop.core.scanning.states import BestRing, Found, letter_state, text_state, tick_on_letter
from firstloop.core.scanning.straighten import PX_MM, Straight, straightened
from firstloop.core.sheets.scene import Entry, Page

_ALPHABET = "".join(ALPHABETS["lower case"])
_ROOM_XH = 0.3  # beside the ink of a letter in a row
_COUNT = (Found.INK, Found.WRITTEN_OVER)


@dataclass(frozen=True)
class Terms:
    """How ink is judged: the house's style, how strict, and what a class has accepted."""

    style: HouseStyle = DEFAULT_STYLE
    level: Level = Level.GROWING
    tolerances: Mapping[str, float] = field(default_factory=dict)
    chars: str = ""

    def of(self, script: str) -> Terms:
        """The same for ink of this script."""
        return replace(self, style=replace(self.style, script=Script(script)))


@dataclass(frozen=True, eq=False)
class ReadEntry:
    """One place of a page.

    Parameters
    ----------
    ink : InkGroup or None
        The way found, page millimetres; None where there is nothing.
    letter, group : results
        What the checker says of a letter, or of a word or line; None where nothing was judged.
    """

    entry: Entry
    found: Found
    is_ticked: bool = False
    ink: InkGroup | None = None
    letter: LetterResult | None = None
    group: GroupResult | None = None


@dataclass(frozen=True, eq=False)
class ReadPage:
    """A page, read.

    Parameters
    ----------
    rows : dict
        By the number of each row of letters, what is judged of it as a whole.
    """

    found: FoundPage
    straight: Straight
    entries: tuple[ReadEntry, ...]
    rows: dict[int, Whole]


def read_page(grey: np.ndarray, found: FoundPage, script: str, terms: Terms) -> ReadPage:
    """Read a page that was found in a picture; 8 bit, shape (height, width).

    Parameters
    ----------
    script : str
        Of the sheet.
    """
    assert found.page is not None
    straight = straightened(grey, found)
    entries = read_entries(straight.grey, found.page, script, terms)
    return ReadPage(found, straight, entries, judge_rows(entries, terms.of(script)))


def read_entries(grey: np.ndarray, page: Page, script: str, terms: Terms) -> tuple[ReadEntry, ...]:
    """Read every place of a page that lies straight, :data:`PX_MM` pixels a millimetre."""
    terms = terms.of(script)
    cells = [(one, one.graph()) for one in cells_of(darkness(grey, PX_MM), page)]
    pen_mm = _pen_mm(cells)
    looked = [_looked_at(cell, graph, pen_mm, terms) for cell, graph in _freed_from_ticks(cells, terms)]
    letters = check_letters([_asked(one, terms) for one in looked if _is_asked(one)])
    judged = iter(letters)
    return tuple(_judged(one, next(judged) if _is_asked(one) else None, terms) for one in looked)


def _pen_mm(cells: Sequence[tuple[CellInk, InkGraph]]) -> float:
    """How wide the pen of a page writes: the usual width where something is written."""
    widths = [graph.width / cell.px_mm for cell, graph in cells if graph.edges and not cell.entry.printed]
    return float(np.median(widths)) if widths else np.inf


def _looked_at(cell: CellInk, graph: InkGraph, pen_mm: float, terms: Terms) -> ReadEntry:
    """What is in one place, with the way along its ink."""
    entry = cell.entry
    if not graph.edges:
        return ReadEntry(entry, Found.EMPTY, cell.is_ticked)
    chars = terms.chars or (_ALPHABET if entry.is_letter else JUDGED)
    lines = cell.lines(graph)
    script = str(terms.style.script)
    plain = InkGroup(_runs(lines, entry), entry.lines, entry.expected, script, evidence=Evidence.SCAN)
    unknown = not set(entry.expected.replace(" ", "")) <= set(EVERY)
    if unknown:
        return ReadEntry(entry, Found.UNCLEAR, cell.is_ticked, plain)
    inked_xh = float(cell.mask.sum()) / cell.px_mm**2 / pen_mm / entry.lines.xh_mm
    if entry.is_letter:
        found = letter_state(lines, inked_xh, pen_mm / entry.lines.xh_mm, entry.expected, terms.style, chars)
        if found is Found.WRITTEN_OVER and entry.printed:
            found = Found.INK  # over what is printed
    else:
        found = text_state(lines, inked_xh, entry.expected, terms.style)
    if found is Found.CROSSED_OUT or too_much(plain, len(entry.expected.replace(" ", ""))):
        return ReadEntry(entry, Found.CROSSED_OUT, cell.is_ticked, plain)
    text = " ".join(entry.expected.split())
    ink = along_lines(plain, lines, text, terms.style, chars)
    return ReadEntry(entry, found, cell.is_ticked, ink)


def _freed_from_ticks(
    cells: Sequence[tuple[CellInk, InkGraph]], terms: Terms
) -> list[tuple[CellInk, InkGraph]]:
    """Ink and its middle lines without ticks that a tail runs into or, from below, a stem."""
    rings = [cell.entry for cell, _ in cells if cell.entry.best is not None and not cell.is_ticked]
    ticked = {cell.entry.key for cell, _ in cells if cell.is_ticked}
    out = list(cells)
    for at, (cell, _) in enumerate(cells):
        for ring in rings if _is_followed(cell.entry) else ():
            if (freed := _freed_from_tick(*out[at], ring, terms)) is not None:
                out[at] = freed
                ticked.add(ring.key)
    return [(replace(cell, is_ticked=cell.entry.key in ticked), graph) for cell, graph in out]


def _freed_from_tick(
    cell: CellInk, graph: InkGraph, place: Entry, terms: Terms
) -> tuple[CellInk, InkGraph] | None:
    """Ink and its middle lines without a tick in the ring of a place; None where there is none."""
    assert place.best is not None
    seen = cell.in_ring(place.best)
    if seen is None or not (rest := cell.without_tick(seen).graph()).edges:
        return None
    x, y, radius = place.best
    ruling, lines = cell.entry.lines, cell.lines(graph)
    (middle,) = ruling.to_letter(np.array([[x, y]]))
    ring = BestRing(middle, radius / ruling.xh_mm)
    chars = terms.chars or _ALPHABET
    tick = tick_on_letter(lines, cell.lines(rest), ring, cell.entry.expected, terms.style, chars)
    if not tick.any():
        return None
    places = ruling.to_letter(cell.on_page(seen[::-1].T.astype(np.float64) + 0.5))
    _, nearest_spot = KDTree(lines.spots).query(places)
    freed = cell.without_tick(seen[:, tick[nearest_spot]])
    return freed, freed.graph()


def _runs(lines: Lines, entry: Entry) -> tuple[InkStroke, ...]:
    return tuple(InkStroke(entry.lines.to_page(lines.spots[run])) for run in lines.runs)


def _is_followed(entry: Entry) -> bool:
    return entry.is_letter and entry.expected in EVERY and entry.expected not in ALPHABETS["marks"]


def _is_asked(one: ReadEntry) -> bool:
    return _is_followed(one.entry) and one.ink is not None and one.found in _COUNT


def _asked(one: ReadEntry, terms: Terms) -> Asked:
    assert one.ink is not None
    return Asked(one.ink, one.entry.expected, terms.style, terms.level, terms.chars, terms.tolerances)


def _judged(one: ReadEntry, letter: LetterResult | None, terms: Terms) -> ReadEntry:
    if one.ink is None or one.found not in _COUNT or one.entry.is_letter:
        return replace(one, letter=letter)
    given = (terms.style, terms.level, terms.chars, terms.tolerances)
    return replace(one, group=check_group(one.ink, *given, goes_its_way=True))


def judge_rows(entries: Sequence[ReadEntry], terms: Terms) -> dict[int, Whole]:
    """What is judged of each row of letters as a whole: evenness, and the line of its feet."""
    return {
        number: judge_whole(
            "".join(one.entry.expected for one in row),
            [_placed(one) for one in row],
            terms.style,
            Strictness(terms.level, terms.tolerances),
        )
        for number, row in _rows(entries)
        if any(one.letter for one in row)
    }


def _rows(entries: Sequence[ReadEntry]) -> Iterator[tuple[int, list[ReadEntry]]]:
    """Rows of one letter, without those of words."""
    for number, row in groupby(entries, key=lambda one: one.entry.row):
        letters = [one for one in row if one.entry.is_letter]
        if letters and len({one.entry.expected for one in letters}) == 1:
            yield number, letters


def _placed(one: ReadEntry) -> PlacedLetter:
    if one.letter is None:
        return PlacedLetter(one.entry.expected, 0, None)
    sized = any(finding.code.startswith("size.") for finding in one.letter.findings)
    return PlacedLetter(one.entry.expected, 0, one.letter.place, sized)


def letters_of(one: ReadEntry) -> list[ReadEntry]:
    """A row of one letter written again and again on a line, letter by letter; anything else as it is."""
    chars = one.entry.expected.split()
    if one.group is None or one.entry.is_letter or len(chars) < 2 or len(set(chars)) > 1 or len(chars[0]) > 1:
        return [one]
    written = zip(one.group.inks, one.group.letters, strict=True)
    return [
        _one_letter(one, number, ink.strokes, letter)
        for number, (ink, letter) in enumerate(written, start=1)
        if ink.strokes
    ]


def _one_letter(
    one: ReadEntry, number: int, strokes: tuple[InkStroke, ...], letter: LetterResult
) -> ReadEntry:
    """A letter of a row as a place of its own, as wide as its ink and a little more."""
    x = np.concatenate([stroke.points_mm[:, 0] for stroke in strokes])
    room = _ROOM_XH * one.entry.lines.xh_mm
    box = (float(x.min()) - room, one.entry.box[1], float(x.max()) + room, one.entry.box[3])
    key, char = f"{one.entry.key}c{number}", letter.expected
    assert one.ink is not None
    return ReadEntry(
        replace(one.entry, key=key, place=number, expected=char, box=box, aside=()),
        Found.INK,
        ink=replace(one.ink, strokes=strokes, truth=char),
        letter=letter,
    )
