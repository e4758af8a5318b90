"""Ink that goes on when the letter is finished: a curl, another hump, a fancy loop.

It is looked for first and taken away, so that the rest of the letter is judged as if it were not
there: one cause, one finding.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from firstloop.core.check.match.align import INK_XH, InkRun, align_all
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.cases import relaid
from firstloop.core.curves import (
    FloatArray,
    IntArray,
    along,
    length,
    nearest,
    resample,
    turning_deg,
    turns_deg,
)
from firstloop.core.ink import Evidence

_END_POINTS = 3  # of the template: ink that belongs to these is at its end
_AWAY_XH = 0.18  # ink that never goes further than this from the model is only shaky
_TURN_DEG = 70.0
_WAY = (0.75, 1.3)  # of the stroke's length: where its end is looked for
_LEAST_XH = 0.40
_A_LETTER_XH = 0.1
_NOT_WHOLE = ("part-missing", "without-joins")
_COARSE = 5
_TO_TIP_XH, _DIRECT = 0.4, 2.0  # from the model, of a line beside it; times the distance of its ends
_LONG = 1.35  # times as long as its model: then a curl may hide the letter from the match
_HIDDEN_XH = 0.06  # a match worse than this may be of ink that hides a letter
_CUTS = 14
_CLEARER = 0.6  # times the cost: so much better the letter fits without what hides it
_ONE_WAY = 0.75  # of its turning: a curl or a loop goes one way, a scribble does not
_CURL_STEP_XH = 0.12


@dataclass(frozen=True, eq=False)
class Extra:
    """What is too much of one stroke.

    Parameters
    ----------
    stroke : int
        The ink stroke.
    length_xh : float
        On the letter's own scale where it is known, else as written.
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
    """The longest stretch that goes on when its stroke is finished; None where there is none.

    Whether it is extra shows when the letter has been laid again without it: see :func:`is_extra`.
    """
    found = []
    for run in case.match.runs:
        if run.backwards or run.size * INK_XH < 2 * _LEAST_XH:
            continue
        of = int(case.template.stroke[case.match.model[run.at.stop - 1]])
        after = max(_trailing(case, run, of), _since_the_end(case, run, of), key=len)
        if len(after) < run.size and _goes_on(case.normal[after]):
            found.append((run.number, after))
    if not found:
        return None
    stroke, after = max(found, key=lambda one: len(one[1]))
    span = case.match.ink[after]
    keep = length(case.ink[stroke]) - length(span)
    rest = case.ink[stroke][along(case.ink[stroke]) <= keep]
    return Extra(stroke, length(case.normal[after]), span, rest) if len(rest) > 1 else None


def without_extra(case: Case, *, only_curls: bool = False) -> tuple[Case, Extra] | None:
    """The letter laid again without ink that goes on when it is finished, or that hides it; and that ink.

    Where the whole is no letter, only a curl or a loop can have hidden one; a scribble has nothing in it.
    """
    for look in (find_extra, _hiding, _stroke_more):
        extra = look(case)
        if extra is None or (only_curls and not _is_curl(extra.span)):
            continue
        changed = (extra.rest if i == extra.stroke else stroke for i, stroke in enumerate(case.ink))
        ink = tuple(stroke for stroke in changed if len(stroke))
        rest = relaid(case, ink)
        if rest.match.cost < case.match.cost and is_extra(extra, rest):
            return rest, extra
    return None


def _hiding(case: Case) -> Extra | None:
    """A curl or loop about as long as the letter or longer, before it or after it.

    So much ink draws the match after it. The letter is looked for in the first and in the last stretch of
    the stroke instead; it is there where that fits clearly better than the whole.
    """
    number = max(range(len(case.ink)), key=lambda i: length(case.ink[i]))
    stroke = case.ink[number]
    if case.match.cost < _HIDDEN_XH or sum(map(length, case.ink)) < _LONG * case.template.length:
        return None
    way = along(stroke)
    if len(stroke) < _CUTS:
        return None
    step = way[-1] / (_CUTS + 1)
    cuts = [(float(cut), first) for cut in step * np.arange(1, _CUTS + 1) for first in (True, False)]
    for _ in range(2):  # about where, then exactly
        tried = [(cut, first, way <= cut if first else way >= cut) for cut, first in cuts]
        tried = [one for one in tried if _is_curl(stroke[~one[2]])]
        if not tried:
            return None
        inks = [tuple(s[stay] if i == number else s for i, s in enumerate(case.ink)) for *_, stay in tried]
        costs = [match.cost for match in align_all([(ink, case.template) for ink in inks])]
        best = int(np.argmin(costs))
        cut, first, stay = tried[best]
        cuts = [(cut + part * step, first) for part in np.linspace(-0.8, 0.8, 9)]
    if costs[best] > min(_A_LETTER_XH, _CLEARER * case.match.cost):
        return None
    return Extra(number, length(stroke[~stay]), stroke[~stay], stroke[stay])


def _stroke_more(case: Case) -> Extra | None:
    """On paper, the longest stroke that is no part of the model; of a pen that was seen it is a lift more."""
    if case.group.evidence is not Evidence.SCAN or len(case.ink) == 1:
        return None
    placed = [case.frame.apply(stroke) for stroke in case.ink]
    apart = [number for number, stroke in enumerate(placed) if _is_apart(stroke, case)]
    if not apart:
        return None
    number = max(apart, key=lambda i: length(placed[i]))
    stroke = case.ink[number]
    return Extra(number, length(placed[number]), stroke, stroke[:0])


def _is_apart(placed: FloatArray, case: Case) -> bool:
    """Whether a stroke is long, lies away from the model, and is no way that a pen may take beside it.

    From where one stroke ends to where the next begins it is a lift that was not made; from one end to the
    other of what is drawn twice, not much longer than that is, a way back that goes wide.
    """
    if length(placed) <= _LEAST_XH or float(nearest(placed, case.template.points).max()) <= _AWAY_XH:
        return False
    ends = placed[[0, -1]]
    lifts = [np.stack([one[-1], then[0]]) for one, then in pairwise(case.template.runs.values())]
    if any(np.hypot(*(ends[::way] - lift).T).max() < _TO_TIP_XH for lift in lifts for way in (1, -1)):
        return False
    twice = case.template.points[case.template.twice]
    is_direct = length(placed) < _DIRECT * float(np.hypot(*(ends[1] - ends[0])))
    return not (len(twice) and is_direct and float(nearest(ends, twice).max()) < _TO_TIP_XH)


def _is_curl(run: FloatArray) -> bool:
    turns = turns_deg(resample(run, max(3, round(length(run) / _CURL_STEP_XH))))
    return abs(float(turns.sum())) > max(_TURN_DEG, _ONE_WAY * float(np.abs(turns).sum()))


def _trailing(case: Case, run: InkRun, of: int) -> IntArray:
    """Positions at the end of a run that are all matched to the end of the model's stroke."""
    last = int(case.template.stroke.searchsorted(of, "right")) - 1
    before = np.flatnonzero(case.match.model[run.at] < last - _END_POINTS)
    return run.positions[before[-1] + 1 :] if len(before) else run.positions[:0]


def _since_the_end(case: Case, run: InkRun, of: int) -> IntArray:
    """Positions after a run has come by the end of the model's stroke, about when it should."""
    way = along(case.normal[run.at]) / case.template.lengths[of]
    there = np.flatnonzero((way > _WAY[0]) & (way < _WAY[1]))
    if not len(there):
        return run.positions[:0]
    off = case.normal[run.at][there] - case.template.runs[of][-1]
    return run.positions[there[int(np.hypot(off[:, 0], off[:, 1]).argmin())] + 1 :]


def _goes_on(run: FloatArray) -> bool:
    """Whether a run is long enough, and turns: ink that goes on straighter is too long, not extra."""
    return length(run) > _LEAST_XH and abs(turning_deg(run[::_COARSE])) > _TURN_DEG


def is_extra(extra: Extra, without: Case) -> bool:
    """Whether a letter is whole without it and it leaves that letter; if not, it is misshapen or shaky."""
    whole = without.match.cost < _A_LETTER_XH and without.match.variant not in _NOT_WHOLE
    off = nearest(without.frame.apply(extra.span), without.template.points)
    return whole and float(off.max()) > _AWAY_XH
