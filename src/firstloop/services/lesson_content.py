"""What a lesson holds, of what is taught by its day and due, and how long that takes a class."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.lesson import (
    Content,
    LessonPace,
    LessonTimes,
    Offer,
    PartKind,
    fit,
    row_pace,
    times,
)
from firstloop.core.planning.offer import can_write, sentence_for, words_for
from firstloop.core.planning.plan import Lesson
from firstloop.core.planning.recall import row_of
from firstloop.core.planning.term import weekday
from firstloop.core.words.pace import pace
from firstloop.formats.plan_json import PlanDocument
from firstloop.formats.word_bank import shipped_sentences
from firstloop.services import word_bank
from firstloop.services.plan_view import (
    alike,
    family_of,
    recall_rows,
)
from firstloop.services.today import due_now
from firstloop.store import days as day_store
from firstloop.store import rows, written
from firstloop.store.tables import SchoolClass
from firstloop.text import plan as words
from firstloop.text import say

_WORDS_OFFERED = 12
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


def lesson_pace(session: Session, school_class: SchoolClass) -> LessonPace:
    """How long letters, words and lines really take a class."""
    level = Level(school_class.level)
    return LessonPace(
        row_pace(rows.letter_spans(session, school_class.id), level),
        pace(written.durations(session, school_class.id, lines=False), level),
        pace(written.durations(session, school_class.id, lines=True), level),
    )


def lesson_times(
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
    without, fixed = frozenset(map(PartKind, changed.without or ())), changed.minutes or {}
    parts = times(content, lesson.minutes, own_pace, without)
    return LessonTimes(
        content, tuple(replace(one, minutes=fixed.get(one.kind, one.minutes)) for one in parts), made.cuts
    )


def _with_changes(content: Content, changed: PageChanges) -> Content:
    own: dict[str, Any] = {
        name: value
        for name in ("date", "recall", "trace", "finish", "alone", "sentence")
        if (value := getattr(changed, name)) is not None
    }
    if changed.words is not None:
        own["words"] = tuple(changed.words)
    return replace(content, **own)


def _offer(
    session: Session,
    school_class: SchoolClass,
    document: PlanDocument,
    lesson: Lesson,
    style: HouseStyle,
    on: date,
) -> Offer:
    """What a lesson may take from: nothing that is not taught by then."""
    known = [*document.wish.known, *document.plan.taught_by(lesson.day)]
    bank = word_bank.present(session).without_names(word_bank.names(session))
    recall = _recall(session, school_class, document, lesson, style, on)
    long_date = words.weekday(lesson.day)
    short_date = say(f"weekday.{weekday(lesson.day)}")
    return Offer(
        recall=recall,
        words=tuple(words_for(bank, known, lesson.new, recall, style)),
        sentence=sentence_for(shipped_sentences(), bank, known, lesson.new, lesson.key),
        long_date=long_date if can_write(long_date, known) else "",
        short_date=short_date if can_write(short_date, known) else "",
    )


def _recall(
    session: Session,
    school_class: SchoolClass,
    document: PlanDocument,
    lesson: Lesson,
    style: HouseStyle,
    on: date,
) -> str:
    """What is due, of what is next; for lessons further on what is likely to be."""
    family = family_of(session, school_class.id, document.wish, style)
    ahead = document.plan.next_from(on.toordinal())
    if ahead is not None and ahead.key == lesson.key:
        cells = day_store.cells(session, school_class.id, "all", on)
        due = due_now(cells, {char: key for char, key in family.items() if len(char) == 1}, _day(lesson))
        row = row_of(due, lesson.new, family, lambda a, b: alike(a, b, style))
        if row:
            return row
    rows_ = recall_rows(session, school_class.id, document, family, style, on.toordinal())
    return rows_.get(lesson.key, "")


def _day(lesson: Lesson) -> date:
    return date.fromordinal(lesson.day)
