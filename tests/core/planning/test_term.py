"""Days of a term, and families shared out over its lessons."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.planning.course import MOST_NEW, PART_LESSONS, Family, course
from firstloop.core.planning.term import FREE_EVERY, Holiday, LessonKind, Term, TermError, slots, weekday

MONDAY = 738_000 - (738_000 - 1) % 7  # some Monday


@st.composite
def terms(draw) -> Term:
    length = draw(st.integers(6, 200))
    minutes = draw(st.lists(st.sampled_from((0, 15, 30)), min_size=7, max_size=7).filter(any))
    holidays = []
    for _ in range(draw(st.integers(0, 4))):
        first = MONDAY + draw(st.integers(-10, length))
        holidays.append(Holiday(first, first + draw(st.integers(0, 16))))
    return Term(MONDAY, MONDAY + length, tuple(minutes), tuple(holidays))


@given(terms(), st.booleans())
def test_every_lesson_is_on_a_lesson_day_and_none_in_a_holiday(term, known):
    made = slots(term, known) if term.days else ()
    assert [one.day for one in made] == list(term.days)
    for one in made:
        assert term.minutes[weekday(one.day)] == one.minutes > 0
        assert not any(off.first <= one.day <= off.last for off in term.holidays)


@given(terms())
def test_recall_stands_on_both_sides_of_every_break(term):
    kinds = {one.day: one.kind for one in slots(term)} if len(term.days) > 1 else {}
    for off in term.breaks:
        before = [day for day in kinds if day < off.first]
        after = [day for day in kinds if day > off.last]
        assert all(kinds[day] is LessonKind.RECALL for day in before[-1:] + after[:1])


@given(terms())
def test_one_lesson_in_six_is_kept_free(term):
    kinds = [one.kind for one in slots(term)] if term.days else []
    for i in range(0, len(kinds) - FREE_EVERY + 1, FREE_EVERY):
        six = kinds[i : i + FREE_EVERY]
        assert six.count(LessonKind.FREE) == (0 if set(six) == {LessonKind.RECALL} else 1)


def test_holidays_with_a_weekend_between_are_one_break_and_a_day_off_is_none():
    friday, next_monday = MONDAY + 4, MONDAY + 7
    off = [(friday - 2, friday), (next_monday, next_monday + 1), (MONDAY + 30, MONDAY + 30)]
    term = Term(MONDAY - 14, MONDAY + 60, (15, 0, 0, 15, 0, 0, 0), tuple(Holiday(*one) for one in off))
    assert [(one.first, one.last) for one in term.breaks] == [(friday - 2, next_monday + 1)]


@pytest.mark.parametrize(
    ("first", "last", "minutes", "why"),
    [
        (10, 9, (15,) * 7, "ends before"),
        (1, 800, (15,) * 7, "at most"),
        (1, 9, (0,) * 7, "no day"),
        (1, 9, (3,) * 7, "minutes"),
    ],
)
def test_days_that_make_no_term_are_refused(first, last, minutes, why):
    with pytest.raises(TermError, match=why):
        Term(first, last, minutes)


families = st.lists(st.integers(0, 9), min_size=1, max_size=7).map(
    lambda sizes: [
        Family(f"f{i}", tuple(chr(97 + 10 * i + k) for k in range(size))) for i, size in enumerate(sizes)
    ]
)


@given(families, st.integers(1, 60))
def test_every_letter_has_one_lesson_of_its_family_or_is_left(some, lessons):
    made = course(some, lessons)
    assert made.lessons <= lessons
    dealt = [char for one in made.families for char in one.chars]
    assert sorted([*dealt, *made.left]) == sorted(char for one in some for char in one.chars)
    for number, family in enumerate(made.families):
        sizes = [size for part in made.parts if part.family == number for size in part.sizes]
        assert sum(sizes) == len(family.chars)
        assert max(sizes) <= MOST_NEW
        assert max(sizes) - min(sizes) <= 1


@given(families, st.integers(1, 60))
def test_parts_are_of_two_or_three_lessons_unless_the_family_is_smaller(some, lessons):
    made = course(some, lessons)
    for number in range(len(made.families)):
        lengths = [len(part.sizes) for part in made.parts if part.family == number]
        assert max(lengths) <= PART_LESSONS
        assert min(lengths) >= 2 or len(lengths) == 1


@given(families, st.integers(1, 60))
def test_a_lesson_more_never_makes_a_lesson_fuller(some, lessons):
    def fullest(count: int) -> int:
        return max([size for part in course(some, count).parts for size in part.sizes], default=0)

    fewer, more = course(some, lessons), course(some, lessons + 1)
    if not fewer.left:
        assert fullest(lessons + 1) <= fullest(lessons)
    assert len(more.left) <= len(fewer.left)


@given(terms())
def test_the_half_of_a_term_lies_within_it_and_before_a_break_where_there_is_one(term):
    half = term.half(term.first)
    later = [one for one in term.breaks if one.first > term.first]
    assert half == (later[0].first - 1 if later else (term.first + term.last) // 2)
    assert half >= term.first


def test_a_family_with_look_alikes_is_taught_in_two_parts():
    rounds = Family("rounds", tuple("coad"))
    assert len(course([rounds], 2).parts) == 1
    assert len(course([rounds], 2, lambda one, other: {one, other} == {"a", "o"}).parts) == 2


def test_weekdays_run_from_monday():
    assert [weekday(MONDAY + i) for i in range(7)] == list(range(7))
