"""Rows of letters: begun, written, judged, marked, and a step taken back.

Ink is safe before anything looks at it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.letterforms.library import letter
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.slots import fit_on_a_line
from firstloop.core.supports import Support, filled, still_to_write
from firstloop.core.teaching.advice import agreed_mark
from firstloop.core.teaching.marking import unchosen
from firstloop.services import evidence
from firstloop.services.classes import row_pattern
from firstloop.services.judging import Judge, attempt_result, here
from firstloop.services.row_views import (
    KeptAttempt,
    RowSummary,
    RowView,
    attempt_view,
    counted,
    row_summary,
    row_view,
)
from firstloop.store import rows as store
from firstloop.store.classes import get_child
from firstloop.store.errors import ConflictError
from firstloop.store.rows import Edit
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Row, SchoolClass, WrittenWord

TOP_XH = 0.4  # clear paper above the rise line


@dataclass(frozen=True)
class WrittenAttempt:
    """An attempt as it is ended; ``key`` makes sending it again harmless.

    ``row_started_at`` says for which row it was written, ``strokes`` are as they are kept.
    """

    key: str
    support: str
    strokes: list[dict[str, Any]]
    crossed_out: bool = False
    row_started_at: datetime | None = None


def fresh_lines(school_class: SchoolClass) -> Ruling:
    """The lines of a class on a clean sheet."""
    return ruling_kind(school_class.ruling).ruled(school_class.xh_mm, top_mm=TOP_XH * school_class.xh_mm)


def same_sheet(started_at: datetime | None, sheet: Row | WrittenWord) -> None:
    """Refuse ink that was written for another row or word, which had this number before it was erased.

    Raises
    ------
    ConflictError
    """
    if started_at is not None and started_at != sheet.started_at:
        raise ConflictError("What this was written for is no longer in the records.")


def start(session: Session, child_id: int, char: str, support: Sequence[str], at: datetime) -> RowView:
    """Begin a row on the class's ruling; without a pattern of its own it goes as the class's rows do.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    row = begin(session, child_id, char, support, at)
    session.commit()
    return get(session, row.id)


def begin(session: Session, child_id: int, char: str, support: Sequence[str], at: datetime) -> Row:
    """As :func:`start`, as part of something larger that the caller commits.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    child = get_child(session, child_id)
    school_class = child.school_class
    model = letter(char, house_style(school_class))
    pattern = [Support(one) for one in support] or row_pattern(school_class)
    if school_class.fill_line and not support:
        pattern = filled(pattern, fit_on_a_line(model, school_class.xh_mm))
    row = store.start_row(
        session, child, char, at, school_class.ruling, fresh_lines(school_class), list(map(str, pattern))
    )
    row.layered = school_class.layered
    return row


def get(session: Session, row_id: int) -> RowView:
    """One row with everything on it.

    Raises
    ------
    NotFoundError
    """
    return row_view(session, store.get_row(session, row_id))


def find(
    session: Session,
    class_id: int | None = None,
    child_id: int | None = None,
    char: str | None = None,
    limit: int | None = None,
) -> list[RowSummary]:
    """Rows that have been written on, latest first."""
    found = store.find_rows(session, class_id=class_id, child_id=child_id, letter=char, limit=limit)
    return [row_summary(row) for row in found]


def write(
    session: Session, row_id: int, given: WrittenAttempt, at: datetime, judge: Judge = here
) -> KeptAttempt:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

    Raises
    ------
    NotFoundError
    ConflictError
        As :func:`keep`.
    """
    attempt, to_write = keep(session, row_id, given, at)
    see_to(session, attempt, judge)
    return KeptAttempt(**vars(attempt_view(attempt, attempt.row.lines.xh_mm)), to_write=to_write)


def keep(session: Session, row_id: int, given: WrittenAttempt, at: datetime) -> tuple[Attempt, list[Support]]:
    """Keep an attempt's ink, once however often its key comes; returns what is still to be written too.

    Raises
    ------
    NotFoundError
    ConflictError
        If the attempt's key is known in another row, or it was written for another row.
    """
    row = store.row_to_write_in(session, row_id)
    same_sheet(given.row_started_at, row)
    attempt = store.keep_attempt(session, row, given.key, given.support, at, given.strokes, given.crossed_out)
    session.commit()
    if given.crossed_out and not attempt.crossed_out:  # crossed out while it was on its way a first time
        store.change(session, row, lambda _: [Edit(attempt.id, "crossed_out", True)], at)
        session.commit()
    pattern = [Support(one) for one in row.support]
    return attempt, still_to_write(pattern, store.how_many_count(session, row_id))


def see_to_kept(session: Session, attempt_id: int, judge: Judge = here) -> None:
    """As :func:`see_to`, of an attempt by its number, unless it was erased meanwhile."""
    attempt = store.attempt_to_judge(session, attempt_id)
    if attempt is not None:
        see_to(session, attempt, judge)


def see_to(session: Session, attempt: Attempt, judge: Judge = here) -> None:
    """Judge an attempt that is kept; a row ends when its last letter was written.

    Only then is the day's evidence worked out, not with each of thirty children's letters; rows left in the
    middle are told by ``evidence.left_in_the_middle``.
    """
    row = attempt.row
    judge_attempt(session, attempt, row, judge)
    pattern = [Support(one) for one in row.support]
    if not still_to_write(pattern, store.how_many_count(session, row.id)):
        store.finish_row(row, attempt.written_at)  # also when nobody stays on the child's page to say so
        evidence.work_out_row(session, row)


def judge_attempt(session: Session, attempt: Attempt, row: Row, judge: Judge = here) -> None:
    """Judge a kept attempt unless it is judged by now, and keep the result."""
    if attempt.result is None:
        terms, found = attempt_result(session, attempt, row, judge)
        store.keep_first_result(session, attempt, CHECKER_VERSION, terms.level, found)
        session.commit()


def has_ink(session: Session, row_id: int) -> bool:
    """Whether anything was written in a row."""
    return store.how_many_count(session, row_id) > 0


def finish(session: Session, row_id: int, at: datetime) -> RowView:
    """Note that the child ended the row.

    Raises
    ------
    NotFoundError
    """
    row = store.get_row(session, row_id)
    store.finish_row(row, at)
    if row.settled:
        session.commit()
    else:
        evidence.work_out_row(session, row)
    return row_view(session, row)


def edit(session: Session, row_id: int, edits: list[Edit], at: datetime) -> RowView:
    """Cross out, choose the best, or mark attempts: one step that can be undone.

    Raises
    ------
    NotFoundError
        If an attempt is not in the row; nothing is changed.
    """
    row = store.get_row(session, row_id)
    store.change(session, row, partial(with_one_best, edits), at)
    evidence.work_out_row(session, row)
    return get(session, row_id)


def with_one_best(edits: Sequence[Edit], row: Row) -> list[Edit]:
    """Edits of a row with what they take back: one best is the child's choice and one the teacher's."""
    out = list(edits)
    for field in ("best", "teachers_best"):
        chosen = {edit.attempt_id for edit in edits if edit.field == field and edit.value}
        so_far = [attempt.id for attempt in row.attempts if getattr(attempt, field)]
        out += [Edit(attempt_id, field, False) for attempt_id in unchosen(chosen, so_far)]
    return out


def undo(session: Session, row_id: int, at: datetime) -> RowView:
    """Take back the last step on a row.

    Raises
    ------
    NotFoundError, ConflictError
    """
    row = store.get_row(session, row_id)
    store.undo(session, row, at)
    evidence.work_out_row(session, row)
    return get(session, row_id)


def agree(session: Session, row_id: int, at: datetime) -> RowView:
    """Take the checker's verdict as the mark of every attempt of a row without one.

    Raises
    ------
    NotFoundError
    """
    row = store.get_row(session, row_id)
    if agreed_edits(row):
        store.change(session, row, agreed_edits, at)
        evidence.work_out_row(session, row)
    return get(session, row_id)


def choose_next_step(session: Session, row_id: int, code: str | None) -> RowView:
    """Choose what the child should try next; None goes back to the checker's choice.

    Raises
    ------
    NotFoundError
    """
    row = store.get_row(session, row_id)
    row.next_code = code
    session.commit()
    return row_view(session, row)


def agreed_edits(row: Row) -> list[Edit]:
    """Marks that repeat the checker's verdict, for attempts that count and have no mark yet."""
    return [
        Edit(attempt.id, "mark", str(mark))
        for attempt in counted(row)
        if attempt.mark is None
        and attempt.result
        and (mark := agreed_mark(Verdict(attempt.result.verdict))) is not None
    ]
