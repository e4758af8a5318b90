"""The plan of a class's term: made, put in order, changed, told what happened, sent out."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Depends, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field, StringConstraints

from firstloop.api.deps import Day, Db, Now, Today
from firstloop.api.given import Given, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.beside import Beside
from firstloop.api.server.errors import BAD_FILE, CONFLICT, NOT_FOUND
from firstloop.core.planning.orders import Aim, Ordered
from firstloop.core.planning.term import Holiday, Term
from firstloop.formats.calendar_file import DaysOff
from firstloop.formats.plan_json import Wish
from firstloop.services import held_lessons, plan_defaults, plan_files, plan_orders, plan_view, plans
from firstloop.services.held_lessons import LessonToday
from firstloop.services.plan_defaults import PlanDefaults
from firstloop.services.plan_orders import Between, OrderChoice, Problem, Solve
from firstloop.services.plan_view import PlanView

router = resource("plan", "/classes/{class_id}/plan")
_PATIENCE_S = 60.0
_HOLIDAYS_MOST = 60
_TAUGHT_MOST = 80
PDF = {"content": {"application/pdf": {}}, "description": "PDF, A4."}
CSV = {"content": {"text/csv": {}}, "description": "CSV, UTF-8."}
ICS = {"content": {"text/calendar": {}}, "description": "iCalendar, RFC 5545."}
_CALENDAR = {
    "requestBody": {"content": {"text/calendar": {"schema": {"type": "string", "format": "binary"}}}}
}
Order = Literal["scheme", "movement", "words", "apart", "between"]
Share = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
Taught = Annotated[str, StringConstraints(min_length=1, max_length=20)]
Number = Annotated[int, Field(ge=1, le=2**31)]
LessonKey = Annotated[int, Field(ge=1, le=2**31)]


class HolidayIn(Given):
    """Days without lessons, both ends included."""

    first: Day = Field(strict=False)
    last: Day = Field(strict=False)
    name: str = Field(default="", max_length=80)


class TermIn(Given):
    """The days of a term; ``minutes`` of the lesson on each day of the week from Monday, 0 for none."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    first: Day = Field(strict=False)
    last: Day = Field(strict=False)
    minutes: list[Annotated[int, Field(ge=0, le=90)]] = Field(min_length=7, max_length=7)
    holidays: list[HolidayIn] = Field(default_factory=list, max_length=_HOLIDAYS_MOST)

    def term(self) -> Term:
        """As the core knows it."""
        off = tuple(
            Holiday(one.first.toordinal(), one.last.toordinal(), one.name.strip()) for one in self.holidays
        )
        return Term(self.first.toordinal(), self.last.toordinal(), tuple(self.minutes), off)


class PlanIn(TermIn):
    """A term to be planned: its days, what is to be taught, what was taught before, in which order."""

    scheme: Literal["by-movement", "by-first-move", "by-height", "by-join"] = "by-movement"
    topics: list[Literal["lower case", "capitals", "digits", "joins"]] = Field(min_length=1, max_length=4)
    known: list[Taught] = Field(default_factory=list, max_length=_TAUGHT_MOST)
    order: Literal["scheme", "movement", "words", "apart"] = "scheme"


class Changing(Given):
    """A change of a plan: ``number`` of the plan as it was seen."""

    number: Number


class DaysIn(TermIn, Changing):
    """Other days of a plan's term."""


class OrderIn(Changing):
    """Another order of what is still to come; ``share`` of each aim where it is between them."""

    order: Order
    share: tuple[Share, Share, Share] = Field(default=(1.0, 1.0, 1.0), strict=False)


class LetterIn(Changing):
    """A letter, or a kind of join, to be taken to another lesson."""

    letter: Taught
    lesson: LessonKey


class MoveIn(Changing):
    """The lesson whose day this one's letters are taken to."""

    to: LessonKey


class LockIn(Changing):
    """Whether a lesson stays as it is."""

    locked: bool


class ToldIn(Changing):
    """What was shown in a lesson; None where it was missed."""

    shown: list[Taught] | None = Field(max_length=20)


def get_solve(request: Request) -> Solve:
    """What looks for orders, beside the server; that of the scheme needs no looking for."""

    def find(problem: Problem, aim: Aim) -> Ordered:
        if aim is Aim.SCHEME:
            return plan_orders.solve(problem, aim)
        return _planner(request).run(_PATIENCE_S, plan_orders.solve, problem, aim)

    return find


def get_between(request: Request) -> Between:
    """What looks for an order between the others, beside the server."""

    def find(problem: Problem, share: tuple[float, float, float]) -> Ordered:
        return _planner(request).run(_PATIENCE_S, plan_orders.between, problem, share)

    return find


def _planner(request: Request) -> Beside:
    planner: Beside = request.app.state.planner
    return planner


SolveDep = Annotated[Solve, Depends(get_solve)]
BetweenDep = Annotated[Between, Depends(get_between)]
CHANGED = {**NOT_FOUND, **CONFLICT}


@router.get("", responses=NOT_FOUND)
def get_plan(session: Db, on: Today, class_id: RecordId) -> PlanView | None:
    """The term of a class; null where it has no plan."""
    return plan_view.view(session, class_id, on)


@router.get("/defaults", responses=NOT_FOUND)
def get_plan_defaults(session: Db, on: Today, class_id: RecordId) -> PlanDefaults:
    """What a new plan of a class would begin with: days, and what is taught already."""
    return plan_defaults.defaults(session, class_id, on)


@router.post("", status_code=201, responses={**CHANGED, **BAD_FILE})
def make_plan(
    session: Db, on: Today, at: Now, class_id: RecordId, given: PlanIn, solve: SolveDep
) -> PlanView:
    """Plan a term from nothing. A plan that is there is kept in the steps behind it."""
    wish = Wish(
        given.name,
        given.term(),
        given.scheme,
        tuple(dict.fromkeys(given.topics)),
        tuple(dict.fromkeys(given.known)),
        given.order,
    )
    return plans.make(session, class_id, wish, on, at, solve)


@router.delete("", status_code=204, responses=NOT_FOUND)
def drop_plan(session: Db, on: Today, at: Now, class_id: RecordId) -> None:
    """Do without a plan; what was noted of lessons stays."""
    plans.drop(session, class_id, on, at)


@router.get("/orders", responses=NOT_FOUND)
def get_orders(
    session: Db,
    on: Today,
    class_id: RecordId,
    solve: SolveDep,
    between: BetweenDep,
    movement: Annotated[float | None, Query(ge=0, le=1)] = None,
    words: Annotated[float, Query(ge=0, le=1)] = 0.0,
    apart: Annotated[float, Query(ge=0, le=1)] = 0.0,
    whole: Annotated[bool, Query(description="Over the whole term, beside what was taught.")] = False,
) -> list[OrderChoice]:
    """The orders to choose from with what each costs; with shares also the one between them."""
    share = None if movement is None else (movement, words, apart)
    return plans.orders(session, class_id, share, whole, on, solve, between)


@router.put("/order", responses=CHANGED)
def put_order(
    session: Db, on: Today, at: Now, class_id: RecordId, given: OrderIn, solve: SolveDep, between: BetweenDep
) -> PlanView:
    """Put what is still to come in another order."""
    return plans.reorder(session, class_id, given.number, given.order, given.share, on, at, solve, between)


@router.put("/days", responses={**CHANGED, **BAD_FILE})
def put_days(session: Db, on: Today, at: Now, class_id: RecordId, given: DaysIn) -> PlanView:
    """Give the term other days; letters move as little as they must."""
    return plans.new_days(session, class_id, given.number, given.name, given.term(), on, at)


@router.post("/holidays", responses=BAD_FILE, openapi_extra=_CALENDAR)
async def read_holidays(request: Request, class_id: RecordId, first: Day, last: Day) -> list[DaysOff]:
    """Whole days of a calendar file that fall between two days; nothing is changed."""
    raw = await request.body()
    return await run_in_threadpool(plan_files.holidays_in, raw, first, last)


@router.post("/undo", responses=CHANGED)
def undo_plan(session: Db, on: Today, class_id: RecordId, given: Changing) -> PlanView | None:
    """Take the latest step back."""
    return plans.undo(session, class_id, given.number, on)


@router.post("/letters", responses=CHANGED)
def move_planned_letter(session: Db, on: Today, at: Now, class_id: RecordId, given: LetterIn) -> PlanView:
    """Take a letter to another lesson; what lies between moves along if it must."""
    return plans.move_letter(session, class_id, given.number, given.letter, given.lesson, on, at)


@router.get("/today", responses=NOT_FOUND)
def get_lesson_today(session: Db, on: Today, class_id: RecordId) -> LessonToday | None:
    """Today's lesson, and what came of the latest; null for a class without a plan."""
    return held_lessons.today(session, class_id, on)


@router.get("/term.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_term_pdf(session: Db, on: Today, class_id: RecordId) -> Response:
    """The term on one page."""
    return Response(plan_files.term_page(session, class_id, on), media_type="application/pdf")


@router.get("/lessons.ics", response_class=Response, responses={200: ICS, **NOT_FOUND})
def get_lessons_ics(session: Db, on: Today, class_id: RecordId) -> Response:
    """The lessons as a calendar: to be imported, or followed at this address."""
    head = {"Content-Disposition": 'attachment; filename="lessons.ics"', "Cache-Control": "no-cache"}
    return Response(plan_files.calendar(session, class_id, on), media_type="text/calendar", headers=head)


@router.get("/lessons.csv", response_class=Response, responses={200: CSV, **NOT_FOUND})
def get_lessons_csv(session: Db, on: Today, class_id: RecordId) -> Response:
    """The lessons as a table."""
    head = {"Content-Disposition": 'attachment; filename="lessons.csv"'}
    return Response(plan_files.table(session, class_id, on), media_type="text/csv", headers=head)


@router.post("/lessons/{key}/move", responses=CHANGED)
def move_planned_lesson(
    session: Db, on: Today, at: Now, class_id: RecordId, key: LessonKey, given: MoveIn
) -> PlanView:
    """Take what a lesson holds to another day; what lies between moves on by one."""
    return plans.move_lesson(session, class_id, given.number, key, given.to, on, at)


@router.put("/lessons/{key}/lock", responses=CHANGED)
def lock_lesson(
    session: Db, on: Today, at: Now, class_id: RecordId, key: LessonKey, given: LockIn
) -> PlanView:
    """Let a lesson stay as it is whatever moves, or no longer."""
    return plans.lock(session, class_id, given.number, key, given.locked, on, at)


@router.put("/lessons/{key}/told", responses=CHANGED)
def tell_lesson(
    session: Db, on: Today, at: Now, class_id: RecordId, key: LessonKey, given: ToldIn
) -> PlanView:
    """Tell what was shown in a lesson; what was not is dealt out again."""
    return plans.tell(session, class_id, given.number, key, given.shown, on, at)
