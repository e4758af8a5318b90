"""How much a letter is helped in a row, from traced to written alone; and which is next."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum


class Support(StrEnum):
    """How much help a letter is written with: all of it, its beginning, where it starts, or nothing."""

    TRACE = "trace"
    FINISH = "finish"
    RING = "ring"
    ALONE = "alone"


USUAL_ROW = (
    Support.TRACE,
    Support.TRACE,
    Support.FINISH,
    Support.ALONE,
    Support.ALONE,
    Support.ALONE,
)
"""How a row goes for a letter that is new."""


def filled(pattern: Sequence[Support], fits: int) -> list[Support]:
    """A row that goes on alone until its line, which holds so many letters, is full.

    What helps a letter is never cut off: the line is then longer.
    """
    helped = [one for one in pattern if one is not Support.ALONE]
    return [*helped, *[Support.ALONE] * max(fits - len(helped), 1)]


def still_to_write(pattern: Sequence[Support], counted: int) -> list[Support]:
    """With how much help the letters are written that a row still lacks, in order; none where it is full.

    Parameters
    ----------
    counted : int
        Letters written so far that are not crossed out: one that was crossed out is written once more.
    """
    return list(pattern[counted:])
