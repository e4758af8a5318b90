"""What was seen of a child's letter on one day, from whatever source.

Days are day numbers (``datetime.date.toordinal``): the core has no clock.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from functools import lru_cache

_CREDIT = {"s": 1.0, "n": 0.5, "f": 0.0}
_CODES = {"secure": "s", "near": "n", "fix": "f", "unreadable": "f", "not-seen": "-"}
_VERDICTS = {"s": "secure", "n": "near", "f": "fix", "-": "not-seen"}


class Aspect(StrEnum):
    """What a state is of: the letter as a whole, or one heading of it."""

    ALL = "all"
    DIRECTION = "direction"
    SHAPE = "shape"
    SIZE = "size"


_PLACE = {aspect: place for place, aspect in enumerate(Aspect)}


class Source(StrEnum):
    """Where a piece of evidence comes from."""

    INK = "ink"
    SCAN = "scan"
    WATCHED = "watched"


@dataclass(frozen=True)
class Piece:
    """One letter seen written alone, or watched being written: a verdict for each aspect.

    What a source cannot tell is ``not-seen``: a scan knows no direction, a note on how the pen went
    knows nothing else.

    Parameters
    ----------
    token : str
        Four characters, one for each :class:`Aspect` in order: s, n, f or -.
    """

    token: str

    def verdict(self, aspect: Aspect) -> str:
        """Secure, near, fix or not-seen."""
        return _VERDICTS[self.token[_PLACE[aspect]]]


@lru_cache(maxsize=4**4)
def from_token(token: str) -> Piece:
    """A piece from the four characters it is kept by.

    Raises
    ------
    ValueError
        If it is no such token.
    """
    if len(token) != len(Aspect) or not set(token) <= set(_VERDICTS):
        raise ValueError(f"{token!r} is no piece of evidence")
    return Piece(token)


def _of(verdicts: Mapping[Aspect, str]) -> Piece:
    return from_token("".join(_CODES[verdicts.get(aspect, "not-seen")] for aspect in Aspect))


def piece(verdict: str, headings: Mapping[str, str], mark: str | None, source: Source = Source.INK) -> Piece:
    """What one attempt says, the teacher's mark winning over the checker.

    A mark of secure holds for every heading that was seen. A mark of near or fix holds for the letter;
    where the checker saw nothing wrong, no heading is blamed for it.
    """
    own = {Aspect(name): one for name, one in headings.items() if name in set(Aspect)}
    if mark == "secure":
        own = {aspect: "secure" if one != "not-seen" else one for aspect, one in own.items()}
    if source is Source.SCAN:
        own[Aspect.DIRECTION] = "not-seen"
    return _of({**own, Aspect.ALL: mark or verdict})


def watched(fine: bool) -> Piece:
    """What a teacher saw of the way a letter was made on paper."""
    return _of({Aspect.DIRECTION: "secure" if fine else "fix"})


@dataclass(frozen=True)
class Day:
    """A day's evidence of one letter.

    Parameters
    ----------
    day : int
        Day number.
    pieces : tuple of Piece
        Letters written alone and watched, in order. Traced and finished ones are not among them.
    helped : int
        Letters traced or finished that day.
    """

    day: int
    pieces: tuple[Piece, ...] = ()
    helped: int = 0
    slips: Mapping[str, int] = field(default_factory=dict)


def credits_of(days: Iterable[Day], aspect: Aspect) -> list[tuple[int, float]]:
    """Day and credit (1 secure, half near, 0 fix) of every piece that says something of an aspect."""
    place = _PLACE[aspect]
    return [
        (one.day, credit)
        for one in days
        for piece in one.pieces
        if (credit := _CREDIT.get(piece.token[place])) is not None
    ]
