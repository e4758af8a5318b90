"""What was left over because First Loop ended in between, seen to after a start, on the side.

Ink that was kept and never judged may be what ended First Loop, so it is judged in another way than the
first time: in a process of its own, with little memory and time. What cannot be judged so either is told as
unreadable and not tried again; its ink stays. Then every day of evidence is worked out that is not up to
date: its rows changed, or the rules of progress are newer than it.
"""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from functools import partial
from typing import Any

from sqlalchemy.exc import IntegrityError, OperationalError
from sqlalchemy.orm import Session, sessionmaker

from firstloop.api.server.beside import Beside, GaveUpError
from firstloop.services import evidence, rows, written_words
from firstloop.services.judging import StoppedError
from firstloop.store import rows as row_store
from firstloop.store import written as word_store

log = logging.getLogger(__name__)

PATIENCE_S = 60.0  # with the time a process takes to start
_TRIES, _AGAIN_S = 20, 3.0


class LeftOver:
    """Judges what is left over, one after another, until told to stop."""

    def __init__(self, sessions: sessionmaker[Session]) -> None:
        self._sessions = sessions
        self._stopped = threading.Event()
        self._thread: threading.Thread | None = None
        self._beside = Beside(idle=False)  # its patience runs from when it is asked

    def start(self) -> None:
        """Begin, if there is anything; once more, after what was begun, where other records are in place."""
        self._thread = threading.Thread(
            target=self._work, args=(self._thread,), name="left over", daemon=True
        )
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

    def _work(self, before: threading.Thread | None) -> None:
        if before is not None:
            before.join()
        try:
            with self._sessions() as session:
                attempts = row_store.unjudged(session)
                words = word_store.unjudged(session)
            for attempt_id in attempts:
                self._in_turn(partial(self._attempt, attempt_id))
            for word_id in words:
                self._in_turn(partial(self._word, word_id))
            self._in_turn(evidence.work_out_all)
        except Exception:  # the next start finds the rest
            if not self._stopped.is_set():
                log.exception("what was left over could not all be seen to")
        finally:
            self._beside.rest()

    def _in_turn(self, work: Callable[[Session], object]) -> None:
        for _ in range(_TRIES):
            if self._stopped.is_set():
                return
            try:
                with self._sessions() as session:
                    work(session)
                return
            except IntegrityError:  # it went with a child or a restore meanwhile
                return
            except OperationalError:  # locked or full just now
                self._stopped.wait(_AGAIN_S)

    def _judge(self, judged: Callable[[Any], Any], task: Any) -> Any:
        """As services.judging.Judge; nothing is kept of what was stopped."""
        try:
            found = self._beside.run(PATIENCE_S, judged, task)
        except GaveUpError:
            if not self._stopped.is_set():
                raise
        if self._stopped.is_set():
            raise StoppedError
        return found

    def _attempt(self, attempt_id: int, session: Session) -> None:
        rows.see_to_kept(session, attempt_id, self._judge)

    def _word(self, word_id: int, session: Session) -> None:
        written_words.see_to(session, word_store.get_word(session, word_id), self._judge)
