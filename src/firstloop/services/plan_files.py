"""A plan and its lessons as files: a page to print, a calendar, a table."""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Session

from firstloop.core.letterforms.library import letter, letter_or_word
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.core.planning.plan import Came, Lesson
from firstloop.formats.calendar_file import DaysOff, LessonEvent, read_days, write_lessons
from firstloop.formats.plan_pdf import (
    PrintedLesson,
    PrintedLessonPage,
    PrintedPart,
    PrintedWeek,
    lesson_pdf,
    term_pdf,
)
from firstloop.formats.spreadsheet import spreadsheet
from firstloop.services.lessons import BesideView, LessonPage, ShowView, page
from firstloop.services.letters import UNITS
from firstloop.services.plan_view import (
    JOIN_EXAMPLES,
    LessonLine,
    PlanView,
    PlanWeek,
    document_of,
    title_of,
    view,
)
from firstloop.store import plans as store
from firstloop.store.classes import get_class
from firstloop.store.errors import NotFoundError
from firstloop.store.styles import style_of_class
from firstloop.text import plan as words
from firstloop.text import say
from firstloop.text.progress import day as day_of_month
from firstloop.text.progress import listed

_RECALL_PRINTED = 6
_COLUMNS = ("day", "weekday", "minutes", "kind", "new", "recall", "came")


def holidays_in(raw: bytes, first: date, last: date) -> list[DaysOff]:
    """Whole days of a calendar that fall into a term.

    Raises
    ------
    CalendarError
    """
    return read_days(raw, first, last)


def calendar(session: Session, class_id: int, on: date) -> bytes:
    """The lessons as a calendar, each with an identity of its own that it keeps.

    Raises
    ------
    NotFoundError
    """
    document, number = document_of(session, class_id)
    school_class = get_class(session, class_id)
    weeks = _view(session, class_id, on).weeks
    recalled = {one.key: "".join(one.recall) for week in weeks for one in week.lessons}
    here = [
        LessonEvent(
            uid=_uid(class_id, one.key),
            number=number,
            begin=date.fromordinal(one.day),
            minutes=one.minutes,
            title=f"{school_class.name}: {_title(one)}",
            about=_about(one, recalled.get(one.key, "")),
        )
        for one in document.plan.lessons
    ]
    gone = [
        LessonEvent(
            _uid(class_id, key),
            number,
            date.fromordinal(day),
            0,
            f"{school_class.name}: {say('plan.file.gone')}",
            "",
            gone=True,
        )
        for key, day in document.plan.dropped
    ]
    name = say("plan.file.term", class_name=school_class.name, term=document.wish.name)
    return write_lessons(name, [*here, *gone], store.made_at(session, class_id))


def _uid(class_id: int, key: int) -> str:
    return f"lesson-{class_id}-{key}@first-loop"


def _title(lesson: Lesson) -> str:
    if lesson.came is Came.MISSED:
        return say("plan.file.missed")
    return title_of(lesson)


def _about(lesson: Lesson, recall: str) -> str:
    parts = [say("plan.minutes", count=lesson.minutes)]
    if recall:
        parts.append(f"{say('plan.file.recall')}: {words.listed(list(recall))}")
    return ". ".join(parts)


def table(session: Session, class_id: int, on: date) -> str:
    """The lessons as CSV.

    Raises
    ------
    NotFoundError
    """
    head = [say(f"plan.column.{name}") for name in _COLUMNS]
    rows = [
        [
            one.day.isoformat(),
            say(f"weekday.{one.day.weekday()}"),
            str(one.minutes),
            str(one.kind),
            " ".join(one.new if one.shown is None else one.shown),
            " ".join(one.recall),
            str(one.came),
        ]
        for week in _view(session, class_id, on).weeks
        for one in week.lessons
    ]
    return spreadsheet([head, *rows])


def term_page(session: Session, class_id: int, on: date) -> bytes:
    """The term on one page, PDF.

    Raises
    ------
    NotFoundError
    """
    seen = _view(session, class_id, on)
    style = style_of_class(session, class_id)
    title = say("plan.file.term", class_name=seen.class_name, term=seen.term.name)
    weeks = [
        PrintedWeek(
            begins=day_of_month(week.monday),
            lessons=[_printed(one, style) for one in week.lessons],
            recall=_drawn(_recalled(week), style),
            holiday=week.holiday,
        )
        for week in seen.weeks
    ]
    return term_pdf(title, title, say("plan.lesson.recall"), weeks, get_class(session, class_id).ruling)


def _recalled(week: PlanWeek) -> list[str]:
    return list(dict.fromkeys(char for one in week.lessons for char in one.recall))[:_RECALL_PRINTED]


def _view(session: Session, class_id: int, on: date) -> PlanView:
    found = view(session, class_id, on)
    if found is None:
        raise NotFoundError("plan of class", class_id)
    return found


def _drawn(texts: list[str], style: HouseStyle) -> list[Letter]:
    return [letter(one, style) if len(one) == 1 else word(JOIN_EXAMPLES[one], style) for one in texts]


def _printed(one: LessonLine, style: HouseStyle) -> PrintedLesson:
    new = one.new if one.shown is None else one.shown
    name = say(f"weekday.{one.day.weekday()}")[:3]
    if one.came is Came.MISSED:
        return PrintedLesson(name, [], say("plan.file.missed"))
    return PrintedLesson(name, _drawn(new, style), "" if new else one.title)


def lesson_page(session: Session, class_id: int, key: int, on: date) -> bytes:
    """A lesson on one page, PDF.

    Raises
    ------
    NotFoundError
    """
    seen = page(session, class_id, key, on)
    style = style_of_class(session, class_id)
    besides = [
        (say("plan.file.beside"), "\n".join(map(_beside, seen.beside))),
        (say("plan.file.note"), seen.beside_note),
        (say("plan.file.short"), f"{seen.cut_says}.".capitalize()),
    ]
    return lesson_pdf(
        PrintedLessonPage(
            document=f"{seen.class_name}, {seen.day_says}",
            title=f"{seen.day_says} · {say('plan.minutes', count=seen.minutes)} · {seen.class_name}",
            aim=seen.aim,
            parts=_printed_parts(seen, style),
            show=[(_drawn_one(one, style), _slip(one), " ".join(one.says)) for one in seen.show],
            besides=[(heading, text) for heading, text in besides if text],
            caution=say("plan.file.caution"),
            ruling=get_class(session, class_id).ruling,
        )
    )


def _beside(one: BesideView) -> str:
    return f"{listed([child.first_name for child in one.children])}: {one.says}"


def _drawn_one(one: ShowView, style: HouseStyle) -> Letter:
    return letter_or_word(one.item.text, style)


def _slip(one: ShowView) -> list[list[list[float]]]:
    if one.slip is None:
        return []
    return [[[x / UNITS, -y / UNITS] for x, y in stroke] for stroke in one.slip.points]


def _printed_parts(seen: LessonPage, style: HouseStyle) -> list[PrintedPart]:
    held = {
        "date": seen.date_drawn.text if seen.date_drawn else "",
        "words": ", ".join(one.text for one in seen.words),
        "sentence": seen.sentence.text if seen.sentence else "",
    }
    return [
        PrintedPart(
            title=one.title,
            says=held.get(one.kind, "") or one.says,
            minutes=say("plan.minutes", count=one.minutes),
            letters=_drawn([part.text for part in seen.recall], style) if one.kind == "recall" else (),
        )
        for one in seen.parts
    ]
