"""For how long children are kept once their class is put away: for ever, unless a school says otherwise.

Whom it concerns is told before, with two weeks at the least in which a file can be taken out.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from firstloop.store import classes, pages
from firstloop.store import erased as erased_store
from firstloop.store.school import THE_SCHOOL, school_time
from firstloop.store.tables import School, SchoolClass

TOLD_BEFORE = timedelta(days=14)


@dataclass(frozen=True)
class LeavingClass:
    """A class that is put away, and the day on which its children and all they wrote are erased."""

    id: int
    name: str
    children: int
    on: date


@dataclass(frozen=True)
class Retention:
    """Days after a class is put away; None for ever. ``leaving`` are the classes it concerns, in order."""

    days: int | None
    leaving: list[LeavingClass]


def present(session: Session) -> Retention:
    """What holds now."""
    school = session.get(School, THE_SCHOOL)
    if school is None or school.ink_days is None:
        return Retention(None, [])
    day = school_time(session).day
    found = [(leaves, one) for one, leaves in _leaving(session, school)]
    found.sort(key=lambda pair: pair[0])
    leaving = [LeavingClass(one.id, one.name, len(one.children), day(leaves)) for leaves, one in found]
    return Retention(school.ink_days, leaving)


def change(session: Session, days: int | None, at: datetime) -> Retention:
    """Keep children so long, or for ever. What would be over by now is over in two weeks."""
    school = session.get(School, THE_SCHOOL)
    if school is not None and school.ink_days != days:
        school.ink_days, school.ink_days_from = days, None if days is None else at
        session.commit()
    return present(session)


def _leaving(session: Session, school: School) -> list[tuple[SchoolClass, datetime]]:
    """Classes that are put away and have children, and when these are to go."""
    if school.ink_days is None or school.ink_days_from is None:
        return []
    kept, least = timedelta(days=school.ink_days), school.ink_days_from + TOLD_BEFORE
    away = [one for one in classes.all_classes(session, archived=True) if one.children and one.archived_at]
    return [(one, max(one.archived_at + kept, least)) for one in away if one.archived_at]


def let_go(session: Session, at: datetime) -> int:
    """Erase the children whose time is over, for good; how many.

    They cannot be brought back, and leave the backups made on this machine as all who are let go of.
    """
    school = session.get(School, THE_SCHOOL)
    if school is None or school.ink_days is None:
        return 0
    gone = [
        child for one, leaves in _leaving(session, school) if leaves <= at for child in list(one.children)
    ]
    for child in gone:
        pages.erase_pictures_of(session, child)
        erased_store.forget(session, erased_store.erase(session, child, b"", at).id)
    session.commit()
    return len(gone)
