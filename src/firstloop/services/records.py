"""Care of records: how much there is, in which time zone days begin, and what could not be worked out."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.services import evidence
from firstloop.services.children import ChildView, child_view
from firstloop.store import classes, days, school
from firstloop.store.school import school_time


@dataclass(frozen=True)
class Counts:
    """How much there is."""

    classes: int
    children: int
    rows: int
    attempts: int


@dataclass(frozen=True)
class TimeZone:
    """The school's time zone, and the names of all there are."""

    name: str
    names: list[str]


@dataclass(frozen=True)
class SetAside:
    """A row whose day could not be worked out, and why."""

    child: ChildView
    letter: str
    day: date
    why: str


def begin(session: Session, zone: str | None = None) -> None:
    """Give the school a time zone, the machine's unless another is named, if it has none yet."""
    school.begin(session, zone)
    session.commit()


def today(session: Session, at: datetime) -> date:
    """The day that a moment belongs to, by the school's own clock."""
    return school_time(session).day(at)


def count(session: Session) -> Counts:
    """How much there is."""
    return Counts(**classes.counts(session))


def time_zone(session: Session) -> TimeZone:
    """The time zone in which the school's days begin and end, and all that can be chosen."""
    return TimeZone(school_time(session).zone.key, list(school.zone_names()))


def move(session: Session, zone: str) -> TimeZone:
    """Let the school's days begin and end elsewhere; all evidence is worked out again.

    Raises
    ------
    ConflictError
        If there is no such time zone.
    """
    school.move(session, zone)
    session.commit()
    session.expire_all()
    evidence.work_out_all(session)
    return time_zone(session)


def set_aside(session: Session) -> list[SetAside]:
    """Days of writing that could not be worked out; they count for nothing until they change."""
    here = school_time(session)
    return [
        SetAside(child_view(one.child), one.letter, here.day(one.started_at), one.why)
        for one in days.all_set_aside(session)
    ]
