"""Sheets that are kept, and sheets that were printed, copy by copy."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, defer, selectinload

from firstloop.store.errors import NotFoundError
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
        .options(selectinload(SheetCopy.sheet), defer(SheetCopy.layout))
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


def came_back(copy: SheetCopy, on: date | None) -> None:
    """Note the day on which a copy came back; None takes that back."""
    copy.back_on = on
