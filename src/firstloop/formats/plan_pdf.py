"""The term on one page, and a lesson on one page, as PDF."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from firstloop.core.letterforms.model import Letter
from firstloop.formats.page_pdf import HEIGHT_MM, MARGIN_MM, WIDTH_MM, Pages

_HEAD_MM, _FOOT_MM = 24.0, 14.0
_DATE_MM, _RECALL_MM = 24.0, 52.0
_XH_MOST_MM = 4.0
_ROOM_XH = 4.3  # a week's lines and the room around them
_SIZE = 8.5
_LESSON_XH_MM = 9.0


@dataclass(frozen=True)
class PrintedLesson:
    """A lesson of a week: its weekday, its letters drawn, or words that stand in their place."""

    weekday: str
    letters: Sequence[Letter]
    words: str


@dataclass(frozen=True)
class PrintedWeek:
    """A week: when it begins, its lessons, what is recalled in it, or what holiday it is."""

    begins: str
    lessons: Sequence[PrintedLesson]
    recall: Sequence[Letter]
    holiday: str


def term_pdf(document: str, title: str, recall: str, weeks: Sequence[PrintedWeek], ruling: str) -> bytes:
    """The whole term, A4, on one page however many weeks it has."""
    pages = Pages(document)
    pages.text(title, size=15, bold=True)
    room = (HEIGHT_MM - 2 * MARGIN_MM - _HEAD_MM - _FOOT_MM) / max(len(weeks), 1)
    xh = min(_XH_MOST_MM, room / _ROOM_XH)
    size = min(_SIZE, 2.4 * xh)
    width = WIDTH_MM - 2 * MARGIN_MM
    most = max([len(week.lessons) for week in weeks], default=1) or 1
    column = (width - _DATE_MM - _RECALL_MM) / most
    pages.words_at(recall, MARGIN_MM + width - _RECALL_MM + 2, pages.y_mm + 4, size=size)
    top = pages.y_mm + 6
    for number, week in enumerate(weeks):
        base = top + number * room + 2.2 * xh
        pages.words_at(week.begins, MARGIN_MM, base, size=size, bold=True)
        if not week.lessons:
            pages.words_at(week.holiday, MARGIN_MM + _DATE_MM, base, size=size)
            continue
        pages.lines(MARGIN_MM + _DATE_MM, base, width - _DATE_MM, xh, ruling=ruling)
        for place, lesson in enumerate(week.lessons):
            x = MARGIN_MM + _DATE_MM + place * column
            pages.words_at(lesson.weekday, x + 1, base - 1.15 * xh, size=0.72 * size)
            if lesson.words:
                pages.words_at(lesson.words, x + 12, base - 0.3 * xh, size=size)
            _letters(pages, lesson.letters, x + 12, base, xh)
        _letters(pages, week.recall, MARGIN_MM + width - _RECALL_MM + 2, base, xh, pale=True)
    return pages.done()


def _letters(
    pages: Pages, letters: Sequence[Letter], x_mm: float, base_mm: float, xh_mm: float, *, pale: bool = False
) -> None:
    for one in letters:
        left, _, right, _ = one.bounds
        pages.model(one, x_mm - left * xh_mm, base_mm, xh_mm, pale=pale)
        x_mm += (right - left + 1.0) * xh_mm


@dataclass(frozen=True)
class PrintedPart:
    """A part of a lesson: its name, what it is, and its minutes."""

    title: str
    says: str
    minutes: str
    letters: Sequence[Letter] = ()


@dataclass(frozen=True)
class PrintedLessonPage:
    """What stands on the page of a lesson.

    Parameters
    ----------
    show : sequence of (letter, slip strokes, words)
        What is new, the strokes of its common slip (letter space, each shape (n, 2)), what is said.
    besides : sequence of (heading, text)
    """

    document: str
    title: str
    aim: str
    parts: Sequence[PrintedPart]
    show: Sequence[tuple[Letter, Sequence[Sequence[Sequence[float]]], str]]
    besides: Sequence[tuple[str, str]]
    caution: str
    ruling: str


def lesson_pdf(page: PrintedLessonPage) -> bytes:
    """A lesson, A4, on one page."""
    pages = Pages(page.document)
    pages.text(page.title, size=15, bold=True)
    pages.text(page.aim, size=11.5)
    pages.rule()
    left = MARGIN_MM + 18
    for part in page.parts:
        top = pages.y_mm
        pages.words_at(part.minutes, MARGIN_MM, top + 5.2, size=10, bold=True)
        pages.text(part.title, size=10.5, bold=True, x_mm=left)
        pages.y_mm -= 1.2
        pages.text(part.says, size=9, grey=True, x_mm=left)
        if part.letters:
            _strip(pages, part.letters, left, page.ruling, 5.0)
    for model, slip, said in page.show[:3]:
        _shown(pages, model, slip, said, page.ruling)
    for heading, text in page.besides:
        pages.text(heading, size=10.5, bold=True)
        pages.y_mm -= 1.2
        pages.text(text, size=9.5)
    pages.footer(page.caution)
    return pages.done()


def _strip(pages: Pages, letters: Sequence[Letter], x_mm: float, ruling: str, xh_mm: float) -> None:
    base = pages.y_mm + 2.1 * xh_mm
    pages.lines(x_mm, base, WIDTH_MM - MARGIN_MM - x_mm, xh_mm, ruling=ruling)
    _letters(pages, letters, x_mm + 4, base, xh_mm)
    pages.y_mm = base + 1.3 * xh_mm


def _shown(
    pages: Pages,
    model: Letter,
    slip: Sequence[Sequence[Sequence[float]]],
    said: str,
    ruling: str,
) -> None:
    xh = _LESSON_XH_MM
    base = pages.y_mm + 2.1 * xh
    pages.lines(MARGIN_MM, base, WIDTH_MM - 2 * MARGIN_MM, xh, ruling=ruling)
    x = MARGIN_MM + 8
    pages.model(model, x - model.bounds[0] * xh, base, xh)
    x += (model.bounds[2] - model.bounds[0] + 2) * xh
    if slip:
        strokes = [np.asarray(points, dtype=float) for points in slip]
        low = min(float(points[:, 0].min()) for points in strokes)
        high = max(float(points[:, 0].max()) for points in strokes)
        pages.ink(strokes, x - low * xh, base, xh, pale=True, weight_mm=0.09 * xh)
        pages.cross(x - 2, base - 1.6 * xh, (high - low) * xh + 4, 1.9 * xh)
    pages.y_mm = base + 1.3 * xh
    pages.text(said, size=9.5)
