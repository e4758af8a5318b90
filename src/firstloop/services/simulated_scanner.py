"""A stand-in for children with pencils, a scanner, a copier and a phone: pages that come back."""

from __future__ import annotations

from io import BytesIO
from pathlib import Path

import numpy as np
from PIL import Image
from sqlalchemy.orm import Session

from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.scanning.written import Chances, filled
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing
from firstloop.core.simulate.camera import Device, take
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.core.simulate.pencil import some_lead
from firstloop.formats.pictures import jpeg
from firstloop.formats.sheet_json import read_wish
from firstloop.formats.sheet_pdf import page_png
from firstloop.services.printed_sheets import pages_of
from firstloop.store.classes import get_class
from firstloop.store.database import open_engine, sessions
from firstloop.store.errors import ConflictError
from firstloop.store.sheets import not_back

PAGES = 3
_DPI = 240.0
_QUALITY = 88
_CHILDREN = Chances(empty=0.05, crossed=0.05, fault=0.25, ticked=0.1, rubbed=0.05)

Sent = list[tuple[str, bytes]]
"""Files by name."""


def send(database: Path, class_id: int) -> Sent:
    """What children made of the sheets that were printed last and have not come back, three at a time.

    Raises
    ------
    NotFoundError
    ConflictError
        If nothing printed is still out.
    """
    engine = open_engine(database)
    try:
        with sessions(engine)() as session:
            return written(session, class_id, PAGES)
    finally:
        engine.dispose()


def written(session: Session, class_id: int, most: int) -> Sent:
    """As :func:`send`, so many pages at most.

    Raises
    ------
    NotFoundError, ConflictError
    """
    copies = not_back(session, get_class(session, class_id).id, most)
    if not copies:
        raise ConflictError("No printed sheet is still out. Print one first.")
    sent = []
    for copy, device in zip(copies, [*Device] * most, strict=False):
        page = pages_of(session, copy)[0]
        style, printing = style_from(copy.sheet.style), read_wish(copy.wish).printing
        rng = np.random.default_rng([copy.id, list(Device).index(device)])
        sent.append(
            (
                f"{device}-{copy.sheet.code.lower()}-{copy.number}.jpg",
                _taken(page, style, printing, device, rng),
            )
        )
    return sent


def _taken(
    page: Page, style: HouseStyle, printing: Printing, device: Device, rng: np.random.Generator
) -> bytes:
    """A page printed, written on and photographed, as JPEG."""
    paper = np.array(Image.open(BytesIO(page_png(page, printing, _DPI))).convert("L"))
    lead = some_lead(rng)
    for entry in page.entries:
        _, paper = filled(entry, paper, _DPI, style, ORDINARY_HAND, lead, rng, _CHILDREN)
    return jpeg(take(device, paper, _DPI, rng).grey, _QUALITY)
