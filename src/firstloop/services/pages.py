"""Pages that came back: brought in, read, looked at, put right. Nothing enters a child's records here."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.ink import Evidence
from firstloop.core.letterforms.document import style_from
from firstloop.core.scanning.find import Status
from firstloop.core.scanning.states import Found
from firstloop.core.supports import Support
from firstloop.formats.sheet_layout import read_layout
from firstloop.services.children import ChildView, child_view
from firstloop.services.ink import KeptStroke, to_group
from firstloop.services.judging import (
    Judge,
    RowTask,
    Terms,
    WordTask,
    class_strictness,
    here,
    judge_row,
    judge_word,
)
from firstloop.services.page_reading import TakenPage, TakenPicture
from firstloop.services.results import GroupView, LetterView, RemarkView, group_view, letter_view, remarks
from firstloop.services.row_views import Lines, lines_view
from firstloop.store import pages as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.page_tables import BroughtFile, PageEntry, Picture, ReturnedPage
from firstloop.store.pages import PrintedPage
from firstloop.store.school import school_time
from firstloop.text import say

WRITTEN = (Found.INK, Found.WRITTEN_OVER)
_UNDONE_MOST = 50
_KEPT_OF_A_STEP = ("found", "expected", "ticked", "decided", "ink", "document", "level", "checker")


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


@dataclass(frozen=True)
class Decision:
    """What a teacher says of a place; what is None stays as it is. ``strokes`` are drawn by hand."""

    found: Found | None = None
    expected: str | None = None
    ticked: bool | None = None
    strokes: list[dict[str, Any]] | None = None


def bring(session: Session, class_id: int | None, name: str, digest: str, at: datetime) -> BroughtFile:
    """Note that a file was brought in; whoever calls commits once the file itself lies safe.

    Raises
    ------
    NotFoundError, ConflictError
    """
    if class_id is not None:
        get_class(session, class_id)
    return store.add_file(session, class_id, name, digest, at)


def keep_read(session: Session, picture: Picture, taken: TakenPicture, at: datetime) -> None:
    """Keep what was read of a picture: all of it or nothing."""
    picture.image, (picture.wide_px, picture.tall_px) = taken.image, taken.size_px
    picture.read_at = at
    for one in taken.pages:
        page = ReturnedPage(
            picture_id=picture.id,
            class_id=picture.file.class_id,
            came_at=picture.file.brought_at,
            written_on=school_time(session).day(picture.file.brought_at),
            steps=[],
        )
        session.add(page)
        _put(session, page, one)
        if page.status == Status.READ:
            store.came_back(session, page, page.written_on)
    session.commit()


def cannot_read(session: Session, picture: Picture, why: str, at: datetime) -> None:
    """Note that a picture could not be read."""
    picture.read_at, picture.problem = at, why[:200]
    session.commit()


def _put(session: Session, page: ReturnedPage, taken: TakenPage) -> None:
    """What was read of a page; one whose copy and page came before is repeated and waits for a decision."""
    page.status, page.sheet, page.copy, page.page = taken.status, taken.sheet, taken.copy, taken.page
    page.to_px, page.turned_deg, page.dpi = taken.to_px, taken.turned_deg, taken.dpi
    page.residual_mm, page.straight = taken.residual_mm, taken.straight
    printed = taken.printed
    if printed is not None:
        page.class_id, page.child_id = printed.class_id, printed.child_id
        page.layout, page.style, page.ruling = printed.layout, printed.style, printed.ruling
    session.flush()  # it has its number now: it is not the one that came before
    if page.sheet and page.status == Status.READ and store.came_before(session, page) is not None:
        page.status = str(Status.REPEATED)
    page.entries = [
        PageEntry(
            key=one.key,
            row=one.row,
            place=one.place,
            expected=one.expected,
            support=one.support,
            box=list(one.box),
            **dict(zip(_LINES, (page.ruling, *one.lines), strict=True)),
            found=one.found,
            ticked=one.ticked,
            ink=one.ink,
            level=taken.level,
            checker=CHECKER_VERSION,
            document=one.document,
        )
        for one in taken.entries
    ]


_LINES = ("ruling", "rise_mm", "mid_mm", "base_mm", "drop_mm")


def pile(session: Session, class_id: int) -> Pile:
    """What came back to a class.

    Raises
    ------
    NotFoundError
    """
    files = store.files(session, get_class(session, class_id).id)
    pictures = store.pictures_of(session, [one.id for one in files])
    read = Counter(one.file_id for one in pictures if one.read_at is not None)
    shown = [_file_view(one, read[one.id], pictures) for one in files]
    pages = [_summary(session, one) for one in store.in_the_pile(session, class_id)]
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


def _summary(session: Session, page: ReturnedPage) -> PageSummary:
    found = Counter(one.found for one in page.entries)
    unclear = sum(map(_wants, page.entries))
    why = "" if page.agreed_at else _why(session, page, unclear)
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
        unclear=unclear,
        written_on=page.written_on,
        agreed=page.agreed_at is not None,
    )


def _wants(entry: PageEntry) -> bool:
    """Whether a place is for the teacher to decide: nothing could be made of what is there."""
    if entry.decided:
        return False
    return entry.found == Found.UNCLEAR or entry.document.get("verdict") == Verdict.UNREADABLE


def get(session: Session, page_id: int) -> PageView:
    """A page with everything on it.

    Raises
    ------
    NotFoundError
    """
    return _view(session, store.get(session, page_id))


def _view(session: Session, page: ReturnedPage) -> PageView:
    picture = page.picture
    size = _A4_MM if page.layout is None else page.layout["pages"][0]["size_mm"]
    return PageView(
        **vars(_summary(session, page)),
        size_mm=size,
        to_px=page.to_px,
        picture_px=None if picture is None else [picture.wide_px or 0, picture.tall_px or 0],
        entries=[_entry_view(one) for one in page.entries],
        can_undo=bool(page.steps) and page.agreed_at is None,
    )


_A4_MM = [210.0, 297.0]


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
        wants=_wants(one),
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


def decide(session: Session, page_id: int, key: str, decision: Decision, judge: Judge = here) -> PageView:
    """Put one place right; it is judged again where that changes what is to be judged.

    Raises
    ------
    NotFoundError, UnknownLetterError
    ConflictError
        If the page is in the records already.
    """
    page = _open_page(session, page_id)
    entry = store.entry_of(page, key)
    _remember(page, [entry])
    if decision.expected is not None:
        entry.expected = decision.expected
    if decision.ticked is not None:
        entry.ticked = decision.ticked
    if decision.strokes is not None:
        entry.ink = decision.strokes
        entry.found = str(Found.INK)
    if decision.found is not None:
        entry.found = str(decision.found)
    entry.decided = True
    if decision.strokes is not None or decision.expected is not None or not entry.document:
        _judge(session, page, [entry], judge)
    session.commit()
    return _view(session, page)


def _open_page(session: Session, page_id: int) -> ReturnedPage:
    page = store.get(session, page_id)
    store.hold(session, page)
    if page.agreed_at is not None:
        session.rollback()
        raise ConflictError("This page is in the records already. Take it out first, then put it right.")
    return page


def _remember(page: ReturnedPage, entries: Sequence[PageEntry]) -> None:
    before = [{"key": one.key, **{name: getattr(one, name) for name in _KEPT_OF_A_STEP}} for one in entries]
    page.steps = [*page.steps[-_UNDONE_MOST:], {"entries": before}]


def undo(session: Session, page_id: int) -> PageView:
    """Take back the last thing that was decided about the places of a page.

    Raises
    ------
    NotFoundError
    ConflictError
        If there is nothing to take back.
    """
    page = _open_page(session, page_id)
    if not page.steps:
        session.rollback()
        raise ConflictError("There is nothing to undo on this page.")
    *rest, last = page.steps
    for before in last["entries"]:
        entry = store.entry_of(page, before["key"])
        for name in _KEPT_OF_A_STEP:
            setattr(entry, name, before[name])
    page.steps = rest
    session.commit()
    return _view(session, page)


def _judge(session: Session, page: ReturnedPage, entries: Sequence[PageEntry], judge: Judge) -> None:
    """What the checker says of the ink of some places, by what holds for the page's child now."""
    assert page.style is not None
    assert page.layout is not None
    assert page.class_id is not None
    script = read_layout(page.layout).script
    strict = class_strictness(get_class(session, page.class_id), page.child)
    terms = Terms(style_from({**page.style, "script": script}), strict)
    hand = "right" if page.child is None else page.child.hand
    for one in entries:
        one.document, one.level, one.checker = {}, terms.level, CHECKER_VERSION
        if not one.ink or one.found not in WRITTEN:
            continue
        ink = to_group(one.ink, one.lines, one.expected, script, hand, Evidence.SCAN)
        if len(one.expected) == 1:
            one.document = judge(judge_row, RowTask((ink,), one.expected, terms, one.lines))[0].document
        else:
            one.document = judge(judge_word, WordTask(ink, terms)).document


def give_to(session: Session, page_id: int, child_id: int, judge: Judge = here) -> PageView:
    """Say whose page it is; it is judged again where another strictness holds for that child.

    Raises
    ------
    NotFoundError
    ConflictError
        If the page is in the records already, or of another class.
    """
    page = _open_page(session, page_id)
    child = get_child(session, child_id)
    if page.class_id not in (None, child.class_id):
        session.rollback()
        raise ConflictError("This page is of another class than the child.")
    page.child, page.class_id = child, child.class_id
    level = class_strictness(child.school_class, child).level
    if page.layout is not None and any(one.level != level for one in page.entries):
        _judge(session, page, page.entries, judge)
    session.commit()
    return _view(session, page)


def date_it(session: Session, page_id: int, written_on: date, at: datetime) -> PageView:
    """Say on which day a page was written.

    Raises
    ------
    NotFoundError
    ConflictError
        If the page is in the records already, or the day is still to come.
    """
    page = _open_page(session, page_id)
    if written_on > school_time(session).day(at):
        session.rollback()
        raise ConflictError("This day is still to come.")
    page.written_on = written_on
    session.commit()
    return _view(session, page)


def take_instead(session: Session, page_id: int) -> PageView:
    """Take a page that came twice in place of the one that came before, which is thrown away.

    Raises
    ------
    NotFoundError
    ConflictError
        If the one before is in the records already.
    """
    page = _open_page(session, page_id)
    before = store.came_before(session, page)
    if before is not None and before.agreed_at is not None:
        session.rollback()
        raise ConflictError("The page that came before is in the records. Take it out first.")
    if before is not None:
        before.dropped_at = page.came_at
    if page.status == Status.REPEATED:
        page.status = str(Status.READ)
    session.commit()
    return _view(session, page)


def throw_away(session: Session, page_id: int, at: datetime) -> None:
    """Throw a page away; for as long as pictures are kept it can be brought back.

    Raises
    ------
    NotFoundError
    ConflictError
        If it is in the records.
    """
    page = _open_page(session, page_id)
    page.dropped_at = at
    session.commit()


def bring_back(session: Session, page_id: int) -> PageView:
    """Bring a page back that was thrown away.

    Raises
    ------
    NotFoundError, ConflictError
    """
    page = _open_page(session, page_id)
    page.dropped_at = None
    if page.status == Status.READ and page.sheet and store.came_before(session, page) is not None:
        page.status = str(Status.REPEATED)
    session.commit()
    return _view(session, page)


def read_again(
    session: Session,
    page_id: int,
    named: tuple[str, int, int] | None,
    read: Callable[[bytes], TakenPage],
) -> PageView:
    """Read a page once more, as what a person says it is; the page is a new one then, in place of the old.

    Parameters
    ----------
    named : (sheet, copy, page) or None
        What the code on it would say; None of writing that is on no sheet.
    read : callable
        Reads the picture it is in.

    Raises
    ------
    NotFoundError
    ConflictError
        If the page is in the records already, or its picture was thrown away.
    """
    page = _open_page(session, page_id)
    session.rollback()  # nobody else waits while it is read
    picture = page.picture
    if picture is None or picture.image is None:
        raise ConflictError("The picture of this page is not there any more.")
    taken = read(picture.image)
    page = _open_page(session, page_id)
    made = ReturnedPage(
        picture_id=page.picture_id, came_at=page.came_at, written_on=page.written_on, steps=[]
    )
    session.delete(page)
    session.flush()
    session.add(made)
    if named is not None:
        taken = replace(taken, sheet=named[0], copy=named[1], page=named[2])
    _put(session, made, taken)
    if named is not None and made.status == Status.READ:
        store.came_back(session, made, made.written_on)
    session.commit()
    return _view(session, made)


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
    found = store.get(session, page_id).picture
    if found is None or found.image is None:
        raise ConflictError("The picture of this page is not there any more.")
    return found.image


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


def dismiss(session: Session, file_id: int) -> None:
    """Let go of a file that could not be opened, or of whose pictures some could not be read.

    Raises
    ------
    NotFoundError
    ConflictError
        If something of it is still to be read.
    """
    file = store.get_file(session, file_id)
    if store.is_needed(session, file_id):
        raise ConflictError("Something of this file is still to be read.")
    store.drop_file(session, file)
    session.commit()


def set_stopped(session: Session, class_id: int, stopped: bool) -> Pile:
    """Leave what is still to be read of a class for now, or go on with it.

    Raises
    ------
    NotFoundError
    """
    store.set_stopped(session, get_class(session, class_id).id, stopped)
    session.commit()
    return pile(session, class_id)


def pictures_days(session: Session) -> int:
    """For how many days pictures of pages are kept once the teacher has decided about them."""
    return store.pictures_days(session)


def keep_pictures(session: Session, days: int) -> None:
    """Keep pictures of pages for so many days once the teacher has decided about them."""
    store.keep_pictures(session, days)
    session.commit()


def forget_the_old(session: Session, at: datetime) -> int:
    """Let go of pictures that were decided about longer ago than they are kept; of how many."""
    gone = store.forget_pictures(session, at - timedelta(days=store.pictures_days(session)))
    session.commit()
    return gone
