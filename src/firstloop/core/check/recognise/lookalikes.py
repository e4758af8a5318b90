"""Letters that are easily taken for one another, computed from their pictures."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

import numpy as np

from firstloop.core.check.recognise.pictures import ClassSet, class_set, mirror, picture, reading_costs
from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.alphabets import ALPHABETS, alphabet_of
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script

ALIKE_XH = 0.137
_MOST = 4
_BAND_SLACK_XH = 0.02


class Likeness(StrEnum):
    """In what way one letter passes for another."""

    AS_IT_STANDS = "as-it-stands"
    MIRRORED = "mirrored"
    TURNED = "turned"
    STEM = "stem"


@dataclass(frozen=True)
class LookAlike:
    """A letter close to another, how, and how close (xh; the smaller the closer)."""

    char: str
    how: Likeness
    cost_xh: float


def _turned(points: FloatArray, height: float) -> FloatArray:
    """Half a turn about the middle of a body of the given height."""
    flipped = mirror(points)
    return np.column_stack([flipped[:, 0], height - flipped[:, 1]])


@lru_cache(maxsize=64)
def _bodies(chars: str, style: HouseStyle) -> ClassSet:
    """Every letter cut down to what stands in the middle band."""
    pictures = []
    for char in chars:
        strokes = [stroke.points for stroke in letter(char, style).sampled]
        inside = [s[(s[:, 1] >= -_BAND_SLACK_XH) & (s[:, 1] <= 1 + _BAND_SLACK_XH)] for s in strokes]
        pictures.append(picture([s for s in inside if len(s) > 1]))
    return ClassSet(chars, np.stack(pictures))


@lru_cache(maxsize=256)
def look_alikes(char: str, style: HouseStyle = DEFAULT_STYLE) -> tuple[LookAlike, ...]:
    """Letters close to `char`, nearest first, each in the way in which it is closest.

    Compared are the letter as it stands, in the mirror, turned half round, and without what goes
    beyond the middle band. Marks between words have none.
    """
    if char in ALPHABETS["marks"]:
        return ()
    chars, style = (
        "".join(ALPHABETS[alphabet_of(char)]),
        replace(style, script=Script.PRINT),
    )  # lead-ins make all letters alike
    letters = class_set(chars, style)
    bodies = _bodies(chars, style) if chars.islower() else None
    own = letters.pictures[letters.chars.index(char)]
    ways = [
        (Likeness.AS_IT_STANDS, own, letters),
        (Likeness.MIRRORED, mirror(own), letters),
        (Likeness.TURNED, _turned(own, 1.0 if chars.islower() else 2.0), letters),
    ]
    if bodies is not None:
        ways.append((Likeness.STEM, bodies.pictures[chars.index(char)], bodies))
    found = [
        LookAlike(other, how, float(cost))
        for how, seen, among in ways
        for other, cost in zip(letters.chars, reading_costs(seen, among), strict=True)
        if other != char and cost < ALIKE_XH
    ]
    nearest: dict[str, LookAlike] = {}
    for one in sorted(found, key=lambda one: one.cost_xh):
        nearest.setdefault(one.char, one)
    return tuple(list(nearest.values())[:_MOST])


def are_alike(one: str, other: str, style: HouseStyle = DEFAULT_STYLE) -> bool:
    """Whether two letters are easily taken for one another."""
    pairs = ((one, other), (other, one))
    return any(b in {found.char for found in look_alikes(a, style)} for a, b in pairs)


CONFUSED_XH = 0.1


def are_confused(one: str, other: str, style: HouseStyle = DEFAULT_STYLE) -> bool:
    """Whether one letter is nearly the other, as it stands, mirrored or turned: b and d, n and u.

    Letters that differ by their stem only are not meant: what they share makes them a family, and they
    are learnt side by side.
    """
    return any(
        found.char == b and found.how is not Likeness.STEM and found.cost_xh < CONFUSED_XH
        for a, b in ((one, other), (other, one))
        for found in look_alikes(a, style)
    )
