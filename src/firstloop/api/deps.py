"""What a request needs: a session on the database, the time, and the judge."""

from __future__ import annotations

import re
from collections.abc import AsyncIterator
from datetime import UTC, date, datetime
from typing import Annotated

from fastapi import Depends, Query, Request
from pydantic import BeforeValidator
from sqlalchemy.orm import Session

from firstloop.api.beside import Beside
from firstloop.api.gate import Gate
from firstloop.api.judges import Judge
from firstloop.api.schemas import RecordId
from firstloop.api.settings import Settings
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.store.classes import get_class
from firstloop.store.school import school_time
from firstloop.store.styles import house_style


async def get_session(request: Request) -> AsyncIterator[Session]:
    """One session a request, closed at its end; it waits at the gate for its turn."""
    gate: Gate = request.app.state.gate
    async with gate.entered():
        with request.app.state.sessions() as session:
            yield session


async def get_gate(request: Request) -> Gate:
    """The gate to the records."""
    gate: Gate = request.app.state.gate
    return gate


async def get_beside(request: Request) -> Beside:
    """What does long work beside the server."""
    beside: Beside = request.app.state.beside
    return beside


async def get_settings(request: Request) -> Settings:
    """How this application was started."""
    settings: Settings = request.app.state.settings
    return settings


async def get_judge(request: Request) -> Judge:
    """What judges an attempt once its ink is safe."""
    judge: Judge = request.app.state.judge
    return judge


async def now() -> datetime:
    """The time, UTC."""
    return datetime.now(UTC)


def _plain_day(given: object) -> object:
    """Only a day as it is written, 2026-11-25: a bare number is no day."""
    if isinstance(given, str) and not re.fullmatch(r"\d{4}-\d\d-\d\d", given):
        raise ValueError("a day is written 2026-11-25")
    return given


# given back before the answer is sent, however slowly that is read
Db = Annotated[Session, Depends(get_session, scope="function")]
Now = Annotated[datetime, Depends(now)]


def _today(session: Db, at: Now) -> date:
    return school_time(session).day(at)


Today = Annotated[date, Depends(_today)]  # by the school's own clock
Day = Annotated[date, BeforeValidator(_plain_day)]
JudgeDep = Annotated[Judge, Depends(get_judge)]
BesideDep = Annotated[Beside, Depends(get_beside)]
GateDep = Annotated[Gate, Depends(get_gate)]
SettingsDep = Annotated[Settings, Depends(get_settings)]
ClassId = Annotated[RecordId | None, Query(description="Whose house style; the default style without it.")]


def style_of(session: Session, class_id: int | None) -> HouseStyle:
    """The style a class follows; the default style without a class.

    Raises
    ------
    NotFoundError
    """
    return DEFAULT_STYLE if class_id is None else house_style(get_class(session, class_id))
