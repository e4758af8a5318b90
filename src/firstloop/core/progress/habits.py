"""A slip over time: is it a habit, is it new, has it gone, and since when.

Letters before and after a day are compared by Fisher's exact test; the day is the one that divides
them best, and the chance is multiplied by the number of days that might have been chosen (Bonferroni).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import scipy  # its statistics are slow to load, and load themselves when first used

from firstloop.core.progress.evidence import Day

LEAST_SLIPS = 4
LEAST_AFTER = 4  # letters on either side of the dividing day
CHANCE = 0.05
STEADY_SHARE = 0.25  # a slip that never changed is a habit when it is made at least this often
GONE_SHARE = 0.10


class Course(StrEnum):
    """What became of a slip."""

    GONE = "gone"
    LESS = "less"
    STEADY = "steady"
    MORE = "more"
    NEW = "new"


@dataclass(frozen=True)
class Seen:
    """A day: in how many of the letters written alone the slip was made."""

    day: int
    slips: int
    letters: int


@dataclass(frozen=True)
class Habit:
    """A slip and what became of it.

    Parameters
    ----------
    since : int or None
        Day number of the first day after the change; None where nothing changed.
    before, after : tuple of int
        Slips and letters on either side; all of them in ``after`` where nothing changed.
    """

    course: Course
    since: int | None
    before: tuple[int, int]
    after: tuple[int, int]


def habit(days: Sequence[Seen]) -> Habit | None:
    """What became of a slip; None where it was made too seldom to be called one.

    Parameters
    ----------
    days : sequence of Seen
        In order of date, days without the slip among them.
    """
    slips, letters = sum(one.slips for one in days), sum(one.letters for one in days)
    if slips < LEAST_SLIPS:
        return None
    cuts: list[tuple[float, int]] = []
    for cut in range(1, len(days)):
        before, after = _counted(days[:cut]), _counted(days[cut:])
        if min(before[1], after[1]) >= LEAST_AFTER:
            table = np.array([[before[0], before[1] - before[0]], [after[0], after[1] - after[0]]])
            cuts.append((float(scipy.stats.fisher_exact(table).pvalue), cut))
    chance, cut = min(cuts, default=(1.0, 0))
    if not cuts or chance * len(cuts) > CHANCE:
        often = slips >= STEADY_SHARE * letters
        return Habit(Course.STEADY, None, (0, 0), (slips, letters)) if often else None
    before, after = _counted(days[:cut]), _counted(days[cut:])
    return Habit(_course(before, after), days[cut].day, before, after)


def _counted(days: Sequence[Seen]) -> tuple[int, int]:
    return sum(one.slips for one in days), sum(one.letters for one in days)


def _course(before: tuple[int, int], after: tuple[int, int]) -> Course:
    was, now = before[0] / before[1], after[0] / after[1]
    if now < was:
        return Course.GONE if now <= GONE_SHARE else Course.LESS
    return Course.NEW if was <= GONE_SHARE else Course.MORE


@dataclass(frozen=True)
class HabitOf:
    """A slip, the letters in which it was made more than once, and what became of it."""

    code: str
    letters: str
    habit: Habit


_TELLS_FIRST = (Course.NEW, Course.MORE, Course.STEADY, Course.LESS, Course.GONE)


def habits_of(history: Mapping[str, Sequence[Day]]) -> list[HabitOf]:
    """Every slip made often, over the letters in which it was made more than once; what holds now first.

    Parameters
    ----------
    history : mapping
        The days of each letter.
    """
    times: dict[str, Counter[str]] = {}
    for char, days in history.items():
        for one in days:
            for code, count in one.slips.items():
                times.setdefault(code, Counter())[char] += count
    out = []
    for code, by_letter in times.items():
        letters = sorted(char for char, count in by_letter.items() if count > 1)
        by_day: dict[int, tuple[int, int]] = {}
        for char in letters:
            for one in history[char]:
                if one.evidence:
                    slips, written = by_day.get(one.day, (0, 0))
                    by_day[one.day] = slips + one.slips.get(code, 0), written + len(one.evidence)
        found = habit([Seen(day, *by_day[day]) for day in sorted(by_day)])
        if found is not None:
            out.append(HabitOf(code, "".join(letters), found))
    return sorted(out, key=lambda one: (_TELLS_FIRST.index(one.habit.course), one.code))
