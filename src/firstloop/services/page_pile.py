"""The pile of pages: files brought in, what was read of them, read again, and let go of when they are old."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.scanning.find import Status
from firstloop.services.page_reading import TakenPage, TakenPicture
from firstloop.services.page_views import PageView, Pile, page_view, pile
from firstloop.services.pages import open_page
from firstloop.store import pages as store
from firstloop.store.base import LINES
from firstloop.store.classes import get_class
from firstloop.store.errors import ConflictError
from firstloop.store.page_tables import BroughtFile, PageEntry, Picture, ReturnedPage
from firstloop.store.school import school_time


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
            **dict(zip(LINES, (page.ruling, *one.lines), strict=True)),
            found=one.found,
            ticked=one.ticked,
            ink=one.ink,
            level=taken.level,
            checker=CHECKER_VERSION,
            document=one.document,
        )
        for one in taken.entries
    ]


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
    page = open_page(session, page_id)
    session.rollback()  # nobody else waits while it is read
    picture = page.picture
    if picture is None or picture.image is None:
        raise ConflictError("The picture of this page is not there any more.")
    taken = read(picture.image)
    page = open_page(session, page_id)
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
    return page_view(session, made)


def dismiss(session: Session, file_id: int) -> None:
    """Let go of a file that could not be opened, or of those of its pictures that could not be read.

    Pages that were read of it keep their pictures.

    Raises
    ------
    NotFoundError
    ConflictError
        If something of it is still to be read.
    """
    file = store.get_file(session, file_id)
    if store.is_needed(session, file_id):
        raise ConflictError("Something of this file is still to be read.")
    store.drop_unread(session, file)
    session.commit()


def set_stopped(session: Session, class_id: int, stopped: bool, at: datetime) -> Pile:
    """Leave what is still to be read of a class for now, or go on with it.

    Raises
    ------
    NotFoundError
    """
    store.set_stopped(session, get_class(session, class_id).id, stopped)
    session.commit()
    return pile(session, class_id, at)


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
