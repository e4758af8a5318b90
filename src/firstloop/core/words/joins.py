"""The joins of a word in a joined hand, and which of them are tricky."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache
from itertools import pairwise, product

from firstloop.core.letterforms.joined import Arrive, Leave, joined
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import HouseStyle, Script


class JoinKind(StrEnum):
    """What makes a join what it is: where it leaves from, and what it meets.

    A join can be of several kinds: out of the mid line into a round, say.
    """

    FROM_MID = "from-mid"
    INTO_ROUND = "into-round"
    INTO_TALL = "into-tall"
    INTO_LOW = "into-low"
    LIFTED = "lifted"


TRICKY = frozenset({JoinKind.FROM_MID})
"""Kinds that children find hard: out of o, r, v, w, along the mid line."""

_MET = {Arrive.ROUND: JoinKind.INTO_ROUND, Arrive.TALL: JoinKind.INTO_TALL, Arrive.LOW: JoinKind.INTO_LOW}


@dataclass(frozen=True)
class Join:
    """A join of two neighbouring letters."""

    pair: str
    kinds: frozenset[JoinKind]

    @property
    def is_tricky(self) -> bool:
        """Whether it wants showing on its own."""
        return bool(self.kinds & TRICKY)


def joined_style(style: HouseStyle) -> HouseStyle:
    """The style itself where it is joined, else as it is when its letters are joined."""
    return style if style.is_joined else replace(style, script=Script.CURSIVE)


@lru_cache(maxsize=4096)
def join(pair: str, style: HouseStyle) -> Join | None:
    """The join of two letters; None where one of them never joins (a capital, a digit).

    Parameters
    ----------
    style : HouseStyle
        A joined one.
    """
    before, after = (joined(char, style) for char in pair)
    if before is None or after is None:
        return None
    if before.leave is Leave.LIFT:
        return Join(pair, frozenset({JoinKind.LIFTED}))
    kinds = {JoinKind.FROM_MID} if before.leave is Leave.MID else set()
    if met := _MET.get(after.arrive):
        kinds.add(met)
    return Join(pair, frozenset(kinds))


@lru_cache(maxsize=64)
def pairs_of(kind: JoinKind, style: HouseStyle) -> frozenset[str]:
    """Every pair of letters whose join is of a kind, in the joined hand of a style."""
    hand = joined_style(style)
    pairs = map("".join, product(LOWER, repeat=2))
    return frozenset(
        pair for pair in pairs if (found := join(pair, hand)) is not None and kind in found.kinds
    )


def joins(text: str, style: HouseStyle) -> list[Join]:
    """Joins of a word from left to right, as it is written in a joined hand."""
    hand = joined_style(style)
    pairs: Iterable[str] = ("".join(pair) for pair in pairwise(text) if " " not in pair)
    return [found for pair in pairs if (found := join(pair, hand)) is not None]


def tricky(text: str, style: HouseStyle) -> list[str]:
    """The tricky pairs of a word, each once, in order.

    Examples
    --------
    >>> tricky("road", HouseStyle())
    ['ro', 'oa']
    """
    return list(dict.fromkeys(one.pair for one in joins(text, style) if one.is_tricky))
