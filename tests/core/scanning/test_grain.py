"""The small holes that the paper's grain leaves in a pencil's line are filled, and no others."""

from __future__ import annotations

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import ndimage

from firstloop.core.scanning.cells import _without_grain

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
