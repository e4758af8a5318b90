"""The report, the practice strip and the class list, from what the records say."""

from __future__ import annotations

from datetime import date

import numpy as np
from sqlalchemy.orm import Session

from firstloop.api.overtime import class_map, signs
from firstloop.api.settling import day_of
from firstloop.api.story import story
from firstloop.api.story_schemas import InkDrawing, LetterStoryOut
from firstloop.api.today import due_letters
from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.patter import spoken
from firstloop.core.progress.evidence import Aspect, credits_of
from firstloop.core.progress.trends import shares
from firstloop.formats.class_csv import class_csv
from firstloop.formats.report_pdf import LetterLine, PracticeStrip, Report, practice_pdf, report_pdf
from firstloop.store import days as store
from firstloop.store.classes import get_child
from firstloop.store.days import Cell
from firstloop.store.styles import house_style
from firstloop.store.tables import LetterDay

_STRIP_LETTERS = 2
_FOUR_WEEKS = 28
_SMALLEST_XH_MM, _LARGEST_XH_MM = 4.0, 11.0


def _day(day: date) -> str:
    return f"{day.day} {day:%B %Y}"


def child_report(session: Session, child_id: int, on: date) -> bytes:
    """The report on one child as PDF.

    Raises
    ------
    NotFoundError
    """
    told = story(session, child_id, on)

    style = house_style(get_child(session, child_id).school_class)

    def standing(state: str) -> list[Letter]:
        return [letter(one.letter, style) for one in told.letters if one.state == state]

    gone = [habit.words for habit in told.habits if habit.course in ("gone", "less")]
    grown = [measure.words for measure in told.measures if measure.words]
    return report_pdf(
        Report(
            name=told.child.name,
            class_name=told.class_name,
            day=_day(on),
            since=_day(told.since or on),
            secure=standing("secure"),
            learning=standing("learning"),
            slipping=standing("slipping"),
            better=[_sentence(words) for words in (*gone, *grown)],
            practise=[step.words for step in told.next_steps],
            letters=[_line(one) for one in told.letters if one.state != "not-started"],
            headings=_headings(session, child_id, on),
            changes=[
                _sentence(f"{h.name}, {_day(t.day)}: {t.words}") for h in told.headings for t in h.turns
            ],
        )
    )


def _sentence(words: str) -> str:
    return f"{words[0].upper()}{words[1:]}."


def _line(one: LetterStoryOut) -> LetterLine:
    return LetterLine(
        char=one.letter,
        why=one.why,
        due="due" if one.due else "",
        first=_strokes(one.first),
        latest=_strokes(one.latest),
        first_day=f"{one.first.day:%-d %b}" if one.first else "",
        latest_day=f"{one.latest.day:%-d %b}" if one.latest else "",
    )


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
            by_start.setdefault(one.day, {})[aspect] = f"{one.share:.0%} of {one.letters}"
    return [
        [_day(date.fromordinal(start)), *(cells.get(aspect, "") for aspect in Aspect)]
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
    due = sorted(
        due_letters(cells, signs(session, school_class, set(latest)), on),
        key=lambda one: (-one.need, one.char),
    )
    chars = [one.char for one in due][:_STRIP_LETTERS]
    chars += [char for char in sorted(latest, key=lambda c: latest[c].day) if char not in chars]
    models = [letter(char, style) for char in (chars or ["l", "i"])[:_STRIP_LETTERS]]
    xh = min(max(school_class.xh_mm, _SMALLEST_XH_MM), _LARGEST_XH_MM)
    return practice_pdf(
        PracticeStrip(
            f"{child.first_name} {child.initial}", _day(on), xh, [(one, spoken(one)) for one in models]
        )
    )


def class_list(session: Session, class_id: int, on: date) -> str:
    """Children down, letters across, as CSV.

    Raises
    ------
    NotFoundError
    """
    found = class_map(session, class_id, "all", on)
    letters = [char for family in found.families for char in family.letters]
    return class_csv(
        letters,
        [
            (row.child.name, row.child.hand, {cell.letter: cell.state for cell in row.cells})
            for row in found.children
        ],
    )
