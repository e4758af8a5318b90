"""Sheets for a class: what each ready-made one holds today, a sheet for something, and how a sheet looks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.offer import sentence_for, words_for
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.readymade import (
    SHORT_PATTERN,
    Material,
    Ready,
    letter_rows,
    ready_made,
    recall_row,
    sentence_rows,
)
from firstloop.core.sheets.scene import Sheet
from firstloop.core.sheets.wish import (
    BoxedWord,
    RowWish,
    SheetError,
    SheetWish,
    SoundRow,
    WritingRow,
)
from firstloop.core.words.units import cut
from firstloop.formats.sheet_pdf import page_png
from firstloop.formats.sheet_svg import page_svg
from firstloop.formats.word_bank import shipped_sentences
from firstloop.services.class_map import signs
from firstloop.services.sheets import printed_in
from firstloop.services.taught import Asked, Ground, ground
from firstloop.services.today import due_now, recall
from firstloop.store import days as store
from firstloop.store import dictations as dictation_store
from firstloop.store.classes import get_class
from firstloop.store.styles import house_style, style_of_class
from firstloop.store.tables import SchoolClass
from firstloop.text import say
from firstloop.text import sheets as sheet_words
from firstloop.text.progress import listed
from firstloop.text.sheets import RowSaid

_MONDAY_TO_FRIDAY = 5
_DICTATED = 6
_SHOWN_TWICE = 2  # so many letters have two rows each, and words; more of them one each
_PREVIEW = "PREVUE"  # a code that no printed sheet has: what is only looked at is not read back


@dataclass(frozen=True)
class NamedWish:
    """A sheet with the name it would be kept under."""

    name: str
    wish: SheetWish


@dataclass(frozen=True)
class ReadySheet(NamedWish):
    """A ready-made sheet, and what it is for."""

    key: Ready
    about: str


@dataclass(frozen=True)
class RowPlace:
    """Where a row of the sheet stands on a page, mm from its top."""

    row: int
    page: int
    top_mm: float
    bottom_mm: float


@dataclass(frozen=True)
class SheetPreview:
    """How a sheet looks: its pages as SVG, its rows in words, and where they stand."""

    pages: list[str]
    width_mm: float
    height_mm: float
    rows: list[RowSaid]
    places: list[RowPlace]
    room: str


@dataclass(frozen=True)
class WantedFor:
    """What a sheet is wanted for: letters, words, a line, or a dictation."""

    letters: Sequence[str] = ()
    words: Sequence[str] = ()
    line: str = ""
    dictation_id: int | None = None
    recall: Sequence[str] = ()


def base_wish(school_class: SchoolClass) -> SheetWish:
    """An empty sheet on the lines of a class."""
    washed = True if school_class.washed is None else school_class.washed
    return SheetWish(ruling=school_class.ruling, xh_mm=school_class.xh_mm, washed=washed)


def ready_sheets(session: Session, class_id: int, on: date) -> list[ReadySheet]:
    """Every ready-made sheet with what it holds for a class on a day.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    style = house_style(school_class)
    of, base = material(session, school_class, style, on), base_wish(school_class)
    return [
        ReadySheet(say(f"sheet.ready.{key}"), _ready(key, of, base, style), key, say(f"sheet.about.{key}"))
        for key in Ready
    ]


def _ready(key: Ready, of: Material, base: SheetWish, style: HouseStyle) -> SheetWish:
    made = ready_made(key, of, base, style)
    return replace(made, title=say("sheet.title.week")) if key is Ready.WEEK else made


def material(session: Session, school_class: SchoolClass, style: HouseStyle, on: date) -> Material:
    """What a class is at: its newest letters and their family, what is due, words and a sentence in reach."""
    here = ground(session, Asked(school_class.id, on))
    families = signs(session, school_class, set()).families
    lower = [char for char in here.newest if char.islower()]
    letters = lower[-2:] or list(families[0].letters[:2])
    own = next((one.letters for one in families if letters[-1] in one.letters), letters)
    cells = store.cells(session, school_class.id, "all", on)
    due = recall(style, due_now(cells, signs(session, school_class, set(here.newest)).family, on))
    every = [char for one in families for char in one.letters]
    known = lower if _words(here, lower, letters, due) else every  # a class that has just begun
    words = _words(here, known, letters, due)
    monday = on - timedelta(days=on.weekday())
    return Material(
        known=lower or letters,
        letters=letters,
        family=list(own),
        recall=list(due) or lower[-5:] or letters,
        words=words,
        sentence=sentence_for(shipped_sentences(), here.bank, known, letters, on.toordinal()),
        dictated=_boxed(here, words[:_DICTATED]),
        days=[say(f"weekday.{(monday + timedelta(days=day)).weekday()}") for day in range(_MONDAY_TO_FRIDAY)],
    )


def _words(here: Ground, known: Sequence[str], letters: Sequence[str], due: str) -> list[str]:
    return words_for(here.bank, known, letters, due, here.style) or words_for(
        here.bank, known, [], due, here.style
    )


def _boxed(here: Ground, words: Sequence[str]) -> list[BoxedWord]:
    known = here.bank.by_text
    return [BoxedWord(text, len(known[text].units if text in known else cut(text))) for text in words]


def sheet_for(session: Session, class_id: int, wanted: WantedFor, on: date) -> NamedWish:
    """A sheet for letters, words, a line or a dictation, on the lines of a class.

    Raises
    ------
    NotFoundError, SheetError
    """
    school_class = get_class(session, class_id)
    style, base = house_style(school_class), base_wish(school_class)
    rows: list[RowWish] = []
    if wanted.recall:
        rows.append(recall_row(wanted.recall))
    if len(wanted.letters) > _SHOWN_TWICE:
        rows.append(WritingRow(tuple(wanted.letters), SHORT_PATTERN))
    elif wanted.letters:
        here = ground(session, Asked(class_id, on))
        offered = [] if wanted.words else _words(here, here.newest, wanted.letters, "")
        rows += letter_rows(wanted.letters, offered)
    if wanted.words:
        rows.append(WritingRow(tuple(wanted.words), SHORT_PATTERN))
    if wanted.line:
        rows += sentence_rows(wanted.line, base, style)
    if wanted.dictation_id is not None:
        dictation = dictation_store.get(session, wanted.dictation_id)
        rows.append(SoundRow(tuple(BoxedWord(one["text"], len(one["units"])) for one in dictation.words)))
    if not rows:
        raise SheetError("a sheet is for letters, words, a line or a dictation")
    wish = replace(base, rows=tuple(rows))
    compose(wish, style, _PREVIEW)
    return NamedWish(_name(wanted), wish)


def _name(wanted: WantedFor) -> str:
    named = [*wanted.letters, *wanted.words[:3]] or ([wanted.line] if wanted.line else [])
    if not named:
        return say("sheet.ready.dictation" if wanted.dictation_id is not None else "sheet.ready.recall")
    return listed(named)[:60]


def preview(session: Session, class_id: int, wish: SheetWish, on: date, child: str = "") -> SheetPreview:
    """How a sheet of a class looks, with what fits.

    Raises
    ------
    NotFoundError, SheetError
    """
    made = _made(session, class_id, wish, on, child)
    pages = len(made.pages)
    return SheetPreview(
        pages=[
            page_svg(one, say("sheet.page", page=one.number, pages=pages), wish.printing)
            for one in made.pages
        ],
        width_mm=wish.size_mm[0],
        height_mm=wish.size_mm[1],
        rows=[sheet_words.row(row, fit) for row, fit in zip(wish.rows, made.fit, strict=True)],
        places=_places(made),
        room=say("sheet.room", room=round(made.room_mm)),
    )


def picture(session: Session, class_id: int, wish: SheetWish, page: int, on: date) -> bytes:
    """A page of a sheet as PNG; the last one where it has fewer.

    Raises
    ------
    NotFoundError, SheetError
    """
    pages = _made(session, class_id, wish, on, "").pages
    return page_png(pages[min(page, len(pages)) - 1], wish.printing)


def _made(session: Session, class_id: int, wish: SheetWish, on: date, child: str) -> Sheet:
    printed = printed_in(session, on, child)
    return compose(wish, style_of_class(session, class_id), _PREVIEW, printed=printed)


def _places(made: Sheet) -> list[RowPlace]:
    return [
        RowPlace(number, page.number, top, bottom) for page in made.pages for number, top, bottom in page.rows
    ]
