"""One child, one letter, over time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Heading, Verdict
from firstloop.core.progress.evidence import Aspect, Evidence, evidence_of, slips_in
from firstloop.core.progress.evidence import watched as watched_evidence
from firstloop.core.progress.mastery import State, standing
from firstloop.core.progress.weeks import halves, slip_counts, week_of, weeks
from firstloop.core.supports import Support
from firstloop.services.children import ChildView, child_view
from firstloop.services.class_map import signs
from firstloop.services.evidence import day_of
from firstloop.services.results import counted_codes
from firstloop.services.row_views import (
    AttemptView,
    Lines,
    attempt_view,
    lines_view,
    next_time,
    papers_of,
)
from firstloop.services.watching import WatchedView, watched_view
from firstloop.store import days, watched
from firstloop.store import rows as store
from firstloop.store.classes import get_child
from firstloop.store.pages import Paper
from firstloop.store.school import school_time
from firstloop.store.tables import Attempt, Row
from firstloop.text import progress
from firstloop.text.findings import slip_name


@dataclass(frozen=True)
class DatedAttempt:
    """An attempt with its row, day and lines."""

    row_id: int
    day: date
    week: int
    lines: Lines
    attempt: AttemptView


@dataclass(frozen=True)
class WeekView:
    """A week's letters written alone under one heading, counted by verdict."""

    week: int
    monday: date
    heading: Heading
    secure: int
    near: int
    fix: int
    usual: Verdict


@dataclass(frozen=True)
class SlipView:
    """A slip and how often it was made: early (the first half of the rows) and of late."""

    code: str
    name: str
    early: int
    late: int


@dataclass(frozen=True)
class StandingView:
    """How a letter stands under one aspect, with the numbers that say so."""

    aspect: Aspect
    state: State
    why: str
    sureness: str
    since: date | None


@dataclass(frozen=True)
class LetterHistory:
    """Everything a child has written of one letter, oldest first."""

    child: ChildView
    letter: str
    attempts: list[DatedAttempt]
    first: DatedAttempt | None
    latest: DatedAttempt | None
    weeks: list[WeekView]
    slips: list[SlipView]
    watched: list[WatchedView]
    next_time: str
    early_rows: int
    late_rows: int
    standings: list[StandingView]


@dataclass(frozen=True)
class LetterState:
    """A letter a child has written: how often, when last, and how it stands now."""

    letter: str
    attempts: int
    last_day: date
    state: State


@dataclass(frozen=True)
class ChildPage:
    """A child and the letters written so far."""

    child: ChildView
    class_name: str
    letters: list[LetterState]


def child_page(session: Session, child_id: int) -> ChildPage:
    """A child with the state of every letter, in the order of the class's families.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    found = {one.letter: one for one in days.letters_of(session, child_id)}
    order = signs(session, child.school_class, set(found)).family
    return ChildPage(
        child=child_view(child),
        class_name=child.school_class.name,
        letters=[
            LetterState(one.letter, one.written, one.day, State(one.state))
            for one in (found[char] for char in (*order, *(set(found) - set(order))) if char in found)
        ],
    )


def standings(session: Session, child_id: int, char: str) -> list[StandingView]:
    """How a child's letter stands now, under every aspect.

    Raises
    ------
    NotFoundError
    """
    history = [day_of(one) for one in days.of_letter(session, get_child(session, child_id).id, char)]
    out = []
    for aspect in Aspect:
        found = standing(history, aspect)
        since = None if found.since is None else date.fromordinal(found.since)
        out.append(StandingView(aspect, found.state, progress.why(found), progress.sureness(found), since))
    return out


def history(session: Session, child_id: int, char: str) -> LetterHistory:
    """Every attempt of one letter in date order, with its weeks and slips.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    rows = sorted(
        store.find_rows(session, child_id=child_id, letter=char), key=lambda row: (row.started_at, row.id)
    )
    day = school_time(session).day
    notes = watched.notes(session, child_id=child_id, letter=char)
    noted = min((day(note.at) for note in notes), default=date.min)
    first = (store.first_day(session, child.class_id) or noted).toordinal()
    papers = papers_of(session, rows)
    dated = [
        _dated(attempt, row, day, first, papers.get(attempt.id)) for row in rows for attempt in row.attempts
    ]
    own = [one for one in dated if not one.attempt.crossed_out and one.attempt.support is not Support.TRACE]
    seen = [(day(row.started_at).toordinal(), _evidence(one)) for row in rows for one in _alone(row)]
    seen += [(day(note.at).toordinal(), watched_evidence(note.seen == "fine")) for note in notes]
    early, late = halves(len(rows))
    return LetterHistory(
        child=child_view(child),
        letter=char,
        attempts=dated,
        first=own[0] if own else None,
        latest=own[-1] if len(own) > 1 else None,
        weeks=[
            WeekView(**{**vars(week), "monday": date.fromordinal(week.monday)}) for week in weeks(seen, first)
        ],
        slips=[
            SlipView(one.code, slip_name(one.code), one.early, one.late)
            for one in slip_counts([slips_in(map(_found, _alone(row))) for row in rows])
        ],
        watched=[watched_view(note) for note in notes],
        next_time=next_time(rows[-1]) if rows else "",
        early_rows=early,
        late_rows=late,
        standings=standings(session, child_id, char),
    )


def _dated(
    attempt: Attempt, row: Row, day: Callable[[datetime], date], first: int, paper: Paper | None
) -> DatedAttempt:
    on = day(row.started_at)
    return DatedAttempt(
        row_id=row.id,
        day=on,
        week=week_of(on.toordinal(), first),
        lines=lines_view(row.lines),
        attempt=attempt_view(attempt, row.lines.xh_mm, paper),
    )


def _alone(row: Row) -> list[Attempt]:
    return [one for one in row.attempts if not one.crossed_out and one.support == Support.ALONE]


def _document(attempt: Attempt) -> dict[str, object]:
    return attempt.result.document if attempt.result else {}


def _mark(attempt: Attempt) -> Verdict | None:
    return None if attempt.mark is None else Verdict(attempt.mark.verdict)


def _evidence(attempt: Attempt) -> Evidence:
    document = _document(attempt)
    verdict = attempt.result.verdict if attempt.result and document else Verdict.NOT_SEEN
    return evidence_of(verdict, document.get("headings", {}), _mark(attempt))  # type: ignore[arg-type]


def _found(attempt: Attempt) -> tuple[list[str], Verdict | None]:
    return counted_codes(_document(attempt)), _mark(attempt)
