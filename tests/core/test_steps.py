"""What to do next with one child, and with whom first."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.progress.groups import Need
from firstloop.core.progress.mastery import State
from firstloop.core.progress.steps import STEPS, Kind, most_to_do, most_urgent, next_steps, to_do


def need(code: str, heading: str, slips: int = 5, letters: int = 8) -> Need:
    return Need(1, code, family="rounds", heading=heading, slips=slips, letters=letters, chars="ao")


BOTTOM, TALL, OPEN = need("start.bottom", "direction"), need("size.tall", "size"), need("shape.open", "shape")


def kinds(*given) -> list[str]:
    return [step.kind for step in next_steps(*given)]


def test_the_gravest_slip_comes_before_what_slipped_back_and_what_is_due():
    found = next_steps([TALL, OPEN, BOTTOM], ["g", "q"], "cs")
    assert [(one.kind, one.letters) for one in found] == [
        (Kind.TEACH, "ao"), (Kind.BRING_BACK, "gq"), (Kind.RECALL, "cs"),
    ]  # fmt: skip
    assert found[0].need is BOTTOM


def test_what_slipped_back_is_brought_back_even_where_nothing_is_to_be_taught():
    assert kinds([], ["g"], "") == [Kind.BRING_BACK]
    assert kinds([need("start.bottom", "direction", slips=1)], ["g"], "") == [Kind.BRING_BACK]
    assert kinds([], [], "c") == [Kind.RECALL]
    assert kinds([], [], "") == []


def test_further_slips_fill_what_room_is_left():
    assert [one.need for one in next_steps([TALL, OPEN, BOTTOM], [], "")] == [BOTTOM, OPEN, TALL]
    assert kinds([TALL, OPEN, BOTTOM], ["g"], "") == [Kind.TEACH, Kind.BRING_BACK, Kind.TEACH]


needs = st.lists(
    st.builds(
        need,
        st.sampled_from(["start.bottom", "size.tall", "flow.slow"]),
        st.sampled_from(["direction", "shape", "size", "flow"]),
        st.integers(0, 9),
        st.integers(1, 20),
    )
)


@given(needs, st.lists(st.sampled_from("abc"), unique=True), st.text("xyz", max_size=3))
def test_there_are_never_too_many_and_what_slipped_is_always_among_them(given_needs, slipping, due):
    found = next_steps(given_needs, slipping, due)
    assert len(found) <= STEPS
    assert (Kind.BRING_BACK in [one.kind for one in found]) == bool(slipping)
    assert all(one.need.heading != "flow" and one.need.slips >= 2 for one in found if one.need)


def test_who_has_most_to_do_is_who_has_most_that_slipped():
    assert to_do(["secure", "not-started", "learning"]) == 2
    assert to_do(["slipping"]) > to_do(["learning"] * 10)
    assert most_to_do({4: 2, 2: 7, 9: 2}) == [2, 4, 9]
    assert most_to_do({4: 2, 2: 7, 9: 2}, new={9}) == [9, 2, 4]  # before it becomes a habit


@pytest.mark.parametrize(
    ("states", "char"),
    [
        ({"a": State.SECURE, "b": State.LEARNING, "c": State.SLIPPING}, "c"),
        ({"a": State.SECURE, "b": State.LEARNING}, "b"),
        ({}, None),
    ],
)
def test_the_letter_to_look_at_first(states, char):
    assert most_urgent(states) == char
