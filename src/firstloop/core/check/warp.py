"""Dynamic time warping of many candidate pairs at once.

Classic DTW (Sakoe and Chiba, 1978, "Dynamic programming algorithm optimization for spoken word
recognition"). A row of the table follows from the one above by a running minimum: with the costs
of the row summed up, going on along the row is free, so numpy fills a whole row of all candidates
in four steps.
"""

from __future__ import annotations

import numpy as np

from firstloop.core.curves import FloatArray, IntArray

_FAR_XH = 0.9  # a pair further apart than this is simply "not there"


def _costs(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Point distances by ink point; shape (m, h, n)."""
    squared = np.zeros((ink.shape[1], len(ink), model.shape[1]))
    for ours, theirs in zip(
        np.ascontiguousarray(ink.transpose(2, 1, 0)), np.moveaxis(model, 2, 0), strict=True
    ):
        apart = ours[..., None] - theirs
        apart *= apart
        squared += apart
    return np.asarray(np.minimum(np.sqrt(squared, out=squared), _FAR_XH, out=squared))


def _table(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Cheapest cost of matching up to each pair of points; shape (m, h, n)."""
    cost = _costs(ink, model)
    along_row = cost.cumsum(2)
    lead = cost - along_row
    table = np.empty_like(cost)
    table[0] = along_row[0]
    for i in range(1, len(cost)):
        above, here = table[i - 1], table[i]
        here[:, 0] = above[:, 0]
        np.minimum(above[:, 1:], above[:, :-1], out=here[:, 1:])
        np.add(here, lead[i], out=here)
        np.minimum.accumulate(here, axis=1, out=here)
        np.add(here, along_row[i], out=here)
    return table


def warp_costs(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Cheapest total distance for each candidate pair, divided by the longer length.

    Parameters
    ----------
    ink : array, shape (h, m, d)
    model : array, shape (h, n, d)

    Returns
    -------
    array, shape (h,), about the mean distance along the match, in the unit of the points.
    """
    return np.asarray(_table(ink, model)[-1, :, -1] / max(ink.shape[1], model.shape[1]))


def warp_path(ink: FloatArray, model: FloatArray) -> tuple[IntArray, float]:
    """Match one pair.

    Parameters
    ----------
    ink : array, shape (m, d)
    model : array, shape (n, d)

    Returns
    -------
    pairs : array, shape (p, 2)
        Matched indices (ink, model), both never going back.
    cost : float
        As :func:`warp_costs`.
    """
    table = _table(ink[None], model[None])[:, 0]
    rows = table.tolist()
    i, j = len(ink) - 1, len(model) - 1
    pairs = [(i, j)]
    while i and j:
        across, back, down = rows[i - 1][j - 1], rows[i - 1][j], rows[i][j - 1]
        if across <= back and across <= down:
            i, j = i - 1, j - 1
        elif back <= down:
            i -= 1
        else:
            j -= 1
        pairs.append((i, j))
    pairs += [(k, 0) for k in range(i - 1, -1, -1)] + [(0, k) for k in range(j - 1, -1, -1)]
    return np.array(pairs[::-1], dtype=np.int64), float(table[-1, -1] / max(len(ink), len(model)))
