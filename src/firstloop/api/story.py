"""The story of one child, compared only with the child's own past."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence, Set
from datetime import date, timedelta

import numpy as np
from sqlalchemy.orm import Session

from firstloop.api.looking import checkers_best
from firstloop.api.overtime import MONTH_DAYS, Signs, signs
from firstloop.api.settling import day_of, settle_all
from firstloop.api.story_schemas import (
    HabitOut,
    HeadingStoryOut,
    InkDrawing,
    LetterStoryOut,
    MeasureStoryOut,
    NoteOut,
    PicksOut,
    PointOut,
    StepOut,
    StoryOut,
    TurnOut,
    WeekShareOut,
)
from firstloop.api.today import needs, recall
from firstloop.api.writing import child_out
from firstloop.core.check.plainly import slip_name, to_teach
from firstloop.core.progress.evidence import Aspect, Day, credits_of
from firstloop.core.progress.habits import Habit, Seen, habit
from firstloop.core.progress.mastery import standing
from firstloop.core.progress.steps import Kind, NextStep, next_steps
from firstloop.core.progress.trends import (
    MEASURES,
    Measure,
    Turn,
    change,
    medians,
    shares,
    told,
    turning_points,
    within_letters,
)
from firstloop.store import days as store
from firstloop.store import written as written_store
from firstloop.store.classes import get_child
from firstloop.store.days import Cell, DayRow, Shown
from firstloop.store.rows import find_rows
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, LetterDay

_TURN_WORTH = 0.2  # a turn of less than a fifth of the letters is not told
_ROWS_OF_PICKS = 12
_POINTS = 40  # points of a stroke; enough for a letter drawn small
_DAYS_MOST = 120  # more days than this are looked at by the week
_HEADING_NAMES = {"all": "All together", "direction": "Direction", "shape": "Shape", "size": "Size"}


def story(session: Session, child_id: int, on: date) -> StoryOut:
    """Everything about one child up to a day.

    Raises
    ------
    NotFoundError
    """
    settle_all(session)
    child = get_child(session, child_id)
    kept = store.days(session, LetterDay.child_id == child_id, LetterDay.day <= on)
    by_letter: dict[str, list[DayRow]] = {}
    for one in kept:
        by_letter.setdefault(one.letter, []).append(one)
    signs_here = signs(session, child.school_class, set(by_letter))
    history = {char: [day_of(one) for one in mine] for char, mine in by_letter.items()}
    every = sorted((day for days in history.values() for day in days), key=lambda day: day.day)
    begin = _monday(min((one.day for one in kept), default=on))
    letters = _letters(session, by_letter, history, signs_here, on)
    habits = _habits(kept)
    gone = {one.code for one in habits if one.course == "gone"}
    return StoryOut(
        child=child_out(child),
        class_name=child.school_class.name,
        caution=child.caution,
        since=begin if kept else None,
        letters=letters,
        headings=[_heading(aspect, every, begin) for aspect in Aspect],
        measures=_measures(session, child_id, kept, on),
        next_steps=_steps(child, by_letter, letters, gone, signs_here, on),
        habits=habits,
        picks=_picks(session, child_id),
        notes=[note_out(one) for one in reversed(child.notes)],
    )


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())


def _letters(
    session: Session,
    by_letter: Mapping[str, Sequence[DayRow]],
    history: Mapping[str, Sequence[Day]],
    signs_here: Signs,
    on: date,
) -> list[LetterStoryOut]:
    drawn = _drawings(session, by_letter)
    out = []
    for family in signs_here.families:
        for char in family.letters:
            mine = by_letter.get(char, [])
            found = standing(history.get(char, []), Aspect.ALL)
            with_ink = [one for one in mine if one.shown_id is not None and one.alone]
            out.append(
                LetterStoryOut.model_validate(
                    {
                        "letter": char,
                        "family": family.name,
                        "state": str(found.state),
                        "why": found.why,
                        "sureness": found.sureness if found.letters else "",
                        "due": bool(mine and mine[-1].due and mine[-1].due <= on),
                        "first": drawn.get(with_ink[0].shown_id or 0) if with_ink else None,
                        "latest": drawn.get(with_ink[-1].shown_id or 0) if len(with_ink) > 1 else None,
                    }
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
    return InkDrawing(
        row_id=one.row_id,
        position=one.position,
        day=day,
        paths=paths,
        bounds=[min(xs), min(ys), max(xs), max(ys)],
    )


def _heading(aspect: Aspect, every: Sequence[Day], begin: date) -> HeadingStoryOut:
    credited = credits_of(every, aspect)
    turns = turning_points([day for day, _ in credited], [credit for _, credit in credited], _TURN_WORTH)
    return HeadingStoryOut.model_validate(
        {
            "aspect": str(aspect),
            "name": _HEADING_NAMES[aspect],
            "weeks": [
                WeekShareOut(
                    monday=date.fromordinal(one.day),
                    share=one.share,
                    low=one.low,
                    high=one.high,
                    letters=one.letters,
                )
                for one in shares(credited, start=begin.toordinal())
            ],
            "turns": [
                TurnOut(
                    day=date.fromordinal(turn.day),
                    before=turn.before,
                    after=turn.after,
                    words=f"{'better' if turn.after > turn.before else 'less secure'} from this week: "
                    f"{turn.after:.0%} secure, {turn.before:.0%} before",
                )
                for turn in turns
            ],
        }
    )


def _measures(session: Session, child_id: int, kept: Sequence[DayRow], on: date) -> list[MeasureStoryOut]:
    """Each measure over time, of letters and of words."""
    every = [(one.day, one.letter, one.measures) for one in kept]
    every += written_store.measures(session, child_id, on)
    return [_measure(measure, every) for measure in MEASURES.values()]


def _measure(measure: Measure, every: Sequence[tuple[date, str, Mapping[str, float]]]) -> MeasureStoryOut:
    written = sorted(
        (day.toordinal(), text, measures[measure.key])
        for day, text, measures in every
        if measure.key in measures
    )
    # what is right differs from letter to letter where 0 is not the right value
    points = [(day, value) for day, _, value in written] if measure.signed else within_letters(written)
    days, values = medians(points)
    if len(days) > _DAYS_MOST:
        days, values = medians(points, days_each=7)
    found = change(days, values, measure.worth)
    turned = date.fromordinal(found.day) if isinstance(found, Turn) else None
    return MeasureStoryOut(
        key=measure.key,
        name=measure.name,
        unit=measure.unit,
        points=[
            PointOut(day=date.fromordinal(day), value=round(value, 2))
            for day, value in zip(days, values, strict=True)
        ],
        words="" if found is None else told(measure, found, f"{turned:%-d %B}" if turned else ""),
        turned=turned,
    )


def _steps(
    child: Child,
    by_letter: Mapping[str, Sequence[DayRow]],
    letters: Sequence[LetterStoryOut],
    gone: Set[str],
    signs_here: Signs,
    on: date,
) -> list[StepOut]:
    """What to do next, from the last weeks in which each letter was written; `gone` are slips got over."""
    month = timedelta(days=MONTH_DAYS)
    lately = [one for mine in by_letter.values() for one in mine if one.day > mine[-1].day - month]
    needed = [one for one in needs(lately, signs_here, over_family=False) if one.code not in gone]
    cells = [
        Cell(child.id, one.letter, one.day, one.state_all, one.due, one.strength_days)
        for one in (mine[-1] for mine in by_letter.values())
    ]
    due = recall(house_style(child.school_class), cells, signs_here, on)
    slipping = [one.letter for one in letters if one.state == "slipping"]
    return [_step_out(step) for step in next_steps(needed, slipping, due)]


def _listed(chars: str) -> str:
    return chars if len(chars) == 1 else f"{', '.join(chars[:-1])} and {chars[-1]}"


def _step_out(step: NextStep) -> StepOut:
    if step.kind is Kind.TEACH and step.need is not None:
        need = step.need
        words = (
            f"Teach again {to_teach(need.code)}: {_listed(step.letters)} {slip_name(need.code)} "
            f"in {need.slips} of the last {need.letters}."
        )
    elif step.kind is Kind.BRING_BACK:
        words = f"Bring back {_listed(step.letters)}: secure before, slipping now."
    else:
        words = f"Recall {_listed(step.letters)}."
    return StepOut(kind=step.kind.value, letters=step.letters, words=words)


def _habits(kept: Sequence[DayRow]) -> list[HabitOut]:
    """Every slip made often, over the letters in which it was made more than once; what holds now first."""
    times: dict[str, Counter[str]] = {}
    for one in kept:
        for code, count in one.slips.items():
            times.setdefault(code, Counter())[one.letter] += count
    out = []
    for code, by_letter in times.items():
        letters = {char for char, count in by_letter.items() if count > 1}
        by_day: dict[date, tuple[int, int]] = {}
        for one in kept:
            if one.letter in letters and one.alone:
                slips, written = by_day.get(one.day, (0, 0))
                by_day[one.day] = slips + one.slips.get(code, 0), written + len(one.alone)
        found = habit([Seen(day.toordinal(), *by_day[day]) for day in sorted(by_day)])
        if found is not None:
            out.append(_habit_out(code, "".join(sorted(letters)), found))
    order = ("new", "more", "steady", "less", "gone")
    return sorted(out, key=lambda one: (order.index(one.course), one.code))


def _habit_out(code: str, letters: str, found: Habit) -> HabitOut:
    (was, of), (now, since_of) = found.before, found.after
    said = f"{slip_name(code)} in {_listed(letters)}"
    since = None if found.since is None else date.fromordinal(found.since)
    if since is None:
        words = f"{said}: {now} of {since_of}"
    else:
        words = f"{said}: {was} of {of} before {since:%-d %B}, {now} of {since_of} since"
    return HabitOut(code=code, letters=letters, course=found.course.value, since=since, words=words)


def _picks(session: Session, child_id: int) -> PicksOut:
    rows = find_rows(session, child_id=child_id, limit=_ROWS_OF_PICKS)
    both = [
        (picked, best)
        for row in rows
        if (best := checkers_best(row)) is not None
        and (picked := next((one.id for one in row.attempts if one.best), None)) is not None
    ]
    return PicksOut(same=sum(a == b for a, b in both), rows=len(both))


def note_out(note: object) -> NoteOut:
    """A note for the wire."""
    return NoteOut.model_validate(note, from_attributes=True)
