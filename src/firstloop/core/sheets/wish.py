"""What a teacher wishes of a sheet, before anything is laid out."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.ruling import USUAL_RULING, X_HEIGHT_MAX_MM, X_HEIGHT_MIN_MM, ruling_kind
from firstloop.core.supports import Support

PAGES_MM = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
MARGIN_LEAST_MM = 8.0
ROWS_MOST = 60
FILL = "*"


class SheetError(ValueError):
    """A wish that no page can meet; the message says why, and what would fit."""


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


@dataclass(frozen=True)
class Pattern:
    """What a row holds from left to right; ``fill`` goes on until the line is full.

    Examples
    --------
    >>> read_pattern("model trace alone*").fixed
    (<Help.MODEL: 'model'>, <Help.TRACE: 'trace'>)
    """

    fixed: tuple[Help, ...]
    fill: Help | None = None


def read_pattern(text: str) -> Pattern:
    """Read a pattern such as ``model trace trace finish alone*``.

    Raises
    ------
    SheetError
    """
    words = text.split()
    if not words:
        raise SheetError("a pattern names at least one of model, trace, finish, ring, alone")
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


class Content(StrEnum):
    """What the rows of a wish are about."""

    LETTERS = "letters"
    WORDS = "words"
    EMPTY = "empty"


@dataclass(frozen=True)
class RowWish:
    """Rows of one kind: for each text so many rows."""

    content: Content
    texts: tuple[str, ...]
    pattern: Pattern
    rows: int = 1


@dataclass(frozen=True)
class SheetWish:
    """A sheet as it is wished for.

    Raises
    ------
    SheetError
        If a size, a page or a number is out of bounds.
    """

    rows: tuple[RowWish, ...]
    page: str = "a4"
    across: bool = False
    ruling: str = USUAL_RULING
    xh_mm: float = 10.0
    margin_mm: float = 18.0
    gap_mm: float = 6.0
    left_hand: bool = False
    rings_to_tick: bool = True
    measured: bool = True
    title: str = ""
    name_label: str = ""
    care: str = ""
    bar_label: str = ""

    def __post_init__(self) -> None:
        ruling_kind(self.ruling)
        if self.page not in PAGES_MM:
            raise SheetError(f"there is no page “{self.page}”; there are {', '.join(PAGES_MM)}")
        if not X_HEIGHT_MIN_MM <= self.xh_mm <= X_HEIGHT_MAX_MM:
            raise SheetError(
                f"the x-height is {X_HEIGHT_MIN_MM:g} to {X_HEIGHT_MAX_MM:g} mm, not {self.xh_mm:g}"
            )
        if not self.margin_mm >= MARGIN_LEAST_MM or self.line_mm <= 0:
            raise SheetError(
                f"margins of {self.margin_mm:g} mm leave no line on a page {self.size_mm[0]:g} mm wide"
            )
        if any(not 1 <= one.rows <= ROWS_MOST for one in self.rows):
            raise SheetError(f"a letter or word has 1 to {ROWS_MOST} rows")

    @property
    def size_mm(self) -> tuple[float, float]:
        """Width and height of the page."""
        wide, tall = PAGES_MM[self.page]
        return (tall, wide) if self.across else (wide, tall)

    @property
    def line_mm(self) -> float:
        """How long a ruled line is."""
        return self.size_mm[0] - 2 * self.margin_mm
