"""The report, the practice strip and the class list, from what the records say."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.progress.evidence import Aspect, credits_of
from firstloop.core.progress.habits import Course
from firstloop.core.progress.mastery import State
from firstloop.core.progress.review import most_due
from firstloop.core.progress.trends import shares
from firstloop.core.sheets.wish import HeadingRow, RowWish, SheetWish, WritingRow
from firstloop.formats.class_csv import class_csv
from firstloop.formats.report_pdf import LetterLine, Report, report_pdf
from firstloop.services.child_story import InkDrawing, LetterStory, story
from firstloop.services.class_map import class_map, signs
from firstloop.services.evidence import day_of
from firstloop.services.sheets import sheet_once
from firstloop.services.today import due_now
from firstloop.store import days as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.days import Cell
from firstloop.store.styles import house_style
from firstloop.store.tables import LetterDay, SchoolClass
from firstloop.text import all_of, home, say
from firstloop.text.movement import spoken
from firstloop.text.progress import day, named_change

_STRIP_LETTERS = 2
_PRACTICE_PATTERN = "model trace* / trace alone* / alone*"
_PRACTICE_GAP_MM = 4.0
_FIRST_LETTERS = ("l", "i")  # for a child who has written nothing yet
_FOUR_WEEKS = 28
_SMALLEST_XH_MM, _LARGEST_XH_MM = 4.0, 11.0


def child_report(session: Session, child_id: int, on: date) -> bytes:
    """The report on one child as PDF.

    Raises
    ------
    NotFoundError
    """
    told = story(session, child_id, on)
    style = house_style(get_child(session, child_id).school_class)

    def standing(state: State) -> list[Letter]:
        return [letter(one.letter, style) for one in told.letters if one.state is state]

    first = told.child.first_name
    gone = [
        home.better(first, habit.code, habit.letters)
        for habit in told.habits
        if habit.course in (Course.GONE, Course.LESS)
    ]
    grown = [home.measure_better(first, one.key) for one in told.measures if one.better]
    words = all_of(
        "report.",
        name=told.child.name,
        first=told.child.first_name,
        class_name=told.class_name,
        day=day(on, year=True),
        since=day(told.since or on, year=True),
    )
    return report_pdf(
        Report(
            words=words,
            secure=standing(State.SECURE),
            learning=standing(State.LEARNING),
            slipping=standing(State.SLIPPING),
            better=[*gone, *grown],
            practise=[step.at_home for step in told.next_steps],
            letters=[_line(one) for one in told.letters if one.state is not State.NOT_STARTED],
            headings=_headings(session, child_id, on),
            changes=[
                say("report.change", name=heading.name, day=day(turn.day, year=True), words=turn.words)
                for heading in told.headings
                for turn in heading.turns
            ]
            + [_sentence(named_change(one.key, one.change)) for one in told.measures if one.change]
            + told.watch_for,
        )
    )


def _sentence(words: str) -> str:
    return f"{words[0].upper()}{words[1:]}."


def _line(one: LetterStory) -> LetterLine:
    return LetterLine(
        char=one.letter,
        why=one.why,
        due=say("report.due") if one.due else "",
        first=_strokes(one.first),
        latest=_strokes(one.latest),
        first_day=_short_day(one.first),
        latest_day=_short_day(one.latest),
    )


def _short_day(ink: InkDrawing | None) -> str:
    return f"{ink.day:%-d %b}" if ink else ""


def _strokes(ink: InkDrawing | None) -> tuple[FloatArray, ...]:
    """Letter space from path data in hundredths of a band, y down."""
    out = []
    for path in ink.paths if ink else []:
        numbers = np.array([float(v) for v in path[2:].replace(" L ", " ").split()]).reshape(-1, 2)
        out.append(numbers * np.array([0.01, -0.01]))
    return tuple(out)


def _headings(session: Session, child_id: int, on: date) -> list[list[str]]:
    days = sorted(
        (day_of(one) for one in store.days(session, LetterDay.child_id == child_id, LetterDay.day <= on)),
        key=lambda one: one.day,
    )
    if not days:
        return []
    by_start: dict[int, dict[Aspect, str]] = {}
    for aspect in Aspect:
        for one in shares(credits_of(days, aspect), _FOUR_WEEKS, days[0].day):
            said = say("report.share", share=round(one.share * one.letters), letters=one.letters)
            by_start.setdefault(one.day, {})[aspect] = said
    return [
        [day(date.fromordinal(start), year=True), *(cells.get(aspect, "") for aspect in Aspect)]
        for start, cells in sorted(by_start.items())
    ]


def practice_strip(session: Session, child_id: int, on: date) -> bytes:
    """The two letters most due to a child, to practise at home, as PDF.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    school_class = child.school_class
    style = house_style(school_class)
    kept = store.days(session, LetterDay.child_id == child_id, LetterDay.day <= on)
    latest = {one.letter: one for one in kept}
    cells = [
        Cell(child_id, one.letter, one.day, one.state_all, one.due, one.strength_days)
        for one in latest.values()
    ]
    due = due_now(cells, signs(session, school_class, set(latest)).family, on)
    longest_ago = sorted(latest, key=lambda char: latest[char].day)
    chars = most_due(due, longest_ago or _FIRST_LETTERS, _STRIP_LETTERS)
    title = say("practice.title", first=child.first_name)
    return _practice([letter(char, style) for char in chars], title, school_class, on)


def letter_practice(session: Session, class_id: int, char: str, on: date) -> bytes:
    """A page to practise one letter, for whoever of a class needs it, as PDF.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    school_class = get_class(session, class_id)
    model = letter(char, house_style(school_class))
    return _practice([model] * 2, say("practice.of-a-letter", letter=char), school_class, on)


def _practice(models: Sequence[Letter], title: str, school_class: SchoolClass, on: date) -> bytes:
    """For each letter its movement in words, a row to trace, one to go on with, and an empty one."""
    rows: list[RowWish] = [HeadingRow(say("practice.day", day=day(on, year=True)))]
    for model in models:
        rows += [HeadingRow(spoken(model)), WritingRow((model.char,), _PRACTICE_PATTERN, 3)]
    wish = SheetWish(
        tuple(rows),
        title=title,
        ruling=school_class.ruling,
        xh_mm=_practice_xh(school_class),
        gap_mm=_PRACTICE_GAP_MM,
        rings_to_tick=False,
        name_line=False,
        measured=False,
    )
    return sheet_once(wish, house_style(school_class))


def _practice_xh(school_class: SchoolClass) -> float:
    return min(max(school_class.xh_mm, _SMALLEST_XH_MM), _LARGEST_XH_MM)


def class_list(session: Session, class_id: int, on: date) -> str:
    """Children down, letters across, as CSV.

    Raises
    ------
    NotFoundError
    """
    found = class_map(session, class_id, Aspect.ALL, on)
    letters = [char for family in found.families for char in family.letters]
    return class_csv(
        letters,
        [
            (row.child.name, row.child.hand, {cell.letter: cell.state for cell in row.cells})
            for row in found.children
        ],
    )
