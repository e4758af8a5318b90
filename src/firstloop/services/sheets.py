"""Sheets of paper from what is wished for."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.blocks import Printed, Units
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.marks import new_code
from firstloop.core.sheets.scene import Sheet
from firstloop.core.sheets.wish import SheetError, SheetWish, WritingRow
from firstloop.core.words.units import cut
from firstloop.formats.sheet_pdf import sheet_pdf
from firstloop.services import word_bank
from firstloop.text import plan as plan_words
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
    long = [one for one in wanted.letters if len(one) != 1]
    if long:
        raise SheetError(f"“{long[0]}” is no letter; words are asked for as words")
    line = " ".join(wanted.line.split())
    groups = (wanted.letters, wanted.words, [line] if line else [])
    rows = tuple(WritingRow(tuple(texts), wanted.pattern, wanted.rows) for texts in groups if texts)
    if not rows:
        raise SheetError("a sheet needs letters, words or a line")
    wish = SheetWish(
        rows, page=wanted.page, ruling=wanted.ruling, xh_mm=wanted.xh_mm, left_hand=wanted.left_hand
    )
    seed = hashlib.sha256(repr((wish, style)).encode()).digest()
    return compose(wish, style, new_code(np.random.default_rng(list(seed))), printed=printed_words())


def printed_words(child: str = "", long_date: str = "", units: Units = cut) -> Printed:
    """What stands on a page in type, and how words are cut into sounds."""
    return Printed(say("sheet.name"), child, say("sheet.care"), say("sheet.bar"), long_date, units)


def printed_in(session: Session, on: date, child: str = "") -> Printed:
    """The same for a day, with words cut as the school's bank has them."""
    known = word_bank.present(session).by_text

    def units(text: str) -> Sequence[str]:
        return known[text].units if text in known else cut(text)

    return printed_words(child, plan_words.weekday(on.toordinal()), units)


def sheet_once(wish: SheetWish, style: HouseStyle, printed: Printed | None = None) -> bytes:
    """The PDF of a sheet that is not kept and not read back.

    Raises
    ------
    SheetError
    """
    made = compose(wish, style, "", printed=printed or printed_words())
    return sheet_pdf(made.pages, "First Loop", wish.printing)
