"""What parents read: a sentence for every slip and measure, in home words."""

from __future__ import annotations

import re

import pytest

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Heading
from firstloop.core.progress.groups import Need
from firstloop.core.progress.steps import Kind, NextStep
from firstloop.core.progress.trends import MEASURES
from firstloop.text import home
from firstloop.text.findings import slip_name

NOT_AT_HOME = re.compile(r"\bslip\b|%|\d|retrace|baseline|descender|ascender")


@pytest.mark.parametrize("code", CODES)
def test_every_slip_has_what_is_better_and_what_comes_next(code):
    better = home.better("Edie", code, "mn")
    need = Need(1, code, Heading.SHAPE, "", 3, 6, "mn")
    then = home.step(NextStep(Kind.TEACH, "mn", need))
    for said in (better, then):
        assert not NOT_AT_HOME.search(said)
        assert slip_name(code) not in said  # not the name that teachers have for it
        assert said.endswith(".")
    assert better.startswith("Edie now ")
    assert then.startswith("In m and n: ")


@pytest.mark.parametrize("key", MEASURES)
def test_every_measure_that_came_nearer_is_said(key):
    assert home.measure_better("Edie", key).startswith("Edie now ")
    assert not NOT_AT_HOME.search(home.measure_better("Edie", key))


def test_what_is_brought_back_or_recalled_names_its_letters():
    assert home.step(NextStep(Kind.BRING_BACK, "a")) == (
        "Write a again: they were secure and need another look."
    )
    assert home.step(NextStep(Kind.RECALL, "cu")) == "Write c and u again, so that they stay."
