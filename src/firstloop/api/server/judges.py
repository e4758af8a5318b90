"""Who judges: the checker in processes of its own, so that no ink can end the server or hold it up."""

from __future__ import annotations

import threading
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from firstloop.api.server.beside import Beside, GaveUpError

PATIENCE_S = 20.0


def _ready() -> None:
    """Have the checker loaded."""
    import firstloop.services.judging  # noqa: F401, PLC0415


class Judges:
    """A few processes that judge."""

    def __init__(self, count: int) -> None:
        self._beside = Beside(count, idle=False)

    def __call__(self, judged: Callable[[Any], Any], task: Any) -> Any:
        """Have a task judged.

        Raises
        ------
        GaveUpError
            If it takes too long, or ends the process.
        """
        return self._beside.run(PATIENCE_S, judged, task)

    def warm_up(self) -> None:
        """Start them on the side, so that the first letter is not kept waiting."""
        threading.Thread(target=self._load, daemon=True).start()

    def _load(self) -> None:
        with suppress(GaveUpError):  # ended before it began
            self._beside.run(PATIENCE_S, _ready)

    def stop(self) -> None:
        """End them."""
        self._beside.stop()
