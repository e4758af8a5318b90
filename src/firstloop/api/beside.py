"""Work in a process beside the server: what nobody who writes should wait for, or what may end badly."""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import CancelledError, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from multiprocessing import get_context
from typing import TypeVar

Found = TypeVar("Found")
_YIELDING = 15
_MEMORY_BYTES = 4 << 30


class GaveUpError(Exception):
    """The work took too long or too much memory, or was stopped."""


def _confined() -> None:
    """Yield to others, and take no more than there is; as far as the system can."""
    with suppress(AttributeError, OSError):
        os.nice(_YIELDING)
    with suppress(ImportError, OSError, ValueError):
        import resource  # noqa: PLC0415  # there is none on Windows

        resource.setrlimit(resource.RLIMIT_AS, (_MEMORY_BYTES, _MEMORY_BYTES))


class Beside:
    """One process, begun when it is first needed, and anew when it ended badly."""

    def __init__(self) -> None:
        self._pool: ProcessPoolExecutor | None = None

    def run(self, patience_s: float, work: Callable[..., Found], *given: object) -> Found:
        """Do some work there and wait for it; what it raises is raised here.

        Raises
        ------
        GaveUpError
            If it is not done by then, or the process ended.
        """
        if self._pool is None:
            self._pool = ProcessPoolExecutor(1, get_context("spawn"), _confined)
        try:
            return self._pool.submit(work, *given).result(patience_s)
        except (TimeoutError, BrokenProcessPool, CancelledError, MemoryError):
            self.stop()
            raise GaveUpError from None

    def stop(self) -> None:
        """End it, whatever it is at."""
        pool, self._pool = self._pool, None
        if pool is None:
            return
        for process in list((pool._processes or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)
