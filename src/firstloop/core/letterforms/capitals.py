"""The 26 print capitals: from the rise line to the base line, downstrokes before bars."""

from __future__ import annotations

from firstloop.core.letterforms.model import Maker, Making
from firstloop.core.moves import (
    MoveKind,
    Placed,
    Stroke,
    arc,
    bar,
    bowl_on_stem,
    down,
    flick,
    on_arc,
    retrace,
    slope,
    stroke,
    turn_over,
    up,
)

K = MoveKind
BAR_XH = 0.92  # length of the bars of E, F
_SHORT_BAR_XH = 0.66
_MIDDLE_XH = 1.04  # where bars and bowls stand halfway up
_ROUND = (0.72, 1.0)  # half width and half height of C G O Q
_CENTRE = (0.72, 1.0)
_C_FROM, _C_TO, _O_FROM = 48.0, 312.0, 58.0
_STEM = stroke((0, 2), down(0))


def _after_stem(m: Making, *moves: Placed) -> tuple[Stroke, ...]:
    """A stem, then `moves` from its top: after a lift, or after going back up, as the school has it."""
    if m.pick("stems") == "retrace":
        return (stroke((0, 2), down(0), retrace(2), *moves),)
    return _STEM, stroke((0, 2), *moves)


def _round(from_deg: float, to_deg: float, *rest: Placed, closes: bool = False) -> Stroke:
    start = on_arc(_CENTRE, *_ROUND, from_deg)
    return stroke(start, arc(K.ROUND_LEFT, _CENTRE, *_ROUND, from_deg, to_deg, closes), *rest)


def s_curve(width: float) -> tuple[Placed, Placed]:
    """Two turns from near the rise line, right, to near the base line, left (S)."""
    w = width
    return (
        turn_over(
            K.ROUND_LEFT,
            ((0.84 * w, 1.91), (0.70 * w, 2.0), (0.52 * w, 2.0)),
            ((0.24 * w, 2.0), (0.06 * w, 1.80), (0.06 * w, 1.54)),
            ((0.06 * w, 1.22), (0.30 * w, 1.12), (0.53 * w, 1.01)),
        ),
        turn_over(
            K.ROUND_RIGHT,
            ((0.78 * w, 0.89), (1.0 * w, 0.80), (1.0 * w, 0.50)),
            ((1.0 * w, 0.18), (0.78 * w, 0.0), (0.50 * w, 0.0)),
            ((0.30 * w, 0.0), (0.12 * w, 0.09), (0.0, 0.24)),
        ),
    )


def _e(m: Making) -> tuple[Stroke, ...]:
    middle = BAR_XH if m.pick("E") == "equal" else _SHORT_BAR_XH
    return (
        _STEM,
        stroke((0, 2), bar(BAR_XH)),
        stroke((0, _MIDDLE_XH), bar(middle)),
        stroke((0, 0), bar(BAR_XH)),
    )


def _g(m: Making) -> tuple[Stroke, ...]:
    if m.pick("G") == "stem":
        return _round(_C_FROM, _C_TO), stroke((0.84, 0.84), bar(0.52), down(0))
    side = flick(K.UP, ((0.03, 0.10), (0.025, 0.16), (0.025, 0.16)))  # the curve runs on up to the bar
    return (_round(_C_FROM, 345.0, side, bar(-0.52)),)


def _i(m: Making) -> tuple[Stroke, ...]:
    if m.pick("I") == "plain":
        return (_STEM,)
    return stroke((0.36, 2), down(0)), stroke((0, 2), bar(0.72)), stroke((0, 0), bar(0.72))


def _j(m: Making) -> tuple[Stroke, ...]:
    body = stroke((0.66, 2), down(0.42), arc(K.HOOK_LEFT, (0.33, 0.42), 0.33, 0.42, 0, -150))
    return (body,) if m.pick("J") == "plain" else (body, stroke((0.30, 2), bar(0.72)))


def _m(m: Making) -> tuple[Stroke, ...]:
    if m.pick("M") == "upright":
        return _after_stem(m, slope(K.SLOPE_RIGHT, 0.68, 0.5), slope(K.SLOPE_UP, 0.68, 2), down(0))
    right = (slope(K.SLOPE_RIGHT, 0.55, 0.3), slope(K.SLOPE_UP, 0.55, 2), slope(K.SLOPE_RIGHT, 0.22, 0))
    return stroke((0.22, 2), slope(K.SLOPE_LEFT, -0.22, 0)), stroke((0.22, 2), *right)


def _n(m: Making) -> tuple[Stroke, ...]:
    across = slope(K.SLOPE_RIGHT, 1.12, 0)
    if m.pick("N") == "up":
        return _after_stem(m, across, up(2))
    return *_after_stem(m, across), stroke((1.12, 2), down(0))


def _w(m: Making) -> tuple[Stroke, ...]:
    middle = 2.0 if m.pick("W") == "tall" else 1.1
    lean = 0.42 if middle == 2.0 else 0.36
    return (
        stroke(
            (0, 2),
            slope(K.SLOPE_RIGHT, 0.42, 0),
            slope(K.SLOPE_UP, lean, middle),
            slope(K.SLOPE_RIGHT, lean, 0),
            slope(K.SLOPE_UP, 0.42, 2),
        ),
    )


def _u(m: Making) -> tuple[Stroke, ...]:
    turn = flick(
        K.CUP,
        ((0, -0.34), (0.22, -0.60), (0.55, -0.60)),
        ((0.88, -0.60), (1.10, -0.34), (1.10, 0)),
        ((1.10, 0.45), (1.10, 0.95), (1.10, 1.40)),
    )
    return (stroke((0, 2), down(0.60), turn),)


CAPITALS: dict[str, Maker] = {
    "A": lambda _: (
        stroke((0.66, 2), slope(K.SLOPE_LEFT, -0.66, 0)),
        stroke((0.66, 2), slope(K.SLOPE_RIGHT, 0.66, 0)),
        stroke((0.24, 0.72), bar(0.84)),
    ),
    "B": lambda m: _after_stem(m, bowl_on_stem(_MIDDLE_XH, 0.84), bowl_on_stem(0, 0.98)),
    "C": lambda _: (_round(_C_FROM, _C_TO),),
    "D": lambda m: _after_stem(m, bowl_on_stem(0, 1.22)),
    "E": _e,
    "F": lambda _: (_STEM, stroke((0, 2), bar(BAR_XH)), stroke((0, _MIDDLE_XH), bar(_SHORT_BAR_XH))),
    "G": _g,
    "H": lambda _: (_STEM, stroke((1.14, 2), down(0)), stroke((0, _MIDDLE_XH), bar(1.14))),
    "I": _i,
    "J": _j,
    "K": lambda _: (
        _STEM,
        stroke((0.94, 2), slope(K.SLOPE_LEFT, -0.94, 0.84), slope(K.SLOPE_RIGHT, 1.02, 0)),
    ),
    "L": lambda _: (stroke((0, 2), down(0), bar(0.86)),),
    "M": _m,
    "N": _n,
    "O": lambda _: (_round(_O_FROM, _O_FROM + 360, closes=True),),
    "P": lambda m: _after_stem(m, bowl_on_stem(_MIDDLE_XH - 0.08, 0.96)),
    "Q": lambda _: (
        _round(_O_FROM, _O_FROM + 360, closes=True),
        stroke((0.92, 0.48), slope(K.SLOPE_RIGHT, 0.52, 0)),
    ),
    "R": lambda m: _after_stem(m, bowl_on_stem(_MIDDLE_XH - 0.08, 0.96), slope(K.SLOPE_RIGHT, 0.98, 0)),
    "S": lambda _: (stroke((0.94, 1.74), *s_curve(1.0)),),
    "T": lambda _: (stroke((0.57, 2), down(0)), stroke((0, 2), bar(1.14))),
    "U": _u,
    "V": lambda _: (stroke((0, 2), slope(K.SLOPE_RIGHT, 0.62, 0), slope(K.SLOPE_UP, 0.62, 2)),),
    "W": _w,
    "X": lambda _: (
        stroke((0, 2), slope(K.SLOPE_RIGHT, 1.12, 0)),
        stroke((1.12, 2), slope(K.SLOPE_LEFT, -1.12, 0)),
    ),
    "Y": lambda _: (
        stroke((0, 2), slope(K.SLOPE_RIGHT, 0.58, 0.94)),
        stroke((1.16, 2), slope(K.SLOPE_LEFT, -0.58, 0.94), down(0)),
    ),
    "Z": lambda _: (stroke((0, 2), bar(1.04), slope(K.SLOPE_LEFT, -1.04, 0), bar(1.04)),),
}
