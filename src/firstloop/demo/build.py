"""Making the demo database once, whole or not at all."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from contextlib import suppress
from datetime import date
from pathlib import Path

from sqlalchemy.orm import Session

from firstloop.api.settings import Settings
from firstloop.demo import school
from firstloop.demo.seed import seed
from firstloop.services import simulated_scanner
from firstloop.store.classes import all_classes
from firstloop.store.database import open_engine, sessions, upgrade
from firstloop.store.errors import ConflictError

PAGES = "pages to bring in"


def ensure_demo(
    settings: Settings,
    today: date,
    fresh: bool = False,
    progress: Callable[[int, int], None] = lambda done, total: None,
    weeks: int = school.WEEKS,
) -> int:
    """Seed the demo school unless it is there.

    It is made in a folder beside and moved into place at the end, so that a seeding broken off
    leaves nothing half made.

    Returns
    -------
    int
        Attempts written; 0 if the school was there already.
    """
    if settings.database.exists():
        if not fresh:
            return 0
        shutil.rmtree(settings.data_dir)
    making = settings.data_dir.with_name(settings.data_dir.name + ".making")
    shutil.rmtree(making, ignore_errors=True)
    engine = open_engine(Settings(making).database)
    upgrade(engine)
    with sessions(engine)() as session:
        made = seed(session, today, progress, weeks)
        _pages_to_bring_in(session, making / PAGES)
    engine.dispose()
    _move(making, settings.data_dir)
    return made


def _pages_to_bring_in(session: Session, folder: Path) -> None:
    """Sheets that children wrote on, an exercise book and a whiteboard, as files to be dropped."""
    first = all_classes(session)[0]
    with suppress(ConflictError):  # in the first weeks nothing was printed yet
        sent = simulated_scanner.written(session, first.id)
        folder.mkdir()
        for name, data in sent:
            (folder / name).write_bytes(data)


def _move(source: Path, target: Path) -> None:
    target.parent.mkdir(parents=True, exist_ok=True)
    if target.exists():
        target.rmdir()
    source.rename(target)
