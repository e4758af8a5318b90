"""What is worked out in a quicker way is what the plain one says: holes that the paper's grain leaves in a
pencil's line, pieces that are kept, spots that can be reached.
"""

from __future__ import annotations

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import ndimage

from firstloop.core.check.ways.follow import _reached
from firstloop.core.scanning.cells import _without_grain
from firstloop.core.scanning.owners import where_kept

PX_MM = 16.0
MOST = 0.045 * PX_MM**2  # as many pixels are paper


@given(st.integers(0, 2**32 - 1), st.floats(0.35, 0.9), st.sampled_from([0.0, 1.0, 1.6]))
def test_paper_all_around_which_is_ink_is_filled_where_it_is_small(seed, inked, soft):
    """Whatever the holes are like: against counting them one by one."""
    noise = ndimage.gaussian_filter(np.random.default_rng(seed).normal(size=(60, 80)), soft)
    mask = np.pad(noise < np.quantile(noise, inked), 1)
    holes, count = ndimage.label(~mask)
    sizes = np.bincount(holes.ravel(), minlength=count + 1)
    small = np.flatnonzero(sizes < MOST)
    outside = np.unique(np.concatenate([holes[0], holes[-1], holes[:, 0], holes[:, -1]]))
    filled = mask | np.isin(holes, np.setdiff1d(small, [0, *outside]))
    assert np.array_equal(_without_grain(mask, PX_MM), filled)


@given(st.integers(0, 2**32 - 1), st.floats(0.0, 0.6))
def test_pieces_that_are_kept_lie_where_their_numbers_are(seed, inked):
    rng = np.random.default_rng(seed)
    pieces, count = ndimage.label(rng.random((40, 50)) < inked)
    kept = np.append(False, rng.random(count) < 0.5)
    assert np.array_equal(where_kept(pieces, kept), np.isin(pieces, np.flatnonzero(kept)))


@given(st.integers(0, 2**32 - 1))
def test_spots_that_can_be_reached_are_those_a_few_steps_away(seed):
    """Against counting the ways from spot to spot of a graph."""
    rng = np.random.default_rng(seed)
    joined = np.triu(rng.random((12, 12)) < 0.15, 1)
    steps = np.linalg.matrix_power((joined | joined.T | np.eye(12, dtype=bool)).astype(int), 3)
    near = _reached([set(np.flatnonzero(row).tolist()) for row in joined | joined.T])
    assert [set(row) for row in near.tolist()] == [set(np.flatnonzero(row).tolist()) for row in steps]
