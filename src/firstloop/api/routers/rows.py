"""Rows: starting, writing, marking, and taking a step back."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from firstloop.api import looking, writing
from firstloop.api.checking import ExplainedOut, explained
from firstloop.api.deps import Db, JudgeDep, Now
from firstloop.api.errors import CONFLICT, NOT_FOUND
from firstloop.api.schemas import (
    AttemptIn,
    AttemptOut,
    EditIn,
    LetterChar,
    NextStepIn,
    RecordId,
    RowIn,
    RowOut,
    RowSummary,
    StrokeInk,
)
from firstloop.api.settling import settle_all
from firstloop.api.simulated_pen import pen_ink
from firstloop.store import rows as store

router = APIRouter(prefix="/rows", tags=["rows"])


@router.post("", status_code=201, responses=NOT_FOUND)
def start_row(session: Db, at: Now, given: RowIn) -> RowOut:
    """Begin a row of one letter for a child."""
    row = writing.start_row(session, given.child_id, given.letter, list(given.support), at)
    return looking.row_out(session, store.get_row(session, row.id))


@router.get("")
def list_rows(
    session: Db,
    class_id: RecordId | None = None,
    child_id: RecordId | None = None,
    letter: LetterChar | None = None,
    limit: Annotated[int, Query(ge=1, le=200)] = 30,
) -> list[RowSummary]:
    """Rows that have been written on, latest first."""
    found = store.find_rows(session, class_id=class_id, child_id=child_id, letter=letter, limit=limit)
    return [looking.row_summary(row) for row in found]


@router.get("/{row_id}/attempts/{attempt_id}/explained", responses={**NOT_FOUND, **CONFLICT})
def explain_attempt(session: Db, row_id: RecordId, attempt_id: RecordId) -> ExplainedOut:
    """How an attempt was judged: which ink is which move, and the model laid on the child's letter."""
    return explained(store.get_row(session, row_id), attempt_id)


@router.put("/{row_id}/next-step", responses=NOT_FOUND)
def choose_next_step(session: Db, row_id: RecordId, given: NextStepIn) -> RowOut:
    """Choose what the child should try next."""
    row = store.get_row(session, row_id)
    row.next_code = given.code
    session.commit()
    return looking.row_out(session, row)


@router.get("/{row_id}", responses=NOT_FOUND)
def get_row(session: Db, row_id: RecordId) -> RowOut:
    """One row with all its attempts."""
    return looking.row_out(session, store.get_row(session, row_id))


@router.post("/{row_id}/attempts", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def add_attempt(session: Db, at: Now, judge: JudgeDep, row_id: RecordId, given: AttemptIn) -> AttemptOut:
    """Keep an attempt, then judge it. Sending its key again can only cross it out."""
    row = store.row_to_write_in(session, row_id)
    return writing.attempt_out(writing.keep_and_judge(session, row, given, at, judge))


@router.post("/{row_id}/finish", responses=NOT_FOUND)
def finish_row(session: Db, at: Now, row_id: RecordId) -> RowOut:
    """Note that the child ended the row."""
    row = store.get_row(session, row_id)
    store.finish_row(session, row, at)
    settle_all(session)
    return looking.row_out(session, row)


@router.post("/{row_id}/edits", responses={**NOT_FOUND, **CONFLICT})
def edit_row(session: Db, at: Now, row_id: RecordId, given: EditIn) -> RowOut:
    """Cross out, choose the best, or mark attempts: one step that can be undone."""
    row = store.get_row(session, row_id)
    store.change(session, row, writing.edits(given), at)
    settle_all(session)
    return looking.row_out(session, store.get_row(session, row_id))


@router.post("/{row_id}/agree", responses=NOT_FOUND)
def agree_with_row(session: Db, at: Now, row_id: RecordId) -> RowOut:
    """Take the checker's verdict as the mark of every attempt without one."""
    row = store.get_row(session, row_id)
    agreed = looking.agreed_edits(row)
    if agreed:
        store.change(session, row, agreed, at)
        settle_all(session)
    return looking.row_out(session, store.get_row(session, row_id))


@router.post("/{row_id}/undo", responses={**NOT_FOUND, **CONFLICT})
def undo_row(session: Db, at: Now, row_id: RecordId) -> RowOut:
    """Take back the last step on a row."""
    row = store.get_row(session, row_id)
    store.undo(session, row, at)
    settle_all(session)
    return looking.row_out(session, store.get_row(session, row_id))


@router.get("/{row_id}/simulated-pen", responses=NOT_FOUND)
def simulated_pen(session: Db, row_id: RecordId) -> list[StrokeInk]:
    """Ink for the next slot of a row, in true time, as if a pen were writing it now."""
    row = store.get_row(session, row_id)
    return pen_ink(session, row)
