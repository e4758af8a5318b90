"""A smooth way through measured points, some of which are of something else."""

from __future__ import annotations

import numpy as np

from firstloop.core.curves import FloatArray

_ROUNDS = 4


def off_smooth_way(x: FloatArray, y: FloatArray, bends: int, within: float) -> FloatArray:
    """How far each point is from the smooth way that most of them lie on; shape (n,).

    Parameters
    ----------
    bends : int
        Degree of the way.
    within : float
        Points no further off than this always count; of others the nearer half.

    Returns
    -------
    array; infinite where there are too few points to tell.
    """
    too_few = np.full(len(x), np.inf)
    if len(x) < bends + 2:
        return too_few
    powers = np.polynomial.polynomial.polyvander(2 * (x - x.min()) / max(float(np.ptp(x)), 1e-9) - 1, bends)
    keep, off = np.ones(len(x), dtype=np.bool_), too_few
    for _ in range(_ROUNDS):
        if keep.sum() < bends + 2:
            return too_few
        way = powers @ np.linalg.lstsq(powers[keep], y[keep], rcond=None)[0]
        off = np.abs(y - way)
        before, keep = keep, off <= max(float(np.median(off)), within)
        if np.array_equal(keep, before):
            break
    return off
