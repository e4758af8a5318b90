"""How often one may ask: a bucket for each, which fills again steadily, so that nobody keeps others out."""

from __future__ import annotations

from collections import OrderedDict

A_SECOND = 20.0  # a tablet that writes asks two or three times
AT_ONCE = 200.0  # one that comes back after a lesson sends what it kept, letter after letter
_KNOWN_MOST = 2000


class Rates:
    """Counts what each asks for; whoever was forgotten begins anew."""

    def __init__(self, a_second: float = A_SECOND, at_once: float = AT_ONCE) -> None:
        self._a_second, self._at_once = a_second, at_once
        self._left: OrderedDict[str, tuple[float, float]] = OrderedDict()

    def may(self, who: str, at_s: float) -> bool:
        """Whether `who` may ask once more, at a time in seconds; it counts if so."""
        left, last = self._left.pop(who, (self._at_once, at_s))
        left = min(self._at_once, left + max(0.0, at_s - last) * self._a_second)
        fine = left >= 1.0
        self._left[who] = (left - 1.0 if fine else left, at_s)
        while len(self._left) > _KNOWN_MOST:
            self._left.popitem(last=False)
        return fine
