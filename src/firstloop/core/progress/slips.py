"""Slips over a class: which matter most, which are new, and what every child slips in over every family."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import COUNTED_HEADINGS
from firstloop.core.progress.groups import OFTEN, TIMES, Need
from firstloop.core.progress.habits import GONE_SHARE, LEAST_AFTER, LEAST_SLIPS
from firstloop.core.progress.mastery import LEAST_DAYS, LEAST_LETTERS

LATELY_DAYS = 14
_GRAVE, _MOVES = 4, 3  # weights: of what is worth watching for, and of every way of moving


@dataclass(frozen=True)
class DaySlips:
    """A day of one letter of a child: how many were written alone, and in how many each slip was made."""

    child: int
    letter: str
    alone: int
    slips: Mapping[str, int]
    day: int = 0


def weight(code: str) -> int:
    """How much a slip matters, 0 to 6.

    A way of moving (direction) is hardest to unlearn and weighs 3, a shape 2, a size 1; what is to be put
    right whenever it occurs weighs double. What is only told weighs nothing.

    Examples
    --------
    >>> weight("start.bottom"), weight("shape.width"), weight("size.tall")
    (6, 2, 1)
    """
    spec = CODES[code]
    if spec.heading not in COUNTED_HEADINGS:
        return 0
    place = COUNTED_HEADINGS[::-1].index(spec.heading) + 1
    return 2 * place if spec.tolerance is None else place


@dataclass(frozen=True)
class Commonest:
    """A slip of a class: how often it was made, in which letters and by which children, most often first."""

    code: str
    times: int
    letters: tuple[str, ...]
    children: tuple[int, ...]


def commonest(days: Sequence[DaySlips]) -> list[Commonest]:
    """Every slip of a class: first what matters most to most children (weight times children)."""
    times: Counter[str] = Counter()
    who: dict[str, Counter[int]] = {}
    where: dict[str, Counter[str]] = {}
    for one in days:
        for code, count in one.slips.items():
            times[code] += count
            who.setdefault(code, Counter())[one.child] += count
            where.setdefault(code, Counter())[one.letter] += count
    order = sorted(times, key=lambda code: (-weight(code) * len(who[code]), -times[code], code))
    return [
        Commonest(
            code,
            times[code],
            tuple(char for char, _ in where[code].most_common()),
            tuple(child for child, _ in who[code].most_common()),
        )
        for code in order
    ]


@dataclass(frozen=True)
class Lately:
    """A slip of one child of late, in the letters in which it was made.

    Parameters
    ----------
    slips, letters : int
        In how many of how many of those letters.
    """

    child: int
    code: str
    chars: str
    slips: int
    letters: int


def new_slips(days: Sequence[DaySlips], today: int) -> list[Lately]:
    """Slips that children have taken to of late and hardly made before, the gravest first.

    New is what was made in three letters of ten of the last two weeks, and in at most one of ten before, of
    which there must have been four. A way of moving is taken to when it was made twice; a shape or a size,
    which vary more, when it was made as often as what is called a habit.
    """
    out = []
    for (child, code), mine in _made(days).items():
        before = [one for one in mine if one.day <= today - LATELY_DAYS]
        found = _lately(child, code, mine, today)
        was = sum(one.alone for one in before)
        slipped = sum(one.slips.get(code, 0) for one in before)
        known = was >= LEAST_AFTER and slipped <= GONE_SHARE * was
        often = TIMES if weight(code) >= _MOVES else LEAST_SLIPS
        if known and found.slips >= often and found.slips >= OFTEN * found.letters:
            out.append(found)
    return _gravest(out)


def seen_lately(days: Sequence[DaySlips], today: int) -> list[Lately]:
    """What was seen of late of letters of which too little has been written to claim anything.

    Only a way of moving or a shape that is to be put right whenever it occurs: what is worth watching for.
    """
    written: dict[tuple[int, str], list[DaySlips]] = {}
    for one in days:
        if one.alone:
            written.setdefault((one.child, one.letter), []).append(one)
    few = {
        key
        for key, mine in written.items()
        if sum(one.alone for one in mine) < LEAST_LETTERS or len(mine) < LEAST_DAYS
    }
    some = [one for one in days if (one.child, one.letter) in few]
    found = [_lately(child, code, mine, today) for (child, code), mine in _made(some).items()]
    return _gravest(one for one in found if one.slips and weight(one.code) >= _GRAVE)


def slips_of_late(days: Sequence[DaySlips], today: int) -> list[tuple[str, int]]:
    """Slips of one letter of one child, and how often each was made of late, the gravest first.

    Of late is within the last two weeks, and in any case the last day on which the letter was written.
    """
    made: Counter[str] = Counter()
    for one in days:
        if one.day > today - LATELY_DAYS or one is days[-1]:
            made.update(one.slips)
    return sorted(made.items(), key=lambda item: (-gravity([item]), item[0]))


def gravity(made: Iterable[tuple[str, int]]) -> int:
    """How grave slips are together: the weight of each as often as it was made."""
    return sum(weight(code) * times for code, times in made)


def _made(days: Sequence[DaySlips]) -> dict[tuple[int, str], list[DaySlips]]:
    """For every slip of a child, all days of the letters in which it was made."""
    where: dict[tuple[int, str], set[str]] = {}
    by_letter: dict[tuple[int, str], list[DaySlips]] = {}
    for one in days:
        by_letter.setdefault((one.child, one.letter), []).append(one)
        for code in one.slips:
            where.setdefault((one.child, code), set()).add(one.letter)
    return {
        (child, code): [one for char in sorted(chars) for one in by_letter[child, char]]
        for (child, code), chars in where.items()
    }


def _lately(child: int, code: str, mine: Sequence[DaySlips], today: int) -> Lately:
    late = [one for one in mine if one.day > today - LATELY_DAYS]
    chars = sorted({one.letter for one in late if one.slips.get(code)})
    here = [one for one in late if one.letter in chars]
    return Lately(
        child,
        code,
        "".join(chars),
        sum(one.slips.get(code, 0) for one in here),
        sum(one.alone for one in here),
    )


def _gravest(found: Iterable[Lately]) -> list[Lately]:
    return sorted(found, key=lambda one: (-weight(one.code), -one.slips, one.child, one.code))


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
