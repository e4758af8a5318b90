"""Calendars read and written, a plan as JSON and as CSV."""

from __future__ import annotations

import json
from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from icalendar import Calendar

from firstloop.core.planning.plan import Lesson, Plan
from firstloop.core.planning.term import Holiday, LessonKind, Term
from firstloop.formats.calendar_file import (
    EVENTS_MOST,
    MOST_BYTES,
    CalendarError,
    DaysOff,
    LessonEvent,
    read_days,
    write_lessons,
)
from firstloop.formats.plan_json import PlanDocument, Wish, read_plan, write_plan

FIRST, LAST = date(2026, 9, 7), date(2026, 12, 18)
STAMP = datetime(2026, 9, 1, tzinfo=UTC)


def calendar(*events: str) -> bytes:
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//school//EN"]
    for number, event in enumerate(events):
        lines += [
            "BEGIN:VEVENT",
            f"UID:{number}",
            "DTSTAMP:20260101T000000Z",
            *event.split("|"),
            "END:VEVENT",
        ]
    return "\r\n".join([*lines, "END:VCALENDAR", ""]).encode()


def days(*events: str) -> list[DaysOff]:
    return read_days(calendar(*events), FIRST, LAST)


def test_whole_days_within_the_term_are_read_with_their_last_day():
    assert days(
        "SUMMARY:Half-term|DTSTART;VALUE=DATE:20261019|DTEND;VALUE=DATE:20261024",
        "SUMMARY:  Staff\\nday |DTSTART;VALUE=DATE:20260914",
        "SUMMARY:Visit|DTSTART;VALUE=DATE:20261102|DURATION:P2D",
        "SUMMARY:Long ago|DTSTART;VALUE=DATE:20250101",
        "SUMMARY:Called off|STATUS:CANCELLED|DTSTART;VALUE=DATE:20261103",
        "SUMMARY:Parents' evening|DTSTART:20261104T170000Z|DTEND:20261104T190000Z",
    ) == [
        DaysOff(date(2026, 9, 14), date(2026, 9, 14), "Staff day"),
        DaysOff(date(2026, 10, 19), date(2026, 10, 23), "Half-term"),
        DaysOff(date(2026, 11, 2), date(2026, 11, 3), "Visit"),
    ]


def test_what_recurs_stands_once_for_every_time_within_the_term():
    found = days("SUMMARY:Closed|DTSTART;VALUE=DATE:20200907|RRULE:FREQ=MONTHLY;BYMONTHDAY=7")
    assert [one.first for one in found] == [date(2026, month, 7) for month in (9, 10, 11, 12)]


def test_a_holiday_that_began_before_the_term_is_read_whole():
    (one,) = days("SUMMARY:Summer|DTSTART;VALUE=DATE:20260720|DTEND;VALUE=DATE:20260909")
    assert (one.first, one.last) == (date(2026, 7, 20), date(2026, 9, 8))


@pytest.mark.parametrize(
    "raw",
    [
        b"",
        b"not a calendar",
        b"\xff\xfe\x00",
        b"BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n",
        b"x" * (MOST_BYTES + 1),
    ],
)
def test_what_is_no_calendar_is_refused_in_words(raw):
    with pytest.raises(CalendarError, match="calendar"):
        read_days(raw, FIRST, LAST)


def test_too_many_events_are_refused():
    with pytest.raises(CalendarError, match=str(EVENTS_MOST)):
        days(*["DTSTART;VALUE=DATE:20261019"] * (EVENTS_MOST + 1))


@settings(max_examples=60)
@given(st.integers(0, 900), st.binary(min_size=1, max_size=3))
def test_a_damaged_calendar_is_read_or_refused_and_never_more(at, junk):
    whole = calendar(
        "SUMMARY:Half-term|DTSTART;VALUE=DATE:20261019|DTEND;VALUE=DATE:20261024|RRULE:FREQ=YEARLY"
    )
    at %= len(whole)
    try:
        found = read_days(whole[:at] + junk + whole[at + len(junk) :], FIRST, LAST)
    except CalendarError:
        return
    assert all(one.first <= LAST and one.last >= FIRST for one in found)


def test_lessons_are_read_back_as_they_were_written():
    lessons = [
        LessonEvent("lesson-1@first-loop", 3, date(2026, 9, 8), 15, "New: l, i", "15 minutes"),
        LessonEvent("lesson-2@first-loop", 3, datetime(2026, 9, 10, 9, tzinfo=UTC), 20, "Recall", ""),
        LessonEvent("lesson-3@first-loop", 3, date(2026, 9, 15), 0, "gone", "", gone=True),
    ]
    events = Calendar.from_ical(write_lessons("A class", lessons, STAMP)).walk("VEVENT")
    assert [str(one["UID"]) for one in events] == [one.uid for one in lessons]
    assert [one.decoded("DTSTART") for one in events] == [one.begin for one in lessons]
    assert events[1].decoded("DTEND") - events[1].decoded("DTSTART") == timedelta(minutes=20)
    assert [str(one["STATUS"]) for one in events] == ["CONFIRMED", "CONFIRMED", "CANCELLED"]
    assert str(events[0]["SUMMARY"]) == "New: l, i"
    assert write_lessons("A class", lessons, STAMP) == write_lessons("A class", lessons, STAMP)


ordinals = st.integers(FIRST.toordinal(), LAST.toordinal())
texts = st.text(max_size=12)
planned = st.builds(
    Lesson,
    st.integers(1, 99),
    ordinals,
    st.integers(5, 90),
    st.sampled_from(LessonKind),
    st.lists(st.sampled_from(["a", "B", "into-round"]), max_size=3).map(tuple),
    st.booleans(),
    st.none() | st.just(("a",)),
    st.booleans(),
)
documents = st.builds(
    PlanDocument,
    st.builds(
        Wish,
        texts,
        st.builds(
            Term,
            st.just(FIRST.toordinal()),
            st.just(LAST.toordinal()),
            st.just((0, 15, 0, 20, 0, 0, 0)),
            st.lists(st.builds(Holiday, st.just(FIRST.toordinal()), ordinals, texts), max_size=3).map(tuple),
        ),
        st.just("by-movement"),
        st.just(("lower case",)),
        st.lists(st.sampled_from("abc")).map(tuple),
        st.sampled_from(["words", "between"]),
        st.just((0.5, 0.0, 1.0)),
    ),
    st.builds(
        Plan,
        st.lists(planned, max_size=4).map(tuple),
        st.just(("z",)),
        st.lists(st.tuples(st.integers(1, 9), ordinals), max_size=2).map(tuple),
    ),
    st.dictionaries(st.integers(1, 99), st.just({"aim": "I can."}), max_size=2),
)


@given(documents)
def test_a_plan_is_read_back_as_it_was_kept(document):
    assert read_plan(json.loads(json.dumps(write_plan(document)))) == document
