"""What holds for the whole school: in which time zone its days begin and end."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo, available_timezones

from sqlalchemy import delete, update
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session
from tzlocal import get_localzone_name

from firstloop.store.errors import ConflictError
from firstloop.store.tables import LetterDay, Row, School

THE_SCHOOL = 1
_ELSE = "UTC"
_KNOWN = "school time"


@dataclass(frozen=True)
class SchoolTime:
    """The clock on the classroom wall."""

    zone: ZoneInfo

    def here(self, at: datetime) -> datetime:
        """A moment by this clock."""
        return at.astimezone(self.zone)

    def day(self, at: datetime) -> date:
        """The day that a moment belongs to."""
        return self.here(at).date()

    def bounds(self, day: date) -> tuple[datetime, datetime]:
        """When a day begins, and when the next one does: 23, 24 or 25 hours later.

        Raises
        ------
        OverflowError
            If there is no next day in the calendar.
        """
        first, second = (datetime.combine(one, time(), self.zone) for one in (day, day + timedelta(days=1)))
        return first, second


def machine_zone() -> str:
    """Name of the time zone this machine is set to."""
    try:
        name = get_localzone_name()
    except Exception:  # nobody set one, or in a way nobody understands
        return _ELSE
    return name if name in zone_names() else _ELSE


@lru_cache(maxsize=1)  # hundreds of files are looked at
def zone_names() -> tuple[str, ...]:
    """Time zones that a school can be in, by the names of their places."""
    places = (name for name in available_timezones() if "/" in name and not name.startswith("Etc/"))
    return *sorted(places), _ELSE


def school_time(session: Session) -> SchoolTime:
    """The school's time; the machine's while it has none of its own.

    Asked ten times while a day is worked out, it is looked up once in a transaction and stays so in it.
    """
    within, known = session.info.get(_KNOWN, (None, None))
    if isinstance(known, SchoolTime) and within is session.get_transaction():
        return known
    found = session.get(School, THE_SCHOOL)
    looked_up = SchoolTime(ZoneInfo(machine_zone() if found is None else found.time_zone))
    session.info[_KNOWN] = session.get_transaction(), looked_up
    return looked_up


def begin(session: Session, zone: str | None = None) -> None:
    """Give the school a time zone, the machine's unless another is named, if it has none yet."""
    given = insert(School).values(id=THE_SCHOOL, time_zone=zone or machine_zone())
    session.execute(given.on_conflict_do_nothing())
    session.info.pop(_KNOWN, None)


def move(session: Session, zone: str) -> None:
    """Let days begin and end elsewhere; all evidence is to be worked out again.

    Raises
    ------
    ConflictError
        If there is no such time zone.
    """
    if zone not in zone_names():
        raise ConflictError(f"There is no time zone {zone}. One is called Europe/London, for instance.")
    put = insert(School).values(id=THE_SCHOOL, time_zone=zone)
    session.execute(put.on_conflict_do_update(index_elements=["id"], set_={"time_zone": zone}))
    session.info.pop(_KNOWN, None)
    session.execute(delete(LetterDay))
    session.execute(update(Row).values(settled=False, set_aside=None))
    session.expire_all()
