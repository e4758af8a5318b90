"""The 26 lower-case print letters, each a line of moves.

Heights and order follow the house's letter reference; sideways measures are those of an upright,
even letter whose leftmost ink stands at x = 0.
"""

from __future__ import annotations

from firstloop.core.letterforms.model import Maker, Making
from firstloop.core.moves import (
    MoveKind,
    Placed,
    Stroke,
    bar,
    dot,
    down,
    flick,
    foot,
    hook_top,
    retrace,
    slope,
    stroke,
    turn_over,
    up,
)

K = MoveKind
_C_TO = 314.0
_O_LATER_DEG = 12.0  # o begins a little nearer the top than c
_POINTS = (slope(K.SLOPE_RIGHT, 0.36, 0), slope(K.SLOPE_UP, 0.36, 1))
_ROUNDED = flick(K.CUP, ((0.02, -0.55), (0.10, -1), (0.33, -1)), ((0.58, -1), (0.68, -0.45), (0.68, 0)))

_W_POINTS = (slope(K.SLOPE_RIGHT, 0.30, 0), slope(K.SLOPE_UP, 0.30, 1)) * 2
_W_CUP = flick(K.CUP, ((0.02, -0.6), (0.10, -1), (0.27, -1)), ((0.44, -1), (0.54, -0.5), (0.54, 0)))
_W_ROUNDED = (_W_CUP, _W_CUP)


def _o(m: Making) -> Stroke:
    start = m.parts.round_start_deg + _O_LATER_DEG
    return stroke(m.parts.on_bowl(start), m.parts.round_left(start, start + 360, closes=True))


def _f(m: Making) -> tuple[Stroke, ...]:
    end = m.parts.tail() if m.pick("f") == "tail" else (down(0),)
    return stroke((0.66, 1.84), hook_top(), *end), stroke((0, 1), bar(0.54))


def _k(m: Making) -> tuple[Stroke, ...]:
    leg = slope(K.SLOPE_RIGHT, 0.64, 0)
    if m.pick("k") == "two":
        return stroke((0, 2), down(0)), stroke((0.60, 1), slope(K.SLOPE_LEFT, -0.60, 0.42), leg)
    return (stroke((0, 2), down(0), *k_loop(), leg),)


def k_loop() -> tuple[Placed, ...]:
    """Back up the stem and round a small bowl, as k is made in one stroke."""
    loop = turn_over(
        K.ROUND_RIGHT,
        ((0.12, 0.94), (0.26, 1.0), (0.38, 1.0)),
        ((0.52, 1.0), (0.60, 0.91), (0.60, 0.79)),
        ((0.60, 0.60), (0.30, 0.46), (0.0, 0.46)),
    )
    return retrace(0.55), loop


def _q(m: Making) -> tuple[Stroke, ...]:
    ends: dict[str, tuple[Placed, ...]] = {
        "plain": (down(-1),),
        "flick": (down(-1), slope(K.SLOPE_UP, 0.24, -0.78)),
        "hook": (
            down(-0.74),
            flick(
                K.HOOK_RIGHT,
                ((0, -0.17), (0.07, -0.26), (0.20, -0.26)),
                ((0.30, -0.26), (0.38, -0.20), (0.42, -0.08)),
            ),
        ),
    }
    return (stroke(m.parts.on_stem, m.parts.bowl_left(), *ends[m.pick("q")]),)


def _t(m: Making) -> tuple[Stroke, ...]:
    top = 1.6 if m.pick("t-height") == "short" else 2.0
    end = (down(0.24), foot()) if m.pick("t") == "curved" else (down(0),)
    return stroke((0.22, top), *end), stroke((0, 1), bar(0.50))


def _x(m: Making) -> tuple[Stroke, ...]:
    if m.pick("x") == "slopes":
        return (
            stroke((0, 1), slope(K.SLOPE_RIGHT, 0.68, 0)),
            stroke((0.68, 1), slope(K.SLOPE_LEFT, -0.68, 0)),
        )
    left = turn_over(
        K.ROUND_RIGHT,
        ((0.05, 0.96), (0.11, 1.0), (0.17, 1.0)),
        ((0.30, 1.0), (0.37, 0.80), (0.37, 0.5)),
        ((0.37, 0.20), (0.30, 0.0), (0.17, 0.0)),
        ((0.11, 0.0), (0.05, 0.04), (0.0, 0.1)),
    )
    right = turn_over(
        K.ROUND_LEFT,
        ((0.69, 0.96), (0.63, 1.0), (0.57, 1.0)),
        ((0.44, 1.0), (0.37, 0.80), (0.37, 0.5)),
        ((0.37, 0.20), (0.44, 0.0), (0.57, 0.0)),
        ((0.63, 0.0), (0.69, 0.04), (0.74, 0.1)),
    )
    return stroke((0, 0.9), left), stroke((0.74, 0.9), right)


def _y(m: Making) -> tuple[Stroke, ...]:
    if m.pick("y") == "cup":
        return (stroke((0, 1), m.parts.cup(), *m.parts.tail()),)
    return (
        stroke((0.02, 1), slope(K.SLOPE_RIGHT, 0.36, 0)),
        stroke((0.74, 1), slope(K.SLOPE_LEFT, -0.72, -1)),
    )


def _z(m: Making) -> tuple[Stroke, ...]:
    top = (bar(0.66), slope(K.SLOPE_LEFT, -0.66, 0))
    form = m.pick("z")
    if form == "tail" and m.joined:
        return (stroke((0, 1), *top, z_tail(m)),)
    body = stroke((0, 1), *top, bar(0.66))
    return (body, stroke((0.14, 0.5), bar(0.40))) if form == "barred" else (body,)


def z_tail(m: Making) -> Placed:
    """From the base line over a small hump and down into a tail, as z ends in joined writing."""
    width = m.parts.tail_width_xh
    return flick(
        K.HOOK_LEFT,
        ((0.16, 0.10), (0.40, 0.06), (0.46, -0.20)),
        ((0.52, -0.55), (0.40, -1.0), (0.46 - 0.54 * width, -1.0)),
        ((0.46 - 0.8 * width, -1.0), (0.46 - width, -0.93), (0.46 - width - 0.02, -0.84)),
    )


LOWER: dict[str, Maker] = {
    "a": lambda m: (stroke(m.parts.on_stem, m.parts.bowl_left(), down(0)),),
    "b": lambda m: (stroke((0, 2), down(0), *m.parts.bowl_right()),),
    "c": lambda m: (
        stroke(m.parts.on_bowl(m.parts.round_start_deg), m.parts.round_left(m.parts.round_start_deg, _C_TO)),
    ),
    "d": lambda m: (stroke(m.parts.on_stem, m.parts.bowl_left(), up(2), retrace(0)),),
    "e": lambda m: (stroke((0, 0.5), bar(m.parts.bowl_width_xh), m.parts.round_left(0, _C_TO)),),
    "f": _f,
    "g": lambda m: (stroke(m.parts.on_stem, m.parts.bowl_left(), *m.parts.tail()),),
    "h": lambda m: (stroke((0, 2), down(0), *m.parts.hump()),),
    "i": lambda m: (stroke((0, 1), down(0)), stroke((0, m.parts.dot_xh), dot())),
    "j": lambda m: (
        stroke((m.parts.tail_width_xh, 1), *m.parts.tail()),
        stroke((m.parts.tail_width_xh, m.parts.dot_xh), dot()),
    ),
    "k": _k,
    "l": lambda m: (stroke((0, 2), down(0)),),
    "m": lambda m: (stroke((0, 1), down(0), *m.parts.hump(), *m.parts.hump()),),
    "n": lambda m: (stroke((0, 1), down(0), *m.parts.hump()),),
    "o": lambda m: (_o(m),),
    "p": lambda m: (stroke((0, 1), down(-1), *m.parts.bowl_right()),),
    "q": _q,
    "r": lambda m: (stroke((0, 1), down(0), retrace(m.parts.branch_xh), m.parts.short_arch()),),
    "s": lambda _: (
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
    "t": _t,
    "u": lambda m: (stroke((0, 1), m.parts.cup(), retrace(0)),),
    "v": lambda m: (stroke((0, 1), *(_POINTS if m.pick("v") == "pointed" else (_ROUNDED,))),),
    "w": lambda m: (stroke((0, 1), *(_W_POINTS if m.pick("w") == "pointed" else _W_ROUNDED)),),
    "x": _x,
    "y": _y,
    "z": _z,
}
