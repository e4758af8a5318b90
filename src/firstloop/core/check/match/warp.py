"""Dynamic time warping of many candidate pairs at once.

Classic DTW (Sakoe and Chiba, 1978, "Dynamic programming algorithm optimization for spoken word
recognition"). A row of the table follows from the one above by a running minimum: with the costs
of the row summed up, going on along the row is free, so numpy fills a whole row of all candidates
in four steps.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from firstloop.core.curves import FloatArray, IntArray

_FAR_XH = 0.9  # a pair further apart than this is simply "not there"
_BOTH, _INK, _MODEL = range(3)  # which of the two goes on


def _costs(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Point distances, the candidates side by side so that numpy goes along them; shape (m, n, h)."""
    ours, theirs = (np.ascontiguousarray(points.transpose(2, 1, 0)) for points in (ink, model))
    squared = np.zeros((ours.shape[1], theirs.shape[1], len(ink)))
    for a, b in zip(ours, theirs, strict=True):
        apart = a[:, None] - b
        apart *= apart
        squared += apart
    return np.asarray(np.minimum(np.sqrt(squared, out=squared), _FAR_XH, out=squared))


def _table(ink: FloatArray, model: FloatArray) -> FloatArray:
    """Cheapest cost of matching up to each pair of points; shape (m, n, h)."""
    cost = _costs(ink, model)
    along_row = cost.cumsum(1)
    lead = cost - along_row
    m, n, h = cost.shape
    table = np.full((m, n + 1, h), np.inf)  # with a column before the first, from which nothing comes
    inner = table[:, 1:]
    inner[0] = along_row[0]
    for above, aslant, here, ahead, so_far in zip(
        inner[:-1], table[:-1, :-1], inner[1:], lead[1:], along_row[1:], strict=True
    ):
        np.minimum(above, aslant, out=here)
        np.add(here, ahead, out=here)
        np.minimum.accumulate(here, axis=0, out=here)
        np.add(here, so_far, out=here)
    return inner


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
    return np.asarray(_table(ink, model)[-1, -1] / max(ink.shape[1], model.shape[1]))


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
    return warp_paths([ink], [model])[0]


def warp_paths(inks: Sequence[FloatArray], models: Sequence[FloatArray]) -> list[tuple[IntArray, float]]:
    """Match many pairs, of whatever lengths, in one table; for each what :func:`warp_path` returns."""
    if not inks:
        return []
    table = _table(_padded(inks), _padded(models))
    above, aslant, before = table[:-1, 1:], table[:-1, :-1], table[1:, :-1]
    came = np.where(above <= before, _INK, _MODEL).astype(np.uint8)
    came[(aslant <= above) & (aslant <= before)] = _BOTH
    out = []
    for k, (ink, model) in enumerate(zip(inks, models, strict=True)):
        i, j = len(ink) - 1, len(model) - 1
        out.append((_way_back(came[:i, :j, k]), float(table[i, j, k] / max(len(ink), len(model)))))
    return out


def _padded(runs: Sequence[FloatArray]) -> FloatArray:
    """Runs of points, all made as long as the longest; what is added comes last and so decides nothing."""
    if len(runs) == 1:
        return runs[0][None]
    out = np.zeros((len(runs), max(map(len, runs)), runs[0].shape[1]))
    for room, run in zip(out, runs, strict=True):
        room[: len(run)] = run
    return out


def _way_back(came: np.ndarray[tuple[int, int], np.dtype[np.uint8]]) -> IntArray:
    """Pairs of the cheapest match, by where each pair of points but those at the first came from."""
    i, j = came.shape
    steps, wide = came.tobytes(), j
    ours, theirs = [i], [j]
    while i and j:
        step = steps[(i - 1) * wide + j - 1]
        i -= step != _MODEL
        j -= step != _INK
        ours.append(i)
        theirs.append(j)
    ours += [*range(i - 1, -1, -1), *[0] * j]
    theirs += [*[0] * i, *range(j - 1, -1, -1)]
    return np.array([ours[::-1], theirs[::-1]], dtype=np.int64).T
