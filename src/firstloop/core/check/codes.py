"""The codes: heading, tolerance, unit and words of everything the checker can say.

One table; the modules that measure only say "this code, this much, here".
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from firstloop.core.check.grades import Code, Heading, Level, Severity

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
        "Reads as {reads} where it stands on the lines: {why}.",
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
        "shape.corner",
        S,
        36.0,
        "deg",
        "A {written} where {letter} has a {model}: {value} degrees off.",
        "{corner_hint}",
    ),
    Code(
        "shape.slant",
        S,
        12.0,
        "deg",
        "The downstrokes lean {value} degrees {way} of the house slant.",
        "Make every downstroke {lean}.",
    ),
    Code(
        "shape.reach",
        S,
        40.0,
        "%",
        "The {part} is {value} % too {long}.",
        "Make the {part} {longer}.",
    ),
    Code(
        "shape.bars-uneven",
        S,
        30.0,
        "%",
        "The longest bar is {value} % longer than the shortest.",
        "Make the bars the same length.",
    ),
    Code("shape.bar-height", S, 0.25, "xh", "The bar is {mm} too {high}.", "Put the bar {place}."),
    Code(
        "shape.bar-detached",
        S,
        0.15,
        "xh",
        "The bar stands {mm} away from the {other}.",
        "Let the bar touch the {other}.",
    ),
    Code("shape.dot-gap", S, 0.35, "xh", "The dot is {mm} {off}.", "Put the dot {place}."),
    Code("join.missing", S, 0.0, "joins", "There is no {part}.", "{join_hint}"),
    Code(
        "join.break",
        S,
        0.0,
        "joins",
        "The pen lifted {value} where a join should run.",
        "Keep the pen down on the way to the next letter.",
    ),
    Code(
        "join.crossing",
        S,
        0.25,
        "xh",
        "The loop crosses {mm} {above} the base line.",
        "Let the loop cross on the base line.",
    ),
    Code(
        "size.tall",
        Z,
        25.0,
        "%",
        "{which} is {value} % too tall for the band.",
        "Stop at {line}.",
    ),
    Code(
        "size.short",
        Z,
        25.0,
        "%",
        "{which} is {value} % too short for the band.",
        "Reach up to {line}.",
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
        "size.uneven",
        Z,
        30.0,
        "%",
        "The largest {which} is {value} % larger than the smallest.",
        "Make {which_all} the same height.",
    ),
    Code(
        "spacing.tight",
        Z,
        0.35,
        "xh",
        "{where} stand {mm} closer than the model.",
        "Leave a little room between the letters.",
    ),
    Code(
        "spacing.wide",
        Z,
        0.35,
        "xh",
        "{where} stand {mm} further apart than the model.",
        "Bring the letters of a word closer together.",
    ),
    Code(
        "spacing.uneven",
        Z,
        60.0,
        "%",
        "The gaps between the letters differ by {value} % of a gap.",
        "Leave the same room between all letters.",
    ),
    Code(
        "words.tight",
        Z,
        0.5,
        "x",
        "The words stand {value} of a finger space apart.",
        "Leave a finger space between words.",
        small_is_worse=True,
    ),
    Code(
        "words.wide",
        Z,
        2.5,
        "x",
        "The words stand {value} finger spaces apart.",
        "One finger space between words is enough.",
    ),
    Code(
        "line.drift",
        Z,
        3.0,
        "deg",
        "The line {climbs} by {value} degrees.",
        "Keep every foot on the base line, to the end of the line.",
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
    Code("flow.slow", F, None, "ratio", "At {value} of this child's usual speed.", ""),
)

COUNTED = ("lifts", "joins")  # units of which one is near and two are to fix
NO_OWN: Mapping[str, float] = MappingProxyType({})
CODES: dict[str, Code] = {code.code: code for code in _TABLE}


def tolerance_at(code: str, level: Level, own: Mapping[str, float] = NO_OWN) -> float | None:
    """Tolerance of a code at a level, or None when any occurrence counts.

    Parameters
    ----------
    own : mapping
        Tolerances that a class has accepted in place of the table's, at the level "growing".
    """
    spec = CODES[code]
    if spec.tolerance is None:
        return None
    base = own.get(code, spec.tolerance)
    return base / level.factor if spec.small_is_worse else base * level.factor


def severity_of(code: str, value: float, level: Level, own: Mapping[str, float] = NO_OWN) -> Severity | None:
    """Grade a measured value: None inside the tolerance, then near, then fix.

    Examples
    --------
    >>> severity_of("start.low", 0.29, Level.GROWING) is None
    True
    >>> severity_of("start.low", 0.61, Level.GROWING)
    <Severity.FIX: 'fix'>
    >>> severity_of("words.tight", 0.4, Level.GROWING)
    <Severity.NEAR: 'near'>
    """
    spec = CODES[code]
    if spec.heading is Heading.FLOW:
        return Severity.TOLD
    tolerance = tolerance_at(code, level, own)
    if tolerance is None:
        return Severity.FIX
    if spec.unit in COUNTED:
        return None if value < 1 else Severity.NEAR if value < 2 else Severity.FIX
    times = tolerance / max(value, 1e-9) if spec.small_is_worse else value / tolerance
    if times <= 1:
        return None
    return Severity.NEAR if times <= 2 else Severity.FIX
