"""Evenness of a row or word: heights against one another, and the line of feet."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.findings import Finding, graded
from firstloop.core.check.whole.placement import PlacedLetter

_DRIFT_LEAST = 3  # feet; fewer make no line
_DRIFT_REACH_XH = 2.0
_PARTS = ("body", "tall", "deep")
"""Heights of a :class:`~firstloop.core.check.whole.placement.Placement` that should be alike."""


def uneven(seen: Sequence[PlacedLetter], strictness: Strictness) -> list[Finding]:
    """Largest against smallest of the letters' bodies, tall parts or tails; the worst is told.

    A single letter that is told of for its own size explains the rest.
    """
    told = [one for one in seen if one.told_of]
    if len(told) == 1:
        seen = [one for one in seen if not one.told_of]
    worst: list[Finding] = []
    for part in _PARTS:
        sized = [(float(v), one) for one in seen if (v := getattr(one.place, part)) is not None and v > 0]
        if len(sized) < 2:
            continue
        (small, low), (large, high) = min(sized, key=_first), max(sized, key=_first)
        assert high.place is not None
        at = np.array([[high.place.middle, 0.5]])
        facts = {"which": part, "largest": high.char, "smallest": low.char}
        found = graded("size.uneven", 100 * (large / small - 1), strictness, at, facts)
        if found and (not worst or found[0].value > worst[0].value):
            worst = found
    return worst


def _first(pair: tuple[float, PlacedLetter]) -> float:
    return pair[0]


def drift(seen: Sequence[PlacedLetter], strictness: Strictness) -> tuple[list[Finding], float | None]:
    """Slope of a line through the feet."""
    feet = [(one.place.middle, one.place.foot) for one in seen if one.place and one.place.foot is not None]
    if len(feet) < _DRIFT_LEAST:
        return [], None
    x, y = np.array(feet).T
    if np.ptp(x) < _DRIFT_REACH_XH:
        return [], None
    slope = float(np.degrees(np.arctan(np.polyfit(x - x.mean(), y, 1)[0])))
    last = int(x.argmax())
    end = np.array([[x[last], y[last]]])
    way = "climbs" if slope > 0 else "sinks"
    return graded("line.drift", abs(slope), strictness, end, {"way": way}), slope
