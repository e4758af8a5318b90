"""Rows of letters: starting them, keeping each attempt, marking, and taking a step back."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from itertools import groupby
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, selectinload

from firstloop.core.ruling import Ruling
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.tables import Attempt, Change, Child, Mark, Result, Row

SUPPORTS = ("trace", "finish", "alone")
FIELDS = ("crossed_out", "best", "mark")


@dataclass(frozen=True)
class Edit:
    """One field of one attempt: ``crossed_out`` and ``best`` are bool, ``mark`` a verdict or None."""

    attempt_id: int
    field: str
    value: bool | str | None


@dataclass(frozen=True)
class WrittenRow:
    """A row without its ink, for a map of many children; ``verdicts`` leave out crossed-out attempts."""

    child_id: int
    letter: str
    day: date
    attempts: int
    verdicts: tuple[str, ...]


def start_row(
    session: Session,
    child: Child,
    letter: str,
    started_at: datetime,
    ruling_key: str,
    ruling: Ruling,
    support: list[str],
) -> Row:
    """Begin a row for a child."""
    rise, mid, base, drop = ruling.lines_mm
    row = Row(
        child_id=child.id,
        style_id=child.school_class.style_id,
        letter=letter,
        started_at=started_at,
        ruling=ruling_key,
        rise_mm=rise,
        mid_mm=mid,
        base_mm=base,
        drop_mm=drop,
        support=support,
    )
    session.add(row)
    session.commit()
    return row


def get_row(session: Session, row_id: int) -> Row:
    """One row with everything on it.

    Raises
    ------
    NotFoundError
    """
    found = session.scalar(
        select(Row)
        .where(Row.id == row_id)
        .options(
            selectinload(Row.attempts).selectinload(Attempt.result),
            selectinload(Row.attempts).selectinload(Attempt.mark),
            selectinload(Row.child),
        )
    )
    if found is None:
        raise NotFoundError("row", row_id)
    return found


def find_rows(
    session: Session,
    class_id: int | None = None,
    child_id: int | None = None,
    letter: str | None = None,
    limit: int | None = None,
) -> Sequence[Row]:
    """Rows that have at least one attempt, latest first."""
    query = select(Row).join(Child).where(Row.attempts.any()).order_by(Row.started_at.desc(), Row.id.desc())
    if class_id is not None:
        query = query.where(Child.class_id == class_id)
    if child_id is not None:
        query = query.where(Row.child_id == child_id)
    if letter is not None:
        query = query.where(Row.letter == letter)
    if limit is not None:
        query = query.limit(limit)
    load = selectinload(Row.attempts)
    query = query.options(
        load.selectinload(Attempt.result), load.selectinload(Attempt.mark), selectinload(Row.child)
    )
    return session.scalars(query).all()


def written_rows(
    session: Session, class_id: int | None = None, child_id: int | None = None
) -> list[WrittenRow]:
    """Rows with the verdicts that stand in the records (marks win), latest first, without loading any ink."""
    query = (
        select(
            Row.id,
            Row.child_id,
            Row.letter,
            Row.started_at,
            Attempt.crossed_out,
            Mark.verdict,
            Result.verdict,
        )
        .join(Attempt, Attempt.row_id == Row.id)
        .join(Child, Child.id == Row.child_id)
        .outerjoin(Mark, Mark.attempt_id == Attempt.id)
        .outerjoin(Result, Result.attempt_id == Attempt.id)
        .order_by(Row.started_at.desc(), Row.id.desc(), Attempt.position)
    )
    if class_id is not None:
        query = query.where(Child.class_id == class_id)
    if child_id is not None:
        query = query.where(Row.child_id == child_id)
    found = []
    for _, attempts in groupby(session.execute(query), key=lambda one: one[0]):
        each = list(attempts)
        _, child, letter, started_at, *_ = each[0]
        verdicts = tuple(
            mark or result or "not-seen" for *_, crossed_out, mark, result in each if not crossed_out
        )
        found.append(WrittenRow(child, letter, started_at.date(), len(each), verdicts))
    return found


def row_ids(session: Session, child_id: int) -> Sequence[int]:
    """Numbers of a child's written rows, latest first."""
    query = select(Row.id).where(Row.child_id == child_id, Row.attempts.any())
    return session.scalars(query.order_by(Row.started_at.desc(), Row.id.desc())).all()


def first_day(session: Session, class_id: int) -> date | None:
    """Day of a class's first row, from which its weeks are counted."""
    first = session.scalar(
        select(Row).join(Child).where(Child.class_id == class_id).order_by(Row.started_at).limit(1)
    )
    return None if first is None else first.started_at.date()


def keep_attempt(
    session: Session,
    row: Row,
    key: str,
    support: str,
    written_at: datetime,
    ink: list[dict[str, Any]],
    crossed_out: bool,
) -> Attempt:
    """Keep an attempt's ink, at once and for good; sending the same `key` twice keeps it once.

    Raises
    ------
    ConflictError
        If the key is known in another row.
    """
    known = session.scalar(select(Attempt).where(Attempt.key == key))
    if known is not None:
        if known.row_id != row.id:
            raise ConflictError("This attempt belongs to another row.")
        return known
    last = session.scalar(select(func.max(Attempt.position)).where(Attempt.row_id == row.id))
    attempt = Attempt(
        row_id=row.id,
        key=key,
        position=0 if last is None else last + 1,
        support=support,
        written_at=written_at,
        ink=ink,
        crossed_out=crossed_out,
        result=None,
        mark=None,
    )
    session.add(attempt)
    session.commit()
    return attempt


def unjudged(session: Session) -> Sequence[Attempt]:
    """Attempts that nothing has looked at yet."""
    return session.scalars(select(Attempt).where(~Attempt.result.has()).order_by(Attempt.id)).all()


def keep_result(
    session: Session,
    attempt: Attempt,
    checker: str,
    verdict: str,
    document: dict[str, Any],
    error: str | None,
) -> None:
    """Keep what the checker said, in place of what an earlier one said."""
    found = attempt.result
    if found is None:
        found = attempt.result = Result()
    found.checker, found.verdict, found.document, found.error = checker, verdict, document, error
    session.commit()


def finish_row(session: Session, row: Row, at: datetime) -> None:
    """Note that the child ended the row."""
    row.finished_at = at
    session.commit()


def _read(attempt: Attempt, field: str) -> bool | str | None:
    if field == "mark":
        return attempt.mark.verdict if attempt.mark else None
    return bool(getattr(attempt, field))


def _write(session: Session, attempt: Attempt, edit: Edit, at: datetime) -> None:
    if edit.field != "mark":
        setattr(attempt, edit.field, bool(edit.value))
    elif edit.value is None:
        attempt.mark = None
    elif attempt.mark is None:
        attempt.mark = Mark(verdict=str(edit.value), made_at=at)
    else:
        attempt.mark.verdict, attempt.mark.made_at = str(edit.value), at


def _apply(session: Session, row: Row, edits: Iterable[Edit], at: datetime) -> list[Edit]:
    """Make edits; returns the ones that take them back."""
    attempts = {attempt.id: attempt for attempt in row.attempts}
    before = []
    for edit in edits:
        if edit.attempt_id not in attempts:
            raise NotFoundError("attempt in this row", edit.attempt_id)
        before.append(Edit(edit.attempt_id, edit.field, _read(attempts[edit.attempt_id], edit.field)))
        _write(session, attempts[edit.attempt_id], edit, at)
    return before


def change(session: Session, row: Row, edits: list[Edit], at: datetime) -> None:
    """Make edits as one step that can be undone; choosing a best attempt unchooses the others.

    Raises
    ------
    NotFoundError
        If an attempt is not in the row; nothing is changed.
    """
    chosen = {edit.attempt_id for edit in edits if edit.field == "best" and edit.value}
    others = [Edit(a.id, "best", False) for a in row.attempts if chosen and a.best and a.id not in chosen]
    edits = [*edits, *others]
    try:
        before = _apply(session, row, edits, at)
    except NotFoundError:
        session.rollback()
        raise
    row.changes.append(
        Change(made_at=at, before=[asdict(e) for e in before], after=[asdict(e) for e in edits])
    )
    session.commit()


def undo(session: Session, row: Row, at: datetime) -> None:
    """Take back the last step on a row.

    Raises
    ------
    ConflictError
        If there is nothing to take back.
    """
    if not row.changes:
        raise ConflictError("There is nothing to undo on this row.")
    step = row.changes[-1]
    _apply(session, row, [Edit(**edit) for edit in step.before], at)
    session.delete(step)
    session.commit()
    session.expire(row, ["changes"])


def letters_before(session: Session, class_id: int, letter: str) -> list[str]:
    """Letters a class began before `letter`; all it has begun where that is a new one."""
    begun = (
        select(Row.letter, func.min(Row.started_at).label("first"))
        .join(Child)
        .where(Child.class_id == class_id)
        .group_by(Row.letter)
    )
    first = {char: at for char, at in session.execute(begun)}
    new = letter not in first
    return sorted(char for char, at in first.items() if new or at < first[letter])
