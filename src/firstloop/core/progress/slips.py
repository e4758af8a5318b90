"""Slips over a class: which are commonest, and what every child slips in over every family."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.progress.groups import Need

_COMMONEST = 6


@dataclass(frozen=True)
class DaySlips:
    """A day of one letter of a child: how many were written alone, and in how many each slip was made."""

    child: int
    letter: str
    alone: int
    slips: Mapping[str, int]


@dataclass(frozen=True)
class Commonest:
    """A slip of a class: how often it was made, in which letters and by which children, most often first."""

    code: str
    times: int
    letters: tuple[str, ...]
    children: tuple[int, ...]


def commonest(days: Sequence[DaySlips]) -> list[Commonest]:
    """The slips that most children of a class made, commonest first."""
    times: Counter[str] = Counter()
    who: dict[str, Counter[int]] = {}
    where: dict[str, Counter[str]] = {}
    for one in days:
        for code, count in one.slips.items():
            times[code] += count
            who.setdefault(code, Counter())[one.child] += count
            where.setdefault(code, Counter())[one.letter] += count
    order = sorted(times, key=lambda code: (-len(who[code]), -times[code], code))[:_COMMONEST]
    return [
        Commonest(
            code,
            times[code],
            tuple(char for char, _ in where[code].most_common()),
            tuple(child for child, _ in who[code].most_common()),
        )
        for code in order
    ]


def needs(days: Sequence[DaySlips], family: Mapping[str, str], *, over_family: bool = True) -> list[Need]:
    """What every child slips in over every family.

    Parameters
    ----------
    family : mapping
        Name of the family of every letter that counts.
    over_family : bool
        Whether how often is counted over all letters of the family, or only over those with the slip.
    """
    letters: Counter[tuple[int, str]] = Counter()
    slips: dict[tuple[int, str, str], Counter[str]] = {}
    for one in days:
        if one.letter not in family:
            continue
        letters[one.child, one.letter] += one.alone
        for code, count in one.slips.items():
            slips.setdefault((one.child, code, family[one.letter]), Counter())[one.letter] += count

    def counted(over: str, chars: Counter[str]) -> list[str]:
        return [char for char, name in family.items() if name == over] if over_family else list(chars)

    return [
        Need(
            child=child,
            code=code,
            heading=CODES[code].heading,
            family=over,
            slips=sum(chars.values()),
            letters=sum(letters[child, char] for char in counted(over, chars)),
            chars="".join(sorted(chars)),
        )
        for (child, code, over), chars in slips.items()
    ]
