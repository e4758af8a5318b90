"""Erasing a child, bringing it back within thirty days, and letting go of it for good."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from sqlalchemy.orm import Session

from firstloop.formats.child_zip import write_child
from firstloop.services.child_file import take_in
from firstloop.services.children import ChildView
from firstloop.store import backup, pages
from firstloop.store import erased as store
from firstloop.store.classes import get_child
from firstloop.store.records import child_records
from firstloop.store.school import school_time
from firstloop.store.tables import ErasedChild

KEPT = timedelta(days=30)


@dataclass(frozen=True)
class ErasedView:
    """Who was erased, and until when the child can be brought back."""

    id: int
    class_id: int
    name: str
    erased_at: datetime
    until: datetime


def _view(one: ErasedChild) -> ErasedView:
    return ErasedView(one.id, one.class_id, one.name, one.erased_at, one.erased_at + KEPT)


def every(session: Session, at: datetime) -> list[ErasedView]:
    """Who can still be brought back, latest first."""
    return [_view(one) for one in store.every(session, at - KEPT)]


def erase(session: Session, child_id: int, at: datetime) -> ErasedView:
    """Erase a child with all rows, ink, results and marks; for thirty days it can be brought back.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    file = write_child(child_records(session, child), b"", b"", school_time(session).day)
    pages.erase_pictures_of(session, child)
    erased = store.erase(session, child, file, at)
    session.commit()
    return _view(erased)


def bring_back(session: Session, erased_id: int, at: datetime) -> ChildView:
    """Bring an erased child back into its class, with everything.

    Raises
    ------
    NotFoundError
        If there is no such child, or not any more.
    ConflictError
        If the class has a child of that name by now.
    """
    erased = store.get(session, erased_id, at - KEPT)
    class_id, file = erased.class_id, erased.file
    store.drop(session, erased_id)  # committed with the child, or not at all
    return take_in(session, class_id, file, at)


def forget(session: Session, erased_id: int, at: datetime) -> None:
    """Let go of an erased child now: there is no way back.

    Raises
    ------
    NotFoundError
    """
    store.get(session, erased_id, at - KEPT)
    store.forget(session, erased_id)
    session.commit()


def forget_the_old(session: Session, at: datetime) -> int:
    """Let go of all who were erased more than thirty days ago; how many."""
    gone = store.forget_before(session, at - KEPT)
    session.commit()
    return gone


def clear_backups(session: Session, data_dir: Path) -> int:
    """Take those who were let go of out of the backups made on this machine; how many children.

    A backup that somebody took elsewhere, or closed with a passphrase, is not reached.
    """
    gone = store.let_go(session)
    if not gone:
        return 0
    numbers = [child_id for _, child_id in gone if child_id is not None]
    for file in backup.made_here(data_dir):
        backup.clear_of_children(file, data_dir, numbers)
    for erased_id, _ in gone:
        store.drop(session, erased_id)
    session.commit()
    return len(gone)
