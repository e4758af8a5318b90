"""Long work on the records, so that nobody's letter waits for it."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from sqlalchemy.orm import Session

from firstloop.api.server.beside import Beside
from firstloop.api.settings import Settings
from firstloop.services.apart import on_file
from firstloop.text.lines import called_lines

Made = TypeVar("Made")
_PATIENCE_S = 600.0


class Apart:
    """What is made of the records for a teacher to take away, in a process beside the server."""

    def __init__(self, beside: Beside, settings: Settings) -> None:
        self._beside, self._settings = beside, settings

    def make(self, work: Callable[..., Made], *given: object) -> Made:
        """Do some work on a session of its own, and what is `given`, beside the server.

        Raises
        ------
        GaveUpError
        """
        here = self._settings.database, called_lines()
        made: Made = self._beside.run(_PATIENCE_S, on_file, *here, work, *given)
        return made

    def make_in_a_room(self, session: Session, work: Callable[..., Made], *given: object) -> Made:
        """As :meth:`make` while tablets are served, for what is quick; else here, where nobody waits."""
        return self.make(work, *given) if self._settings.room else work(session, *given)
