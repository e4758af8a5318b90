"""The yardstick of paper: pages are made, read, and held against what was written on them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from firstloop.core.check.letter import check_letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, Script
from firstloop.core.scanning.evaluate import PaperJob, PaperTally, Written, judged, written_page
from firstloop.core.scanning.written import Place
from firstloop.core.sheets.wish import WritingRow
from firstloop.core.simulate.camera import Device, Picture
from firstloop.formats.sheet_pdf import page_grey
from tests.core.scanning.paper import DPI, Paper, made
from tests.core.scanning.test_reading import alone

JOB = PaperJob("kept", Device.SCANNER, 77)


@pytest.fixture(scope="module")
def written() -> Written:
    return written_page(JOB, page_grey)


@pytest.fixture(scope="module")
def counted(written) -> PaperTally:
    return judged(JOB, written)


def test_a_page_is_read_and_what_is_on_it_is_counted(written, counted):
    assert (counted.pages, counted.found) == (1, 1)
    assert counted.states == len(written.page.entries)
    assert counted.states_right > 0.9 * counted.states
    assert counted.same > 0.9 * counted.headings
    assert counted.headings > counted.states
    assert np.median(counted.heights) < 0.3
    assert np.median(counted.printed) < 0.1


def test_what_is_told_otherwise_than_it_was_is_counted_and_said(written, counted):
    wrote = [replace(one, is_ticked=not one.is_ticked) for one in written.places]
    other = judged(JOB, replace(written, places=tuple(wrote)))
    assert other.states_right <= counted.states - counted.states_right
    assert sum(", found " in one for one in other.wrong) == other.states - other.states_right
    assert other.headings == counted.headings


def test_a_picture_without_a_page_counts_as_not_found(written):
    tally = judged(
        JOB, replace(written, picture=replace(written.picture, grey=np.full((900, 600), 255, np.uint8)))
    )
    assert (tally.pages, tally.found, tally.states, len(tally.wrong)) == (1, 0, 0, 1)


def test_a_lift_that_paper_cannot_show_is_no_difference():
    style = replace(DEFAULT_STYLE, script=Script.CURSIVE)
    paper = Paper(made(WritingRow(("a",), "alone*"), style=style), style=style)
    for key in alone(paper):
        paper.write(key, fault="join.break", size=1)
    directly = [check_letter(ink, "a", style) for ink in paper.written.values()]
    assert all(any(one.code == "join.break" for one in letter.findings) for letter in directly)
    places = tuple(Place(one, paper.written.get(one.key)) for one in paper.page.entries)
    picture = Picture(paper.grey, lambda spots: spots * DPI / 25.4)
    tally = judged(JOB, Written(paper.page, style, places, picture, "lifts"))
    assert tally.headings == 2 * len(directly)
    assert tally.same > 0.9 * tally.headings
