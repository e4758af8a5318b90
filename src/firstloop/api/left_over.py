"""Ink that was kept and never judged, because First Loop ended in between: judged after a start, on the side.

It may be what ended First Loop, so it is judged in another way than the first time: in a process of its
own, with little memory and time. What cannot be judged so either is told as unreadable and not tried
again; its ink stays.
"""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from firstloop.api import writing, written
from firstloop.api.beside import Beside, GaveUpError
from firstloop.store import rows as row_store
from firstloop.store import written as word_store

log = logging.getLogger(__name__)

PATIENCE_S = 60.0  # with the time a process takes to start
_TRIES, _AGAIN_S = 20, 3.0
GAVE_UP = "Looking at it took too much time or memory."


class LeftOver:
    """Judges what is left over, one after another, until told to stop."""

    def __init__(self, sessions: sessionmaker[Session]) -> None:
        self._sessions = sessions
        self._stopped = threading.Event()
        self._thread: threading.Thread | None = None
        self._beside = Beside(idle=False)  # its patience runs from when it is asked

    def start(self) -> None:
        """Begin, if there is anything."""
        self._thread = threading.Thread(target=self._work, name="left over", daemon=True)
        self._thread.start()

    def wait(self) -> None:
        """Wait until all is judged."""
        if self._thread is not None:
            self._thread.join()

    def stop(self) -> None:
        """Leave the rest for the next start."""
        self._stopped.set()
        self._beside.stop()
        self.wait()

    def _work(self) -> None:
        try:
            with self._sessions() as session:
                attempts = row_store.unjudged(session)
                words = word_store.unjudged(session)
            for attempt_id in attempts:
                self._in_turn(self._attempt, attempt_id)
            for word_id in words:
                self._in_turn(self._word, word_id)
        except Exception:  # the next start finds the rest
            if not self._stopped.is_set():
                log.exception("what was left over could not all be judged")
        finally:
            self._beside.stop()

    def _in_turn(self, judge: Callable[[Session, int], None], number: int) -> None:
        for _ in range(_TRIES):
            if self._stopped.is_set():
                return
            try:
                with self._sessions() as session:
                    judge(session, number)
                return
            except OperationalError:  # locked or full just now
                self._stopped.wait(_AGAIN_S)

    def _attempt(self, session: Session, attempt_id: int) -> None:
        for attempt in row_store.attempts(session, [attempt_id]):
            terms = writing.terms_of(session, attempt.row)
            task = writing.task_of([attempt], attempt.row, terms)
            try:
                (result,) = self._beside.run(PATIENCE_S, writing.judged, task)
            except GaveUpError:
                result = writing.cannot(GAVE_UP)
            if not self._stopped.is_set():
                writing.keep_result(session, attempt, terms, result)

    def _word(self, session: Session, word_id: int) -> None:
        word = word_store.get_word(session, word_id)
        task = written.task_of(word)
        try:
            told = self._beside.run(PATIENCE_S, written.judged, task)
        except GaveUpError:
            told = written.cannot(GAVE_UP)
        if not self._stopped.is_set():
            written.keep_result(session, word, task, told)
