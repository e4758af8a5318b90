"""How each fault is made: the model's strokes taken apart in one way.

A fault works on the model before natural variation is added. Its size is in the unit of its code
(xh, %, lifts), so that an evaluation can ask for "twice the tolerance".
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

import numpy as np

from firstloop.core.curves import FloatArray, along, flipped
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.moves import Move, MoveKind
from firstloop.core.simulate.hand import Strokes, wander

K = MoveKind
_BLEND_XH = 0.4
_TALL_XH = 1.3  # a stem begun above this is an ascender
_CURL_XH = 0.26  # radius of an extra curl
_BENDS_XH = (0.7, 1.0, 1.3)
FaultMaker = Callable[[Letter, float, np.random.Generator, HouseStyle], Strokes]


def plain(model: Letter) -> Strokes:
    """The model's strokes, ready to be altered."""
    return [stroke.points.copy() for stroke in model.sampled]


def _moves_from(model: Letter, stroke: int, first: int) -> FloatArray:
    sampled = model.sampled[stroke]
    return sampled.points[sampled.move >= first]


def start_bottom(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Begin at the foot: go up the stem first, or write the stroke backwards.

    A short stem is begun on the way back up; a tall one is climbed to its top and come down again.
    """
    out = plain(model)
    if model.kinds[0][:2] == (K.DOWN, K.RETRACE):
        rest = _moves_from(model, 0, 1)
        if model.strokes[0].start[1] > _TALL_XH:
            stem, back, rest = out[0][: len(out[0]) - len(rest)], rest[0], _moves_from(model, 0, 2)
            down_again = stem[stem[:, 1] >= rest[0, 1]]
            rest = np.concatenate([back[None], stem[::-1], down_again, rest])
        out[0] = rest
    else:
        out[0] = out[0][::-1]
    return out


def moved_start(dx: float, dy: float) -> FaultMaker:
    """Begin `size` away in a direction, and come back to the letter over the first stretch."""

    def make(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
        out = plain(model)
        fade = np.clip(1 - along(out[0]) / _BLEND_XH, 0, 1)[:, None]
        sign = 1.0 if dx == 0 else (rng.choice([-1.0, 1.0]))
        out[0] = out[0] + fade * np.array([dx * sign, dy]) * size
        return out

    return make


def stroke_reversed(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Write the second stroke from its end."""
    out = plain(model)
    out[1] = out[1][::-1]
    return out


def turn_reversed(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Write the bowl the other way round."""
    out = plain(model)
    sampled = model.sampled[0]
    if K.ROUND_RIGHT in model.kinds[0]:
        out[0] = np.concatenate([sampled.points[sampled.move == 0], sampled.points[sampled.move >= 2][::-1]])
        if model.char == "p":
            stem = sampled.points[sampled.move == 0]
            up = stem[::-1][: int(1.0 * len(stem) / 2)]
            out[0] = np.concatenate([stem, up, sampled.points[sampled.move >= 2][::-1]])
        return out
    bowl = sampled.points[sampled.move == 0][::-1]
    out[0] = np.concatenate([bowl, sampled.points[sampled.move > 0]])
    return out


def order_swapped(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Second stroke first."""
    out = plain(model)
    return [out[1], out[0], *out[2:]]


def lift_extra(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Lift `size` times inside the first stroke, setting down again a little off."""
    out = plain(model)
    cuts = np.linspace(0, len(out[0]), round(size) + 2).astype(int)
    pieces = [out[0][a:b] + rng.normal(0, 0.02, 2) for a, b in pairwise(cuts)]
    return [*pieces, *out[1:]]


def lift_missing(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Drag the pen from the first stroke to the second."""
    out = plain(model)
    drag = np.linspace(out[0][-1], out[1][0], 40)
    return [np.concatenate([out[0], drag, out[1]]), *out[2:]]


def _is_upright(move: Move) -> bool:
    across, up = np.abs(move.path.end - move.path.start)
    return bool(up > across)


def retrace_gap(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Come back beside the line instead of on it, at the last place where the model goes back."""
    out = plain(model)
    sampled = model.sampled[0]
    m = max(
        i for i, move in enumerate(model.strokes[0].moves) if move.kind is K.RETRACE and _is_upright(move)
    )
    back = np.flatnonzero(sampled.move == m)
    if model.char in "uy":
        back = back[: int(len(back) * 0.6)]
    bump = np.sin(np.linspace(0, np.pi, len(back)))
    out[0][back, 0] += size * bump
    return out


def form(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Bend the strokes by short waves, `size` xh off on average once shift and scale are taken out."""
    out = plain(model)
    drift = [
        wander(along(stroke), rng, _BENDS_XH) if len(stroke) > 20 else np.zeros_like(stroke) for stroke in out
    ]
    points, bend = np.concatenate(out), np.concatenate(drift)
    frame = np.column_stack([points, np.ones(len(points))])
    bend -= frame @ np.linalg.lstsq(frame, bend, rcond=None)[0]
    bend *= size / np.hypot(*bend.T).mean()
    cuts = np.cumsum([len(stroke) for stroke in out])[:-1]
    return [stroke + b for stroke, b in zip(out, np.split(bend, cuts), strict=True)]


def mirrored(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Left for right."""
    left, _, right, _ = model.bounds
    return [flipped(stroke) + np.array([left + right, 0.0]) for stroke in plain(model)]


LOOK_ALIKES = {
    "h": "n", "n": "hm", "a": "du", "d": "a", "u": "a", "m": "n", "r": "n", "y": "g", "g": "yq",
    "e": "c", "v": "w", "c": "eo", "p": "b", "b": "hp", "q": "g", "o": "a",
}  # fmt: skip


def other_letter(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Write a look-alike instead."""
    return plain(letter(rng.choice(list(LOOK_ALIKES[model.char])), style))


def bowl_open(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Leave a gap of `size` where the bowl should close."""
    out = plain(model)
    sampled = model.sampled[0]
    bowl = next(i for i, move in enumerate(model.strokes[0].moves) if move.closes)
    closing = sampled.points[np.flatnonzero(sampled.move == bowl)[-1]]
    gap = np.hypot(*(out[0] - closing).T)
    if model.char in "bpo":
        stop = len(gap) - int(np.argmax(gap[::-1] >= size))
        out[0] = out[0][:stop]
    else:
        out[0] = out[0][int(np.argmax(gap >= size)) :]
    return out


def part_missing(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Leave out the last part: the dot, the bar, an arch with its leg, a tail, a leg."""
    out = plain(model)
    if len(out) > 1:
        return out[:-1]
    kinds = model.kinds[0]
    last = len(kinds) - (2 if kinds[-2:] in ((K.ARCH, K.DOWN), (K.DOWN, K.HOOK_LEFT)) else 1)
    if K.ROUND_RIGHT in kinds or K.UP in kinds:
        last = len(kinds) - 2
    sampled = model.sampled[0]
    return [sampled.points[sampled.move < last]]


def width(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Too wide by `size` %, or too narrow by as much."""
    factor = 1 + size / 100
    factor = factor if rng.random() < 0.5 else 1 / factor
    return [stroke * np.array([factor, 1.0]) for stroke in plain(model)]


def scaled(sign: float) -> FaultMaker:
    """Larger or smaller by `size` %."""
    return lambda model, size, rng, style: [stroke * (1 + sign * size / 100) for stroke in plain(model)]


def band(above: float, sign: float) -> FaultMaker:
    """Stretch or shrink what lies beyond a line, so that its end moves by `size` xh."""

    def make(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
        out = plain(model)
        every = np.concatenate(out)[:, 1]
        end = every.max() if above > 0 else every.min()
        factor = (end + sign * size - above) / (end - above)
        for stroke in out:
            beyond = stroke[:, 1] > above if above > 0 else stroke[:, 1] < above
            stroke[beyond, 1] = above + (stroke[beyond, 1] - above) * factor
        return out

    return make


def moved(sign: float) -> FaultMaker:
    """Higher or lower on the lines by `size` xh."""
    return lambda model, size, rng, style: [stroke + np.array([0.0, sign * size]) for stroke in plain(model)]


def tail_on_line(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """The whole letter one band too high."""
    return [stroke + np.array([0.0, 1.0]) for stroke in plain(model)]


def scribble(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Ink that is no letter."""
    t = np.linspace(0, 1, 500)
    turns = rng.uniform(7, 11)
    x = 0.6 + 0.8 * np.sin(2 * np.pi * turns * t + rng.uniform(0, 6)) * rng.uniform(0.8, 1.2)
    y = 0.5 + 0.8 * np.sin(2 * np.pi * (turns * 0.73) * t + rng.uniform(0, 6))
    return [np.column_stack([x + 0.4 * t, y])]


def part_extra(model: Letter, size: float, rng: np.random.Generator, style: HouseStyle) -> Strokes:
    """Go on after the end in a curl, `size` xh long."""
    out = plain(model)
    heading = out[0][-1] - out[0][-6]
    begin = float(np.arctan2(heading[1], heading[0]))
    turn = np.linspace(0, size / _CURL_XH, max(8, int(size / 0.02)))
    side = 1.0 if rng.random() < 0.5 else -1.0
    angles = begin + side * turn
    steps = np.column_stack([np.cos(angles), np.sin(angles)]) * (size / len(turn))
    out[0] = np.concatenate([out[0], out[0][-1] + np.cumsum(steps, axis=0)])
    return out
