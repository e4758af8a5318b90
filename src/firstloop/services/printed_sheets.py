"""Printing sheets: a copy for each child with a code of its own, and what became of the copies."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

import numpy as np
import orjson
from sqlalchemy.orm import Session

from firstloop.core.letterforms.document import style_document, style_from
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.marks import new_code
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing, SheetError, SheetWish
from firstloop.formats.sheet_json import NamedSheet, read_wish, write_wish
from firstloop.formats.sheet_layout import write_layout
from firstloop.formats.sheet_pdf import sheet_pdf
from firstloop.services.children import ChildView, child_view
from firstloop.services.sheets import printed_in
from firstloop.store import sheets as store
from firstloop.store.classes import get_class
from firstloop.store.errors import ConflictError
from firstloop.store.styles import house_style
from firstloop.store.tables import Child
from firstloop.store.teaching_tables import PrintedSheet, SheetCopy

COPIES_MOST, PAGES_MOST = 60, 200
_SHOWN = 60
_NO_NAMES = "First Loop"


@dataclass(frozen=True)
class CopyWish:
    """A copy to be printed: whose it is, and its own sheet; None of a child is a copy for anybody."""

    child_id: int | None
    wish: SheetWish


@dataclass(frozen=True)
class CopyView:
    """A copy that was printed, and the day on which it came back."""

    number: int
    child: ChildView | None
    back_on: date | None


@dataclass(frozen=True)
class PrintedView:
    """A sheet that was printed, with its copies."""

    code: str
    name: str
    day: date
    measured: bool
    pages: int
    copies: list[CopyView]


def print_copies(
    session: Session, class_id: int, name: str, copies: Sequence[CopyWish], on: date, at: datetime
) -> PrintedView:
    """Lay copies out, each with its number in its codes, and remember whose each is and what is on it.

    Raises
    ------
    NotFoundError
    SheetError
        If one of them cannot be laid out; nothing is kept then.
    ConflictError
        If a child is not of the class.
    """
    school_class = get_class(session, class_id)
    own = {child.id: child for child in school_class.children}
    if not 1 <= len(copies) <= COPIES_MOST:
        raise SheetError(f"a sheet is printed in 1 to {COPIES_MOST} copies at a time")
    if len({one.wish.printing for one in copies}) > 1:
        raise SheetError("copies that are printed together are for one printer or copier")
    if any(one.child_id is not None and one.child_id not in own for one in copies):
        raise ConflictError("One of these children is not in this class any more. Nothing was printed.")
    named, style = NamedSheet(name, copies[0].wish), house_style(school_class)
    code = _free_code(session)
    made = PrintedSheet(
        class_id=class_id, code=code, name=named.name, day=on, printed_at=at, style=style_document(style)
    )
    session.add(made)
    pages = 0
    for number, one in enumerate(copies, start=1):
        printed = printed_in(session, on, _whose(own.get(one.child_id or 0)))
        sheet = compose(one.wish, style, code, number, printed)
        pages += len(sheet.pages)
        made.copies.append(
            SheetCopy(
                number=number,
                child_id=one.child_id,
                wish=write_wish(one.wish),
                pages=len(sheet.pages),
                layout=store.packed(write_layout(sheet)),
            )
        )
    if pages > PAGES_MOST:
        session.rollback()
        raise SheetError(f"these are {pages} pages; at most {PAGES_MOST} are printed at a time")
    session.commit()
    return _view(made)


def pdf(session: Session, code: str) -> bytes:
    """A printed sheet as it was laid out, all copies in one file.

    Raises
    ------
    NotFoundError
    ConflictError
        If it was laid out by a version of First Loop that put things elsewhere.
    """
    made = store.by_code(session, code)
    pages = [page for one in made.copies for page in pages_of(session, one)]
    printing = read_wish(made.copies[-1].wish).printing if made.copies else Printing.COLOUR
    return sheet_pdf(pages, _NO_NAMES, printing)


def pages_of(session: Session, copy: SheetCopy) -> Sequence[Page]:
    """The pages of a copy as they were laid out.

    Raises
    ------
    ConflictError
        If they were laid out by a version of First Loop that put things elsewhere.
    """
    made = copy.sheet
    whose = printed_in(session, made.day, _whose(copy.child))
    sheet = compose(read_wish(copy.wish), style_from(made.style), made.code, copy.number, whose)
    if orjson.loads(orjson.dumps(write_layout(sheet))) != store.unpacked(copy.layout):
        raise ConflictError(
            "This sheet was laid out by an older First Loop. Pages printed then can still be read; print "
            "it anew for more."
        )
    return sheet.pages


def layout(session: Session, code: str, number: int) -> dict[str, Any]:
    """The layout of one copy.

    Raises
    ------
    NotFoundError
    """
    return store.unpacked(store.copy_of(session, code, number).layout)


def every(session: Session, class_id: int) -> list[PrintedView]:
    """What was printed for a class, latest first.

    Raises
    ------
    NotFoundError
    """
    return [_view(one) for one in store.printed(session, get_class(session, class_id).id, _SHOWN)]


def again(session: Session, code: str, on: date, at: datetime) -> PrintedView:
    """Print a sheet once more, with a code of its own, for those children who are still in the class.

    Raises
    ------
    NotFoundError, SheetError, ConflictError
    """
    made = store.by_code(session, code)
    here = {child.id for child in get_class(session, made.class_id).children}
    copies = [
        CopyWish(one.child_id, read_wish(one.wish))
        for one in made.copies
        if one.child_id is None or one.child_id in here
    ]
    return print_copies(session, made.class_id, made.name, copies, on, at)


def came_back(session: Session, code: str, number: int, on: date | None) -> PrintedView:
    """Note that a copy came back; without a day, that it did not.

    Raises
    ------
    NotFoundError
    """
    copy = store.copy_of(session, code, number)
    copy.back_on = on
    session.commit()
    return _view(copy.sheet)


def _whose(child: Child | None) -> str:
    return "" if child is None else f"{child.first_name} {child.initial}"


def _free_code(session: Session) -> str:
    rng = np.random.default_rng(secrets.randbits(64))
    while store.is_taken(session, code := new_code(rng)):
        pass
    return code


def _view(one: PrintedSheet) -> PrintedView:
    first = one.copies[0].wish if one.copies else {}
    return PrintedView(
        code=one.code,
        name=one.name,
        day=one.day,
        measured=bool(first.get("measured", True)),
        pages=sum(copy.pages for copy in one.copies),
        copies=[
            CopyView(copy.number, None if copy.child is None else child_view(copy.child), copy.back_on)
            for copy in one.copies
        ],
    )
