"""What makes ink read as another letter: the first difference between the two models that shows."""

from __future__ import annotations

from functools import lru_cache

from firstloop.core.check.match.template import template
from firstloop.core.letterforms.style import HouseStyle

_BAND = 0.5  # xh by which tops or feet differ for it to be a matter of the bands
_WIDER = 0.25
_LONGER = 0.3


@lru_cache(maxsize=4096)
def difference(own: str, other: str, style: HouseStyle) -> str:
    """What makes an `own` look like an `other`, as a key of the catalogue.

    The first difference that a teacher would see: the height, the tail, a bowl closed or open, the width.

    Examples
    --------
    >>> difference("h", "n", HouseStyle())
    'stem-short'
    """
    mine, theirs = template(own, style), template(other, style)
    (left, low, right, high), (their_left, their_low, their_right, their_high) = (
        mine.letter.body_bounds,
        theirs.letter.body_bounds,
    )
    wider = (their_right - their_left) - (right - left)
    longer = theirs.length - mine.length
    differences = (
        (high - their_high > _BAND, "stem-short"),
        (their_high - high > _BAND, "reaches-up"),
        (their_low - low > _BAND, "tail-short"),
        (low - their_low > _BAND, "goes-below"),
        (bool(mine.closures) and not theirs.closures, "left-open"),
        (bool(theirs.closures) and not mine.closures, "ends-meet"),
        (wider > _WIDER, "too-far-across"),
        (wider < -_WIDER, "not-across"),
        (longer > _LONGER, "goes-on"),
        (longer < -_LONGER, "stops-soon"),
    )
    return next((key for holds, key in differences if holds), "nearer")
