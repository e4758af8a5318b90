"""Laying a sheet out: blocks from the top of a page down, on to the next page where they do not fit."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import islice

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.blocks import Block, Paper, Printed, blocks_of
from firstloop.core.sheets.draw import FAINT_MM, STRONG_MM
from firstloop.core.sheets.fit import how_many, text_model
from firstloop.core.sheets.marks import CODE_MM, EDGE_MM, MARK_MM, codes, marks
from firstloop.core.sheets.scene import Page, Rule, Sheet, Tone, Words
from firstloop.core.sheets.wish import PAGES_MOST, RowWish, SheetError, SheetWish, WritingRow

BAR_MM = 100.0
_TITLE_PT, _CHILD_PT, _SMALL_PT, _BAR_PT = 13.0, 11.0, 8.0, 7.0
_CLEAR_MM, _TOP_MM = 2.5, 5.0
_TITLE_MM, _NAME_MM, _NAME_WIDE_MM = 4.8, 11.5, 12.0  # down from the edge, and room for the word
_CARE_MM, _CARE_BASE_MM = 5.0, 1.5
_BAR_UP_MM, _BAR_WORDS_MM, _TICK_MM = 6.0, 4.2, 1.2
_ROUNDING_MM = 1e-6
_BARE = Printed()


def compose(wish: SheetWish, style: HouseStyle, code: str, copy: int = 1, printed: Printed = _BARE) -> Sheet:
    """Lay a sheet out.

    Raises
    ------
    SheetError
        If a letter has no model, a word is too long for a line, or there are too many pages.
    """
    pages = _Pages(wish, code, copy, printed)
    for number, row in enumerate(wish.rows):
        blocks = blocks_of(row, wish, style, pages.printed)
        if isinstance(row, WritingRow) and row.rows is None:
            pages.fill(blocks, number, at_least=max(len(row.texts), 1))
        else:
            for block in blocks:
                pages.add(block, number)
    fit = [_fit(row, wish, style) for row in wish.rows]
    return Sheet(code, str(style.script), pages.done(), fit, pages.room_mm)


def _fit(row: RowWish, wish: SheetWish, style: HouseStyle) -> dict[str, int]:
    """How many of each text of a row stand on a line."""
    if not isinstance(row, WritingRow):
        return {}
    return {text: how_many(text_model(text, style), wish.xh_mm, wish.line_mm) for text in row.texts}


@dataclass
class _Pages:
    """Pages that are being filled from the top; headings wait for what they stand over."""

    wish: SheetWish
    code: str
    copy: int
    printed: Printed
    finished: list[Page] = field(default_factory=list)
    waiting: list[tuple[Block, int]] = field(default_factory=list)
    put: int = 0

    def __post_init__(self) -> None:
        wish = self.wish
        band = max(MARK_MM, CODE_MM)  # marks, title and name stand in it, and the bar at the foot
        self.top_mm = EDGE_MM + (band if wish.measured or wish.title or wish.name_line else 0.0) + _TOP_MM
        foot = (band if wish.measured or wish.bar else 0.0) + (_CARE_MM if wish.care else 0.0) + _CLEAR_MM
        self.bottom_mm = wish.size_mm[1] - EDGE_MM - foot
        self._turn()

    def _turn(self, row: int = 0) -> None:
        """Begin a page."""
        self.paper = Paper(self.wish, row)
        self.rows: list[tuple[int, float, float]] = []
        self.y_mm = self.top_mm
        self._head()

    @property
    def room_mm(self) -> float:
        """What is left on the page that is being filled."""
        return max(0.0, self.bottom_mm - self.y_mm)

    def fill(self, blocks: Iterator[Block], number: int, at_least: int) -> None:
        """Put blocks until the page is full."""
        for block in islice(blocks, at_least):
            self.add(block, number)
        for block in blocks:
            if not self._fits(block.height_mm):
                return
            self.add(block, number)

    def add(self, block: Block, number: int) -> None:
        """Put a block at the next place, with the headings that wait for it."""
        self.waiting.append((block, number))
        if not block.keeps_with_next:
            self._put_waiting()

    def _fits(self, height_mm: float) -> bool:
        return self.y_mm + height_mm <= self.bottom_mm + _ROUNDING_MM

    def _put_waiting(self) -> None:
        height = sum(block.height_mm for block, _ in self.waiting)
        if not self._fits(height) and self.rows:
            self._finish()
        if not self._fits(height):
            raise SheetError(
                f"a row is {height:.0f} mm high here, and a page has room for {self.room_mm:.0f}"
            )
        for block, number in self.waiting:
            bottom = self.y_mm + block.height_mm
            block.put(self.paper, self.y_mm)
            self.rows.append((number, self.y_mm, bottom))
            self.y_mm = bottom + (0.0 if block.keeps_with_next else self.wish.gap_mm)
        self.put += 1
        self.waiting = []

    def _finish(self) -> None:
        """Close the page and begin another."""
        most = self.wish.pages or PAGES_MOST
        if len(self.finished) + 1 == most:
            raise SheetError(f"this makes more than {most} page{'s'[: most > 1]}; {self.put} rows fit")
        self.finished.append(self._page())
        self._turn(self.paper.row)

    def done(self) -> tuple[Page, ...]:
        """All the pages."""
        if self.waiting:
            self._put_waiting()
        return (*self.finished, self._page())

    def _page(self) -> Page:
        self._foot()
        size, number = self.wish.size_mm, len(self.finished) + 1
        return Page(
            number,
            size,
            tuple(self.paper.items),
            tuple(self.paper.entries),
            marks(size) if self.wish.measured else (),
            codes(self.code, self.copy, number, size) if self.wish.measured else (),
            tuple(self.rows),
        )

    def _head(self) -> None:
        """Title and name, between the marks where there are any."""
        wish, items = self.wish, self.paper.items
        left, right = wish.left_mm, wish.size_mm[0] - wish.margin_mm
        if wish.measured:
            left = max(left, EDGE_MM + MARK_MM + _CLEAR_MM)
            right = min(right, codes(self.code, self.copy, 1, wish.size_mm)[0].corners[0][0] - _CLEAR_MM)
        if wish.title:
            items.append(Words(wish.title, (left, EDGE_MM + _TITLE_MM), _TITLE_PT, bold=True))
        if wish.name_line:
            y = EDGE_MM + _NAME_MM
            items.append(Words(self.printed.name, (left, y), _SMALL_PT, tone=Tone.GREY))
            if self.printed.child:
                items.append(Words(self.printed.child, (left + _NAME_WIDE_MM, y), _CHILD_PT))
            else:
                start = (left + _NAME_WIDE_MM, y + 0.5)
                items.append(Rule(start, (max(right, start[0]), y + 0.5), FAINT_MM, Tone.GREY))

    def _foot(self) -> None:
        """The line of care, and the bar to measure below it."""
        wish, items = self.wish, self.paper.items
        if wish.care:
            at = (wish.left_mm, self.bottom_mm + _CLEAR_MM + _CARE_BASE_MM)
            items.append(Words(self.printed.care, at, _SMALL_PT, tone=Tone.GREY))
        if wish.bar:
            start, y = wish.size_mm[0] / 2 - BAR_MM / 2, wish.size_mm[1] - EDGE_MM - _BAR_UP_MM
            items.append(Rule((start, y), (start + BAR_MM, y), STRONG_MM, Tone.INK))
            for x in (start, start + BAR_MM):
                items.append(Rule((x, y - _TICK_MM), (x, y + _TICK_MM), STRONG_MM, Tone.INK))
            middle = (start + BAR_MM / 2, y + _BAR_WORDS_MM)
            items.append(Words(self.printed.bar, middle, _BAR_PT, tone=Tone.GREY, centred=True))
