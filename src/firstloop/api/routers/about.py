"""What this application is, and today's date in the class's own letters."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

import firstloop
from firstloop.api.deps import SettingsDep
from firstloop.core.check.letter import CHECKER_VERSION

router = APIRouter(tags=["about"])


class AboutOut(BaseModel):
    """Versions, where records are kept, and whether a simulated pen is offered."""

    version: str
    checker: str
    database: str
    simulated_pen: bool


@router.get("/about")
def about(settings: SettingsDep) -> AboutOut:
    """Say what runs here and where records are kept."""
    return AboutOut(
        version=firstloop.__version__,
        checker=CHECKER_VERSION,
        database=str(settings.database),
        simulated_pen=settings.simulated_pen,
    )
