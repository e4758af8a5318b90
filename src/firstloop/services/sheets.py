"""Sheets of paper from what is wished for."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import astuple, dataclass

import numpy as np

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.marks import new_code
from firstloop.core.sheets.scene import Sheet
from firstloop.core.sheets.wish import Content, RowWish, SheetError, SheetWish, read_pattern
from firstloop.text import say


@dataclass(frozen=True)
class Wanted:
    """A sheet in plain words: what is on it, how each row goes, on which lines and page."""

    letters: Sequence[str]
    words: Sequence[str]
    line: str
    rows: int
    pattern: str
    ruling: str
    xh_mm: float
    page: str
    left_hand: bool


def lay_out(wanted: Wanted, style: HouseStyle) -> Sheet:
    """Lay a sheet out; the same wish makes the same sheet, with the same code.

    Raises
    ------
    SheetError, RulingError
    """
    pattern = read_pattern(wanted.pattern)
    long = [one for one in wanted.letters if len(one) != 1]
    if long:
        raise SheetError(f"“{long[0]}” is no letter; words are asked for as words")
    line = " ".join(wanted.line.split())
    asked = (
        (Content.LETTERS, wanted.letters),
        (Content.WORDS, wanted.words),
        (Content.WORDS, [line] if line else []),
    )
    rows = tuple(RowWish(content, tuple(texts), pattern, wanted.rows) for content, texts in asked if texts)
    if not rows:
        raise SheetError("a sheet needs letters, words or a line")
    wish = SheetWish(
        rows,
        page=wanted.page,
        ruling=wanted.ruling,
        xh_mm=wanted.xh_mm,
        left_hand=wanted.left_hand,
        name_label=say("sheet.name"),
        care=say("sheet.care"),
        bar_label=say("sheet.bar"),
    )
    seed = hashlib.sha256(repr((astuple(wanted), style)).encode()).digest()
    return compose(wish, style, new_code(np.random.default_rng(list(seed))))
