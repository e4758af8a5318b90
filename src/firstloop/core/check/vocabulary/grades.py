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


COUNTED_HEADINGS = (Heading.DIRECTION, Heading.SHAPE, Heading.SIZE)
"""Those that count, first what helps most: a letter made the right way comes before one made neat."""


class Verdict(StrEnum):
    """What is said of a letter, or of one heading of it, from best to worst; then what says nothing."""

    SECURE = "secure"
    NEAR = "near"
    FIX = "fix"
    UNREADABLE = "unreadable"
    NOT_SEEN = "not-seen"

    @property
    def badness(self) -> int:
        """Its place from best to worst."""
        return list(Verdict).index(self)


MARKS = (Verdict.SECURE, Verdict.NEAR, Verdict.FIX)
"""The verdicts that a teacher's own mark may be."""


class Severity(StrEnum):
    """How far outside the tolerance; what is only told counts for nothing."""

    NEAR = "near"
    FIX = "fix"
    TOLD = "told"

    @property
    def verdict(self) -> Verdict:
        """What a finding of this severity makes of its letter."""
        return Verdict.SECURE if self is Severity.TOLD else Verdict(self.value)


class Level(StrEnum):
    """How strict to be; what a class or child is ready for."""

    STARTING = "starting"
    GROWING = "growing"
    SETTLED = "settled"

    @property
    def factor(self) -> float:
        """Multiplier of every tolerance."""
        return {"starting": 1.5, "growing": 1.0, "settled": 0.67}[self.value]


class Unit(StrEnum):
    """What a finding's value is measured in; how it is said stands in the catalogue."""

    XH = "xh"
    PERCENT = "%"
    DEGREES = "deg"
    FINGERS = "x"
    RATIO = "ratio"
    COVER = "cover"
    LIFTS = "lifts"
    JOINS = "joins"
    PAUSES = "pauses"
    NONE = ""

    @property
    def is_count(self) -> bool:
        """Whether it counts occurrences, of which one is near and two are to fix."""
        return self in (Unit.LIFTS, Unit.JOINS)

    @property
    def step(self) -> float | None:
        """By how much a tolerance in this unit is changed; None where that is a tenth of it."""
        return {Unit.XH: 0.05, Unit.PERCENT: 5.0, Unit.DEGREES: 1.0}.get(self)


@dataclass(frozen=True)
class Code:
    """One kind of finding.

    Parameters
    ----------
    tolerance : float or None
        In `unit`, at the level "growing"; None for codes that are a fault whenever they occur.
    facts : tuple of str
        What its sentences need beside the value (see ``firstloop.text``).
    small_is_worse : bool
        Whether a value is out when it is below the tolerance.
    """

    code: str
    heading: Heading
    tolerance: float | None
    unit: Unit
    facts: tuple[str, ...] = ()
    small_is_worse: bool = False
