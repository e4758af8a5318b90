"""Why ink reads as another letter: where the two models part company."""

from __future__ import annotations

from functools import lru_cache

from firstloop.core.check.template import template
from firstloop.core.letterforms.style import HouseStyle

_BAND = 0.5  # xh by which tops or feet differ for it to be a matter of the bands
_WIDER = 0.25
_LONGER = 0.3


@lru_cache(maxsize=4096)
def why_it_reads(own: str, other: str, style: HouseStyle) -> tuple[str, str]:
    """What makes an `own` look like an `other`, and what a child should do about it.

    The first difference that a teacher would see: the height, the tail, a bowl closed or open, the
    width. Both are half-sentences without a full stop; the second is empty where there is no plain advice.

    Examples
    --------
    >>> why_it_reads("h", "n", HouseStyle())
    ('its stem is too short', 'Start the stem up at the rise line')
    """
    mine, theirs = template(own, style), template(other, style)
    (left, low, right, high), (their_left, their_low, their_right, their_high) = (
        mine.letter.body_bounds,
        theirs.letter.body_bounds,
    )
    wider = (their_right - their_left) - (right - left)
    longer = theirs.length - mine.length
    reasons = (
        (high - their_high > _BAND, "its stem is too short", "Start the stem up at the rise line"),
        (their_high - high > _BAND, "it reaches up too far", "Keep it below the mid line"),
        (their_low - low > _BAND, "its tail does not hang down", "Let the tail hang below the base line"),
        (low - their_low > _BAND, "it goes below the base line", "Stop at the base line"),
        (
            bool(mine.closures) and not theirs.closures,
            "its round is left open",
            "Go on until the round is closed",
        ),
        (bool(theirs.closures) and not mine.closures, "its ends meet", "Leave the round open"),
        (
            (their_right - their_left) - (right - left) > _WIDER,
            "it goes too far across",
            "Stop a little sooner",
        ),
        (wider < -_WIDER, "it does not go far enough across", "Go a little further across"),
        (longer > _LONGER, "it goes on too long", "Stop a little sooner"),
        (longer < -_LONGER, "it stops too soon", "Go on to the end of the letter"),
        (True, "its shape is nearer", ""),
    )
    return next((why, advice) for holds, why, advice in reasons if holds)
