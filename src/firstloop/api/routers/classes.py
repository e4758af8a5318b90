"""Classes and their overview."""

from __future__ import annotations

from io import BytesIO

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool

from firstloop.api.bodies import CHILD_FILE_MOST, file_body, read_into
from firstloop.api.checking import Order, QueueOut, TrustOut, agree, queue, take_over, trust
from firstloop.api.deps import Day, Db, Now, Today
from firstloop.api.errors import BAD_FILE, BAD_RULING, CONFLICT, NOT_FOUND, TOO_LARGE
from firstloop.api.overtime import AspectName, ClassMapOut, class_map
from firstloop.api.records import import_child
from firstloop.api.report import class_list
from firstloop.api.schemas import (
    ChildIn,
    ChildOut,
    ClassChange,
    ClassIn,
    ClassOut,
    LetterChar,
    RecordId,
    RowIdsIn,
    RowSummary,
    ToleranceIn,
    WatchedOut,
)
from firstloop.api.settling import settle_all
from firstloop.api.today import CoveredOut, GroupsIn, TodayOut, covered, keep_groups, today
from firstloop.api.writing import child_out, class_out, watched_out
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import ruling_kind
from firstloop.store import classes as store
from firstloop.store import groups, watched

router = APIRouter(prefix="/classes", tags=["classes"])


@router.get("")
def list_classes(session: Db, archived: bool = False) -> list[ClassOut]:
    """Every class of now, or every one put away, with its children."""
    return [class_out(one) for one in store.all_classes(session, archived)]


@router.post("", status_code=201, responses={**CONFLICT, **BAD_RULING})
def add_class(session: Db, given: ClassIn) -> ClassOut:
    """Add a class that writes print on the given ruling."""
    ruling_kind(given.ruling).ruled(given.xh_mm)
    return class_out(
        store.add_class(session, given.name, HouseStyle(), given.ruling, given.xh_mm, given.level)
    )


@router.patch("/{class_id}", responses=NOT_FOUND)
def change_class(session: Db, at: Now, class_id: RecordId, given: ClassChange) -> ClassOut:
    """Be more or less strict from now on, or put the class away; what was judged stays as it is."""
    school_class = store.get_class(session, class_id)
    if given.level is not None:
        school_class.level = given.level
    if given.archived is not None:
        school_class.archived_at = at if given.archived else None
    session.commit()
    return class_out(school_class)


@router.get("/{class_id}/queue", responses=NOT_FOUND)
def get_queue(session: Db, class_id: RecordId, order: Order = "newest") -> QueueOut:
    """Rows that wait for the teacher's mark."""
    return queue(session, class_id, order)


@router.post("/{class_id}/queue/agree", responses=NOT_FOUND)
def agree_with_rows(session: Db, at: Now, class_id: RecordId, given: RowIdsIn) -> list[RowSummary]:
    """Take the checker's verdicts as marks in several rows; each is a step of its own to undo."""
    return agree(session, store.get_class(session, class_id).id, given.row_ids, at)


@router.get("/{class_id}/trust", responses=NOT_FOUND)
def get_trust(session: Db, class_id: RecordId) -> TrustOut:
    """Where the teacher's marks and the checker's verdicts differ, and which tolerance would mend it."""
    return trust(session, class_id)


@router.put("/{class_id}/tolerances/{code}", responses={**NOT_FOUND, **CONFLICT})
def change_tolerance(session: Db, class_id: RecordId, code: str, given: ToleranceIn) -> TrustOut:
    """Give a class its own tolerance for a code, from now on."""
    return take_over(session, class_id, code, given.tolerance)


@router.get("/{class_id}/watched", responses=NOT_FOUND)
def list_watched(session: Db, class_id: RecordId, letter: LetterChar | None = None) -> list[WatchedOut]:
    """What was seen while the children of a class wrote on paper, latest first."""
    found = watched.notes(session, class_id=store.get_class(session, class_id).id, letter=letter)
    return [watched_out(note) for note in found]


@router.post("/{class_id}/children", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def add_child(session: Db, class_id: RecordId, given: ChildIn) -> ChildOut:
    """Add a child by first name and initial."""
    return child_out(store.add_child(session, class_id, given.first_name, given.initial, given.hand))


@router.get("/{class_id}/map", responses=NOT_FOUND)
def get_class_map(
    session: Db, now: Today, class_id: RecordId, aspect: AspectName = "all", on: Day | None = None
) -> ClassMapOut:
    """How every child stood in every letter at the end of a day; today's without one."""
    return class_map(session, class_id, aspect, on or now)


@router.get("/{class_id}/today", responses=NOT_FOUND)
def get_today(session: Db, on: Today, class_id: RecordId) -> TodayOut:
    """What waits, what to recall, whom to take aside, and what changed since last week."""
    return today(session, class_id, on)


@router.get("/{class_id}/coverage", responses=NOT_FOUND)
def get_coverage(session: Db, class_id: RecordId) -> list[CoveredOut]:
    """What was taught when, when it was last written alone, and who has not done so."""
    settle_all(session)
    return covered(session, store.get_class(session, class_id))


@router.put("/{class_id}/groups", responses=NOT_FOUND)
def change_groups(session: Db, at: Now, on: Today, class_id: RecordId, given: GroupsIn) -> TodayOut:
    """Have the groups as the teacher wants them; they stay so."""
    keep_groups(session, class_id, given, at)
    return today(session, class_id, on)


@router.delete("/{class_id}/groups", responses=NOT_FOUND)
def fresh_groups(session: Db, on: Today, class_id: RecordId) -> TodayOut:
    """Go back to the groups that are worked out from the last weeks."""
    groups.let_go(session, store.get_class(session, class_id).id)
    return today(session, class_id, on)


@router.get(
    "/{class_id}/list.csv",
    response_class=Response,
    responses={200: {"content": {"text/csv": {}}, "description": "CSV."}, **NOT_FOUND},
)
def get_class_list(session: Db, on: Today, class_id: RecordId) -> Response:
    """Children down, letters across, for a spreadsheet."""
    text = class_list(session, class_id, on)
    headers = {"Content-Disposition": f'attachment; filename="class-{on:%Y-%m-%d}.csv"'}
    return Response(text, media_type="text/csv", headers=headers)


@router.post(
    "/{class_id}/children/import",
    status_code=201,
    openapi_extra=file_body("application/octet-stream", "A child's file, as exported."),
    responses={**NOT_FOUND, **CONFLICT, **BAD_FILE, **TOO_LARGE},
    max_body_size=CHILD_FILE_MOST,
)
async def take_in_child(request: Request, session: Db, at: Now, class_id: RecordId) -> ChildOut:
    """Take a child from another First Loop into a class; all of it or nothing."""
    body = BytesIO()
    await read_into(request, body)
    child = await run_in_threadpool(import_child, session, class_id, body.getvalue(), at)
    return child_out(child)
