"""Plans, kept step by step so that each can be taken back, and lessons that were run."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.tables import Child as ChildRow
from firstloop.store.tables import LetterDay, Row, WrittenWord
from firstloop.store.teaching_tables import HeldLesson, PlanStep

STEPS_KEPT = 60


def _latest(session: Session, class_id: int, count: int) -> Sequence[PlanStep]:
    query = select(PlanStep).where(PlanStep.class_id == class_id).order_by(PlanStep.id.desc())
    return session.scalars(query.limit(count)).all()


def present(session: Session, class_id: int) -> PlanStep | None:
    """The plan as it is now; None where none was made."""
    return next(iter(_latest(session, class_id, 1)), None)


def made_at(session: Session, class_id: int) -> datetime:
    """When the latest step was taken.

    Raises
    ------
    NotFoundError
        If there is none.
    """
    step = present(session, class_id)
    if step is None:
        raise NotFoundError("plan of class", class_id)
    return step.made_at


def can_undo(session: Session, class_id: int) -> bool:
    """Whether there is a plan before the present one."""
    found = select(func.count()).select_from(PlanStep).where(PlanStep.class_id == class_id)
    return (session.scalar(found) or 0) > 1


def keep(
    session: Session, class_id: int, document: dict[str, Any], said: list[str], at: datetime, seen: int | None
) -> PlanStep:
    """Keep a step; very old ones are dropped.

    Parameters
    ----------
    seen : int or None
        Number of the plan that was changed, as whoever changed it had it before her; None where there was
        none.

    Raises
    ------
    ConflictError
        If it has been changed since.
    """
    last = present(session, class_id)
    if (None if last is None else last.number) != seen:
        raise ConflictError(
            "The plan was changed meanwhile, in another window. Nothing was changed now: look at it as it "
            "is, and try again."
        )
    made = PlanStep(
        class_id=class_id,
        number=1 if last is None else last.number + 1,
        made_at=at,
        said=said,
        document=document,
    )
    session.add(made)
    session.flush()
    kept = select(PlanStep.id).where(PlanStep.class_id == class_id).order_by(PlanStep.id.desc())
    old = kept.offset(STEPS_KEPT).limit(STEPS_KEPT)
    session.execute(delete(PlanStep).where(PlanStep.id.in_(old)))
    return made


def undo(session: Session, class_id: int, seen: int) -> None:
    """Take the latest step back. The plan before it counts as changed again.

    Raises
    ------
    ConflictError
        If there is none, or it is not the one that was seen.
    """
    found = _latest(session, class_id, 2)
    if not found or found[0].number != seen:
        raise ConflictError("There is no such step to take back: the plan was changed meanwhile.")
    number = found[0].number + 1
    session.delete(found[0])
    session.flush()
    if len(found) > 1:
        found[1].number = number


def last_held(session: Session, class_id: int) -> int:
    """The highest key of a lesson that was run; 0 where none was."""
    found = select(func.max(HeldLesson.lesson)).where(HeldLesson.class_id == class_id)
    return session.scalar(found) or 0


def held(session: Session, class_id: int, lesson: int) -> HeldLesson | None:
    """What was noted of a lesson that was run."""
    return session.scalars(
        select(HeldLesson).where(HeldLesson.class_id == class_id, HeldLesson.lesson == lesson)
    ).first()


def written_between(session: Session, class_id: int, first: datetime, last: datetime) -> tuple[int, int, int]:
    """Rows begun between two moments, words begun, and by how many children in all."""
    counts: list[int] = []
    children: set[int] = set()
    for table in (Row, WrittenWord):
        found = session.scalars(
            select(table.child_id)
            .join(ChildRow, ChildRow.id == table.child_id)
            .where(ChildRow.class_id == class_id, table.started_at.between(first, last))
        ).all()
        counts.append(len(found))
        children.update(found)
    return counts[0], counts[1], len(children)


def written_letters(session: Session, class_id: int, first: date, last: date) -> dict[date, dict[str, int]]:
    """Which letters were written in rows on each day, by how many children."""
    query = (
        select(LetterDay.day, LetterDay.letter, LetterDay.child_id)
        .join(ChildRow, ChildRow.id == LetterDay.child_id)
        .where(
            ChildRow.class_id == class_id,
            LetterDay.day.between(first, last),
            LetterDay.written + LetterDay.helped > 0,
        )
    )
    out: dict[date, dict[str, int]] = {}
    for day, letter, _ in session.execute(query):
        mine = out.setdefault(day, {})
        mine[letter] = mine.get(letter, 0) + 1
    return out
