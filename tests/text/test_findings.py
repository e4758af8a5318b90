"""Numbers of findings as a teacher reads them."""

from __future__ import annotations

import pytest

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.text.findings import allowance, amount, amounts

MEASURED = [code for code, spec in CODES.items() if spec.tolerance is not None]


@pytest.mark.parametrize("code", MEASURED)
def test_no_unit_of_the_checkers_own_is_read(code):
    tolerance = CODES[code].tolerance
    for said in (allowance(code, 2.2 * tolerance, tolerance, 8.0), amount(code, tolerance, 8.0)):
        assert not {"xh", "°", "deg", "ratio", "cover"} & set(said.replace(";", " ").split())


def test_lengths_are_millimetres_of_the_line_that_was_written_on():
    assert amount("position.floating", 0.2, 10.0) == "2.0 mm"
    assert allowance("position.floating", 0.5, 0.2, 14.0) == "up to 2.8 mm is fine"
    assert amounts("position.floating", 0.2, 0.3, 10.0) == "2.0 mm to 3.0 mm"


@pytest.mark.parametrize(
    ("value", "said"),
    [
        (21.0, "a little more than is fine"),
        (30.0, "half as much again as is fine"),
        (40.0, "twice what is fine"),
        (60.0, "three times what is fine"),
        (200.0, "far more than is fine"),
    ],
)
def test_what_is_no_length_is_told_by_how_many_times_too_much_it_is(value, said):
    assert allowance("size.tall", value, 20.0, 10.0) == said


def test_what_is_counted_or_has_no_tolerance_says_nothing_of_it():
    assert allowance("lift.extra", 2.0, None, 10.0) == ""
