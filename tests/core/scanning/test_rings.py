"""What is printed beside letters: rings to start in, rings to tick, numbers; and what touches them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from firstloop.core.scanning.darkness import Darkness, ring_middle, without_word
from firstloop.core.scanning.states import Found
from firstloop.core.sheets.wish import Printing, WritingRow
from tests.core.scanning.paper import DPI, PENCIL, Paper, made
from tests.core.scanning.test_reading import alone, heights_off, same_share


def told_ticks(paper: Paper, ticked: set[str]) -> set[str]:
    """The places that are told ticked, none that is not, each letter being what it was written as."""
    read = paper.read()
    told = {one.entry.key for one in read.entries if one.is_ticked}
    assert told <= ticked
    assert {one.entry.key for one in read.entries if one.found is Found.INK} == set(paper.written)
    assert np.quantile(np.abs(list(heights_off(paper, read).values())), 0.9) < 0.6
    return told


def test_a_tail_that_touches_the_ring_of_the_best_one_keeps_its_shape():
    paper = Paper(made(WritingRow(("j",), "alone*"), xh_mm=7), lead=replace(PENCIL, width_mm=0.7))
    for key in alone(paper):
        paper.write(key, fault="size.drop-long", size=0.12)  # no fault yet
    read = paper.read()
    assert same_share(paper, read) > 0.95
    assert not any(one.is_ticked for one in read.entries)


def test_a_tail_that_runs_along_the_ring_of_the_best_one_is_whole():
    paper = Paper(made(WritingRow(("j",), "alone*"), xh_mm=7))
    lowest = {}
    for number, key in enumerate(alone(paper)):
        x, y, radius = paper.entry(key).best
        turns = np.linspace(0, np.pi * (0.6 + 0.05 * (number % 8)), 40)
        tail = np.array([x, y]) + radius * np.column_stack([np.cos(turns), np.sin(turns)])
        top = np.array([[x + radius, paper.entry(key).lines.mid_mm]])
        paper.draw(np.concatenate([top, tail]))
        lowest[key] = y + radius
    for one in paper.read().entries:
        if one.entry.key in lowest:
            reached = max(stroke.points_mm[:, 1].max() for stroke in one.ink.strokes)
            assert reached == pytest.approx(lowest[one.entry.key], abs=0.3)
            assert not one.is_ticked


def test_a_tick_that_a_tail_runs_into_is_seen_and_no_part_of_the_letter():
    paper = Paper(made(*(WritingRow((char,), "alone*") for char in "jgyq"), xh_mm=7))
    ticked = set()
    for number, key in enumerate(alone(paper)):
        reaching = {"fault": "size.drop-long", "size": 0.15} if number % 3 else {}
        paper.write(key, **reaching)
        if number % 2:
            paper.tick(key)
            ticked.add(key)
    assert len(ticked - told_ticks(paper, ticked)) <= 2


def test_a_tick_that_a_stem_runs_into_from_below_is_seen_and_no_part_of_the_letter():
    rows = (WritingRow((char,), "alone*") for char in "slvbedch")
    paper = Paper(made(*rows, xh_mm=7))
    above, below = [], []
    for row in range(1, 9):
        keys = [key for key in alone(paper) if paper.entry(key).row == row]
        (below if row % 2 == 0 else above).extend(keys)
    ticked = set()
    for key in below:
        paper.write(key, fault="size.rise-tall", size=float(paper.rng.uniform(0.5, 1.4)))
    for number, key in enumerate(above):
        paper.write(key)
        if number % 2:
            paper.tick(key)
            ticked.add(key)
    assert len(ticked - told_ticks(paper, ticked)) <= 1


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


def test_a_ring_is_where_all_of_it_is_dark_though_ink_beside_it_is_darker():
    down, across = np.mgrid[0:192, 0:192] / 8.0
    values = np.where(np.abs(np.hypot(across - 12, down - 12) - 0.9) < 0.1, 0.25, 0.0)
    values[(across > 12.1) & (across < 14) & (down > 12.1) & (down < 14)] = 0.95
    assert ring_middle(Darkness(values, 8.0, 0.01), 12, 12, 0.9) == pytest.approx((12, 12), abs=0.2)


def test_a_number_goes_though_a_paler_line_leads_from_it_to_what_stays():
    values = np.zeros((192, 192))
    values[40:60, 40:46] = 0.9
    values[58:60, 46:56] = 0.3
    values[50:110, 56:66] = 0.9  # a letter
    dark = Darkness(values, 8.0, 0.01)
    without_word(dark, 4.5, 4.5, 6.25, 8.0)
    assert not dark.values[40:60, 40:46].any()
    assert (dark.values[50:110, 56:66] == 0.9).all()
