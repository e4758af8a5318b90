"""Groups that a teacher changed: they stay until she asks for fresh ones."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.store.teaching_tables import KeptGroups


def kept(session: Session, class_id: int) -> list[dict[str, Any]] | None:
    """The groups as changed; None where those worked out hold."""
    found = session.get(KeptGroups, class_id)
    return None if found is None else list(found.document)


def keep(session: Session, class_id: int, document: list[dict[str, Any]], at: datetime) -> None:
    """Keep groups in place of those worked out."""
    session.merge(KeptGroups(class_id=class_id, document=document, made_at=at))


def forget(session: Session, class_id: int) -> None:
    """Go back to the groups worked out."""
    found = session.get(KeptGroups, class_id)
    if found is not None:
        session.delete(found)
