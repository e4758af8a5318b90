"""One letter of a child week by week: how most of it stood, and which slips are of late."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.grades import COUNTED_HEADINGS, Heading, Verdict
from firstloop.core.progress.evidence import Aspect, Evidence
from firstloop.core.progress.slips import weight

_DAYS = 7


def monday(day: int) -> int:
    """Day number of the Monday of a day's week (day 1 of the calendar was a Monday)."""
    return day - (day - 1) % _DAYS


def week_of(day: int, first: int) -> int:
    """Number of a day's week, counted from 1 for the week that `first` is in."""
    return (day - monday(first)) // _DAYS + 1


def usual(verdicts: Iterable[Verdict]) -> Verdict:
    """The verdict that describes most of a run.

    To fix from half of what was seen on, secure from two thirds on, else near; not seen where nothing was.

    Examples
    --------
    >>> usual([Verdict.SECURE, Verdict.SECURE, Verdict.FIX])
    <Verdict.SECURE: 'secure'>
    """
    seen = [one for one in verdicts if one is not Verdict.NOT_SEEN]
    if not seen:
        return Verdict.NOT_SEEN
    fix = sum(one in (Verdict.FIX, Verdict.UNREADABLE) for one in seen)
    if 2 * fix >= len(seen):
        return Verdict.FIX
    return Verdict.SECURE if 3 * seen.count(Verdict.SECURE) >= 2 * len(seen) else Verdict.NEAR


@dataclass(frozen=True)
class Week:
    """A week's evidence under one heading, counted by verdict.

    ``week`` counts from 1, ``monday`` is the day number it begins on.
    """

    week: int
    monday: int
    heading: Heading
    secure: int
    near: int
    fix: int
    usual: Verdict


def weeks(seen: Sequence[tuple[int, Evidence]], first: int) -> list[Week]:
    """Evidence by week and heading, in order.

    Parameters
    ----------
    seen : sequence of (day number, Evidence)
    first : int
        Day number of the day from which weeks are counted.
    """
    by_week: dict[int, list[Evidence]] = {}
    for day, one in seen:
        by_week.setdefault(week_of(day, first), []).append(one)
    out = []
    for week, mine in sorted(by_week.items()):
        for heading in COUNTED_HEADINGS:
            verdicts = [Verdict(one.verdict(Aspect(heading))) for one in mine]
            counts = Counter(verdicts)
            out.append(
                Week(
                    week=week,
                    monday=monday(first) + _DAYS * (week - 1),
                    heading=heading,
                    secure=counts[Verdict.SECURE],
                    near=counts[Verdict.NEAR],
                    fix=counts[Verdict.FIX],
                    usual=usual(verdicts),
                )
            )
    return out


@dataclass(frozen=True)
class SlipCount:
    """How often a slip was made in the first half of the rows, and of late."""

    code: str
    early: int
    late: int


def halves(count: int) -> tuple[int, int]:
    """How many of so many rows are early, and how many are of late."""
    early = (count + 1) // 2
    return early, count - early


def slip_counts(rows: Sequence[dict[str, int]]) -> list[SlipCount]:
    """Slips in the first and the second half of the rows, what matters most of late first (weight by count).

    Parameters
    ----------
    rows : sequence of dict
        For each row, oldest first, in how many of its letters each slip was made.
    """
    half, _ = halves(len(rows))
    early, late = Counter[str](), Counter[str]()
    for place, row in enumerate(rows):
        (early if place < half else late).update(row)
    codes = sorted(
        set(early) | set(late),
        key=lambda code: (-weight(code) * late[code], -weight(code) * early[code], code),
    )
    return [SlipCount(code, early[code], late[code]) for code in codes]
