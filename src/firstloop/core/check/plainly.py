"""Every slip in plain words: how a teacher names it, and what she teaches again."""

from __future__ import annotations

_START = "where it starts, before the pen moves"
_PLAIN: dict[str, tuple[str, str]] = {
    "start.bottom": ("begun at the bottom", _START),
    "start.high": ("begun too high", _START),
    "start.low": ("begun too low", _START),
    "start.side": ("begun too far to the side", _START),
    "direction.reversed": ("a stroke written backwards", "which way the stroke goes"),
    "direction.turn": ("the round turned the wrong way", "which way the round goes"),
    "order.swapped": ("strokes in another order", "which stroke comes first"),
    "lift.extra": ("the pen lifted on the way", "going on without lifting"),
    "lift.missing": ("strokes run together", "where to lift"),
    "retrace.gap": ("the way back beside the line", "going back along the same line"),
    "shape.form": ("out of shape", "the whole letter, traced once more"),
    "shape.mirrored": ("written as its mirror image", "which part comes first"),
    "shape.reads-as": ("reads as another letter", "what sets the two letters apart"),
    "shape.open": ("the bowl left open", "closing the round"),
    "shape.part-missing": ("a part left out", "all the parts, move by move"),
    "shape.part-extra": ("ink too many", "where the letter ends"),
    "shape.width": ("too wide or too narrow", "how wide it is"),
    "shape.corner": ("a curve made pointed, or a point round", "where it turns and where it bends"),
    "shape.slant": ("leaning", "parallel downstrokes"),
    "shape.reach": ("an arm too long or too short", "where the arm stops"),
    "shape.bars-uneven": ("bars of different length", "bars of one length"),
    "shape.bar-height": ("the bar too high or too low", "where the bar goes"),
    "shape.bar-detached": ("the bar not touching", "the bar touching the stroke"),
    "shape.dot-gap": ("the dot out of place", "where the dot goes"),
    "join.missing": ("no way in or out", "the way out to the next letter"),
    "join.break": ("the pen lifted in a join", "joining without lifting"),
    "join.crossing": ("the loop crossing off the base line", "the loop crossing on the base line"),
    "size.tall": ("too tall", "stopping at the line"),
    "size.short": ("too short", "reaching the line"),
    "size.rise-short": ("the tall part too short", "reaching the rise line"),
    "size.rise-tall": ("the tall part too tall", "stopping at the rise line"),
    "size.drop-short": ("the tail too short", "reaching the drop line"),
    "size.drop-long": ("the tail too long", "stopping at the drop line"),
    "position.floating": ("floating above the line", "sitting on the base line"),
    "position.sinking": ("sinking below the line", "stopping at the base line"),
    "position.tail-on-line": ("the tail standing on the line", "the tail hanging below the line"),
    "size.uneven": ("letters of different size", "letters of one height"),
    "spacing.tight": ("letters too close", "room between letters"),
    "spacing.wide": ("letters too far apart", "letters of a word together"),
    "spacing.uneven": ("uneven gaps", "even gaps"),
    "words.tight": ("words too close", "a finger space"),
    "words.wide": ("words too far apart", "one finger space"),
    "line.drift": ("the line climbing or falling", "every foot on the base line"),
    "unreadable": ("not to be read", "the letter, slowly"),
    "flow.pauses": ("pauses inside a stroke", "one movement without stopping"),
    "flow.slow": ("slower than usual", "a steady pace"),
}


def slip_name(code: str) -> str:
    """What a slip is called: "begun at the bottom"."""
    return _PLAIN[code][0]


def to_teach(code: str) -> str:
    """What to teach again where it is made: "where it starts, before the pen moves"."""
    return _PLAIN[code][1]
