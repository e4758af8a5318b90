"""Reading pictures of pages by a layout file, nothing kept: the document ``first-loop-scan/1``."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path
from typing import Literal

import cv2
import numpy as np

from firstloop.core.check.results import LetterResult
from firstloop.core.ink import InkGroup
from firstloop.core.scanning.find import FoundPage, Status, find_pages
from firstloop.core.scanning.read import ReadEntry, ReadPage, Terms, read_page
from firstloop.core.scanning.states import Found
from firstloop.core.sheets.scene import Page, Sheet
from firstloop.formats.check_json import finding_document, group_document, letter_document
from firstloop.formats.pictures import PictureError, read_pictures
from firstloop.services.results import (
    FindingView,
    GroupView,
    LetterView,
    finding_view,
    group_view,
    letter_view,
)
from firstloop.text import say

_PIXELS_MOST = 14_000_000  # A4 at 400 dots an inch: more adds nothing but time


@dataclass(frozen=True)
class ScannedCell:
    """A place for one letter."""

    id: str
    support: str
    found: Found
    best: bool
    letter: LetterView | None


@dataclass(frozen=True)
class ScannedLine:
    """A place for a word or a line of words."""

    id: str
    support: str
    found: Found
    group: GroupView | None


@dataclass(frozen=True)
class ScannedRow:
    """What concerns a row of letters as a whole."""

    row: int
    findings: list[FindingView]
    measures: dict[str, float | None]


@dataclass(frozen=True)
class ScannedPage:
    """A page in a picture; ``status`` says how far it could be read."""

    picture: str
    picture_page: int
    status: Status
    why: str = ""
    sheet: str | None = None
    copy: int | None = None
    page: int | None = None
    turned_deg: float | None = None
    dpi: float | None = None
    residual_mm: float | None = None
    cells: list[ScannedCell] = field(default_factory=list)
    rows: list[ScannedRow] = field(default_factory=list)
    lines: list[ScannedLine] = field(default_factory=list)


@dataclass(frozen=True)
class ScanDocument:
    """The document of a scan, format ``first-loop-scan/1``."""

    pages: list[ScannedPage]
    format: Literal["first-loop-scan/1"] = "first-loop-scan/1"


Noted = tuple[InkGroup, dict[str, str]]
"""A way found, and what is noted of where it stands."""


@dataclass(frozen=True)
class ScannedFile:
    """What one file came to; ``problem`` says in one line why it, or the rest of it, could not be opened."""

    pages: list[ScannedPage]
    inks: list[Noted]
    problem: str = ""


def scan_files(files: Sequence[Path], sheet: Sheet, terms: Terms, workers: int) -> Iterator[ScannedFile]:
    """Read the pictures of files, in several processes where there are many; in the order given.

    A copy's page that came before in the same call is ``repeated``.
    """
    one = partial(_scan_file, sheet=sheet, terms=terms)
    if len(files) < 2 or workers == 1:
        yield from _once_each(map(one, files))
        return
    with ProcessPoolExecutor(min(workers, len(files))) as pool:
        yield from _once_each(pool.map(one, files))


def _once_each(found: Iterable[ScannedFile]) -> Iterator[ScannedFile]:
    seen: set[tuple[int | None, int | None]] = set()
    for file in found:
        pages: list[ScannedPage] = []
        again: set[tuple[str, str]] = set()
        for page in file.pages:
            which = (page.copy, page.page)
            if page.status is Status.READ and which in seen:
                again.add((str(page.copy), str(page.page)))
                pages.append(_repeated(page))
                continue
            if page.status is Status.READ:
                seen.add(which)
            pages.append(page)
        inks = [one for one in file.inks if (one[1]["copy"], one[1]["page"]) not in again]
        yield replace(file, pages=pages, inks=inks)


def _repeated(page: ScannedPage) -> ScannedPage:
    """A page that came before: said, and nothing more."""
    why = say(f"scan.why.{Status.REPEATED}")
    return replace(page, status=Status.REPEATED, why=why, cells=[], rows=[], lines=[])


def _scan_file(file: Path, sheet: Sheet, terms: Terms) -> ScannedFile:
    pages: list[ScannedPage] = []
    inks: list[Noted] = []
    try:
        data = file.read_bytes()
        for shot in read_pictures(data):
            found, ways = scan_picture(shot.grey, sheet, terms)
            pages += [replace(one, picture=file.name, picture_page=shot.number) for one in found]
            inks += ways
    except PictureError as problem:
        return ScannedFile(pages, inks, f"{file}: {problem}")
    except OSError as problem:
        return ScannedFile(pages, inks, f"{file}: {problem.strerror}")
    return ScannedFile(pages, inks)


def scan_picture(grey: np.ndarray, sheet: Sheet, terms: Terms) -> tuple[list[ScannedPage], list[Noted]]:
    """Read every page of a sheet in one picture; 8 bit, shape (height, width)."""
    shrunk = min(1.0, (_PIXELS_MOST / grey.size) ** 0.5)
    if shrunk < 1:
        grey = np.asarray(cv2.resize(grey, None, fx=shrunk, fy=shrunk, interpolation=cv2.INTER_AREA))
    pages: list[ScannedPage] = []
    inks: list[Noted] = []
    for found in _found(grey, sheet):
        if found.page is None or found.status not in (Status.READ, Status.UNNAMED):
            pages.append(_unread(found))
            continue
        read = read_page(grey, found, sheet.script, terms)
        pages.append(_page(read, sheet, shrunk))
        inks += _inks(read, sheet)
    return pages or [ScannedPage("", 1, Status.NOT_A_SHEET, say("scan.why.not-a-sheet"))], inks


def _found(grey: np.ndarray, sheet: Sheet) -> list[FoundPage]:
    by_number = {page.number: page for page in sheet.pages}

    def page_of(code: str, copy: int, number: int) -> Page | None:
        return by_number.get(number) if code == sheet.code else None

    only = sheet.pages[0] if len(sheet.pages) == 1 else None
    return find_pages(grey, page_of, only)


def _unread(found: FoundPage) -> ScannedPage:
    code = found.code
    said = "" if code is None else f"{code.sheet}:{code.copy}:{code.page}"
    why = say(f"scan.why.{found.status}", code=said)
    turned = found.turned_deg if found.status is Status.OTHER_SHEET else None
    if code is None:
        return ScannedPage("", 1, found.status, why)
    return ScannedPage("", 1, found.status, why, code.sheet, code.copy, code.page, _degrees(turned))


def _degrees(value: float | None) -> float | None:
    return None if value is None else round(value, 1) % 360


def _page(read: ReadPage, sheet: Sheet, shrunk: float) -> ScannedPage:
    found = read.found
    assert found.page is not None
    return ScannedPage(
        "",
        1,
        found.status,
        say("scan.why.unnamed-read") if found.code is None else "",
        sheet.code,
        None if found.code is None else found.code.copy,
        found.page.number,
        _degrees(found.turned_deg),
        round(found.dpi / shrunk, 1),
        round(found.residual_mm, 3),
        [_cell(one) for one in read.entries if one.entry.is_letter],
        [_row(number, read) for number in read.rows],
        [_line(one) for one in read.entries if not one.entry.is_letter],
    )


def _cell(one: ReadEntry) -> ScannedCell:
    letter = None if one.letter is None else _letter(one.letter, one)
    return ScannedCell(one.entry.key, str(one.entry.support), one.found, one.is_ticked, letter)


def _letter(letter: LetterResult, one: ReadEntry) -> LetterView:
    ruling = one.entry.lines
    return letter_view(letter_document(letter, ruling), ruling.xh_mm)


def _line(one: ReadEntry) -> ScannedLine:
    ruling = one.entry.lines
    group = None if one.group is None else group_view(group_document(one.group, ruling), ruling.xh_mm)
    return ScannedLine(one.entry.key, str(one.entry.support), one.found, group)


def _row(number: int, read: ReadPage) -> ScannedRow:
    ruling = next(one.entry.lines for one in read.entries if one.entry.row == number)
    whole = read.rows[number]
    findings = [finding_view(finding_document(one, ruling), ruling.xh_mm) for one in whole.findings]
    return ScannedRow(number, findings, whole.measures)


def _inks(read: ReadPage, sheet: Sheet) -> Iterator[Noted]:
    code, page = read.found.code, read.found.page
    for one in read.entries:
        if one.ink is not None and page is not None:
            yield (
                one.ink,
                {
                    "sheet": sheet.code,
                    "copy": "" if code is None else str(code.copy),
                    "page": str(page.number),
                    "cell": one.entry.key,
                },
            )
