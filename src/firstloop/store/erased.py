"""Children that were erased, for as long as they can be brought back."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session

from firstloop.store.errors import NotFoundError
from firstloop.store.tables import Child, ErasedChild

_HAS_FILE = func.length(ErasedChild.file) > 0


def erase(session: Session, child: Child, file: bytes, at: datetime) -> ErasedChild:
    """Erase a child with all rows, ink, results and marks; what is left is the file."""
    name = f"{child.first_name} {child.initial}"
    erased = ErasedChild(class_id=child.class_id, name=name, erased_at=at, child_id=child.id, file=file)
    session.add(erased)
    session.delete(child)
    session.flush()
    return erased


def every(session: Session, since: datetime) -> Sequence[ErasedChild]:
    """Who was erased since then and can be brought back, latest first."""
    query = select(ErasedChild).where(ErasedChild.erased_at >= since, _HAS_FILE)
    return session.scalars(query.order_by(ErasedChild.erased_at.desc())).all()


def get(session: Session, erased_id: int, since: datetime) -> ErasedChild:
    """One who was erased since then and can be brought back.

    Raises
    ------
    NotFoundError
    """
    found = session.scalar(
        select(ErasedChild).where(ErasedChild.id == erased_id, ErasedChild.erased_at >= since, _HAS_FILE)
    )
    if found is None:
        raise NotFoundError("erased child", erased_id)
    return found


def drop(session: Session, erased_id: int) -> None:
    """Nothing is known of the erasing any more: the child is back, or is gone everywhere."""
    session.execute(delete(ErasedChild).where(ErasedChild.id == erased_id))


def forget(session: Session, erased_id: int) -> None:
    """Let go of the file and the name; the number stays until it is gone from the backups made here."""
    session.execute(update(ErasedChild).where(ErasedChild.id == erased_id).values(file=b"", name=""))


def forget_before(session: Session, before: datetime) -> int:
    """Let go of all files of those who were erased before then; how many."""
    old = session.scalars(select(ErasedChild.id).where(ErasedChild.erased_at < before, _HAS_FILE)).all()
    for erased_id in old:  # none as a rule: then nothing is written
        forget(session, erased_id)
    return len(old)


def let_go(session: Session) -> list[tuple[int, int | None]]:
    """Those whose file is gone, and the number that each child had."""
    found = session.execute(select(ErasedChild.id, ErasedChild.child_id).where(~_HAS_FILE))
    return [(erased_id, child_id) for erased_id, child_id in found]
