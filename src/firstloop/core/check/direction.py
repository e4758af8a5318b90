"""Direction: where it starts, which way it goes, in which order, where the pen lifts."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from firstloop.core.check.align import INK_XH
from firstloop.core.check.case import Case
from firstloop.core.check.findings import Finding
from firstloop.core.check.joins import lifts
from firstloop.core.curves import FloatArray, IntArray, along, nearest, turning_deg
from firstloop.core.moves import MoveKind
from firstloop.core.patter import height_words

K = MoveKind
_ROUNDS = (K.ROUND_LEFT, K.ROUND_RIGHT)
_TURNED_BACK_DEG = 100.0  # a round is reversed when it turns at least this much the other way
_AGREED_BACK_DEG = 30.0
_STRETCH_XH = 0.35
_CLIMB_XH = 0.12
_TURN_TRIM = 0.12
_RETRACE_TRIM = 0.18
_MIN_RETRACE_XH = 0.25


def direction_findings(case: Case) -> list[Finding]:
    """Everything wrong with starts, direction, order and lifts; one cause, one finding."""
    bottom = start_bottom(case) if case.begins else []
    turned = [] if bottom else turn_reversed(case)
    reverse = [] if bottom or turned else strokes_reversed(case)
    out = bottom + turned + reverse
    if case.begins and not out:
        out += start_place(case)
    if not bottom:
        out += order_swapped(case)
    out += lifts_extra(case) + lifts_missing(case)
    if not (bottom or turned):
        out += retrace_gap(case)
    return out


def _first_stroke(case: Case) -> tuple[FloatArray, int]:
    """The ink stroke that begins the model's first stroke, laid on the model, and its number."""
    writers = case.match.strokes_of(0, case.template)
    first = min(writers) if writers else min(case.match.arrangement.order)
    return case.all_normal[first], first


def _head(points: FloatArray, reach_xh: float = _STRETCH_XH) -> FloatArray:
    return np.asarray(points[along(points) <= reach_xh])


def start_bottom(case: Case) -> list[Finding]:
    """The first pen-down is nearer to the stroke's lower end than to its start."""
    ink, number = _first_stroke(case)
    if len(ink) < 2:
        return []
    model = case.template.runs[0]
    lowest = model[model[:, 1] <= model[:, 1].min() + 0.02]
    to_start = float(np.hypot(*(ink[0] - model[0])))
    to_low = float(nearest(ink[:1], lowest)[0])
    head = _head(ink)
    climbs = head[-1, 1] - ink[0, 1] > _CLIMB_XH
    backwards = case.match.arrangement.backwards[case.match.arrangement.order.index(number)]
    if to_low >= to_start or not (climbs or backwards) or ink[0, 1] > model[0, 1] - 0.25:
        return []
    value = model[0, 1] - ink[0, 1]
    span = _head(case.ink[number])
    found = case.find("start.bottom", value, span, goal=model[0])
    return [replace(f, at=span[0]) for f in found]


def turn_reversed(case: Case) -> list[Finding]:
    """A round written the other way about."""
    template, match = case.template, case.match
    for s, stroke in enumerate(template.letter.strokes):
        for m, move in enumerate(stroke.moves):
            if move.kind not in _ROUNDS:
                continue
            inside = np.flatnonzero((template.stroke == s) & (template.move == m))
            where = match.matched(inside)
            if len(where) < 12:
                continue
            model_turn = turning_deg(move.path.points(0.05))
            ink = _as_written(case, _without_ends(where))
            turn = turning_deg(ink[:: max(1, int(0.08 / INK_XH))])
            least = min(_TURNED_BACK_DEG, 0.5 * abs(model_turn))
            if match.variant == "round-reversed":
                least = _AGREED_BACK_DEG  # the match has said so already
            if turn * np.sign(model_turn) < -least:
                left = model_turn > 0
                words = (
                    ("clockwise", "counterclockwise", "left")
                    if left
                    else ("counterclockwise", "clockwise", "right")
                )
                return case.find(
                    "direction.turn",
                    abs(turn),
                    where,
                    stroke=s,
                    move=m,
                    way=words[0],
                    model_way=words[1],
                    side=words[2],
                )
    return []


def _without_ends(where: IntArray) -> IntArray:
    """Matched ink without its ends, where a corner to the next part would count as turning."""
    trim = int(len(where) * _TURN_TRIM)
    return where[trim : len(where) - trim]


def _as_written(case: Case, where: IntArray) -> FloatArray:
    """Matched ink of a part in the direction of the pen, longest unbroken run."""
    match = case.match
    reverse = dict(zip(match.arrangement.order, match.arrangement.backwards, strict=True))
    labels = match.ink_stroke[where]
    longest = max(np.unique(labels), key=lambda one: int((labels == one).sum()))
    run = case.normal[where[labels == longest]]
    return np.asarray(run[::-1] if reverse[int(longest)] else run)


def strokes_reversed(case: Case) -> list[Finding]:
    """Whole strokes written from their end to their beginning."""
    found: list[Finding] = []
    match, template = case.match, case.template
    for ink_stroke, backwards in zip(match.arrangement.order, match.arrangement.backwards, strict=True):
        mine = np.flatnonzero(match.ink_stroke == ink_stroke)
        if not backwards or len(mine) * INK_XH < _STRETCH_XH * 0.5:
            continue
        of = int(np.bincount(template.stroke[match.model[mine]]).argmax())
        only_bar = set(template.letter.kinds[of]) == {K.BAR}
        if only_bar and case.group.hand == "left":
            continue  # a left-handed child may draw bars from right to left
        start = template.runs[of][0]
        from_ = "left to right" if only_bar else height_words(float(start[1]))
        size = float(np.hypot(*np.ptp(case.normal[mine], axis=0)))
        found += case.find("direction.reversed", size, mine, stroke=of, part=case.part_name(of), from_=from_)
    return found


def start_place(case: Case) -> list[Finding]:
    """First pen-down too high, too low or to one side, on the letter's own scale."""
    ink, number = _first_stroke(case)
    model = case.template.runs[0][0]
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
        writers = match.strokes_of(s, template, least=0.5)
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


def lifts_extra(case: Case) -> list[Finding]:
    """Pen lifts inside a stroke that the model makes in one."""
    spots, _ = lifts(case)
    if not spots:
        return []
    at = int(case.match.model[spots[0]])
    stroke, move = int(case.template.stroke[at]), int(case.template.move[at])
    return case.find("lift.extra", len(spots), np.array(spots[:1]), stroke=stroke, move=move)


def lifts_missing(case: Case) -> list[Finding]:
    """Strokes run together that the model lifts between."""
    match, template = case.match, case.template
    missing, where = 0, np.zeros(0, dtype=np.int64)
    stroke = 0
    for ink_stroke in match.arrangement.order:
        mine = np.flatnonzero(match.ink_stroke == ink_stroke)
        of = template.stroke[match.model[mine]]
        shares = [s for s in np.unique(of) if (of == s).sum() * INK_XH > 0.5 * template.lengths[int(s)]]
        if len(shares) > 1:
            missing += len(shares) - 1
            stroke = int(shares[1])
            where = mine[np.flatnonzero(of == shares[1])][:10]
    return (
        case.find("lift.missing", missing, where, stroke=stroke, part=case.part_name(stroke))
        if missing
        else []
    )


def retrace_gap(case: Case) -> list[Finding]:
    """Widest gap between the way there and the way back, where the model writes over itself."""
    template, match = case.template, case.match
    runs = np.flatnonzero(np.diff(np.concatenate([[0], template.twice.astype(int), [0]])))
    worst: list[Finding] = []
    for a, b in zip(runs[::2], runs[1::2], strict=True):
        trim = int((b - a) * _RETRACE_TRIM)
        back = np.arange(a + trim, b - trim)
        out = np.unique(template.once[a:b])
        there, again = match.matched(np.arange(out[0] - 2, out[-1] + 3)), match.matched(back)
        if len(again) * INK_XH < _MIN_RETRACE_XH * 0.4 or len(there) < 5:
            continue
        if len(np.unique(np.concatenate([match.ink_stroke[there], match.ink_stroke[again]]))) > 1:
            continue
        gaps = nearest(match.ink[again], match.ink[there]) / case.frame.scale
        widest = int(gaps.argmax())
        found = case.find(
            "retrace.gap",
            float(gaps[widest]),
            again,
            stroke=int(template.stroke[a]),
            move=int(template.move[(a + b) // 2]),
        )
        found = [replace(f, at=match.ink[again[widest]]) for f in found]
        if found and (not worst or found[0].value > worst[0].value):
            worst = found
    return worst
