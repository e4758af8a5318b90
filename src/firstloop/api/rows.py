"""Rows: starting, writing, marking, and taking a step back."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Query
from pydantic import Field, StringConstraints, model_validator

from firstloop.api.deps import Db, JudgeDep, Now
from firstloop.api.given import Given, LetterChar, Moment, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import CONFLICT, NOT_FOUND
from firstloop.formats.bounds import Strokes, SupportName
from firstloop.services import explanation, rows, simulated_pen
from firstloop.services.explanation import Explanation
from firstloop.services.row_views import KeptAttempt, RowSummary, RowView
from firstloop.services.rows import WrittenAttempt
from firstloop.services.simulated_pen import KeptStrokes
from firstloop.store.rows import Edit

router = resource("rows", "/rows")


class RowIn(Given):
    """A new row; an empty support list means the usual six."""

    child_id: RecordId
    letter: LetterChar
    support: list[SupportName] = Field(default_factory=list, max_length=20)


class AttemptIn(Given):
    """An attempt as it is ended; ``key`` makes sending it again harmless.

    ``row_started_at`` says for which row it was written: numbers of rows that were erased are given again.
    """

    key: str = Field(min_length=8, max_length=40)
    row_started_at: Moment | None = None
    support: SupportName
    strokes: Strokes
    crossed_out: bool = False


class EditIn(Given):
    """A step on attempts of a row; fields left out stay as they are. ``mark: none`` takes a mark away."""

    attempt_ids: list[RecordId] = Field(min_length=1, max_length=100)
    crossed_out: bool | None = None
    best: bool | None = None
    teachers_best: bool | None = None
    mark: Literal["secure", "near", "fix", "none"] | None = None

    @model_validator(mode="after")
    def something(self) -> EditIn:
        """At least one field must be given."""
        if not self.fields:
            raise ValueError("say what to change: crossed_out, best, teachers_best or mark")
        return self

    @property
    def fields(self) -> dict[str, bool | str | None]:
        """What is to be changed, and to what; a mark to None takes it away."""
        given = {name: getattr(self, name) for name in ("crossed_out", "best", "teachers_best", "mark")}
        return {
            name: None if value == "none" else value for name, value in given.items() if value is not None
        }


class NextStepIn(Given):
    """The code of the next step the teacher chose; null goes back to the checker's choice."""

    code: Annotated[str, StringConstraints(max_length=30)] | None


@router.post("", status_code=201, responses=NOT_FOUND)
def start_row(session: Db, at: Now, given: RowIn) -> RowView:
    """Begin a row of one letter for a child."""
    return rows.start(session, given.child_id, given.letter, given.support, at)


@router.get("")
def list_rows(
    session: Db,
    class_id: RecordId | None = None,
    child_id: RecordId | None = None,
    letter: LetterChar | None = None,
    limit: Annotated[int, Query(ge=1, le=200)] = 30,
) -> list[RowSummary]:
    """Rows that have been written on, latest first."""
    return rows.find(session, class_id, child_id, letter, limit)


@router.get("/{row_id}/attempts/{attempt_id}/explained", responses={**NOT_FOUND, **CONFLICT})
def explain_attempt(session: Db, row_id: RecordId, attempt_id: RecordId) -> Explanation:
    """How an attempt was judged: which ink is which move, and the model laid on the child's letter."""
    return explanation.explained(session, row_id, attempt_id)


@router.put("/{row_id}/next-step", responses=NOT_FOUND)
def choose_next_step(session: Db, row_id: RecordId, given: NextStepIn) -> RowView:
    """Choose what the child should try next."""
    return rows.choose_next_step(session, row_id, given.code)


@router.get("/{row_id}", responses=NOT_FOUND)
def get_row(session: Db, row_id: RecordId) -> RowView:
    """One row with all its attempts."""
    return rows.get(session, row_id)


@router.post("/{row_id}/attempts", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def add_attempt(session: Db, at: Now, judge: JudgeDep, row_id: RecordId, given: AttemptIn) -> KeptAttempt:
    """Keep an attempt, then judge it. Sending its key again can only cross it out."""
    strokes = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    written = WrittenAttempt(given.key, given.support, strokes, given.crossed_out, given.row_started_at)
    return rows.write(session, row_id, written, at, judge)


@router.post("/{row_id}/finish", responses=NOT_FOUND)
def finish_row(session: Db, at: Now, row_id: RecordId) -> RowView:
    """Note that the child ended the row."""
    return rows.finish(session, row_id, at)


@router.post("/{row_id}/edits", responses={**NOT_FOUND, **CONFLICT})
def edit_row(session: Db, at: Now, row_id: RecordId, given: EditIn) -> RowView:
    """Cross out, choose the best, or mark attempts: one step that can be undone."""
    edits = [Edit(one, name, value) for one in given.attempt_ids for name, value in given.fields.items()]
    return rows.edit(session, row_id, edits, at)


@router.post("/{row_id}/agree", responses=NOT_FOUND)
def agree_with_row(session: Db, at: Now, row_id: RecordId) -> RowView:
    """Take the checker's verdict as the mark of every attempt without one."""
    return rows.agree(session, row_id, at)


@router.post("/{row_id}/undo", responses={**NOT_FOUND, **CONFLICT})
def undo_row(session: Db, at: Now, row_id: RecordId) -> RowView:
    """Take back the last step on a row."""
    return rows.undo(session, row_id, at)


@router.get("/{row_id}/simulated-pen", responses=NOT_FOUND)
def simulate_pen(session: Db, row_id: RecordId) -> KeptStrokes:
    """Ink for the next slot of a row, in true time, as if a pen were writing it now."""
    return simulated_pen.next_letter(session, row_id)
