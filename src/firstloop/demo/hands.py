"""When the demo school's lessons are, and how each of its children writes."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta

import numpy as np

from firstloop.core.simulate.hand import SimHand
from firstloop.demo import school

SEED = 20
LESSON_AT = time(9, 20)


def first_monday(today: date) -> date:
    """Monday of the first week, so that the twelfth week is the one before or of `today`."""
    this_monday = today - timedelta(days=today.weekday())
    begun = today.weekday() >= 4  # both lessons of this week are over
    return this_monday - timedelta(weeks=school.WEEKS - 1 if begun else school.WEEKS)


def lesson_at(today: date, week: int, weekday: int) -> datetime:
    """When the lesson on a day (Monday is 0) of a week of the term begins."""
    day = first_monday(today) + timedelta(weeks=week - 1, days=weekday)
    return datetime.combine(day, LESSON_AT, tzinfo=UTC)


def hand_of(child: str, week: int, rng: np.random.Generator) -> SimHand:
    """A child's own hand, steadier as the term goes on."""
    own = np.random.default_rng([SEED, *child.encode()])
    base = SimHand(
        size=0.06,
        width=float(own.uniform(0.05, 0.09)),
        shift_xh=0.05,
        slant_deg=float(own.uniform(1.5, 3.0)),
        wobble_xh=float(own.uniform(0.024, 0.036)),
        tremor_xh=float(own.uniform(0.003, 0.006)),
        pace=float(own.uniform(0.5, 0.75)),
    )
    practice = 1.1 - 0.025 * week
    return base.steadier(school.STEADY.get(child, 1.0) * practice * rng.uniform(0.9, 1.1))
