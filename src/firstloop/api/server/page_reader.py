"""Pictures of pages are read on the side, in processes that work only when nobody else does.

What is to be read stands in the records and in the folder of incoming files, so a kill or a restart loses
nothing: whatever has not been read is read then. The records are written in one short step a picture.
"""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from firstloop.api.server.beside import Beside, GaveUpError
from firstloop.formats.pictures import PictureError
from firstloop.services import incoming, page_pile, page_reading, simulated_scanner
from firstloop.services.page_reading import TakenPicture
from firstloop.store import pages as store
from firstloop.store import rows as row_store
from firstloop.store.errors import ConflictError
from firstloop.store.page_tables import Picture

log = logging.getLogger(__name__)

PATIENCE_S = 120.0  # of its own time, for a picture
_LOOK_S = 2.0
_WRITING = timedelta(seconds=10)
_TRIES, _AGAIN_S = 10, 3.0


class PageReader:
    """Reads what has been brought in, several pictures at a time, until told to stop.

    Parameters
    ----------
    workers : int
        How many processes; with 0 one thread reads in the server itself, as tests want it.
    watched : Path, optional
        A folder that a scanner writes to.
    """

    def __init__(
        self,
        sessions: sessionmaker[Session],
        database: Path,
        workers: int,
        watched: Path | None = None,
    ) -> None:
        self._sessions, self._database, self._watched = sessions, database, watched
        self._beside = Beside(workers)
        self._count = max(workers, 1)
        self._stopped, self._woken = threading.Event(), threading.Condition()
        self._at_work: set[int] = set()
        self._threads: list[threading.Thread] = []
        self._seen: dict[Path, tuple[int, float]] = {}
        self._is_warm = False
        self._scanner = threading.Lock()

    def start(self) -> None:
        """Begin."""
        jobs: list[Callable[[], None]] = [self._look, *[self._read] * self._count]
        self._threads = [threading.Thread(target=one, name="pages", daemon=True) for one in jobs]
        for one in self._threads:
            one.start()

    def wake(self) -> None:
        """Something has come in, or is to be gone on with."""
        with self._woken:
            self._woken.notify_all()

    def warm_up(self) -> None:
        """Somebody looks at the pile and will bring pages soon: have a process ready, on the side."""
        with self._woken:
            if self._is_warm or self._stopped.is_set():
                return
            self._is_warm = True
        for _ in range(self._count):
            threading.Thread(target=self._load, daemon=True).start()

    def _load(self) -> None:
        with suppress(GaveUpError):
            self._beside.run(PATIENCE_S, page_reading.ready)

    def simulate(self, class_id: int) -> None:
        """Let a simulated scanner send pages of a class; whoever asks for it waits.

        Raises
        ------
        NotFoundError, ConflictError, GaveUpError
        """
        if not self._scanner.acquire(blocking=False):
            raise ConflictError("The simulated scanner is at work already.")
        try:
            self._bring_simulated(class_id)
        finally:
            self._scanner.release()
        self.wake()

    def _bring_simulated(self, class_id: int) -> None:
        data_dir = self._database.parent
        sent = self._beside.run(PATIENCE_S, simulated_scanner.send, self._database, class_id)
        with self._sessions() as session:
            for name, data in sent:
                with suppress(ConflictError), incoming.coming_in(data_dir) as file:
                    file.write(data)
                    incoming.bring_in(session, class_id, name, file, data_dir, datetime.now(UTC))

    def stop(self) -> None:
        """Leave the rest for the next start."""
        self._stopped.set()
        self.wake()
        self._beside.stop()
        for one in self._threads:
            one.join()

    def _look(self) -> None:
        """Open what came in, and see what a scanner has put into its folder."""
        self._safely(self._clear_up)
        while not self._stopped.is_set():
            if self._watched is not None:
                self._safely(self._fetch)
            self._safely(self._open)
            with self._woken:
                self._woken.wait(_LOOK_S)

    def _clear_up(self) -> None:
        with self._sessions() as session:
            incoming.clear_up(session, self._database.parent)

    def _fetch(self) -> None:
        assert self._watched is not None
        with self._sessions() as session:
            taken = incoming.fetch(
                session, self._watched, self._database.parent, datetime.now(UTC), self._seen
            )
        if taken:
            self.wake()

    def _open(self) -> None:
        with self._sessions() as session:
            for file in store.unopened(session):
                path = incoming.path_of(self._database.parent, file.id)
                try:
                    count = self._beside.run(PATIENCE_S, page_reading.open_file, path)
                except FileNotFoundError:
                    file.problem = incoming.GONE
                except (PictureError, GaveUpError) as problem:
                    if self._stopped.is_set():
                        return
                    file.problem = str(problem)[:200]
                else:
                    store.opened(session, file, count)
                session.commit()
                if file.problem:
                    incoming.let_go(self._database.parent, file.id)
                self.wake()

    def _read(self) -> None:
        while not self._stopped.is_set():
            begun = time.monotonic()
            if not self._safely(self._read_next):
                with self._woken:
                    self._woken.wait(_LOOK_S)
            elif self._children_write():  # the lowest rank is not enough where a machine as a whole is slow
                self._stopped.wait(time.monotonic() - begun)

    def _children_write(self) -> bool:
        """Whether a child's pen has just written; then there are pauses, and one picture at a time."""
        with self._sessions() as session:
            latest = row_store.latest_ink_at(session)
        return latest is not None and datetime.now(UTC) - latest < _WRITING

    def _read_next(self) -> bool:
        """Read the next picture that nobody is at; whether there was one."""
        with self._sessions() as session:
            alone = self._children_write()
            with self._woken:
                if alone and self._at_work:
                    return False
                waiting = store.unread(session, self._count + 1)
                mine = next((one for one in waiting if one.id not in self._at_work), None)
                if mine is None:
                    return False
                self._at_work.add(mine.id)
            number, file_id, picture_id = mine.number, mine.file_id, mine.id
            session.rollback()  # nobody else waits while it is read
            try:
                self._read_one(session, picture_id, file_id, number)
            finally:
                with self._woken:
                    self._at_work.discard(picture_id)
        return True

    def _read_one(self, session: Session, picture_id: int, file_id: int, number: int) -> None:
        path = incoming.path_of(self._database.parent, file_id)
        problem, taken = "", None
        try:
            taken = self._beside.run(PATIENCE_S, page_reading.read_in, self._database, path, number)
        except FileNotFoundError:
            problem = incoming.GONE
        except (PictureError, GaveUpError) as why:
            problem = str(why)
        except OperationalError:
            raise
        except Exception as why:  # this picture: the others are read all the same
            log.exception("a picture could not be read")
            problem = f"{type(why).__name__}: {why}"
        if self._stopped.is_set():
            return
        picture = session.get(Picture, picture_id)
        if picture is None or picture.read_at is not None:
            return  # erased or replaced meanwhile
        self._keep(session, picture, taken, problem)
        if store.is_all_read(session, file_id):
            incoming.let_go(self._database.parent, file_id)

    def _keep(self, session: Session, picture: Picture, taken: TakenPicture | None, problem: str) -> None:
        """Keep what was read, also where somebody else is writing for a while."""
        for again in range(_TRIES):
            try:
                if taken is not None:
                    page_pile.keep_read(session, picture, taken, datetime.now(UTC))
                else:
                    page_pile.cannot_read(session, picture, problem, datetime.now(UTC))
                return
            except OperationalError:  # locked or full just now
                session.rollback()
                if again == _TRIES - 1 or self._stopped.wait(_AGAIN_S):
                    raise

    def _safely(self, work: Callable[[], bool | None]) -> bool:
        """Do some work; what cannot be done now is done later."""
        try:
            return bool(work())
        except OperationalError:  # locked or full just now
            self._stopped.wait(_AGAIN_S)
        except Exception:
            if not self._stopped.is_set():
                log.exception("pages could not be seen to")
                with suppress(Exception):
                    self._stopped.wait(_AGAIN_S)
        return False
