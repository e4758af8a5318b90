"""One child, one letter, over time."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel
from sqlalchemy.orm import Session

from firstloop.api.looking import next_time
from firstloop.api.overtime import StandingOut, StateName, letter_standings
from firstloop.api.schemas import AttemptOut, ChildOut, HeadingVerdict, RulingLines, WatchedOut
from firstloop.api.settling import settle_all
from firstloop.api.writing import attempt_out, child_out, watched_out
from firstloop.store import days, watched
from firstloop.store import rows as store
from firstloop.store.classes import get_child
from firstloop.store.school import school_time
from firstloop.store.tables import Attempt, Row, Watched

HEADINGS: tuple[Literal["direction", "shape", "size"], ...] = ("direction", "shape", "size")


class DatedAttempt(BaseModel):
    """An attempt with its row, day and lines."""

    row_id: int
    day: date
    week: int
    lines: RulingLines
    attempt: AttemptOut


class WeekOut(BaseModel):
    """A week's attempts under one heading, counted by verdict."""

    week: int
    monday: date
    heading: Literal["direction", "shape", "size"]
    secure: int
    near: int
    fix: int
    usual: HeadingVerdict


class SlipOut(BaseModel):
    """A slip and how often it was made: early (the first half of the rows) and of late."""

    code: str
    teacher: str
    early: int
    late: int


class LetterHistoryOut(BaseModel):
    """Everything a child has written of one letter, oldest first."""

    child: ChildOut
    letter: str
    attempts: list[DatedAttempt]
    first: DatedAttempt | None
    latest: DatedAttempt | None
    weeks: list[WeekOut]
    slips: list[SlipOut]
    watched: list[WatchedOut]
    next_time: str
    early_rows: int
    late_rows: int
    standings: list[StandingOut]


class LetterStateOut(BaseModel):
    """A letter a child has written: how often, when last, and how it stands now."""

    letter: str
    attempts: int
    last_day: date
    state: StateName


class ChildPageOut(BaseModel):
    """A child and the letters written so far."""

    child: ChildOut
    class_name: str
    letters: list[LetterStateOut]


def usual(verdicts: list[str]) -> str:
    """The verdict that describes most of a run: secure or fix from half on, else near."""
    seen = [v for v in verdicts if v != "not-seen"]
    if not seen:
        return "not-seen"
    counts = Counter("fix" if v == "unreadable" else v for v in seen)
    if counts["fix"] * 2 >= len(seen):
        return "fix"
    return "secure" if counts["secure"] * 3 >= len(seen) * 2 else "near"


def _week(day: date, first: date) -> int:
    monday = first.toordinal() - first.weekday()
    return (day.toordinal() - monday) // 7 + 1


def _counted(row: Row) -> list[Attempt]:
    return [attempt for attempt in row.attempts if not attempt.crossed_out]


def child_page(session: Session, child_id: int) -> ChildPageOut:
    """A child with the state of every letter.

    Raises
    ------
    NotFoundError
    """
    settle_all(session)
    child = get_child(session, child_id)
    return ChildPageOut(
        child=child_out(child),
        class_name=child.school_class.name,
        letters=[
            LetterStateOut.model_validate(
                {"letter": one.letter, "attempts": one.written, "last_day": one.day, "state": one.state}
            )
            for one in days.letters_of(session, child_id)
        ],
    )


def _heading(attempt: Attempt, heading: str) -> str:
    """Verdict of a heading; the teacher's mark, where there is one, caps or lifts them all alike."""
    if attempt.result is None or not attempt.result.document:
        return "not-seen"
    own: str = attempt.result.document["headings"][heading]
    if attempt.mark is None:
        return own
    if attempt.mark.verdict == "secure":
        return "secure"
    return own


def _weeks(
    rows: list[Row], notes: Sequence[Watched], first: date, day: Callable[[datetime], date]
) -> list[WeekOut]:
    """Verdicts by week and heading; what was watched on paper counts for Direction."""
    by_week: dict[int, list[Attempt]] = {}
    for row in rows:
        by_week.setdefault(_week(day(row.started_at), first), []).extend(_counted(row))
    seen: dict[int, list[str]] = {}
    for note in notes:
        week = _week(day(note.at), first)
        by_week.setdefault(week, [])
        seen.setdefault(week, []).append("secure" if note.seen == "fine" else "fix")
    monday = first.toordinal() - first.weekday()
    out = []
    for week, attempts in sorted(by_week.items()):
        for heading in HEADINGS:
            verdicts = [_heading(attempt, heading) for attempt in attempts]
            if heading == "direction":
                verdicts += seen.get(week, [])
            counts = Counter(verdicts)
            out.append(
                WeekOut.model_validate(
                    {
                        "week": week,
                        "monday": date.fromordinal(monday + 7 * (week - 1)),
                        "heading": heading,
                        "secure": counts["secure"],
                        "near": counts["near"],
                        "fix": counts["fix"],
                        "usual": usual(verdicts),
                    }
                )
            )
    return out


def _slips(rows: list[Row]) -> list[SlipOut]:
    """Slips in the first and the second half of the rows, the commonest of late first."""
    half = (len(rows) + 1) // 2
    early: Counter[str] = Counter()
    late: Counter[str] = Counter()
    words: dict[str, str] = {}
    for i, row in enumerate(rows):
        for attempt in _counted(row):
            for finding in (attempt.result.document if attempt.result else {}).get("findings", []):
                if finding["severity"] == "told":
                    continue
                (early if i < half else late)[finding["code"]] += 1
                words[finding["code"]] = finding["teacher"]
    codes = sorted(set(early) | set(late), key=lambda code: (-late[code], -early[code], code))
    return [SlipOut(code=code, teacher=words[code], early=early[code], late=late[code]) for code in codes[:6]]


def letter_history(session: Session, child_id: int, char: str) -> LetterHistoryOut:
    """Every attempt of one letter in date order, with its weeks and slips."""
    child = get_child(session, child_id)
    rows = sorted(
        store.find_rows(session, child_id=child_id, letter=char), key=lambda row: (row.started_at, row.id)
    )
    day = school_time(session).day
    notes = watched.notes(session, child_id=child_id, letter=char)
    noted = min((day(note.at) for note in notes), default=date.min)
    first = store.first_day(session, child.class_id) or noted
    dated = [
        DatedAttempt(
            row_id=row.id,
            day=day(row.started_at),
            week=_week(day(row.started_at), first),
            lines=RulingLines.of(row.lines),
            attempt=attempt_out(attempt),
        )
        for row in rows
        for attempt in row.attempts
    ]
    own = [one for one in dated if not one.attempt.crossed_out and one.attempt.support != "trace"]
    half = (len(rows) + 1) // 2
    return LetterHistoryOut(
        child=child_out(child),
        letter=char,
        attempts=dated,
        first=own[0] if own else None,
        latest=own[-1] if len(own) > 1 else None,
        weeks=_weeks(rows, notes, first, day),
        slips=_slips(rows),
        watched=[watched_out(note) for note in notes],
        next_time=next_time(rows[-1]) if rows else "",
        early_rows=half,
        late_rows=len(rows) - half,
        standings=letter_standings(session, child_id, char),
    )
