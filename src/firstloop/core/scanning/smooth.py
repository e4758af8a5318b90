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
    keep = np.ones(len(x), dtype=np.bool_)
    off = np.full(len(x), np.inf)
    for _ in range(_ROUNDS):
        if keep.sum() < bends + 2:
            return np.full(len(x), np.inf)
        off = np.abs(y - np.polynomial.Polynomial.fit(x[keep], y[keep], bends)(x))
        keep = off <= max(float(np.median(off)), within)
    return off
