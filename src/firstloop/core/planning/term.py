"""The days of a term, and what each of its lessons is kept for before any letter is dealt out.

Days are day numbers, as everywhere in the core.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

TERM_DAYS_MOST = 400
MINUTES_LEAST, MINUTES_MOST = 5, 90
BREAK_DAYS = 5  # a holiday shorter than this, weekends besides, is a day off
FREE_EVERY = 6
WEEK = 7


class TermError(ValueError):
    """Days that make no term; the message says why."""


class LessonKind(StrEnum):
    """What a lesson is for."""

    NEW = "new"
    RECALL = "recall"
    WORDS = "words"
    FREE = "free"


def weekday(day: int) -> int:
    """Day of the week, Monday being 0."""
    return (day - 1) % WEEK


@dataclass(frozen=True)
class Holiday:
    """Days without lessons, both ends included."""

    first: int
    last: int
    name: str = ""

    def __post_init__(self) -> None:
        if self.last < self.first:
            raise TermError("a holiday ends before it begins")


@dataclass(frozen=True)
class Term:
    """From when to when, on which days of the week for how many minutes, and when not.

    Parameters
    ----------
    minutes : tuple of 7 int
        Minutes of the lesson on each day of the week from Monday; 0 where there is none.

    Raises
    ------
    TermError
    """

    first: int
    last: int
    minutes: tuple[int, ...]
    holidays: tuple[Holiday, ...] = ()

    def __post_init__(self) -> None:
        if self.last < self.first:
            raise TermError("the term ends before it begins")
        if self.last - self.first >= TERM_DAYS_MOST:
            raise TermError(f"a term has at most {TERM_DAYS_MOST} days")
        if len(self.minutes) != WEEK or not any(self.minutes):
            raise TermError("no day of the week has a lesson")
        if any(one and not MINUTES_LEAST <= one <= MINUTES_MOST for one in self.minutes):
            raise TermError(f"a lesson has {MINUTES_LEAST} to {MINUTES_MOST} minutes")

    def is_off(self, day: int) -> bool:
        """Whether a day is within a holiday."""
        return any(one.first <= day <= one.last for one in self.holidays)

    @property
    def days(self) -> tuple[int, ...]:
        """Days on which there is a lesson."""
        return tuple(
            day
            for day in range(self.first, self.last + 1)
            if self.minutes[weekday(day)] and not self.is_off(day)
        )

    @property
    def breaks(self) -> tuple[Holiday, ...]:
        """Holidays long enough for letters to be forgotten; those that touch, or have only a weekend
        between them, are one."""
        out: list[Holiday] = []
        for one in sorted(self.holidays, key=lambda one: (one.first, one.last)):
            between = range(out[-1].last + 1, one.first) if out else range(0)
            if out and all(weekday(day) >= WEEK - 2 for day in between):
                out[-1] = Holiday(out[-1].first, max(out[-1].last, one.last), out[-1].name)
            else:
                out.append(one)
        return tuple(one for one in out if one.last - one.first + 1 >= BREAK_DAYS)

    def half(self, first: int) -> int:
        """A day in the middle of what comes from a day on: the last before a break, where there is one."""
        breaks = [one.first - 1 for one in self.breaks if one.first > first]
        return breaks[0] if breaks else (first + self.last) // 2


@dataclass(frozen=True)
class Slot:
    """A lesson of the term before it is known what it teaches."""

    day: int
    minutes: int
    kind: LessonKind


def slots(term: Term, some_known: bool = False) -> tuple[Slot, ...]:
    """Every lesson of a term with what it is kept for.

    The last lesson before a break and the first after it recall, so does the last of the term and, where
    letters were taught before, its first. Of every six lessons one is kept free: the last that does not
    recall.
    """
    days = term.days
    recall = {days[-1]} if len(days) > 1 else set()
    if some_known and len(days) > 1:
        recall.add(days[0])
    for one in term.breaks:
        recall.update([day for day in days if day < one.first][-1:])
        recall.update([day for day in days if day > one.last][:1])
    free = _free(days, recall)
    return tuple(
        Slot(
            day,
            term.minutes[weekday(day)],
            LessonKind.RECALL if day in recall else LessonKind.FREE if day in free else LessonKind.NEW,
        )
        for day in days
    )


def _free(days: tuple[int, ...], recall: Iterable[int]) -> set[int]:
    recalled = set(recall)
    sixes = [days[i : i + FREE_EVERY] for i in range(0, len(days) - FREE_EVERY + 1, FREE_EVERY)]
    return {day for six in sixes for day in [one for one in six if one not in recalled][-1:]}
