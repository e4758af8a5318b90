"""Steps that a child or a teacher takes on a row."""

from __future__ import annotations

from collections.abc import Collection, Sequence


def unchosen(chosen: Collection[int], so_far: Sequence[int]) -> list[int]:
    """Which attempts are the best of their row no longer once others are chosen: a row has one best.

    Parameters
    ----------
    chosen : collection of int
        Attempts chosen now; where none is, nothing changes.
    so_far : sequence of int
        Attempts that were the best until now.
    """
    return [one for one in so_far if one not in chosen] if chosen else []
