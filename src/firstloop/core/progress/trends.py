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
from scipy.special import betaincinv
from scipy.stats import rankdata, theilslopes

from firstloop.core.curves import FloatArray

LEAST_POINTS = 8
LEAST_SPAN_DAYS = 14
CONFIDENCE = 0.99  # of the slope: ten measures are looked at, and chance should seldom speak
TURN_CHANCE = 0.01  # a turning point that chance would make more often than this is not told
_TURN_EDGE = 3  # points on either side of a turning point


@dataclass(frozen=True)
class Measure:
    """Something measured of every letter.

    Parameters
    ----------
    unit : str
        ``mm``, ``deg``, ``%`` or ``xh/s``.
    worth : float
        A change smaller than this is not worth telling, in the unit.
    name, above, below, aim : str
        For people: what it is, what more and less of it means, and where it should be.
    signed : bool
        Whether it has a right value of 0 on either side of which is wrong.
    """

    key: str
    unit: str
    worth: float
    name: str
    above: str
    below: str
    signed: bool = False


MEASURES: dict[str, Measure] = {
    one.key: one
    for one in (
        Measure("height", "%", 8.0, "height", "taller than the model", "shorter than the model", True),
        Measure("place", "mm", 0.8, "place on the line", "above the line", "below the line", True),
        Measure("slant", "deg", 4.0, "slant", "more forward", "more backward", True),
        Measure("width", "%", 10.0, "width", "wider than the model", "narrower than the model", True),
        Measure("form", "%", 1.5, "distance from the model's form", "further from it", "nearer to it"),
        Measure("spread", "%", 6.0, "spread of heights in a row", "more uneven", "more even"),
        Measure("speed", "xh/s", 0.4, "speed", "quicker", "slower"),
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
    slope, middle, low, high = (float(v) for v in theilslopes(y, x, CONFIDENCE))
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
    u = np.abs(2 * np.cumsum(rankdata(y)) - np.arange(1, n + 1) * (n + 1))
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


def told(measure: Measure, change: Trend) -> str:
    """A trend in words: "place on the line: 1.1 mm above the line, 0.5 mm of that at first"."""
    now, then = change.last, change.first
    if not measure.signed:
        return (
            f"{measure.name}: {measure.above if now > then else measure.below}, "
            f"{_number(now, measure)} now, {_number(then, measure)} at first"
        )
    side = measure.above if now > 0 else measure.below
    if abs(now) < measure.worth / 2:
        was = measure.above if then > 0 else measure.below
        return f"{measure.name}: as it should be now, {_number(abs(then), measure)} {was} at first"
    at_first = "right" if abs(then) < measure.worth / 2 else _number(abs(then), measure)
    if then * now < 0 and at_first != "right":
        at_first += f" {measure.above if then > 0 else measure.below}"
    return f"{measure.name}: {_number(abs(now), measure)} {side}, {at_first} at first"


def _number(value: float, measure: Measure) -> str:
    unit = {"%": " %", "deg": " degrees", "mm": " mm", "xh/s": " bands a second"}[measure.unit]
    digits = 1 if measure.unit in ("mm", "xh/s") else 0
    return f"{value:.{digits}f}{unit}"
