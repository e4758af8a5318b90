"""Children that were erased, for as long as they can be brought back."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from firstloop.store.errors import NotFoundError
from firstloop.store.tables import Child, ErasedChild


def erase(session: Session, child: Child, file: bytes, at: datetime) -> ErasedChild:
    """Erase a child with all rows, ink, results and marks; what is left is the file."""
    name = f"{child.first_name} {child.initial}"
    erased = ErasedChild(class_id=child.class_id, name=name, erased_at=at, file=file)
    session.add(erased)
    session.delete(child)
    session.flush()
    return erased


def every(session: Session, since: datetime) -> Sequence[ErasedChild]:
    """Who was erased since then, latest first."""
    query = select(ErasedChild).where(ErasedChild.erased_at >= since)
    return session.scalars(query.order_by(ErasedChild.erased_at.desc())).all()


def get(session: Session, erased_id: int, since: datetime) -> ErasedChild:
    """One who was erased since then.

    Raises
    ------
    NotFoundError
    """
    found = session.get(ErasedChild, erased_id)
    if found is None or found.erased_at < since:
        raise NotFoundError("erased child", erased_id)
    return found


def forget(session: Session, erased_id: int) -> None:
    """Let go of the file."""
    session.execute(delete(ErasedChild).where(ErasedChild.id == erased_id))


def forget_before(session: Session, before: datetime) -> int:
    """Let go of all files of those who were erased before then; how many."""
    old = session.scalars(select(ErasedChild.id).where(ErasedChild.erased_at < before)).all()
    for erased_id in old:  # none as a rule: then nothing is written
        forget(session, erased_id)
    return len(old)
