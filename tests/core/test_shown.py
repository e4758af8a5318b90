"""Ink as it is shown: the same line with fewer points."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from firstloop.core.letterforms.library import letter
from firstloop.core.shown import as_shown

SEEN_MM = 0.06  # as far as single precision lets a line be told from another
SPOTS = arrays(np.float64, st.tuples(st.integers(1, 60), st.just(2)), elements=st.floats(0, 300, width=32))


def off_the_line(points: np.ndarray, line: np.ndarray) -> float:
    """How far the farthest point lies from a line of points."""
    if len(line) == 1:
        return float(np.hypot(*(points - line).T).max())
    a, along = line[:-1], np.diff(line, axis=0)
    share = ((points[:, None] - a) * along).sum(-1) / np.maximum((along**2).sum(-1), 1e-12)
    near = a + along * share.clip(0, 1)[..., None]
    return float(np.hypot(*np.moveaxis(points[:, None] - near, -1, 0)).min(1).max())


@given(SPOTS)
def test_no_point_lies_where_nothing_is_shown_and_both_ends_stay(points):
    shown = as_shown(points)
    assert len(shown) <= len(points)
    assert shown[[0, -1]] == pytest.approx(points[[0, -1]], abs=2e-3)
    assert off_the_line(points, shown) <= SEEN_MM


@pytest.mark.parametrize("char", "osk")
def test_a_written_letter_is_shown_with_a_fraction_of_its_points(char):
    for stroke in letter(char).sampled:
        points = 10 * stroke.points
        few = as_shown(points)
        assert len(few) < max(len(points) / 4, 3)
        assert off_the_line(points, few) <= SEEN_MM
