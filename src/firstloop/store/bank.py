"""What a school did to the word bank: steps of edits, the latest of which can be undone."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import NamedTuple

from sqlalchemy import delete, func, insert, select
from sqlalchemy.orm import Session

from firstloop.core.words.bank import BankWord, Change
from firstloop.store.errors import ConflictError
from firstloop.store.teaching_tables import BankEdit

_AT_ONCE = 2000


class Version(NamedTuple):
    """By which two states of the bank are told apart, in other records too."""

    latest: int
    edits: int
    made_at: datetime | None


def version(session: Session) -> Version:
    """The state of the bank."""
    query = select(func.max(BankEdit.id), func.count(), func.max(BankEdit.made_at))
    latest, edits, made_at = session.execute(query).one()
    return Version(latest or 0, edits, made_at)


def changes(session: Session) -> list[Change]:
    """Every edit, the oldest first."""
    query = select(BankEdit.text, BankEdit.units, BankEdit.by_heart).order_by(BankEdit.id)
    return [
        Change(text, None if units is None else BankWord(text, tuple(units), by_heart))
        for text, units, by_heart in session.execute(query)
    ]


def hidden(session: Session) -> list[str]:
    """Words that are hidden, by the alphabet."""
    latest = select(func.max(BankEdit.id)).group_by(BankEdit.text)
    query = select(BankEdit.text).where(BankEdit.id.in_(latest), BankEdit.units.is_(None))
    return sorted(session.scalars(query))


def keep(session: Session, edits: Sequence[Change], at: datetime) -> None:
    """Keep edits as one step; nothing is committed."""
    # which step it is the database says in the same breath: two who edit at once make two steps
    following = select(func.coalesce(func.max(BankEdit.step), 0) + 1).scalar_subquery()
    (first,) = _rows(edits[:1], 0, at)
    step = session.scalar(insert(BankEdit).values({**first, "step": following}).returning(BankEdit.step))
    assert step is not None
    for start in range(1, len(edits), _AT_ONCE):
        session.execute(insert(BankEdit), list(_rows(edits[start : start + _AT_ONCE], step, at)))


def _rows(edits: Iterable[Change], step: int, at: datetime) -> Iterable[dict[str, object]]:
    for edit in edits:
        units = None if edit.word is None else list(edit.word.units)
        by_heart = edit.word is not None and edit.word.by_heart
        yield {"step": step, "text": edit.text, "units": units, "by_heart": by_heart, "made_at": at}


def undo(session: Session) -> int:
    """Take the latest step back; how many edits it was of. Nothing is committed.

    Raises
    ------
    ConflictError
        If there is none.
    """
    step = session.scalar(select(func.max(BankEdit.step)))
    if step is None:
        raise ConflictError("the word bank is as it ships: there is nothing to undo")
    edits = session.scalar(select(func.count()).where(BankEdit.step == step)) or 0
    session.execute(delete(BankEdit).where(BankEdit.step == step))
    return edits
