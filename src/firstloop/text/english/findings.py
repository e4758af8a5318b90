"""What is said of ink: every code to the teacher and to the child, its name, and what is taught again.

``teacher`` says what was seen, ``child`` what to do next time and never a blame, ``name`` is what a
teacher calls the slip, ``teach`` what she teaches again where it is made.

Places: ``value`` in the code's unit, ``mm`` the same in millimetres, ``times`` for counts, and the facts
that the code lists; of a height fact also ``at_...``, the height as a place.
"""

from __future__ import annotations

from firstloop.text.catalogue import Entry, Select

_START = "where it starts, before the pen moves"
_ADVICE = {
    "stem-short": "Start the stem up at the rise line.",
    "reaches-up": "Keep it below the mid line.",
    "tail-short": "Let the tail hang below the base line.",
    "goes-below": "Stop at the base line.",
    "left-open": "Go on until the round is closed.",
    "ends-meet": "Leave the round open.",
    "too-far-across": "Stop a little sooner.",
    "not-across": "Go a little further across.",
    "goes-on": "Stop a little sooner.",
    "stops-soon": "Go on to the end of the letter.",
}


def _size(too: str) -> Select:
    return Select(
        "which",
        {
            "body": f"The middle part is too {too} for the band, by {{share}}.",
            "whole": f"The whole of {{letter}} is too {too} for the band, by {{share}}.",
        },
    )


def _uneven(largest: str) -> Select:
    return Select(
        "alike",
        {
            "same": f"One {largest} ({{largest}}) is larger than the smallest, by {{share}}.",
            "other": f"One {largest} ({{largest}}) is larger than the smallest ({{smallest}}), by {{share}}.",
        },
    )


FINDINGS: dict[str, dict[str, Entry]] = {
    "start.bottom": {
        "teacher": "Began at the bottom, {mm} from where {letter} starts.",
        "child": "Start {at_start}, then {first}.",
        "name": "begun at the bottom",
        "teach": _START,
    },
    "start.high": {
        "teacher": "Began {mm} above the start of {letter}.",
        "child": "Start {at_start}.",
        "name": "begun too high",
        "teach": _START,
    },
    "start.low": {
        "teacher": "Began {mm} below the start of {letter}.",
        "child": "Start {at_start}.",
        "name": "begun too low",
        "teach": _START,
    },
    "start.side": {
        "teacher": Select(
            "side",
            {
                "left": "Began {mm} to the left of the start of {letter}.",
                "right": "Began {mm} to the right of the start of {letter}.",
            },
        ),
        "child": "Find the starting place first: {start}.",
        "name": "begun too far to the side",
        "teach": _START,
    },
    "direction.reversed": {
        "teacher": "The {part} was written from its end to its beginning.",
        "child": Select(
            "begin", {"left": "Write the {part} from left to right."}, "Write the {part} from {begin}."
        ),
        "name": "a stroke written backwards",
        "teach": "which way the stroke goes",
    },
    "direction.turn": {
        "teacher": Select(
            "way",
            {
                "clockwise": "The round turns clockwise; the model turns counterclockwise.",
                "counterclockwise": "The round turns counterclockwise; the model turns clockwise.",
            },
        ),
        "child": Select(
            "way",
            {
                "clockwise": "From {start}, go round to the left first.",
                "counterclockwise": "From {start}, go round to the right first.",
            },
        ),
        "name": "the round turned the wrong way",
        "teach": "which way the round goes",
    },
    "order.swapped": {
        "teacher": "The {part} was written before the {other}.",
        "child": "Write the {other} first, then the {part}.",
        "name": "strokes in another order",
        "teach": "which stroke comes first",
    },
    "lift.extra": {
        "teacher": "The pen lifted {times} where the model goes on.",
        "child": "Keep the pen down: {first}.",
        "name": "the pen lifted on the way",
        "teach": "going on without lifting",
    },
    "lift.missing": {
        "teacher": "Strokes were run together where the model lifts.",
        "child": "Lift before the {part}.",
        "name": "strokes run together",
        "teach": "where to lift",
    },
    "retrace.gap": {
        "teacher": "The way back stands {mm} off the way down.",
        "child": "Go back along the same line before you go over.",
        "name": "the way back beside the line",
        "teach": "going back along the same line",
    },
    "shape.form": {
        "teacher": "All along, the line runs {mm} beside the model’s.",
        "child": "Look at the model and trace it once more, then write it.",
        "name": "out of shape",
        "teach": "the whole letter, traced once more",
    },
    "shape.mirrored": {
        "teacher": Select(
            "reads",
            {"": "Written as its mirror image."},
            "Written as its mirror image, reads as {reads}.",
        ),
        "child": Select(
            "begins",
            {
                "round": "Start with the round: {first}.",
                "downstroke": "Start with the downstroke: {first}.",
            },
        ),
        "name": "written as its mirror image",
        "teach": "which part comes first",
    },
    "shape.reads-as": {
        "teacher": "Reads as {reads} where it stands on the lines: {why_said}.",
        "child": Select("why", _ADVICE, "Start {at_start}."),
        "name": "reads as another letter",
        "teach": "what sets the two letters apart",
    },
    "shape.open": {
        "teacher": "The bowl is left open by {mm}.",
        "child": "Go on until the round is closed.",
        "name": "the bowl left open",
        "teach": "closing the round",
    },
    "shape.part-missing": {
        "teacher": "There is no {part}.",
        "child": "Do not forget the {part}.",
        "name": "a part left out",
        "teach": "all the parts, move by move",
    },
    "shape.part-extra": {
        "teacher": "There is ink that {letter} does not need: {mm} of it.",
        "child": "Stop when {letter} is finished, with nothing extra.",
        "name": "ink too many",
        "teach": "where the letter ends",
    },
    "shape.width": {
        "teacher": Select(
            "way",
            {
                "wider": "Wider than the model at the same height, by {share}.",
                "narrower": "Narrower than the model at the same height, by {share}.",
            },
        ),
        "child": Select(
            "way", {"wider": "Make it a little narrower.", "narrower": "Make it a little wider."}
        ),
        "name": "too wide or too narrow",
        "teach": "how wide it is",
    },
    "shape.corner": {
        "teacher": Select(
            "made",
            {
                "point": "A point where {letter} has a round.",
                "round": "A round where {letter} has a point.",
            },
        ),
        "child": Select(
            "made",
            {
                "point": "Go round in a curve, without a point.",
                "round": "Come to a point before you turn.",
            },
        ),
        "name": "a curve made pointed, or a point round",
        "teach": "where it turns and where it bends",
    },
    "shape.slant": {
        "teacher": Select(
            "way",
            {
                "forward": "The downstrokes lean {value} degrees forward of the house slant.",
                "back": "The downstrokes lean {value} degrees back of the house slant.",
            },
        ),
        "child": Select(
            "lean",
            {
                "upright": "Make every downstroke straight down.",
                "like-the-model": "Make every downstroke lean like the model.",
            },
        ),
        "name": "leaning",
        "teach": "parallel downstrokes",
    },
    "shape.reach": {
        "teacher": Select(
            "way",
            {"long": "The {part} is too long, by {share}.", "short": "The {part} is too short, by {share}."},
        ),
        "child": Select(
            "way",
            {"long": "Make the {part} a little shorter.", "short": "Make the {part} a little longer."},
        ),
        "name": "an arm too long or too short",
        "teach": "where the arm stops",
    },
    "shape.bars-uneven": {
        "teacher": "The longest bar is longer than the shortest, by {share}.",
        "child": "Make the bars the same length.",
        "name": "bars of different length",
        "teach": "bars of one length",
    },
    "shape.bar-height": {
        "teacher": Select("way", {"high": "The bar is {mm} too high.", "low": "The bar is {mm} too low."}),
        "child": "Put the bar {at_place}.",
        "name": "the bar too high or too low",
        "teach": "where the bar goes",
    },
    "shape.bar-detached": {
        "teacher": "The bar stands {mm} away from the {other}.",
        "child": "Let the bar touch the {other}.",
        "name": "the bar not touching",
        "teach": "the bar touching the stroke",
    },
    "shape.dot-gap": {
        "teacher": Select(
            "way",
            {
                "right": "The dot is {mm} too far to the right.",
                "left": "The dot is {mm} too far to the left.",
                "above": "The dot is {mm} too far above.",
                "close": "The dot is {mm} too close to the stem.",
            },
        ),
        "child": "Put the dot straight above the stem, a little way off.",
        "name": "the dot out of place",
        "teach": "where the dot goes",
    },
    "join.missing": {
        "teacher": Select(
            "joins",
            {
                "lead-in": "There is no lead-in.",
                "exit": "There is no exit.",
                "lead-in-and-exit": "There is no lead-in and no exit.",
            },
        ),
        "child": Select(
            "joins",
            {"exit": "Finish with the way on to the next letter."},
            "Start with the lead-in.",
        ),
        "name": "no way in or out",
        "teach": "the way out to the next letter",
    },
    "join.break": {
        "teacher": "The pen lifted {times} where a join should run.",
        "child": "Keep the pen down on the way to the next letter.",
        "name": "the pen lifted in a join",
        "teach": "joining without lifting",
    },
    "join.crossing": {
        "teacher": Select(
            "way",
            {
                "above": "The loop crosses {mm} above the base line.",
                "below": "The loop crosses {mm} below the base line.",
            },
        ),
        "child": "Let the loop cross on the base line.",
        "name": "the loop crossing off the base line",
        "teach": "the loop crossing on the base line",
    },
    "size.tall": {
        "teacher": _size("tall"),
        "child": "Stop {at_line}.",
        "name": "too tall",
        "teach": "stopping at the line",
    },
    "size.short": {
        "teacher": _size("short"),
        "child": "Reach up to {line}.",
        "name": "too short",
        "teach": "reaching the line",
    },
    "size.rise-short": {
        "teacher": "The tall part stops {mm} too low.",
        "child": "Start the tall part up {at_top}.",
        "name": "the tall part too short",
        "teach": "reaching the rise line",
    },
    "size.rise-tall": {
        "teacher": "The tall part goes {mm} too high.",
        "child": "Start the tall part {at_top}, no higher.",
        "name": "the tall part too tall",
        "teach": "stopping at the rise line",
    },
    "size.drop-short": {
        "teacher": "The tail stops {mm} above its line.",
        "child": "Bring the tail down to the drop line.",
        "name": "the tail too short",
        "teach": "reaching the drop line",
    },
    "size.drop-long": {
        "teacher": "The tail runs {mm} below its line.",
        "child": "Stop the tail at the drop line.",
        "name": "the tail too long",
        "teach": "stopping at the drop line",
    },
    "position.floating": {
        "teacher": "Stands {mm} above the base line.",
        "child": "Let it sit on the base line.",
        "name": "floating above the line",
        "teach": "sitting on the base line",
    },
    "position.sinking": {
        "teacher": "Stands {mm} below the base line.",
        "child": "Stop at the base line.",
        "name": "sinking below the line",
        "teach": "stopping at the base line",
    },
    "position.tail-on-line": {
        "teacher": "The whole letter stands on the base line, tail and all.",
        "child": "Let the tail hang below the base line.",
        "name": "the tail standing on the line",
        "teach": "the tail hanging below the line",
    },
    "size.uneven": {
        "teacher": Select(
            "which",
            {"body": _uneven("letter"), "tall": _uneven("tall part"), "deep": _uneven("tail")},
        ),
        "child": Select(
            "which",
            {
                "body": "Make all letters the same height.",
                "tall": "Make all tall parts the same height.",
                "deep": "Make all tails the same height.",
            },
        ),
        "name": "letters of different size",
        "teach": "letters of one height",
    },
    "spacing.tight": {
        "teacher": "{before} and {after} stand {mm} closer than the model.",
        "child": "Leave a little room between the letters.",
        "name": "letters too close",
        "teach": "room between letters",
    },
    "spacing.wide": {
        "teacher": "{before} and {after} stand {mm} further apart than the model.",
        "child": "Bring the letters of a word closer together.",
        "name": "letters too far apart",
        "teach": "letters of a word together",
    },
    "spacing.uneven": {
        "teacher": Select(
            "much",
            {
                "part": "The gaps between the letters differ by {share} of a gap.",
                "whole": "The gaps between the letters differ by a gap or more.",
            },
        ),
        "child": "Leave the same room between all letters.",
        "name": "uneven gaps",
        "teach": "even gaps",
    },
    "words.tight": {
        "teacher": "The words stand much closer than a finger space.",
        "child": "Leave a finger space between words.",
        "name": "words too close",
        "teach": "a finger space",
    },
    "words.wide": {
        "teacher": "The words stand {value} finger spaces apart.",
        "child": "One finger space between words is enough.",
        "name": "words too far apart",
        "teach": "one finger space",
    },
    "line.drift": {
        "teacher": Select(
            "way",
            {
                "climbs": "The line climbs by {value} degrees.",
                "sinks": "The line sinks by {value} degrees.",
            },
        ),
        "child": "Keep every foot on the base line, to the end of the line.",
        "name": "the line climbing or falling",
        "teach": "every foot on the base line",
    },
    "unreadable": {
        "teacher": "This ink could not be read as a letter.",
        "child": "Write it once more, a little slower.",
        "name": "not to be read",
        "teach": "the letter, slowly",
    },
    "flow.pauses": {
        "teacher": "Paused {times} inside a stroke.",
        "child": "",
        "name": "pauses inside a stroke",
        "teach": "one movement without stopping",
    },
    "flow.slow": {
        "teacher": "At {share} of this child’s usual speed.",
        "child": "",
        "name": "slower than usual",
        "teach": "a steady pace",
    },
}

WORDS: dict[str, Entry] = {
    **{
        f"part.{name}": name
        for name in (
            "arch", "arm", "bar", "cup", "dot", "foot", "hook", "leg", "letter", "round", "slope",
            "stem", "tail",
        )
    },
    "why.stem-short": "its stem is too short",
    "why.reaches-up": "it reaches up too far",
    "why.tail-short": "its tail does not hang down",
    "why.goes-below": "it goes below the base line",
    "why.left-open": "its round is left open",
    "why.ends-meet": "its ends meet",
    "why.too-far-across": "it goes too far across",
    "why.not-across": "it does not go far enough across",
    "why.goes-on": "it goes on too long",
    "why.stops-soon": "it stops too soon",
    "why.nearer": "its shape is nearer",
    "amount": Select("unit", {"xh": "{value} mm", "%": "{value} %", "deg": "{value} degrees"}, "{value}"),
    "amounts": "{low} to {high}",
    "allowance.length": "up to {tolerance} is fine",
    "allowance.times": Select(
        "how",
        {
            "little": "a little more than is fine",
            "half": "half as much again as is fine",
            "twice": "twice what is fine",
            "thrice": "three times what is fine",
        },
        "far more than is fine",
    ),
    "times": Select("count", {"1": "once", "2": "twice"}, "{count} times"),
    "well-done": "Keep it just like your best one.",
    "not-seen": "There is no ink for {letters}.",
    "the-whole": "the whole",
    "the-unseen": "not seen",
    "also-of": "{said} ({char}); {others} too.",
    "note.marks": "{marks}: found, not judged.",
    "note.unknown": "The house cannot judge {chars}.",
    "note.too-long": "The text is too long.",
}  # fmt: skip
