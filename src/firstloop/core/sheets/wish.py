"""What a teacher wishes of a sheet, before anything is laid out."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import Literal

from firstloop.core.ruling import USUAL_RULING, X_HEIGHT_MAX_MM, X_HEIGHT_MIN_MM, ruling_kind
from firstloop.core.supports import Support

PAGES_MM = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
MARGIN_LEAST_MM = 8.0
GAP_MM = (0.0, 60.0)
ROWS_MOST, PAGES_MOST, TEXTS_MOST = 60, 60, 120
TEXT_LONGEST, TITLE_LONGEST, HEADING_LONGEST = 120, 60, 400
CARDS_ACROSS = (1, 8)
BOXES_MOST = 20
DRAW_MM = (10.0, 250.0)
FILL, NEXT_ROW = "*", "/"
USUAL_PATTERN = "model trace trace finish alone*"


class SheetError(ValueError):
    """A wish that no page can meet; the message says why, and what would fit."""


class TooWideError(SheetError):
    """A letter, word or line that no line of the sheet holds."""

    def __init__(self, text: str, wide_xh: float, xh_mm: float, line_mm: float) -> None:
        most = int(10 * line_mm / wide_xh) / 10
        super().__init__(
            f"“{text}” is {wide_xh * xh_mm:.0f} mm wide at {xh_mm:g} mm and a line has {line_mm:.0f} mm; "
            f"it fits at {most:g} mm or less"
        )


class Help(StrEnum):
    """What stands at a place of a row."""

    MODEL = "model"
    TRACE = "trace"
    FINISH = "finish"
    RING = "ring"
    ALONE = "alone"

    @property
    def support(self) -> Support | None:
        """With how much help a child writes there; None of the model, which is only looked at."""
        return None if self is Help.MODEL else Support(self.value)


class Printing(StrEnum):
    """For which printer or copier a sheet is made."""

    COLOUR = "colour"
    GREY = "grey"
    BLACK = "black"


class Traced(StrEnum):
    """How a letter to be traced is printed."""

    PALE = "pale"
    DOTTED = "dotted"


class Finished(StrEnum):
    """How much of a letter to be finished is printed."""

    HALF = "half"
    STROKE = "stroke"


@dataclass(frozen=True)
class Pattern:
    """What a row holds from left to right; ``fill`` goes on until the line is full.

    Examples
    --------
    >>> read_pattern("model trace alone*")[0].fixed
    (<Help.MODEL: 'model'>, <Help.TRACE: 'trace'>)
    """

    fixed: tuple[Help, ...]
    fill: Help | None = None


@lru_cache(maxsize=256)
def read_pattern(text: str) -> tuple[Pattern, ...]:
    """Read a pattern such as ``model trace trace finish alone*``; a ``/`` parts it for the rows below.

    Raises
    ------
    SheetError
    """
    return tuple(_read_row(row.split()) for row in text.split(NEXT_ROW))


def _read_row(words: list[str]) -> Pattern:
    if not words:
        raise SheetError("a pattern names at least one of model, trace, finish, ring, alone")
    if len(words) > TEXTS_MOST:
        raise SheetError(f"a pattern has at most {TEXTS_MOST} places")
    fixed: list[Help] = []
    for place, word in enumerate(words):
        name = word.removesuffix(FILL)
        if name not in {one.value for one in Help}:
            raise SheetError(f"“{word}” is none of model, trace, finish, ring, alone")
        if word.endswith(FILL):
            if place < len(words) - 1:
                raise SheetError("only the last of a pattern fills the line")
            return Pattern(tuple(fixed), Help(name))
        fixed.append(Help(name))
    return Pattern(tuple(fixed))


def _checked_rows(rows: int | None) -> None:
    if rows is not None and not 1 <= rows <= ROWS_MOST:
        raise SheetError(f"a letter or word has 1 to {ROWS_MOST} rows")


def _checked_texts(texts: tuple[str, ...]) -> None:
    if len(texts) > TEXTS_MOST or any(len(one) > TEXT_LONGEST for one in texts):
        raise SheetError(
            f"at most {TEXTS_MOST} letters or words, each of {TEXT_LONGEST} characters, in a row"
        )
    if any(one != " ".join(one.split()) or not one for one in texts):
        raise SheetError("a letter, word or line has one space between its words and none around it")


@dataclass(frozen=True)
class WritingRow:
    """Letters, words or lines to be written; without a text, empty lines.

    Parameters
    ----------
    rows : int or None
        How many for each text; None goes on until the page is full.
    together : bool
        Whether all texts share their rows, each by the pattern in turn (a recall row).
    cut : bool
        Whether each line is to be cut out as a strip.
    """

    texts: tuple[str, ...] = ()
    pattern: str = USUAL_PATTERN
    rows: int | None = 1
    together: bool = False
    cut: bool = False
    kind: Literal["writing"] = "writing"

    def __post_init__(self) -> None:
        read_pattern(self.pattern)
        _checked_rows(self.rows)
        _checked_texts(self.texts)


@dataclass(frozen=True)
class DateRow:
    """The long date of the day on which the sheet is printed."""

    pattern: str = "trace"
    rows: int = 1
    kind: Literal["date"] = "date"

    def __post_init__(self) -> None:
        read_pattern(self.pattern)
        _checked_rows(self.rows)


@dataclass(frozen=True)
class BoxedWord:
    """A word that is dictated, and how many sounds it has."""

    text: str
    boxes: int


@dataclass(frozen=True)
class SoundRow:
    """For each word that is dictated its sound boxes, and a line to write it on; the word is not printed."""

    words: tuple[BoxedWord, ...]
    kind: Literal["sounds"] = "sounds"

    def __post_init__(self) -> None:
        _checked_texts(tuple(one.text for one in self.words))
        if any(not 1 <= one.boxes <= BOXES_MOST for one in self.words):
            raise SheetError(f"a word has 1 to {BOXES_MOST} sound boxes")


@dataclass(frozen=True)
class GapRow:
    """Words with letters left out, which are given in square brackets: ``s[h]ip``."""

    texts: tuple[str, ...]
    kind: Literal["gaps"] = "gaps"

    def __post_init__(self) -> None:
        _checked_texts(self.texts)
        for one in self.texts:
            gap_parts(one)


def gap_parts(text: str) -> list[tuple[str, bool]]:
    """The parts of a word with gaps, in order, and whether each is left out.

    Examples
    --------
    >>> gap_parts("s[h]ip")
    [('s', False), ('h', True), ('ip', False)]

    Raises
    ------
    SheetError
        If no letter is left out, or the brackets do not close.
    """
    parts: list[tuple[str, bool]] = []
    rest = text
    while rest:
        before, bracket, rest = rest.partition("[")
        gap, closed, rest = rest.partition("]") if bracket else ("", "", "")
        if before:
            parts.append((before, False))
        if bracket and (not closed or not gap.strip()):
            raise SheetError(f"the gap in “{text}” wants its letter in brackets, as in s[h]ip")
        parts += [(char, True) for char in gap]
    if not any(left_out for _, left_out in parts) or any("]" in part or "[" in part for part, _ in parts):
        raise SheetError(f"the gap in “{text}” wants its letter in brackets, as in s[h]ip")
    return parts


@dataclass(frozen=True)
class DrawRow:
    """A box to draw in."""

    height_mm: float = 60.0
    kind: Literal["draw"] = "draw"

    def __post_init__(self) -> None:
        if not DRAW_MM[0] <= self.height_mm <= DRAW_MM[1]:
            raise SheetError(f"a box to draw in is {DRAW_MM[0]:g} to {DRAW_MM[1]:g} mm high")


@dataclass(frozen=True)
class HeadingRow:
    """A line of type over what follows."""

    text: str
    kind: Literal["heading"] = "heading"

    def __post_init__(self) -> None:
        if not self.text.strip() or len(self.text) > HEADING_LONGEST:
            raise SheetError(f"a heading has 1 to {HEADING_LONGEST} characters")


@dataclass(frozen=True)
class CardRow:
    """Cards to cut out, each with its letter or word as the model on lines."""

    texts: tuple[str, ...]
    across: int = 3
    kind: Literal["cards"] = "cards"

    def __post_init__(self) -> None:
        _checked_texts(self.texts)
        if not CARDS_ACROSS[0] <= self.across <= CARDS_ACROSS[1]:
            raise SheetError(f"{CARDS_ACROSS[0]} to {CARDS_ACROSS[1]} cards stand side by side")


RowWish = WritingRow | DateRow | SoundRow | GapRow | DrawRow | HeadingRow | CardRow


@dataclass(frozen=True)
class SheetWish:
    """A sheet as it is wished for.

    Parameters
    ----------
    binding_mm : float
        More room at the left, to be bound.
    gap_mm : float
        Room between two ruled lines.
    pages : int or None
        How many it may have at most.
    rings_to_tick : bool
        A ring under each letter that is written alone.
    units : bool
        Whether what stands for one sound with several letters is underlined.
    measured : bool
        Whether it has the marks and codes by which a machine reads it back.

    Raises
    ------
    SheetError
        If a size, a page or a number is out of bounds.
    RulingError
        If there is no such ruling.
    """

    rows: tuple[RowWish, ...] = ()
    title: str = ""
    page: str = "a4"
    across: bool = False
    margin_mm: float = 18.0
    binding_mm: float = 0.0
    pages: int | None = None
    ruling: str = USUAL_RULING
    xh_mm: float = 10.0
    gap_mm: float = 6.0
    washed: bool = True
    printing: Printing = Printing.COLOUR
    traced: Traced = Traced.PALE
    finished: Finished = Finished.HALF
    left_hand: bool = False
    rings_to_tick: bool = True
    units: bool = False
    name_line: bool = True
    care: bool = True
    bar: bool = True
    measured: bool = True

    def __post_init__(self) -> None:
        ruling_kind(self.ruling)
        if self.page not in PAGES_MM:
            raise SheetError(f"there is no page “{self.page}”; there are {', '.join(PAGES_MM)}")
        if not X_HEIGHT_MIN_MM <= self.xh_mm <= X_HEIGHT_MAX_MM:
            raise SheetError(
                f"the x-height is {X_HEIGHT_MIN_MM:g} to {X_HEIGHT_MAX_MM:g} mm, not {self.xh_mm:g}"
            )
        if not (self.margin_mm >= MARGIN_LEAST_MM and self.binding_mm >= 0) or not self.line_mm > 0:
            raise SheetError(
                f"margins of {self.margin_mm + self.binding_mm:g} and {self.margin_mm:g} mm leave no line on "
                f"a page {self.size_mm[0]:g} mm wide; the least is {MARGIN_LEAST_MM:g} mm"
            )
        if not GAP_MM[0] <= self.gap_mm <= GAP_MM[1]:
            raise SheetError(f"the room between lines is {GAP_MM[0]:g} to {GAP_MM[1]:g} mm")
        if self.pages is not None and not 1 <= self.pages <= PAGES_MOST:
            raise SheetError(f"a sheet has 1 to {PAGES_MOST} pages")
        if len(self.rows) > TEXTS_MOST or len(self.title) > TITLE_LONGEST:
            raise SheetError(
                f"a sheet has at most {TEXTS_MOST} rows, and a title of {TITLE_LONGEST} characters"
            )

    @property
    def size_mm(self) -> tuple[float, float]:
        """Width and height of the page."""
        wide, tall = PAGES_MM[self.page]
        return (tall, wide) if self.across else (wide, tall)

    @property
    def left_mm(self) -> float:
        """Where lines begin."""
        return self.margin_mm + self.binding_mm

    @property
    def line_mm(self) -> float:
        """How long a ruled line is."""
        return self.size_mm[0] - self.left_mm - self.margin_mm
