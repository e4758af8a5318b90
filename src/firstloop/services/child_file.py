"""One child's records out into a file, and in from another First Loop."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from firstloop.formats.child_records import checked_records
from firstloop.formats.child_zip import read_child, write_child
from firstloop.formats.inkml import write_inkml
from firstloop.services import evidence
from firstloop.services.children import ChildView, child_view
from firstloop.services.ink import row_ink, word_ink
from firstloop.services.report import child_report
from firstloop.store import records as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.rows import find_rows
from firstloop.store.school import school_time


def all_ink(session: Session, child_id: int) -> bytes:
    """All ink a child has written in rows, as InkML in millimetres, oldest first.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    rows = reversed(find_rows(session, child_id=child.id))
    return write_inkml([ink for row in rows for ink in row_ink(row)])


def export(session: Session, child_id: int, on: date) -> bytes:
    """Everything of one child in one file.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    inks = [ink for row in store.rows_of(session, child_id) for ink in row_ink(row)]
    inks += [word_ink(word) for word in child.words if word.ink]
    report = child_report(session, child_id, on)
    day = school_time(session).day
    return write_child(store.child_records(session, child), write_inkml(inks), report, day)


def take_in(session: Session, class_id: int, data: bytes, at: datetime) -> ChildView:
    """Take a child from another First Loop into a class; all of it or nothing.

    Raises
    ------
    NotFoundError
        If there is no such class.
    ChildFileError
        If the file cannot be read, or holds what First Loop would not have written.
    ConflictError
        If the class has a child of that name, or the ink is here already.
    """
    into = get_class(session, class_id)
    document = checked_records(read_child(data), at)
    child = store.add_child_records(session, into, document, at)
    taken = child_view(child)
    try:
        evidence.work_out_all(session, taken.id)
    except DBAPIError:  # busy or full: the child is in, and is worked out at the next start
        session.rollback()
    return taken
