"""Rows of letters: starting them, keeping each attempt, marking, and taking a step back."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from statistics import median
from typing import Any

from sqlalchemy import and_, bindparam, func, select, update
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session, joinedload, selectinload
from sqlalchemy.orm.attributes import set_committed_value
from sqlalchemy.sql.base import ExecutableOption

from firstloop.core.ink import Evidence
from firstloop.core.ruling import Ruling
from firstloop.store.base import Base, line_columns
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.school import school_time
from firstloop.store.tables import Attempt, Change, Child, Mark, Result, Row

_PACE_ROWS = 120
_SPEED_ROWS, _SPEEDS_LEAST = 6, 8
_WHOLE = (joinedload(Attempt.result), joinedload(Attempt.mark))
_JUDGED_BY = (
    joinedload(Attempt.result),
    joinedload(Attempt.row).joinedload(Row.child).joinedload(Child.school_class),
    joinedload(Attempt.row).joinedload(Row.style),
)
_ROW = Base.metadata.tables["row"]
_UNSETTLE = update(_ROW).where(_ROW.c.id == bindparam("number")).values(settled=False, set_aside=None)
_WAITING_MOST = 60  # rows, with their ink; nobody looks at more in one go


@dataclass(frozen=True)
class Edit:
    """One field of one attempt: ``mark`` is a verdict or None, the others are bool."""

    attempt_id: int
    field: str
    value: bool | str | None


@dataclass(frozen=True)
class AttemptResult:
    """What a checker said of an attempt; ``error`` tells why there is no ``document``."""

    verdict: str
    document: dict[str, Any]
    error: str | None = None


def start_row(
    session: Session,
    child: Child,
    letter: str,
    started_at: datetime,
    ruling_key: str,
    ruling: Ruling,
    support: list[str],
) -> Row:
    """Begin a row for a child; it has its number once the session is flushed."""
    row = Row(
        child_id=child.id,
        style_id=child.school_class.style_id,
        letter=letter,
        started_at=started_at,
        **line_columns(ruling_key, ruling),
        support=support,
    )
    session.add(row)
    return row


def get_row(session: Session, row_id: int) -> Row:
    """One row with everything on it.

    Raises
    ------
    NotFoundError
    """
    return _one(session, row_id, selectinload(Row.attempts).options(*_WHOLE), joinedload(Row.child))


def row_to_write_in(session: Session, row_id: int) -> Row:
    """One row with what its letters are judged by, and nothing of what is on it: quick to fetch.

    Raises
    ------
    NotFoundError
    """
    judged_by = joinedload(Row.child).joinedload(Child.school_class)
    return _one(session, row_id, joinedload(Row.style), judged_by)


def _one(session: Session, row_id: int, *loads: ExecutableOption) -> Row:
    found = session.scalar(select(Row).where(Row.id == row_id).options(*loads))
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
    query = query.options(selectinload(Row.attempts).options(*_WHOLE), selectinload(Row.child))
    return session.scalars(query).all()


def waiting_rows(session: Session, class_id: int) -> tuple[Sequence[Row], int]:
    """The latest rows of a class with an attempt that counts and has no mark, and how many more there are."""
    unmarked = Row.attempts.any(and_(~Attempt.crossed_out, ~Attempt.mark.has()))
    waiting = select(Row).join(Child).where(Child.class_id == class_id, unmarked)
    count = session.scalar(select(func.count()).select_from(waiting.subquery())) or 0
    on_it = selectinload(Row.attempts).options(*_WHOLE)
    found = session.scalars(
        waiting.order_by(Row.started_at.desc(), Row.id.desc())
        .limit(_WAITING_MOST)
        .options(on_it, selectinload(Row.child), selectinload(Row.style))
    ).all()
    return found, count - len(found)


def marked_results(session: Session, class_id: int) -> list[tuple[dict[str, Any], str, str]]:
    """For every marked attempt of a class: what the checker said, at which level, and the mark."""
    found = session.execute(
        select(Result.document, Result.level, Mark.verdict)
        .join(Attempt, Attempt.id == Result.attempt_id)
        .join(Mark, Mark.attempt_id == Attempt.id)
        .join(Row, Row.id == Attempt.row_id)
        .join(Child, Child.id == Row.child_id)
        .where(Child.class_id == class_id, Result.current, ~Attempt.crossed_out)
    )
    return [(document, level, mark) for document, level, mark in found]


def usual_speed(session: Session, child_id: int) -> float | None:
    """Median of the speeds in a child's latest rows, xh a second; None while there are too few."""
    latest = select(Row.id).where(Row.child_id == child_id).order_by(Row.started_at.desc()).limit(_SPEED_ROWS)
    speed = func.json_extract(Result.document, "$.measures.speed_xh_s")
    speeds = session.scalars(
        select(speed)
        .join(Attempt, Attempt.id == Result.attempt_id)
        .where(Attempt.row_id.in_(latest.scalar_subquery()), Result.current, speed.is_not(None))
    ).all()
    return float(median(speeds)) if len(speeds) >= _SPEEDS_LEAST else None


def attempt_ids(session: Session) -> Sequence[int]:
    """Numbers of all attempts, oldest first."""
    return session.scalars(select(Attempt.id).order_by(Attempt.id)).all()


def attempts(session: Session, ids: Sequence[int]) -> Sequence[Attempt]:
    """Attempts with all that was ever said of them, their rows and children."""
    found = select(Attempt).where(Attempt.id.in_(ids)).order_by(Attempt.id)
    return session.scalars(found.options(selectinload(Attempt.results), *_JUDGED_BY)).all()


def attempt_to_judge(session: Session, attempt_id: int) -> Attempt | None:
    """An attempt with what it is judged by; None where it was erased meanwhile."""
    return session.scalar(select(Attempt).where(Attempt.id == attempt_id).options(*_JUDGED_BY))


def row_ids(session: Session, child_id: int) -> Sequence[int]:
    """Numbers of a child's written rows, latest first."""
    query = select(Row.id).where(Row.child_id == child_id, Row.attempts.any())
    return session.scalars(query.order_by(Row.started_at.desc(), Row.id.desc())).all()


def first_day(session: Session, class_id: int) -> date | None:
    """Day of a class's first row, from which its weeks are counted."""
    first = session.scalar(
        select(Row).join(Child).where(Child.class_id == class_id).order_by(Row.started_at).limit(1)
    )
    return None if first is None else school_time(session).day(first.started_at)


def keep_attempt(
    session: Session,
    row: Row,
    key: str,
    support: str,
    written_at: datetime,
    ink: list[dict[str, Any]],
    crossed_out: bool,
) -> Attempt:
    """Keep an attempt's ink; sending the same `key` twice keeps it once.

    Raises
    ------
    ConflictError
        If the key is known in another row.
    """
    row_id = row.id
    following = select(func.coalesce(func.max(Attempt.position) + 1, 0)).where(Attempt.row_id == row_id)
    # whether a key is new is the database's to say: a look before would not see one on its way
    attempt: Attempt | None = session.scalar(
        insert(Attempt)
        .values(
            row_id=row_id,
            key=key,
            position=following.scalar_subquery(),
            support=support,
            written_at=written_at,
            ink=ink,
            crossed_out=crossed_out,
            best=False,
            teachers_best=False,
        )
        .on_conflict_do_nothing(index_elements=["key"])
        .returning(Attempt)
    )
    if attempt is not None:
        session.connection().execute(_UNSETTLE, {"number": row_id})
        set_committed_value(attempt, "result", None)
        set_committed_value(attempt, "mark", None)
        return attempt
    session.rollback()
    known: Attempt = session.scalars(select(Attempt).where(Attempt.key == key).options(*_WHOLE)).one()
    if known.row_id != row_id:
        raise ConflictError("This attempt belongs to another row.")
    return known


def latest_ink_at(session: Session) -> datetime | None:
    """When a pen last wrote a letter; None where none ever did."""
    query = select(Attempt.written_at).where(Attempt.evidence == Evidence.INK)
    return session.scalar(query.order_by(Attempt.id.desc()).limit(1))


def how_many_count(session: Session, row_id: int) -> int:
    """How many attempts of a row are not crossed out."""
    counted = select(func.count(Attempt.id)).where(Attempt.row_id == row_id, ~Attempt.crossed_out)
    return session.scalar(counted) or 0


def unjudged(session: Session) -> Sequence[int]:
    """Numbers of the attempts that nothing has looked at yet, oldest first."""
    return session.scalars(select(Attempt.id).where(~Attempt.results.any()).order_by(Attempt.id)).all()


def keep_first_result(
    session: Session, attempt: Attempt, checker: str, level: str, result: AttemptResult
) -> None:
    """Keep what a checker said of an attempt that none has looked at; if one has by now, its word holds."""
    kept = session.scalar(
        insert(Result)
        .values(attempt_id=attempt.id, checker=checker, level=level, current=True, **vars(result))
        .on_conflict_do_nothing()
        .returning(Result)
    )
    if kept is not None:
        session.connection().execute(_UNSETTLE, {"number": attempt.row_id})
        set_committed_value(attempt, "result", kept)
    else:
        session.rollback()
        session.expire(attempt, ["result"])


def add_result(attempt: Attempt, checker: str, level: str, result: AttemptResult) -> None:
    """Let what a checker says hold from now on; what earlier ones said is kept beside it."""
    attempt.row.settled = False
    attempt.row.set_aside = None
    for earlier in attempt.results:
        earlier.current = False
    attempt.results.append(
        Result(
            checker=checker,
            level=level,
            verdict=result.verdict,
            document=result.document,
            error=result.error,
            current=True,
        )
    )


def finish_row(row: Row, at: datetime) -> None:
    """Note that the child ended the row."""
    row.finished_at = at


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


def _hold(session: Session, row: Row) -> None:
    """Have a row to oneself until the commit, as it is now: another may have changed it since it was read."""
    session.connection().execute(_UNSETTLE, {"number": row.id})
    session.refresh(row, ["settled", "set_aside", "attempts", "changes"])
    query = select(Attempt).where(Attempt.row_id == row.id).options(*_WHOLE)
    session.scalars(query.execution_options(populate_existing=True)).all()


def _apply(session: Session, row: Row, edits: Iterable[Edit], at: datetime) -> list[Edit]:
    """Make edits in a row that is held; returns the ones that take them back."""
    attempts = {attempt.id: attempt for attempt in row.attempts}
    before = []
    for edit in edits:
        if edit.attempt_id not in attempts:
            raise NotFoundError("attempt in this row", edit.attempt_id)
        before.append(Edit(edit.attempt_id, edit.field, _read(attempts[edit.attempt_id], edit.field)))
        _write(session, attempts[edit.attempt_id], edit, at)
    return before


def change(session: Session, row: Row, edits: Callable[[Row], Sequence[Edit]], at: datetime) -> None:
    """Make edits as one step that can be undone; where there are none there is no step.

    Parameters
    ----------
    edits : callable
        Tells the edits from the row as it is once nobody else can change it.

    Raises
    ------
    NotFoundError
        If an attempt is not in the row; nothing is changed.
    """
    _hold(session, row)
    after = edits(row)
    try:
        before = _apply(session, row, after, at)
    except NotFoundError:
        session.rollback()
        raise
    if after:
        made = Change(made_at=at, before=[asdict(e) for e in before], after=[asdict(e) for e in after])
        row.changes.append(made)
    session.flush()


def undo(session: Session, row: Row, at: datetime) -> None:
    """Take back the last step on a row.

    Raises
    ------
    ConflictError
        If there is nothing to take back.
    """
    _hold(session, row)
    if not row.changes:
        session.rollback()
        raise ConflictError("There is nothing to undo on this row.")
    step = row.changes[-1]
    _apply(session, row, [Edit(**edit) for edit in step.before], at)
    session.delete(step)
    session.flush()
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


def letter_spans(session: Session, class_id: int) -> list[float]:
    """Seconds from one letter of a row to the next, in the latest rows of a class."""
    latest = (
        select(Row.id)
        .join(Child, Child.id == Row.child_id)
        .where(Child.class_id == class_id)
        .order_by(Row.started_at.desc())
        .limit(_PACE_ROWS)
    )
    moment = func.julianday(Attempt.written_at)
    since = moment - func.lag(moment).over(partition_by=Attempt.row_id, order_by=Attempt.position)
    by_pen = (Attempt.row_id.in_(latest.scalar_subquery()), Attempt.evidence == Evidence.INK)
    found = session.scalars(select(since * 86_400.0).where(*by_pen))
    return [float(one) for one in found if one is not None]
