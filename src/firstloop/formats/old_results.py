"""Results as they were kept while their sentences stood in them: read back into codes and facts.

Until version 4 of the checker a finding was kept with its two English sentences. What they said beside the
value is a fact now; here it is read out of them again. Whoever changes the catalogue need not look here:
these are the sentences of that time, and they do not change any more.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

Document = dict[str, Any]
_SPAN_POINTS = 16

_HEIGHTS = {
    f"{how}the {line} line": f"{key}{line}"
    for line in ("rise", "mid", "base", "drop")
    for how, key in (("", ""), ("just under ", "under-"), ("just above ", "above-"))
} | {
    "halfway up the rise band": "half-rise",
    "halfway up the middle band": "half-middle",
    "halfway down the drop band": "half-drop",
    "left to right": "left",
}
_FIRST = {
    "across": "across", "across and up": "across-and-up", "all the way round": "round-all-the-way",
    "and back": "and-back", "back across": "back-across", "back along": "back-along",
    "back down": "back-down", "back down and round": "back-down-and-out", "back up": "back-up",
    "curl left": "curl-on-the-drop", "curl right": "curl-right", "curve down": "curve-down",
    "dot": "dot-above", "down": "down", "down and curl": "down-and-curl",
    "down and curve": "down-and-curve", "down and loop": "down-and-loop", "down and round": "down-and-out",
    "down, round and up": "cup", "flick out": "flick-out", "lead in": "lead-in",
    "little curve": "little-curve", "loop back up": "loop-back-up", "loop over": "loop-over",
    "on to the next": "on", "over and down": "over-and-down", "over and round": "over-and-round",
    "over and stop": "over-and-stop", "over to the left": "over-into-the-stem",
    "round and in": "round-and-in", "round to the left": "round-and-stop",
    "round to the right": "bowl-and-in", "slope back": "slope-left", "slope down": "slope-right",
    "slope in": "slope-in", "slope up": "slope-up", "straight down": "straight-down", "up": "up",
}  # fmt: skip
_WHY = {
    "its stem is too short": "stem-short",
    "it reaches up too far": "reaches-up",
    "its tail does not hang down": "tail-short",
    "it goes below the base line": "goes-below",
    "its round is left open": "left-open",
    "its ends meet": "ends-meet",
    "it goes too far across": "too-far-across",
    "it does not go far enough across": "not-across",
    "it goes on too long": "goes-on",
    "it stops too soon": "stops-soon",
    "its shape is nearer": "nearer",
}
_WORDS: dict[str, Mapping[str, str]] = {
    **dict.fromkeys(("start", "begin", "place", "line", "top"), _HEIGHTS),
    "first": _FIRST,
    "why": _WHY,
    "way": {"too far to the right": "right", "too far to the left": "left", "too far above": "above",
            "too close to the stem": "close"},
    "lean": {"straight down": "upright", "lean like the model": "like-the-model"},
    "joins": {"lead-in and no exit": "lead-in-and-exit"},
    "which": {"The middle part": "body", "letter": "body", "tall part": "tall", "tail": "deep"},
}  # fmt: skip
"""What stood in a sentence, as the fact is kept now; where nothing is named it is kept as it stood."""

_START = r"^Start at (?P<start>.+)\.$"
_SIZE = r"^(?:(?P<which>The middle part)|The whole of (?P<letter>.)) is"
_SENTENCES: dict[str, tuple[str, ...]] = {
    "start.bottom": (
        r"from where (?P<letter>.) starts\.$",
        r"^Start at (?P<start>.+), then (?P<first>.+)\.$",
    ),
    "start.high": (r"the start of (?P<letter>.)\.$", _START),
    "start.low": (r"the start of (?P<letter>.)\.$", _START),
    "start.side": (
        r"to the (?P<side>left|right) of the start of (?P<letter>.)\.$",
        r"^Find the starting place first: (?P<start>.+)\.$",
    ),
    "direction.reversed": (r"^The (?P<part>\w+) was", r"^Write the \w+ from (?P<begin>.+)\.$"),
    "direction.turn": (r"^The round turns (?P<way>\w+);", r"^From (?P<start>.+), go round"),
    "order.swapped": (r"^The (?P<part>\w+) was written before the (?P<other>\w+)\.$",),
    "lift.extra": (r"^Keep the pen down: (?P<first>.+)\.$",),
    "lift.missing": (r"^Lift before the (?P<part>\w+)\.$",),
    "shape.mirrored": (
        r"reads as (?P<reads>.)\.$",
        r"^Start with the (?P<begins>round|downstroke): (?P<first>.+)\.$",
    ),
    "shape.reads-as": (r"^Reads as (?P<reads>.) where it stands on the lines: (?P<why>.+)\.$", _START),
    "shape.part-missing": (r"^There is no (?P<part>\w+)\.$",),
    "shape.part-extra": (r"ink that (?P<letter>.) does not need",),
    "shape.width": (r" % (?P<way>wider|narrower) than",),
    "shape.corner": (r"^A (?P<made>point|round) where (?P<letter>.) has",),
    "shape.slant": (r"degrees (?P<way>forward|back) of", r"^Make every downstroke (?P<lean>.+)\.$"),
    "shape.reach": (r"^The (?P<part>\w+) is .* too (?P<way>long|short)\.$",),
    "shape.bar-height": (r" too (?P<way>high|low)\.$", r"^Put the bar at (?P<place>.+)\.$"),
    "shape.bar-detached": (r"away from the (?P<other>\w+)\.$",),
    "shape.dot-gap": (r"^The dot is [\d.]+ mm (?P<way>.+)\.$",),
    "join.missing": (r"^There is no (?P<joins>.+)\.$",),
    "join.crossing": (r" mm (?P<way>above|below) the base line\.$",),
    "size.tall": (_SIZE, r"^Stop at (?P<line>.+)\.$"),
    "size.short": (_SIZE, r"^Reach up to (?P<line>.+)\.$"),
    "size.rise-short": (r"^Start the tall part up at (?P<top>.+)\.$",),
    "size.rise-tall": (r"^Start the tall part at (?P<top>.+), no higher\.$",),
    "size.uneven": (
        r"^The largest (?P<which>letter|tall part|tail) \((?P<largest>.)\)(?:, against (?P<smallest>.),)? is",
    ),
    "spacing.tight": (r"^(?P<before>.) and (?P<after>.) stand",),
    "spacing.wide": (r"^(?P<before>.) and (?P<after>.) stand",),
    "line.drift": (r"^The line (?P<way>climbs|sinks)",),
}
_NOTES = (
    (r"^(?P<marks>.+): found, not judged\.$", "note.marks"),
    (r"^The house cannot judge (?P<chars>.+)\.$", "note.unknown"),
    (r"^The text is too long\.$", "note.too-long"),
)


def _facts(code: str, teacher: str, child: str) -> dict[str, str]:
    facts: dict[str, str] = {}
    for pattern in _SENTENCES.get(code, ()):
        for sentence in (teacher, child):
            found = re.search(pattern, sentence)
            if found:
                for name, words in found.groupdict().items():
                    if words:
                        facts[name] = _WORDS.get(name, {}).get(words, words)
                break
    if code in ("size.tall", "size.short"):
        facts.setdefault("which", "whole")
    if code == "size.uneven" and "largest" in facts:
        facts.setdefault("smallest", facts["largest"])
    return facts


def _known(values: Mapping[str, Any]) -> Document:
    return {key: value for key, value in values.items() if value is not None}


def _finding(old: Document) -> Document:
    span = old["span"]
    every = max(1, -(-len(span) // _SPAN_POINTS))
    new = {
        name: old.get(name)
        for name in ("code", "severity", "stroke", "move", "value", "tolerance", "at", "goal")
    }
    facts = _facts(old["code"], old.get("teacher", ""), old.get("child", ""))
    return _known({**new, "span": span[::every], "facts": facts or None})


def letter_without_sentences(old: Document) -> Document:
    """A letter's result as it is kept now; one that is kept so already stays as it is."""
    if not old or not any("teacher" in one for one in old["findings"]):
        return _trimmed(old)
    return _trimmed({**old, "findings": [_finding(one) for one in old["findings"]]})


def _trimmed(old: Document) -> Document:
    if not old:
        return old
    place = old.get("place")
    return {
        **old,
        "measures": _known(old["measures"]),
        "place": None if place is None else _known(place),
    }


def group_without_sentences(old: Document) -> Document:
    """A word's result as it is kept now."""
    if not old or not isinstance(old.get("note"), str):
        return old
    return {
        **old,
        "letters": [letter_without_sentences(one) for one in old["letters"]],
        "findings": [_finding(one) if "teacher" in one else one for one in old["findings"]],
        "measures": _known(old["measures"]),
        "note": _note(old["note"]),
    }


def _note(old: str) -> Document | None:
    for pattern, key in _NOTES:
        found = re.search(pattern, old)
        if found:
            return {"key": key, "values": found.groupdict()}
    return None


def without_sentences(records: Document) -> None:
    """Bring the results in a child's records up to date, in place; what does not hold together stays."""
    try:
        for row in records["rows"]:
            for attempt in row["attempts"]:
                for result in attempt["results"]:
                    result["document"] = letter_without_sentences(result["document"])
        for word in records.get("words", []):
            word["document"] = group_without_sentences(word["document"])
            for earlier in word["earlier"]:
                earlier["document"] = group_without_sentences(earlier["document"])
    except (KeyError, TypeError, AttributeError):
        return  # whoever checks the records says what is wrong with them
