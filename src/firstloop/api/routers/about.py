"""What this application is, and today's date in the class's own letters."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

import firstloop
from firstloop.api.deps import SettingsDep
from firstloop.core.check.letter import CHECKER_VERSION

router = APIRouter(tags=["about"])


class AboutOut(BaseModel):
    """Versions, whether a simulated pen is offered, and the file of the records.

    Its folder is named where First Loop was started, and not told to whoever asks.
    """

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
        database=settings.database.name,
        simulated_pen=settings.simulated_pen,
    )
