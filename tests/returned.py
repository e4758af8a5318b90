"""Printed sheets as they come back: written on, and scanned."""

from __future__ import annotations

import io

import numpy as np
import pypdfium2 as pdfium
from PIL import Image

from firstloop.core.sheets.wish import SheetWish, WritingRow
from firstloop.formats.sheet_layout import read_layout
from tests.core.scanning.paper import DPI, Paper

ROWS = (WritingRow(("n",), "trace alone*"), WritingRow(("nun",), "trace alone"))
WISH = SheetWish(ROWS, xh_mm=8)


def png(grey: np.ndarray) -> bytes:
    out = io.BytesIO()
    Image.fromarray(grey).save(out, "PNG")
    return out.getvalue()


def written(pdf: bytes, number: int, layout: dict) -> tuple[bytes, list[str]]:
    """A page with a letter in each place but the last, one crossed out and one ticked."""
    paper = Paper(read_layout(layout).pages[0])
    drawn = pdfium.PdfDocument(pdf)[number].render(scale=DPI / 72).to_pil()
    paper.grey = np.array(drawn.convert("L"))
    keys = [one.key for one in paper.page.entries if one.is_letter]
    for place, key in enumerate(keys[:-1]):
        paper.write(key, fault="size.tall" if place == 2 else None, size=60.0)
    paper.strike(keys[3])
    paper.tick(keys[1])
    for one in paper.page.entries:
        if not one.is_letter:
            paper.write(one.key)
    return png(paper.grey), keys
