"""What a lesson holds, of what is taught by its day and due, and how long that takes a class."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.lesson import (
    Content,
    LessonPace,
    LessonTimes,
    Offer,
    fit,
    row_pace,
    times,
)
from firstloop.core.planning.plan import Lesson
from firstloop.core.planning.recall import row_of
from firstloop.core.words.bank import Bank
from firstloop.core.words.find import Conditions, find
from firstloop.core.words.joins import JoinKind
from firstloop.core.words.pace import pace
from firstloop.core.words.sentences import Taught, within_reach
from firstloop.formats.plan_json import PlanDocument
from firstloop.formats.word_bank import shipped_sentences
from firstloop.services import word_bank
from firstloop.services.plan_view import (
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
