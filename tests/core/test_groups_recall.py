"""Who belongs together, what is due, what was taught."""

from __future__ import annotations

import itertools
from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.progress.coverage import coverage
from firstloop.core.progress.evidence import Day, from_token
from firstloop.core.progress.groups import GROUPS_EACH, GROUPS_MOST, LEAST, MOST, Need, causes, groups
from firstloop.core.progress.review import Due, recall_row, review

MONDAY = 739_000
SECURE, NEAR, FIX = (from_token(code * 4) for code in "snf")


def need(child: int, code: str = "start.bottom", family: str = "up-and-overs", **more) -> Need:
    given = {"heading": "direction", "slips": 5, "letters": 8, "chars": "mn"}
    return Need(child, code, family=family, **{**given, **more})


class TestGroups:
    def test_children_who_share_a_cause_over_a_family_make_a_group(self):
        (one,) = groups([need(1), need(2), need(3, chars="n")])
        assert one.children == (1, 2, 3)
        assert (one.code, one.family, one.chars) == ("start.bottom", "up-and-overs", "nm")

    def test_the_same_slip_over_another_family_is_another_cause(self):
        assert groups([need(1), need(2, family="rounds")]) == ()

    def test_a_child_alone_makes_no_group(self):
        assert groups([need(1)]) == ()

    def test_a_slip_made_once_or_seldom_is_no_cause(self):
        assert groups([need(1, slips=1), need(2, slips=1)]) == ()
        assert groups([need(1, slips=2, letters=20), need(2, slips=2, letters=20)]) == ()

    def test_direction_comes_before_size(self):
        size = [need(child, "size.tall", "rounds", heading="size") for child in range(5)]
        found = groups([*size, need(8), need(9)])
        assert [one.code for one in found] == ["start.bottom", "size.tall"]

    def test_more_than_six_make_two_groups_of_like_size(self):
        found = groups([need(child) for child in range(9)])
        assert sorted(len(one.children) for one in found) == [4, 5]

    needs = st.lists(
        st.builds(
            need,
            child=st.integers(1, 20),
            code=st.sampled_from(["start.bottom", "direction.turn", "lift.extra"]),
            family=st.sampled_from(["rounds", "scoops", "slopes"]),
            slips=st.integers(0, 9),
        ),
        max_size=60,
        unique_by=lambda one: (one.child, one.code, one.family),
    )

    @given(needs)
    def test_few_groups_of_two_to_six_and_no_child_in_more_than_two(self, needs):
        found = groups(needs)
        assert len(found) <= GROUPS_MOST
        assert all(LEAST <= len(set(one.children)) == len(one.children) <= MOST for one in found)
        every = Counter(child for one in found for child in one.children)
        assert max(every.values(), default=0) <= GROUPS_EACH

    @given(needs)
    def test_every_group_is_of_a_cause_and_every_cause_has_all_who_share_it(self, needs):
        sharing = {(one.code, one.family): set(one.children) for one in causes(needs)}
        assert all(set(one.children) <= sharing[one.code, one.family] for one in groups(needs))
        often = {(one.code, one.family, one.child) for one in needs if one.slips >= 3}
        assert often <= {(*cause, child) for cause, children in sharing.items() for child in children}

    @given(needs)
    def test_the_order_of_the_children_does_not_matter(self, needs):
        assert groups(needs) == groups(needs[::-1])


class TestReview:
    def test_a_letter_never_written_alone_is_not_reviewed(self):
        assert review([Day(MONDAY, helped=6)]) is None

    def test_a_letter_to_fix_is_due_sooner_than_a_secure_one(self):
        good, middling, bad = (review([Day(MONDAY, (one,) * 3)]) for one in (SECURE, NEAR, FIX))
        assert bad.due <= middling.due < good.due

    def test_every_secure_row_puts_the_letter_off_for_longer(self):
        days, gaps = [], []
        day = MONDAY
        for _ in range(4):
            days.append(Day(day, (SECURE,) * 3))
            due = review(days).due
            gaps.append(due - day)
            day = due
        assert gaps == sorted(gaps)
        assert gaps[-1] > 3 * gaps[0]

    def test_a_slip_brings_it_back_soon(self):
        days = [Day(MONDAY, (SECURE,) * 3), Day(MONDAY + 8, (SECURE,) * 3), Day(MONDAY + 40, (FIX,) * 3)]
        assert review(days).due - (MONDAY + 40) < review(days[:2]).due - (MONDAY + 8)

    def test_memory_fades_and_is_eight_in_ten_when_due(self):
        found = review([Day(MONDAY, (SECURE,) * 3)])
        chances = [found.remembered(MONDAY + after) for after in (0, 5, 20, 90)]
        assert chances == sorted(chances, reverse=True)
        assert found.remembered(found.due) == pytest.approx(0.8, abs=0.02)

    def test_the_same_rows_give_the_same_dates(self):
        days = [Day(MONDAY + 9 * k, (SECURE, NEAR, SECURE)) for k in range(6)]
        assert review(days) == review(days)


FAMILY = dict(zip("litjrnmhbpcoadgq", ["drops"] * 4 + ["overs"] * 6 + ["rounds"] * 6, strict=True))
ALIKE = {frozenset("bd"), frozenset("pq"), frozenset("nh")}


def alike(a: str, b: str) -> bool:
    return frozenset((a, b)) in ALIKE


class TestRecallRow:
    def test_the_most_due_first_and_from_different_families(self):
        due = [Due("b", "overs", 3), Due("n", "overs", 2.5), Due("o", "rounds", 2), Due("l", "drops", 1)]
        assert recall_row(due, alike) == "boln"

    def test_look_alikes_never_stand_side_by_side(self):
        due = [Due("b", "overs", 3), Due("d", "rounds", 2), Due("l", "drops", 1)]
        assert recall_row(due, alike) == "bld"

    def test_only_look_alikes_due_gives_the_more_due_one(self):
        assert recall_row([Due("b", "overs", 3), Due("d", "rounds", 2)], alike) == "b"

    @given(st.lists(st.sampled_from(sorted(FAMILY)), unique=True), st.randoms())
    def test_laws_of_a_recall_row(self, chars, random):
        due = [Due(char, FAMILY[char], random.random()) for char in chars]
        row = recall_row(due, alike)
        assert len(row) <= 5
        assert set(row) <= set(chars)
        assert not any(alike(a, b) for a, b in itertools.pairwise(row))
        assert bool(row) == bool(chars)


class TestCoverage:
    def test_what_was_taught_when_and_not_seen_alone_since(self):
        seen = {
            (1, "n"): (MONDAY, MONDAY + 7),
            (2, "n"): (MONDAY + 1, None),
            (1, "a"): (MONDAY + 14, None),
        }
        words = {(3, "n"): MONDAY + 9, (3, "z"): MONDAY + 9}  # z stood in a date and was never taught
        n, a = coverage(seen, [1, 2, 3], words)
        assert (n.char, n.taught, n.last_alone, n.not_since) == ("n", MONDAY, MONDAY + 9, (2,))
        assert (a.char, a.taught, a.last_alone, a.not_since) == ("a", MONDAY + 14, None, (1, 2, 3))
