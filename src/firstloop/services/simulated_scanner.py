"""A stand-in for children with pencils, a scanner, a copier and a phone: pages that come back."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.scanning.written import Chances, filled
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing
from firstloop.core.simulate.camera import Device, take
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.core.simulate.notebook import exercise_book, whiteboard
from firstloop.core.simulate.pencil import some_lead
from firstloop.formats.pictures import jpeg
from firstloop.formats.sheet_json import read_wish
from firstloop.formats.sheet_pdf import page_grey
from firstloop.services.printed_sheets import pages_of
from firstloop.store.classes import get_class
from firstloop.store.database import session_on
from firstloop.store.errors import ConflictError
from firstloop.store.sheets import not_back
from firstloop.store.styles import house_style
from firstloop.store.teaching_tables import SheetCopy

PAGES = 3
_DPI = 240.0
_QUALITY = 88
_BOOK_SEED, _BOARD_SEED = 5, 4
_UPRIGHT_SEED = 3  # with this the phone is held upright, whatever was written
_BOOK, _BOARD = ("a crab on a raft", "n n n n n", "mud and sand"), ("mast", "raft")
_CHILDREN = Chances(empty=0.05, crossed=0.05, fault=0.25, ticked=0.1, rubbed=0.05)

Sent = list[tuple[str, bytes]]
"""Files by name."""


def ready(session: Session, class_id: int) -> Sequence[SheetCopy]:
    """Copies that are still out, for the next pages.

    Raises
    ------
    NotFoundError
    ConflictError
        If none is.
    """
    copies = not_back(session, get_class(session, class_id).id, PAGES)
    if not copies:
        raise ConflictError("No printed sheet is still out. Print one first.")
    return copies


def send(database: Path, class_id: int) -> Sent:
    """What children made of the sheets that were printed last and have not come back, three at a time;
    and a page of an exercise book and a small whiteboard with them.

    Raises
    ------
    NotFoundError, ConflictError
    """
    with session_on(database) as session:
        return written(session, class_id)


def written(session: Session, class_id: int) -> Sent:
    """As :func:`send`.

    Raises
    ------
    NotFoundError, ConflictError
    """
    sent = []
    for copy, device in zip(ready(session, class_id), Device, strict=False):
        page = pages_of(session, copy)[0]
        style, printing = style_from(copy.sheet.style), read_wish(copy.wish).printing
        rng = np.random.default_rng([copy.id, list(Device).index(device)])
        name = f"{device}-{copy.sheet.code.lower()}-{copy.number}.jpg"
        sent.append((name, _taken(page, style, printing, device, rng)))
    return [*sent, *_other_writing(house_style(get_class(session, class_id)))]


def _other_writing(style: HouseStyle) -> Sent:
    """An exercise book under a phone and a small whiteboard, the same each time."""
    book, _ = exercise_book(_BOOK, np.random.default_rng(_BOOK_SEED), _DPI, style=style)
    board, _ = whiteboard(_BOARD, np.random.default_rng(_BOARD_SEED), _DPI, style=style)
    shown, held = (
        take(Device.PHONE, one, _DPI, np.random.default_rng(_UPRIGHT_SEED)) for one in (book, board)
    )
    return [
        ("exercise-book.jpg", jpeg(shown.grey, _QUALITY)),
        ("whiteboard.jpg", jpeg(held.grey, _QUALITY)),
    ]


def _taken(
    page: Page, style: HouseStyle, printing: Printing, device: Device, rng: np.random.Generator
) -> bytes:
    """A page printed, written on and photographed, as JPEG."""
    paper = page_grey(page, printing, _DPI)
    lead = some_lead(rng)
    for entry in page.entries:
        _, paper = filled(entry, paper, _DPI, style, ORDINARY_HAND, lead, rng, _CHILDREN)
    return jpeg(take(device, paper, _DPI, rng).grey, _QUALITY)
