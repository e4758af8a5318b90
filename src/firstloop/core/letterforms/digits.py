"""Digits and the marks that stand between words: . , ? ! ' -"""

from __future__ import annotations

from firstloop.core.letterforms.model import Maker, Making
from firstloop.core.moves import (
    MoveKind,
    Placed,
    Stroke,
    arc,
    bar,
    dot,
    down,
    flick,
    on_arc,
    slope,
    stroke,
    turn_over,
)

K = MoveKind
_ZERO = ((0.5, 1.0), 0.5, 1.0)
_RING_XH = 0.84  # width of the ring of 9
_TWO = ((0.46, 1.48), 0.46, 0.52)
_THREE = ((0.42, 1.53), 0.40, 0.47)
_THREE_LOWER = ((0.42, 0.53), 0.50, 0.53)
_LOW_MARK_XH = 0.04


def _one(m: Making) -> tuple[Stroke, ...]:
    if m.pick("1") == "plain":
        return (stroke((0, 2), down(0)),)
    return (stroke((0, 1.62), slope(K.SLOPE_UP, 0.34, 2), down(0)),)


def _four(m: Making) -> tuple[Stroke, ...]:
    top = (0.46, 2.0) if m.pick("4") == "open" else (0.70, 2.0)
    stem = 1.25 if m.pick("4") == "open" else 2.0
    return stroke(top, slope(K.SLOPE_LEFT, -top[0], 0.62), bar(1.0)), stroke((0.70, stem), down(0))


def _five(_: Making) -> tuple[Stroke, ...]:
    round_ = turn_over(
        K.ROUND_RIGHT,
        ((0.20, 1.23), (0.34, 1.28), (0.46, 1.28)),
        ((0.76, 1.28), (0.96, 1.00), (0.96, 0.65)),
        ((0.96, 0.28), (0.74, 0.0), (0.44, 0.0)),
        ((0.26, 0.0), (0.10, 0.08), (0.0, 0.22)),
    )
    return stroke((0.10, 2), down(1.14), round_), stroke((0.10, 2), bar(0.76))


def _six(_: Making) -> tuple[Stroke, ...]:
    side = turn_over(K.ROUND_LEFT, ((0.36, 1.80), (0.0, 1.20), (0.0, 0.56)))
    ring = arc(K.ROUND_LEFT, (0.46, 0.56), 0.46, 0.56, 180, 540, True)
    return (stroke((0.70, 2), side, ring),)


def _seven(m: Making) -> tuple[Stroke, ...]:
    body = stroke((0, 2), bar(0.92), slope(K.SLOPE_LEFT, -0.56, 0))
    return (body,) if m.pick("7") == "plain" else (body, stroke((0.32, 1), bar(0.62)))


def _eight(_: Making) -> tuple[Stroke, ...]:
    over = turn_over(
        K.ROUND_LEFT,
        ((0.76, 1.92), (0.63, 2.0), (0.48, 2.0)),
        ((0.25, 2.0), (0.10, 1.80), (0.10, 1.55)),
        ((0.10, 1.30), (0.28, 1.18), (0.48, 1.05)),
    )
    under = turn_over(
        K.ROUND_RIGHT,
        ((0.76, 0.88), (0.96, 0.78), (0.96, 0.51)),
        ((0.96, 0.20), (0.74, 0.0), (0.48, 0.0)),
        ((0.22, 0.0), (0.0, 0.20), (0.0, 0.51)),
        ((0.0, 0.78), (0.20, 0.88), (0.48, 1.05)),
    )
    back = turn_over(
        K.ROUND_LEFT,
        ((0.68, 1.18), (0.86, 1.30), (0.86, 1.55)),
        ((0.86, 1.64), (0.85, 1.72), (0.82, 1.79)),
    )
    return (stroke((0.82, 1.79), over, under, back),)


def _ring() -> Placed:
    """The bowl of a, in the rise band."""
    return turn_over(
        K.ROUND_LEFT,
        ((0.76, 1.95), (0.65, 2.0), (0.42, 2.0)),
        ((0.19, 2.0), (0.0, 1.78), (0.0, 1.5)),
        ((0.0, 1.22), (0.19, 1.0), (0.42, 1.0)),
        ((0.65, 1.0), (0.84, 1.22), (0.84, 1.5)),
        ((0.84, 1.62), (0.84, 1.74), (0.84, 1.86)),
        closes=True,
    )


def _nine(m: Making) -> tuple[Stroke, ...]:
    return (stroke((_RING_XH, 1.86), _ring(), *_NINE_ENDS[m.pick("9")]),)


def _question(_: Making) -> tuple[Stroke, ...]:
    over = arc(K.ROUND_RIGHT, (0.40, 1.56), 0.40, 0.44, 165, -40)
    neck = turn_over(K.ROUND_LEFT, ((0.58, 1.12), (0.40, 1.04), (0.40, 0.80)))
    return (
        stroke(on_arc((0.40, 1.56), 0.40, 0.44, 165), over, neck, down(0.52)),
        stroke((0.40, _LOW_MARK_XH), dot()),
    )


_NINE_ENDS: dict[str, tuple[Placed, ...]] = {
    "straight": (down(0),),
    "curved": (down(0.56), arc(K.HOOK_LEFT, (0.84 - 0.40, 0.44), 0.40, 0.44, 0, -140)),
}

DIGITS: dict[str, Maker] = {
    "0": lambda _: (stroke(on_arc(*_ZERO, 58), arc(K.ROUND_LEFT, *_ZERO, 58, 418, True)),),
    "1": _one,
    "2": lambda _: (
        stroke(
            on_arc(*_TWO, 162),
            arc(K.ROUND_RIGHT, *_TWO, 162, -36),
            slope(K.SLOPE_LEFT, -0.83, 0),
            bar(0.94),
        ),
    ),
    "3": lambda _: (
        stroke(
            on_arc(*_THREE, 150),
            arc(K.ROUND_RIGHT, *_THREE, 150, -90),
            arc(K.ROUND_RIGHT, *_THREE_LOWER, 90, -150),
        ),
    ),
    "4": _four,
    "5": _five,
    "6": _six,
    "7": _seven,
    "8": _eight,
    "9": _nine,
}

MARKS: dict[str, Maker] = {
    ".": lambda _: (stroke((0, _LOW_MARK_XH), dot()),),
    ",": lambda _: (stroke((0.08, 0.06), flick(K.HOOK_LEFT, ((0.03, -0.12), (0.0, -0.24), (-0.10, -0.32)))),),
    "?": _question,
    "!": lambda _: (stroke((0, 2), down(0.52)), stroke((0, _LOW_MARK_XH), dot())),
    "'": lambda _: (stroke((0, 2), down(1.62)),),
    "-": lambda _: (stroke((0, 0.5), bar(0.5)),),
}
