"""Classes and their overview."""

from __future__ import annotations

from io import BytesIO
from typing import Annotated, Literal

from fastapi import Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field, FiniteFloat, StringConstraints

from firstloop.api.deps import ApartDep, Day, Db, Now, Today
from firstloop.api.given import Given, LetterChar, LevelName, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.bodies import CHILD_FILE_MOST, file_body, read_into
from firstloop.api.server.errors import BAD_FILE, BAD_RULING, CONFLICT, NOT_FOUND, TOO_LARGE
from firstloop.core.progress.evidence import Aspect
from firstloop.formats.bounds import FirstName, HandName, Initial, SupportName
from firstloop.formats.names import NamesRead
from firstloop.services import (
    child_file,
    children,
    class_map,
    classes,
    letter_class,
    queue,
    report,
    today,
    trust,
    watching,
)
from firstloop.services.children import ChildView, NewChild
from firstloop.services.class_map import ClassMap
from firstloop.services.classes import ClassView
from firstloop.services.letter_class import LetterInClass
from firstloop.services.queue import Order, Queue, QueueRow
from firstloop.services.today import CoveredView, WantedGroup
from firstloop.services.today import Today as TodayView
from firstloop.services.trust import Trust
from firstloop.services.watching import WatchedView

router = resource("classes", "/classes")
PDF = {"content": {"application/pdf": {}}, "description": "PDF, A4."}
CSV = {"content": {"text/csv": {}}, "description": "CSV."}


ClassName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


LineKey = Literal["rise", "mid", "base", "drop"]
LineName = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=24, pattern=r"^[^\n]+$"),
]


class ClassIn(Given):
    """A new class."""

    name: ClassName
    ruling: str = "four-lines"
    xh_mm: float = 10.0
    level: LevelName = "growing"


class ClassChange(Given):
    """How a class is set up, and whether it is put away as one of last year's; only what is given changes."""

    name: ClassName | None = None
    ruling: str | None = None
    xh_mm: FiniteFloat | None = None
    level: LevelName | None = None
    washed: bool | None = None
    line_names: dict[LineKey, LineName] | None = None
    pattern: list[SupportName] | None = Field(default=None, min_length=1, max_length=12)
    fill_line: bool | None = None
    layered: bool | None = None
    archived: bool | None = None


class ChildIn(Given):
    """A new child."""

    first_name: FirstName
    initial: Initial
    hand: HandName = "right"


class ListIn(Given):
    """A list of names, pasted or read from a file."""

    text: str = Field(max_length=20_000)


class ChildrenIn(Given):
    """Several new children."""

    children: list[ChildIn] = Field(min_length=1, max_length=200)


class RowIdsIn(Given):
    """Several rows."""

    row_ids: list[RecordId] = Field(min_length=1, max_length=200)


class ToleranceIn(Given):
    """A tolerance at the level "growing", in the code's unit; null goes back to the house's."""

    tolerance: FiniteFloat | None


class GroupIn(Given):
    """A group as a teacher wants it."""

    code: str = Field(max_length=30)
    family: str = Field(max_length=40)
    letters: str = Field(max_length=62)
    child_ids: list[RecordId] = Field(min_length=1, max_length=40)


class GroupsIn(Given):
    """All groups of a class, in the order wanted."""

    groups: Annotated[list[GroupIn], Field(max_length=12)]


@router.get("")
def list_classes(session: Db, archived: bool = False) -> list[ClassView]:
    """Every class of now, or every one put away, with its children."""
    return classes.every(session, archived)


@router.post("", status_code=201, responses={**CONFLICT, **BAD_RULING})
def add_class(session: Db, given: ClassIn) -> ClassView:
    """Add a class that writes print on the given ruling."""
    return classes.add(session, given.name, given.ruling, given.xh_mm, given.level)


@router.patch("/{class_id}", responses={**NOT_FOUND, **CONFLICT, **BAD_RULING})
def change_class(session: Db, at: Now, class_id: RecordId, given: ClassChange) -> ClassView:
    """Set a class up otherwise from now on, or put it away; what was written and judged stays as it is."""
    fields = {name: value for name in given.model_fields_set if (value := getattr(given, name)) is not None}
    return classes.change(session, class_id, at, **fields)


@router.get("/{class_id}/queue", responses=NOT_FOUND)
def get_queue(session: Db, class_id: RecordId, order: Order = "newest") -> Queue:
    """Rows that wait for the teacher's mark, with their ink, by day and letter."""
    return queue.queue(session, class_id, order)


@router.post("/{class_id}/queue/agree", responses=NOT_FOUND)
def agree_with_rows(session: Db, at: Now, class_id: RecordId, given: RowIdsIn) -> list[QueueRow]:
    """Take the checker's verdicts as marks in several rows; each is a step of its own to undo."""
    return queue.agree(session, class_id, given.row_ids, at)


@router.get("/{class_id}/trust", responses=NOT_FOUND)
def get_trust(session: Db, class_id: RecordId) -> Trust:
    """Where the teacher's marks and the checker's verdicts differ, and which tolerance would mend it."""
    return trust.trust(session, class_id)


@router.get("/{class_id}/letters/{char}", responses=NOT_FOUND)
def get_letter_in_class(session: Db, on: Today, class_id: RecordId, char: LetterChar) -> LetterInClass:
    """Who needs what of a letter, who needs it most first, with each one's last sample."""
    return letter_class.letter_in_class(session, class_id, char, on)


@router.get(
    "/{class_id}/letters/{char}/practice.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND}
)
def get_letter_practice(
    session: Db, apart: ApartDep, on: Today, class_id: RecordId, char: LetterChar
) -> Response:
    """A page to practise one letter at the class's own size."""
    made = apart.make_in_a_room(session, report.letter_practice, class_id, char, on)
    return Response(made, media_type="application/pdf")


@router.put("/{class_id}/tolerances/{code}", responses={**NOT_FOUND, **CONFLICT})
def change_tolerance(session: Db, class_id: RecordId, code: str, given: ToleranceIn) -> Trust:
    """Give a class its own tolerance for a code, from now on."""
    return trust.take_over(session, class_id, code, given.tolerance)


@router.get("/{class_id}/watched", responses=NOT_FOUND)
def list_watched(session: Db, class_id: RecordId, letter: LetterChar | None = None) -> list[WatchedView]:
    """What was seen while the children of a class wrote on paper, latest first."""
    return watching.notes_of_class(session, class_id, letter)


@router.post("/{class_id}/children", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def add_child(session: Db, class_id: RecordId, given: ChildIn) -> ChildView:
    """Add a child by first name and initial."""
    return children.add(session, class_id, given.first_name, given.initial, given.hand)


@router.post("/{class_id}/children/read-list", responses=NOT_FOUND)
def read_list(session: Db, class_id: RecordId, given: ListIn) -> NamesRead:
    """What a list of names would add to a class, and which lines are no names; nothing is added."""
    return children.read_list(session, class_id, given.text)


@router.post("/{class_id}/children/many", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def add_children(session: Db, class_id: RecordId, given: ChildrenIn) -> list[ChildView]:
    """Add several children; all of them or none."""
    return children.add_many(session, class_id, [NewChild(**one.model_dump()) for one in given.children])


@router.get("/{class_id}/map", responses=NOT_FOUND)
def get_class_map(
    session: Db, now: Today, class_id: RecordId, aspect: Aspect = Aspect.ALL, on: Day | None = None
) -> ClassMap:
    """How every child stood in every letter at the end of a day; today's without one."""
    return class_map.class_map(session, class_id, aspect, on or now)


@router.get("/{class_id}/today", responses=NOT_FOUND)
def get_today(session: Db, on: Today, class_id: RecordId) -> TodayView:
    """What waits, what to recall, whom to take aside, and what changed since last week."""
    return today.today(session, class_id, on)


@router.get("/{class_id}/coverage", responses=NOT_FOUND)
def get_coverage(session: Db, on: Today, class_id: RecordId) -> list[CoveredView]:
    """What was taught when, when it was last written alone, and who has not done so."""
    return today.covered(session, class_id, on)


@router.put("/{class_id}/groups", responses=NOT_FOUND)
def change_groups(session: Db, at: Now, on: Today, class_id: RecordId, given: GroupsIn) -> TodayView:
    """Have the groups as the teacher wants them; they stay so."""
    wanted = [WantedGroup(**one.model_dump()) for one in given.groups]
    today.keep_groups(session, class_id, wanted, at)
    return today.today(session, class_id, on)


@router.delete("/{class_id}/groups", responses=NOT_FOUND)
def fresh_groups(session: Db, on: Today, class_id: RecordId) -> TodayView:
    """Go back to the groups that are worked out from the last weeks."""
    today.fresh_groups(session, class_id)
    return today.today(session, class_id, on)


@router.get("/{class_id}/list.csv", response_class=Response, responses={200: CSV, **NOT_FOUND})
def get_class_list(session: Db, on: Today, class_id: RecordId) -> Response:
    """Children down, letters across, for a spreadsheet."""
    text = report.class_list(session, class_id, on)
    headers = {"Content-Disposition": f'attachment; filename="class-{on:%Y-%m-%d}.csv"'}
    return Response(text, media_type="text/csv", headers=headers)


@router.post(
    "/{class_id}/children/import",
    status_code=201,
    openapi_extra=file_body("application/octet-stream", "A child's file, as exported."),
    responses={**NOT_FOUND, **CONFLICT, **BAD_FILE, **TOO_LARGE},
    max_body_size=CHILD_FILE_MOST,
)
async def take_in_child(request: Request, session: Db, at: Now, class_id: RecordId) -> ChildView:
    """Take a child from another First Loop into a class; all of it or nothing."""
    body = BytesIO()
    await read_into(request, body)
    return await run_in_threadpool(child_file.take_in, session, class_id, body.getvalue(), at)
