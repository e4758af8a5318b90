"""Joins: the way into a letter, the way out, and where a tail's loop crosses."""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import numpy as np

from firstloop.core.check.match.align import INK_XH
from firstloop.core.check.match.case import Case
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray, IntArray, cross
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import JOINS, MoveKind

K = MoveKind
_COVERED = 0.40
_LIFT_LEAST_XH = 0.12
_LOOP_LEAST_XH = 0.12  # less than this between the two visits to a spot is a corner, not a loop
_DEEP_XH = -0.3


def join_findings(case: Case) -> list[Finding]:
    """Everything wrong with the way in, the way out and the loop."""
    missing = join_missing(case)
    return missing + ([] if missing else join_break(case)) + join_crossing(case)


def join_missing(case: Case) -> list[Finding]:
    """No lead-in or no exit where the model has one."""
    ink = np.concatenate(case.dense)
    gone = [part for part in case.template.joins if len(part.points) and part.coverage(ink) < _COVERED]
    if not gone:
        return []
    names = [part.name for part in gone]
    first = gone[0]
    where = case.match.matched(case.template.of(first.stroke, first.move))
    return case.find(
        "join.missing",
        len(gone),
        where if len(where) else np.array([0 if first.move == 0 else len(case.match.ink) - 1]),
        stroke=first.stroke,
        move=first.move,
        joins="-and-".join(names),
    )


def lifts(case: Case) -> tuple[list[int], list[int]]:
    """Where the pen lifted inside a stroke of the model: inside its letter, and on its joins.

    Positions in the matched ink, each the last one before the lift.
    """
    match, template = case.match, case.template
    letter: list[int] = []
    joins: list[int] = []
    for before, after in pairwise(match.runs):
        i = before.at.stop - 1
        a, b = int(match.model[i]), int(match.model[i + 1])
        shorter = min(before.size, after.size) * INK_XH
        if template.stroke[a] != template.stroke[b] or shorter < _LIFT_LEAST_XH:
            continue
        on_join = template.kinds[a] in JOINS or template.kinds[b] in JOINS
        (joins if on_join else letter).append(i)
    return letter, joins


def join_break(case: Case) -> list[Finding]:
    """The pen lifted where a join should run."""
    _, spots = lifts(case)
    if case.lifted_after:
        spots = [*spots, len(case.match.ink) - 1]
    if not spots:
        return []
    at = int(case.match.model[spots[0]])
    stroke, move = int(case.template.stroke[at]), int(case.template.move[at])
    return case.find("join.break", len(spots), np.array(spots[:1]), stroke=stroke, move=move)


def join_crossing(case: Case) -> list[Finding]:
    """Height at which the loop of a tail crosses itself, against the base line."""
    found = _tail_loop(case.template.letter)
    if found is None:
        return []
    s, m = found
    loop = case.match.matched(np.flatnonzero((case.template.stroke == s) & (case.template.move >= m - 1)))
    cross = _crossing(case.match.ink[loop])
    if cross is None:
        return []
    shift = case.heights.foot or 0.0
    off = float(cross[1]) - shift
    span = np.array([cross])
    return case.find("join.crossing", abs(off), span, stroke=s, move=m, way="above" if off > 0 else "below")


@lru_cache(maxsize=1024)
def _tail_loop(letter: Letter) -> tuple[int, int] | None:
    """Stroke and move of the loop that hangs below the base line, if the model has one."""
    for s, stroke in enumerate(letter.strokes):
        for m, move in enumerate(stroke.moves):
            if move.kind is K.LOOP and float(move.path.points(0.05)[:, 1].min()) < _DEEP_XH:
                return s, m
    return None


def _crossing(run: FloatArray) -> FloatArray | None:
    """Where a run crosses itself after going below the base line, or None; shape (2,)."""
    a, b = run[:-1], run[1:]
    lowest = int(run[:, 1].argmin())
    down, up = np.arange(lowest), np.arange(lowest, len(a))
    if len(down) < 2 or len(up) < 2:
        return None
    p, r = a[down][:, None], (b - a)[down][:, None]
    q, s = a[up][None], (b - a)[up][None]
    area = cross(r, s)
    away = q - p
    with np.errstate(divide="ignore", invalid="ignore"):
        t = cross(away, s) / area
        u = cross(away, r) / area
    apart: IntArray = up[None] - down[:, None]
    hit = (t >= 0) & (t <= 1) & (u >= 0) & (u <= 1) & (apart * INK_XH > _LOOP_LEAST_XH)
    where = np.argwhere(hit)
    if not len(where):
        return None
    i, j = where[-1]  # the crossing nearest the bottom of the loop closes it
    return np.asarray(p[i, 0] + t[i, j] * r[i, 0])
