"""A row as it is shown: its attempts with what is said of them, the whole of it, what to try next."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.check.whole.placement import PlacedLetter, Placement
from firstloop.core.check.whole.whole import judge_whole
from firstloop.core.ink import Evidence
from firstloop.core.letterforms.library import letter
from firstloop.core.ruling import Ruling
from firstloop.core.slots import letter_left_xh, slot_width_xh
from firstloop.core.supports import Support, still_to_write
from firstloop.core.teaching.advice import (
    JudgedAttempt,
    NextTry,
    best_of,
    first_to_see,
    is_all_secure,
    next_tries,
    tells_most,
)
from firstloop.formats.check_json import finding_document
from firstloop.services.children import ChildView, child_view
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.ink import KeptStroke
from firstloop.services.judging import strictness
from firstloop.services.results import FindingView, LetterView, advice_findings, finding_view, letter_view
from firstloop.store import pages as page_store
from firstloop.store import rows as store
from firstloop.store.pages import Paper
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Result, Row
from firstloop.text import say
from firstloop.text.findings import to_child


@dataclass(frozen=True)
class Lines:
    """Page y of the four lines, mm."""

    rise: float
    mid: float
    base: float
    drop: float


@dataclass(frozen=True)
class AttemptView:
    """An attempt with its ink, the checker's result and the teacher's mark.

    ``key`` is what whoever sent it calls it, ``paper`` the page it came from, if it was written on paper.
    """

    id: int
    key: str
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
    paper: Paper | None


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
    layered: bool
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


def lines_view(ruling: Ruling) -> Lines:
    """The lines of a ruling, to be shown."""
    return Lines(*ruling.lines_mm)


def attempt_verdict(attempt: Attempt) -> Verdict:
    """The verdict in records: the teacher's mark wins."""
    if attempt.mark is not None:
        return Verdict(attempt.mark.verdict)
    return Verdict(attempt.result.verdict) if attempt.result else Verdict.NOT_SEEN


def attempt_view(attempt: Attempt, xh_mm: float, paper: Paper | None = None) -> AttemptView:
    """An attempt to be shown."""
    result = attempt.result
    document = result.document if result else {}
    shown = letter_view(document, xh_mm, tells_most(advice_findings(document))) if document else None
    return AttemptView(
        id=attempt.id,
        key=attempt.key,
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
        paper=paper,
    )


def papers_of(session: Session, rows: Sequence[Row]) -> dict[int, Paper]:
    """The pages that attempts came from, by the attempt's number; those of pen and tablet have none."""
    scanned = [one.id for row in rows for one in row.attempts if one.evidence == Evidence.SCAN]
    return page_store.papers(session, attempt_ids=scanned)


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


def counted(row: Row) -> list[Attempt]:
    """The attempts that were not crossed out."""
    return [attempt for attempt in row.attempts if not attempt.crossed_out]


def _verdicts(row: Row) -> list[Verdict | None]:
    return [None if attempt.crossed_out else attempt_verdict(attempt) for attempt in row.attempts]


def _whole_findings(row: Row) -> list[Mapping[str, Any]]:
    """What is to say of a row as a whole: letters of different size, a line of feet that climbs.

    Traced letters do not count, nor what was crossed out.
    """
    placed = [
        PlacedLetter(row.letter, 0, Placement(**place), any(one["code"].startswith("size.") for one in found))
        for attempt in counted(row)
        if attempt.result and attempt.support != Support.TRACE
        for found in [attempt.result.document.get("findings", [])]
        if (place := attempt.result.document.get("place"))
    ]
    text = row.letter * len(placed)
    whole = judge_whole(text, placed, house_style(row), strictness(row.child))
    return [finding_document(finding, row.lines) for finding in whole.findings]


def _tries(row: Row, whole: Sequence[Mapping[str, Any]]) -> list[NextTry]:
    attempts = [advice_findings(one.result.document) for one in counted(row) if one.result]
    return next_tries(attempts, advice_findings({"findings": whole}), row.next_code)


def _for_the_child(one: NextTry, row: Row) -> str:
    return to_child(one.code, one.latest.value, one.latest.facts, row.lines.xh_mm)


def row_summary(row: Row) -> RowSummary:
    """A row in a list."""
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


def row_geometry(row: Row) -> tuple[float, float]:
    """Width of a row's slots, and where in its slot the model's origin stands, mm."""
    model, xh_mm = letter(row.letter, house_style(row)), row.lines.xh_mm
    return slot_width_xh(model) * xh_mm, letter_left_xh(model, 0) * xh_mm


def row_view(session: Session, row: Row) -> RowView:
    """A row looked at."""
    after, before = neighbours(session, row)
    xh_mm = row.lines.xh_mm
    slot_mm, letter_left_mm = row_geometry(row)
    whole = _whole_findings(row)
    tries = [NextTryView(one.code, _for_the_child(one, row), one.times) for one in _tries(row, whole)]
    pattern = [Support(one) for one in row.support]
    papers = papers_of(session, [row])
    return RowView(
        id=row.id,
        child=child_view(row.child),
        letter=row.letter,
        started_at=row.started_at,
        finished=row.finished_at is not None,
        ruling=row.ruling,
        ruled=ruling_view(row.ruling, row.child.school_class.washed),
        lines=lines_view(row.lines),
        xh_mm=xh_mm,
        slot_mm=slot_mm,
        letter_left_mm=letter_left_mm,
        support=pattern,
        layered=row.layered,
        to_write=still_to_write(pattern, len(counted(row))),
        attempts=[attempt_view(attempt, xh_mm, papers.get(attempt.id)) for attempt in row.attempts],
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
