"""When the demo school's lessons are, and how each of its children writes."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import SimHand
from firstloop.core.simulate.text import LetterFault
from firstloop.demo import school
from firstloop.store.school import machine_zone

SEED = 20
LESSON_AT = time(9, 20)
CLOCK = ZoneInfo(machine_zone())  # the school stands where the demo is made


def first_monday(today: date) -> date:
    """Monday of the first week, so that the twelfth week of lessons is the one before or of `today`."""
    this_monday = today - timedelta(days=today.weekday())
    begun = today.weekday() >= 4  # both lessons of this week are over
    return this_monday - timedelta(weeks=school.WEEKS if begun else school.WEEKS + 1)


def lesson_day(today: date, week: int, weekday: int) -> date:
    """A day (Monday is 0) of a week of lessons; half-term is not counted."""
    weeks = week - 1 + (week > school.HALF_TERM_AFTER)
    return first_monday(today) + timedelta(weeks=weeks, days=weekday)


def lesson_at(today: date, week: int, weekday: int) -> datetime:
    """When the lesson on a day (Monday is 0) of a week of lessons begins."""
    return datetime.combine(lesson_day(today, week, weekday), LESSON_AT, tzinfo=CLOCK)


def side_of(child: str) -> str:
    """The hand a child writes with."""
    return "left" if child in school.LEFT_HANDED else "right"


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


@dataclass(frozen=True)
class Writing:
    """A letter that a child writes, in which week of the term, and whether it was taught just now."""

    child: str
    letter: str
    week: int
    is_new: bool = False
    style: HouseStyle = DEFAULT_STYLE


def slip_of(one: Writing, place: int, rng: np.random.Generator) -> LetterFault | None:
    """The fault of a letter at its place in a row: a habit of the child's, a slip anyone makes, or none."""
    script = one.style.script
    for habit in school.HABITS.get(one.child, ()):
        makes = one.letter in habit.letters and one.letter in FAULTS[habit.code].letters_in(script)
        if makes and rng.random() < habit.chance(one.week):
            return habit.code, habit.size(one.week, place)
    often = (school.SLIP_WHEN_NEW if one.is_new else school.SLIP_LATER) * school.STEADY.get(one.child, 1.0)
    if rng.random() < often:
        code, size = school.COMMON_SLIPS[rng.integers(len(school.COMMON_SLIPS))]
        if one.letter in FAULTS[code].letters_in(script):
            return code, size * rng.uniform(0.85, 1.3)
    return None
