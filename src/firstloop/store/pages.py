"""Pages that came back: files brought in, pictures to be read, pages, and letting go of old pictures."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any

from sqlalchemy import ColumnElement, delete, exists, func, or_, select, update
from sqlalchemy.orm import Session, defer, joinedload, selectinload

from firstloop.core.scanning.find import Status
from firstloop.core.scanning.states import Found
from firstloop.store.base import Base
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.page_tables import BroughtFile, PageEntry, Picture, ReturnedPage
from firstloop.store.school import THE_SCHOOL
from firstloop.store.sheets import unpacked
from firstloop.store.tables import Attempt, Child, Row, School, WrittenWord
from firstloop.store.teaching_tables import PrintedSheet, SheetCopy


def add_file(session: Session, class_id: int | None, name: str, digest: str, at: datetime) -> BroughtFile:
    """Note that a file was brought in.

    Raises
    ------
    ConflictError
        If the very same file was brought in before and is still here.
    """
    known = session.scalar(select(BroughtFile).where(BroughtFile.digest == digest))
    if known is not None:
        raise ConflictError(f"This very file is here already, as {known.name}. It was not taken in again.")
    made = BroughtFile(class_id=class_id, name=name, digest=digest, brought_at=at)
    session.add(made)
    session.flush()
    return made


def get_file(session: Session, file_id: int) -> BroughtFile:
    """A file that was brought in.

    Raises
    ------
    NotFoundError
    """
    found = session.get(BroughtFile, file_id)
    if found is None:
        raise NotFoundError("file", file_id)
    return found


def files(session: Session, class_id: int, since: datetime) -> Sequence[BroughtFile]:
    """Files of a class, and those of which nobody knows the class yet, the earliest first.

    Those brought in since then, and earlier ones that are not done with: something of them is still to be
    read, or could not be.
    """
    of_it = Picture.file_id == BroughtFile.id
    open_pictures = exists().where(of_it, or_(Picture.read_at.is_(None), Picture.problem.is_not(None)))
    not_done = or_(BroughtFile.pictures.is_(None), BroughtFile.problem.is_not(None), open_pictures)
    query = select(BroughtFile).where(
        _of_class(BroughtFile.class_id, class_id), or_(BroughtFile.brought_at >= since, not_done)
    )
    return session.scalars(query.order_by(BroughtFile.id)).all()


def unopened(session: Session) -> Sequence[BroughtFile]:
    """Files whose pictures nobody has counted, the earliest first."""
    query = select(BroughtFile).where(
        BroughtFile.pictures.is_(None), BroughtFile.problem.is_(None), ~BroughtFile.stopped
    )
    return session.scalars(query.order_by(BroughtFile.id)).all()


def opened(session: Session, file: BroughtFile, pictures: int) -> None:
    """Note how many pictures a file has: all are to be read."""
    file.pictures = pictures
    session.add_all(Picture(file_id=file.id, number=number) for number in range(1, pictures + 1))
    session.flush()


def unread(session: Session, limit: int) -> Sequence[Picture]:
    """The next pictures to be read."""
    return session.scalars(
        select(Picture)
        .join(Picture.file)
        .where(Picture.read_at.is_(None), ~BroughtFile.stopped)
        .order_by(Picture.file_id, Picture.number)
        .limit(limit)
        .options(joinedload(Picture.file))
    ).all()


def is_all_read(session: Session, file_id: int) -> bool:
    """Whether no picture of a file is still to be read: then the file itself is not needed any more."""
    rest = select(Picture.id).where(Picture.file_id == file_id, Picture.read_at.is_(None))
    return session.scalar(rest.limit(1)) is None


def is_needed(session: Session, file_id: int) -> bool:
    """Whether a file is in the records and something of it is still to be read."""
    file = session.get(BroughtFile, file_id)
    if file is None or file.problem is not None:
        return False
    return file.pictures is None or not is_all_read(session, file_id)


def pictures_of(session: Session, file_ids: Iterable[int]) -> Sequence[Picture]:
    """The pictures of some files, in order."""
    query = select(Picture).where(Picture.file_id.in_(list(file_ids)))
    return session.scalars(query.order_by(Picture.file_id, Picture.number)).all()


def get_picture(session: Session, picture_id: int) -> Picture:
    """A picture.

    Raises
    ------
    NotFoundError
    """
    found = session.get(Picture, picture_id)
    if found is None:
        raise NotFoundError("picture", picture_id)
    return found


def drop_unread(session: Session, file: BroughtFile) -> None:
    """Let go of those pictures of a file that could not be read, and of the file if no other is in it.

    Pictures with pages stay with these.
    """
    bad = delete(Picture).where(Picture.file_id == file.id, Picture.problem.is_not(None))
    session.execute(bad)
    file.pictures = len(pictures_of(session, [file.id]))
    if not file.pictures:
        session.delete(file)


def set_stopped(session: Session, class_id: int, stopped: bool) -> None:
    """Leave what is still to be read of a class, or go on with it."""
    query = update(BroughtFile).where(_of_class(BroughtFile.class_id, class_id))
    session.execute(query.values(stopped=stopped))


def _of_class(column: Any, class_id: int) -> Any:
    return or_(column == class_id, column.is_(None))


def in_the_pile(session: Session, class_id: int, agreed_since: datetime) -> Sequence[ReturnedPage]:
    """Pages of a class that are not thrown away, and those of which nobody knows the class.

    Without their places, and of those in the records only what was agreed with since then.
    """
    light = (ReturnedPage.layout, ReturnedPage.style, ReturnedPage.steps)
    return session.scalars(
        select(ReturnedPage)
        .where(
            _of_class(ReturnedPage.class_id, class_id),
            ReturnedPage.dropped_at.is_(None),
            or_(ReturnedPage.agreed_at.is_(None), ReturnedPage.agreed_at >= agreed_since),
        )
        .order_by(ReturnedPage.id)
        .options(joinedload(ReturnedPage.child), *map(defer, light))
    ).all()


@dataclass
class Places:
    """What was found in the places of a page: how often each, and how many are for a person to decide."""

    found: Counter[str] = field(default_factory=Counter)
    unclear: int = 0


def places(session: Session, page_ids: Sequence[int]) -> dict[int, Places]:
    """What was found in the places of some pages, by page."""
    counted = (
        select(PageEntry.page_id, PageEntry.found, PageEntry.wants, func.count())
        .where(PageEntry.page_id.in_(page_ids))
        .group_by(PageEntry.page_id, PageEntry.found, PageEntry.wants)
    )
    out: defaultdict[int, Places] = defaultdict(Places)
    for page_id, found, is_wanted, count in session.execute(counted):
        out[page_id].found[found] += count
        out[page_id].unclear += count if is_wanted else 0
    return out


def how_many_wait(session: Session, class_id: int) -> int:
    """How many pages of a class are neither in the records nor thrown away."""
    query = select(func.count(ReturnedPage.id)).where(
        _of_class(ReturnedPage.class_id, class_id),
        ReturnedPage.dropped_at.is_(None),
        ReturnedPage.agreed_at.is_(None),
    )
    return session.scalar(query) or 0


def get(session: Session, page_id: int) -> ReturnedPage:
    """A page with its places.

    Raises
    ------
    NotFoundError
    """
    found = session.get(ReturnedPage, page_id, options=[selectinload(ReturnedPage.entries)])
    if found is None:
        raise NotFoundError("page", page_id)
    return found


def entry_of(page: ReturnedPage, key: str) -> PageEntry:
    """A place of a page.

    Raises
    ------
    NotFoundError
    """
    found = next((one for one in page.entries if one.key == key), None)
    if found is None:
        raise NotFoundError("place on this page", key)
    return found


@dataclass(frozen=True)
class PrintedPage:
    """What the records know of a code: whose copy it is, and where everything on the page is."""

    class_id: int
    child_id: int | None
    style: dict[str, Any]
    ruling: str
    layout: dict[str, Any]


def printed_page(session: Session, code: str, copy: int, page: int) -> PrintedPage | None:
    """The page of a sheet that was printed from these records; None where they do not know it."""
    found = session.scalar(
        select(SheetCopy)
        .join(SheetCopy.sheet)
        .where(PrintedSheet.code == code, SheetCopy.number == copy)
        .options(joinedload(SheetCopy.sheet))
    )
    if found is None:
        return None
    layout = unpacked(found.layout)
    pages = [one for one in layout["pages"] if one["page"] == page]
    if not pages:
        return None
    ruling = str(found.wish.get("ruling", "four-lines"))
    return PrintedPage(
        found.sheet.class_id, found.child_id, found.sheet.style, ruling, {**layout, "pages": pages}
    )


def knows_sheet(session: Session, code: str) -> bool:
    """Whether a sheet of this code was printed from these records."""
    return session.scalar(select(PrintedSheet.id).where(PrintedSheet.code == code)) is not None


def came_before(session: Session, page: ReturnedPage) -> ReturnedPage | None:
    """The page with the same code that was read before this one, if it was not thrown away."""
    return session.scalar(
        select(ReturnedPage)
        .where(
            ReturnedPage.sheet == page.sheet,
            ReturnedPage.copy == page.copy,
            ReturnedPage.page == page.page,
            ReturnedPage.status == Status.READ,
            ReturnedPage.dropped_at.is_(None),
            ReturnedPage.id != (page.id or 0),
        )
        .order_by(ReturnedPage.id)
        .limit(1)
    )


def came_back(session: Session, page: ReturnedPage, on: date) -> None:
    """Note of the copy that a page is of that it came back."""
    copy = session.scalar(
        select(SheetCopy)
        .join(SheetCopy.sheet)
        .where(PrintedSheet.code == page.sheet, SheetCopy.number == page.copy)
    )
    if copy is not None and copy.back_on is None:
        copy.back_on = on


def hold(session: Session, page: ReturnedPage) -> None:
    """Have a page to oneself until the commit, as it is now."""
    session.execute(update(ReturnedPage).where(ReturnedPage.id == page.id).values(status=ReturnedPage.status))
    session.refresh(page)
    places = select(PageEntry).where(PageEntry.page_id == page.id)
    session.scalars(places.execution_options(populate_existing=True)).all()


@dataclass(frozen=True)
class Paper:
    """Where a letter or word in the records stands on a page: so far right of it stands its ink there."""

    page_id: int
    key: str
    moved_mm: float
    size_mm: list[float]


def papers(
    session: Session, attempt_ids: Sequence[int] = (), word_ids: Sequence[int] = ()
) -> dict[int, Paper]:
    """The pages that some letters, or some words, came from, by their numbers."""
    column, ids = (PageEntry.attempt_id, attempt_ids) if attempt_ids else (PageEntry.word_id, word_ids)
    if not ids:
        return {}
    found = session.execute(
        select(column, PageEntry.page_id, PageEntry.key, PageEntry.moved_mm, ReturnedPage.layout)
        .join(PageEntry.page)
        .where(column.in_(ids))
    )
    return {
        number: Paper(page_id, key, moved, layout["pages"][0]["size_mm"])
        for number, page_id, key, moved, layout in found
    }


def take_out(session: Session, page: ReturnedPage) -> tuple[list[Row], list[WrittenWord]]:
    """Take what a page became out of the records; its ink and the teacher's marks stay with the page.

    Returns
    -------
    rows, words
        Those that were there, already deleted.
    """
    rows: dict[int, Row] = {}
    words = []
    for entry in page.entries:
        if entry.attempt is not None:
            _remember(entry, entry.attempt)
            rows[entry.attempt.row_id] = entry.attempt.row
        if entry.word is not None:
            words.append(entry.word)
        entry.attempt_id = entry.word_id = None
        entry.attempt = entry.word = None
    for one in (*rows.values(), *words):
        session.delete(one)
    session.flush()
    return list(rows.values()), words


def _remember(entry: PageEntry, attempt: Attempt) -> None:
    entry.mark = None if attempt.mark is None else attempt.mark.verdict
    entry.teachers_best, entry.ticked = attempt.teachers_best, attempt.best
    if attempt.crossed_out:
        entry.found = str(Found.CROSSED_OUT)
    elif entry.found == Found.CROSSED_OUT:
        entry.found = str(Found.INK)


def pictures_days(session: Session) -> int:
    """For how many days pictures are kept once the teacher has decided."""
    found = session.get(School, THE_SCHOOL)
    return 30 if found is None else found.pictures_days


def keep_pictures(session: Session, days: int) -> None:
    """Keep pictures for so many days once the teacher has decided."""
    session.execute(update(School).where(School.id == THE_SCHOOL).values(pictures_days=days))


def forget_pictures(session: Session, before: datetime) -> int:
    """Let go of pictures about all of whose pages the teacher decided before then; of how many.

    Pages that were thrown away go with them; of the others the straight page and the ink stay.
    """
    decided = func.coalesce(ReturnedPage.dropped_at, ReturnedPage.agreed_at)
    mine = ReturnedPage.picture_id == Picture.id
    waiting = exists().where(mine, or_(decided.is_(None), decided >= before))
    # looked for first: as a rule there is none, and nothing is written then
    old = session.scalars(
        select(Picture.id).where(Picture.image.is_not(None), exists().where(mine), ~waiting)
    ).all()
    if old:
        session.execute(update(Picture).where(Picture.id.in_(old)).values(image=None))
    _delete(session, ReturnedPage, ReturnedPage.dropped_at < before)
    _delete(session, BroughtFile, BroughtFile.brought_at < before, *_nothing_left_of_a_file())
    return len(old)


def _nothing_left_of_a_file() -> tuple[ColumnElement[bool], ...]:
    """Of a file that was opened, or could not be: that all its pictures are read, and none has a page."""
    has_page = exists().where(ReturnedPage.picture_id == Picture.id)
    needed = exists().where(Picture.file_id == BroughtFile.id, or_(Picture.read_at.is_(None), has_page))
    return or_(BroughtFile.pictures.is_not(None), BroughtFile.problem.is_not(None)), ~needed


def _delete(session: Session, table: type[Base], *which: ColumnElement[bool]) -> None:
    ids = session.scalars(select(table.id).where(*which)).all()  # type: ignore[attr-defined]  # all have one
    if ids:
        session.execute(delete(table).where(table.id.in_(ids)))  # type: ignore[attr-defined]


def erase_pictures_of(session: Session, child: Child) -> None:
    """Leave no picture of a child: whole pictures too, whoever else is in them. Pages go with the child."""
    own = select(ReturnedPage.picture_id).where(ReturnedPage.child_id == child.id)
    session.execute(update(Picture).where(Picture.id.in_(own)).values(image=None))
