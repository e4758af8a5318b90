"""The codes: heading, tolerance, unit and facts of everything the checker can say.

One table; the modules that measure only say "this code, this much, here", and ``firstloop.text`` has
the words. The tolerances are those of the check's specification, chosen with teachers for children of
five to eleven at the level "growing".
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from firstloop.core.check.vocabulary.grades import Code, Heading, Level, Severity, Unit

D, S, Z, F = Heading.DIRECTION, Heading.SHAPE, Heading.SIZE, Heading.FLOW
XH, DEG, PERCENT, RATIO, FINGERS = Unit.XH, Unit.DEGREES, Unit.PERCENT, Unit.RATIO, Unit.FINGERS

_TABLE = (
    Code("start.bottom", D, None, XH, ("letter", "start", "first")),
    Code("start.high", D, 0.30, XH, ("letter", "start")),
    Code("start.low", D, 0.30, XH, ("letter", "start")),
    Code("start.side", D, 0.35, XH, ("letter", "start", "side")),
    Code("direction.reversed", D, None, XH, ("part", "begin")),
    Code("direction.turn", D, None, DEG, ("way", "start")),
    Code("order.swapped", D, None, Unit.NONE, ("part", "other")),
    Code("lift.extra", D, 0.0, Unit.LIFTS, ("first",)),
    Code("lift.missing", D, 0.0, Unit.LIFTS, ("part",)),
    Code("retrace.gap", D, 0.15, XH),
    Code("shape.form", S, 0.12, XH),
    Code("shape.mirrored", S, None, RATIO, ("reads", "first", "begins")),
    Code("shape.reads-as", S, None, RATIO, ("reads", "why", "start")),
    Code("shape.open", S, 0.20, XH),
    Code("shape.part-missing", S, None, Unit.COVER, ("part",)),
    Code("shape.part-extra", S, 0.40, XH, ("letter",)),
    Code("shape.width", S, 35.0, PERCENT, ("way",)),
    Code("shape.corner", S, 36.0, DEG, ("letter", "made")),
    Code("shape.slant", S, 12.0, DEG, ("way", "lean")),
    Code("shape.reach", S, 40.0, PERCENT, ("part", "way")),
    Code("shape.bars-uneven", S, 30.0, PERCENT),
    Code("shape.bar-height", S, 0.25, XH, ("way", "place")),
    Code("shape.bar-detached", S, 0.15, XH, ("other",)),
    Code("shape.dot-gap", S, 0.35, XH, ("way",)),
    Code("join.missing", S, 0.0, Unit.JOINS, ("joins",)),
    Code("join.break", S, 0.0, Unit.JOINS),
    Code("join.crossing", S, 0.25, XH, ("way",)),
    Code("size.tall", Z, 25.0, PERCENT, ("which", "letter", "line")),
    Code("size.short", Z, 25.0, PERCENT, ("which", "letter", "line")),
    Code("size.rise-short", Z, 0.35, XH, ("top",)),
    Code("size.rise-tall", Z, 0.35, XH, ("top",)),
    Code("size.drop-short", Z, 0.35, XH),
    Code("size.drop-long", Z, 0.35, XH),
    Code("position.floating", Z, 0.20, XH),
    Code("position.sinking", Z, 0.20, XH),
    Code("position.tail-on-line", Z, None, XH),
    Code("size.uneven", Z, 30.0, PERCENT, ("which", "largest", "smallest")),
    Code("spacing.tight", Z, 0.35, XH, ("before", "after")),
    Code("spacing.wide", Z, 0.35, XH, ("before", "after")),
    Code("spacing.uneven", Z, 60.0, PERCENT),
    Code("words.tight", Z, 0.5, FINGERS, small_is_worse=True),
    Code("words.wide", Z, 2.5, FINGERS),
    Code("line.drift", Z, 3.0, DEG, ("way",)),
    Code("unreadable", S, None, Unit.NONE),
    Code("flow.pauses", F, None, Unit.PAUSES),
    Code("flow.slow", F, None, RATIO),
)

NO_TOLERANCES: Mapping[str, float] = MappingProxyType({})
CODES: dict[str, Code] = {code.code: code for code in _TABLE}


@dataclass(frozen=True)
class Strictness:
    """How strict to be: a level, and the tolerances a class has accepted in place of the table's.

    Parameters
    ----------
    tolerances : mapping
        By code, at the level "growing".
    """

    level: Level = Level.GROWING
    tolerances: Mapping[str, float] = field(default_factory=lambda: NO_TOLERANCES)

    def tolerance(self, code: str) -> float | None:
        """Tolerance of a code, or None when any occurrence counts."""
        spec = CODES[code]
        if spec.tolerance is None:
            return None
        base = self.tolerances.get(code, spec.tolerance)
        return base / self.level.factor if spec.small_is_worse else base * self.level.factor

    def severity(self, code: str, value: float) -> Severity | None:
        """Grade a measured value: None inside the tolerance, then near, then fix.

        Examples
        --------
        >>> Strictness().severity("start.low", 0.29) is None
        True
        >>> Strictness().severity("start.low", 0.61)
        <Severity.FIX: 'fix'>
        >>> Strictness().severity("words.tight", 0.4)
        <Severity.NEAR: 'near'>
        """
        spec = CODES[code]
        if spec.heading is Heading.FLOW:
            return Severity.TOLD
        tolerance = self.tolerance(code)
        if tolerance is None:
            return Severity.FIX
        if spec.unit.is_count:
            return None if value < 1 else Severity.NEAR if value < 2 else Severity.FIX
        times = tolerance / max(value, 1e-9) if spec.small_is_worse else value / tolerance
        if times <= 1:
            return None
        return Severity.NEAR if times <= 2 else Severity.FIX


USUAL = Strictness()
"""The house's tolerances at the level "growing"."""
