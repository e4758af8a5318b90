"""iCalendar (RFC 5545): holidays read, lessons written; the library does both ends of the format."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Any

from dateutil.rrule import rrulestr
from icalendar import Calendar, Component, Event

MOST_BYTES = 1 << 20
EVENTS_MOST = 2000
_TIMES_MOST = 60  # how often one event may recur within a term
_NAME_MOST = 80


class CalendarError(ValueError):
    """A file that cannot be read as a calendar; the text says why."""


@dataclass(frozen=True)
class DaysOff:
    """Whole days of a calendar, both ends included, with what the calendar calls them."""

    first: date
    last: date
    name: str


def read_days(raw: bytes, first: date, last: date) -> list[DaysOff]:
    """Events of a calendar that take whole days and touch a term, in order.

    What recurs stands once for each time within the term. An event with times of day is no holiday.

    Raises
    ------
    CalendarError
    """
    if len(raw) > MOST_BYTES:
        raise CalendarError("This calendar is larger than 1 MB. Nothing of it was taken.")
    try:
        calendar = Calendar.from_ical(raw)
        events = calendar.walk("VEVENT")
    except (ValueError, KeyError, IndexError, TypeError, AttributeError, UnicodeError) as problem:
        raise CalendarError("This file is no calendar (iCalendar, .ics). Nothing was changed.") from problem
    if len(events) > EVENTS_MOST:
        raise CalendarError(f"This calendar has more than {EVENTS_MOST} events. Nothing of it was taken.")
    found = {one for event in events for one in _days_of(event, first, last)}
    return sorted(found, key=lambda one: (one.first, one.last, one.name))


def _days_of(event: Component, first: date, last: date) -> Iterator[DaysOff]:
    if str(event.get("STATUS", "")).upper() == "CANCELLED":
        return
    name = " ".join(str(event.get("SUMMARY", "")).split())[:_NAME_MOST]
    try:
        begin, end = _span(event)
        if begin is None or end is None:
            return
        length = end - begin
        for day in _times(event, begin, first - length, last):
            if day <= last and day + length >= first:
                yield DaysOff(day, day + length, name)
    except (ValueError, KeyError, TypeError, AttributeError, OverflowError):
        return  # an event without a day that can be read is none


def _span(event: Component) -> tuple[date | None, date | None]:
    """First and last day of an event that takes whole days."""
    begin = event.decoded("DTSTART")
    if isinstance(begin, datetime):
        return None, None
    end = event.decoded("DTEND") if "DTEND" in event else None
    if isinstance(end, datetime):
        return None, None
    if end is None:
        length = event.decoded("DURATION") if "DURATION" in event else timedelta(days=1)
        end = begin + length
    return begin, max(begin, end - timedelta(days=1))


def _times(event: Component, begin: date, first: date, last: date) -> list[date]:
    """Days on which an event begins, within a term."""
    if "RRULE" not in event:
        return [begin]
    try:
        found: Any = event["RRULE"]
        text = str(found.to_ical(), "utf-8")
        rule = rrulestr(text, dtstart=datetime.combine(begin, time()), ignoretz=True)
        begins = rule.xafter(datetime.combine(first, time()), count=_TIMES_MOST, inc=True)
        return [day for day in (one.date() for one in begins) if day <= last]
    except (ValueError, TypeError, AttributeError, OverflowError):
        return [begin]


@dataclass(frozen=True)
class LessonEvent:
    """A lesson in a calendar.

    Parameters
    ----------
    uid : str
        The same whenever the lesson is written again.
    number : int
        Grows with every change of the plan.
    begin : datetime or date
        When it begins; a day alone where no time of day is known.
    gone : bool
        It was in the plan once and is no longer.
    """

    uid: str
    number: int
    begin: datetime | date
    minutes: int
    title: str
    about: str
    gone: bool = False


def write_lessons(name: str, lessons: Iterable[LessonEvent], stamp: datetime) -> bytes:
    """A calendar of lessons; one that is gone is written as cancelled, so that it goes elsewhere too."""
    calendar = Calendar()
    calendar.add("prodid", "-//First Loop//First Loop//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for one in lessons:
        event = Event()
        event.add("uid", one.uid)
        event.add("dtstamp", stamp)
        event.add("last-modified", stamp)
        event.add("sequence", one.number)
        event.add("dtstart", one.begin)
        length = timedelta(minutes=one.minutes) if isinstance(one.begin, datetime) else timedelta(days=1)
        event.add("dtend", one.begin + length)
        event.add("summary", one.title)
        event.add("description", one.about)
        event.add("status", "CANCELLED" if one.gone else "CONFIRMED")
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
