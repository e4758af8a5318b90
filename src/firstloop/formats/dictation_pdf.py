"""A page for a dictation: for every word its empty sound boxes, and lines to write it on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from firstloop.formats.page_pdf import HEIGHT_MM, MARGIN_MM, WIDTH_MM, Pages

_BOX_MM = 13.0
_NUMBER_MM, _BESIDE_MM = 8.0, 6.0
_LINE_LEAST_MM = 80.0  # left for the word beside its boxes
_FOOT_MM = 10.0
_AFTER_MM = 5.0


@dataclass(frozen=True)
class DictationPage:
    """What stands on the page.

    Parameters
    ----------
    words : mapping
        Sentences by name: document, title, name, caution.
    sounds : sequence of int
        How many sounds each word has, in order.
    xh_mm : float
        Height of the middle band of the lines.
    ruling : str
        Their kind.
    """

    words: Mapping[str, str]
    sounds: Sequence[int]
    xh_mm: float
    ruling: str


def dictation_pdf(page: DictationPage) -> bytes:
    """The page, A4; on to another where the words do not fit."""
    pages = Pages(page.words["document"])
    _head(pages, page)
    xh, width = page.xh_mm, WIDTH_MM - 2 * MARGIN_MM
    most = max(page.sounds)
    size = min(_BOX_MM, (width - _NUMBER_MM - _BESIDE_MM - _LINE_LEAST_MM) / most)
    left = MARGIN_MM + _NUMBER_MM + most * size + _BESIDE_MM
    for number, count in enumerate(page.sounds, start=1):
        if pages.y_mm + 3 * xh > HEIGHT_MM - MARGIN_MM - _FOOT_MM:
            pages.footer(page.words["caution"])
            pages.next_page()
            _head(pages, page)
        base = pages.y_mm + 2 * xh
        pages.words_at(str(number), MARGIN_MM, base, size=12, bold=True)
        pages.boxes(MARGIN_MM + _NUMBER_MM, base - size, count, size)
        pages.lines(left, base, MARGIN_MM + width - left, xh, ruling=page.ruling)
        pages.y_mm = base + xh + _AFTER_MM
    pages.footer(page.words["caution"])
    return pages.done()


def _head(pages: Pages, page: DictationPage) -> None:
    pages.text(page.words["title"], size=16, bold=True)
    pages.text(page.words["name"], size=11)
    pages.rule()
    pages.y_mm += 4
