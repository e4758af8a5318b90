"""Minutes of a lesson: they add up, hold what fits, and the class's own pace decides."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.planning.lesson import (
    MINUTE_S,
    ROW_USUAL_S,
    Cut,
    LessonPace,
    Offer,
    PartKind,
    fit,
    moments,
    needs,
    row_pace,
    times,
    was_shown,
)
from firstloop.core.words.pace import Pace

OFFER = Offer(
    recall="ncbto",
    words=("sand", "nest", "den", "end", "deck", "send"),
    sentence="The crab hid in the sand.",
    long_date="Tuesday 1 December",
    short_date="Tuesday",
)


def paced(factor: float = 1.0) -> LessonPace:
    return LessonPace(Pace(7.0 * factor), Pace(5.0 * factor), Pace(4.0 * factor))


lessons = st.tuples(st.sampled_from(((), ("e",), ("e", "s"))), st.integers(9, 60), st.floats(0.3, 2.0))


@given(lessons)
def test_minutes_add_up_and_every_part_has_one(given_lesson):
    new, minutes, factor = given_lesson
    made = fit(new, OFFER, minutes, paced(factor))
    assert sum(part.minutes for part in made.parts) == minutes
    assert all(part.minutes >= 1 for part in made.parts)
    assert [part.kind for part in made.parts] == sorted(
        (part.kind for part in made.parts), key=list(PartKind).index
    )


@given(lessons)
def test_what_is_planned_fits(given_lesson):
    new, minutes, factor = given_lesson
    made = fit(new, OFFER, minutes, paced(factor))
    least = fit(new, Offer(), 5, paced(factor)).content
    if made.content != least:
        assert sum(needs(made.content, paced(factor)).values()) <= minutes * MINUTE_S


@given(lessons)
def test_a_slower_class_is_not_given_more(given_lesson):
    new, minutes, factor = given_lesson
    quick, slow = (fit(new, OFFER, minutes, paced(f)) for f in (factor, 2 * factor))

    def letters(one) -> int:
        now = one.content
        rows = len(now.new) * (now.trace + now.finish + now.alone)
        return rows + len(now.recall) + sum(map(len, now.words)) + len(now.sentence) + len(now.date)

    assert letters(slow) <= letters(quick) + 8, "greedy, so a small thing may come in for a large one"


def test_what_was_taken_last_is_cut_first():
    made = fit(("e",), OFFER, 15, paced())
    assert made.content.alone >= 3
    assert made.content.words
    cut = made.cuts[0]
    longer = fit(("e",), OFFER, 40, paced())
    assert set(made.cuts) <= set(longer.cuts)
    assert cut is not Cut.RECALL or len(made.content.recall) > 3
    shorter = fit(("e",), OFFER, 9, paced())
    assert len(shorter.cuts) < len(longer.cuts)


def test_a_lesson_for_recall_has_nothing_to_show():
    kinds = {part.kind for part in fit((), OFFER, 15, paced()).parts}
    assert not kinds & {PartKind.SHOW, PartKind.AIR, PartKind.ROW}
    assert PartKind.RECALL in kinds


def test_a_lesson_that_holds_too_much_says_how_long_it_takes():
    made = fit(("e",), OFFER, 15, paced())
    fuller = replace(made.content, words=OFFER.words, sentence=OFFER.sentence, alone=40)
    parts = times(fuller, 15, paced())
    assert sum(part.minutes for part in parts) == 15
    assert sum(part.needs_s for part in parts) > 15 * MINUTE_S


def test_the_pace_of_rows_is_the_middle_one_once_there_are_thirty_letters():
    assert row_pace([5.0] * 29, Level.GROWING) == Pace(ROW_USUAL_S[Level.GROWING])
    measured = row_pace([5.0] * 16 + [9.0] * 15 + [4000.0] * 20, Level.GROWING)
    assert measured.letter_s == pytest.approx(5.0)
    assert measured.letters == 31
    assert measured.is_measured


@given(lessons)
def test_every_part_is_gone_through_and_its_minutes_are_shared_out(given_lesson):
    new, minutes, factor = given_lesson
    made = fit(new, OFFER, minutes, paced(factor))
    found = moments(made.parts, new, set(new[:1]))
    assert {one.part for one in found} == {part.kind for part in made.parts}
    assert len({one.key for one in found}) == len(found)
    assert sum(one.seconds for one in found) == pytest.approx(minutes * MINUTE_S)


def test_new_letters_are_shown_one_after_another_each_with_its_slip_the_air_and_its_row():
    made = fit(("e", "s"), OFFER, 30, paced())
    keys = [one.key for one in moments(made.parts, ("e", "s"), {"s"})]
    here = keys.index("show:e")
    assert keys[here : here + 7] == ["show:e", "air:e", "row:e", "show:s", "slip:s", "air:s", "row:s"]
    assert keys[0] == "before"
    assert keys[-1] == "best"


def test_a_part_that_is_left_out_is_not_gone_through_and_its_minutes_go_to_the_others():
    made = fit(("e",), OFFER, 20, paced())
    parts = times(made.content, 20, paced(), {PartKind.AIR, PartKind.RECALL})
    assert sum(part.minutes for part in parts) == 20
    assert not {PartKind.AIR, PartKind.RECALL} & {one.part for one in moments(parts, ("e",), ())}


def test_a_letter_was_shown_when_it_was_gone_through_and_not_skipped():
    done = [("show:e", False), ("show:s", True), ("slip:f", False)]
    assert [char for char in "esf" if was_shown(done, char)] == ["e"]
