"""The streaks of a copier are taken out of a page, and columns of stems stay: on pages drawn by hand."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.scanning.darkness import Darkness
from firstloop.core.scanning.streaks import without_streaks

PX = 8
TALL, WIDE = 2376, 1680
MARGIN, ROW, STEM = 200, 240, 150  # pixels
INK = 0.8


def page_of_stems() -> np.ndarray:
    """Rows of l, one exactly below the other."""
    values = np.zeros((TALL, WIDE))
    for top in range(MARGIN, TALL - MARGIN - STEM, ROW):
        for x in range(300, 1500, 120):
            values[top : top + STEM, x : x + 4] = INK
    return values


def streak(values: np.ndarray, x: int, askew: int) -> np.ndarray:
    """A broken line from edge to edge; where it is, row by row."""
    rng = np.random.default_rng(2)
    at = x + np.rint(np.linspace(-askew / 2, askew / 2, len(values))).astype(int)
    there = rng.random(len(values)) < 0.6
    for side in (0, 1):
        values[np.flatnonzero(there), at[there] + side] = np.maximum(
            values[np.flatnonzero(there), at[there] + side], 0.5
        )
    return at


@pytest.mark.parametrize("askew", [0, 20, -30])
@pytest.mark.parametrize("across", [False, True])
def test_a_streak_from_edge_to_edge_is_taken_out_and_no_stem_with_it(askew, across):
    values = page_of_stems()
    stems = values > 0
    at = streak(values.T if across else values, 860, askew)
    without_streaks(Darkness(values, float(PX), 0.01))
    assert (values[stems] > 0).mean() > 0.99
    lines, clear = (values.T, ~stems.T) if across else (values, ~stems)
    rows = np.arange(len(at))
    away = clear[rows, at] & clear[rows, at + 1]
    assert (lines[rows, at][away] > 0).mean() < 0.03


def test_a_page_without_a_streak_stays_as_it_is():
    """Also where stems stand below one another, and where the edge of a page is a broad shadow."""
    values = page_of_stems()
    values[:, :30] = 0.4
    before = values.copy()
    without_streaks(Darkness(values, float(PX), 0.01))
    assert np.array_equal(values, before)
