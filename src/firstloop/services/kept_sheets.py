"""Sheets that a class keeps under a name: kept, changed, dropped and brought back, taken out and in."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.wish import SheetWish
from firstloop.formats.sheet_json import NamedSheet, read_sheet, read_wish, write_sheet, write_wish
from firstloop.services.sheets import printed_in
from firstloop.store import sheets as store
from firstloop.store.classes import get_class
from firstloop.store.styles import style_of_class
from firstloop.store.teaching_tables import KeptSheet

_TRIED = "PREVUE"
_LONG_DAY = date(2026, 9, 30)  # a Wednesday in September: no long date is longer


@dataclass(frozen=True)
class KeptView:
    """A sheet that is kept."""

    id: int
    name: str
    wish: SheetWish
    changed_at: datetime


def every(session: Session, class_id: int) -> list[KeptView]:
    """The sheets of a class, by name.

    Raises
    ------
    NotFoundError
    """
    return [_view(one) for one in store.kept(session, get_class(session, class_id).id)]


def keep(session: Session, class_id: int, named: NamedSheet, at: datetime) -> KeptView:
    """Keep a sheet.

    Raises
    ------
    NotFoundError
    SheetError
        If it cannot be laid out in the style of the class; it is not kept then.
    """
    _can_be(session, class_id, named.wish)
    made = store.keep(session, class_id, named.name, write_wish(named.wish), at)
    session.commit()
    return _view(made)


def change(session: Session, sheet_id: int, named: NamedSheet, at: datetime) -> KeptView:
    """Keep it otherwise, or under another name.

    Raises
    ------
    NotFoundError, SheetError
    """
    sheet = store.get(session, sheet_id)
    _can_be(session, sheet.class_id, named.wish)
    sheet.name, sheet.wish, sheet.changed_at = named.name, write_wish(named.wish), at
    session.commit()
    return _view(sheet)


def drop(session: Session, sheet_id: int, at: datetime) -> None:
    """Put it away; it can be brought back.

    Raises
    ------
    NotFoundError
    """
    store.get(session, sheet_id).dropped_at = at
    session.commit()


def bring_back(session: Session, sheet_id: int) -> KeptView:
    """Bring back one that was dropped.

    Raises
    ------
    NotFoundError
    """
    sheet = store.get(session, sheet_id)
    sheet.dropped_at = None
    session.commit()
    return _view(sheet)


def file_of(session: Session, sheet_id: int) -> bytes:
    """It as a file for another class or school.

    Raises
    ------
    NotFoundError
    """
    view = _view(store.get(session, sheet_id))
    return write_sheet(NamedSheet(view.name, view.wish))


def take_in(session: Session, class_id: int, raw: bytes, at: datetime) -> KeptView:
    """Keep a sheet from a file.

    Raises
    ------
    NotFoundError, SheetError
    """
    return keep(session, class_id, read_sheet(raw), at)


def _can_be(session: Session, class_id: int, wish: SheetWish) -> None:
    compose(wish, style_of_class(session, class_id), _TRIED, printed=printed_in(session, _LONG_DAY))


def _view(one: KeptSheet) -> KeptView:
    return KeptView(one.id, one.name, read_wish(one.wish), one.changed_at)
