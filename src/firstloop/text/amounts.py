"""Amounts as they are spoken of: a third, half, as much again."""

from __future__ import annotations

from firstloop.text import say

_SHARES = (0, 5, 10, 20, 25, 33, 40, 50, 67, 75, 100, 150)  # per cent that have a name


def share(percent: float) -> str:
    """The share with a name that is nearest.

    Examples
    --------
    >>> share(36.0)
    'a third'
    """
    return say(f"share.{min(_SHARES, key=lambda one: abs(one - percent))}")
