"""The story of one child, compared only with the child's own past."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence, Set
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.progress.evidence import Aspect, Day, credits_of
from firstloop.core.progress.habits import Course, HabitOf, habits_of
from firstloop.core.progress.mastery import State, standing
from firstloop.core.progress.slips import needs, seen_lately
from firstloop.core.progress.steps import Kind, NextStep, next_steps
from firstloop.core.progress.trends import (
    MEASURES,
    TURN_WORTH,
    Measure,
    Turn,
    change,
    is_better,
    shares,
    story_points,
    turning_points,
)
from firstloop.core.progress.weeks import monday
from firstloop.services.children import ChildView, NoteView, child_view, note_view
from firstloop.services.class_map import MONTH_DAYS, Signs, day_slips, signs
from firstloop.services.evidence import day_of
from firstloop.services.row_views import checkers_best
from firstloop.services.today import due_now, recall
from firstloop.store import days as store
from firstloop.store import written as written_store
from firstloop.store.classes import get_child
from firstloop.store.days import Cell, DayRow, Shown
from firstloop.store.rows import find_rows
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, LetterDay
from firstloop.text import home, progress, say

_ROWS_OF_PICKS = 12
_WATCH_MOST = 3
_POINTS = 40  # points of a stroke; enough for a letter drawn small


@dataclass(frozen=True)
class InkDrawing:
    """A written letter, small: path data in hundredths of the middle band, y down from its base line."""

    row_id: int
    position: int
    day: date
    paths: list[str]
    bounds: list[float]


@dataclass(frozen=True)
class LetterStory:
    """A letter of a child: how it stands and why, and the first and the latest of it."""

    letter: str
    family: str
    state: State
    why: str
    sureness: str
    due: bool
    first: InkDrawing | None
    latest: InkDrawing | None


@dataclass(frozen=True)
class WeekShare:
    """How much of a week's letters was secure, with the interval of the true share (8 in 10)."""

    monday: date
    share: float
    low: float
    high: float
    letters: int


@dataclass(frozen=True)
class TurnView:
    """A week in which something changed, and from what to what."""

    day: date
    before: float
    after: float
    better: bool
    words: str


@dataclass(frozen=True)
class HeadingStory:
    """One heading over the weeks."""

    aspect: Aspect
    name: str
    weeks: list[WeekShare]
    turns: list[TurnView]


@dataclass(frozen=True)
class MeasurePoint:
    """A measure on a day: the middle value of that day's letters."""

    day: date
    value: float


@dataclass(frozen=True)
class MeasureStory:
    """A measure over time; ``latest`` is its last value as it is said.

    ``change`` is what can be claimed of it, empty where nothing can; ``turned`` is the day of a change at one
    point. ``signed``: it has a right value of 0, on either side of which is wrong.
    """

    key: str
    name: str
    signed: bool
    points: list[MeasurePoint]
    latest: str
    change: str
    better: bool
    turned: date | None


@dataclass(frozen=True)
class NextStepView:
    """One thing to do next, in words for the teacher and for the parents."""

    kind: Kind
    letters: str
    words: str
    at_home: str


@dataclass(frozen=True)
class HabitView:
    """A slip over the letters in which it is made, and what became of it."""

    code: str
    letters: str
    course: Course
    since: date | None
    words: str


@dataclass(frozen=True)
class Picks:
    """In how many of the latest rows the child picked the letter that the checker liked best."""

    same: int
    rows: int


@dataclass(frozen=True)
class Story:
    """One child over time; ``watch_for`` is what was seen where too little is written yet to claim it."""

    child: ChildView
    class_name: str
    caution: str
    since: date | None
    letters: list[LetterStory]
    headings: list[HeadingStory]
    measures: list[MeasureStory]
    next_steps: list[NextStepView]
    habits: list[HabitView]
    watch_for: list[str]
    picks: Picks
    notes: list[NoteView]


def story(session: Session, child_id: int, on: date) -> Story:
    """Everything about one child up to a day.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    kept = store.days(session, LetterDay.child_id == child_id, LetterDay.day <= on)
    by_letter: dict[str, list[DayRow]] = {}
    for one in kept:
        by_letter.setdefault(one.letter, []).append(one)
    here = signs(session, child.school_class, set(by_letter))
    history = {char: [day_of(one) for one in mine] for char, mine in by_letter.items()}
    every = sorted((day for days in history.values() for day in days), key=lambda day: day.day)
    begin = monday(min((one.day for one in every), default=on.toordinal()))
    in_words = written_store.letters_in_words(session, on, child_id=child_id)
    letters = _letters(
        session, by_letter, history, here, on, {char: last for (_, char), last in in_words.items()}
    )
    habits = habits_of({char: history[char] for char in sorted(history)})
    return Story(
        child=child_view(child),
        class_name=child.school_class.name,
        caution=child.caution,
        since=date.fromordinal(begin) if kept else None,
        letters=letters,
        headings=[_heading(aspect, every, begin) for aspect in Aspect],
        measures=_measures(session, child_id, kept, on),
        next_steps=[
            NextStepView(one.kind, one.letters, progress.step(one), home.step(one))
            for one in child_steps(child, by_letter, habits_got_over(habits), here, on)
        ],
        habits=[_habit(one) for one in habits],
        watch_for=[progress.watch_for(one) for one in seen_lately(day_slips(kept), on.toordinal())][
            :_WATCH_MOST
        ],
        picks=_picks(session, child_id),
        notes=[note_view(one) for one in reversed(child.notes)],
    )


def _letters(
    session: Session,
    by_letter: Mapping[str, Sequence[DayRow]],
    history: Mapping[str, Sequence[Day]],
    here: Signs,
    on: date,
    in_words: Mapping[str, date],
) -> list[LetterStory]:
    drawn = _drawings(session, by_letter)
    out = []
    for family in here.families:
        for char in family.letters:
            mine = by_letter.get(char, [])
            found = standing(history.get(char, []), Aspect.ALL)
            with_ink = [one.shown_id for one in mine if one.shown_id is not None and one.alone]
            out.append(
                LetterStory(
                    letter=char,
                    family=family.name,
                    state=found.state,
                    why=progress.why(found, in_words.get(char)),
                    sureness=progress.sureness(found) if found.letters else "",
                    due=bool(mine and mine[-1].due and mine[-1].due <= on),
                    first=drawn.get(with_ink[0]) if with_ink else None,
                    latest=drawn.get(with_ink[-1]) if len(with_ink) > 1 else None,
                )
            )
    return out


def _drawings(session: Session, by_letter: Mapping[str, Sequence[DayRow]]) -> dict[int, InkDrawing]:
    """The first and the latest of every letter, by attempt."""
    wanted = []
    for mine in by_letter.values():
        with_ink = [one.shown_id for one in mine if one.shown_id is not None and one.alone]
        wanted += [with_ink[0], with_ink[-1]] if with_ink else []
    day = school_time(session).day
    return {one.attempt_id: ink_drawing(one, day(one.started_at)) for one in store.shown(session, wanted)}


def ink_drawing(one: Shown, day: date) -> InkDrawing:
    """A written letter as paths, with the day it was written on."""
    scale = 100 / (one.base_mm - one.mid_mm)
    paths, xs, ys = [], [], []
    for stroke in one.ink:
        every = max(1, len(stroke["x"]) // _POINTS)
        points = np.column_stack([[*stroke[key][:-1:every], stroke[key][-1]] for key in ("x", "y")])
        places = np.rint((points - (0.0, one.base_mm)) * scale).astype(int).tolist()
        paths.append("M " + " L ".join([f"{x} {y}" for x, y in places]))
        xs += [x for x, _ in places]
        ys += [y for _, y in places]
    return InkDrawing(one.row_id, one.position, day, paths, [min(xs), min(ys), max(xs), max(ys)])


def _heading(aspect: Aspect, every: Sequence[Day], begin: int) -> HeadingStory:
    credited = credits_of(every, aspect)
    turns = turning_points([day for day, _ in credited], [credit for _, credit in credited], TURN_WORTH)
    return HeadingStory(
        aspect=aspect,
        name=say(f"aspect.{aspect}"),
        weeks=[
            WeekShare(date.fromordinal(one.day), one.share, one.low, one.high, one.letters)
            for one in shares(credited, start=begin)
        ],
        turns=[
            TurnView(
                day=date.fromordinal(one.day),
                before=one.before,
                after=one.after,
                better=one.after > one.before,
                words=progress.turn(one),
            )
            for one in turns
        ],
    )


def _measures(session: Session, child_id: int, kept: Sequence[DayRow], on: date) -> list[MeasureStory]:
    """Each measure over time, of letters and of words."""
    every = [(one.day.toordinal(), one.letter, one.measures) for one in kept]
    every += [
        (day.toordinal(), text, measures)
        for day, text, measures in written_store.measures(session, child_id, on)
    ]
    return [_measure(measure, every) for measure in MEASURES.values()]


def _measure(measure: Measure, every: Sequence[tuple[int, str, Mapping[str, float]]]) -> MeasureStory:
    written = [(day, text, found[measure.key]) for day, text, found in every if measure.key in found]
    days, values = story_points(measure, written)
    found = change(days, values, measure.worth)
    return MeasureStory(
        key=measure.key,
        name=progress.measure_name(measure.key),
        signed=measure.signed,
        points=[
            MeasurePoint(date.fromordinal(day), round(value, 2))
            for day, value in zip(days, values, strict=True)
        ],
        latest=progress.measured(measure.key, values[-1]) if values else "",
        change="" if found is None else progress.change(measure.key, found),
        better=found is not None and is_better(measure, found),
        turned=date.fromordinal(found.day) if isinstance(found, Turn) else None,
    )


def child_steps(
    child: Child, by_letter: Mapping[str, Sequence[DayRow]], gone: Set[str], here: Signs, on: date
) -> list[NextStep]:
    """What to do next, from the last weeks in which each letter was written; `gone` are slips got over."""
    month = timedelta(days=MONTH_DAYS)
    lately = [one for mine in by_letter.values() for one in mine if one.day > mine[-1].day - month]
    needed = [one for one in needs(day_slips(lately), here.family, over_family=False) if one.code not in gone]
    latest = {char: mine[-1] for char, mine in by_letter.items()}
    cells = [
        Cell(child.id, one.letter, one.day, one.state_all, one.due, one.strength_days)
        for one in latest.values()
    ]
    due = recall(house_style(child.school_class), due_now(cells, here.family, on))
    slipping = [char for char in here.family if char in latest and latest[char].state_all == State.SLIPPING]
    return next_steps(needed, slipping, due)


def habits_got_over(habits: Iterable[HabitOf]) -> frozenset[str]:
    """Codes of slips that a child does not make any more."""
    return frozenset(one.code for one in habits if one.habit.course is Course.GONE)


def _habit(one: HabitOf) -> HabitView:
    since = one.habit.since
    return HabitView(
        code=one.code,
        letters=one.letters,
        course=one.habit.course,
        since=None if since is None else date.fromordinal(since),
        words=progress.habit(one.code, one.letters, one.habit),
    )


def _picks(session: Session, child_id: int) -> Picks:
    rows = find_rows(session, child_id=child_id, limit=_ROWS_OF_PICKS)
    both = [
        (picked, best)
        for row in rows
        if (best := checkers_best(row)) is not None
        and (picked := next((one.id for one in row.attempts if one.best), None)) is not None
    ]
    return Picks(same=sum(a == b for a, b in both), rows=len(both))
