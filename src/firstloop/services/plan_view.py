"""The plan of a class's term as it is shown: week by week, on the line."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.costs import LONG_AGO, gaps, ready
from firstloop.core.planning.plan import Came, Lesson, Plan, is_open
from firstloop.core.planning.recall import recalls
from firstloop.core.planning.term import WEEK, LessonKind, Term
from firstloop.core.progress.weeks import monday
from firstloop.formats.plan_json import PlanDocument, Wish, read_plan
from firstloop.services import word_bank
from firstloop.services.letters import LetterDrawing, drawing
from firstloop.services.plan_orders import TOPICS, confused, families_of
from firstloop.services.word_lists import drawn_text
from firstloop.store import days as day_store
from firstloop.store import plans as store
from firstloop.store.classes import get_class
from firstloop.store.errors import NotFoundError
from firstloop.store.styles import style_of_class
from firstloop.text import plan as words
from firstloop.text import say

_RECALL_CHILDREN = 2  # who wrote a letter, for it to count as recalled by the class


@dataclass(frozen=True)
class Item:
    """A letter, or a kind of join by an example, as the class writes it."""

    text: str
    name: str
    drawing: LetterDrawing


@dataclass(frozen=True)
class LessonLine:
    """A lesson in the term: what is new, what is recalled, and what came of it.

    ``title`` says in words what it holds, ``shown`` what was shown once that was told. ``can_change`` is
    False of what is over or locked.
    """

    key: int
    day: date
    minutes: int
    kind: LessonKind
    title: str
    new: list[str]
    recall: list[str]
    locked: bool
    came: Came
    shown: list[str] | None
    can_change: bool


@dataclass(frozen=True)
class PlanWeek:
    """A week of the term; ``words`` of the bank can be written by its end, ``holiday`` is what it is."""

    monday: date
    holiday: str
    lessons: list[LessonLine]
    words: int


@dataclass(frozen=True)
class ToTell:
    """A lesson that is over with letters that nobody has written, in words; ``shown`` are its others."""

    key: int
    day: date
    letters: list[str]
    shown: list[str]
    whole: bool
    says: str


@dataclass(frozen=True)
class HolidayView:
    """Days without lessons."""

    first: date
    last: date
    name: str


@dataclass(frozen=True)
class TermView:
    """The days of a term, and what is to be taught in it."""

    name: str
    first: date
    last: date
    minutes: list[int]
    holidays: list[HolidayView]
    scheme: str
    topics: list[str]
    known: list[str]


@dataclass(frozen=True)
class PlanView:
    """A class's term, week by week.

    ``number`` grows with every change: whoever changes the plan sends the one she saw. ``said`` is what
    moved in the latest step, ``next_key`` the first lesson that is not over, ``close`` which look-alikes
    are new too soon after one another.
    """

    class_id: int
    class_name: str
    number: int
    term: TermView
    order: str
    share: list[float]
    weeks: list[PlanWeek]
    items: list[Item]
    next_key: int | None
    left: list[str]
    left_says: str
    close: list[str]
    to_tell: list[ToTell]
    said: list[str]
    can_undo: bool
    lessons: int


def document_of(session: Session, class_id: int) -> tuple[PlanDocument, int]:
    """The plan of a class as it is, and its number.

    Raises
    ------
    NotFoundError
        If there is no such class, or it has no plan.
    """
    get_class(session, class_id)
    step = store.present(session, class_id)
    document = None if step is None else read_plan(step.document)
    if step is None or document is None or not document.plan.lessons:
        raise NotFoundError("plan of class", class_id)
    return document, step.number


def has_plan(session: Session, class_id: int) -> bool:
    """Whether a class has a plan that was not put away.

    Raises
    ------
    NotFoundError
    """
    get_class(session, class_id)
    step = store.present(session, class_id)
    return step is not None and bool(step.document["lessons"])


def view(session: Session, class_id: int, on: date) -> PlanView | None:
    """A class's term; None where it has no plan.

    Raises
    ------
    NotFoundError
    """
    if not has_plan(session, class_id):
        return None
    school_class = get_class(session, class_id)
    step = store.present(session, class_id)
    assert step is not None
    document = read_plan(step.document)
    plan, wish, today = document.plan, document.wish, on.toordinal()
    ahead = plan.next_from(today)
    style = style_of_class(session, class_id)
    family = family_of(session, class_id, wish, style)
    recalled = recall_rows(session, class_id, document, family, style, today)
    first = monday(min(wish.term.first, plan.lessons[0].day))
    mondays = list(range(first, max(wish.term.last, plan.lessons[-1].day) + 1, WEEK))
    counts = _words_by(session, document, [day + WEEK - 1 for day in mondays])
    return PlanView(
        class_id=class_id,
        class_name=school_class.name,
        number=step.number,
        term=_term_view(wish),
        order=wish.order,
        share=list(wish.share),
        weeks=[
            _week(day, count, plan, wish.term, recalled, today)
            for day, count in zip(mondays, counts, strict=True)
        ],
        items=_items(plan, recalled, style),
        next_key=None if ahead is None else ahead.key,
        left=list(plan.left),
        left_says=words.left_said(plan.left),
        close=_close(plan, style, today),
        to_tell=to_tell(session, class_id, plan, today),
        said=list(step.said),
        can_undo=store.can_undo(session, class_id),
        lessons=len(plan.lessons),
    )


def family_of(session: Session, class_id: int, wish: Wish, style: HouseStyle) -> dict[str, str]:
    """Family of everything that is taught in a term or was before."""
    whole = replace(wish, alphabets=TOPICS, known=())
    return {char: one.key for one in families_of(session, class_id, whole, style) for char in one.chars}


def recall_rows(
    session: Session,
    class_id: int,
    document: PlanDocument,
    family: Mapping[str, str],
    style: HouseStyle,
    today: int,
) -> dict[int, str]:
    """What is recalled in each lesson: really, of those that are over; likely, of those to come."""
    plan = document.plan
    if not plan.lessons:
        return {}
    first, last = (date.fromordinal(plan.lessons[i].day) for i in (0, -1))
    written = store.written_letters(session, class_id, first, last)
    really = {}
    for one in plan.lessons:
        day = written.get(date.fromordinal(one.day))
        if one.day < today and day is not None:
            often = [char for char, count in day.items() if count >= _RECALL_CHILDREN]
            really[one.key] = "".join(sorted(set(often) - set(one.taught)))
    letters = {char: key for char, key in family.items() if len(char) == 1}
    return recalls(
        plan,
        letters,
        lambda a, b: alike(a, b, style),
        [char for char in document.wish.known if len(char) == 1],
        really,
    )


def alike(one: str, other: str, style: HouseStyle) -> bool:
    """Whether two things to teach are letters that are easily taken for one another."""
    return len(one) == len(other) == 1 and are_alike(one, other, style)


def item(text: str, style: HouseStyle) -> Item:
    """A letter, or an example of a kind of join, to be shown."""
    if len(text) == 1:
        return Item(text, text, drawing(letter(text, style)))
    return Item(text, say(f"plan.join.{text}"), drawn_text(JOIN_EXAMPLES[text], style))


JOIN_EXAMPLES = {"into-low": "in", "into-tall": "al", "into-round": "ad", "from-mid": "on"}
"""Two letters whose join is of a kind."""


def _items(plan: Plan, recalled: Mapping[int, str], style: HouseStyle) -> list[Item]:
    texts = [
        *(char for one in plan.lessons for char in (*one.new, *one.taught)),
        *plan.left,
        *"".join(recalled.values()),
    ]
    return [item(text, style) for text in dict.fromkeys(texts)]


def _term_view(wish: Wish) -> TermView:
    term = wish.term
    return TermView(
        name=wish.name,
        first=date.fromordinal(term.first),
        last=date.fromordinal(term.last),
        minutes=list(term.minutes),
        holidays=[
            HolidayView(date.fromordinal(one.first), date.fromordinal(one.last), one.name)
            for one in term.holidays
        ],
        scheme=wish.scheme,
        topics=list(wish.alphabets),
        known=list(wish.known),
    )


def title_of(lesson: Lesson, last: bool = False) -> str:
    """What a lesson holds, in words."""
    if lesson.taught or lesson.new:
        return say("plan.lesson.new", letters=words.listed(lesson.taught or lesson.new))
    if lesson.kind is LessonKind.RECALL:
        return say("plan.lesson.recall-break" if last else "plan.lesson.recall")
    return say(f"plan.lesson.{'free' if lesson.kind is LessonKind.NEW else lesson.kind}")


def _week(
    begins: int, count: int, plan: Plan, term: Term, recalled: Mapping[int, str], today: int
) -> PlanWeek:
    mine = [one for one in plan.lessons if begins <= one.day < begins + WEEK]
    off = next((o.name for o in term.holidays if o.first < begins + WEEK and o.last >= begins), "")
    lines = [
        LessonLine(
            key=one.key,
            day=date.fromordinal(one.day),
            minutes=one.minutes,
            kind=one.kind,
            title=title_of(one, one is plan.lessons[-1]),
            new=list(one.new),
            recall=list(recalled.get(one.key, "")),
            locked=one.locked,
            came=one.came,
            shown=None if one.shown is None else list(one.shown),
            can_change=is_open(one, today),
        )
        for one in mine
    ]
    return PlanWeek(date.fromordinal(begins), off, lines, count)


def _words_by(session: Session, document: PlanDocument, days: list[int]) -> list[int]:
    """How many words of the bank can be written by the end of each day."""
    taught = {**dict.fromkeys(document.wish.known, LONG_AGO), **document.plan.days}
    return ready((word.letters for word in word_bank.present(session)), taught, days)


def _close(plan: Plan, style: HouseStyle, today: int) -> list[str]:
    """Look-alikes that are new too soon after one another, where one of them is still to come."""
    open_days = {one.day for one in plan.lessons if is_open(one, today)}
    found = gaps(plan.days, lambda one, other: confused(one, other, style))
    days = plan.days
    return words.close_said(one for one in found if {days[one[0]], days[one[1]]} & open_days)


def to_tell(session: Session, class_id: int, plan: Plan, today: int) -> list[ToTell]:
    """Lessons that are over with letters that nobody has written, where the class writes here at all."""
    written = {char for _, char in day_store.first_and_last_alone(session, class_id)}
    return [_asked(*one) for one in plan.unwritten(today, written)] if written else []


def _asked(lesson: Lesson, missing: tuple[str, ...]) -> ToTell:
    when, letters = words.weekday(lesson.day), words.listed(missing)
    rest = [char for char in lesson.new if char not in missing]
    says = say("plan.not-written", day=when, letters=letters, count=len(missing))
    return ToTell(lesson.key, date.fromordinal(lesson.day), list(missing), rest, not rest, says)
