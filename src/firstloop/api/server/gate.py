"""How many are at the records at once, and how they are all let out while the records are replaced.

One number rules: as many requests as there are connections hold a session at a time, and there are a few
more threads than that to work in. So nobody who holds a connection waits for a thread that waits for a
connection; whoever comes later waits here, where waiting costs nothing.
"""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

AT_ONCE = 4  # more would only take turns at one interpreter
SPARE_THREADS = 8  # for what holds no session: files in and out, the pages
DRAIN_S = 20.0


class ClosedError(Exception):
    """The records are being replaced; what was asked for was not begun."""


class Gate:
    """Lets at most `AT_ONCE` in at a time; closed, it lets nobody in and waits until all are out."""

    def __init__(self, at_once: int = AT_ONCE) -> None:
        self._free = asyncio.Semaphore(at_once)
        self._at_once = at_once
        self._closed = False
        self._here = 0

    @property
    def is_empty(self) -> bool:
        """Whether nobody is inside or waits to be let in; any thread may ask."""
        return not self._here

    @asynccontextmanager
    async def entered(self) -> AsyncIterator[None]:
        """A place at the records.

        Raises
        ------
        ClosedError
            If they are being replaced, or are by the time there is a place.
        """
        if self._closed:
            raise ClosedError
        self._here += 1
        try:
            async with self._free:
                if self._closed:
                    raise ClosedError
                yield
        finally:
            self._here -= 1

    @asynccontextmanager
    async def closed(self) -> AsyncIterator[None]:
        """The records to oneself.

        Raises
        ------
        ClosedError
            If somebody else is replacing them, or those inside do not come out.
        """
        if self._closed:
            raise ClosedError
        self._closed = True
        taken = 0
        try:
            while taken < self._at_once:
                await self._acquire()
                taken += 1
            yield
        finally:
            self._closed = False
            for _ in range(taken):
                self._free.release()

    async def _acquire(self) -> None:
        try:
            await asyncio.wait_for(self._free.acquire(), DRAIN_S)
        except TimeoutError:
            raise ClosedError from None
