"""The checker is as good as it was on every code and every script, by both hands and with bad pens."""

from __future__ import annotations

from collections import Counter

import pytest

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Heading
from firstloop.core.simulate.corpus import Counts, counted, wanted
from firstloop.core.simulate.evaluate import INK_SETS, OF_THE_MODEL
from tests.corpus.floors import broken, floors

PARTS = 6
LARGE = 4.0
NAMES = list(dict.fromkeys(one.name for one in wanted()))


@pytest.mark.parametrize("part", range(PARTS))
def test_the_checker_is_no_worse_than_its_floors(part):
    mine = set(NAMES[part::PARTS])
    known = floors()
    worse = [
        line
        for name, counts in counted(one for one in wanted() if one.name in mine)
        for line in broken(name, counts, known)
    ]
    assert worse == []


def test_every_code_every_script_and_both_hands_are_in_it():
    inks = wanted()
    assert {one.code for one in inks if one.code} == {
        code for code, spec in CODES.items() if spec.heading is not Heading.FLOW
    }
    for name in ("clean", "faults"):
        assert {f"{name} {ink_set.name}" for ink_set in INK_SETS} <= set(NAMES)
    assert {one.hand for one in inks} == set(OF_THE_MODEL)
    assert set(floors()) == set(NAMES)


def test_the_floors_are_high_enough_to_stand_on():
    """Of every code nearly all is found, and of clean ink hardly anything is told."""
    tries = Counter(one.name for one in wanted() if one.tolerances == LARGE)
    for name, floor in floors().items():
        if name in tries:
            assert floor[f"found at {LARGE:g}"] >= 0.85 * tries[name], name
        if name.startswith("clean"):
            assert floor["fixed"] == 0, name


class TestBroken:
    FLOOR = {"start.low": {"told": 1, "fixed": 0, "misread": 0, "beside": 2, "found at 2": 10, "value": 0.8}}  # noqa: RUF012

    def counts(self, **changes) -> Counts:
        counts = Counts(inks=20, told=1, beside=2, ratios=[0.8] * 10)
        counts.found.update({"2": 10})
        for name, value in changes.items():
            setattr(counts, name, value)
        return counts

    def test_as_good_as_it_was_is_nothing(self):
        assert broken("start.low", self.counts(), self.FLOOR) == []
        assert broken("start.low", self.counts(told=0, beside=0), self.FLOOR) == []

    @pytest.mark.parametrize(
        "change", [{"told": 3}, {"beside": 4}, {"misread": 2}, {"ratios": [0.6] * 10}, {"ratios": [1.0] * 10}]
    )
    def test_what_got_worse_is_named(self, change):
        (line,) = broken("start.low", self.counts(**change), self.FLOOR)
        assert line.startswith("start.low: ")

    def test_what_is_found_less_often_is_named(self):
        counts = self.counts()
        counts.found["2"] = 8
        assert broken("start.low", counts, self.FLOOR) == ["start.low: found at 2 is 8, was 10"]

    def test_a_new_count_needs_a_floor(self):
        assert "no floor" in broken("start.new", self.counts(), self.FLOOR)[0]
