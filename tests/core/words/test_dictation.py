"""What a dictated word says of its units."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.progress.evidence import Aspect, credits_of
from firstloop.core.progress.mastery import State, standing
from firstloop.core.words.dictation import (
    DictationError,
    Marked,
    came_right,
    checked_tries,
    in_context,
    next_units,
    ready_for_longer,
    shown_units,
    unit_days,
    unit_verdicts,
)

UNITS = ("sh", "e", "ll")


def sets(*tries):
    return tuple(frozenset(one) for one in tries)


def test_the_first_writing_counts_and_the_second_only_by_half():
    assert unit_verdicts(UNITS, sets([])) == [Verdict.SECURE] * 3
    assert unit_verdicts(UNITS, sets([1])) == [Verdict.SECURE, Verdict.FIX, Verdict.SECURE]
    assert unit_verdicts(UNITS, sets([1, 2], [2])) == [Verdict.SECURE, Verdict.NEAR, Verdict.FIX]
    assert unit_verdicts(UNITS, ()) == []
    # what was right at first and went wrong the second time was right
    assert unit_verdicts(UNITS, sets([0], [1]))[1] is Verdict.SECURE


@pytest.mark.parametrize("tries", [[[0], [], []], [[], [1]], [[3]], [[-1]]])
def test_marks_that_no_word_can_have_are_refused(tries):
    with pytest.raises(DictationError):
        checked_tries(UNITS, tries)


def test_marks_are_kept_in_order_and_once():
    assert checked_tries(UNITS, [[2, 0, 2], [1]]) == [[0, 2], [1]]
    assert checked_tries(UNITS, []) == []


def test_sound_boxes_hold_the_letters_of_their_unit():
    assert shown_units("shell", UNITS) == ["sh", "e", "ll"]
    assert shown_units("lakes", ("l", "a_e", "k", "s")) == ["l", "a_e", "k", "s"]


marked = st.builds(
    Marked,
    day=st.integers(1, 60),
    units=st.just(UNITS),
    tries=st.lists(st.frozensets(st.integers(0, 2)), max_size=2).map(tuple),
)


@given(st.lists(marked, max_size=12))
def test_every_marked_unit_is_evidence_once_on_its_day(words):
    days = unit_days(words)
    counted = [word for word in words if word.tries]
    for at, unit in enumerate(UNITS):
        own = days.get(unit, [])
        assert [one.day for one in own] == sorted({word.day for word in counted})
        assert sum(len(one.evidence) for one in own) == len(counted)
        right = sum(credit for _, credit in credits_of(own, Aspect.ALL))
        assert right == sum(
            {"secure": 1.0, "near": 0.5, "fix": 0.0}[str(unit_verdicts(word.units, word.tries)[at])]
            for word in counted
        )


def test_a_unit_comes_to_be_secure_by_the_rule_of_letters():
    def day(number, *tries):
        return Marked(number, ("d", "u", "ck"), sets(*tries))

    learning = [day(1, [2]), day(1, []), day(2, [2])]
    assert standing(unit_days(learning)["ck"], Aspect.ALL).state is State.LEARNING
    secure = [day(1, []), day(1, []), day(8, []), day(8, []), day(8, [])]
    assert standing(unit_days(secure)["ck"], Aspect.ALL).state is State.SECURE
    slipping = [*secure, day(9, [2]), day(10, [2]), day(11, [2])]
    assert standing(unit_days(slipping)["ck"], Aspect.ALL).state is State.SLIPPING
    assert standing(unit_days(slipping)["d"], Aspect.ALL).state is State.SECURE


def word(day: int, cut: str, *tries) -> Marked:
    return Marked(day, tuple(cut.split("-")), sets(*tries))


def test_a_unit_that_goes_wrong_before_one_other_is_told_with_it():
    words = [
        word(1, "s-a-n-d", [2]), word(1, "n-e-t", []), word(2, "p-o-n-d", [2]), word(2, "t-e-n", []),
        word(3, "h-a-n-d", [2], []), word(3, "n-u-t", []), word(4, "w-i-n-d", []),
    ]  # fmt: skip
    (found,) = in_context(words)
    assert (found.unit, found.before, found.wrong, found.of) == ("n", "d", 3, 4)
    everywhere = [word(day, "n-e-t", [0]) for day in range(5)]
    assert in_context([*words, *everywhere]) == []  # then it is not the d


def test_what_comes_next_is_named_once_and_longer_words_only_where_nothing_else_is_to_do():
    ck = [word(day, "d-u-ck", [2]) for day in (1, 2, 3)]
    stands = {unit: standing(days, Aspect.ALL) for unit, days in unit_days(ck).items()}
    found = next_units(ck, stands)
    assert (found.teach, found.slipping, found.longer) == (["ck"], [], None)
    right = [word(day, "c-a-t", []) for day in range(8)]
    stands = {unit: standing(days, Aspect.ALL) for unit, days in unit_days(right).items()}
    assert next_units(right, stands).longer == 4
    assert ready_for_longer(right[:7]) is None
    assert ready_for_longer([*right, word(9, "c-a-t", [1], [])]) is None


def test_a_unit_that_came_right_is_told_with_the_day():
    wrong = [word(day, "d-u-ck", [2], []) for day in (1, 8, 15)]
    right = [word(day, "s-o-ck", []) for day in (22, 29, 36)]
    (found,) = came_right([*wrong, *right])
    assert (found.unit, found.day, found.wrong, found.of) == ("ck", 22, 3, 3)
    assert came_right([*wrong, *right[:2]]) == []  # too little to claim
    assert came_right([*wrong, *right, word(40, "d-u-ck", [2])]) == []
    assert came_right([*right, *right]) == []  # it never was wrong
