"""What can be said of written ink, how far out it has to be, and how that is graded."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Heading(StrEnum):
    """What a teacher thinks in."""

    DIRECTION = "direction"
    SHAPE = "shape"
    SIZE = "size"
    FLOW = "flow"


class Level(StrEnum):
    """How strict to be; what a class or child is ready for."""

    STARTING = "starting"
    GROWING = "growing"
    SETTLED = "settled"

    @property
    def factor(self) -> float:
        """Multiplier of every tolerance."""
        return {"starting": 1.5, "growing": 1.0, "settled": 0.67}[self.value]


class Severity(StrEnum):
    """How far outside the tolerance."""

    NEAR = "near"
    FIX = "fix"
    TOLD = "told"


@dataclass(frozen=True)
class Code:
    """One kind of finding.

    Parameters
    ----------
    tolerance : float or None
        In `unit`, at the level "growing"; None for codes that are a fault whenever they occur.
    teacher, child : str
        Sentences; the child's says what to do next time. Both are filled from the finding's words.
    small_is_worse : bool
        Whether a value is out when it is below the tolerance.
    """

    code: str
    heading: Heading
    tolerance: float | None
    unit: str
    teacher: str
    child: str
    small_is_worse: bool = False
