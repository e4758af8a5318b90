"""What this application is, and today's date by the school's own clock."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter
from pydantic import BaseModel

import firstloop
from firstloop.api.deps import Db, SettingsDep, Today
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.services import classes, records
from firstloop.services.classes import LevelView, RulingView

router = APIRouter(tags=["about"])


class AboutOut(BaseModel):
    """Versions, whether a simulated pen is offered, and the file of the records.

    Its folder is named where First Loop was started, and not told to whoever asks.
    """

    version: str
    checker: str
    database: str
    simulated_pen: bool
    time_zone: str
    today: date


@router.get("/about")
def about(session: Db, on: Today, settings: SettingsDep) -> AboutOut:
    """Say what runs here and where records are kept."""
    return AboutOut(
        version=firstloop.__version__,
        checker=CHECKER_VERSION,
        database=settings.database.name,
        simulated_pen=settings.simulated_pen,
        time_zone=records.time_zone(session).name,
        today=on,
    )


@router.get("/rulings")
def list_rulings() -> list[RulingView]:
    """Every way of ruling paper there is."""
    return classes.rulings()


@router.get("/levels")
def list_levels() -> list[LevelView]:
    """How strict the checks can be, from the most lenient."""
    return classes.levels()
