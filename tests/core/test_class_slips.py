"""Slips of a class: what matters most, what is new, and what was only seen."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.progress.slips import LATELY_DAYS, DaySlips, commonest, new_slips, seen_lately, weight
from firstloop.core.progress.weeks import slip_counts

TODAY = 739_000
days = st.builds(
    DaySlips,
    child=st.integers(1, 3),
    letter=st.sampled_from("nm"),
    alone=st.integers(1, 6),
    slips=st.dictionaries(st.sampled_from(["start.bottom", "size.tall", "shape.open"]), st.integers(1, 1)),
    day=st.integers(TODAY - 60, TODAY),
)


def day(ago: int, alone: int, letter: str = "n", **slips: int) -> DaySlips:
    return DaySlips(1, letter, alone, {code.replace("_", "."): n for code, n in slips.items()}, TODAY - ago)


def test_a_way_of_moving_weighs_more_than_a_shape_and_that_more_than_a_size():
    assert weight("start.high") > weight("shape.width") > weight("size.tall") > weight("flow.slow") == 0
    assert weight("start.bottom") == max(map(weight, CODES))


def test_two_who_begin_at_the_bottom_come_before_five_who_write_tall():
    found = commonest(
        [DaySlips(child, "n", 6, {"start.bottom": 2}) for child in (1, 2)]
        + [DaySlips(child, "n", 6, {"size.tall": 6}) for child in range(3, 8)]
    )
    assert [one.code for one in found] == ["start.bottom", "size.tall"]


def test_every_slip_of_a_class_and_of_a_letter_is_told():
    codes = [code for code in CODES if weight(code)]
    assert {one.code for one in commonest([DaySlips(1, "n", 6, dict.fromkeys(codes, 1))])} == set(codes)
    assert {one.code for one in slip_counts([dict.fromkeys(codes, 1)])} == set(codes)


def test_a_grave_slip_of_late_comes_before_a_light_one_made_more_often():
    assert [one.code for one in slip_counts([{}, {"size.tall": 3, "start.bottom": 1}])] == [
        "start.bottom",
        "size.tall",
    ]


def test_new_is_what_was_hardly_made_before():
    before = [day(40, 6), day(30, 6)]
    (new,) = new_slips([*before, day(2, 6, start_bottom=2)], TODAY)
    assert (new.code, new.chars, new.slips, new.letters) == ("start.bottom", "n", 2, 6)
    assert new_slips([*before, day(2, 6, start_bottom=1)], TODAY) == []  # once is no slip taken to
    assert new_slips([day(40, 6, start_bottom=3), day(2, 6, start_bottom=3)], TODAY) == []  # an old one
    assert new_slips([day(40, 3), day(2, 6, start_bottom=3)], TODAY) == []  # too little before
    assert new_slips([*before, day(20, 6, start_bottom=3)], TODAY) == []  # not of late
    assert new_slips([*before, day(2, 6, size_tall=3)], TODAY) == []  # a size varies
    assert [one.code for one in new_slips([*before, day(2, 6, size_tall=4)], TODAY)] == ["size.tall"]


def test_what_was_seen_once_is_seen_while_there_is_too_little_to_claim():
    (seen,) = seen_lately([day(2, 3, start_bottom=1)], TODAY)
    assert (seen.code, seen.slips, seen.letters) == ("start.bottom", 1, 3)
    assert seen_lately([day(2, 3, size_tall=1)], TODAY) == []  # nothing to watch for
    assert seen_lately([day(9, 3), day(2, 3, start_bottom=1)], TODAY) == []  # enough to claim something
    assert seen_lately([day(20, 3, start_bottom=1)], TODAY) == []  # long ago


@given(st.lists(days, max_size=12))
def test_new_slips_are_of_late_often_and_not_also_only_seen(some):
    new = new_slips(some, TODAY)
    for one in new:
        late = [d for d in some if d.child == one.child and d.day > TODAY - LATELY_DAYS]
        assert one.slips >= 2
        assert 0.3 * one.letters <= one.slips <= sum(d.slips.get(one.code, 0) for d in late)
    assert [weight(one.code) for one in new] == sorted((weight(one.code) for one in new), reverse=True)
