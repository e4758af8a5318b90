"""Sheets: a preview, a page as PDF, thirty different pages; each with words that were not drawn before."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count
from typing import Any

import numpy as np
import pytest

from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.scene import Sheet
from firstloop.core.sheets.wish import SheetWish, WritingRow
from firstloop.formats.sheet_layout import write_layout
from firstloop.formats.sheet_pdf import sheet_pdf
from firstloop.formats.sheet_svg import page_svg
from firstloop.formats.word_bank import shipped_bank
from firstloop.services.sheets import printed_words

STYLES = {"print": DEFAULT_STYLE, "joined": HouseStyle(name="Joined", script=Script.CURSIVE)}
PAGES, SHEET_KB = 30, 300


@pytest.fixture(params=STYLES)
def wishes(request: Any) -> Iterator[tuple[SheetWish, HouseStyle]]:
    """Sheets without end, each of letters to write and three words that none before it had."""
    style = STYLES[request.param]
    words = [one.text for one in shipped_bank() if 3 <= len(one.text) <= 6]
    words = list(np.random.default_rng(len(style.name)).permutation(words))

    def made() -> Iterator[tuple[SheetWish, HouseStyle]]:
        for k in count():
            mine = tuple(str(words[(3 * k + i) % len(words)]) for i in range(3))
            letters = tuple(mine[0][:2])
            rows = (WritingRow(letters), WritingRow(mine, "model trace alone*"))
            yield SheetWish(rows, xh_mm=8), style

    return made()


def laid_out(wish: SheetWish, style: HouseStyle) -> Sheet:
    return compose(wish, style, "K7Q2M9", printed=printed_words())


def test_a_preview(benchmark: Any, wishes: Iterator[tuple[SheetWish, HouseStyle]]):
    """Goal 100 ms."""
    benchmark.pedantic(
        lambda wish, style: page_svg(laid_out(wish, style).pages[0], "a sheet"),
        setup=lambda: (next(wishes), {}),
        rounds=40,
        warmup_rounds=2,
    )


def test_a_page_as_pdf(benchmark: Any, wishes: Iterator[tuple[SheetWish, HouseStyle]]):
    """Goal 150 ms."""
    benchmark.pedantic(
        lambda wish, style: sheet_pdf(laid_out(wish, style).pages, "a sheet"),
        setup=lambda: (next(wishes), {}),
        rounds=40,
        warmup_rounds=2,
    )


def test_thirty_different_pages(benchmark: Any, wishes: Iterator[tuple[SheetWish, HouseStyle]]):
    """Goal 3 s and 300 kB a page, with the layouts that are kept to read them back."""

    def all_of_them(*some: tuple[SheetWish, HouseStyle]) -> bytes:
        sheets = [laid_out(*one) for one in some]
        for sheet in sheets:
            write_layout(sheet)
        return sheet_pdf([page for sheet in sheets for page in sheet.pages], "thirty sheets")

    made = benchmark.pedantic(
        all_of_them, setup=lambda: (tuple(next(wishes) for _ in range(PAGES)), {}), rounds=3, warmup_rounds=1
    )
    size = len(made) / 1000 / PAGES
    print(f"\n{size:.0f} kB a page")
    assert size < SHEET_KB
