"""What to try next, the best of a row, the most worrying row, and where marks and checks differ."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Level, Severity, Verdict
from firstloop.core.teaching.advice import (
    AttemptFinding,
    JudgedAttempt,
    best_of,
    first_to_see,
    is_all_secure,
    next_tries,
    tells_most,
    worry,
)
from firstloop.core.teaching.agreement import LEAST, Marked, agreement

NEAR, FIX, TOLD = Severity.NEAR, Severity.FIX, Severity.TOLD
TALL = AttemptFinding("size.tall", NEAR)
BELOW = AttemptFinding("start.bottom", FIX)
LOW = AttemptFinding("start.low", NEAR)
OPEN = AttemptFinding("shape.open", FIX)


def codes(*attempts, whole=()):
    return [step.code for step in next_tries(attempts, whole)]


def test_direction_goes_before_shape_before_size_and_the_commonest_before_the_rest():
    assert codes([TALL], [OPEN, TALL], [BELOW]) == ["start.bottom", "shape.open", "size.tall"]
    drop = AttemptFinding("size.drop-long", FIX)
    assert codes([TALL, drop], [drop], [drop]) == ["size.drop-long", "size.tall"]


def test_a_single_near_miss_gives_way_to_a_habit():
    assert codes([LOW, TALL], [TALL]) == ["size.tall", "start.low"]


def test_what_is_only_told_is_never_a_next_step():
    assert codes([AttemptFinding("flow.pauses", TOLD)], []) == []
    assert codes() == []


def test_a_row_that_is_uneven_as_a_whole_asks_for_that():
    assert codes([], whole=[AttemptFinding("size.uneven", FIX)]) == ["size.uneven"]


@given(st.lists(st.lists(st.sampled_from([TALL, BELOW, LOW, OPEN]), max_size=3), max_size=6))
def test_every_slip_is_counted_once_an_attempt_whatever_the_order(attempts):
    steps = next_tries(attempts)
    assert {s.code: s.times for s in steps} == {s.code: s.times for s in next_tries(attempts[::-1])}
    assert all(1 <= step.times <= len(attempts) for step in steps)


def test_the_best_is_secure_with_least_found_and_nearest_in_form():
    near = JudgedAttempt(Verdict.NEAR, 1, 0.02)
    loose, neat = (JudgedAttempt(Verdict.SECURE, 0, off) for off in (0.08, 0.03))
    assert best_of([near, loose, neat, None]) == 2
    assert best_of([None, JudgedAttempt(Verdict.UNREADABLE, 1, None)]) is None


def test_worry_grows_with_what_is_to_fix():
    near, fix = Verdict.NEAR, Verdict.FIX
    assert worry([]) == worry([Verdict.SECURE]) == 0
    assert worry([near]) < worry([near, fix]) < worry([fix]) == 3


def test_what_the_teacher_chose_comes_first():
    assert [one.code for one in next_tries([[BELOW, TALL]], chosen="size.tall")] == [
        "size.tall",
        "start.bottom",
    ]


def test_what_is_to_fix_tells_most_and_an_unreadable_letter_points_at_nothing():
    assert tells_most([TALL, BELOW, OPEN]) == 1
    assert tells_most([AttemptFinding("flow.pauses", TOLD), LOW]) == 1
    assert tells_most([AttemptFinding("unreadable", FIX)]) is None
    assert tells_most([]) is None


def test_the_first_to_fix_is_to_be_seen_and_what_is_crossed_out_is_not():
    fix, secure = Verdict.FIX, Verdict.SECURE
    assert first_to_see([None, secure, fix, fix]) == 2
    assert first_to_see([secure, Verdict.NEAR]) == 0
    assert first_to_see([None, secure, Verdict.NEAR]) == 1  # the first is crossed out
    assert first_to_see([None, None]) == 0
    assert is_all_secure([None, secure])
    assert not is_all_secure([secure, Verdict.UNREADABLE])


def marked(code, values, mark, level=Level.GROWING):
    return [Marked(((code, value),), Verdict(mark), level) for value in values]


def only(found):
    (one,) = found
    return one


def test_a_proposal_covers_what_was_ticked_and_no_more():
    near = [0.31, 0.32, 0.33, 0.34, 0.35, 0.36, 0.37, 0.38, 0.4]
    one = only(
        agreement([*marked("start.low", near, "secure"), *marked("start.low", [0.35, 0.39, 0.55], "fix")])
    )
    assert (one.agreed, one.looked_at, one.tolerance) == (3, 12, 0.30)
    assert one.proposal is not None
    assert (one.proposal.ticked, one.proposal.looked_at) == (9, 11)
    assert (one.proposal.lowest, one.proposal.highest, one.proposal.tolerance) == (0.31, 0.4, 0.40)


def test_nothing_is_proposed_from_too_little_or_where_the_teacher_agrees():
    few = marked("start.low", [0.4] * (LEAST - 1), "secure")
    agreeing = marked("start.low", [0.4] * 20, "near")
    assert only(agreement(few)).proposal is None
    assert only(agreement(agreeing)).proposal is None
    assert only(agreement(marked("start.low", [0.9] * 20, "secure"))).proposal is None  # beyond twice
    assert only(agreement(marked("start.bottom", [1.0] * 20, "secure"))).proposal is None
    assert only(agreement(marked("lift.extra", [1.0] * 20, "secure"))).proposal is None


def test_a_mark_speaks_for_a_code_only_where_nothing_else_was_found():
    both = Marked((("start.low", 0.4), ("size.tall", 40.0)), Verdict.SECURE, Level.GROWING)
    assert agreement([both]) == []


def test_values_count_as_at_growing_whatever_the_level():
    loose = marked("start.low", [0.54] * LEAST, "secure", Level.STARTING)
    proposal = only(agreement(loose)).proposal
    assert proposal is not None
    assert proposal.highest == 0.54 / Level.STARTING.factor


@given(
    st.sampled_from(sorted(code for code, spec in CODES.items() if spec.tolerance)),
    st.lists(st.tuples(st.floats(0.1, 5), st.sampled_from(["secure", "near", "fix"])), max_size=30),
)
def test_a_proposal_never_goes_beyond_twice_the_houses(code, seen):
    tolerance = CODES[code].tolerance
    found = agreement(
        [Marked(((code, tolerance * times),), Verdict(mark), Level.GROWING) for times, mark in seen]
    )
    for one in found:
        if one.proposal:
            assert tolerance < one.proposal.tolerance <= 2 * tolerance
            assert one.proposal.ticked >= 0.75 * one.proposal.looked_at
