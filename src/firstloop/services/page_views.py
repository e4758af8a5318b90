"""Pages that came back, as they are shown: the pile, one page with its places, their pictures."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.scanning.find import Status
from firstloop.core.scanning.states import Found
from firstloop.core.supports import Support
from firstloop.services.children import ChildView, child_view
from firstloop.services.ink import KeptStroke
from firstloop.services.results import GroupView, LetterView, RemarkView, group_view, letter_view, remarks
from firstloop.services.row_views import Lines, lines_view
from firstloop.store import pages as store
from firstloop.store.classes import get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.page_tables import BroughtFile, PageEntry, Picture, ReturnedPage
from firstloop.store.pages import Places, PrintedPage
from firstloop.text import say

WRITTEN = (Found.INK, Found.WRITTEN_OVER)
_A4_MM = [210.0, 297.0]
_AGREED_SHOWN, _BATCH = timedelta(days=14), timedelta(hours=1)


@dataclass(frozen=True)
class FileView:
    """A file that was brought in: how many of its pictures are read, and why it could not be opened."""

    id: int
    name: str
    brought_at: datetime
    pictures: int | None
    read: int
    problem: str | None
    stopped: bool


@dataclass(frozen=True)
class PageSummary:
    """A page in the pile.

    ``wants``: something about it is for the teacher to decide; ``why`` says what. ``written``,
    ``crossed_out``, ``empty`` and ``unclear`` count its places.
    """

    id: int
    status: Status
    wants: bool
    why: str
    child: ChildView | None
    sheet: str | None
    page: int | None
    has_straight: bool
    picture_id: int | None
    written: int
    crossed_out: int
    empty: int
    unclear: int
    written_on: date
    agreed: bool


@dataclass(frozen=True)
class Pile:
    """What came back to a class and was not thrown away: what wants the teacher first."""

    files: list[FileView]
    pages: list[PageSummary]
    to_read: int
    read: int
    stopped: bool


@dataclass(frozen=True)
class EntryView:
    """A place of a page; ``letter`` or ``group`` is null where nothing was judged."""

    key: str
    row: int
    place: int
    expected: str
    support: Support
    box: list[float]
    lines: Lines
    found: Found
    ticked: bool
    decided: bool
    wants: bool
    strokes: list[KeptStroke]
    verdict: Verdict | None
    letter: LetterView | None
    group: GroupView | None
    to_say: list[RemarkView]


@dataclass(frozen=True)
class PageView(PageSummary):
    """A page looked at.

    ``size_mm`` is of its paper, ``to_px`` says how that lies in the picture, which is ``picture_px`` large.
    """

    size_mm: list[float]
    to_px: list[list[float]] | None
    picture_px: list[int] | None
    entries: list[EntryView]
    can_undo: bool


def pile(session: Session, class_id: int, at: datetime) -> Pile:
    """What came back to a class; of what is in the records only what was agreed with of late.

    Raises
    ------
    NotFoundError
    """
    files = store.files(session, get_class(session, class_id).id, at - _BATCH)
    pictures = store.pictures_of(session, [one.id for one in files])
    read = Counter(one.file_id for one in pictures if one.read_at is not None)
    shown = [_file_view(one, read[one.id], pictures) for one in files]
    found = store.in_the_pile(session, class_id, at - _AGREED_SHOWN)
    places = store.places(session, [one.id for one in found])
    pages = [_summary(session, one, places[one.id]) for one in found]
    waiting = sum(one.pictures is None and one.problem is None for one in files)
    return Pile(
        files=[one for one in shown if one.problem or one.read < (one.pictures or 1)],
        pages=sorted(pages, key=lambda one: (one.agreed, not one.wants)),
        to_read=waiting + sum(one.read_at is None for one in pictures),
        read=sum(read.values()),
        stopped=any(one.stopped and one.read < (one.pictures or 1) for one in shown),
    )


def _file_view(file: BroughtFile, read: int, pictures: Sequence[Picture]) -> FileView:
    why = file.problem or next(
        (one.problem for one in pictures if one.file_id == file.id and one.problem), None
    )
    return FileView(file.id, file.name, file.brought_at, file.pictures, read, why, file.stopped)


def _why(session: Session, page: ReturnedPage, unclear: int) -> str:
    """What there is to decide about a page, in a sentence; nothing where all is clear."""
    status, code = Status(page.status), page.sheet or ""
    if status is Status.OTHER_SHEET and store.knows_sheet(session, code):
        return say("pages.why.copy-gone", code=code)
    if status is Status.OTHER_SHEET:
        return say("pages.why.other-sheet", code=code)
    if status is not Status.READ:
        return say(f"pages.why.{status}")
    if page.child_id is None:
        return say("pages.why.whose")
    return say("pages.why.unclear", count=unclear) if unclear else ""


def _summary(session: Session, page: ReturnedPage, places: Places) -> PageSummary:
    found = places.found
    why = "" if page.agreed_at else _why(session, page, places.unclear)
    return PageSummary(
        id=page.id,
        status=Status(page.status),
        wants=bool(why),
        why=why,
        child=None if page.child is None else child_view(page.child),
        sheet=page.sheet,
        page=page.page,
        has_straight=page.to_px is not None,
        picture_id=page.picture_id,
        written=sum(found[one] for one in WRITTEN),
        crossed_out=found[Found.CROSSED_OUT],
        empty=found[Found.EMPTY],
        unclear=places.unclear,
        written_on=page.written_on,
        agreed=page.agreed_at is not None,
    )


def get(session: Session, page_id: int) -> PageView:
    """A page with everything on it.

    Raises
    ------
    NotFoundError
    """
    return page_view(session, store.get(session, page_id))


def page_view(session: Session, page: ReturnedPage) -> PageView:
    """A page to be shown with everything on it."""
    picture = page.picture
    size = _A4_MM if page.layout is None else page.layout["pages"][0]["size_mm"]
    return PageView(
        **vars(_summary(session, page, store.places(session, [page.id])[page.id])),
        size_mm=size,
        to_px=page.to_px,
        picture_px=None if picture is None else [picture.wide_px or 0, picture.tall_px or 0],
        entries=[_entry_view(one) for one in page.entries],
        can_undo=bool(page.steps) and page.agreed_at is None,
    )


def _entry_view(one: PageEntry) -> EntryView:
    xh_mm, document = one.lines.xh_mm, one.document
    letter = letter_view(document, xh_mm) if document and "verdict" in document else None
    group = group_view(document, xh_mm) if document and letter is None else None
    return EntryView(
        key=one.key,
        row=one.row,
        place=one.place,
        expected=one.expected,
        support=Support(one.support),
        box=one.box,
        lines=lines_view(one.lines),
        found=Found(one.found),
        ticked=one.ticked,
        decided=one.decided,
        wants=one.wants,
        strokes=one.ink,  # type: ignore[arg-type]  # as it was kept
        verdict=None if letter is None else letter.verdict,
        letter=letter,
        group=group,
        to_say=[] if group is None else remarks(group),
    )


def straight(session: Session, page_id: int) -> bytes:
    """A page made straight, as JPEG.

    Raises
    ------
    NotFoundError
    ConflictError
        If there is none.
    """
    found = store.get(session, page_id).straight
    if found is None:
        raise ConflictError("This page could not be made straight yet.")
    return found


def picture(session: Session, picture_id: int) -> bytes:
    """A picture as it came, in grey, as JPEG.

    Raises
    ------
    NotFoundError
    ConflictError
        If it was thrown away by now.
    """
    found = store.get_picture(session, picture_id).image
    if found is None:
        raise ConflictError("This picture was thrown away when it was old. The straight page is kept.")
    return found


def printed_page(session: Session, sheet: str, copy: int, page: int) -> PrintedPage:
    """What the records know of a page that was printed.

    Raises
    ------
    NotFoundError
    """
    found = store.printed_page(session, sheet, copy, page)
    if found is None:
        raise NotFoundError("page of a printed sheet", f"{sheet}, copy {copy}, page {page}")
    return found


def image_of(session: Session, page_id: int) -> bytes:
    """The picture that a page is in, as JPEG.

    Raises
    ------
    NotFoundError
    ConflictError
        If it is not there any more.
    """
    found = store.get(session, page_id).picture_id
    if found is None:
        raise ConflictError("The picture of this page is not there any more.")
    return picture(session, found)


def how_it_lies(session: Session, page_id: int) -> list[list[float]]:
    """How a page lies in its picture, as it was found.

    Raises
    ------
    NotFoundError
    ConflictError
        If it was not found.
    """
    found = store.get(session, page_id).to_px
    if found is None:
        raise ConflictError("Where this page lies in the picture is not known: say where its corners are.")
    return found
