"""What follows once ink is kept: it is judged, and whoever looks on is told. Nobody who writes waits for it.

What is still to do when First Loop ends is found again at the next start (:mod:`left_over`).
"""

from __future__ import annotations

import logging
import queue
import threading
import time
from collections.abc import Callable

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

log = logging.getLogger(__name__)
_TRIES, _AGAIN_S = 5, 1.0
_LEAVE_S = 5.0
_GIVES_WAY_S, _LOOKS_S = 0.25, 0.01

Work = Callable[[Session], None]


class Behind:
    """Does work in turn, in a few threads of its own.

    Parameters
    ----------
    give_way : callable
        Whether somebody is at the records just now who goes first; for a moment, not for ever.
    """

    def __init__(
        self, sessions: sessionmaker[Session], threads: int, give_way: Callable[[], bool] = lambda: False
    ) -> None:
        self._sessions, self._give_way = sessions, give_way
        self._waiting: queue.SimpleQueue[Work | None] = queue.SimpleQueue()
        self._count = threads
        self._threads: list[threading.Thread] = []
        self._open = 0
        self._idle = threading.Condition()

    def start(self) -> None:
        """Begin."""
        self._threads = [threading.Thread(target=self._run, daemon=True) for _ in range(self._count)]
        for one in self._threads:
            one.start()

    def add(self, work: Work) -> None:
        """Have something done soon, with a session of its own."""
        with self._idle:
            self._open += 1
        self._waiting.put(work)

    def wait(self, patience_s: float) -> bool:
        """Wait until nothing is left to do; whether that came about."""
        with self._idle:
            return self._idle.wait_for(lambda: self._open == 0, patience_s)

    def stop(self) -> None:
        """Leave what is not begun for the next start."""
        while not self._waiting.empty():
            self._waiting.get()
        for _ in self._threads:
            self._waiting.put(None)
        for one in self._threads:
            one.join(_LEAVE_S)

    def _run(self) -> None:
        while (work := self._waiting.get()) is not None:
            try:
                self._do(work)
            except Exception:  # the next start finds what was left
                log.exception("what follows kept ink could not be done")
            finally:
                with self._idle:
                    self._open -= 1
                    self._idle.notify_all()

    def _do(self, work: Work) -> None:
        until = time.monotonic() + _GIVES_WAY_S
        while self._give_way() and time.monotonic() < until:
            time.sleep(_LOOKS_S)
        for attempt in range(_TRIES):
            try:
                with self._sessions() as session:
                    work(session)
                return
            except OperationalError:  # locked or full just now
                if attempt + 1 == _TRIES:
                    raise
                threading.Event().wait(_AGAIN_S)
