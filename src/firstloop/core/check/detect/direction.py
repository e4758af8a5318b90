"""Direction: where it starts, which way it goes, in which order, where the pen lifts."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from itertools import pairwise

import numpy as np

from firstloop.core.check.detect.joins import lifts
from firstloop.core.check.match.align import INK_XH, InkRun
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.template import Template
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray, IntArray, along, nearest, true_runs, turning_deg
from firstloop.core.heights import height_name
from firstloop.core.moves import MoveKind

K = MoveKind
_TURNED_BACK_DEG = 100.0  # a round is reversed when it turns at least this much the other way
_STRETCH_XH = 0.35
_CLIMB_XH = 0.12
_LOW_XH = 0.2
_TURN_TRIM = 0.12
_RETRACE_TRIM = 0.18
_MIN_RETRACE_XH = 0.25


def direction_findings(case: Case) -> list[Finding]:
    """Everything wrong with starts, direction, order and lifts; one cause, one finding."""
    pieces = pieces_swapped(case)
    bottom = start_bottom(case) if case.begins and not pieces else []
    turned = [] if bottom else turn_reversed(case)
    reverse = [] if bottom or turned else strokes_reversed(case)
    out = bottom + turned + reverse
    if case.begins and not out and not pieces:
        out += start_place(case)
    if not bottom:
        out += order_swapped(case) or pieces
    if not pieces:  # they cannot be written so without a lift between them
        out += lifts_extra(case)
    out += lifts_missing(case)
    if not (bottom or turned):
        out += retrace_gap(case)
    return out


def _head(points: FloatArray, reach_xh: float = _STRETCH_XH) -> FloatArray:
    return np.asarray(points[along(points) <= reach_xh])


@lru_cache(maxsize=1024)
def _lowest(template: Template) -> FloatArray:
    """The lower end of the first stroke; shape (n, 2)."""
    model = template.runs[0]
    return np.asarray(model[model[:, 1] <= model[:, 1].min() + 0.02])


def start_bottom(case: Case) -> list[Finding]:
    """The first pen-down is nearer to the stroke's lower end than to its start."""
    number = case.first_stroke
    ink = case.all_normal[number]
    start = case.template.runs[0][0]
    if len(ink) < 2 or ink[0, 1] > start[1] - 0.25:
        return []
    to_start = float(np.hypot(*(ink[0] - start)))
    to_low = float(nearest(ink[:1], _lowest(case.template))[0])
    climbs = _head(ink)[-1, 1] - ink[0, 1] > _CLIMB_XH
    backwards = case.match.arrangement.backwards[case.match.arrangement.order.index(number)]
    if to_low >= to_start or not (climbs or backwards):
        return []
    if (
        case.template.letter.kinds[0][0] is K.ROUND_LEFT
        and ink[0, 1] > _lowest(case.template)[0, 1] + _LOW_XH
    ):
        return []  # a round begun low on its way is that, as long as it is not begun where it turns up again
    span = _head(case.ink[number])
    found = case.find("start.bottom", start[1] - ink[0, 1], span, goal=start)
    return [replace(f, at=span[0]) for f in found]


@lru_cache(maxsize=1024)
def _rounds(template: Template) -> tuple[tuple[int, int, IntArray, float], ...]:
    """Stroke, move and template indices of each round of a model, and how far it turns, degrees."""
    return tuple(
        (s, m, template.of(s, m), turning_deg(move.path.points(0.05)))
        for s, stroke in enumerate(template.letter.strokes)
        for m, move in enumerate(stroke.moves)
        if move.kind in (K.ROUND_LEFT, K.ROUND_RIGHT)
    )


def _swept_deg(points: FloatArray) -> float:
    """How far a round goes about its own middle, degrees, counterclockwise positive; corners do not count."""
    middle = (points.min(0) + points.max(0)) / 2
    x, y = (points - middle).T
    bearing = np.unwrap(np.arctan2(y, x))
    return float(np.degrees(bearing[-1] - bearing[0]))


def turn_reversed(case: Case) -> list[Finding]:
    """A round written the other way about."""
    for s, m, inside, model_turn in _rounds(case.template):
        where = case.match.matched(inside)
        if len(where) < 12:
            continue
        ink = _as_written(case, _without_ends(where))
        if case.match.variant == "round-reversed":  # the match says so already
            turn = _swept_deg(ink)
        else:
            turn = turning_deg(ink[:: max(1, int(0.08 / INK_XH))])
        least = min(_TURNED_BACK_DEG, 0.5 * abs(model_turn))
        if turn * np.sign(model_turn) < -least:
            way = "clockwise" if model_turn > 0 else "counterclockwise"
            return case.find("direction.turn", abs(turn), where, stroke=s, move=m, way=way)
    return []


def _without_ends(where: IntArray) -> IntArray:
    """Matched ink without its ends, where a corner to the next part would count as turning."""
    trim = int(len(where) * _TURN_TRIM)
    return where[trim : len(where) - trim]


def _as_written(case: Case, where: IntArray) -> FloatArray:
    """Matched ink of a part in the direction of the pen, longest unbroken run."""
    parts = [(where[(where >= r.at.start) & (where < r.at.stop)], r.backwards) for r in case.match.runs]
    longest, backwards = max(parts, key=lambda part: len(part[0]))
    run = case.normal[longest]
    return np.asarray(run[::-1] if backwards else run)


def strokes_reversed(case: Case) -> list[Finding]:
    """Whole strokes written from their end to their beginning."""
    found: list[Finding] = []
    template = case.template
    for run, shares in zip(case.match.runs, case.shares, strict=True):
        if not run.backwards or run.size * INK_XH < _STRETCH_XH * 0.5:
            continue
        of, mine = int(shares.argmax()), run.positions
        only_bar = set(template.letter.kinds[of]) == {K.BAR}
        if only_bar and case.group.hand == "left":
            continue  # a left-handed child may draw bars from right to left
        start = template.runs[of][0]
        begin = "left" if only_bar else height_name(float(start[1]))
        size = float(np.hypot(*np.ptp(case.normal[mine], axis=0)))
        found += case.find("direction.reversed", size, mine, stroke=of, part=case.part_name(of), begin=begin)
    return found


def start_place(case: Case) -> list[Finding]:
    """First pen-down too high, too low or to one side, on the letter's own scale."""
    number = case.first_stroke
    ink, model = case.all_normal[number], case.template.runs[0][0]
    dx, dy = (float(v) for v in ink[0] - model)
    span = case.ink[number][:1]
    high_low = case.find("start.high" if dy > 0 else "start.low", abs(dy), span, goal=model)
    side = case.find("start.side", abs(dx), span, goal=model, side="right" if dx > 0 else "left")
    return side if side and (not high_low or abs(dx) / 0.35 > abs(dy) / 0.30) else high_low


def order_swapped(case: Case) -> list[Finding]:
    """Strokes in another order than the model's."""
    template, match = case.template, case.match
    count = len(template.letter.strokes)
    first_ink: dict[int, int] = {}
    for s in range(count):
        if s == template.dot_stroke:
            if match.dot is not None:
                first_ink[s] = match.dot
            continue
        writers = case.strokes_of(s, least=0.5)
        if writers:
            first_ink[s] = min(writers)
    for a in range(count):
        for b in range(a + 1, count):
            if a in first_ink and b in first_ink and first_ink[a] > first_ink[b]:
                span = case.ink[first_ink[b]]
                return case.find(
                    "order.swapped", 1.0, span, stroke=b, part=case.part_name(b), other=case.part_name(a)
                )
    return []


def pieces_swapped(case: Case) -> list[Finding]:
    """Pieces of what the model writes in one stroke, in another order: the stem of a d before its round."""
    if case.match.variant != "as-modelled":
        return []
    for one, next_one in pairwise(case.match.runs):
        here, there = _of(case, one), _of(case, next_one)
        if one.number < next_one.number or here[0] != there[0] or here[1] == there[1]:
            continue
        if min(one.size, next_one.size) * INK_XH < _STRETCH_XH:
            continue
        part, other = _piece(case, there), _piece(case, here)
        where = case.ink[next_one.number]
        other = "letter" if other == part else other
        stroke, move = there
        return case.find("order.swapped", 1.0, where, stroke=stroke, move=move, part=part, other=other)
    return []


def _piece(case: Case, at: tuple[int, int]) -> str:
    """What a move of the model is called, as a key."""
    return next((one.name for one in case.template.parts if (one.stroke, one.move) == at), "stem")


def _of(case: Case, run: InkRun) -> tuple[int, int]:
    """Stroke of the model, and its move, that most of a run was matched to."""
    at = case.match.model[run.at]
    stroke = int(np.bincount(case.template.stroke[at]).argmax())
    return stroke, int(np.bincount(case.template.move[at]).argmax())


def lifts_extra(case: Case) -> list[Finding]:
    """Pen lifts inside a stroke that the model makes in one."""
    spots, _ = lifts(case)
    back = [run.at for run in case.match.runs if run.backwards]  # a piece turned round needs a lift before it
    spots = [i for i in spots if not any(at.start <= i + 1 <= at.stop for at in back)]
    if not spots:
        return []
    at = int(case.match.model[spots[0]])
    stroke, move = int(case.template.stroke[at]), int(case.template.move[at])
    return case.find("lift.extra", len(spots), np.array(spots[:1]), stroke=stroke, move=move)


def lifts_missing(case: Case) -> list[Finding]:
    """Strokes run together that the model lifts between."""
    if case.run_on is not None and case.template.dot_stroke is not None:
        return case.find("lift.missing", 1.0, case.run_on, stroke=case.template.dot_stroke, part="dot")
    missing, stroke = 0, 0
    where = np.zeros(0, dtype=np.int64)
    for run, shares in zip(case.match.runs, case.shares.tolist(), strict=True):
        of = [s for s, long in case.template.lengths.items() if shares[s] * INK_XH > 0.5 * long]
        if len(of) > 1:
            missing += len(of) - 1
            stroke = of[1]
            where = run.positions[case.template.stroke[case.match.model[run.at]] == stroke][:10]
    if not missing:
        return []
    return case.find("lift.missing", missing, where, stroke=stroke, part=case.part_name(stroke))


@lru_cache(maxsize=1024)
def _ways_back(template: Template) -> tuple[tuple[int, int, IntArray, IntArray], ...]:
    """Stroke and move of each length that the model writes twice, its way there and its way back."""
    found = []
    for a, b in true_runs(template.twice):
        trim = int((b - a) * _RETRACE_TRIM)
        out = template.once[a:b]
        if out.min() < 2 and len(template.runs) > 1:
            continue  # a joined t goes up on the join, which need not lie under its stem
        there, back = np.arange(max(0, out.min() - 2), out.max() + 3), np.arange(a + trim, b - trim)
        found.append((int(template.stroke[a]), int(template.move[(a + b) // 2]), there, back))
    return tuple(found)


def retrace_gap(case: Case) -> list[Finding]:
    """Widest gap between the way there and the way back, where the model writes over itself."""
    match = case.match
    worst: list[Finding] = []
    for stroke, move, out, back in _ways_back(case.template):
        there, again = match.matched(out), match.matched(back)
        if len(again) * INK_XH < _MIN_RETRACE_XH * 0.4 or len(there) < 5:
            continue
        if not match.is_of_one_stroke(there, again):
            continue
        gaps = nearest(match.ink[again], match.ink[there]) / case.frame.scale
        widest = int(gaps.argmax())
        found = case.find("retrace.gap", float(gaps[widest]), again, stroke=stroke, move=move)
        found = [replace(f, at=match.ink[again[widest]]) for f in found]
        if found and (not worst or found[0].value > worst[0].value):
            worst = found
    return worst
