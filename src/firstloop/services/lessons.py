"""One lesson of a plan on one page: parts with their minutes, whom to stand beside, what was done."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.heights import height_name
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.lesson import Content, LessonTimes, Part, PartKind, moments
from firstloop.core.planning.plan import Came, Lesson
from firstloop.core.planning.term import LessonKind
from firstloop.formats.plan_json import PlanDocument, write_plan
from firstloop.services.children import ChildView
from firstloop.services.lesson_content import PageChanges, lesson_pace, lesson_times
from firstloop.services.letters import LetterDrawing, SlipDrawing, letter_model, slip_drawings
from firstloop.services.plan_view import (
    JOIN_EXAMPLES,
    Item,
    document_of,
    item,
    title_of,
)
from firstloop.services.today import groups_now
from firstloop.services.word_lists import drawn_text
from firstloop.store import boards
from firstloop.store import plans as store
from firstloop.store.classes import get_class
from firstloop.store.errors import NotFoundError
from firstloop.store.styles import style_of_class
from firstloop.store.teaching_tables import HeldLesson
from firstloop.text import plan as words
from firstloop.text import say
from firstloop.text.progress import listed

_BESIDE_MOST = 3
_LONGEST = timedelta(hours=2)  # of a lesson that nobody ended


@dataclass(frozen=True)
class PartView:
    """A part of a lesson. ``needs_s`` is how long it really takes this class."""

    kind: PartKind
    title: str
    says: str
    minutes: int
    needs_s: float


@dataclass(frozen=True)
class MomentView:
    """Something a lesson that is run goes through; ``show`` is the place of what it is about, if anything."""

    key: str
    part: PartKind
    slip: bool
    title: str
    seconds: float
    show: int | None


@dataclass(frozen=True)
class ShowView:
    """Something new: how it is written, what is said meanwhile, and the slip to show beside it."""

    item: Item
    says: list[str]
    slip: SlipDrawing | None


@dataclass(frozen=True)
class BesideView:
    """Children to stand beside, and why."""

    children: list[ChildView]
    says: str


@dataclass(frozen=True)
class LessonWord:
    """A word of a lesson as the class writes it."""

    text: str
    drawing: LetterDrawing


@dataclass(frozen=True)
class PartDone:
    """A part gone through in a lesson that was run: since when, and whether it was skipped."""

    part: str
    at: datetime
    skipped: bool


@dataclass(frozen=True)
class RunView:
    """What was done of a lesson when; ``rows`` and ``words`` were written meanwhile, by so many children."""

    started_at: datetime
    finished_at: datetime | None
    parts: list[PartDone]
    rows: int
    words: int
    children: int


@dataclass(frozen=True)
class LessonPage:
    """A lesson on one page; ``over_by`` minutes it holds more than the lesson has.

    ``changed`` names what the teacher changed, ``run`` is None until it is begun.
    """

    class_id: int
    class_name: str
    number: int
    key: int
    day: date
    day_says: str
    minutes: int
    kind: LessonKind
    title: str
    came: Came
    new: list[str]
    shown: list[str] | None
    aim: str
    parts: list[PartView]
    over_by: int
    moments: list[MomentView]
    left_out: list[PartKind]
    cut_says: str
    pace_says: str
    show: list[ShowView]
    recall: list[Item]
    date_drawn: LessonWord | None
    words: list[LessonWord]
    sentence: LessonWord | None
    trace: int
    finish: int
    alone: int
    beside: list[BesideView]
    beside_note: str
    changed: list[str]
    can_change: bool
    run: RunView | None
    before_key: int | None
    after_key: int | None


def page(session: Session, class_id: int, key: int, on: date) -> LessonPage:
    """A lesson of a class's plan.

    Raises
    ------
    NotFoundError
    """
    document, number = document_of(session, class_id)
    lesson = lesson_of(document, key)
    school_class = get_class(session, class_id)
    style = style_of_class(session, class_id)
    changed = PageChanges(**document.pages.get(key, {}))
    own_pace = lesson_pace(session, school_class)
    made = lesson_times(session, school_class, document, lesson, style, changed, own_pace, on)
    content = made.content
    shown = [_show(session, class_id, text, style) for text in lesson.new]
    keys = [one.key for one in document.plan.lessons]
    at = keys.index(key)
    run = store.held(session, class_id, key)
    return LessonPage(
        class_id=class_id,
        class_name=school_class.name,
        number=number,
        key=key,
        day=date.fromordinal(lesson.day),
        day_says=words.weekday(lesson.day),
        minutes=lesson.minutes,
        kind=lesson.kind,
        title=title_of(lesson, at == len(keys) - 1),
        came=lesson.came,
        new=list(lesson.new),
        shown=None if lesson.shown is None else list(lesson.shown),
        aim=_aim(lesson, content, style) if changed.aim is None else changed.aim,
        parts=[_part(one, content) for one in made.parts],
        over_by=max(0, sum(one.minutes for one in made.parts) - lesson.minutes),
        left_out=[PartKind(one) for one in changed.without or ()],
        cut_says=words.cut_said(made.cuts),
        pace_says=say(
            "plan.pace.measured" if own_pace.row.is_measured else "plan.pace.usual",
            seconds=f"{own_pace.row.letter_s:.0f}",
        ),
        moments=_moments(made, lesson.new, shown),
        show=shown,
        recall=[item(char, style) for char in content.recall],
        date_drawn=_word(content.date, style),
        words=[LessonWord(text, drawn_text(text, style)) for text in content.words],
        sentence=_word(content.sentence, style),
        trace=content.trace,
        finish=content.finish,
        alone=content.alone,
        beside=_beside(session, class_id, lesson, content, on),
        beside_note=changed.beside or "",
        changed=[name for name, value in vars(changed).items() if value is not None],
        can_change=lesson.shown is None and lesson.day >= on.toordinal(),
        run=None if run is None else run_view(session, run),
        before_key=keys[at - 1] if at else None,
        after_key=keys[at + 1] if at + 1 < len(keys) else None,
    )


def run_view(session: Session, run: HeldLesson) -> RunView:
    """What was noted of a lesson that was run, and what was written while it went on."""
    parts = [PartDone(one["part"], datetime.fromisoformat(one["at"]), one["skipped"]) for one in run.parts]
    end = run.finished_at or run.started_at + _LONGEST
    meanwhile = store.written_between(session, run.class_id, run.started_at, end)
    return RunView(run.started_at, run.finished_at, parts, *meanwhile)


def lesson_of(document: PlanDocument, key: int) -> Lesson:
    """A lesson of a plan.

    Raises
    ------
    NotFoundError
    """
    try:
        return document.plan.lesson(key)
    except KeyError as unknown:
        raise NotFoundError("lesson", key) from unknown


def change_page(
    session: Session, class_id: int, key: int, seen: int, fields: Mapping[str, Any], on: date, at: datetime
) -> LessonPage:
    """Change what stands on the page of a lesson; a field that is None goes back to what is worked out.

    Raises
    ------
    NotFoundError, ConflictError
    """
    document, _ = document_of(session, class_id)
    lesson = lesson_of(document, key)
    before = document.pages.get(key, {})
    old = {**before, **fields}
    if old.get("minutes"):  # those of other parts stay as they were fixed
        old["minutes"] = {**before.get("minutes", {}), **old["minutes"]}
    new = {name: value for name, value in old.items() if value is not None}
    pages = {**document.pages, key: new}
    if not new:
        del pages[key]
    said = [say("plan.step.page", day=words.weekday(lesson.day))]
    store.keep(session, class_id, write_plan(replace(document, pages=pages)), said, at, seen)
    session.commit()
    return page(session, class_id, key, on)


def _aim(lesson: Lesson, content: Content, style: HouseStyle) -> str:
    letters = [char for char in lesson.new if len(char) == 1]
    if letters:
        places = {height_name(letter(char, style).strokes[0].start[1]) for char in letters}
        if len(places) == 1:
            return say("plan.aim.letter", letter=words.listed(letters), at=say(f"at.{places.pop()}"))
        return say("plan.aim.letters", letters=words.listed(letters))
    if lesson.new:
        return say("plan.aim.join", joins=words.listed(lesson.new))
    if content.recall:
        return say("plan.aim.recall", letters=listed(content.recall))
    return say("plan.aim.words")


def _title(kind: PartKind, content: Content) -> str:
    letters = words.listed(content.new)
    return say(
        f"plan.part.{kind}",
        letters=letters,
        trace=content.trace,
        finish=content.finish,
        alone=content.alone,
    )


def _part(one: Part, content: Content) -> PartView:
    count, seconds = len(content.new), round(one.needs_s)
    says = say(f"plan.says.{one.kind}", count=count, seconds=seconds)
    return PartView(one.kind, _title(one.kind, content), says, one.minutes, round(one.needs_s, 1))


def _moments(made: LessonTimes, new: Sequence[str], shown: Sequence[ShowView]) -> list[MomentView]:
    with_slip = {about for about, one in zip(new, shown, strict=True) if one.slip is not None}
    out = []
    for one in moments(made.parts, new, with_slip):
        place = new.index(one.about) if one.about else None
        view = None if place is None else shown[place]
        title = _title(one.part, made.content)
        if view is not None and one.part is PartKind.SHOW:
            title = view.slip.name if one.slip and view.slip else view.item.name
        out.append(MomentView(one.key, one.part, one.slip, title, round(one.seconds, 1), place))
    return out


def _show(session: Session, class_id: int, text: str, style: HouseStyle) -> ShowView:
    if len(text) > 1:
        return ShowView(replace(item(text, style), text=JOIN_EXAMPLES[text]), [], None)
    own = boards.own_words(session, class_id).get(text)
    said = own or [phrase.text for phrase in letter_model(text, style).patter]
    slips = slip_drawings(text, style)
    return ShowView(item(text, style), said, slips[0] if slips else None)


def _word(text: str, style: HouseStyle) -> LessonWord | None:
    return LessonWord(text, drawn_text(text, style)) if text else None


def _beside(session: Session, class_id: int, lesson: Lesson, content: Content, on: date) -> list[BesideView]:
    """Groups to stand beside: first those whose letters are new, recalled or in a word of the lesson."""
    met = {*lesson.new, *content.recall, *"".join(content.words)}
    groups = groups_now(session, class_id, on)
    groups.sort(key=lambda one: not met & set(one.letters))
    out = []
    for one in groups[:_BESIDE_MOST]:
        said = [say("plan.beside", slip=one.slip, letters=listed(one.letters))]
        for char in one.letters:
            holding = [text for text in content.words if char in text]
            if holding:
                said.append(say("plan.beside.words", letter=char, words=", ".join(holding)))
        out.append(BesideView(one.children, ". ".join([said[0], " ".join(said[1:])]).rstrip(". ") + "."))
    return out
