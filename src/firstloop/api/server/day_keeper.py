"""What is seen to every few seconds: the days of rows that were left in the middle, and whom to let go of.

With each letter it would cost a class that writes at once a third of its server; with the last letter of a
row, and with whatever a teacher does, the services see to it themselves.
"""

from __future__ import annotations

import logging
import threading
from datetime import UTC, datetime, timedelta
from pathlib import Path

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from firstloop.services import erased, evidence, page_pile, retention

log = logging.getLogger(__name__)

EVERY_S = 10.0
_BREATH_S = 0.05  # between two days, so that no child's letter waits for thirty of them


class DayKeeper:
    """Works out what was left in the middle, and lets go of what is to be kept no longer."""

    def __init__(self, sessions: sessionmaker[Session], data_dir: Path, every_s: float = EVERY_S) -> None:
        self._sessions, self._data_dir, self._every_s = sessions, data_dir, every_s
        self._rest = timedelta(seconds=every_s)  # who still writes ends the row, and then it is seen to
        self._stopped = threading.Event()
        self._thread: threading.Thread | None = None

    def start(self) -> None:
        """Begin."""
        self._stopped.clear()
        self._thread = threading.Thread(target=self._work, name="day keeper", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Leave the rest for the next start."""
        self._stopped.set()
        if self._thread is not None:
            self._thread.join()

    def _work(self) -> None:
        while not self._stopped.wait(self._every_s):
            try:
                with self._sessions() as session:
                    for day in evidence.left_in_the_middle(session, datetime.now(UTC), self._rest):
                        evidence.work_out(session, [day])
                        if self._stopped.wait(_BREATH_S):
                            return
                    erased.forget_the_old(session, datetime.now(UTC))
                    page_pile.forget_the_old(session, datetime.now(UTC))
                    retention.let_go(session, datetime.now(UTC))
                    erased.clear_backups(session, self._data_dir)
            except OperationalError:  # locked or full just now
                continue
            except Exception:
                log.exception("days of rows in the middle could not be worked out")
