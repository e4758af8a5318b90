"""Work in processes beside the server: what nobody who writes should wait for, or what may end badly."""

from __future__ import annotations

import _thread
import os
import signal
import threading
import time
from collections.abc import Callable
from concurrent.futures import CancelledError, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from multiprocessing import get_all_start_methods, get_context, parent_process
from multiprocessing.context import BaseContext
from typing import TypeVar

Found = TypeVar("Found")
_MEMORY_BYTES = 4 << 30
_RANK, _IDLE_RANK = 5, 19  # the server goes first: ink is kept before any is judged
_IDLE_WAITS = 10  # times its patience, for work that is given time only when nobody else wants it
_LOOK_S = 0.2
_TRIES = 3  # where another's work ended the process that was at this one too
_LOADED_ONCE = ["firstloop.services.judging"]  # not more: the first letter waits for it


class GaveUpError(Exception):
    """The work took too long or too much memory, or was stopped."""

    def __str__(self) -> str:
        return "it took too much time or memory"


def _confined(idle: bool) -> None:
    """Take no more memory than there is, and time only when nobody else wants it; as the system can.

    Whoever was begun by a server that is no more ends too: nobody would ever ask it for anything.
    """
    threading.Thread(target=end_with_the_server, daemon=True).start()
    with suppress(AttributeError, OSError):
        os.nice(_IDLE_RANK if idle else _RANK)
        if idle:
            os.sched_setscheduler(0, os.SCHED_IDLE, os.sched_param(0))
    with suppress(ImportError, OSError, ValueError):
        import resource  # noqa: PLC0415  # there is none on Windows

        resource.setrlimit(resource.RLIMIT_AS, (_MEMORY_BYTES, _MEMORY_BYTES))


def end_with_the_server() -> None:
    """End this process once the one that began it is no more; to be run in a thread."""
    server = parent_process()
    if server is not None:
        server.join()
        os._exit(1)


def _in_own_time(patience_s: float, work: Callable[..., Found], *given: object) -> Found:
    """Do some work, in no more time of this process than so much.

    Raises
    ------
    TimeoutError
    """
    end_s, done = time.process_time() + patience_s, threading.Event()

    def too_long(_signal: int, _frame: object) -> None:
        if not done.is_set() and time.process_time() > end_s:  # else somebody pressed Ctrl-C
            raise TimeoutError

    def watch() -> None:
        while not done.wait(_LOOK_S):
            if time.process_time() > end_s:
                _thread.interrupt_main(signal.SIGINT)

    signal.signal(signal.SIGINT, too_long)
    threading.Thread(target=watch, daemon=True).start()
    try:
        return work(*given)
    finally:
        done.set()


def _context() -> BaseContext:
    """How processes begin: from one that has what most of them need loaded already, where the system can."""
    for library in ("OPENBLAS_NUM_THREADS", "OPENCV_FOR_THREADS_NUM"):
        os.environ.setdefault(library, "1")  # as many processes as processors: threads would only wait
    if "forkserver" not in get_all_start_methods():
        return get_context("spawn")
    context = get_context("forkserver")
    context.set_forkserver_preload(_LOADED_ONCE)
    return context


class Beside:
    """A few processes, begun when they are first needed, and anew when one ended badly.

    Parameters
    ----------
    workers : int
        How many; with 0 the work is done in the thread that asks for it.
    idle : bool
        Whether they work only when nobody else does; else after the server. How long their work may take is
        their own time then, not that of the clock: a machine that is busy for an hour gives them none.
    """

    def __init__(self, workers: int = 1, *, idle: bool = True) -> None:
        self._workers, self._idle = workers, idle
        self._pool: ProcessPoolExecutor | None = None
        self._lock = threading.Lock()
        self._stopped = False

    def run(self, patience_s: float, work: Callable[..., Found], *given: object) -> Found:
        """Do some work there and wait for it; what it raises is raised here.

        Raises
        ------
        GaveUpError
            If it is not done by then, or ends the process it is done in.
        """
        if not self._workers:
            return work(*given)
        most_s = patience_s
        if self._idle:
            most_s, work, given = _IDLE_WAITS * patience_s, _in_own_time, (patience_s, work, *given)
        for _ in range(_TRIES):
            pool = self._ready()
            try:
                asked = pool.submit(work, *given)
            except (RuntimeError, OSError, EOFError):  # ended meanwhile, or no process can begin just now
                self._end(pool)
                continue
            try:
                return asked.result(most_s)
            except (TimeoutError, MemoryError) as why:
                if isinstance(why, MemoryError) or not asked.done():  # else it goes on, as do others
                    self._end(pool)
                break
            except (BrokenProcessPool, CancelledError):
                self._end(pool)
        raise GaveUpError

    def _ready(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._stopped:
                raise GaveUpError
            if self._pool is None:
                self._pool = ProcessPoolExecutor(self._workers, _context(), _confined, (self._idle,))
            return self._pool

    def _end(self, pool: ProcessPoolExecutor) -> None:
        """End these processes, whatever they are at; the next work is done in others."""
        with self._lock:
            if self._pool is pool:
                self._pool = None
        for process in list((pool._processes or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)

    def rest(self) -> None:
        """End the processes until there is work again."""
        if self._pool is not None:
            self._end(self._pool)

    def stop(self) -> None:
        """End all of it for good."""
        self._stopped = True
        self.rest()
