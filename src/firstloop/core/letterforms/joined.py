"""Letters of a joined hand: what lies between the way in and the way out.

A joined letter is the print letter with three things settled by rule from its moves: where a
lead-in arrives, how its last move turns into an exit, and which strokes wait until the word is
finished.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

import numpy as np

from firstloop.core.curves import FloatArray, Path, Point, chain, cubic, line, until_heading
from firstloop.core.letterforms.joined_forms import made_otherwise
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.model import Making
from firstloop.core.letterforms.style import Ascenders, HouseStyle, Tails
from firstloop.core.moves import Move, MoveKind, Stroke, flick

K = MoveKind
TURN_XH = 0.28  # height at which a downstroke begins to turn into its exit
TURN_WIDTH_XH = 0.18
_TALL_XH = 1.3  # a stem that begins above this is an ascender
_CLIMB_XH = 0.95  # height at which a lead-in meets an ascender's stem


class Arrive(StrEnum):
    """What a lead-in meets."""

    STEM = "stem"
    TALL = "tall"
    ROUND = "round"
    LOW = "low"  # e, which begins in the middle of its band


class Leave(StrEnum):
    """Where the pen is when the letter is done."""

    BASE = "base"
    MID = "mid"
    LIFT = "lift"  # the pen comes up: nothing can follow without a break


@dataclass(frozen=True, eq=False)
class Joined:
    """A letter ready to be joined, upright and at even width.

    Parameters
    ----------
    moves : tuple of Move
        From where a lead-in arrives to where an exit leaves.
    towards : array, shape (2,)
        Unit vector in which a lead-in arrives.
    over : Path or None
        What the lead-in still runs along before the first move: the top of a round, gone over
        twice.
    out : Path or None
        How the last move turns into the exit, where it has to turn.
    after : tuple of Stroke
        Dots and bars.
    """

    char: str
    moves: tuple[Move, ...]
    arrive: Arrive
    towards: FloatArray
    leave: Leave
    over: Path | None = None
    out: Path | None = None
    after: tuple[Stroke, ...] = ()

    @property
    def meets(self) -> FloatArray:
        """Point at which a lead-in arrives."""
        return self.moves[0].path.start if self.over is None else self.over.start

    @property
    def end(self) -> FloatArray:
        """Point from which an exit leaves."""
        return self._last.end

    @property
    def heading(self) -> FloatArray:
        """Unit vector in which the pen leaves."""
        return self._last.heading_out

    @property
    def _last(self) -> Path:
        return self.moves[-1].path if self.out is None else self.out

    @property
    def body(self) -> tuple[float, float]:
        """Left and right of the ink in the middle band."""
        points: FloatArray = np.concatenate([move.path.points(0.03) for move in self.moves])
        inside = points[(points[:, 1] > -0.05) & (points[:, 1] < 1.05)]
        return float(inside[:, 0].min()), float(inside[:, 0].max())

    @property
    def overhang(self) -> float:
        """How far the letter reaches over the one that follows, above the middle band, xh."""
        points: FloatArray = np.concatenate([move.path.points(0.03) for move in self.moves])
        over = points[points[:, 1] >= 1.05, 0]
        return max(0.0, float(over.max()) - self.body[1]) if len(over) else 0.0


def _unit(x: float, y: float) -> FloatArray:
    return np.asarray(np.array([x, y]) / np.hypot(x, y))


_TOWARDS = {
    Arrive.STEM: _unit(0.55, 1.0),
    Arrive.TALL: _unit(0.0, 1.0),
    Arrive.ROUND: _unit(1.0, 0.9),
    Arrive.LOW: _unit(0.29, 0.14),
}


def _turn(at: Point) -> Path:
    """From a downstroke to the base line, going right."""
    x, y = at
    return cubic(at, (x, y - 0.17), (x + 0.06, 0.0), (x + TURN_WIDTH_XH, 0.0))


def _small_loop(at: Point, heading: FloatArray) -> Path:
    """From the closing of a round, once round inside its top and off to the right (o, open b)."""
    first = (0.11 * float(heading[0]), 0.11 * float(heading[1]))
    loop = flick(
        K.EXIT_MID, (first, (-0.21, 0.05), (-0.21, -0.03)), ((-0.21, -0.12), (-0.08, -0.13), (0.06, -0.12))
    )
    return loop(at).path


def _reversed(path: Path, kind: MoveKind = K.RETRACE) -> Move:
    return Move(kind, Path(path.cubics[::-1, ::-1]))


# how a letter begins


def _begin(char: str, moves: tuple[Move, ...], style: HouseStyle) -> Joined:
    first = moves[0]
    x, y = first.path.start
    if first.kind is K.LOOP:
        return Joined(char, moves, Arrive.LOW, _TOWARDS[Arrive.LOW], Leave.BASE)
    if first.kind is K.ROUND_LEFT and y > _TALL_XH:
        return _over_the_top(char, moves, style)
    if first.kind is K.ROUND_LEFT:
        over = _reversed(until_heading(first.path, -_TOWARDS[Arrive.ROUND])).path
        return Joined(char, moves, Arrive.ROUND, over.heading_in, Leave.BASE, over)
    if y < _TALL_XH:
        return Joined(char, moves, Arrive.STEM, _TOWARDS[Arrive.STEM], Leave.BASE)
    if style.ascenders is Ascenders.LOOPED and y > 1.9:
        return _looped(char, moves, (float(x), float(y)))
    climb = Move(K.UP, line((x, _CLIMB_XH), (x, y)))
    return Joined(char, (climb, *moves), Arrive.TALL, _TOWARDS[Arrive.TALL], Leave.BASE)


def _over_the_top(char: str, moves: tuple[Move, ...], style: HouseStyle) -> Joined:
    """A stem with a hook at its top (f): up the stem to where print begins, and back over.

    With a loop in its place f on the base line would be an l with a bar.
    """
    over, down = moves[0], moves[1]
    if style.ascenders is Ascenders.LOOPED and float(moves[-1].path.end[1]) < 0:
        stem = replace(down, path=line((float(down.path.start[0]), 2.0), tuple(down.path.end)))
        return _looped(char, (stem, *moves[2:]), (float(down.path.start[0]), 2.0))
    x, turns = (float(v) for v in over.path.end)
    climb = Move(K.UP, line((x, _CLIMB_XH), (x, turns)))
    out = _reversed(over.path, K.HOOK_RIGHT)
    return Joined(char, (climb, out, *moves), Arrive.TALL, _TOWARDS[Arrive.TALL], Leave.BASE)


def _looped(char: str, moves: tuple[Move, ...], top: Point) -> Joined:
    """A stem reached through a loop to its right, which crosses it near the mid line."""
    x, y = top
    path = chain(
        [
            cubic((x, 0.80), (x + 0.14, 1.02), (x + 0.33, 1.36), (x + 0.33, y - 0.30)),
            cubic((x + 0.33, y - 0.30), (x + 0.33, y - 0.10), (x + 0.27, y), (x + 0.17, y)),
            cubic((x + 0.17, y), (x + 0.06, y), (x, y - 0.16), (x, y - 0.36)),
        ]
    )
    stem = replace(moves[0], path=line((x, y - 0.36), tuple(moves[0].path.end)))
    return Joined(char, (Move(K.LOOP, path), stem, *moves[1:]), Arrive.TALL, _unit(0.14, 0.22), Leave.BASE)


# how a letter ends: what its last move is like, and what becomes of it


def _is_on_base(move: Move) -> bool:
    return abs(float(move.path.end[1])) < 0.02


def _falls(move: Move, least: float) -> bool:
    return _is_on_base(move) and float(move.path.heading_out[1]) < -least


def _turned(body: Joined, _: HouseStyle) -> Joined:
    """A downstroke turns to the right above the base line."""
    start = body.moves[-1].path.start
    low = (float(start[0]), TURN_XH)
    kept = replace(body.moves[-1], path=line(tuple(start), low))
    return replace(body, moves=(*body.moves[:-1], kept), out=_turn(low))


def _slid(body: Joined, _: HouseStyle) -> Joined:
    """A slope is rounded off at its foot."""
    slope_, turn = _rounded_foot(body.moves[-1])
    return replace(body, moves=(*body.moves[:-1], slope_), out=turn)


def _looped_out(body: Joined, _: HouseStyle) -> Joined:
    """A round that closes at the top leaves level, through a small loop."""
    last = body.moves[-1]
    return replace(body, out=_small_loop(_at(last), last.path.heading_out), leave=Leave.MID)


def _back_along_the_foot(body: Joined, _: HouseStyle) -> Joined:
    """A bowl that ends at its stem goes back along its foot."""
    return replace(body, moves=(*body.moves, _reversed(Path(body.moves[-1].path.cubics[-1:]))))


def _ending(leave: Leave) -> Callable[[Joined, HouseStyle], Joined]:
    return lambda body, _: replace(body, leave=leave)


_Ending = tuple[Callable[[Move], bool], Callable[[Joined, HouseStyle], Joined]]


def _endings() -> tuple[_Ending, ...]:
    rises_below = (K.HOOK_RIGHT, K.SLOPE_UP)  # q with a hook or a flick comes up by itself
    return (
        (lambda last: last.kind is K.HOOK_LEFT, _tailed),
        (lambda last: last.kind in rises_below and last.path.end[1] < 0, _ending(Leave.BASE)),
        (lambda last: bool(last.path.end[1] < -0.5), _ending(Leave.LIFT)),
        (lambda last: _falls(last, 0.99), _turned),
        (lambda last: _falls(last, 0.3), _slid),
        (lambda last: last.closes and last.kind is K.ROUND_LEFT, _looped_out),
        (lambda last: last.closes or last.kind is K.ROUND_RIGHT, _back_along_the_foot),
        (lambda last: last.kind is K.CUP and bool(last.path.heading_out[0] < 0), _looped_out),
        (lambda last: bool(last.path.end[1] > 0.8), _ending(Leave.MID)),
    )


def _ended(body: Joined, style: HouseStyle) -> Joined:
    """Turn the last move into an exit, by what it is."""
    last = body.moves[-1]
    end = next((end for applies, end in _endings() if applies(last)), _ending(Leave.BASE))
    return end(body, style)


def _at(move: Move) -> Point:
    return float(move.path.end[0]), float(move.path.end[1])


def _rounded_foot(last: Move) -> tuple[Move, Path]:
    """A slope cut short above the base line, and the turn into its exit."""
    start, end = last.path.start, last.path.end
    share = (float(start[1]) - 0.16) / float(start[1])
    cut = start + share * (end - start)
    foot = (float(end[0]) + 0.10, 0.0)
    turn = cubic(tuple(cut), tuple(end * 0.8 + cut * 0.2), (foot[0] - 0.08, 0.0), foot)
    return replace(last, path=line(tuple(start), tuple(cut))), turn


def _tailed(body: Joined, style: HouseStyle) -> Joined:
    """A tail that loops back up and crosses its stem at the base line, or ends in a hook."""
    if style.tails is Tails.HOOKED:
        return replace(body, leave=Leave.LIFT)
    x, y = (float(v) for v in body.moves[-1].path.start)
    if body.char == "z":
        x, y = (float(v) for v in body.moves[-1].path.cubics[0, 3])
    left = x - 0.46
    path = [
        cubic((x, y), (x, -0.84), (x - 0.08, -1.0), (x - 0.24, -1.0)),
        cubic((x - 0.24, -1.0), (x - 0.38, -1.0), (left, -0.92), (left, -0.80)),
        cubic((left, -0.80), (left, -0.58), (x - 0.24, -0.24), (x, 0.0)),
    ]
    if body.char == "z":
        path = [Path(body.moves[-1].path.cubics[:1]), *path]
    return replace(body, moves=(*body.moves[:-1], Move(K.LOOP, chain(path))))


@lru_cache(maxsize=1024)
def joined(char: str, style: HouseStyle) -> Joined | None:
    """A lower-case letter ready to be joined, or None for what never joins (capitals, digits, marks)."""
    maker = LOWER.get(char)
    if maker is None:
        return None
    parts = style.parts(char)
    making = Making(parts, style)
    strokes = made_otherwise(char, making) or maker(making)
    if parts.stretch != 1:
        strokes = tuple(one.transformed(np.diag([parts.stretch, 1.0])) for one in strokes)
    moves = strokes[0].moves
    if moves[-1].kind is K.CUP and moves[-1].path.end[1] < 0.2:  # the foot of t becomes its exit
        x = float(moves[0].path.start[0])
        moves = (*moves[:-2], Move(K.DOWN, line(tuple(moves[-2].path.start), (x, 0.0))))
    body = _ended(_begin(char, moves, style), style)
    if char in style.breaks:
        body = replace(body, leave=Leave.LIFT)
    return replace(body, after=strokes[1:])


def with_exit(strokes: tuple[Stroke, ...]) -> tuple[Stroke, ...]:
    """Print strokes whose last downstroke to the base line ends in a small flick, ready to join."""
    last = strokes[0].moves[-1]
    straight = last.kind in (K.DOWN, K.RETRACE) and abs(float(last.path.end[1])) < 0.02
    if not straight or any(stroke.kinds != (K.DOT,) for stroke in strokes[1:]):
        return strokes
    x = float(last.path.end[0])
    kept = replace(last, path=line(tuple(last.path.start), (x, TURN_XH)))
    low = (x + TURN_WIDTH_XH, 0.0)
    up = cubic(low, (low[0] + 0.07, 0.0), (low[0] + 0.14, 0.05), (low[0] + 0.20, 0.14))
    exit_ = Move(K.EXIT_BASE, chain([_turn((x, TURN_XH)), up]))
    return (Stroke((*strokes[0].moves[:-1], kept, exit_)), *strokes[1:])
