"""Moves: what a pen does between two corners of a letter, and how each one draws itself.

A move is written without knowing where it starts: ``down(0)`` goes straight down to the base line
from wherever the pen is. :func:`stroke` puts moves one after the other from a starting point. All
lengths are in xh (base line to mid line), y upwards, upright and at even width; the house style
slants and widens the result.

What several letters share is in :mod:`firstloop.core.letterforms.parts`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.curves import FloatArray, Path, Point, chain, cubic, ellipse_arc, line


class MoveKind(StrEnum):
    """The vocabulary of movement."""

    DOWN = "down"
    RETRACE = "retrace"
    ARCH = "arch"
    CUP = "cup"
    ROUND_LEFT = "round_left"
    ROUND_RIGHT = "round_right"
    SLOPE_RIGHT = "slope_right"
    SLOPE_LEFT = "slope_left"
    SLOPE_UP = "slope_up"
    UP = "up"
    BAR = "bar"
    HOOK_LEFT = "hook_left"
    HOOK_RIGHT = "hook_right"
    ENTRY = "entry"
    EXIT_BASE = "exit_base"
    EXIT_MID = "exit_mid"
    LOOP = "loop"
    DOT = "dot"


JOINS = (MoveKind.ENTRY, MoveKind.EXIT_BASE, MoveKind.EXIT_MID)
"""Moves that lead into a letter or out of it."""


@dataclass(frozen=True, eq=False)
class Move:
    """One move, placed: its kind, its curve, and whether it ends by closing a bowl."""

    kind: MoveKind
    path: Path
    closes: bool = False

    def transformed(self, matrix: FloatArray) -> Move:
        """The move under a linear map, shape (2, 2)."""
        return Move(self.kind, self.path.transformed(matrix), self.closes)

    def shifted(self, dx: float) -> Move:
        """The move further along the line."""
        return Move(self.kind, self.path.shifted(dx), self.closes)


@dataclass(frozen=True, eq=False)
class Stroke:
    """What is written between pen down and pen up."""

    moves: tuple[Move, ...]

    @property
    def start(self) -> Point:
        """Where the pen goes down."""
        x, y = self.moves[0].path.start
        return float(x), float(y)

    @property
    def end(self) -> Point:
        """Where the pen comes up."""
        x, y = self.moves[-1].path.end
        return float(x), float(y)

    def transformed(self, matrix: FloatArray) -> Stroke:
        """The stroke under a linear map, shape (2, 2)."""
        return Stroke(tuple(move.transformed(matrix) for move in self.moves))

    def shifted(self, dx: float) -> Stroke:
        """The stroke further along the line."""
        return Stroke(tuple(move.shifted(dx) for move in self.moves))

    @property
    def kinds(self) -> tuple[MoveKind, ...]:
        """The kinds of its moves, in order."""
        return tuple(move.kind for move in self.moves)

    @property
    def is_dot(self) -> bool:
        """Whether it is a dot and nothing else."""
        return self.kinds == (MoveKind.DOT,)


Placed = Callable[[Point], Move]


def stroke(start: Point, *moves: Placed) -> Stroke:
    """Lay `moves` one after another from `start`."""
    placed: list[Move] = []
    at = start
    for move in moves:
        made = move(at)
        placed.append(made)
        at = (float(made.path.end[0]), float(made.path.end[1]))
    return Stroke(tuple(placed))


def _straight(kind: MoveKind, to: Callable[[Point], Point]) -> Placed:
    return lambda at: Move(kind, line(at, to(at)))


def down(to: float) -> Placed:
    """Straight down to the height `to`."""
    return _straight(MoveKind.DOWN, lambda at: (at[0], to))


def up(to: float) -> Placed:
    """Straight up to the height `to`, not over ink."""
    return _straight(MoveKind.UP, lambda at: (at[0], to))


def retrace(to: float) -> Placed:
    """Back along the stem, on top of it, to the height `to`."""
    return _straight(MoveKind.RETRACE, lambda at: (at[0], to))


def bar(width: float) -> Placed:
    """Crossbar to the right."""
    return _straight(MoveKind.BAR, lambda at: (at[0] + width, at[1]))


def slope(kind: MoveKind, dx: float, to: float) -> Placed:
    """Straight diagonal of the given `kind`, `dx` sideways, to the height `to`."""
    return _straight(kind, lambda at: (at[0] + dx, to))


def bowl_on_stem(to: float, width: float) -> Placed:
    """Clockwise from the stem: straight out, half round, straight back to the stem at the height `to`."""

    def place(at: Point) -> Move:
        ry = (at[1] - to) / 2
        rx = min(ry, 0.62 * width)
        x, middle = at[0] + width - rx, to + ry
        return Move(
            MoveKind.ROUND_RIGHT,
            chain(
                [
                    line(at, (x, at[1])),
                    ellipse_arc((x, middle), rx, ry, 90, -90),
                    line((x, to), (at[0], to)),
                ]
            ),
            closes=True,
        )

    return place


def dot() -> Placed:
    """Tap: a stroke so short that it has a place but no shape."""
    return _straight(MoveKind.DOT, lambda at: (at[0], at[1] - 0.04))


def arc(
    kind: MoveKind, centre: Point, rx: float, ry: float, from_deg: float, to_deg: float, closes: bool = False
) -> Placed:
    """Part of an ellipse that stands at a fixed place; the pen must be at its beginning."""
    return lambda at: Move(kind, ellipse_arc(centre, rx, ry, from_deg, to_deg), closes)


def on_arc(centre: Point, rx: float, ry: float, deg: float) -> Point:
    """Point of an ellipse at an angle (0 = right, 90 = top)."""
    x, y = ellipse_arc(centre, rx, ry, deg, deg + 1).start
    return float(x), float(y)


def foot() -> Placed:
    """Small cup that ends a straight stem (t)."""

    def place(at: Point) -> Move:
        low, end = (at[0] + 0.18, 0.0), (at[0] + 0.36, 0.07)
        curve = cubic(at, (at[0], 0.08), (low[0] - 0.09, 0.0), low)
        return Move(
            MoveKind.CUP, chain([curve, cubic(low, (low[0] + 0.08, 0.0), (end[0] - 0.05, 0.03), end)])
        )

    return place


def flick(kind: MoveKind, *pieces: tuple[Point, Point, Point]) -> Placed:
    """Free curve of the given `kind` through cubic pieces given relative to the pen."""

    def place(at: Point) -> Move:
        paths, here = [], at
        for piece in pieces:
            b, c, d = ((at[0] + x, at[1] + y) for x, y in piece)
            paths.append(cubic(here, b, c, d))
            here = d
        return Move(kind, chain(paths))

    return place


def hook_top() -> Placed:
    """Counterclockwise over the rise line into a stem (f)."""

    def place(at: Point) -> Move:
        top, stem = (at[0] - 0.20, 2.0), (at[0] - 0.42, 1.66)
        over = cubic(at, (at[0] - 0.04, 1.95), (top[0] + 0.09, 2.0), top)
        return Move(
            MoveKind.ROUND_LEFT, chain([over, cubic(top, (top[0] - 0.14, 2.0), (stem[0], 1.86), stem)])
        )

    return place


def turn_over(kind: MoveKind, *pieces: tuple[Point, Point, Point], closes: bool = False) -> Placed:
    """Free curve of the given `kind` through cubic pieces given in letter space (s)."""

    def place(at: Point) -> Move:
        paths, here = [], at
        for b, c, d in pieces:
            paths.append(cubic(here, b, c, d))
            here = d
        return Move(kind, chain(paths), closes)

    return place
