"""The few letters that a joined hand makes otherwise than print, most of them by choice.

Two slopes for y and two curves for x cannot be joined: both are made so that they can.
"""

from __future__ import annotations

from collections.abc import Callable

from firstloop.core.curves import Point, chain
from firstloop.core.letterforms.lower import k_loop
from firstloop.core.letterforms.model import Making
from firstloop.core.moves import Move, MoveKind, Placed, Stroke, down, flick, slope, stroke, turn_over

K = MoveKind
_OPEN_TO = 294.0  # c and e leave their round lower than in print, on the way to the next letter


def _e(m: Making) -> tuple[Stroke, ...]:
    right = m.parts.bowl_width_xh
    rise = turn_over(K.LOOP, ((0.36, 0.47), (0.93 * right, 0.50), (0.93 * right, 0.74)))
    over = turn_over(K.ROUND_LEFT, ((0.93 * right, 0.90), (0.74 * right, 1.0), (0.5 * right, 1.0)))
    rest = m.parts.round_left(90, _OPEN_TO)
    return (stroke((0.07, 0.33), rise, _joining(over, rest)),)


def _c(m: Making) -> tuple[Stroke, ...]:
    start = m.parts.round_start_deg
    return (stroke(m.parts.on_bowl(start), m.parts.round_left(start, _OPEN_TO)),)


def _joining(*placed: Placed) -> Placed:
    """Several curves as one move of the first one's kind."""

    def place(at: Point) -> Move:
        made, here = [], at
        for one in placed:
            made.append(one(here))
            here = (float(made[-1].path.end[0]), float(made[-1].path.end[1]))
        return Move(made[0].kind, chain([move.path for move in made]))

    return place


def _b_open(m: Making) -> tuple[Stroke, ...]:
    cup = flick(
        K.CUP,
        ((0, -0.24), (0.14, -0.40), (0.35, -0.40)),
        ((0.60, -0.40), (0.72, -0.16), (0.72, 0.14)),
        ((0.72, 0.40), (0.66, 0.56), (0.52, 0.585)),
    )
    return (stroke((0, 2), down(0.40), cup),)


def _p_open(m: Making) -> tuple[Stroke, ...]:
    return (stroke((0, 1), down(-1), *m.parts.hump()),)


def _k(m: Making) -> tuple[Stroke, ...]:
    return (stroke((0, 2), down(0), *k_loop(), slope(K.SLOPE_RIGHT, 0.60, 0)),)


def _r_shoulder(m: Making) -> tuple[Stroke, ...]:
    shoulder = flick(
        K.HOOK_RIGHT,
        ((0.06, -0.16), (0.20, -0.12), (0.34, -0.07)),
        ((0.42, -0.05), (0.44, -0.12), (0.44, -0.24)),
    )
    return (stroke((0.06, 1), shoulder, down(0)),)


def _s_shoulder(m: Making) -> tuple[Stroke, ...]:
    bowl = turn_over(
        K.ROUND_RIGHT,
        ((0.40, 0.74), (0.60, 0.52), (0.60, 0.27)),
        ((0.60, 0.10), (0.48, 0.0), (0.32, 0.0)),
        ((0.20, 0.0), (0.10, 0.03), (0.02, 0.10)),
    )
    return (stroke((0.38, 1), bowl),)


def _x(m: Making) -> tuple[Stroke, ...]:
    return (
        stroke((0, 1), slope(K.SLOPE_RIGHT, 0.68, 0)),
        stroke((0.68, 1), slope(K.SLOPE_LEFT, -0.68, 0)),
    )


def _y(m: Making) -> tuple[Stroke, ...]:
    return (stroke((0, 1), m.parts.cup(), *m.parts.tail()),)


_OTHERWISE: dict[str, Callable[[Making], tuple[Stroke, ...] | None]] = {
    "b": lambda m: _b_open(m) if m.pick("b") == "open" else None,
    "c": _c,
    "e": _e,
    "k": _k,
    "p": lambda m: _p_open(m) if m.pick("p") == "open" else None,
    "r": lambda m: _r_shoulder(m) if m.pick("r") == "shoulder" else None,
    "s": lambda m: _s_shoulder(m) if m.pick("s") == "shoulder" else None,
    "x": _x,
    "y": _y,
}


def made_otherwise(char: str, m: Making) -> tuple[Stroke, ...] | None:
    """The strokes of a letter that a joined hand makes in its own way; None for one made as in print."""
    return _OTHERWISE[char](m) if char in _OTHERWISE else None
