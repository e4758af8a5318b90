"""The schemes that a teacher may group letters by."""

from __future__ import annotations

from firstloop.core.families.movement import BY_MOVEMENT
from firstloop.core.families.rules import ANY_OTHER
from firstloop.core.families.scheme import Family, Scheme

BY_FIRST_MOVE = Scheme(
    "by-first-move",
    "By first move",
    (
        Family(
            "middle-first",
            "From the middle",
            "start in the middle of the band",
            "starts at: the middle; begins with: bar",
        ),
        Family("down-first", "Down first", "begin by going down", "begins with: down or cup"),
        Family(
            "round-first",
            "Round first",
            "begin with a curve",
            "begins with: round to the left or round to the right or top curve",
        ),
        Family(
            "across-first",
            "Across or slope first",
            "begin across or on a slope",
            "begins with: bar or slope",
        ),
        Family("others", "Others", "begin in another way", ANY_OTHER),
    ),
)
BY_HEIGHT = Scheme(
    "by-height",
    "By height",
    (
        Family("drop", "Middle and drop", "go down to the drop line", "reaches: the drop line"),
        Family("rise", "Middle and rise", "go up to the rise line", "reaches: the rise line"),
        Family(
            "middle",
            "Middle band only",
            "stay between the mid line and the base line",
            "reaches: the middle band only",
        ),
    ),
)
BY_JOIN = Scheme(
    "by-join",
    "By join",
    (
        Family(
            "tails",
            "Tails that loop back",
            "a tail loops back up across the base line",
            "leaves from: a loop",
        ),
        Family("base", "Leave at the base line", "leave from the base line", "leaves from: the base line"),
        Family("mid", "Leave at the mid line", "leave from the mid line", "leaves from: the mid line"),
        Family("break", "Need a break", "the pen lifts before the next letter", "leaves from: nowhere"),
    ),
)
SCHEMES: dict[str, Scheme] = {one.key: one for one in (BY_MOVEMENT, BY_FIRST_MOVE, BY_HEIGHT, BY_JOIN)}
