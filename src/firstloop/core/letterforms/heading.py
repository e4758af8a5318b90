"""Capitals and figures of the long date at the head of every page.

These are drawn, not checked: what a class learns to write stands in the tables of its alphabets.
"""

from __future__ import annotations

from functools import lru_cache

from firstloop.core.curves import Point, chain, ellipse_arc
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.moves import Move, MoveKind, Placed, Stroke, bar, down, slope, stroke, turn_over, up

K = MoveKind
_STEM = stroke((0, 2), down(0))


def _arc(kind: MoveKind, centre: Point, rx: float, ry: float, from_deg: float, to_deg: float) -> Placed:
    return lambda at: Move(kind, chain([ellipse_arc(centre, rx, ry, from_deg, to_deg)]))


def _ellipse_start(centre: Point, rx: float, ry: float, deg: float) -> Point:
    x, y = ellipse_arc(centre, rx, ry, deg, deg + 1).start
    return float(x), float(y)


def _round(centre: Point, rx: float, ry: float, from_deg: float, to_deg: float, *rest: Placed) -> Stroke:
    kind = K.ROUND_LEFT if to_deg > from_deg else K.ROUND_RIGHT
    return stroke(
        _ellipse_start(centre, rx, ry, from_deg), _arc(kind, centre, rx, ry, from_deg, to_deg), *rest
    )


def _big_s(width: float) -> Stroke:
    w = width
    return stroke(
        (0.92 * w, 1.74),
        turn_over(
            K.ROUND_LEFT,
            ((0.84 * w, 1.92), (0.66 * w, 2.0), (0.5 * w, 2.0)),
            ((0.24 * w, 2.0), (0.08 * w, 1.80), (0.08 * w, 1.54)),
            ((0.08 * w, 1.22), (0.3 * w, 1.12), (0.53 * w, 1.01)),
        ),
        turn_over(
            K.ROUND_RIGHT,
            ((0.76 * w, 0.9), (1.0 * w, 0.8), (1.0 * w, 0.5)),
            ((1.0 * w, 0.18), (0.78 * w, 0.0), (0.52 * w, 0.0)),
            ((0.3 * w, 0.0), (0.1 * w, 0.10), (0.0, 0.3)),
        ),
    )


HEADING: dict[str, tuple[Stroke, ...]] = {
    "A": (
        stroke((0.62, 2), slope(K.SLOPE_LEFT, -0.62, 0)),
        stroke((0.62, 2), slope(K.SLOPE_RIGHT, 0.62, 0)),
        stroke((0.22, 0.7), bar(0.8)),
    ),
    "D": (_STEM, stroke((0, 2), bar(0.35), _arc(K.ROUND_RIGHT, (0.35, 1), 0.75, 1, 90, -90), bar(-0.35))),
    "F": (_STEM, stroke((0, 2), bar(0.9)), stroke((0, 1), bar(0.72))),
    "L": (stroke((0, 2), down(0), bar(0.82)),),
    "J": (stroke((0.62, 2), down(0.42), _arc(K.HOOK_LEFT, (0.31, 0.42), 0.31, 0.42, 0, -150)),),
    "M": (
        _STEM,
        stroke((0, 2), slope(K.SLOPE_RIGHT, 0.65, 0.5), slope(K.SLOPE_UP, 0.65, 2), down(0)),
    ),
    "N": (_STEM, stroke((0, 2), slope(K.SLOPE_RIGHT, 1.05, 0), up(2))),
    "O": (_round((0.72, 1), 0.72, 1, 58, 418),),
    "S": (_big_s(1.0),),
    "T": (stroke((0.55, 2), down(0)), stroke((0, 2), bar(1.1))),
    "W": (
        stroke(
            (0, 2),
            slope(K.SLOPE_RIGHT, 0.38, 0),
            slope(K.SLOPE_UP, 0.38, 2),
            slope(K.SLOPE_RIGHT, 0.38, 0),
            slope(K.SLOPE_UP, 0.38, 2),
        ),
    ),
    "0": (_round((0.5, 1), 0.5, 1, 58, 418),),
    "1": (stroke((0.1, 2), down(0)),),
    "2": (_round((0.46, 1.48), 0.46, 0.52, 160, -38, slope(K.SLOPE_LEFT, -0.80, 0), bar(0.9)),),
    "3": (_round((0.42, 1.53), 0.40, 0.47, 150, -90), _round((0.42, 0.53), 0.48, 0.53, 90, -150)),
    "4": (stroke((0.55, 2), slope(K.SLOPE_LEFT, -0.55, 0.6), bar(0.95)), stroke((0.68, 1.1), down(0))),
    "5": (
        stroke((0.14, 2), down(1.15), _arc(K.ROUND_RIGHT, (0.40, 0.62), 0.52, 0.62, 120, -150)),
        stroke((0.14, 2), bar(0.7)),
    ),
    "6": (
        stroke(
            (0.72, 1.9),
            turn_over(K.ROUND_LEFT, ((0.3, 1.6), (0.0, 1.1), (0.0, 0.55))),
            _arc(K.ROUND_LEFT, (0.46, 0.55), 0.46, 0.55, 180, 540),
        ),
    ),
    "7": (stroke((0, 2), bar(0.9), slope(K.SLOPE_LEFT, -0.55, 0)),),
    "8": (_big_s(0.9), stroke((0, 0.3), slope(K.SLOPE_UP, 0.83, 1.74))),
    "9": (_round((0.44, 1.48), 0.44, 0.52, 30, 390, slope(K.SLOPE_LEFT, -0.12, 0)),),
}  # fmt: skip

_SIDE_XH = 0.17
_SPACE_XH = 0.75


@lru_cache(maxsize=512)
def heading_letter(char: str, style: HouseStyle = DEFAULT_STYLE) -> Letter | None:
    """The form of a character in a heading, or None where the house has none."""
    strokes = LOWER.get(char) or HEADING.get(char)
    return None if strokes is None else Letter(char, strokes).styled(style)


def set_line(text: str, style: HouseStyle = DEFAULT_STYLE) -> tuple[tuple[tuple[Letter, float], ...], float]:
    """Set a line of text in the house's letterforms.

    Returns
    -------
    placed : tuple of (Letter, x)
        Each letter with the x of its own origin, xh.
    width : float
        Of the whole line, xh. Characters without a form leave a space.
    """
    placed, x = [], 0.0
    for char in text:
        form = heading_letter(char, style)
        if form is None:
            x += _SPACE_XH
            continue
        left, _, right, _ = form.bounds
        placed.append((form, x + _SIDE_XH - left))
        x += right - left + 2 * _SIDE_XH
    return tuple(placed), x
