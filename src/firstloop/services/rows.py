"""Rows of letters: begun, written, judged, marked, and a step taken back.

Ink is safe before anything looks at it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.check.whole.placement import PlacedLetter, Placement
from firstloop.core.check.whole.whole import judge_whole
from firstloop.core.letterforms.library import letter
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.slots import letter_left_xh, slot_width_xh
from firstloop.core.supports import USUAL_ROW, Support, still_to_write
from firstloop.core.teaching.advice import (
    JudgedAttempt,
    NextTry,
    agreed_mark,
    best_of,
    first_to_see,
    is_all_secure,
    next_tries,
    tells_most,
    worry,
)
from firstloop.core.teaching.marking import unchosen
from firstloop.formats.check_json import finding_document
from firstloop.services import evidence
from firstloop.services.children import ChildView, child_view
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.ink import KeptStroke
from firstloop.services.judging import Judge, attempt_result, here, strictness
from firstloop.services.results import FindingView, LetterView, advice_findings, finding_view, letter_view
from firstloop.store import rows as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.rows import Edit
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Result, Row, SchoolClass, WrittenWord
from firstloop.text import say
from firstloop.text.findings import to_child

Order = Literal["newest", "worrying"]
TOP_XH = 0.4  # clear paper above the rise line


@dataclass(frozen=True)
class Lines:
    """Page y of the four lines, mm."""

    rise: float
    mid: float
    base: float
    drop: float


@dataclass(frozen=True)
class AttemptView:
    """An attempt with its ink, the checker's result and the teacher's mark."""

    id: int
    position: int
    support: Support
    written_at: datetime
    strokes: list[KeptStroke]
    crossed_out: bool
    best: bool
    teachers_best: bool
    mark: Verdict | None
    verdict: Verdict
    checker: str | None
    error: str | None
    result: LetterView | None


@dataclass(frozen=True)
class KeptAttempt(AttemptView):
    """An attempt just kept, and what is still to be written in its row."""

    to_write: list[Support]


@dataclass(frozen=True)
class RowSummary:
    """A row in a list: the verdict of every attempt (null where crossed out), and how far it has come.

    ``all_secure``: nothing in it asks to be looked at before it is agreed with.
    """

    id: int
    child: ChildView
    letter: str
    started_at: datetime
    verdicts: list[Verdict | None]
    all_secure: bool
    finished: bool
    marked: bool


@dataclass(frozen=True)
class NextTryView:
    """A thing to try next: the code it mends, the words for the child, how often it was slipped."""

    code: str
    child: str
    times: int


@dataclass(frozen=True)
class RowView:
    """A row with every attempt.

    Attempt k stands in the slot that begins at k times ``slot_mm``; the model's origin stands
    ``letter_left_mm`` into its slot. ``to_write`` is what is still to be written, and with how much help.
    ``next_time`` is the one thing to try next, ``to_see`` the position of the attempt that needs the
    teacher first.
    """

    id: int
    child: ChildView
    letter: str
    started_at: datetime
    finished: bool
    ruling: str
    ruled: RulingView
    lines: Lines
    xh_mm: float
    slot_mm: float
    letter_left_mm: float
    support: list[Support]
    to_write: list[Support]
    attempts: list[AttemptView]
    next_time: str
    next_code: str | None
    next_steps: list[NextTryView]
    findings: list[FindingView]
    checkers_best: int | None
    to_see: int
    can_undo: bool
    next_row: int | None
    previous_row: int | None


@dataclass(frozen=True)
class Queue:
    """Rows that wait for the teacher's mark, in the order asked for."""

    rows: list[RowSummary]


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


def lines_view(ruling: Ruling) -> Lines:
    """The lines of a ruling, to be shown."""
    return Lines(*ruling.lines_mm)


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
    """Begin a row on the class's ruling; without a pattern of its own it goes as rows of a new letter do.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    child = get_child(session, child_id)
    school_class = child.school_class
    letter(char, house_style(school_class))
    pattern = [str(one) for one in support or USUAL_ROW]
    row = store.start_row(session, child, char, at, school_class.ruling, fresh_lines(school_class), pattern)
    session.commit()
    return get(session, row.id)


def get(session: Session, row_id: int) -> RowView:
    """One row with everything on it.

    Raises
    ------
    NotFoundError
    """
    return _row_view(session, store.get_row(session, row_id))


def find(
    session: Session,
    class_id: int | None = None,
    child_id: int | None = None,
    char: str | None = None,
    limit: int | None = None,
) -> list[RowSummary]:
    """Rows that have been written on, latest first."""
    found = store.find_rows(session, class_id=class_id, child_id=child_id, letter=char, limit=limit)
    return [_summary(row) for row in found]


def write(
    session: Session, row_id: int, given: WrittenAttempt, at: datetime, judge: Judge = here
) -> KeptAttempt:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

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
        store.change(session, row, [Edit(attempt.id, "crossed_out", True)], at)
        session.commit()
    judge_attempt(session, attempt, row, judge)
    pattern = [Support(one) for one in row.support]
    to_write = still_to_write(pattern, store.how_many_count(session, row_id))
    return KeptAttempt(**vars(attempt_view(attempt, row.lines.xh_mm)), to_write=to_write)


def judge_attempt(session: Session, attempt: Attempt, row: Row, judge: Judge = here) -> None:
    """Judge a kept attempt unless it is judged by now, keep the result, and work out the day's evidence."""
    if attempt.result is None:
        terms, found = attempt_result(session, attempt, row, judge)
        store.keep_first_result(session, attempt, CHECKER_VERSION, terms.level, found)
        session.commit()
    evidence.work_out_row(session, row)


def finish(session: Session, row_id: int, at: datetime) -> RowView:
    """Note that the child ended the row.

    Raises
    ------
    NotFoundError
    """
    row = store.get_row(session, row_id)
    store.finish_row(row, at)
    evidence.work_out_row(session, row)
    return _row_view(session, row)


def edit(session: Session, row_id: int, edits: list[Edit], at: datetime) -> RowView:
    """Cross out, choose the best, or mark attempts: one step that can be undone.

    Raises
    ------
    NotFoundError
        If an attempt is not in the row; nothing is changed.
    """
    row = store.get_row(session, row_id)
    store.change(session, row, [*edits, *_no_longer_best(row, edits)], at)
    evidence.work_out_row(session, row)
    return get(session, row_id)


def _no_longer_best(row: Row, edits: Sequence[Edit]) -> list[Edit]:
    """Of the child's choice and of the teacher's there is one best each."""
    out = []
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
    if agreed := _agreed_edits(row):
        store.change(session, row, agreed, at)
        evidence.work_out_row(session, row)
    return get(session, row_id)


def agree_with_many(
    session: Session, class_id: int, row_ids: Sequence[int], at: datetime
) -> list[RowSummary]:
    """Take the checker's verdicts as marks in several rows of a class; each is a step of its own to undo.

    Raises
    ------
    NotFoundError
        If a row is not of the class; nothing is changed.
    """
    get_class(session, class_id)
    found = [store.get_row(session, row_id) for row_id in dict.fromkeys(row_ids)]
    for row in found:
        if row.child.class_id != class_id:
            raise NotFoundError("row in this class", row.id)
    for row in found:
        if agreed := _agreed_edits(row):
            store.change(session, row, agreed, at)
    session.commit()
    for row in found:
        evidence.work_out_row(session, row)
    return [_summary(row) for row in found]


def choose_next_step(session: Session, row_id: int, code: str | None) -> RowView:
    """Choose what the child should try next; None goes back to the checker's choice.

    Raises
    ------
    NotFoundError
    """
    row = store.get_row(session, row_id)
    row.next_code = code
    session.commit()
    return _row_view(session, row)


def queue(session: Session, class_id: int, order: Order) -> Queue:
    """Rows of a class with an attempt that has no mark yet.

    Raises
    ------
    NotFoundError
    """
    waiting = [_summary(row) for row in store.waiting_rows(session, get_class(session, class_id).id)]
    if order == "worrying":
        waiting.sort(key=lambda row: -worry([verdict for verdict in row.verdicts if verdict]))
    return Queue(waiting)


def attempt_verdict(attempt: Attempt) -> Verdict:
    """The verdict in records: the teacher's mark wins."""
    if attempt.mark is not None:
        return Verdict(attempt.mark.verdict)
    return Verdict(attempt.result.verdict) if attempt.result else Verdict.NOT_SEEN


def attempt_view(attempt: Attempt, xh_mm: float) -> AttemptView:
    """An attempt to be shown."""
    result = attempt.result
    document = result.document if result else {}
    shown = letter_view(document, xh_mm, tells_most(advice_findings(document))) if document else None
    return AttemptView(
        id=attempt.id,
        position=attempt.position,
        support=Support(attempt.support),
        written_at=attempt.written_at,
        strokes=attempt.ink,  # type: ignore[arg-type]  # as it was kept
        crossed_out=attempt.crossed_out,
        best=attempt.best,
        teachers_best=attempt.teachers_best,
        mark=None if attempt.mark is None else Verdict(attempt.mark.verdict),
        verdict=attempt_verdict(attempt),
        checker=result.checker if result else None,
        error=result.error if result else None,
        result=shown,
    )


def next_time(row: Row) -> str:
    """The one thing to try next, in words for the child."""
    tries = _tries(row, _whole_findings(row))
    return _for_the_child(tries[0], row) if tries else say("well-done")


def checkers_best(row: Row) -> int | None:
    """Which attempt written alone the checker likes best."""
    alone = [a for a in row.attempts if a.support == Support.ALONE and not a.crossed_out and a.result]
    judged = [_judged(one.result) for one in alone if one.result]
    best = best_of(judged)
    return None if best is None else alone[best].id


def _judged(result: Result) -> JudgedAttempt:
    found, measures = result.document.get("findings", []), result.document.get("measures", {})
    return JudgedAttempt(Verdict(result.verdict), len(found), measures.get("form_xh"))


def _counted(row: Row) -> list[Attempt]:
    return [attempt for attempt in row.attempts if not attempt.crossed_out]


def _verdicts(row: Row) -> list[Verdict | None]:
    return [None if attempt.crossed_out else attempt_verdict(attempt) for attempt in row.attempts]


def _agreed_edits(row: Row) -> list[Edit]:
    """Marks that repeat the checker's verdict, for attempts that count and have no mark yet."""
    return [
        Edit(attempt.id, "mark", str(mark))
        for attempt in _counted(row)
        if attempt.mark is None
        and attempt.result
        and (mark := agreed_mark(Verdict(attempt.result.verdict))) is not None
    ]


def _whole_findings(row: Row) -> list[Mapping[str, Any]]:
    """What is to say of a row as a whole: letters of different size, a line of feet that climbs.

    Traced letters do not count, nor what was crossed out.
    """
    placed = [
        PlacedLetter(row.letter, 0, Placement(**place), any(one["code"].startswith("size.") for one in found))
        for attempt in _counted(row)
        if attempt.result and attempt.support != Support.TRACE
        for found in [attempt.result.document.get("findings", [])]
        if (place := attempt.result.document.get("place"))
    ]
    text = row.letter * len(placed)
    whole = judge_whole(text, placed, house_style(row), strictness(row.child))
    return [finding_document(finding, row.lines) for finding in whole.findings]


def _tries(row: Row, whole: Sequence[Mapping[str, Any]]) -> list[NextTry]:
    attempts = [advice_findings(one.result.document) for one in _counted(row) if one.result]
    return next_tries(attempts, advice_findings({"findings": whole}), row.next_code)


def _for_the_child(one: NextTry, row: Row) -> str:
    return to_child(one.code, one.latest.value, one.latest.facts, row.lines.xh_mm)


def _summary(row: Row) -> RowSummary:
    verdicts = _verdicts(row)
    return RowSummary(
        id=row.id,
        child=child_view(row.child),
        letter=row.letter,
        started_at=row.started_at,
        verdicts=verdicts,
        all_secure=is_all_secure(verdicts),
        finished=row.finished_at is not None,
        marked=all(attempt.mark is not None or attempt.crossed_out for attempt in row.attempts),
    )


def _row_view(session: Session, row: Row) -> RowView:
    after, before = neighbours(session, row)
    model, xh_mm = letter(row.letter, house_style(row)), row.lines.xh_mm
    whole = _whole_findings(row)
    tries = [NextTryView(one.code, _for_the_child(one, row), one.times) for one in _tries(row, whole)]
    pattern = [Support(one) for one in row.support]
    return RowView(
        id=row.id,
        child=child_view(row.child),
        letter=row.letter,
        started_at=row.started_at,
        finished=row.finished_at is not None,
        ruling=row.ruling,
        ruled=ruling_view(row.ruling),
        lines=lines_view(row.lines),
        xh_mm=xh_mm,
        slot_mm=slot_width_xh(model) * xh_mm,
        letter_left_mm=letter_left_xh(model, 0) * xh_mm,
        support=pattern,
        to_write=still_to_write(pattern, len(_counted(row))),
        attempts=[attempt_view(attempt, xh_mm) for attempt in row.attempts],
        next_time=tries[0].child if tries else say("well-done"),
        next_code=row.next_code,
        next_steps=tries,
        findings=[finding_view(one, xh_mm) for one in whole],
        checkers_best=checkers_best(row),
        to_see=first_to_see(_verdicts(row)),
        can_undo=bool(row.changes),
        next_row=after,
        previous_row=before,
    )


def neighbours(session: Session, row: Row) -> tuple[int | None, int | None]:
    """The rows of the same child after and before this one."""
    ids = store.row_ids(session, row.child_id)
    if row.id not in ids:
        return None, None
    at = ids.index(row.id)  # latest first
    return (ids[at - 1] if at else None), (ids[at + 1] if at + 1 < len(ids) else None)
