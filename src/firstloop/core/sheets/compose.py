"""Laying a sheet out: rows of letters and words on ruled lines, with help from left to right.

Every row has its own lines; a pattern that does not fit on one line goes on on the next, and rows that do
not fit on a page go on on the next page.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from firstloop.core.curves import FloatArray
from firstloop.core.guides import guides
from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.sheets.marks import CODE_MM, EDGE_MM, MARK_MM, codes, marks
from firstloop.core.sheets.scene import (
    Area,
    Box,
    Entry,
    Item,
    Lines,
    Page,
    Ring,
    Rule,
    Sheet,
    Spot,
    Tone,
    Way,
    Words,
)
from firstloop.core.sheets.wish import Content, Help, RowWish, SheetError, SheetWish
from firstloop.core.slots import slot_width_xh
from firstloop.core.supports import Support

PAGES_MOST = 60
PEN_XH = 0.09  # width of a printed letter's line
WORD_ROOM_XH = 1.4  # clear paper between two words of a row
TICK_MM = 1.7
_TICK_BELOW_MM = 0.7
_RING_MM, _LABEL_PT = 1.1, 6.5
_STRONG_MM, _FAINT_MM = 0.3, 0.18
_DASH_MM = (1.2, 0.8)
_HEAD_MM, _FOOT_MM = 10.0, 6.0
_TITLE_PT, _SMALL_PT = 13.0, 8.0
BAR_MM = 100.0
_SAMPLE = 2  # every so many of a letter's points, 0.01 xh apart, is enough for print


@dataclass(frozen=True)
class Fit:
    """How many of a text stand on a line, and how wide the line is."""

    text: str
    count: int
    line_mm: float


def text_model(text: str, style: HouseStyle) -> Letter:
    """A letter, word or line as the style writes it.

    Raises
    ------
    SheetError
        If a character has no model.
    """
    lacking = [char for char in text if char != " " and char not in EVERY]
    if lacking or not text.strip():
        raise SheetError(f"there is no model for “{''.join(dict.fromkeys(lacking)) or text}”")
    return letter(text, style) if len(text) == 1 else word(text, style)


def slot_mm(model: Letter, xh_mm: float) -> float:
    """Room that one writing of a letter, word or line takes."""
    if len(model.char) == 1:
        return slot_width_xh(model) * xh_mm
    left, _, right, _ = model.bounds
    return (right - left + WORD_ROOM_XH) * xh_mm


def fits(text: str, style: HouseStyle, wish: SheetWish) -> Fit:
    """How many of a text stand on a line of this sheet.

    Raises
    ------
    SheetError
        If it is too long for one; the message says at which size it would fit.
    """
    model = text_model(text, style)
    count = int((wish.line_mm + 1e-6) / slot_mm(model, wish.xh_mm))
    if not count:
        wide = slot_mm(model, 1.0)
        most = int(10 * wish.line_mm / wide) / 10
        raise SheetError(
            f"“{text}” is {wide * wish.xh_mm:.0f} mm wide at {wish.xh_mm:g} mm and a line has "
            f"{wish.line_mm:.0f} mm; it fits at {most:g} mm or less"
        )
    return Fit(text, count, wish.line_mm)


def compose(wish: SheetWish, style: HouseStyle, code: str, copy: int = 1) -> Sheet:
    """Lay a sheet out.

    Raises
    ------
    SheetError
        If a letter has no model, a word is too long for a line, or there are too many pages.
    """
    pages: list[_Page] = []
    for number, line in enumerate(_lines(wish, style), start=1):
        if not pages or not pages[-1].has_room():
            if len(pages) == PAGES_MOST:
                raise SheetError(f"this makes more than {PAGES_MOST} pages; fewer rows fit")
            pages.append(_Page(wish, len(pages) + 1))
        pages[-1].add(line, number)
    return Sheet(code, str(style.script), tuple(page.done(code, copy) for page in pages))


@lru_cache(maxsize=256)
def _starts_of(model: Letter) -> tuple[tuple[Spot, Spot], ...]:
    """Where each stroke starts, and where its number stands; of a word only the first."""
    shown = guides(model)[: None if len(model.char) == 1 else 1]
    return tuple((one.ring, one.label) for one in shown)


@dataclass(frozen=True)
class _Line:
    """What stands on one ruled line: a text with the help at each place; none on an empty one."""

    model: Letter | None
    helps: tuple[Help, ...] = ()
    model_at_end: bool = False


def _lines(wish: SheetWish, style: HouseStyle) -> Iterator[_Line]:
    for row in wish.rows:
        if row.content is Content.EMPTY:
            yield from [_Line(None)] * row.rows
            continue
        for text in row.texts:
            model = text_model(text, style)
            count = fits(text, style, wish).count
            for _ in range(row.rows):
                yield from _rows_of(row, model, count, wish.left_hand)


def _rows_of(row: RowWish, model: Letter, count: int, left_hand: bool) -> Iterator[_Line]:
    """A pattern over as many lines as it takes."""
    again = left_hand and count > 1 and Help.MODEL in row.pattern.fixed
    room = count - 1 if again else count  # for a left hand the model stands at the right end once more
    helps = list(row.pattern.fixed)
    full = -(-max(len(helps), 1) // room) * room
    if row.pattern.fill is not None:
        left = full - len(helps) or (room if not helps else 0)
        helps += [row.pattern.fill] * left
    for i in range(0, len(helps), room):
        yield _Line(model, tuple(helps[i : i + room]), again)


@dataclass
class _Page:
    """A page that is being filled from the top."""

    wish: SheetWish
    number: int
    items: list[Item] = field(default_factory=list)
    entries: list[Entry] = field(default_factory=list)
    y_mm: float = 0.0

    def __post_init__(self) -> None:
        self.kind = ruling_kind(self.wish.ruling)
        self.top_mm = EDGE_MM + (max(MARK_MM, CODE_MM) + 2.0 if self.wish.measured else 4.0)
        foot = EDGE_MM + (max(MARK_MM, CODE_MM) + 2.0 if self.wish.measured else 4.0) + _FOOT_MM
        self.bottom_mm = self.wish.size_mm[1] - foot
        self._head()

    @property
    def row_mm(self) -> float:
        """Height of a row with the room for its rings."""
        tick = 2 * TICK_MM + _TICK_BELOW_MM if self.wish.rings_to_tick else 0.0
        return (self.kind.rise_xh - self.kind.drop_xh) * self.wish.xh_mm + tick

    def has_room(self) -> bool:
        """Whether a row more stands on it; a first row always does, or the sheet could not be."""
        return self.y_mm + self.row_mm <= self.bottom_mm or (not self.entries and self.y_mm <= self.top_mm)

    def _head(self) -> None:
        wish, left = self.wish, self.wish.margin_mm
        right = wish.size_mm[0] - wish.margin_mm
        y = self.top_mm
        if wish.title or wish.name_label:
            y += 6.0
            self.items.append(Words(wish.title, (left, y), _TITLE_PT, bold=True))
            if wish.name_label:
                middle = left + 0.5 * wish.line_mm
                self.items.append(Words(wish.name_label, (middle, y), _SMALL_PT, tone=Tone.GREY))
                self.items.append(Rule((middle + 14.0, y + 0.5), (right, y + 0.5), _FAINT_MM, Tone.GREY))
            y += _HEAD_MM - 6.0
        self.y_mm = y
        if self.y_mm + self.row_mm > self.bottom_mm:
            raise SheetError(f"at {wish.xh_mm:g} mm no row fits on this page")

    def add(self, line: _Line, number: int) -> None:
        """Put a row at the next place."""
        wish = self.wish
        ruling = self.kind.ruled(wish.xh_mm, top_mm=self.y_mm)
        left = wish.margin_mm
        self._ruled(ruling, left, left + wish.line_mm)
        if line.model is not None:
            width = slot_mm(line.model, wish.xh_mm)
            for place, help_ in enumerate(line.helps):
                self._place(line.model, help_, ruling, left + place * width, width, (number, place + 1))
            if line.model_at_end:
                self._model(line.model, ruling, left + wish.line_mm - width, width)
        self.y_mm += self.row_mm + wish.gap_mm

    def _ruled(self, ruling: Ruling, left: float, right: float) -> None:
        if self.kind.washed:
            self.items.append(Box((left, ruling.mid_mm, right, ruling.base_mm), Tone.BAND, filled=True))
        for one in self.kind.lines:
            y = ruling.base_mm - one.height_xh * self.wish.xh_mm
            width, tone = (_STRONG_MM, Tone.STRONG) if one.strong else (_FAINT_MM, Tone.FAINT)
            self.items.append(Rule((left, y), (right, y), width, tone, _DASH_MM if one.dashed else None))

    def _place(
        self, model: Letter, help_: Help, ruling: Ruling, x: float, width: float, at: tuple[int, int]
    ) -> None:
        """One place of a row: the model, or something to be written."""
        support = help_.support
        if support is None:
            self._model(model, ruling, x, width)
            return
        printed = _printed(model, support, ruling, self._origin(model, x, width))
        tone = Tone.PALE
        self.items += [Way(stroke, PEN_XH * self.wish.xh_mm, tone) for stroke in printed]
        if support in (Support.TRACE, Support.RING):
            self._starts(model, ruling, x, width, numbered=support is Support.TRACE)
        box = _box(ruling, x, width)
        self._blocks(model, ruling, x, width)
        best = self._tick(ruling, x + width / 2) if support is Support.ALONE else None
        lines = Lines(*ruling.lines_mm)
        row, place = at
        key = f"r{row}c{place}" if len(model.char) == 1 else f"w{row}p{place}"
        self.entries.append(Entry(key, row, place, model.char, support, box, lines, best, printed))

    def _origin(self, model: Letter, x: float, width: float) -> float:
        """Where a text's own origin stands in its slot, page x."""
        left, _, right, _ = model.bounds
        return x + width / 2 - (left + right) / 2 * self.wish.xh_mm

    def _model(self, model: Letter, ruling: Ruling, x: float, width: float) -> None:
        origin = self._origin(model, x, width)
        for stroke in model.sampled:
            self.items.append(
                Way(_on_page(stroke.points, ruling, origin), PEN_XH * self.wish.xh_mm, Tone.INK)
            )
        self._starts(model, ruling, x, width, numbered=True)
        self._blocks(model, ruling, x, width)

    def _starts(self, model: Letter, ruling: Ruling, x: float, width: float, *, numbered: bool) -> None:
        """The ring at each start, with its stroke's number on a short leader; of a word the first only."""
        origin = self._origin(model, x, width)
        for number, start in enumerate(_starts_of(model), start=1):
            (rx, ry), (lx, ly) = _spots(start, ruling, origin)
            self.items.append(Ring((rx, ry), _RING_MM * 0.6, _FAINT_MM, Tone.INK))
            if numbered:
                self.items.append(Rule((rx, ry), (lx, ly), 0.12, Tone.GREY))
                self.items.append(Words(str(number), (lx, ly + 0.8), _LABEL_PT, centred=True))

    def _blocks(self, model: Letter, ruling: Ruling, x: float, width: float) -> None:
        """Boxes that the ruling draws around what is written."""
        if self.kind.boxes is None:
            return
        origin, xh = self._origin(model, x, width), self.wish.xh_mm
        for left, low, right, high in self.kind.drawn_boxes(letter_boxes(model)):
            low_mm, high_mm = ruling.base_mm - low * xh, ruling.base_mm - high * xh
            self.items.append(Box((origin + left * xh, high_mm, origin + right * xh, low_mm), Tone.FAINT))

    def _tick(self, ruling: Ruling, x: float) -> tuple[float, float, float] | None:
        if not self.wish.rings_to_tick:
            return None
        y = ruling.lines_mm[3] + _TICK_BELOW_MM + TICK_MM
        self.items.append(Ring((x, y), TICK_MM, _FAINT_MM, Tone.GREY))
        return x, y, TICK_MM

    def done(self, code: str, copy: int) -> Page:
        """The page with what stands at its foot."""
        wish = self.wish
        y = self.bottom_mm + _FOOT_MM - 1.0
        left = wish.margin_mm
        if wish.care:
            self.items.append(Words(wish.care, (left, y), _SMALL_PT, tone=Tone.GREY))
        if wish.bar_label:
            start = wish.size_mm[0] / 2 - BAR_MM / 2
            bar = y + 7.0
            self.items.append(Rule((start, bar), (start + BAR_MM, bar), _STRONG_MM, Tone.INK))
            for x in (start, start + BAR_MM):
                self.items.append(Rule((x, bar - 1.2), (x, bar + 1.2), _STRONG_MM, Tone.INK))
            middle = start + BAR_MM / 2
            self.items.append(Words(wish.bar_label, (middle, bar + 4.0), 7.0, tone=Tone.GREY, centred=True))
        return Page(
            self.number,
            wish.size_mm,
            tuple(self.items),
            tuple(self.entries),
            marks(wish.size_mm) if wish.measured else (),
            codes(code, copy, self.number, wish.size_mm) if wish.measured else (),
        )


def _box(ruling: Ruling, x: float, width: float) -> Area:
    rise, _, _, drop = ruling.lines_mm
    return x, rise, x + width, drop


def _on_page(points: FloatArray, ruling: Ruling, origin_mm: float) -> tuple[Spot, ...]:
    few = points[::_SAMPLE]
    if len(points) and (len(points) - 1) % _SAMPLE:
        few = points[[*range(0, len(points), _SAMPLE), len(points) - 1]]
    return tuple((float(x), float(y)) for x, y in ruling.to_page(few, origin_mm))


def _spots(spots: Sequence[Spot], ruling: Ruling, origin_mm: float) -> list[Spot]:
    return [(float(x), float(y)) for x, y in ruling.to_page(np.array(spots, dtype=float), origin_mm)]


def _printed(
    model: Letter, support: Support, ruling: Ruling, origin_mm: float
) -> tuple[tuple[Spot, ...], ...]:
    """What is printed to be traced or finished: all of it, or its first half."""
    if support not in (Support.TRACE, Support.FINISH):
        return ()
    strokes = [stroke.points for stroke in model.sampled]
    if support is Support.FINISH:
        strokes = _first_half(model) if len(strokes) == 1 else strokes[: (len(strokes) + 1) // 2]
    return tuple(_on_page(points, ruling, origin_mm) for points in strokes)


def _first_half(model: Letter) -> list[FloatArray]:
    """The first half of a single stroke: of its moves, or of the only one."""
    (stroke,), (sampled,) = model.strokes, model.sampled
    moves = (len(stroke.moves) + 1) // 2
    if moves == len(stroke.moves):
        return [sampled.points[: len(sampled.points) // 2]]
    return [sampled.points[sampled.move < moves]]
