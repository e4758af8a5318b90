"""Blocks: what is put on a page as a whole, each of a known height. A new kind of row is a new one."""

from __future__ import annotations

import textwrap
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Protocol

from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.sheets import draw
from firstloop.core.sheets.fit import folded, how_many, origin_mm, slot_mm, text_model
from firstloop.core.sheets.lines import Line, Place, lines_of
from firstloop.core.sheets.scene import Area, Box, Entry, Item, Ring, Rule, Tone, Words
from firstloop.core.sheets.wish import (
    BoxedWord,
    CardRow,
    DateRow,
    DrawRow,
    GapRow,
    HeadingRow,
    Help,
    RowWish,
    SheetError,
    SheetWish,
    SoundRow,
    TooWideError,
    Traced,
    WritingRow,
    gap_parts,
)
from firstloop.core.supports import Support
from firstloop.core.words.units import cut, places

TICK_MM, TICK_BELOW_MM = 1.7, 0.7
_CUT_MM, _CUT_DASH_MM = 2.5, (2.0, 1.5)  # room between a cutting line and what is cut out
_BOX_MM, _BOX_LEAST_MM, _NUMBER_MM, _BESIDE_MM, _LINE_LEAST_MM = 13.0, 4.0, 8.0, 6.0, 60.0
_UNDER_MM, _UNDER_WIDE_MM = 0.6, 0.35
_GAP_WORDS_XH, _GAP_ROOM_XH, _GAP_CLEAR_XH, _GAP_MARK_MM = 1.6, 0.24, 0.25, 0.5
_HEADING_PT, _HEADING_LINE_MM, _HEADING_BELOW_MM = 10.0, 5.0, 3.0
_HEADING_CHAR_MM = 2.1  # a wide one in bold: a line never runs out of the margin
_NUMBER_PT = 12.0


Units = Callable[[str], Sequence[str]]
"""The units that a word is made of."""


@dataclass(frozen=True)
class Printed:
    """What the page is given from outside: the words in type, and the day.

    Parameters
    ----------
    name, care, bar : str
        Ready to be read.
    child : str
        Whose page it is; empty where the name is to be written.
    long_date : str
        As a class writes it.
    units : callable
        The units that a word is made of.
    """

    name: str = ""
    child: str = ""
    care: str = ""
    bar: str = ""
    long_date: str = ""
    units: Units = cut


@dataclass
class Paper:
    """What has been put on a page so far; rows with something to write are counted through the sheet."""

    wish: SheetWish
    row: int = 0
    items: list[Item] = field(default_factory=list)
    entries: list[Entry] = field(default_factory=list)

    def enter(
        self,
        text: str,
        support: Support,
        box: Area,
        lines: Ruling,
        best: tuple[float, float, float] | None = None,
        strokes: draw.Strokes = (),
        aside: Sequence[Item] = (),
    ) -> None:
        """Something to be written, at the next place of the row that was begun last."""
        place = sum(one.row == self.row for one in self.entries) + 1
        key = f"r{self.row}c{place}" if len(text) == 1 else f"w{self.row}p{place}"
        self.entries.append(
            Entry(key, self.row, place, text, support, box, lines, best, strokes, tuple(aside))
        )


class Block(Protocol):
    """Something to be put on a page as a whole."""

    @property
    def height_mm(self) -> float:
        """How much of the page it takes."""

    @property
    def keeps_with_next(self) -> bool:
        """Whether it stands over what follows."""

    def put(self, paper: Paper, top_mm: float) -> None:
        """Draw it with its top at a place."""


def blocks_of(row: RowWish, wish: SheetWish, style: HouseStyle, printed: Printed) -> Iterator[Block]:
    """The blocks of a row of the wish; without an end where it goes on until the page is full.

    Raises
    ------
    SheetError
    """
    match row:
        case WritingRow():
            return (_Ruled(wish, line, printed, row.cut) for line in lines_of(row, wish, style))
        case DateRow():
            return blocks_of(_dated(row, wish, style, printed), wish, style, printed)
        case SoundRow():
            return _sound_lines(row, wish, style)
        case GapRow():
            return _gap_lines(row, wish, style)
        case CardRow():
            rows = range(0, len(row.texts), row.across)
            return (_Cards(wish, row.texts[i : i + row.across], row.across, style) for i in rows)
        case DrawRow() | HeadingRow():
            one = _Draw(wish, row.height_mm) if isinstance(row, DrawRow) else _Heading(wish, row.text)
            return iter([one])


def _dated(row: DateRow, wish: SheetWish, style: HouseStyle, printed: Printed) -> WritingRow:
    """The long date, on two lines where one does not hold it."""
    if not printed.long_date:
        raise SheetError("the long date wants a day")
    lines = folded(printed.long_date, style, wish.xh_mm, wish.line_mm)
    return WritingRow(tuple(lines), row.pattern, row.rows)


@dataclass(frozen=True)
class _Base:
    """What blocks have in common."""

    wish: SheetWish

    keeps_with_next = False

    @property
    def line_height_mm(self) -> float:
        kind = ruling_kind(self.wish.ruling)
        return (kind.rise_xh - kind.drop_xh) * self.wish.xh_mm

    def ruled(self, paper: Paper, top_mm: float, left_mm: float, right_mm: float) -> Ruling:
        """Draw the lines from one place to another."""
        kind = ruling_kind(self.wish.ruling)
        ruling = kind.ruled(self.wish.xh_mm, top_mm=top_mm)
        paper.items += draw.ruled(kind, ruling, left_mm, right_mm, self.wish.washed)
        return ruling

    def shown(self, paper: Paper, model: Letter, ruling: Ruling, left_mm: float, width_mm: float) -> float:
        """Draw a model with its starts in the middle of a place; returns where its origin stands."""
        wish = self.wish
        origin = origin_mm(model, left_mm, width_mm, wish.xh_mm)
        paper.items.append(draw.written(model, ruling, origin, Tone.INK))
        paper.items += draw.starts(model, ruling, origin, numbered=True, left_hand=wish.left_hand)
        paper.items += draw.blocks(ruling_kind(wish.ruling), model, ruling, origin)
        return origin


@dataclass(frozen=True)
class _Ruled(_Base):
    """One ruled line with its places."""

    line: Line
    printed: Printed
    cut: bool

    @property
    def height_mm(self) -> float:
        tick = 2 * TICK_MM + self._tick_below_mm if self.wish.rings_to_tick and self._ticked() else 0.0
        return self.line_height_mm + tick + (2 * _CUT_MM if self.cut else 0.0)

    @property
    def _tick_below_mm(self) -> float:
        """From the lowest line to a ring to tick: clear of the box of a tail."""
        return TICK_BELOW_MM + ruling_kind(self.wish.ruling).room_below_xh * self.wish.xh_mm

    def _ticked(self) -> bool:
        return any(one.help is Help.ALONE and len(one.model.char) == 1 for one in self.line.places)

    def put(self, paper: Paper, top_mm: float) -> None:
        wish = self.wish
        left, right = wish.left_mm, wish.left_mm + wish.line_mm
        top = top_mm + (_CUT_MM if self.cut else 0.0)
        ruling = self.ruled(paper, top, left, right)
        if any(one.help.support is not None for one in self.line.places):
            paper.row += 1
        x = left
        for one in self.line.places:
            self._place(paper, one, ruling, x)
            x += one.width_mm
        if self.line.at_end is not None:
            self._model(paper, self.line.at_end, ruling, right - self.line.at_end.width_mm)
        if self.cut:
            area = (left - _CUT_MM, top_mm, right + _CUT_MM, top_mm + self.height_mm)
            paper.items.append(Box(area, Tone.GREY, dash_mm=_CUT_DASH_MM))

    def _place(self, paper: Paper, one: Place, ruling: Ruling, x: float) -> None:
        support = one.help.support
        if support is None:
            self._model(paper, one, ruling, x)
            return
        wish, model = self.wish, one.model
        origin = origin_mm(model, x, one.width_mm, wish.xh_mm)
        strokes: draw.Strokes = ()
        aside: list[Item] = []
        if support in (Support.TRACE, Support.FINISH):
            shown = model if support is Support.TRACE else draw.begun(model, wish.finished)
            dotted = wish.traced is Traced.DOTTED
            paper.items.append(draw.written(shown, ruling, origin, Tone.PALE, dotted))
            strokes = draw.way_of(shown, ruling, origin)
        if support in (Support.TRACE, Support.RING):
            numbered = support is Support.TRACE
            aside += draw.starts(model, ruling, origin, numbered=numbered, left_hand=wish.left_hand)
        aside += draw.blocks(ruling_kind(wish.ruling), model, ruling, origin)
        paper.items += aside
        rise, _, _, drop = ruling.lines_mm
        best = None
        if support is Support.ALONE and wish.rings_to_tick and len(model.char) == 1:
            best = x + one.width_mm / 2, drop + self._tick_below_mm + TICK_MM, TICK_MM
            paper.items.append(Ring(best[:2], TICK_MM, draw.FAINT_MM, Tone.GREY))
        paper.enter(model.char, support, (x, rise, x + one.width_mm, drop), ruling, best, strokes, aside)

    def _model(self, paper: Paper, one: Place, ruling: Ruling, x: float) -> None:
        origin = self.shown(paper, one.model, ruling, x, one.width_mm)
        if self.wish.units:
            paper.items += _underlined(one.model, ruling, origin, self.printed)


def _underlined(model: Letter, ruling: Ruling, origin: float, printed: Printed) -> Iterator[Item]:
    """A line under every unit of several letters that stand side by side."""
    for text, letters in zip(model.char.split(" "), letter_boxes(model), strict=False):
        for mine in places(printed.units(text.lower())):
            if len(mine) > 1 and mine[-1] - mine[0] == len(mine) - 1 and mine[-1] < len(letters):
                y = ruling.lines_mm[3] + _UNDER_MM
                ends = (letters[mine[0]][0], letters[mine[-1]][2])
                left, right = (origin + end * ruling.xh_mm for end in ends)
                yield Rule((left, y), (right, y), _UNDER_WIDE_MM, Tone.INK)


@dataclass(frozen=True)
class _Sounds(_Base):
    """A number, the sound boxes of a word, and a line to write it on."""

    word: BoxedWord
    number: int
    size_mm: float
    boxes_mm: float
    style: HouseStyle

    @property
    def height_mm(self) -> float:
        return self.line_height_mm

    def put(self, paper: Paper, top_mm: float) -> None:
        wish = self.wish
        first = wish.left_mm + _NUMBER_MM
        left, right = first + self.boxes_mm + _BESIDE_MM, wish.left_mm + wish.line_mm
        model = text_model(self.word.text, self.style)
        if slot_mm(model, wish.xh_mm) > right - left:
            raise TooWideError(self.word.text, slot_mm(model, 1.0), wish.xh_mm, right - left)
        ruling = self.ruled(paper, top_mm, left, right)
        base, paper.row = ruling.base_mm, paper.row + 1
        paper.items.append(Words(str(self.number), (wish.left_mm, base), _NUMBER_PT, bold=True))
        for k in range(self.word.boxes):
            x = first + k * self.size_mm
            area = (x, base - self.size_mm, x + self.size_mm, base)
            paper.items.append(Box(area, Tone.STRONG, width_mm=draw.STRONG_MM))
        rise, _, _, drop = ruling.lines_mm
        paper.enter(self.word.text, Support.ALONE, (left, rise, right, drop), ruling)


def _sound_lines(row: SoundRow, wish: SheetWish, style: HouseStyle) -> Iterator[Block]:
    most = max((one.boxes for one in row.words), default=1)
    size = min(_BOX_MM, (wish.line_mm - _NUMBER_MM - _BESIDE_MM - _LINE_LEAST_MM) / most)
    if size < _BOX_LEAST_MM:
        raise SheetError(f"{most} sound boxes and a line do not stand on {wish.line_mm:.0f} mm")
    for number, one in enumerate(row.words, start=1):
        yield _Sounds(wish, one, number, size, most * size, style)


def _gap_lines(row: GapRow, wish: SheetWish, style: HouseStyle) -> Iterator[_Gaps]:
    """Words with gaps side by side, and on on the next line."""
    line: list[_GapWord] = []
    used = 0.0
    for text in row.texts:
        parts = tuple(
            _GapPart(model, left_out, _part_mm(model, left_out, wish.xh_mm))
            for model, left_out in ((text_model(part, style), out) for part, out in gap_parts(text))
        )
        word = _GapWord(parts)
        if word.width_mm > wish.line_mm:
            raise TooWideError(text, word.width_mm / wish.xh_mm, wish.xh_mm, wish.line_mm)
        if line and used + word.width_mm > wish.line_mm:
            yield _Gaps(wish, tuple(line))
            line, used = [], 0.0
        line.append(word)
        used += word.width_mm + _GAP_WORDS_XH * wish.xh_mm
    if line:
        yield _Gaps(wish, tuple(line))


def _part_mm(model: Letter, left_out: bool, xh_mm: float) -> float:
    """A gap is as wide as a place in a row; what is printed has a little clear paper."""
    left, _, right, _ = model.bounds
    return slot_mm(model, xh_mm) if left_out else (right - left + _GAP_ROOM_XH) * xh_mm


@dataclass(frozen=True, eq=False)
class _GapPart:
    model: Letter
    left_out: bool
    width_mm: float


@dataclass(frozen=True, eq=False)
class _GapWord:
    parts: tuple[_GapPart, ...]

    @property
    def width_mm(self) -> float:
        return sum(one.width_mm for one in self.parts)


@dataclass(frozen=True)
class _Gaps(_Base):
    """A line of words with letters left out, each gap marked by a thin line below it."""

    words: tuple[_GapWord, ...]

    @property
    def height_mm(self) -> float:
        return self.line_height_mm

    def put(self, paper: Paper, top_mm: float) -> None:
        wish = self.wish
        ruling = self.ruled(paper, top_mm, wish.left_mm, wish.left_mm + wish.line_mm)
        rise, _, base, drop = ruling.lines_mm
        paper.row += 1
        x = wish.left_mm
        for word in self.words:
            for part in word.parts:
                right = x + part.width_mm
                if part.left_out:
                    room = _GAP_CLEAR_XH * wish.xh_mm
                    ends = (x + room, base), (right - room, base)
                    paper.items.append(Rule(*ends, _GAP_MARK_MM, Tone.INK))
                    paper.enter(part.model.char, Support.ALONE, (x, rise, right, drop), ruling)
                else:
                    origin = origin_mm(part.model, x, part.width_mm, wish.xh_mm)
                    paper.items.append(draw.written(part.model, ruling, origin, Tone.INK))
                x = right
            x += _GAP_WORDS_XH * wish.xh_mm


@dataclass(frozen=True)
class _Draw(_Base):
    """A box to draw in."""

    height_mm: float

    def put(self, paper: Paper, top_mm: float) -> None:
        wish = self.wish
        area = (wish.left_mm, top_mm, wish.left_mm + wish.line_mm, top_mm + self.height_mm)
        paper.items.append(Box(area, Tone.FAINT, width_mm=draw.STRONG_MM))


@dataclass(frozen=True)
class _Heading(_Base):
    """A line of type."""

    text: str

    keeps_with_next = True

    @property
    def _lines(self) -> list[str]:
        return textwrap.wrap(self.text, int(self.wish.line_mm / _HEADING_CHAR_MM))

    @property
    def height_mm(self) -> float:
        return len(self._lines) * _HEADING_LINE_MM + _HEADING_BELOW_MM

    def put(self, paper: Paper, top_mm: float) -> None:
        for k, line in enumerate(self._lines, start=1):
            at = (self.wish.left_mm, top_mm + k * _HEADING_LINE_MM)
            paper.items.append(Words(line, at, _HEADING_PT, bold=True))


@dataclass(frozen=True)
class _Cards(_Base):
    """Cards side by side with a cutting line around each."""

    texts: tuple[str, ...]
    across: int
    style: HouseStyle

    @property
    def height_mm(self) -> float:
        return self.line_height_mm + 2 * _CUT_MM

    def put(self, paper: Paper, top_mm: float) -> None:
        wish = self.wish
        wide = wish.line_mm / self.across
        for k, text in enumerate(self.texts):
            left = wish.left_mm + k * wide
            model = text_model(text, self.style)
            how_many(model, wish.xh_mm, wide - 2 * _CUT_MM)
            ruling = self.ruled(paper, top_mm + _CUT_MM, left + _CUT_MM, left + wide - _CUT_MM)
            self.shown(paper, model, ruling, left, wide)
            area = (left, top_mm, left + wide, top_mm + self.height_mm)
            paper.items.append(Box(area, Tone.GREY, dash_mm=_CUT_DASH_MM))
