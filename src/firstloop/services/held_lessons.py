"""Lessons that are run: what was done of them when, and what came of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Heading, Verdict
from firstloop.core.planning.lesson import was_shown
from firstloop.core.planning.plan import Came, Lesson, Plan
from firstloop.core.progress.evidence import Aspect, from_token
from firstloop.core.progress.weeks import usual
from firstloop.services import plans
from firstloop.services.lessons import LessonPage, PartDone, lesson_of, page
from firstloop.services.plan_view import ToTell, document_of, has_plan, title_of, to_tell
from firstloop.store import days as day_store
from firstloop.store import plans as store
from firstloop.store.classes import get_class
from firstloop.store.tables import LetterDay
from firstloop.store.teaching_tables import HeldLesson
from firstloop.text import plan as words
from firstloop.text import say
from firstloop.text.findings import slip_name
from firstloop.text.progress import listed

_CAME_DAYS = 7


@dataclass(frozen=True)
class CameView:
    """What came of a lesson, in sentences."""

    key: int
    day: date
    title: str
    says: list[str]


@dataclass(frozen=True)
class LessonToday:
    """The lesson of a day, if there is one, and what came of the latest one that is over."""

    number: int
    next_key: int | None
    next_day: date | None
    today: LessonPage | None
    came: CameView | None
    to_tell: list[ToTell]


def note(
    session: Session,
    class_id: int,
    key: int,
    started_at: datetime,
    parts: Sequence[PartDone],
    finished: bool,
    on: date,
    at: datetime,
) -> LessonPage:
    """Note what was done of a lesson; once it is finished the plan follows what was shown.

    The whole note is sent each time, so that sending it again changes nothing.

    Raises
    ------
    NotFoundError, ChangeError, ConflictError
    """
    document, number = document_of(session, class_id)
    lesson = lesson_of(document, key)
    held = store.held(session, class_id, key)
    if held is None:
        held = HeldLesson(
            class_id=class_id, lesson=key, day=date.fromordinal(lesson.day), started_at=started_at
        )
        session.add(held)
    held.parts = [{"part": one.part, "at": one.at.isoformat(), "skipped": one.skipped} for one in parts]
    if finished and held.finished_at is None:
        held.finished_at = at
    session.flush()
    done = [(one.part, one.skipped) for one in parts]
    shown = tuple(char for char in lesson.new if was_shown(done, char))
    if finished and lesson.shown != shown:
        plans.tell(session, class_id, number, key, shown, on, at)
    session.commit()
    return page(session, class_id, key, on)


def today(session: Session, class_id: int, on: date) -> LessonToday | None:
    """Today's lesson and what came of the latest; None for a class without a plan.

    Raises
    ------
    NotFoundError
    """
    if not has_plan(session, class_id):
        return None
    document, number = document_of(session, class_id)
    plan, now = document.plan, on.toordinal()
    ahead = plan.next_from(now)
    mine = next((one for one in plan.lessons if one.day == now), None)
    return LessonToday(
        number=number,
        next_key=None if ahead is None else ahead.key,
        next_day=None if ahead is None else date.fromordinal(ahead.day),
        today=None if mine is None else page(session, class_id, mine.key, on),
        came=_came(session, class_id, plan, now),
        to_tell=to_tell(session, class_id, plan, now),
    )


def _came(session: Session, class_id: int, plan: Plan, now: int) -> CameView | None:
    """What came of the latest lesson with letters that is over, if that is not long ago."""
    over = [
        one
        for one in plan.lessons
        if now - _CAME_DAYS <= one.day <= now and one.new and (one.day < now or one.shown is not None)
    ]
    if not over:
        return None
    lesson = over[-1]
    day = date.fromordinal(lesson.day)
    return CameView(lesson.key, day, title_of(lesson), _came_says(session, class_id, lesson, day))


def _came_says(session: Session, class_id: int, lesson: Lesson, day: date) -> list[str]:
    if lesson.came is Came.MISSED:
        return [say("plan.missed", day=words.weekday(lesson.day))]
    letters = [char for char in lesson.taught if len(char) == 1]
    rows = day_store.days(session, LetterDay.letter.in_(letters), LetterDay.day == day, class_id=class_id)
    names = {child.id: child.first_name for child in get_class(session, class_id).children}
    says = []
    slips: dict[tuple[str, str], list[str]] = {}
    for char in letters:
        mine = [one for one in rows if one.letter == char and one.alone]
        if not mine:
            continue
        secure = sum(_stood(one.alone) is Verdict.SECURE for one in mine)
        says.append(say("plan.came.secure", letter=char, count=secure, of=len(mine)))
        for one in mine:
            for code in one.slips:
                if CODES[code].heading is Heading.DIRECTION:
                    slips.setdefault((code, char), []).append(names.get(one.child_id, ""))
    worst = sorted(slips.items(), key=lambda found: (-len(found[1]), found[0]))[:2]
    says += [
        say("plan.came.slip", children=listed(sorted(who)), slip=slip_name(code), letters=char)
        for (code, char), who in worst
    ]
    if lesson.not_shown:
        says.append(say("plan.came.moves", letters=words.listed(lesson.not_shown)))
    return says


def _stood(alone: Sequence[str]) -> Verdict:
    """How most of a day's letters stood."""
    return usual(Verdict(from_token(token).verdict(Aspect.ALL)) for token in alone)
