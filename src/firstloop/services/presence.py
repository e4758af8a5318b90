"""What is known of tablets only while First Loop runs: when each was last heard, what it still keeps, and
the ink under its pen. Nothing of it is kept anywhere: what counts comes as an attempt.
"""

from __future__ import annotations

import threading
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

AWAY_S = 40.0  # a tablet asks every 25 s at the least


@dataclass(frozen=True)
class Heard:
    """What a tablet last said: at what time (s), how many attempts it keeps, and what is under its pen.

    ``sheet`` is the row or word that this ink stands on: ("row", number).
    """

    at_s: float
    unsent: int = 0
    sheet: tuple[str, int] | None = None
    under_pen: tuple[Mapping[str, Any], ...] = field(default=())

    def is_here(self, now_s: float) -> bool:
        """Whether it was heard of lately."""
        return now_s - self.at_s < AWAY_S


_NEVER = Heard(float("-inf"))


class Presence:
    """What is known of every tablet, by its number. Any thread may tell and ask."""

    def __init__(self) -> None:
        self._known: dict[int, Heard] = {}
        self._lock = threading.Lock()

    def hear(self, tablet_id: int, at_s: float, **told: Any) -> bool:
        """Note what a tablet said; returns whether that is news: it was away, or keeps more or less."""
        with self._lock:
            before = self._known.get(tablet_id, _NEVER)
            now = self._known[tablet_id] = replace(before, at_s=at_s, **told)
        return not before.is_here(at_s) or before.unsent != now.unsent

    def of(self, tablet_id: int) -> Heard:
        """What is known of a tablet; of one never heard of, nothing."""
        return self._known.get(tablet_id, _NEVER)

    def forget(self, tablet_id: int) -> None:
        """Forget a tablet."""
        with self._lock:
            self._known.pop(tablet_id, None)
