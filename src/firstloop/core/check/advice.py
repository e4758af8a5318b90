"""The one thing to try next: what a child hears at the end of a row."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

# What helps most first: a letter made the right way round comes before one made neat.
_IMPORTANCE = (
    "shape.mirrored",
    "start.bottom",
    "direction.turn",
    "direction.reversed",
    "shape.reads-as",
    "shape.part-missing",
    "order.swapped",
    "position.tail-on-line",
    "start.low",
    "start.high",
    "start.side",
    "retrace.gap",
    "lift.extra",
    "lift.missing",
    "shape.open",
    "position.floating",
    "position.sinking",
    "size.rise-short",
    "size.rise-tall",
    "size.drop-short",
    "size.drop-long",
    "size.tall",
    "size.short",
    "shape.width",
    "shape.form",
    "unreadable",
)
_WEIGHT = {"fix": 2.0, "near": 1.0}
_FADE = 0.06  # how much less a code weighs for each place further down the list
WELL_DONE = "Keep it just like your best one."


@dataclass(frozen=True)
class Slip:
    """A finding reduced to what advice needs."""

    code: str
    severity: str
    child: str


def one_thing(attempts: Sequence[Sequence[Slip]]) -> str:
    """Choose the sentence that matters most over a row of attempts.

    A slip counts by how often it was made, how far out it was, and how much else depends on it.

    Parameters
    ----------
    attempts : sequence of sequences of Slip
        Findings of each attempt that counts (crossed-out ones left out), in order.
    """
    weight: defaultdict[str, float] = defaultdict(float)
    words: dict[str, str] = {}
    for slips in attempts:
        for slip in slips:
            if slip.code not in _IMPORTANCE or slip.severity not in _WEIGHT:
                continue
            place = _IMPORTANCE.index(slip.code)
            weight[slip.code] += _WEIGHT[slip.severity] * max(0.2, 1 - _FADE * place)
            words[slip.code] = slip.child
    if not weight:
        return WELL_DONE
    return words[max(weight, key=lambda code: (weight[code], -_IMPORTANCE.index(code)))]
