"""Dynamic time warping of many candidate pairs at once.

Classic DTW (Sakoe and Chiba, 1978, "Dynamic programming algorithm optimization for spoken word
recognition") filled along anti-diagonals, so that numpy works on all candidates and a whole
diagonal in one step.
"""

from __future__ import annotations

import numpy as np

from firstloop.core.curves import FloatArray, IntArray

_FAR_XH = 0.9  # a pair further apart than this is simply "not there"


def _skewed_costs(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Point distances laid out so that an anti-diagonal is one column; shape (h, m, n + m - 1)."""
    gap = ink[:, :, None, :] - model[:, None, :, :]
    cost = np.minimum(np.sqrt(np.einsum("hijk,hijk->hij", gap, gap)), _FAR_XH)
    h, m, n = cost.shape
    padded = np.full((h, m, n + m), np.inf)
    padded[:, :, :n] = cost
    return np.asarray(padded.reshape(h, -1)[:, : m * (n + m - 1)].reshape(h, m, n + m - 1))


def _fill(skewed: FloatArray, keep: bool) -> tuple[FloatArray, FloatArray]:
    """Accumulate cost; returns the last diagonal (h, m) and, if kept, all of them (n + m - 1, h, m)."""
    h, m, diagonals = skewed.shape
    columns = np.ascontiguousarray(skewed.transpose(2, 0, 1))
    older, last, new = (np.full((h, m + 1), np.inf) for _ in range(3))
    older[:, 0] = 0.0  # lets the first cell begin from nothing
    for k in range(diagonals):
        best = new[:, 1:]
        np.minimum(last[:, 1:], last[:, :-1], out=best)
        np.minimum(best, older[:, :-1], out=best)
        best += columns[k]
        older[:, 0] = np.inf
        older, last, new = last, new, older
        if keep:
            columns[k] = best
    return last[:, 1:], columns


def warp_costs(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Cheapest total distance for each candidate pair, divided by the longer length.

    Parameters
    ----------
    ink : array, shape (h, m, 2)
    model : array, shape (h, n, 2)

    Returns
    -------
    array, shape (h,), about the mean distance along the match, in the unit of the points.
    """
    last, _ = _fill(_skewed_costs(ink, model), keep=False)
    return np.asarray(last[:, -1] / max(ink.shape[1], model.shape[1]))


def warp_path(ink: FloatArray, model: FloatArray) -> tuple[IntArray, float]:
    """Match one pair.

    Parameters
    ----------
    ink : array, shape (m, 2)
    model : array, shape (n, 2)

    Returns
    -------
    pairs : array, shape (p, 2)
        Matched indices (ink, model), both never going back.
    cost : float
        As :func:`warp_costs`.
    """
    last, kept = _fill(_skewed_costs(ink[None], model[None]), keep=True)
    table = kept[:, 0, :]
    i, j = len(ink) - 1, len(model) - 1
    pairs = [(i, j)]
    while i or j:
        options = []
        if i and j:
            options.append((table[i + j - 2, i - 1], i - 1, j - 1))
        if i:
            options.append((table[i + j - 1, i - 1], i - 1, j))
        if j:
            options.append((table[i + j - 1, i], i, j - 1))
        _, i, j = min(options)
        pairs.append((i, j))
    return np.array(pairs[::-1], dtype=np.int64), float(last[0, -1] / max(len(ink), len(model)))
