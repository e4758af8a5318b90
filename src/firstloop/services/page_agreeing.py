"""Pages that the teacher agrees with become rows and words of a child, and are taken out again.

The rows and words are those that any child writes: marked, charted and exported alike. They show the page
itself, since their places on it are known.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime, time, timedelta
from itertools import groupby
from uuid import uuid4

from sqlalchemy.orm import Session

from firstloop.core.ink import Evidence
from firstloop.core.letterforms.library import letter
from firstloop.core.progress.measured import measured_of_text
from firstloop.core.scanning.find import Status
from firstloop.core.scanning.states import Found
from firstloop.core.slots import slot_width_xh
from firstloop.core.supports import Support
from firstloop.formats.check_json import moved_group, moved_letter
from firstloop.services import evidence
from firstloop.services.page_views import WRITTEN
from firstloop.store import pages as store
from firstloop.store.base import line_columns
from firstloop.store.days import Key
from firstloop.store.errors import ConflictError
from firstloop.store.page_tables import PageEntry, ReturnedPage
from firstloop.store.school import school_time
from firstloop.store.styles import read, style_like
from firstloop.store.tables import Attempt, HouseStyleRow, Mark, Result, Row, WrittenWord

_WITHOUT_HELP = (Support.ALONE, Support.RING)
_NOON = time(12)
_WORD_LEFT_XH = 1.0  # clear paper before a word


def agree(session: Session, page_ids: Sequence[int], at: datetime) -> None:
    """Let pages into the records: each letter and word where it belongs.

    Where one of them cannot be let in, none is. Each goes in a step of its own, so that no child who writes
    waits for all of them; a kill in between leaves the rest in the pile. Places that are empty, or that
    nobody could make anything of, are left out.

    Raises
    ------
    NotFoundError
    ConflictError
        If one of them is in the records already, was thrown away, could not be read, or is nobody's.
    """
    pages = [store.get(session, page_id) for page_id in dict.fromkeys(page_ids)]
    for page in pages:
        _checked(page)
    for page in pages:
        store.hold(session, page)
        try:
            _checked(page)
        except ConflictError:
            session.rollback()
            raise
        page.agreed_at = at
        _put_in(session, page, at)
        session.commit()
    for child_id in {page.child_id for page in pages}:
        evidence.work_out_all(session, child_id)


def _checked(page: ReturnedPage) -> None:
    if page.agreed_at is not None:
        raise ConflictError("One of these pages is in the records already.")
    if page.dropped_at is not None:
        raise ConflictError("One of these pages was thrown away. Bring it back first.")
    if page.status != Status.READ or page.layout is None:
        raise ConflictError("One of these pages could not be read yet.")
    if page.child is None:
        raise ConflictError("Of one of these pages nobody knows whose it is.")


def _put_in(session: Session, page: ReturnedPage, at: datetime) -> None:
    assert page.style is not None
    style = style_like(session, page.style, at)
    written_at = _moment(session, page)
    for (_, char), entries in groupby(_letters(page), key=lambda one: (one.row, one.expected)):
        _add_row(session, page, char, list(entries), style, written_at, at)
    for entry in page.entries:
        if len(entry.expected) > 1 and entry.ink and Support(entry.support) in _WITHOUT_HELP:
            _add_word(session, page, entry, style, written_at)
    session.flush()


def _moment(session: Session, page: ReturnedPage) -> datetime:
    """When a page was written: as it came in, or at noon of the day that the teacher says."""
    here = school_time(session)
    if here.day(page.came_at) == page.written_on:
        return page.came_at
    return datetime.combine(page.written_on, _NOON, here.zone)


def _letters(page: ReturnedPage) -> Iterator[PageEntry]:
    """Places for letters, those of one letter in a row beside each other."""
    letters = [one for one in page.entries if len(one.expected) == 1]
    yield from sorted(letters, key=lambda one: (one.row, one.expected, one.place))


def _add_row(
    session: Session,
    page: ReturnedPage,
    char: str,
    entries: list[PageEntry],
    style: HouseStyleRow,
    written_at: datetime,
    at: datetime,
) -> None:
    written = [one for one in entries if one.ink and one.found in (*WRITTEN, Found.CROSSED_OUT)]
    if not written:
        return
    lines = written[0].lines
    slot_mm = slot_width_xh(letter(char, read(style))) * lines.xh_mm
    row = Row(
        child_id=page.child_id,
        style_id=style.id,
        letter=char,
        started_at=written_at,
        finished_at=written_at,
        support=[one.support for one in entries],
        **line_columns(page.ruling or "", lines),
    )
    best = next((one for one in written if one.ticked), None)
    session.add(row)
    for position, entry in enumerate(written):
        left, _, right, _ = entry.box
        entry.moved_mm = round((position + 0.5) * slot_mm - (left + right) / 2, 2)
        row.attempts.append(_attempt(entry, position, entry is best, written_at, at))
    session.flush()
    for entry, attempt in zip(written, row.attempts, strict=True):
        entry.attempt = attempt


def _attempt(entry: PageEntry, position: int, best: bool, written_at: datetime, at: datetime) -> Attempt:
    verdict = entry.document.get("verdict")
    kept = Result(
        checker=entry.checker,
        level=entry.level,
        verdict=verdict or "unreadable",
        document=moved_letter(entry.document, entry.moved_mm, entry.lines.xh_mm),
        current=True,
    )
    return Attempt(
        key=uuid4().hex,
        position=position,
        support=entry.support,
        written_at=written_at + timedelta(milliseconds=position),
        ink=_moved(entry),
        evidence=str(Evidence.SCAN),
        crossed_out=entry.found == Found.CROSSED_OUT,
        best=best,
        teachers_best=entry.teachers_best,
        results=[kept],
        mark=None if entry.mark is None else Mark(verdict=entry.mark, made_at=at),
    )


def _moved(entry: PageEntry) -> list[dict[str, list[float]]]:
    return [
        {"x": [round(x + entry.moved_mm, 2) for x in stroke["x"]], "y": stroke["y"]} for stroke in entry.ink
    ]


def _add_word(
    session: Session, page: ReturnedPage, entry: PageEntry, style: HouseStyleRow, written_at: datetime
) -> None:
    if entry.found not in (*WRITTEN, Found.CROSSED_OUT):
        return
    xh_mm = entry.lines.xh_mm
    entry.moved_mm = round(_WORD_LEFT_XH * xh_mm - min(x for stroke in entry.ink for x in stroke["x"]), 2)
    document = moved_group(entry.document, entry.moved_mm, xh_mm)
    word = WrittenWord(
        child_id=page.child_id,
        text=entry.expected,
        started_at=written_at + timedelta(milliseconds=entry.row),
        style_id=style.id,
        **line_columns(page.ruling or "", entry.lines),
        ink=_moved(entry),
        evidence=str(Evidence.SCAN),
        crossed_out=entry.found == Found.CROSSED_OUT,
        checker=entry.checker,
        level=entry.level,
        document=document,
        measures=measured_of_text(document.get("measures", {}), xh_mm),
    )
    session.add(word)
    session.flush()
    entry.word = word


def take_out(session: Session, page_id: int) -> None:
    """Take a page out of the records again; it waits in the pile, with the marks that its letters had.

    Raises
    ------
    NotFoundError
    ConflictError
        If it is not in the records.
    """
    page = store.get(session, page_id)
    store.hold(session, page)
    if page.agreed_at is None:
        session.rollback()
        raise ConflictError("This page is not in the records.")
    child_id, day = page.child_id, school_time(session).day
    rows, words = store.take_out(session, page)
    keys = [Key(row.child_id, row.letter, day(row.started_at)) for row in rows]
    keys += [
        Key(word.child_id, char, day(word.started_at))
        for word in words
        for char in dict.fromkeys(word.text.replace(" ", ""))
    ]
    page.agreed_at = None
    session.commit()
    evidence.work_out(session, list(dict.fromkeys(keys)))
    evidence.work_out_all(session, child_id)
