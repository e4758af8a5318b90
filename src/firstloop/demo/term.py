"""The demo school's term: planned before it began, then lived. One lesson fell out with the snow, one was
cut short, and the plan followed.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import lru_cache

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.families import BY_MOVEMENT, group
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.planning.changes import tell
from firstloop.core.planning.lesson import PartKind, moment_key
from firstloop.core.planning.plan import Lesson, Plan, empty
from firstloop.core.planning.recall import recalls
from firstloop.core.planning.term import Holiday, Term, slots
from firstloop.core.words.joins import JoinKind
from firstloop.demo import school
from firstloop.demo.hands import CLOCK, LESSON_AT, first_monday, lesson_day
from firstloop.formats.plan_json import PlanDocument, Wish, write_plan
from firstloop.services import held_lessons, plans
from firstloop.services.lessons import PartDone
from firstloop.services.plan_view import document_of
from firstloop.store import plans as store
from firstloop.text import say

MINUTES = 15
LESSON_DAYS = (1, 3)
_JOINED_DAY = 2
_AFTER_WEEKS = 3  # of the term that are still to come, the holidays with them
_RECALLED_MOST = 3
_SEVERAL = 4  # children
_TOLD_AFTER = timedelta(hours=6)
_PART = timedelta(minutes=3)
_RUN_FROM = 11  # from this week on the teacher ran the lessons on the board

# Tuesdays and Thursdays: straight drops, up-and-overs, scoops, rounds, slopes and one-offs in turn, then
# capitals; a dash is a lesson for recall, or one kept free
_SCRIPT = (
    "l i", "t j", "r n", "m h", "bp uy", "co -", "- ad", "g q", "v w", "x z", "kf e", "s -", "CO G", "Q -",
)  # fmt: skip
MISSED = (9, 1)  # snow
CUT_SHORT = {(11, 1): "k"}  # what was shown


@dataclass(frozen=True)
class LivedLesson:
    """What a lesson really held: week (from 1), day of it, new letters, and letters that were recalled."""

    week: int
    weekday: int
    new: str
    recall: str


def _term(today: date, days: tuple[int, ...]) -> Term:
    monday = first_monday(today)
    half_term = monday + timedelta(weeks=school.HALF_TERM_AFTER)
    last = monday + timedelta(weeks=school.WEEKS + _AFTER_WEEKS, days=4)
    return Term(
        monday.toordinal(),
        last.toordinal(),
        tuple(MINUTES if day in days else 0 for day in range(7)),
        (Holiday(half_term.toordinal(), (half_term + timedelta(days=4)).toordinal(), say("demo.half-term")),),
    )


def _planned(today: date) -> PlanDocument:
    """The plan of the class as its teacher made it before the term."""
    term = _term(today, LESSON_DAYS)
    held = {
        lesson_day(today, week, weekday).toordinal(): letters.strip("-")
        for week, pair in enumerate(_SCRIPT, start=1)
        for weekday, letters in zip(LESSON_DAYS, pair.split(), strict=True)
    }
    made = empty(slots(term))
    lessons = tuple(one.holding(tuple(held.get(one.day, ""))) for one in made.lessons)
    wish = Wish(
        say("plan.term-name", season=say("plan.season.autumn")), term, BY_MOVEMENT.key, ("lower case",)
    )
    return PlanDocument(wish, Plan(lessons))


def _joined_plan(today: date) -> PlanDocument:
    """The plan of the group that joins: a letter a week, then kinds of joins."""
    term = _term(today, (_JOINED_DAY,))
    made = empty(slots(term))
    new = [*((char,) for char in school.JOINED_PLAN), (str(JoinKind.INTO_ROUND),)]
    lessons = tuple(one.holding(new[i]) if i < len(new) else one for i, one in enumerate(made.lessons))
    wish = Wish(
        say("plan.term-name", season=say("plan.season.autumn")),
        term,
        BY_MOVEMENT.key,
        ("lower case", "joins"),
    )
    left = [char for char in ALPHABETS["lower case"] if char not in school.JOINED_PLAN]
    return PlanDocument(replace(wish, known=tuple(left)), Plan(lessons))


def _shown(lesson: Lesson, at: tuple[int, int]) -> tuple[str, ...] | None:
    return None if at == MISSED else tuple(CUT_SHORT.get(at, "".join(lesson.new)))


def _places(today: date) -> dict[int, tuple[int, int]]:
    """Week and weekday of every lesson that is over when the demo is made, by its day."""
    return {
        lesson_day(today, week, weekday).toordinal(): (week, weekday)
        for week in range(1, school.WEEKS + 1)
        for weekday in LESSON_DAYS
    }


@lru_cache(maxsize=4)
def lived(today: date) -> tuple[LivedLesson, ...]:
    """Every lesson that was held, in order; what was recalled is what was due by then."""
    plan, places = _planned(today).plan, _places(today)
    for day, at in places.items():
        lesson = next(one for one in plan.lessons if one.day == day)
        plan = tell(plan, lesson.key, _shown(lesson, at), day).plan
    letters = [plain(char) for char in ALPHABETS["lower case"]]
    family = {one.char: family.family.key for family in group(letters, BY_MOVEMENT) for one in family.members}
    rows = recalls(plan, family, lambda a, b: are_alike(a, b, DEFAULT_STYLE), hard=_hard())
    return tuple(
        LivedLesson(*places[one.day], "".join(one.taught), rows[one.key][:_RECALLED_MOST])
        for one in plan.lessons
        if one.day in places and not one.missed
    )


def _hard() -> frozenset[str]:
    """Letters that several of the children do not write well."""
    counts = Counter(char for habits in school.HABITS.values() for one in habits for char in one.letters)
    return frozenset(char for char, count in counts.items() if count >= _SEVERAL)


def keep(session: Session, class_id: int, joined_id: int, today: date, weeks: int) -> None:
    """Keep both plans, and tell of every lesson of so many weeks what was shown in it."""
    begun = datetime.combine(first_monday(today), LESSON_AT, tzinfo=CLOCK)
    for number, document in ((class_id, _planned(today)), (joined_id, _joined_plan(today))):
        store.keep(session, number, write_plan(document), [say("plan.step.made")], begun, None)
    session.commit()
    for day, (week, weekday) in _places(today).items():
        if week > weeks:
            break
        _tell(session, class_id, date.fromordinal(day), (week, weekday))


def _tell(session: Session, class_id: int, day: date, at: tuple[int, int]) -> None:
    document, number = document_of(session, class_id)
    lesson = next(one for one in document.plan.lessons if one.day == day.toordinal())
    begun = datetime.combine(day, LESSON_AT, tzinfo=CLOCK)
    shown = _shown(lesson, at)
    if shown is None or at[0] < _RUN_FROM:
        plans.tell(session, class_id, number, lesson.key, shown, day, begun + _TOLD_AFTER)
        return
    keys = {moment_key(PartKind.SHOW, char): char for char in lesson.new}
    parts = [PartKind.BEFORE, PartKind.RECALL, *keys, PartKind.WORDS, PartKind.BEST]
    done = [
        PartDone(part, begun + i * _PART, part in keys and keys[part] not in shown)
        for i, part in enumerate(parts)
    ]
    held_lessons.note(session, class_id, lesson.key, begun, done, True, day, begun + _PART * len(parts))
