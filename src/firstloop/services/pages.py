"""Pages put right by a person, place by place and as a whole. Nothing enters a child's records here."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.ink import Evidence
from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.words import word as word_model
from firstloop.core.ruling import Ruling
from firstloop.core.scanning.find import Status
from firstloop.core.scanning.states import Found
from firstloop.formats.sheet_layout import read_layout
from firstloop.services.ink import to_group
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
from firstloop.services.page_views import WRITTEN, PageView, page_view
from firstloop.store import pages as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.errors import ConflictError
from firstloop.store.page_tables import PageEntry, ReturnedPage
from firstloop.store.school import school_time
from firstloop.store.tables import Child

_UNDONE_MOST = 50
_KEPT_OF_A_STEP = ("found", "expected", "ticked", "decided", "ink", "document", "level", "checker")


@dataclass(frozen=True)
class Decision:
    """What a teacher says of a place; what is None stays as it is. ``strokes`` are drawn by hand."""

    found: Found | None = None
    expected: str | None = None
    ticked: bool | None = None
    strokes: list[dict[str, Any]] | None = None


def decide(session: Session, page_id: int, key: str, decision: Decision, judge: Judge = here) -> PageView:
    """Put one place right; it is judged again where that changes what is to be judged.

    Raises
    ------
    NotFoundError, UnknownLetterError
    ConflictError
        If the page is in the records already.
    """
    page = _not_in_the_records(store.get(session, page_id))
    entry = store.entry_of(page, key)
    wanted = {**_kept(entry), **_changes(page, decision), "decided": True}
    if decision.strokes is not None or decision.expected is not None or not wanted["document"]:
        wanted |= _judged(session, page, page.child, _Place(entry.lines, wanted), judge)
    page = open_page(session, page_id)
    entry = store.entry_of(page, key)
    _remember(page, entry)
    _set(entry, wanted)
    session.commit()
    return page_view(session, page)


def _changes(page: ReturnedPage, decision: Decision) -> dict[str, Any]:
    """What a decision makes of a place, by the names of its columns."""
    changes: dict[str, Any] = {}
    if decision.expected is not None:
        changes["expected"] = _known(page, " ".join(decision.expected.split()))
    if decision.ticked is not None:
        changes["ticked"] = decision.ticked
    if decision.strokes is not None:
        changes |= {"ink": decision.strokes, "found": str(Found.INK)}
    if decision.found is not None:
        changes["found"] = str(decision.found)
    return changes


def _known(page: ReturnedPage, text: str) -> str:
    """A text, once the page's house style is found to draw it.

    Raises
    ------
    UnknownLetterError
    """
    assert page.style is not None
    word_model(text, style_from(page.style))
    return text


def open_page(session: Session, page_id: int) -> ReturnedPage:
    """A page to oneself until the commit, that is not in the records. Nobody else writes until then.

    Raises
    ------
    NotFoundError, ConflictError
    """
    page = store.get(session, page_id)
    store.hold(session, page)
    try:
        return _not_in_the_records(page)
    except ConflictError:
        session.rollback()
        raise


def _not_in_the_records(page: ReturnedPage) -> ReturnedPage:
    if page.agreed_at is not None:
        raise ConflictError("This page is in the records already. Take it out first, then put it right.")
    return page


def _kept(entry: PageEntry) -> dict[str, Any]:
    return {name: getattr(entry, name) for name in _KEPT_OF_A_STEP}


def _set(entry: PageEntry, values: Mapping[str, Any]) -> None:
    for name, value in values.items():
        setattr(entry, name, value)


def _remember(page: ReturnedPage, entry: PageEntry) -> None:
    page.steps = [*page.steps[-_UNDONE_MOST:], {"key": entry.key, **_kept(entry)}]


def undo(session: Session, page_id: int) -> PageView:
    """Take back the last thing that was decided about the places of a page.

    Raises
    ------
    NotFoundError
    ConflictError
        If there is nothing to take back.
    """
    page = open_page(session, page_id)
    if not page.steps:
        session.rollback()
        raise ConflictError("There is nothing to undo on this page.")
    *rest, last = page.steps
    _set(store.entry_of(page, last["key"]), {name: last[name] for name in _KEPT_OF_A_STEP})
    page.steps = rest
    session.commit()
    return page_view(session, page)


@dataclass(frozen=True)
class _Place:
    """What is to be judged: the lines it stands on, and its columns as they will be."""

    lines: Ruling
    values: Mapping[str, Any]


def _judged(
    session: Session, page: ReturnedPage, child: Child | None, place: _Place, judge: Judge
) -> dict[str, Any]:
    """What the checker says of a place, by what holds for a child now; nothing is written meanwhile."""
    assert page.style is not None
    assert page.layout is not None
    assert page.class_id is not None
    script = read_layout(page.layout).script
    strict = class_strictness(get_class(session, page.class_id), child)
    terms = Terms(style_from({**page.style, "script": script}), strict)
    values, lines = place.values, place.lines
    said: dict[str, Any] = {"document": {}, "level": terms.level, "checker": CHECKER_VERSION}
    if not values["ink"] or values["found"] not in WRITTEN:
        return said
    hand = "right" if child is None else child.hand
    ink = to_group(values["ink"], lines, values["expected"], script, hand, Evidence.SCAN)
    if len(values["expected"]) == 1:
        (found,) = judge(judge_row, RowTask((ink,), values["expected"], terms, lines))
    else:
        found = judge(judge_word, WordTask(ink, terms))
    return {**said, "document": found.document}


def give_to(session: Session, page_id: int, child_id: int, judge: Judge = here) -> PageView:
    """Say whose page it is; it is judged again where another strictness holds for that child.

    Raises
    ------
    NotFoundError
    ConflictError
        If the page is in the records already, or of another class.
    """
    page = _not_in_the_records(store.get(session, page_id))
    child = get_child(session, child_id)
    if page.class_id not in (None, child.class_id):
        raise ConflictError("This page is of another class than the child.")
    level = class_strictness(child.school_class, child).level
    said = {
        one.key: _judged(session, page, child, _Place(one.lines, _kept(one)), judge)
        for one in page.entries
        if one.level != level
    }
    page = open_page(session, page_id)
    page.child, page.class_id = child, child.class_id
    for key, values in said.items():
        _set(store.entry_of(page, key), values)
    session.commit()
    return page_view(session, page)


def date_it(session: Session, page_id: int, written_on: date, at: datetime) -> PageView:
    """Say on which day a page was written.

    Raises
    ------
    NotFoundError
    ConflictError
        If the page is in the records already, or the day is still to come.
    """
    page = open_page(session, page_id)
    if written_on > school_time(session).day(at):
        session.rollback()
        raise ConflictError("This day is still to come.")
    page.written_on = written_on
    session.commit()
    return page_view(session, page)


def take_instead(session: Session, page_id: int) -> PageView:
    """Take a page that came twice in place of the one that came before, which is thrown away.

    Raises
    ------
    NotFoundError
    ConflictError
        If the one before is in the records already.
    """
    page = open_page(session, page_id)
    before = store.came_before(session, page)
    if before is not None and before.agreed_at is not None:
        session.rollback()
        raise ConflictError("The page that came before is in the records. Take it out first.")
    if before is not None:
        before.dropped_at = page.came_at
    if page.status == Status.REPEATED:
        page.status = str(Status.READ)
    session.commit()
    return page_view(session, page)


def throw_away(session: Session, page_id: int, at: datetime) -> None:
    """Throw a page away; for as long as pictures are kept it can be brought back.

    Raises
    ------
    NotFoundError
    ConflictError
        If it is in the records.
    """
    page = open_page(session, page_id)
    page.dropped_at = at
    session.commit()


def bring_back(session: Session, page_id: int) -> PageView:
    """Bring a page back that was thrown away.

    Raises
    ------
    NotFoundError, ConflictError
    """
    page = open_page(session, page_id)
    page.dropped_at = None
    if page.status == Status.READ and page.sheet and store.came_before(session, page) is not None:
        page.status = str(Status.REPEATED)
    session.commit()
    return page_view(session, page)
