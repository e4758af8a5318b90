"""What has been taught when, and what has not been seen written alone since."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.progress.evidence import Day


@dataclass(frozen=True)
class Covered:
    """A letter the class has begun.

    Parameters
    ----------
    taught : int
        Day number of its first row.
    last_alone : int or None
        Day number on which any child last wrote it alone.
    not_since : tuple of int
        Children who have not written it alone since it was taught, nor on that day.
    """

    char: str
    taught: int
    last_alone: int | None
    not_since: tuple[int, ...]


def coverage(days: Mapping[tuple[int, str], Sequence[Day]], children: Sequence[int]) -> list[Covered]:
    """Every letter begun, in the order taught.

    Parameters
    ----------
    days : mapping
        For (child, letter) its days.
    """
    begun: dict[str, int] = {}
    alone: dict[str, dict[int, int]] = {}
    for (child, char), mine in days.items():
        for one in mine:
            begun[char] = min(begun.get(char, one.day), one.day)
            if one.pieces:
                last = alone.setdefault(char, {})
                last[child] = max(last.get(child, one.day), one.day)
    return [
        Covered(
            char,
            taught,
            max(alone.get(char, {}).values(), default=None),
            tuple(child for child in children if child not in alone.get(char, {})),
        )
        for char, taught in sorted(begun.items(), key=lambda item: (item[1], item[0]))
    ]
