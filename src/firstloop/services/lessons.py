"""One lesson of a plan on one page: parts with their minutes, from the plan and what a class needs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.heights import height_name
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.message import Value
from firstloop.core.planning.lesson import (
    Content,
    LessonPace,
    LessonTimes,
    Offer,
    Part,
    PartKind,
    fit,
    row_pace,
    times,
)
from firstloop.core.planning.plan import Came, Lesson
from firstloop.core.planning.recall import row_of
from firstloop.core.planning.term import LessonKind
from firstloop.core.words.bank import Bank
from firstloop.core.words.find import Conditions, find
from firstloop.core.words.joins import JoinKind
from firstloop.core.words.pace import pace
from firstloop.core.words.sentences import Taught, within_reach
from firstloop.formats.plan_json import PlanDocument, write_plan
from firstloop.formats.word_bank import shipped_sentences
from firstloop.services import word_bank
from firstloop.services.children import ChildView
from firstloop.services.letters import LetterDrawing, SlipDrawing, letter_model, slip_drawings
from firstloop.services.plans import Item, document_of, family_of, item, join_example, recall_rows, title_of
from firstloop.services.today import due_now, groups_now
from firstloop.services.word_lists import drawn_text
from firstloop.store import boards, rows, written
from firstloop.store import days as day_store
from firstloop.store import plans as store
from firstloop.store.classes import get_class
from firstloop.store.errors import NotFoundError
from firstloop.store.styles import style_of_class
from firstloop.store.tables import HeldLesson, SchoolClass
from firstloop.text import plan as words
from firstloop.text import say
from firstloop.text.progress import listed

_WORDS_OFFERED = 12
_BESIDE_MOST = 3
_WORD_MOST = 6  # letters of a word that is offered


@dataclass(frozen=True)
class PageChanges:
    """What a teacher changed on the page of a lesson; None leaves it as it is worked out.

    ``minutes`` holds those of single parts, ``without`` the parts left out, ``beside`` her own words on
    whom to stand beside.
    """

    aim: str | None = None
    minutes: Mapping[str, int] | None = None
    without: Sequence[str] | None = None
    date: str | None = None
    recall: str | None = None
    trace: int | None = None
    finish: int | None = None
    alone: int | None = None
    words: Sequence[str] | None = None
    sentence: str | None = None
    beside: str | None = None


@dataclass(frozen=True)
class PartView:
    """A part of a lesson. ``needs_s`` is how long it really takes this class."""

    kind: PartKind
    title: str
    says: str
    minutes: int
    needs_s: float


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
    """What was done of a lesson when."""

    started_at: datetime
    finished_at: datetime | None
    parts: list[PartDone]


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
    made = _times(session, school_class, document, lesson, style, changed, own_pace, on)
    content = made.content
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
        over_by=max(0, _minutes_needed(made.parts) - lesson.minutes),
        left_out=[PartKind(one) for one in changed.without or ()],
        cut_says=words.cut_said(made.cuts),
        pace_says=say(
            "plan.pace.measured" if own_pace.row.is_measured else "plan.pace.usual",
            seconds=f"{own_pace.row.letter_s:.0f}",
        ),
        show=[_show(session, class_id, text, style) for text in lesson.new],
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
        run=None if run is None else run_view(run),
        before_key=keys[at - 1] if at else None,
        after_key=keys[at + 1] if at + 1 < len(keys) else None,
    )


def run_view(run: HeldLesson) -> RunView:
    """What was noted of a lesson that was run."""
    parts = [PartDone(one["part"], datetime.fromisoformat(one["at"]), one["skipped"]) for one in run.parts]
    return RunView(run.started_at, run.finished_at, parts)


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
    old = {**document.pages.get(key, {}), **fields}
    new = {name: value for name, value in old.items() if value is not None}
    pages = {**document.pages, key: new}
    if not new:
        del pages[key]
    said = [say("plan.step.page", day=words.weekday(lesson.day))]
    store.keep(session, class_id, write_plan(replace(document, pages=pages)), said, at, seen)
    session.commit()
    return page(session, class_id, key, on)


def lesson_pace(session: Session, school_class: SchoolClass) -> LessonPace:
    """How long letters, words and lines really take a class."""
    level = Level(school_class.level)
    return LessonPace(
        row_pace(rows.letter_spans(session, school_class.id), level),
        pace(written.durations(session, school_class.id, lines=False), level),
        pace(written.durations(session, school_class.id, lines=True), level),
    )


def _times(
    session: Session,
    school_class: SchoolClass,
    document: PlanDocument,
    lesson: Lesson,
    style: HouseStyle,
    changed: PageChanges,
    own_pace: LessonPace,
    on: date,
) -> LessonTimes:
    """What a lesson holds and how long its parts are, with the teacher's changes."""
    offer = _offer(session, school_class, document, lesson, style, on)
    made = fit(lesson.new, offer, lesson.minutes, own_pace)
    content = _with_changes(made.content, changed)
    parts = times(content, lesson.minutes, own_pace)
    without = set(changed.without or ())
    if without:
        kept = replace(content, **{_EMPTIED[kind]: _NOTHING[kind] for kind in without if kind in _EMPTIED})
        content = kept
        parts = tuple(one for one in times(kept, lesson.minutes, own_pace) if one.kind not in without)
    fixed = changed.minutes or {}
    parts = tuple(replace(one, minutes=fixed.get(one.kind, one.minutes)) for one in parts)
    return LessonTimes(content, parts, made.cuts)


_EMPTIED = {"date": "date", "recall": "recall", "words": "words", "sentence": "sentence"}
_NOTHING: dict[str, Any] = {"date": "", "recall": "", "words": (), "sentence": ""}


def _with_changes(content: Content, changed: PageChanges) -> Content:
    own: dict[str, Any] = {
        name: value
        for name in ("date", "recall", "trace", "finish", "alone", "sentence")
        if (value := getattr(changed, name)) is not None
    }
    if changed.words is not None:
        own["words"] = tuple(changed.words)
    return replace(content, **own)


def _minutes_needed(parts: Sequence[Part]) -> int:
    return sum(one.minutes for one in parts)


def _offer(
    session: Session,
    school_class: SchoolClass,
    document: PlanDocument,
    lesson: Lesson,
    style: HouseStyle,
    on: date,
) -> Offer:
    """What a lesson may take from: nothing that is not taught by then."""
    plan, wish = document.plan, document.wish
    known = [*wish.known, *plan.taught_by(lesson.day)]
    family = family_of(session, school_class.id, wish, style)
    bank = word_bank.present(session).without_names(word_bank.names(session))
    recall = _recall(session, school_class, document, lesson, family, style, on)
    letters = frozenset(char.lower() for char in known if len(char) == 1)
    sentences = within_reach(shipped_sentences(), bank, Taught(letters))
    held = [one for one in sentences if any(char.lower() in one.lower() for char in lesson.new)]
    fitting = held or sentences
    day = date.fromordinal(lesson.day)
    long_date, short_date = words.weekday(lesson.day), say(f"weekday.{day.weekday()}")
    return Offer(
        recall=recall,
        words=tuple(_words(bank, known, lesson, recall, style)),
        sentence=fitting[lesson.key % len(fitting)] if fitting else "",
        long_date=long_date if _can_write(long_date, letters) else "",
        short_date=short_date if _can_write(short_date, letters) else "",
    )


def _can_write(text: str, letters: frozenset[str]) -> bool:
    return all(char.lower() in letters for char in text if char.isalpha())


def _recall(
    session: Session,
    school_class: SchoolClass,
    document: PlanDocument,
    lesson: Lesson,
    family: Mapping[str, str],
    style: HouseStyle,
    on: date,
) -> str:
    """What is due, of what is next; for lessons further on what is likely to be."""
    today = on.toordinal()
    ahead = [one for one in document.plan.lessons if one.day >= today and one.shown is None]
    if ahead and ahead[0].key == lesson.key:
        letters = {char: key for char, key in family.items() if len(char) == 1}
        new = {family.get(char) for char in lesson.new}
        day = date.fromordinal(lesson.day)
        cells = day_store.cells(session, school_class.id, "all", on)
        due = [one for one in due_now(cells, letters, day) if one.family not in new]
        row = row_of(
            due,
            [char for char in lesson.new if len(char) == 1],
            lambda a, b: are_alike(a, b, style),
        )
        if row:
            return row
    return recall_rows(session, school_class.id, document, family, style, today).get(lesson.key, "")


def _words(bank: Bank, known: Sequence[str], lesson: Lesson, recall: str, style: HouseStyle) -> list[str]:
    """Words with what is new in them, of letters taught by then."""
    letters = frozenset(char for char in known if len(char) == 1)
    joins = [JoinKind(one) for one in lesson.new if len(one) > 1]
    capitals = [char for char in lesson.new if char.isupper()]
    order = [char for char in known if len(char) == 1]
    due = frozenset(recall)
    if capitals:
        lower = frozenset(char for char in letters if char.islower())
        found = find(bank, Conditions(letters=lower, most=_WORD_MOST), style, order, due)
        first = [one.text for one in found if one.text[0].upper() in capitals]
        return [text[0].upper() + text[1:] for text in first[:_WORDS_OFFERED]]
    if joins:
        some = [
            find(bank, Conditions(letters=letters, most=_WORD_MOST, join=kind), style, order, due)
            for kind in joins
        ]
        return list(dict.fromkeys(one.text for found in some for one in found))[:_WORDS_OFFERED]
    new = frozenset(lesson.new)
    practise = new or due or None
    found = find(
        bank, Conditions(letters=letters, most=_WORD_MOST, least=2, practise=practise), style, order, due
    )
    fuller = sorted(found, key=lambda one: (-len(one.letters & new), -len(one.letters & due), one.by_heart))
    return [one.text for one in fuller[:_WORDS_OFFERED]]


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


def _part(one: Part, content: Content) -> PartView:
    letters = words.listed(content.new)
    values: dict[str, Value] = {
        "letters": letters,
        "trace": content.trace,
        "finish": content.finish,
        "alone": content.alone,
    }
    title = words.part_name(one.kind, **values)
    count, seconds = len(content.new), round(one.needs_s)
    says = say(f"plan.says.{one.kind}", count=count, seconds=seconds)
    return PartView(one.kind, title, says, one.minutes, round(one.needs_s, 1))


def _show(session: Session, class_id: int, text: str, style: HouseStyle) -> ShowView:
    if len(text) > 1:
        return ShowView(replace(item(text, style), text=join_example(text, style)), [], None)
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
