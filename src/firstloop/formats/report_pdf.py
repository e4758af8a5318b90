"""The report on one child: a page for a parent in plain words, a page with figures for the file.

Every text comes ready to be read (``services.report``); here it is only set.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.model import Letter
from firstloop.formats.page_pdf import HEIGHT_MM, MARGIN_MM, WIDTH_MM, Pages

Strokes = tuple[FloatArray, ...]
_XH_MM, _SMALL_XH_MM = 5.0, 3.2
_PAIRS_ACROSS, _PAIRS_MOST = 4, 16


@dataclass(frozen=True, eq=False)
class LetterLine:
    """A letter of the child: its state in words, and the first and latest of it, letter space."""

    char: str
    why: str
    due: str
    first: Strokes = ()
    latest: Strokes = ()
    first_day: str = ""
    latest_day: str = ""


@dataclass(frozen=True, eq=False)
class Report:
    """What a report says; every text is ready to be read.

    ``words`` are its titles, by the names they are used by below.
    """

    words: Mapping[str, str]
    secure: Sequence[Letter] = ()
    learning: Sequence[Letter] = ()
    slipping: Sequence[Letter] = ()
    better: Sequence[str] = ()
    practise: Sequence[str] = ()
    letters: Sequence[LetterLine] = ()
    headings: Sequence[Sequence[str]] = ()
    changes: Sequence[str] = ()


def report_pdf(report: Report) -> bytes:
    """Two pages A4."""
    pages = Pages(report.words["document"])
    _for_parents(pages, report)
    pages.next_page()
    _for_the_file(pages, report)
    return pages.done()


def _for_parents(pages: Pages, report: Report) -> None:
    words = report.words
    pages.text(words["title"], size=18, bold=True)
    pages.text(words["since"], grey=True)
    pages.rule()
    for title, letters in (
        ("secure", report.secure),
        ("learning", report.learning),
        ("slipping", report.slipping),
    ):
        if letters:
            pages.text(words[title], bold=True)
            pages.letters(letters, _SMALL_XH_MM)
    for title, lines in (("changed", report.better), ("next", report.practise)):
        if lines:
            pages.text(words[title], bold=True)
            for one in lines:
                pages.text(one, x_mm=MARGIN_MM + 4)
    pairs = [one for one in report.letters if one.first and one.latest]
    if pairs:
        pages.text(words["pairs"], bold=True)
        _pairs(pages, pairs[:_PAIRS_MOST])
    pages.footer(words["caution"])


def _pairs(pages: Pages, pairs: Sequence[LetterLine]) -> None:
    width = (WIDTH_MM - 2 * MARGIN_MM - 4 * (_PAIRS_ACROSS - 1)) / _PAIRS_ACROSS
    height = 3 * _XH_MM + 9
    room = int((HEIGHT_MM - 22 - pages.y_mm) // height)
    for i, one in enumerate(pairs[: max(0, room) * _PAIRS_ACROSS]):
        x = MARGIN_MM + (i % _PAIRS_ACROSS) * (width + 4)
        base = pages.y_mm + 2 * _XH_MM + 2 + (i // _PAIRS_ACROSS) * height
        pages.lines(x, base, width, _XH_MM)
        for k, strokes in enumerate((one.first, one.latest)):
            left, right = _extent(strokes)
            middle = x + width * (0.27 + 0.46 * k)
            pages.ink(strokes, middle - (left + right) / 2 * _XH_MM, base, _XH_MM)
        pages.words_at(f"{one.first_day} – {one.latest_day}", x, base + _XH_MM + 4, size=7)


def _extent(strokes: Strokes) -> tuple[float, float]:
    return min(float(s[:, 0].min()) for s in strokes), max(float(s[:, 0].max()) for s in strokes)


def _for_the_file(pages: Pages, report: Report) -> None:
    words = report.words
    pages.text(words["figures"], size=14, bold=True)
    pages.text(words["day"], grey=True)
    pages.rule()
    if report.headings:
        pages.text(words["shares"], bold=True)
        head = ("weeks", "all", "direction", "shape", "size")
        pages.table([words[f"head.{name}"] for name in head], report.headings, (34, 35, 35, 35, 35))
    for one in report.changes:
        pages.text(one, size=9)
    pages.text(words["letters"], bold=True)
    pages.table(
        [words[f"head.{name}"] for name in ("letter", "stands", "due")],
        [(one.char, one.why, one.due) for one in report.letters],
        (16, 124, 34),
    )
    pages.footer(words["file-care"])
