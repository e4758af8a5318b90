"""The 26 lower-case print letters, each a line of moves.

Heights and order follow the house's letter reference; sideways measures are those of an upright,
even letter whose leftmost ink stands at x = 0.
"""

from __future__ import annotations

from functools import lru_cache

from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.moves import (
    BOWL_START_XH,
    BOWL_WIDTH_XH,
    BRANCH_XH,
    DOT_HEIGHT_XH,
    TAIL_TURN_XH,
    TAIL_WIDTH_XH,
    MoveKind,
    Stroke,
    arch,
    arch_to_top,
    bar,
    bowl_left,
    bowl_right,
    cup,
    dot,
    down,
    foot,
    hook_left,
    hook_top,
    on_bowl,
    retrace,
    round_left,
    short_arch,
    slope,
    stroke,
    turn_over,
    up,
)

K = MoveKind
_ON_STEM = (BOWL_WIDTH_XH, BOWL_START_XH)
_TAIL = (down(TAIL_TURN_XH), hook_left())
_HUMP = (retrace(BRANCH_XH), arch(), down(0))
_BOWL_R = (retrace(BRANCH_XH), arch_to_top(), bowl_right())
_C_FROM, _C_TO, _O_FROM = 46.0, 314.0, 58.0

LOWER: dict[str, tuple[Stroke, ...]] = {
    "a": (stroke(_ON_STEM, bowl_left(), down(0)),),
    "b": (stroke((0, 2), down(0), *_BOWL_R),),
    "c": (stroke(on_bowl(_C_FROM), round_left(_C_FROM, _C_TO)),),
    "d": (stroke(_ON_STEM, bowl_left(), up(2), retrace(0)),),
    "e": (stroke((0, 0.5), bar(BOWL_WIDTH_XH), round_left(0, _C_TO)),),
    "f": (stroke((0.66, 1.84), hook_top(), down(0)), stroke((0, 1), bar(0.54))),
    "g": (stroke(_ON_STEM, bowl_left(), *_TAIL),),
    "h": (stroke((0, 2), down(0), *_HUMP),),
    "i": (stroke((0, 1), down(0)), stroke((0, DOT_HEIGHT_XH), dot())),
    "j": (stroke((TAIL_WIDTH_XH, 1), *_TAIL), stroke((TAIL_WIDTH_XH, DOT_HEIGHT_XH), dot())),
    "k": (
        stroke((0, 2), down(0)),
        stroke((0.60, 1), slope(K.SLOPE_LEFT, -0.60, 0.42), slope(K.SLOPE_RIGHT, 0.64, 0)),
    ),
    "l": (stroke((0, 2), down(0)),),
    "m": (stroke((0, 1), down(0), *_HUMP, *_HUMP),),
    "n": (stroke((0, 1), down(0), *_HUMP),),
    "o": (stroke(on_bowl(_O_FROM), round_left(_O_FROM, _O_FROM + 360, closes=True)),),
    "p": (stroke((0, 1), down(-1), *_BOWL_R),),
    "q": (stroke(_ON_STEM, bowl_left(), down(-1)),),
    "r": (stroke((0, 1), down(0), retrace(BRANCH_XH), short_arch()),),
    "s": (
        stroke(
            (0.61, 0.86),
            turn_over(
                K.ROUND_LEFT,
                ((0.54, 0.96), (0.44, 1.0), (0.33, 1.0)),
                ((0.16, 1.0), (0.05, 0.90), (0.05, 0.765)),
                ((0.05, 0.60), (0.20, 0.55), (0.345, 0.505)),
            ),
            turn_over(
                K.ROUND_RIGHT,
                ((0.49, 0.46), (0.65, 0.40), (0.65, 0.25)),
                ((0.65, 0.09), (0.51, 0.0), (0.335, 0.0)),
                ((0.20, 0.0), (0.08, 0.05), (0.0, 0.15)),
            ),
        ),
    ),
    "t": (stroke((0.22, 1.6), down(0.24), foot()), stroke((0, 1), bar(0.50))),
    "u": (stroke((0, 1), cup(), retrace(0)),),
    "v": (stroke((0, 1), slope(K.SLOPE_RIGHT, 0.36, 0), slope(K.SLOPE_UP, 0.36, 1)),),
    "w": (
        stroke(
            (0, 1),
            slope(K.SLOPE_RIGHT, 0.30, 0),
            slope(K.SLOPE_UP, 0.30, 1),
            slope(K.SLOPE_RIGHT, 0.30, 0),
            slope(K.SLOPE_UP, 0.30, 1),
        ),
    ),
    "x": (
        stroke((0, 1), slope(K.SLOPE_RIGHT, 0.68, 0)),
        stroke((0.68, 1), slope(K.SLOPE_LEFT, -0.68, 0)),
    ),
    "y": (stroke((0, 1), cup(), *_TAIL),),
    "z": (stroke((0, 1), bar(0.66), slope(K.SLOPE_LEFT, -0.66, 0), bar(0.66)),),
}


@lru_cache(maxsize=2048)
def letter(char: str, style: HouseStyle = DEFAULT_STYLE) -> Letter:
    """Return the model of one letter in a house style.

    Raises
    ------
    UnknownLetterError
        If the house has no model for `char`.
    """
    strokes = LOWER.get(char)
    if strokes is None:
        raise UnknownLetterError(char)
    return Letter(char, strokes).styled(style)


class UnknownLetterError(LookupError):
    """A letter was asked for that the house cannot draw."""

    def __init__(self, char: str) -> None:
        super().__init__(f"there is no model for {char!r}; the house draws the letters {''.join(LOWER)}")
        self.char = char
