"""Letters that are easily taken for one another, computed from their pictures."""

from __future__ import annotations

from functools import lru_cache

from firstloop.core.check.reading import class_set, mirror, reading_costs
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle

ALIKE_XH = 0.215
_MOST = 3


@lru_cache(maxsize=256)
def look_alikes(char: str, style: HouseStyle = DEFAULT_STYLE) -> tuple[tuple[str, bool], ...]:
    """Letters close to `char`, nearest first; the flag says "in the mirror"."""
    letters = class_set("".join(LOWER), style)
    own = letters.pictures[letters.chars.index(char)]
    found: list[tuple[float, str, bool]] = []
    for mirrored, picture in ((False, own), (True, mirror(own))):
        costs = reading_costs(picture, letters)
        found += [
            (float(cost), other, mirrored)
            for other, cost in zip(letters.chars, costs, strict=True)
            if other != char and cost < ALIKE_XH
        ]
    nearest: dict[str, bool] = {}
    for _, other, mirrored in sorted(found):
        nearest.setdefault(other, mirrored)
    return tuple(list(nearest.items())[:_MOST])
