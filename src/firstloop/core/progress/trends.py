"""What changes over the weeks, said only where the ink bears it out.

Two questions, each with a standard test: does a measure drift (the slope of Theil and Sen with its
confidence interval; Sen, 1968, "Estimates of the regression coefficient based on Kendall's tau"), and
did it change at one point (Pettitt, 1979, "A non-parametric approach to the change-point problem").
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp
from statistics import median

import numpy as np
import scipy  # its statistics are slow to load, and load themselves when first used
from scipy.special import betaincinv

from firstloop.core.curves import FloatArray

LEAST_POINTS = 8
LEAST_SPAN_DAYS = 14
CONFIDENCE = 0.99  # of the slope: ten measures are looked at, and chance should seldom speak
TURN_CHANCE = 0.01  # a turning point that chance would make more often than this is not told
TURN_WORTH = 0.2  # a turn of less than a fifth of the letters is not told
_DAYS_MOST = 120  # more days than this are looked at by the week
_TURN_EDGE = 3  # points on either side of a turning point
_NEARER = 0.85  # a drift is simpler: a step has to lie this much nearer to the values


@dataclass(frozen=True)
class Measure:
    """Something measured of every letter. What it is called stands in the catalogue.

    Parameters
    ----------
    unit : str
        ``mm``, ``deg``, ``%`` or ``xh/s``.
    worth : float
        A change smaller than this is not worth telling, in the unit.
    signed : bool
        Whether it has a right value of 0 on either side of which is wrong.
    more_is_better : bool
        Of one that has none: whether a child wants more of it.
    """

    key: str
    unit: str
    worth: float
    signed: bool = False
    more_is_better: bool = False


MEASURES: dict[str, Measure] = {
    one.key: one
    for one in (
        Measure("height", "%", 8.0, signed=True),
        Measure("place", "mm", 0.8, signed=True),
        Measure("slant", "deg", 4.0, signed=True),
        Measure("width", "%", 10.0, signed=True),
        Measure("form", "%", 1.5),
        Measure("spread", "%", 6.0),
        Measure("room", "mm", 1.2, signed=True),
        Measure("fingers", "%", 15.0, signed=True),
        Measure("speed", "xh/s", 0.4, more_is_better=True),
    )
}


@dataclass(frozen=True)
class Trend:
    """A steady change: slope per week with its interval, and where it went from and to."""

    per_week: float
    low: float
    high: float
    first: float
    last: float
    points: int


@dataclass(frozen=True)
class Turn:
    """A change at one point: the day number of the first value after it, and the medians on both sides."""

    day: int
    before: float
    after: float
    chance: float


def is_better(measure: Measure, found: Trend | Turn) -> bool:
    """Whether a change is one for the better."""
    then, now = (found.before, found.after) if isinstance(found, Turn) else (found.first, found.last)
    if measure.signed:
        return abs(now) < abs(then)
    return (now > then) is measure.more_is_better


def trend(days: Sequence[int], values: Sequence[float], worth: float) -> Trend | None:
    """A drift that is more than chance and worth telling; None where there is too little or nothing.

    Parameters
    ----------
    days : sequence of int
        Day numbers, never going back.
    values : sequence of float
        One value a point, in the unit of `worth`.
    """
    x, y = np.asarray(days, dtype=np.float64), np.asarray(values, dtype=np.float64)
    if len(x) < LEAST_POINTS or x[-1] - x[0] < LEAST_SPAN_DAYS:
        return None
    slope, middle, low, high = (float(v) for v in scipy.stats.theilslopes(y, x, CONFIDENCE))
    first, last = middle + slope * x[0], middle + slope * x[-1]
    if low * high <= 0 or abs(last - first) < worth:
        return None
    return Trend(7 * slope, 7 * low, 7 * high, float(first), float(last), len(x))


def turning_point(days: Sequence[int], values: Sequence[float], worth: float) -> Turn | None:
    """The point at which a run of values changed, by Pettitt's test; None where chance may have made it.

    Values that are equal share their rank, and the statistic's variance is lessened by their number.
    """
    x, y = np.asarray(days, dtype=np.int64), np.asarray(values, dtype=np.float64)
    n = len(y)
    if n < LEAST_POINTS or x[-1] - x[0] < LEAST_SPAN_DAYS:
        return None
    u = np.abs(2 * np.cumsum(scipy.stats.rankdata(y)) - np.arange(1, n + 1) * (n + 1))
    u[: _TURN_EDGE - 1] = u[n - _TURN_EDGE :] = 0.0
    at = int(u.argmax())
    chance = min(1.0, 2 * exp(-6 * float(u[at]) ** 2 / (n**3 + n**2) / _ties(y)))
    before, after = float(y[: at + 1].mean()), float(y[at + 1 :].mean())
    if chance > TURN_CHANCE or abs(after - before) < worth:
        return None
    return Turn(int(x[at + 1]), before, after, chance)


def _ties(y: FloatArray) -> float:
    """Share of the ranks' variance that equal values leave; 1 without any, never quite 0."""
    n = len(y)
    _, counts = np.unique(y, return_counts=True)
    return max(1e-9, 1 - float((counts**3 - counts).sum()) / (n**3 - n))


def turning_points(
    days: Sequence[int], values: Sequence[float], worth: float, most: int = 3
) -> tuple[Turn, ...]:
    """Every turning point, by looking again on both sides of each, up to `most`, in order of date."""
    found: list[Turn] = []
    runs = [(0, len(values))]
    while runs and len(found) < most:
        a, b = runs.pop(0)
        turn = turning_point(days[a:b], values[a:b], worth)
        if turn is not None:
            cut = a + next(i for i, day in enumerate(days[a:b]) if day >= turn.day)
            found.append(turn)
            runs += [(a, cut), (cut, b)]
    return tuple(sorted(found, key=lambda turn: turn.day))


@dataclass(frozen=True)
class Share:
    """How much of a stretch was secure, with the interval in which the true share lies 8 times in 10."""

    day: int
    share: float
    low: float
    high: float
    letters: int


def shares(
    credited: Sequence[tuple[int, float]], days_each: int = 7, start: int | None = None
) -> list[Share]:
    """Share of credit by stretches of `days_each` days (weeks), counted from `start` or the first day."""
    if not credited:
        return []
    begin = credited[0][0] if start is None else start
    by_stretch: dict[int, list[float]] = {}
    for day, credit in credited:
        by_stretch.setdefault((day - begin) // days_each, []).append(credit)
    stretches = sorted(by_stretch)
    got = np.array([sum(by_stretch[one]) for one in stretches])
    count = np.array([len(by_stretch[one]) for one in stretches])
    low, high = (betaincinv(1 + got, 1 + count - got, q) for q in (0.1, 0.9))
    return [
        Share(begin + one * days_each, float(got[i] / count[i]), float(low[i]), float(high[i]), int(count[i]))
        for i, one in enumerate(stretches)
    ]


def medians(points: Sequence[tuple[int, float]], days_each: int = 1) -> tuple[list[int], list[float]]:
    """The middle value of every stretch of days, so that no busy day outweighs the others."""
    by_stretch: dict[int, list[float]] = {}
    for day, value in points:
        by_stretch.setdefault(day // days_each, []).append(value)
    stretches = sorted(by_stretch)
    return [one * days_each for one in stretches], [median(by_stretch[one]) for one in stretches]


def change(days: Sequence[int], values: Sequence[float], worth: float) -> Trend | Turn | None:
    """A drift, or a change at one point where that lies nearer to the values; None where there is neither.

    Parameters
    ----------
    days, values, worth
        As of :func:`trend`.
    """
    drift, turn = trend(days, values, worth), turning_point(days, values, worth)
    if drift is None or turn is None:
        return drift or turn
    x, y = np.asarray(days, dtype=np.float64), np.asarray(values, dtype=np.float64)
    along = drift.first + (drift.last - drift.first) * (x - x[0]) / (x[-1] - x[0])
    step = np.where(x < turn.day, turn.before, turn.after)
    return turn if np.abs(y - step).mean() < _NEARER * np.abs(y - along).mean() else drift


def within_letters(written: Sequence[tuple[int, str, float]]) -> list[tuple[int, float]]:
    """Values of several letters as if all were of one: each less what is usual for its letter.

    Without this a harder letter begun later would pass for a change. A letter seen on one day only
    says nothing of change and is left out.

    Parameters
    ----------
    written : sequence of (day number, letter, value)

    Returns
    -------
    list of (day number, value), in the order given.
    """
    of_letter: dict[str, dict[int, float]] = {}
    for day, char, value in written:
        of_letter.setdefault(char, {})[day] = value
    usual = {char: median(days.values()) for char, days in of_letter.items() if len(days) > 1}
    kept = [(day, char, value) for day, char, value in written if char in usual]
    middle = median([value for _, _, value in kept]) if kept else 0.0
    return [(day, value - usual[char] + middle) for day, char, value in kept]


def story_points(
    measure: Measure, written: Sequence[tuple[int, str, float]]
) -> tuple[list[int], list[float]]:
    """Days and middle values by which the story of a measure is told.

    What is right differs from letter to letter where 0 is not the right value, so such measures are told
    within letters. Over very many days each week has one value.

    Parameters
    ----------
    written : sequence of (day number, letter or word, value)
    """
    ordered = sorted(written)
    points = [(day, value) for day, _, value in ordered] if measure.signed else within_letters(ordered)
    days, values = medians(points)
    return medians(points, days_each=7) if len(days) > _DAYS_MOST else (days, values)
