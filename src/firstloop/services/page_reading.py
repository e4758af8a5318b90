"""Reading a picture of pages by what the records know of their sheets: work for a process of its own.

Nothing is written here: what was read is given back, plain enough to go from process to process.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.document import style_from
from firstloop.core.scanning.darkness import darkness
from firstloop.core.scanning.find import FoundPage, Status, find_pages
from firstloop.core.scanning.read import ReadEntry, ReadPage, Terms, letters_of, read_page
from firstloop.core.scanning.states import Found
from firstloop.core.scanning.straighten import PX_MM
from firstloop.core.sheets.scene import Page
from firstloop.formats.check_json import group_document, letter_document
from firstloop.formats.pictures import count_pictures, jpeg, read_picture
from firstloop.formats.sheet_layout import read_layout
from firstloop.services.ink import KeptStroke, from_stroke
from firstloop.services.judging import class_strictness
from firstloop.store import pages as store
from firstloop.store.classes import get_class
from firstloop.store.database import session_on
from firstloop.store.pages import PrintedPage
from firstloop.store.tables import Child

PIXELS_MOST = 14_000_000  # A4 at 400 dots an inch: more adds nothing but time
_STRAIGHT_PX_MM = 150 / 25.4
_QUALITY, _STRAIGHT_QUALITY = 82, 80


@dataclass(frozen=True)
class TakenEntry:
    """What was read in one place; lengths in page millimetres."""

    key: str
    row: int
    place: int
    expected: str
    support: str
    box: tuple[float, float, float, float]
    lines: tuple[float, float, float, float]
    found: str
    ticked: bool
    ink: list[KeptStroke]
    document: dict[str, Any]


@dataclass(frozen=True)
class TakenPage:
    """A page that was found in a picture, as far as it could be read; ``printed`` is what is known of it."""

    status: str
    sheet: str | None = None
    copy: int | None = None
    page: int | None = None
    printed: PrintedPage | None = None
    to_px: list[list[float]] | None = None
    turned_deg: float | None = None
    dpi: float | None = None
    residual_mm: float | None = None
    straight: bytes | None = None
    level: str = str(Level.GROWING)
    entries: list[TakenEntry] = field(default_factory=list)


@dataclass(frozen=True)
class TakenPicture:
    """A picture as it is kept, grey and without anything else, and the pages in it."""

    image: bytes
    size_px: tuple[int, int]
    pages: list[TakenPage]


def ready() -> None:
    """Have all that reads loaded."""
    page = np.full((400, 300), 255, dtype=np.uint8)
    find_pages(page, lambda code, copy, number: None)


def open_file(file: Path) -> int:
    """How many pictures a file has.

    Raises
    ------
    PictureError
    """
    return count_pictures(file.read_bytes())


def read_in(database: Path, file: Path, number: int) -> TakenPicture:
    """Read one picture of a file by the records in a database, which is only looked at.

    Raises
    ------
    PictureError
    """
    grey = _no_finer(read_picture(file.read_bytes(), number))
    with session_on(database) as session:
        pages = _pages(session, grey)
    tall, wide = grey.shape
    return TakenPicture(jpeg(grey, _QUALITY), (wide, tall), pages)


def read_as(
    database: Path, image: bytes, printed: PrintedPage, to_px: Sequence[Sequence[float]]
) -> TakenPage:
    """Read the page of a sheet that a person says lies so in a kept picture."""
    grey = read_picture(image, 1)
    return read_lying(database, grey, printed, to_px)


def read_lying(
    database: Path, grey: np.ndarray, printed: PrintedPage, to_px: Sequence[Sequence[float]]
) -> TakenPage:
    """As :func:`read_as`, of a picture that is open; 8 bit, shape (height, width)."""
    (page,) = read_layout(printed.layout).pages
    found = FoundPage(Status.READ, page, None, np.array(to_px, dtype=float), 0, 0.0)
    with session_on(database) as session:
        return _read(session, grey, found, printed)


def lies_so(size_mm: tuple[float, float], corners_px: Sequence[Sequence[float]]) -> list[list[float]]:
    """How a page lies in a picture by its four corners there, clockwise from its own top left (3 x 3)."""
    wide, tall = size_mm
    corners_mm = np.array([(0, 0), (wide, 0), (wide, tall), (0, tall)], dtype=np.float32)
    to_px = cv2.getPerspectiveTransform(corners_mm, np.array(corners_px, dtype=np.float32))
    return [[float(one) for one in row] for row in to_px]


def _no_finer(grey: np.ndarray) -> np.ndarray:
    shrunk = (PIXELS_MOST / grey.size) ** 0.5
    if shrunk >= 1:
        return grey
    return np.asarray(cv2.resize(grey, None, fx=shrunk, fy=shrunk, interpolation=cv2.INTER_AREA))


def _pages(session: Session, grey: np.ndarray) -> list[TakenPage]:
    known: dict[tuple[str, int, int], PrintedPage] = {}

    def page_of(code: str, copy: int, number: int) -> Page | None:
        printed = store.printed_page(session, code, copy, number)
        if printed is None:
            return None
        known[code, copy, number] = printed
        return read_layout(printed.layout).pages[0]

    taken = []
    for found in find_pages(grey, page_of):
        code = found.code
        printed = None if code is None else known.get((code.sheet, code.copy, code.page))
        if found.status is Status.READ and printed is not None:
            one = _read(session, grey, found, printed)
        else:
            one = TakenPage(str(found.status))
        if code is not None:
            one = replace(one, sheet=code.sheet, copy=code.copy, page=code.page)
        taken.append(one)
    return taken or [TakenPage(str(Status.NOT_A_SHEET))]


def _read(session: Session, grey: np.ndarray, found: FoundPage, printed: PrintedPage) -> TakenPage:
    sheet = read_layout(printed.layout)
    child = None if printed.child_id is None else session.get(Child, printed.child_id)
    strict = class_strictness(get_class(session, printed.class_id), child)
    terms = Terms(style_from(printed.style), Level(strict.level), strict.tolerances)
    read = read_page(grey, found, sheet.script, terms)
    return TakenPage(
        status=str(Status.READ),
        page=sheet.pages[0].number,
        printed=printed,
        to_px=[[float(one) for one in row] for row in found.to_px],
        turned_deg=round(found.turned_deg, 1) % 360,
        dpi=round(found.dpi, 1),
        residual_mm=round(found.residual_mm, 3),
        straight=_straight(read),
        level=str(strict.level),
        entries=[_entry(one) for entry in read.entries for one in letters_of(entry)],
    )


def _straight(read: ReadPage) -> bytes:
    """The page as it is shown."""
    scale = _STRAIGHT_PX_MM / PX_MM
    small = cv2.resize(read.straight.grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    ink = darkness(np.asarray(small), _STRAIGHT_PX_MM).values  # against its own paper: in even light
    return jpeg(np.asarray(np.rint(255 * (1 - ink)).astype(np.uint8)), _STRAIGHT_QUALITY)


def _entry(one: ReadEntry) -> TakenEntry:
    entry = one.entry
    document: dict[str, Any] = {}
    if one.letter is not None:
        document = letter_document(one.letter, entry.lines)
    elif one.group is not None:
        document = group_document(one.group, entry.lines)
    has_ink = one.ink is not None and one.found is not Found.EMPTY
    return TakenEntry(
        key=entry.key,
        row=entry.row,
        place=entry.place,
        expected=entry.expected,
        support=str(entry.support),
        box=entry.box,
        lines=entry.lines.lines_mm,
        found=str(one.found),
        ticked=one.is_ticked,
        ink=[from_stroke(stroke) for stroke in one.ink.strokes] if has_ink and one.ink else [],
        document=document,
    )
