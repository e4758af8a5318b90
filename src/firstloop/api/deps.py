"""What a request needs: a session on the database, the time, and the judge."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session

from firstloop.api.settings import Settings
from firstloop.api.writing import Judge


def get_session(request: Request) -> Iterator[Session]:
    """One session a request, closed at its end."""
    with request.app.state.sessions() as session:
        yield session


def get_settings(request: Request) -> Settings:
    """How this application was started."""
    settings: Settings = request.app.state.settings
    return settings


def get_judge(request: Request) -> Judge:
    """What judges an attempt once its ink is safe."""
    judge: Judge = request.app.state.judge
    return judge


def now() -> datetime:
    """The time, UTC."""
    return datetime.now(UTC)


Db = Annotated[Session, Depends(get_session)]
Now = Annotated[datetime, Depends(now)]
JudgeDep = Annotated[Judge, Depends(get_judge)]
SettingsDep = Annotated[Settings, Depends(get_settings)]
