"""What a request needs: a session on the records, the time, and who judges."""

from __future__ import annotations

import re
from collections.abc import AsyncIterator, Callable
from datetime import date, datetime
from typing import Annotated, TypeVar

from fastapi import Depends, Query, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BeforeValidator
from sqlalchemy.orm import Session

from firstloop.api.given import RecordId
from firstloop.api.server.apart import Apart
from firstloop.api.server.beside import Beside
from firstloop.api.server.demo_school import DemoSchool
from firstloop.api.server.gate import Gate
from firstloop.api.server.left_over import LeftOver
from firstloop.api.server.page_reader import PageReader
from firstloop.api.server.room_office import RoomOffice
from firstloop.api.settings import Settings
from firstloop.services import classes, records
from firstloop.services.judging import Judge
from firstloop.text.lines import call_lines

Found = TypeVar("Found")
_TELL_THE_CLASS = ("class_id", "child_id", "row_id", "word_id")
_NUMBER = re.compile(r"[0-9]{1,18}")  # what else may be given is refused where it is asked for


async def get_session(request: Request) -> AsyncIterator[Session]:
    """One session a request, closed at its end; it waits at the gate for its turn."""
    gate: Gate = request.app.state.gate
    async with gate.entered():
        with request.app.state.sessions() as session:
            yield session


async def in_session(request: Request, work: Callable[[Session], Found]) -> Found:
    """Do something with the records for whoever waits long and must hold no place at them meanwhile."""

    def done() -> Found:
        with request.app.state.sessions() as session:
            return work(session)

    gate: Gate = request.app.state.gate
    async with gate.entered():
        return await run_in_threadpool(done)


async def call_lines_as_the_class_does(request: Request) -> None:
    """Whatever is said in the answer calls the lines as the class it is about does."""
    given = {**request.query_params, **request.path_params}
    known = {name: given[name] for name in _TELL_THE_CLASS if _NUMBER.fullmatch(str(given.get(name, "")))}
    if not known:
        return

    def find() -> dict[str, str] | None:
        with request.app.state.sessions() as session:
            return classes.line_names(session, **{name: int(value) for name, value in known.items()})

    call_lines(await run_in_threadpool(find))


async def get_gate(request: Request) -> Gate:
    """The gate to the records."""
    gate: Gate = request.app.state.gate
    return gate


async def get_beside(request: Request) -> Beside:
    """What does long work beside the server."""
    beside: Beside = request.app.state.beside
    return beside


async def get_apart(request: Request) -> Apart:
    """What makes long things of the records."""
    return Apart(request.app.state.beside, request.app.state.settings)


async def get_left_over(request: Request) -> LeftOver:
    """What sees to ink and evidence that were left over."""
    left_over: LeftOver = request.app.state.left_over
    return left_over


async def get_page_reader(request: Request) -> PageReader:
    """What reads pictures of pages."""
    reader: PageReader = request.app.state.page_reader
    return reader


async def get_demo_school(request: Request) -> DemoSchool:
    """The demo school beside the records."""
    demo_school: DemoSchool = request.app.state.demo_school
    return demo_school


async def get_room_office(request: Request) -> RoomOffice:
    """What leads rooms of tablets."""
    office: RoomOffice = request.app.state.room_office
    return office


async def get_settings(request: Request) -> Settings:
    """How this application was started."""
    settings: Settings = request.app.state.settings
    return settings


async def get_judge(request: Request) -> Judge:
    """What judges an attempt once its ink is safe."""
    judge: Judge = request.app.state.judge
    return judge


async def get_address(request: Request) -> str:
    """The address that asks: whoever guesses is slowed down by it."""
    return request.client.host if request.client else ""


async def now(request: Request) -> datetime:
    """The time, UTC, by the clock of the application."""
    moment: datetime = request.app.state.clock()
    return moment


def _plain_day(given: object) -> object:
    """Only a day as it is written, 2026-11-25: a bare number is no day."""
    if isinstance(given, str) and not re.fullmatch(r"\d{4}-\d\d-\d\d", given):
        raise ValueError("a day is written 2026-11-25")
    return given


# given back before the answer is sent, however slowly that is read
Db = Annotated[Session, Depends(get_session, scope="function")]
Now = Annotated[datetime, Depends(now)]
Who = Annotated[str, Depends(get_address)]


def _today(session: Db, at: Now) -> date:
    return records.today(session, at)


Today = Annotated[date, Depends(_today)]  # by the school's own clock
Day = Annotated[date, BeforeValidator(_plain_day)]
JudgeDep = Annotated[Judge, Depends(get_judge)]
ApartDep = Annotated[Apart, Depends(get_apart)]
BesideDep = Annotated[Beside, Depends(get_beside)]
GateDep = Annotated[Gate, Depends(get_gate)]
DemoSchoolDep = Annotated[DemoSchool, Depends(get_demo_school)]
PageReaderDep = Annotated[PageReader, Depends(get_page_reader)]
RoomOfficeDep = Annotated[RoomOffice, Depends(get_room_office)]
LeftOverDep = Annotated[LeftOver, Depends(get_left_over)]
SettingsDep = Annotated[Settings, Depends(get_settings)]
ClassId = Annotated[RecordId | None, Query(description="Whose house style; the default style without it.")]
