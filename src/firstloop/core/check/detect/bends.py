"""Bends and leanings: points and rounds, the lean of downstrokes, arms and hooks."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from firstloop.core.check.match.align import INK_XH
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.template import FINE_XH, Template
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray, IntArray
from firstloop.core.moves import MoveKind

K = MoveKind
_CHORD_XH = 0.16  # a bend is the angle between the chords of this length before and after a spot
_END_XH = 0.30  # the ends of a round, where it joins the next part
_AROUND_XH = 0.28
_AT_END_XH = 0.06
_POINT_DEG = (45.0, 160.0)  # less is a bend, more is a way back
_STRAIGHT = (K.DOWN, K.UP, K.SLOPE_LEFT, K.SLOPE_RIGHT, K.SLOPE_UP, K.BAR)
_ROUND = (K.ARCH, K.CUP, K.ROUND_LEFT, K.ROUND_RIGHT)
# letters with an arm or a hook, which move of the first stroke it is, and what to call it
_ARMS: dict[str, tuple[int, str]] = {
    "r": (-1, "arm"),
    "f": (0, "hook"),
    "t": (-1, "foot"),
    "j": (-1, "tail"),
    "g": (-1, "tail"),
    "y": (-1, "tail"),
    "J": (-1, "hook"),
}
_WITH_BOWL = "gy"
_ARM_KINDS = (K.ARCH, K.CUP, K.ROUND_LEFT, K.HOOK_LEFT, K.HOOK_RIGHT)


Bend = tuple[int, int, IntArray, float]
"""Stroke, move, template indices around it, and how sharply it bends at most, degrees."""


def bend_findings(case: Case) -> list[Finding]:
    """Everything wrong with bends, lean and arms."""
    return slant(case) + corner(case) + reach(case)


def slant(case: Case) -> list[Finding]:
    """Lean of the downstrokes against that of the model."""
    written, model = case.slant_deg, case.template.lean_deg
    if written is None or model is None:
        return []
    off = written - model
    way = "forward" if off > 0 else "back"
    lean = "upright" if abs(model) < 1 else "like-the-model"
    upright = np.flatnonzero(case.template.upright[case.match.model])
    return case.find("shape.slant", abs(off), upright, way=way, lean=lean)


def bends_deg(points: FloatArray, spacing_xh: float) -> FloatArray:
    """How sharply an evenly spaced run bends at every point, degrees; 0 near its ends. Shape (n,)."""
    reach = max(1, round(_CHORD_XH / spacing_xh))
    out = np.zeros(len(points))
    if len(points) <= 2 * reach:
        return out
    middle = points[reach:-reach]
    before, after = middle - points[: -2 * reach], points[2 * reach :] - middle
    cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    out[reach:-reach] = np.degrees(np.abs(np.arctan2(cross, (before * after).sum(1))))
    return out


@lru_cache(maxsize=1024)
def model_bends(template: Template) -> tuple[list[Bend], list[Bend]]:
    """Points and rounds of a model."""
    points, rounds = [], []
    for s, run in template.runs.items():
        index = np.flatnonzero(template.stroke == s)
        bend = bends_deg(run, FINE_XH)
        moves = template.letter.strokes[s].moves
        for m, move in enumerate(moves):
            mine = np.flatnonzero(template.move[index] == m)
            if move.kind in _ROUND:
                trim = round(_END_XH / FINE_XH)
                inner = mine[trim:-trim]
                if len(inner) > 2:
                    rounds.append((s, m, index[inner], float(bend[inner].max())))
            follows = moves[m + 1] if m + 1 < len(moves) else None
            if follows and move.kind in _STRAIGHT and follows.kind in _STRAIGHT:
                sharp = float(bend[mine[-1]])
                if _POINT_DEG[0] < sharp < _POINT_DEG[1]:
                    reach = round(_AROUND_XH / FINE_XH)
                    around = np.arange(max(0, mine[-1] - reach), min(len(index), mine[-1] + reach + 1))
                    points.append((s, m, index[around], sharp))
    return points, rounds


def corner(case: Case) -> list[Finding]:
    """A round made pointed, or a point made round; the worst is told."""
    match = case.match
    points, rounds = model_bends(case.template)
    written = np.zeros(len(match.ink))
    for run in match.runs:
        written[run.at] = bends_deg(case.normal[run.at], INK_XH)
    worst: list[Finding] = []
    for sign, bends in ((-1.0, points), (1.0, rounds)):
        for s, m, index, sharp in bends:
            where = match.matched(index)
            if len(where) * INK_XH < _CHORD_XH or not match.is_of_one_stroke(where):
                continue
            peak = int(written[where].argmax())
            sharpest = int(where[peak])
            at_end = min(peak, len(where) - 1 - peak) * INK_XH < _AT_END_XH
            if sign > 0 and (at_end or written[sharpest] > _POINT_DEG[1]):
                continue  # the corner to the next part, not a point in the round
            off = sign * (float(written[sharpest]) - sharp)
            pointed = sign > 0
            span = np.arange(max(0, sharpest - 8), min(len(match.ink), sharpest + 9))
            found = case.find(
                "shape.corner",
                off,
                span,
                stroke=s,
                move=m,
                made="point" if pointed else "round",
            )
            if found and (not worst or found[0].value > worst[0].value):
                worst = found
    return worst


def reach(case: Case) -> list[Finding]:
    """How far an arm, a hook or a foot goes out from its stem, against the model at the same height."""
    if case.char not in _ARMS:
        return []
    at, part = _ARMS[case.char]
    moves = case.template.letter.strokes[0].moves
    at %= len(moves)
    stem = at + 1 if at == 0 else at - 1
    if len(moves) < 2 or moves[at].kind not in _ARM_KINDS or moves[stem].kind not in (K.DOWN, K.RETRACE):
        return []
    arm = case.match.matched(case.template.of(0, at))
    upright = case.match.matched(case.template.of(0, stem))
    if len(arm) < 3 or len(upright) < 3:
        return []
    x = case.normal[:, 0]
    if case.char not in _WITH_BOWL:  # the arm is the width of the letter: only its height may be taken out
        x = x / (case.frame.across * case.frame.scale)
    model = case.template.points
    goal = _out(model[case.template.of(0, at), 0], model[case.template.of(0, stem), 0])
    ratio = _out(x[arm], x[upright]) / goal
    way = "long" if ratio > 1 else "short"
    off = 100 * abs(ratio - 1)
    return case.find("shape.reach", off, arm, stroke=0, move=at, part=part, way=way)


def _out(arm: FloatArray, stem: FloatArray) -> float:
    return float(np.abs(arm - np.median(stem)).max())
