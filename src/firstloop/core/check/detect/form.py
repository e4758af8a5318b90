"""Form: how far the ink is from the model all over."""

from __future__ import annotations

import numpy as np

from firstloop.core.check.match.case import Case
from firstloop.core.check.match.frame import HEAD_XH
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import nearest

_SLIDE = 1.5  # see form_xh
_AROUND = 15  # points of ink shown on either side of the worst


def form_xh(case: Case) -> float:
    """Mean distance of the ink from its place on the model, in the letter's own frame, xh.

    The match may slide along the model and so takes in about a third of a bend (median over all
    letters, bends of 0.12 xh); the factor gives it back.
    """
    return float(_SLIDE * case.off_model.mean())


def form(case: Case) -> list[Finding]:
    """Mean distance to the model after best shift, scale and slant; points at the worst stretch.

    A start in the wrong place is told as that, so the first stretch may not make the shape worse.
    """
    distances = _SLIDE * case.off_model
    later = distances[case.match.since_pen_down > HEAD_XH]
    value = float(min(distances.mean(), later.mean() if len(later) else np.inf))
    if case.severity("shape.form", value) is None:
        return []
    off = nearest(case.normal, case.template.points)
    worst = int(off.argmax())
    span = np.arange(max(0, worst - _AROUND), min(len(off), worst + _AROUND + 1))
    return case.find("shape.form", value, span, stroke=int(case.template.stroke[case.match.model[worst]]))
