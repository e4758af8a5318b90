"""Ink that goes on when the letter is finished: a curl, another hump, a fancy loop.

It is looked for first and taken away, so that the rest of the letter is judged as if it were not
there: one cause, one finding.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from firstloop.core.check.align import INK_XH
from firstloop.core.check.case import Case
from firstloop.core.curves import FloatArray, IntArray, along, length, nearest, turning_deg

_END_POINTS = 3  # of the template: ink that belongs to these is at its end
_AWAY_XH = 0.18  # ink that never goes further than this from the model is only shaky
_TURN_DEG = 70.0  # ink that goes on straighter than this is too long, not extra
_LEAST_XH = 0.40
_COARSE = 5


@dataclass(frozen=True, eq=False)
class Extra:
    """What goes on after the end of one stroke.

    Parameters
    ----------
    stroke : int
        The ink stroke.
    length_xh : float
        On the letter's own scale.
    span : array, shape (n, 2)
        As written, letter space.
    rest : array, shape (m, 2)
        The stroke without it.
    """

    stroke: int
    length_xh: float
    span: FloatArray
    rest: FloatArray


def find_extra(case: Case) -> Extra | None:
    """The longest stretch that no part of the model explains; None where there is none."""
    match, template = case.match, case.template
    found = []
    for stroke, backwards in zip(match.arrangement.order, match.arrangement.backwards, strict=True):
        mine = np.flatnonzero(match.ink_stroke == stroke)
        if backwards or len(mine) * INK_XH < 2 * _LEAST_XH:
            continue
        of = int(template.stroke[match.model[mine[-1]]])
        last = int(np.flatnonzero(template.stroke == of)[-1])
        run = _trailing(match.model[mine] >= last - _END_POINTS, mine)
        if len(run) and len(run) < len(mine) and _is_extra(case.normal[run], template.points):
            found.append((stroke, run))
    if not found:
        return None
    stroke, run = max(found, key=lambda one: len(one[1]))
    span = match.ink[run]
    keep = length(case.ink[stroke]) - length(span)
    rest = case.ink[stroke][along(case.ink[stroke]) <= keep]
    return Extra(stroke, length(case.normal[run]), span, rest) if len(rest) > 1 else None


def _trailing(at_end: np.ndarray[tuple[int], np.dtype[np.bool_]], positions: IntArray) -> IntArray:
    """Positions after the last one that is not at the end."""
    before = np.flatnonzero(~at_end)
    return positions[int(before[-1]) + 1 :] if len(before) else positions[:0]


def _is_extra(run: FloatArray, model: FloatArray) -> bool:
    return (
        length(run) > _LEAST_XH
        and float(nearest(run, model).max()) > _AWAY_XH
        and abs(turning_deg(run[::_COARSE])) > _TURN_DEG
    )
