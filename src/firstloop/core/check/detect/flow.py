"""Flow: told, never counted against a child."""

from __future__ import annotations

import numpy as np

from firstloop.core.check.match.case import Case
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import along, length, true_runs
from firstloop.core.ink import InkGroup

PAUSE_MS = 150.0
_TREMBLE_XH = 0.06  # and gone no further there and back
_STILL_XH = 0.0225  # moved no further than this in that time, a pen stands still


SLOW = 0.6  # of the child's usual speed


def speed_xh_s(group: InkGroup) -> float | None:
    """How fast the pen moved while it was down, xh a second; None without times."""
    way = time = 0.0
    for stroke, points in zip(group.strokes, group.in_letter_space, strict=True):
        if stroke.t_ms is not None and len(points) > 1:
            way += length(points)
            time += float(stroke.t_ms[-1] - stroke.t_ms[0])
    return 1000 * way / time if time > 0 else None


def slow(case: Case, usual_xh_s: float | None) -> list[Finding]:
    """Written clearly slower than this child usually writes."""
    speed = speed_xh_s(case.group)
    if speed is None or not usual_xh_s or speed >= SLOW * usual_xh_s:
        return []
    return case.find("flow.slow", speed / usual_xh_s, case.ink[0])


def pauses(case: Case) -> list[Finding]:
    """Times the pen stood still for more than 150 ms inside a stroke."""
    count = 0
    where = None
    for stroke, points in zip(case.group.strokes, case.group.in_letter_space, strict=True):
        if stroke.t_ms is None or len(points) < 4:
            continue
        later = np.searchsorted(stroke.t_ms, stroke.t_ms + PAUSE_MS)
        begins = np.flatnonzero(later < len(points))
        way = along(points)
        begins = begins[way[later[begins]] - way[begins] < _TREMBLE_XH]
        if not len(begins):
            continue
        moved = np.hypot(*(points[later[begins]] - points[begins]).T)
        still = np.zeros(len(points), dtype=np.bool_)
        still[begins[moved < _STILL_XH]] = True
        for a, b in true_runs(still):
            end = int(later[b - 1])
            if a > 0 and end < len(points) - 1:  # at its ends a hand may rest
                count += 1
                where = points[a : end + 1]
    return case.find("flow.pauses", count, where) if where is not None else []
