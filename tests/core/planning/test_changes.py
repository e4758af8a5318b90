"""Changing a plan keeps its laws, and moves as little as anything that keeps them could."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations_with_replacement

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.planning import changes
from firstloop.core.planning.changes import FREE_COST, FULLER_COST, ChangeError
from firstloop.core.planning.plan import Came, Lesson, Plan, dealt, empty
from firstloop.core.planning.recall import recalls
from firstloop.core.planning.term import Holiday, LessonKind, Term, slots
from firstloop.core.progress.review import RECALL_MOST

MONDAY = 738_000 - (738_000 - 1) % 7
LETTERS = "abcdefghijklmnopqrstuvwxyz"


def term(*holidays: Holiday, weeks: int = 13) -> Term:
    return Term(MONDAY, MONDAY + 7 * weeks - 1, (0, 15, 0, 15, 0, 0, 0), holidays)


def planned(two_each: int = 26) -> Plan:
    made = slots(term(Holiday(MONDAY + 42, MONDAY + 46)))
    count = sum(one.kind is LessonKind.NEW for one in made)
    chars = LETTERS[:two_each]
    pairs = [tuple(chars[i * len(chars) // count : (i + 1) * len(chars) // count]) for i in range(count)]
    return dealt(empty(made), made, tuple(pairs), (), MONDAY)


def simple(*new: str, kinds: str = "") -> Plan:
    """A lesson a day from day 0; `kinds` has f for a free one and r for recall."""
    kind = {"f": LessonKind.FREE, "r": LessonKind.RECALL, "n": LessonKind.NEW}
    return Plan(
        tuple(
            Lesson(i + 1, i, 15, kind[kinds[i]] if kinds else LessonKind.NEW, tuple(chars))
            for i, chars in enumerate(new)
        )
    )


def as_text(plan: Plan) -> list[str]:
    return ["".join(one.new) for one in plan.lessons]


def letters_of(plan: Plan) -> list[str]:
    """Every letter where it is really taught: shown, or planned and not yet told."""
    return [char for one in plan.lessons for char in one.taught] + list(plan.left)


class Disturber:
    """Does something to a plan at random, as a term might."""

    def __init__(self, rng: np.random.Generator) -> None:
        self.rng, self.today = rng, MONDAY
        self.holidays = [Holiday(MONDAY + 42, MONDAY + 46)]

    def disturb(self, plan: Plan) -> tuple[str, Plan]:
        what = str(self.rng.choice(["letter", "lesson", "lock", "tell", "holiday", "school day"]))
        keys = [one.key for one in plan.lessons]
        key, other = (int(k) for k in self.rng.choice(keys, 2))
        return what, getattr(self, what.replace(" ", "_"))(plan, key, other)

    def letter(self, plan, key, _):
        return changes.move_letter(plan, str(self.rng.choice(list(LETTERS))), key, self.today).plan

    def lesson(self, plan, key, other):
        return changes.move_lesson(plan, key, other, self.today).plan

    def lock(self, plan, key, _):
        return changes.lock(plan, key, bool(self.rng.random() < 0.4), self.today)

    def tell(self, plan, key, _):
        shown = [char for char in plan.lesson(key).new if self.rng.random() < 0.5]
        return changes.tell(plan, key, None if self.rng.random() < 0.5 else shown, self.today).plan

    def holiday(self, plan, *_):
        first = self.today + int(self.rng.integers(1, 80))
        self.holidays = [*self.holidays[-4:], Holiday(first, first + int(self.rng.integers(0, 4)))]
        return changes.new_days(plan, slots(term(*self.holidays)), self.today).plan

    def school_day(self, plan, *_):
        self.today += int(self.rng.random() < 0.3)
        self.holidays = self.holidays[:-1]
        return changes.new_days(plan, slots(term(*self.holidays)), self.today).plan


def keeps_the_laws(before: Plan, after: Plan, what: str, at: Disturber) -> None:
    assert sorted(letters_of(after)) == list(LETTERS), "each letter once"
    assert [one.day for one in after.lessons] == sorted({one.day for one in after.lessons})
    assert len({one.key for one in after.lessons}) == len(after.lessons)
    was = {one.key: one for one in before.lessons}
    for one in after.lessons:
        old = was.get(one.key)
        if is_to_come(one, at.today):
            assert not any(off.first <= one.day <= off.last for off in at.holidays), "nothing on a holiday"
        if old is not None and what != "tell" and not is_to_come(old, at.today):
            assert one == old, "the past is untouched"
        if old is not None and old.locked and what not in ("lock", "tell"):
            assert (one.day, one.new) == (old.day, old.new), "locked days are untouched"


def is_to_come(one: Lesson, today: int) -> bool:
    return one.day >= today and one.shown is None


@pytest.mark.parametrize("seed", range(3))
def test_a_plan_disturbed_at_random_200_times_keeps_every_law(seed):
    at = Disturber(np.random.default_rng(seed))
    plan, done = planned(), set()
    for _ in range(200):
        try:
            what, after = at.disturb(plan)
        except ChangeError:
            continue
        keeps_the_laws(plan, after, what, at)
        plan = after
        done.add(what)
    assert len(done) == 6


@given(st.integers(0, 25), st.integers(0, 30))
def test_a_letter_goes_where_it_is_put(which, place):
    plan = planned()
    lesson = plan.lessons[place % len(plan.lessons)]
    char = LETTERS[which]
    found = changes.move_letter(plan, char, lesson.key, MONDAY)
    assert char in found.plan.lesson(lesson.key).new
    stands = plan.days[char] == lesson.day
    assert stands == (found.moved == ())
    assert all(found.plan.days[one.char] == one.after != one.before for one in found.moved)


def test_what_lies_between_moves_along_one_lesson_at_a_time():
    plan = simple("a", "b", "c", "d")
    assert as_text(changes.move_letter(plan, "c", 1, 0).plan) == ["c", "a", "b", "d"]
    assert as_text(changes.move_lesson(plan, 1, 4, 0).plan) == ["b", "c", "d", "a"]
    assert as_text(changes.move_lesson(plan, 3, 1, 0).plan) == ["c", "a", "b", "d"]


def test_an_empty_day_is_simply_taken():
    plan = simple("a", "b", "", "c", kinds="nnfn")
    found = changes.move_lesson(plan, 1, 3, 0).plan
    assert as_text(found) == ["", "b", "a", "c"]
    assert [one.kind for one in found.lessons[:3]] == [LessonKind.FREE, LessonKind.NEW, LessonKind.NEW]


def test_a_missed_lesson_is_made_good_in_the_free_one():
    plan = simple("a", "b", "c", "", "d", kinds="nnnfn")
    found = changes.tell(plan, 1, None, 1)
    assert as_text(found.plan) == ["a", "a", "b", "c", "d"]
    assert found.plan.lesson(1).came is Came.MISSED
    assert [(one.char, one.before, one.after) for one in found.moved] == [
        ("a", 0, 1),
        ("b", 1, 2),
        ("c", 2, 3),
    ]


def test_a_lesson_cut_short_takes_up_what_was_left_next():
    plan = simple("ab", "c", "", kinds="nnf")
    found = changes.tell(plan, 1, ["a"], 1).plan
    assert found.lesson(1).came is Came.CUT
    assert found.lesson(1).taught == ("a",)
    assert found.days == {"a": 0, "b": 1, "c": 1}
    put_right = changes.tell(found, 1, ["a", "b"], 1).plan
    assert put_right.lesson(1).came is Came.HELD
    assert put_right.days == {"a": 0, "b": 0, "c": 1}


def test_a_lesson_that_is_locked_or_over_cannot_be_changed():
    plan = changes.lock(simple("a", "b", "c"), 2, True, 0)
    for attempt in (
        lambda: changes.move_letter(plan, "a", 2, 0),
        lambda: changes.move_letter(plan, "b", 3, 0),
        lambda: changes.move_lesson(plan, 1, 3, 1),
        lambda: changes.tell(plan, 3, None, 1),
        lambda: changes.lock(plan, 1, True, 1),
    ):
        with pytest.raises(ChangeError):
            attempt()
    assert as_text(changes.move_lesson(plan, 1, 3, 0).plan) == ["c", "b", "a"]


@st.composite
def dealings(draw):
    """A short plan with some letters waiting, and how full its lessons are."""
    sizes = draw(st.lists(st.integers(0, 2), min_size=2, max_size=5).filter(lambda s: sum(s) > 1))
    chars, new = LETTERS, []
    for size in sizes:
        new.append(chars[:size])
        chars = chars[size:]
    plan = simple(*new, kinds="".join("n" if one else "f" for one in new))
    return replace(plan, left=tuple("z" * draw(st.integers(0, 1))))


@settings(max_examples=60)
@given(dealings(), st.booleans())
def test_no_other_way_to_deal_letters_out_in_their_order_costs_less(plan, missed):
    """All ways of cutting the order into lessons are tried."""
    key = next(one.key for one in plan.lessons if one.new)
    found = (
        changes.tell(plan, key, None, plan.lesson(key).day + 1) if missed else changes.Changed(
            changes.settled(plan, 0), ()
        )
    ).plan  # fmt: skip
    today = plan.lesson(key).day + 1 if missed else 0
    before = [one for one in plan.lessons if one.day >= today]
    after = [one for one in found.lessons if one.day >= today]
    waiting = list(plan.lesson(key).new) if missed else []
    stands = {char: i for i, one in enumerate(before) for char in one.new}
    stands.update(dict.fromkeys(waiting, 0))
    order = [*waiting, *(char for one in before for char in one.new), *plan.left]
    usual = max(len(one.new) for one in plan.lessons)

    def cost(ends) -> float:
        total, begin = 0.0, 0
        for place, end in enumerate(ends):
            some = order[begin:end]
            if len(some) > 3:
                return float("inf")
            total += sum(abs(place - stands.get(char, place)) for char in some)
            total += FULLER_COST * max(0, len(some) - usual)
            total += FREE_COST * (bool(some) and not before[place].new)
            begin = end
        return total + 1000 * (len(order) - begin)

    if not before:
        return
    ends_found = list(np.cumsum([len(one.new) for one in after]))
    every = combinations_with_replacement(range(len(order) + 1), len(before))
    assert cost(ends_found) == pytest.approx(min(cost(ends) for ends in every))


def test_other_holidays_keep_the_keys_of_days_that_stay():
    plan = planned()
    off = Holiday(MONDAY + 15, MONDAY + 15)
    fewer = changes.new_days(plan, slots(term(Holiday(MONDAY + 42, MONDAY + 46), off)), MONDAY).plan
    gone = next(one for one in plan.lessons if one.day == MONDAY + 15)
    assert (gone.key, gone.day) in fewer.dropped
    kept = {one.day: one.key for one in plan.lessons if one.day != gone.day}
    assert {one.day: one.key for one in fewer.lessons} == kept
    again = changes.new_days(fewer, slots(term(Holiday(MONDAY + 42, MONDAY + 46))), MONDAY).plan
    assert next(one for one in again.lessons if one.day == gone.day).key not in {
        one.key for one in plan.lessons
    }


def test_recall_rows_hold_no_letter_before_it_is_taught_nor_one_of_the_new_family():
    plan = planned()
    family = {char: "xyz"[i % 3] for i, char in enumerate(LETTERS)}
    found = recalls(plan, family, lambda one, other: {one, other} == {"b", "d"})
    assert any(found.values())
    for lesson in plan.lessons:
        row = found[lesson.key]
        assert len(row) <= RECALL_MOST
        assert set(row) <= {char for one in plan.lessons if one.day < lesson.day for char in one.new}
        assert not {family[char] for char in row} & {family[char] for char in lesson.new}
    often = [char for row in found.values() for char in row]
    assert {char for char in LETTERS[:12]} <= set(often), "what is taught early comes back"


def test_a_lesson_that_comes_new_has_a_key_that_no_other_ever_had():
    plan = planned()
    off = [Holiday(MONDAY + 42, MONDAY + 46), Holiday(MONDAY + 85, MONDAY + 90)]
    fewer = changes.new_days(plan, slots(term(*off)), MONDAY).plan
    assert fewer.next_key == plan.next_key == len(plan.lessons) + 1
    gone = fewer.without(MONDAY)
    assert {key for key, _ in gone} == {one.key for one in plan.lessons}
    assert Plan((), dropped=gone).next_key == plan.next_key


def test_what_nobody_wrote_is_asked_of_lessons_that_are_over_and_not_told_of():
    plan = simple("ab", "c", "", "d", kinds="nnfn")
    assert [(one.key, chars) for one, chars in plan.unwritten(2, {"a"})] == [(1, ("b",)), (2, ("c",))]
    told = changes.tell(plan, 1, ["a", "b"], 2).plan
    assert [one.key for one, _ in told.unwritten(2, {"a"})] == [2]
    assert plan.unwritten(2, {"a", "b", "c"}) == []
    assert plan.next_from(2).key == 3
    assert plan.next_from(9) is None


def test_letters_known_before_the_term_are_recalled_in_it():
    found = recalls(planned(4), {char: char for char in LETTERS}, lambda one, other: False, known="xyz")
    assert set("xyz") <= set("".join(found.values()))
