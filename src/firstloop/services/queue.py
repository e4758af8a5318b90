"""The queue: rows that wait for a teacher's mark, with the ink in them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from itertools import groupby
from typing import Literal

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.teaching.advice import first_to_see, next_tries, tells_most, worry
from firstloop.services import evidence
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.ink import KeptStroke, seen
from firstloop.services.letters import Boxed, boxed
from firstloop.services.results import advice_findings
from firstloop.services.row_views import (
    Lines,
    RowSummary,
    attempt_verdict,
    counted,
    lines_view,
    papers_of,
    row_geometry,
    row_summary,
)
from firstloop.services.rows import agreed_edits
from firstloop.store import rows as store
from firstloop.store.classes import get_class
from firstloop.store.errors import NotFoundError
from firstloop.store.pages import Paper
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Row
from firstloop.text import say
from firstloop.text.findings import slip_name, to_teacher

Order = Literal["newest", "worrying"]


@dataclass(frozen=True)
class QueueAttempt:
    """A letter in the queue: its ink, how it stands, and what to look at first.

    ``at`` is the place of what tells most, page millimetres, ``says`` that in a sentence.
    """

    id: int
    strokes: list[KeptStroke]
    crossed_out: bool
    verdict: Verdict
    mark: Verdict | None
    best: bool
    teachers_best: bool
    at: list[float] | None
    says: str
    paper: Paper | None


@dataclass(frozen=True)
class QueueRow(RowSummary):
    """A row that waits. ``says`` is what to know of it in few words, ``to_see`` the attempt to see first.

    ``boxed`` stands where the model's origin would, ``letter_left_mm`` into each slot.
    """

    ruled: RulingView
    lines: Lines
    slot_mm: float
    letter_left_mm: float
    boxed: Boxed
    attempts: list[QueueAttempt]
    says: str
    to_see: int


@dataclass(frozen=True)
class QueueGroup:
    """Rows of one letter, written on one day."""

    letter: str
    day: date
    rows: list[QueueRow]


@dataclass(frozen=True)
class Queue:
    """What waits, in the order asked for; ``more`` rows, all older, wait besides."""

    groups: list[QueueGroup]
    more: int


def queue(session: Session, class_id: int, order: Order) -> Queue:
    """Rows of a class with an attempt that has no mark yet, by day and letter.

    The latest day comes first, the latest or the most worrying row of each letter.

    Raises
    ------
    NotFoundError
    """
    found, more = store.waiting_rows(session, get_class(session, class_id).id)
    day = school_time(session).day
    first = _worries if order == "worrying" else _newest
    rows = sorted(found, key=lambda row: (-day(row.started_at).toordinal(), row.letter, first(row)))
    groups = [
        (when, char, list(same))
        for (when, char), same in groupby(rows, lambda row: (day(row.started_at), row.letter))
    ]
    groups.sort(key=lambda group: (-group[0].toordinal(), first(group[2][0])))
    papers = papers_of(session, found)
    return Queue(
        [QueueGroup(char, when, [_queue_row(row, papers) for row in same]) for when, char, same in groups],
        more,
    )


def agree(session: Session, class_id: int, row_ids: Sequence[int], at: datetime) -> list[QueueRow]:
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
        if agreed_edits(row):
            store.change(session, row, agreed_edits, at)
    session.commit()
    for row in found:
        evidence.work_out_row(session, row)
    papers = papers_of(session, found)
    return [_queue_row(row, papers) for row in found]


def _newest(row: Row) -> tuple[float, int]:
    return -row.started_at.timestamp(), -row.id


def _worries(row: Row) -> tuple[float, float, int]:
    return -worry([attempt_verdict(one) for one in counted(row)]), *_newest(row)


def _queue_row(row: Row, papers: Mapping[int, Paper]) -> QueueRow:
    summary = row_summary(row)
    slot_mm, letter_left_mm = row_geometry(row)
    return QueueRow(
        **vars(summary),
        ruled=ruling_view(row.ruling, row.child.school_class.washed),
        lines=lines_view(row.lines),
        slot_mm=slot_mm,
        letter_left_mm=letter_left_mm,
        boxed=boxed(row.letter, house_style(row)),
        attempts=[
            _queue_attempt(attempt, row.lines.xh_mm, papers.get(attempt.id)) for attempt in row.attempts
        ],
        says=_says(row),
        to_see=first_to_see(summary.verdicts),
    )


def _says(row: Row) -> str:
    """The slip to talk of first, and how often it was made; nothing of a row without one."""
    tries = next_tries([advice_findings(one.result.document) for one in counted(row) if one.result], [], None)
    if not tries:
        return ""
    often = say("times", count=tries[0].times) if tries[0].times > 1 else ""
    return ", ".join(filter(None, [slip_name(tries[0].code), often]))


def _queue_attempt(attempt: Attempt, xh_mm: float, paper: Paper | None) -> QueueAttempt:
    document = attempt.result.document if attempt.result else {}
    most = tells_most(advice_findings(document))
    at, says = None, ""
    if most is not None:
        found = document["findings"][most]
        at, says = found["at"], to_teacher(found["code"], found["value"], found.get("facts", {}), xh_mm)
    return QueueAttempt(
        id=attempt.id,
        strokes=seen(attempt.ink),
        crossed_out=attempt.crossed_out,
        verdict=attempt_verdict(attempt),
        mark=None if attempt.mark is None else Verdict(attempt.mark.verdict),
        best=attempt.best,
        teachers_best=attempt.teachers_best,
        at=at,
        says=says,
        paper=paper,
    )
