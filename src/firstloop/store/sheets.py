"""Sheets that are kept, and sheets that were printed, copy by copy."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from datetime import datetime
from typing import Any

import orjson
from sqlalchemy import exists, select
from sqlalchemy.orm import Session, defer, selectinload

from firstloop.store.errors import NotFoundError
from firstloop.store.page_tables import ReturnedPage
from firstloop.store.teaching_tables import KeptSheet, PrintedSheet, SheetCopy


def kept(session: Session, class_id: int) -> Sequence[KeptSheet]:
    """The sheets that a class keeps, by name."""
    query = select(KeptSheet).where(KeptSheet.class_id == class_id, KeptSheet.dropped_at.is_(None))
    return session.scalars(query.order_by(KeptSheet.name, KeptSheet.id)).all()


def get(session: Session, sheet_id: int) -> KeptSheet:
    """One of them, also one that was dropped.

    Raises
    ------
    NotFoundError
    """
    found = session.get(KeptSheet, sheet_id)
    if found is None:
        raise NotFoundError("sheet", sheet_id)
    return found


def keep(session: Session, class_id: int, name: str, wish: dict[str, Any], at: datetime) -> KeptSheet:
    """Keep a sheet."""
    made = KeptSheet(class_id=class_id, name=name, wish=wish, changed_at=at)
    session.add(made)
    session.flush()
    return made


def printed(session: Session, class_id: int, limit: int) -> Sequence[PrintedSheet]:
    """What was printed for a class, latest first, without the layouts."""
    load = selectinload(PrintedSheet.copies)
    return session.scalars(
        select(PrintedSheet)
        .where(PrintedSheet.class_id == class_id)
        .order_by(PrintedSheet.printed_at.desc(), PrintedSheet.id.desc())
        .limit(limit)
        .options(load.options(defer(SheetCopy.layout)), load.selectinload(SheetCopy.child))
    ).all()


def by_code(session: Session, code: str) -> PrintedSheet:
    """A printed sheet with its copies.

    Raises
    ------
    NotFoundError
    """
    found = session.scalar(select(PrintedSheet).where(PrintedSheet.code == code))
    if found is None:
        raise NotFoundError("printed sheet", code)
    return found


def is_taken(session: Session, code: str) -> bool:
    """Whether a sheet has this code."""
    return session.scalar(select(PrintedSheet.id).where(PrintedSheet.code == code)) is not None


def copies_of(session: Session, child_id: int) -> Sequence[SheetCopy]:
    """What was printed for a child, latest first."""
    return session.scalars(
        select(SheetCopy)
        .join(SheetCopy.sheet)
        .where(SheetCopy.child_id == child_id)
        .order_by(PrintedSheet.printed_at.desc())
        .options(selectinload(SheetCopy.sheet))
    ).all()


def copy_of(session: Session, code: str, number: int) -> SheetCopy:
    """One copy.

    Raises
    ------
    NotFoundError
    """
    found = session.scalar(
        select(SheetCopy).join(SheetCopy.sheet).where(PrintedSheet.code == code, SheetCopy.number == number)
    )
    if found is None:
        raise NotFoundError("copy of a sheet", f"{code}, {number}")
    return found


def not_back(session: Session, class_id: int, limit: int) -> Sequence[SheetCopy]:
    """Copies for children of a class of which no page has come back, of what was printed last."""
    return session.scalars(
        select(SheetCopy)
        .join(SheetCopy.sheet)
        .where(
            PrintedSheet.class_id == class_id,
            SheetCopy.child_id.is_not(None),
            ~exists().where(ReturnedPage.sheet == PrintedSheet.code, ReturnedPage.copy == SheetCopy.number),
        )
        .order_by(SheetCopy.back_on.is_not(None), PrintedSheet.printed_at.desc(), SheetCopy.number)
        .limit(limit)
    ).all()


def copies_document(session: Session, child_id: int) -> list[dict[str, Any]]:
    """What was printed for a child, as it goes along with the child's records."""
    return [
        {
            "code": one.sheet.code,
            "name": one.sheet.name,
            "day": one.sheet.day,
            "printed_at": one.sheet.printed_at,
            "style": one.sheet.style,
            "number": one.number,
            "pages": one.pages,
            "wish": one.wish,
            "layout": unpacked(one.layout),
            "back_on": one.back_on,
        }
        for one in copies_of(session, child_id)
    ]


def add_copies(session: Session, class_id: int, child_id: int, documents: Sequence[dict[str, Any]]) -> None:
    """Put what was printed for a child back; a copy that is somebody's by now is left as it is."""
    for one in documents:
        sheet = session.scalar(select(PrintedSheet).where(PrintedSheet.code == one["code"]))
        if sheet is None:
            facts = {name: one[name] for name in ("code", "name", "day", "printed_at", "style")}
            sheet = PrintedSheet(class_id=class_id, **facts)
            session.add(sheet)
            session.flush()
        if any(copy.number == one["number"] for copy in sheet.copies):
            continue
        facts = {name: one[name] for name in ("number", "pages", "wish", "back_on")}
        sheet.copies.append(SheetCopy(child_id=child_id, layout=packed(one["layout"]), **facts))


def packed(layout: dict[str, Any]) -> bytes:
    """A layout as it is kept."""
    return zlib.compress(orjson.dumps(layout))


def unpacked(layout: bytes) -> dict[str, Any]:
    """What :func:`packed` packed."""
    found: dict[str, Any] = orjson.loads(zlib.decompress(layout))
    return found
