"""Who waits for something to change is told at once, and costs nothing while nothing does.

A subject is a short text ("tablet 7"). Its number grows with every change; whoever knows an older one, or one
of a server that is no more, is told the present one without waiting.
"""

from __future__ import annotations

import asyncio
import time


class News:
    """Numbers of subjects, and those who wait for them. Any thread may tell; waiting is for coroutines."""

    def __init__(self) -> None:
        self._first = time.time_ns() // 1_000_000  # higher than any number that was told before a restart
        self._numbers: dict[str, int] = {}
        self._waiting: dict[str, set[asyncio.Future[None]]] = {}
        self._loop: asyncio.AbstractEventLoop | None = None

    def start(self, loop: asyncio.AbstractEventLoop) -> None:
        """Say in which loop the others wait."""
        self._loop = loop

    def number(self, subject: str) -> int:
        """The present number of a subject."""
        return self._numbers.get(subject, self._first)

    def tell(self, *subjects: str) -> None:
        """These have changed."""
        if self._loop is not None and not self._loop.is_closed():
            self._loop.call_soon_threadsafe(self._tell, subjects)

    def _tell(self, subjects: tuple[str, ...]) -> None:
        for subject in subjects:
            self._numbers[subject] = self.number(subject) + 1
            for one in self._waiting.pop(subject, ()):
                if not one.done():
                    one.set_result(None)

    async def wait(self, subject: str, known: int, patience_s: float) -> int:
        """Wait until a subject's number is another than the one known, or patience is at its end."""
        if self.number(subject) != known:
            return self.number(subject)
        one = asyncio.get_running_loop().create_future()
        self._waiting.setdefault(subject, set()).add(one)
        try:
            await asyncio.wait_for(one, patience_s)
        except TimeoutError:
            pass
        finally:
            self._waiting.get(subject, set()).discard(one)
        return self.number(subject)

    def let_go(self) -> None:
        """Whoever waits is answered: the server is going to end."""
        for waiting in self._waiting.values():
            for one in waiting:
                if not one.done():
                    one.set_result(None)
        self._waiting.clear()
