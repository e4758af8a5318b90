"""The schemes that a teacher may group letters by. Their names stand in the catalogue."""

from __future__ import annotations

from firstloop.core.families.movement import BY_MOVEMENT
from firstloop.core.families.rules import ANY_OTHER
from firstloop.core.families.scheme import Family, Scheme

BY_FIRST_MOVE = Scheme(
    "by-first-move",
    (
        Family("middle-first", "starts at: the middle; begins with: bar"),
        Family("down-first", "begins with: down or cup"),
        Family("round-first", "begins with: round to the left or round to the right or top curve"),
        Family("across-first", "begins with: bar or slope"),
        Family("others", ANY_OTHER),
    ),
)
BY_HEIGHT = Scheme(
    "by-height",
    (
        Family("drop", "reaches: the drop line"),
        Family("rise", "reaches: the rise line"),
        Family("middle", "reaches: the middle band only"),
    ),
)
BY_JOIN = Scheme(
    "by-join",
    (
        Family("tails", "leaves from: a loop"),
        Family("base", "leaves from: the base line"),
        Family("mid", "leaves from: the mid line"),
        Family("break", "leaves from: nowhere"),
    ),
)
SCHEMES: dict[str, Scheme] = {one.key: one for one in (BY_MOVEMENT, BY_FIRST_MOVE, BY_HEIGHT, BY_JOIN)}
