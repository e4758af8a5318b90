"""The codes: heading, tolerance, unit and words of everything the checker can say.

One table; the modules that measure only say "this code, this much, here".
"""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from firstloop.core.curves import FloatArray


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
    """

    code: str
    heading: Heading
    tolerance: float | None
    unit: str
    teacher: str
    child: str


D, S, Z, F = Heading.DIRECTION, Heading.SHAPE, Heading.SIZE, Heading.FLOW

_TABLE = (
    Code(
        "start.bottom",
        D,
        None,
        "xh",
        "Began at the bottom, {mm} from where {letter} starts.",
        "Start at {start}, then {first}.",
    ),
    Code("start.high", D, 0.30, "xh", "Began {mm} above the start of {letter}.", "Start at {start}."),
    Code("start.low", D, 0.30, "xh", "Began {mm} below the start of {letter}.", "Start at {start}."),
    Code(
        "start.side",
        D,
        0.35,
        "xh",
        "Began {mm} to the {side} of the start of {letter}.",
        "Find the starting place first: {start}.",
    ),
    Code(
        "direction.reversed",
        D,
        None,
        "xh",
        "The {part} was written from its end to its beginning.",
        "Write the {part} from {from_}.",
    ),
    Code(
        "direction.turn",
        D,
        None,
        "deg",
        "The round turns {way}; the model turns {model_way}.",
        "From {start}, go round to the {side} first.",
    ),
    Code(
        "order.swapped",
        D,
        None,
        "",
        "The {part} was written before the {other}.",
        "Write the {other} first, then the {part}.",
    ),
    Code(
        "lift.extra",
        D,
        0.0,
        "lifts",
        "The pen lifted {value} where the model goes on.",
        "Keep the pen down: {first}.",
    ),
    Code(
        "lift.missing",
        D,
        0.0,
        "lifts",
        "Strokes were run together where the model lifts.",
        "Lift before the {part}.",
    ),
    Code(
        "retrace.gap",
        D,
        0.15,
        "xh",
        "The way back stands {mm} off the way down.",
        "Go back along the same line before you go over.",
    ),
    Code(
        "shape.form",
        S,
        0.12,
        "xh",
        "The shape is {mm} off the model on average.",
        "Look at the model and trace it once more, then write it.",
    ),
    Code(
        "shape.mirrored",
        S,
        None,
        "ratio",
        "Written as its mirror image{reads}.",
        "Start with the {first_part}: {first}.",
    ),
    Code(
        "shape.reads-as",
        S,
        None,
        "ratio",
        "Reads as {reads}, judged where it stands on the lines.",
        "{reads_hint}",
    ),
    Code("shape.open", S, 0.20, "xh", "The bowl is left open by {mm}.", "Go on until the round is closed."),
    Code("shape.part-missing", S, None, "cover", "There is no {part}.", "Do not forget the {part}."),
    Code(
        "shape.part-extra",
        S,
        0.40,
        "xh",
        "There is ink that {letter} does not need: {mm} of it.",
        "Stop when {letter} is finished, with nothing extra.",
    ),
    Code(
        "shape.width",
        S,
        35.0,
        "%",
        "{value} % {wider} than the model at the same height.",
        "Make it a little {width_hint}.",
    ),
    Code(
        "size.tall",
        Z,
        25.0,
        "%",
        "The middle part is {value} % too tall for the band.",
        "Stop at the mid line.",
    ),
    Code(
        "size.short",
        Z,
        25.0,
        "%",
        "The middle part is {value} % too short for the band.",
        "Reach up to the mid line.",
    ),
    Code(
        "size.rise-short",
        Z,
        0.35,
        "xh",
        "The tall part stops {mm} too low.",
        "Start the tall part up at {rise}.",
    ),
    Code(
        "size.rise-tall",
        Z,
        0.35,
        "xh",
        "The tall part goes {mm} too high.",
        "Start the tall part at {rise}, no higher.",
    ),
    Code(
        "size.drop-short",
        Z,
        0.35,
        "xh",
        "The tail stops {mm} above its line.",
        "Bring the tail down to the drop line.",
    ),
    Code(
        "size.drop-long",
        Z,
        0.35,
        "xh",
        "The tail runs {mm} below its line.",
        "Stop the tail at the drop line.",
    ),
    Code(
        "position.floating", Z, 0.20, "xh", "Stands {mm} above the base line.", "Let it sit on the base line."
    ),
    Code("position.sinking", Z, 0.20, "xh", "Stands {mm} below the base line.", "Stop at the base line."),
    Code(
        "position.tail-on-line",
        Z,
        None,
        "xh",
        "The whole letter stands on the base line, tail and all.",
        "Let the tail hang below the base line.",
    ),
    Code(
        "unreadable",
        S,
        None,
        "",
        "This ink could not be read as a letter.",
        "Write it once more, a little slower.",
    ),
    Code("flow.pauses", F, None, "pauses", "Paused {value} inside a stroke.", ""),
    Code("flow.slow", F, None, "ratio", "Slower than usual for this child.", ""),
)

CODES: dict[str, Code] = {code.code: code for code in _TABLE}
PERCENT_DIGITS = {"%": 0, "deg": 0, "lifts": 0, "pauses": 0}


@dataclass(frozen=True, eq=False)
class Finding:
    """Something outside its tolerance, and where.

    Parameters
    ----------
    at : array, shape (2,)
        Place on the ink in letter space.
    span : array, shape (n, 2)
        The ink it is about, letter space.
    words : dict
        Fills the sentences of its code.
    """

    code: str
    severity: Severity
    value: float
    tolerance: float | None
    stroke: int
    move: int
    at: FloatArray
    span: FloatArray
    words: dict[str, str] = field(default_factory=dict)

    @property
    def spec(self) -> Code:
        """Its entry in the table."""
        return CODES[self.code]

    def _fill(self, sentence: str) -> str:
        digits = PERCENT_DIGITS.get(self.spec.unit, 2)
        words = {"value": f"{self.value:.{digits}f}", **self.words}
        if self.spec.unit in ("lifts", "pauses"):
            words["value"] = {1: "once", 2: "twice"}.get(int(self.value), f"{int(self.value)} times")
        return sentence.format(**words)

    @property
    def teacher(self) -> str:
        """Sentence for the teacher."""
        return self._fill(self.spec.teacher)

    @property
    def child(self) -> str:
        """Sentence for the child: what to do next time."""
        text = self._fill(self.spec.child)
        return text[:1].upper() + text[1:]


def tolerance_at(code: str, level: Level) -> float | None:
    """Tolerance of a code at a level, or None when any occurrence counts."""
    base = CODES[code].tolerance
    return None if base is None else base * level.factor


def severity_of(code: str, value: float, level: Level) -> Severity | None:
    """Grade a measured value: None inside the tolerance, then near, then fix.

    Examples
    --------
    >>> severity_of("start.low", 0.29, Level.GROWING) is None
    True
    >>> severity_of("start.low", 0.61, Level.GROWING)
    <Severity.FIX: 'fix'>
    """
    spec = CODES[code]
    if spec.heading is Heading.FLOW:
        return Severity.TOLD
    tolerance = tolerance_at(code, level)
    if tolerance is None:
        return Severity.FIX
    if spec.unit == "lifts":
        return None if value < 1 else Severity.NEAR if value < 2 else Severity.FIX
    if value <= tolerance:
        return None
    return Severity.NEAR if value <= 2 * tolerance else Severity.FIX
