"""Moves: what a pen does between two corners of a letter, and how each one draws itself.

A move is written without knowing where it starts: ``down(0)`` goes straight down to the base line
from wherever the pen is. :func:`stroke` puts moves one after the other from a starting point. All
lengths are in xh (base line to mid line), y upwards, upright and at even width; the house style
slants and widens the result.

The shared parts live here once: one arch, one bowl on each side, one cup, one tail.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.curves import KAPPA, Path, Point, chain, cubic, ellipse_arc, line

BOWL_WIDTH_XH = 0.86
BRANCH_XH = 0.55  # height at which every arch leaves its stem
ARCH_WIDTH_XH = 0.72
ARCH_PEAK_XH = 0.42  # sideways from the stem to the top of the arch
SHOULDER_XH = 0.58  # height at which an arch has become a downstroke
BOWL_START_XH = 0.86  # where the bowl of a d g q begins and closes, on its stem
TAIL_TURN_XH = -0.60
TAIL_END_XH = -0.84
TAIL_WIDTH_XH = 0.56
DOT_HEIGHT_XH = 1.5


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


@dataclass(frozen=True, eq=False)
class Move:
    """One move, placed: its kind, its curve, and whether it ends by closing a bowl."""

    kind: MoveKind
    path: Path
    closes: bool = False


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
    def kinds(self) -> tuple[MoveKind, ...]:
        """The kinds of its moves, in order."""
        return tuple(move.kind for move in self.moves)


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


def dot() -> Placed:
    """Tap: a stroke so short that it has a place but no shape."""
    return _straight(MoveKind.DOT, lambda at: (at[0], at[1] - 0.04))


def _arch_rise(at: Point) -> Path:
    peak = (at[0] + ARCH_PEAK_XH, 1.0)
    return cubic(at, (at[0] + 0.02, at[1] + 0.27), (peak[0] - 0.20, 1.0), peak)


def arch() -> Placed:
    """Up and over to the right, until it is a downstroke."""

    def place(at: Point) -> Move:
        end = (at[0] + ARCH_WIDTH_XH, SHOULDER_XH)
        peak = (at[0] + ARCH_PEAK_XH, 1.0)
        fall = cubic(peak, (peak[0] + 0.19, 1.0), (end[0], end[1] + 0.24), end)
        return Move(MoveKind.ARCH, chain([_arch_rise(at), fall]))

    return place


def short_arch() -> Placed:
    """Up and over, ending in the air just past the top (r)."""

    def place(at: Point) -> Move:
        peak = (at[0] + ARCH_PEAK_XH, 1.0)
        end = (peak[0] + 0.17, 0.91)
        return Move(
            MoveKind.ARCH,
            chain([_arch_rise(at), cubic(peak, (peak[0] + 0.07, 1.0), (end[0] - 0.05, 0.96), end)]),
        )

    return place


def arch_to_top() -> Placed:
    """Rise to the top of the arch, where a clockwise bowl takes over (b p)."""
    return lambda at: Move(MoveKind.ARCH, _arch_rise(at))


def bowl_right() -> Placed:
    """Clockwise from the top of an arch, round to the stem at the base line (b p)."""

    def place(at: Point) -> Move:
        stem = at[0] - ARCH_PEAK_XH
        right, ry = stem + BOWL_WIDTH_XH, 0.5
        rx = right - at[0]
        centre = (at[0], 0.5)
        foot = (stem, 0.09)
        close = cubic((at[0], 0.0), (at[0] - 0.20, 0.0), (stem + 0.10, 0.03), foot)
        return Move(MoveKind.ROUND_RIGHT, chain([ellipse_arc(centre, rx, ry, 90, -90), close]), closes=True)

    return place


def bowl_left() -> Placed:
    """Counterclockwise from the stem, all the way round, closing where it began (a d g q)."""

    def place(at: Point) -> Move:
        rx, ry = BOWL_WIDTH_XH / 2, 0.5
        cx = at[0] - rx
        shoulder = cubic(at, (at[0] - 0.08, at[1] + 0.09), (cx + 0.23, 1.0), (cx, 1.0))
        round_ = ellipse_arc((cx, 0.5), rx, ry, 90, 270)
        rise = cubic((cx, 0.0), (cx + rx * KAPPA, 0.0), (at[0], 0.5 - ry * KAPPA), (at[0], 0.5))
        side = line((at[0], 0.5), at)
        return Move(MoveKind.ROUND_LEFT, chain([shoulder, round_, rise, side]), closes=True)

    return place


def round_left(from_deg: float, to_deg: float, closes: bool = False) -> Placed:
    """Counterclockwise on the bowl's ellipse, from one angle to another (c e o)."""

    def place(at: Point) -> Move:
        rx = BOWL_WIDTH_XH / 2
        return Move(MoveKind.ROUND_LEFT, ellipse_arc((rx, 0.5), rx, 0.5, from_deg, to_deg), closes=closes)

    return place


def on_bowl(deg: float) -> Point:
    """Point of the bowl's ellipse at an angle (0 = right, 90 = top)."""
    path = ellipse_arc((BOWL_WIDTH_XH / 2, 0.5), BOWL_WIDTH_XH / 2, 0.5, deg, deg + 1)
    return float(path.start[0]), float(path.start[1])


def cup() -> Placed:
    """Down, round to the right and up to the mid line: the arch turned upside down."""

    def place(at: Point) -> Move:
        turn, low = 1.0 - SHOULDER_XH, (at[0] + ARCH_WIDTH_XH - ARCH_PEAK_XH, 0.0)
        right = at[0] + ARCH_WIDTH_XH
        fall = cubic((at[0], turn), (at[0], turn - 0.24), (low[0] - 0.19, 0.0), low)
        rise = cubic(low, (low[0] + 0.22, 0.0), (right, 0.20), (right, 1 - BRANCH_XH))
        return Move(
            MoveKind.CUP,
            chain([line(at, (at[0], turn)), fall, rise, line((right, 1 - BRANCH_XH), (right, 1.0))]),
        )

    return place


def foot() -> Placed:
    """Small cup that ends a straight stem (t)."""

    def place(at: Point) -> Move:
        low, end = (at[0] + 0.18, 0.0), (at[0] + 0.36, 0.07)
        curve = cubic(at, (at[0], 0.08), (low[0] - 0.09, 0.0), low)
        return Move(
            MoveKind.CUP, chain([curve, cubic(low, (low[0] + 0.08, 0.0), (end[0] - 0.05, 0.03), end)])
        )

    return place


def hook_left() -> Placed:
    """Round to the left on the drop line and a little up: how every tail ends (g j y)."""

    def place(at: Point) -> Move:
        low = (at[0] - 0.30, -1.0)
        end = (at[0] - TAIL_WIDTH_XH, TAIL_END_XH)
        turn = cubic(at, (at[0], -0.86), (low[0] + 0.16, -1.0), low)
        return Move(
            MoveKind.HOOK_LEFT, chain([turn, cubic(low, (low[0] - 0.11, -1.0), (end[0] + 0.06, -0.93), end)])
        )

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


def turn_over(kind: MoveKind, *pieces: tuple[Point, Point, Point]) -> Placed:
    """Free curve of the given `kind` through cubic pieces given relative to letter space (s)."""

    def place(at: Point) -> Move:
        paths, here = [], at
        for b, c, d in pieces:
            paths.append(cubic(here, b, c, d))
            here = d
        return Move(kind, chain(paths))

    return place
