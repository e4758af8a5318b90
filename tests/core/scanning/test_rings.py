"""What is printed beside letters: rings to start in, rings to tick, numbers; and what touches them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from firstloop.core.scanning.states import Found
from firstloop.core.sheets.wish import Printing, WritingRow
from tests.core.scanning.paper import DPI, PENCIL, Paper, made
from tests.core.scanning.test_reading import alone, heights_off, same_share


def test_a_tail_that_touches_the_ring_of_the_best_one_keeps_its_shape():
    paper = Paper(made(WritingRow(("j",), "alone*"), xh_mm=7), lead=replace(PENCIL, width_mm=0.7))
    for key in alone(paper):
        paper.write(key, fault="size.drop-long", size=0.12)  # no fault yet
    read = paper.read()
    assert same_share(paper, read) > 0.95
    assert not any(one.is_ticked for one in read.entries)


def test_a_tick_that_a_tail_runs_into_is_seen_and_no_part_of_the_letter():
    paper = Paper(made(*(WritingRow((char,), "alone*") for char in "jgyq"), xh_mm=7))
    ticked = set()
    for number, key in enumerate(alone(paper)):
        reaching = {"fault": "size.drop-long", "size": 0.15} if number % 3 else {}
        paper.write(key, **reaching)
        if number % 2:
            paper.tick(key)
            ticked.add(key)
    read = paper.read()
    told = {one.entry.key for one in read.entries if one.is_ticked}
    assert told <= ticked
    assert len(ticked - told) <= 4
    assert {one.found for one in read.entries} == {Found.INK}
    assert np.quantile(np.abs(list(heights_off(paper, read).values())), 0.9) < 0.6


def test_a_letter_begun_in_its_printed_ring_keeps_its_beginning():
    paper = Paper(made(*(WritingRow((char,), "ring ring ring alone*") for char in "xbk")))
    for entry in paper.page.entries:
        if entry.support == "ring":
            paper.write(entry.key)
    assert max(np.abs(list(heights_off(paper).values()))) < 0.4


def test_a_streak_of_a_copier_through_the_ring_of_the_best_one_is_no_tick():
    paper = Paper(made(WritingRow(("n",), "alone*")))
    row = alone(paper)
    x, y, _ = paper.entry(row[1]).best
    paper.tick(row[2])
    for top in np.arange(y - 9, y + 9, 0.5):
        paper.grey[round(top * DPI / 25.4) : round((top + 0.3) * DPI / 25.4), round(x * DPI / 25.4)] = 0
    assert [one.entry.key for one in paper.read().entries if one.is_ticked] == [row[2]]


@pytest.mark.parametrize("printing", [Printing.COLOUR, Printing.BLACK])
def test_a_dot_that_is_traced_stays_when_the_number_beside_it_goes(printing):
    paper = Paper(made(*(WritingRow((char,), "trace trace trace") for char in "ij"), xh_mm=7), str(printing))
    for entry in paper.page.entries:
        paper.write(entry.key)
    codes = [finding.code for one in paper.read().entries for finding in one.letter.findings]
    assert "shape.part-missing" not in codes
