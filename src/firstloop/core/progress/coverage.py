"""What has been taught when, and what has not been seen written alone since."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.progress.mastery import State


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
        Children who have not written it alone yet.
    """

    char: str
    taught: int
    last_alone: int | None
    not_since: tuple[int, ...]


_WRONG_SHARE = 1 / 3  # of the children who have begun a letter


def not_yet_secure(states: Mapping[str, Sequence[State]]) -> frozenset[str]:
    """Letters that a third or more of those who have begun them are learning, or slipping in.

    Parameters
    ----------
    states : mapping
        For every letter how it stands with each child who has begun it: with one child, its own state.
    """
    wanting = {char: sum(one is not State.SECURE for one in some) for char, some in states.items()}
    return frozenset(
        char for char, count in wanting.items() if count and count >= _WRONG_SHARE * len(states[char])
    )


def coverage(
    seen: Mapping[tuple[int, str], tuple[int, int | None]],
    children: Sequence[int],
    in_words: Mapping[tuple[int, str], int],
) -> list[Covered]:
    """Every letter begun, in the order taught.

    Parameters
    ----------
    seen : mapping
        For (child, letter) the day numbers on which it was first written in any way, and last alone.
    in_words : mapping
        For (child, letter) the day number on which it was last written in a word, which is alone too.
    """
    taught: dict[str, int] = {}
    alone: dict[str, dict[int, int]] = {}
    for (child, char), (first, last) in seen.items():
        taught[char] = min(taught.get(char, first), first)
        if last is not None:
            alone.setdefault(char, {})[child] = last
    for (child, char), last in in_words.items():
        if char in taught:  # a date at the head of a page begins no letter
            mine = alone.setdefault(char, {})
            mine[child] = max(mine.get(child, last), last)
    return [
        Covered(
            char,
            day,
            max(alone.get(char, {}).values(), default=None),
            tuple(child for child in children if child not in alone.get(char, {})),
        )
        for char, day in sorted(taught.items(), key=lambda item: (item[1], item[0]))
    ]
