"""Ink as it is shown: with no more points than can be told apart."""

from __future__ import annotations

import cv2
import numpy as np

from firstloop.core.curves import FloatArray

_WITHIN_MM = 0.05  # a fifth of a pixel where a row is shown across half a screen
_APART_MM = 0.001


def as_shown(points_mm: FloatArray) -> FloatArray:
    """As few of the points of a stroke as draw the same line (Douglas and Peucker, 1973).

    Parameters
    ----------
    points_mm : array, shape (n, 2)

    Returns
    -------
    array, shape (m, 2), m <= n; the first and the last point among them.
    """
    if len(points_mm) < 3:
        return points_mm
    open_mm = points_mm.astype(np.float32)
    if (open_mm[0] == open_mm[-1]).all():  # else taken for a closed shape, and given back without its end
        open_mm[-1] += _APART_MM
    kept = cv2.approxPolyDP(open_mm[:, None], _WITHIN_MM, closed=False)
    return np.asarray(kept[:, 0].astype(np.float64))
