"""What this application is, and today's date by the school's own clock."""

from __future__ import annotations

from datetime import date

from pydantic import BaseModel

import firstloop
from firstloop.api.deps import Db, DemoSchoolDep, SettingsDep, Today, Who
from firstloop.api.routers import resource
from firstloop.api.server.demo_school import DemoState
from firstloop.api.server.errors import CONFLICT
from firstloop.api.server.reach import is_loopback
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.services import classes, records
from firstloop.services.classes import LevelView, RulingView
from firstloop.store.errors import ConflictError
from firstloop.text.progress import rule_of_states

router = resource("about")


class AboutOut(BaseModel):
    """Versions, whether a simulated pen is offered, and the file of the records.

    Its folder is named where First Loop was started, and not told to whoever asks.
    """

    version: str
    checker: str
    database: str
    simulated_pen: bool
    offers_demo: bool
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
        offers_demo=settings.offers_demo,
        time_zone=records.time_zone(session).name,
        today=on,
    )


class DemoSchoolOut(BaseModel):
    """How far the demo school beside is, and where it is served once it is ready."""

    state: DemoState
    url: str


@router.get("/demo-school")
def get_demo_school(demo: DemoSchoolDep) -> DemoSchoolOut:
    """Whether the demo school can be looked at."""
    return DemoSchoolOut(state=demo.state, url=demo.url)


@router.post("/demo-school", status_code=202, responses=CONFLICT)
def start_demo_school(who: Who, settings: SettingsDep, demo: DemoSchoolDep) -> DemoSchoolOut:
    """Make the demo school and serve it beside, on this machine alone; the records have none of it."""
    if not settings.offers_demo or not is_loopback(who):
        raise ConflictError("The demo school is looked at on the computer that First Loop was started on.")
    demo.start()
    return DemoSchoolOut(state=demo.state, url=demo.url)


@router.get("/how-letters-stand")
def how_letters_stand() -> list[str]:
    """The rule by which a letter is learning, secure or slipping, in sentences."""
    return rule_of_states()


@router.get("/rulings")
def list_rulings() -> list[RulingView]:
    """Every way of ruling paper there is."""
    return classes.rulings()


@router.get("/levels")
def list_levels() -> list[LevelView]:
    """How strict the checks can be, from the most lenient."""
    return classes.levels()
