"""Size: height, and place on the lines, as written."""

from __future__ import annotations

import numpy as np

from firstloop.core.check.match.case import Case
from firstloop.core.check.match.frame import agreed
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import IntArray

_TAIL_UP_XH = 0.17  # a tail whose end is at most this far below the base line stands on it


def size_findings(case: Case) -> list[Finding]:
    """Everything wrong with size and place; one cause, one finding."""
    on_line = tail_on_line(case)
    if on_line:
        return on_line
    shift = _shift(case)
    if not case.template.is_lower:
        return whole(case) + place(case, shift)
    return body(case) + place(case, shift) + rise(case, shift) + drop(case, shift)


def whole(case: Case) -> list[Finding]:
    """Height of a capital or a digit against its band."""
    off = 100 * (case.frame.scale - 1)
    code = "size.tall" if off > 0 else "size.short"
    where = _ink_at(case, "rises")
    goal = float(case.template.points[case.template.rises, 1].max())
    return case.find(code, abs(off), where, height=goal, which="whole", line=case.common_facts["top"])


def _shift(case: Case) -> float:
    """How far the whole letter is moved up (or down), xh."""
    h = case.heights
    if h.foot is not None:
        return h.foot
    if h.top is not None and h.drop is not None:  # j: no foot, so both ends must agree
        return agreed(h.top - 1.0, h.drop + 1.0)
    return 0.0


def _ink_at(case: Case, name: str) -> IntArray:
    near = [one.near for one in case.template.landmarks[name]]
    return case.match.matched(np.concatenate(near)) if near else np.arange(1)


def tail_on_line(case: Case) -> list[Finding]:
    """A letter with a tail that stands wholly on the base line."""
    h = case.heights
    if not len(case.template.drops) or h.drop is None:
        return []
    raised = h.drop > -_TAIL_UP_XH
    lifted = (h.foot is not None and h.foot > 0.8) or (h.foot is None and h.top is not None and h.top > 1.75)
    if not (raised and lifted):
        return []
    return case.find("position.tail-on-line", h.drop + 1.0, _ink_at(case, "drops"), height=-1.0)


def body(case: Case) -> list[Finding]:
    """Height of the part in the middle band."""
    h = case.heights
    if h.top is None:
        return []
    if h.foot is not None:
        ratio = h.top - h.foot
    elif h.drop is not None:  # j
        ratio = 1.0 + agreed(h.top - 1.0, -1.0 - h.drop)
    else:
        return []
    off = 100 * (ratio - 1)
    code = "size.tall" if off > 0 else "size.short"
    where = _ink_at(case, "tops")
    return case.find(code, abs(off), where, height=1.0, which="body", line="mid")


def place(case: Case, shift: float) -> list[Finding]:
    """Lowest point of the body against the base line."""
    h = case.heights
    lowest = shift if h.lowest is None else h.lowest
    where = _ink_at(case, "feet" if len(case.template.feet) else "drops")
    return case.find(
        "position.floating" if lowest > 0 else "position.sinking", abs(lowest), where, height=0.0
    )


def _least_off(written: float, model: float, shift: float, scale: float) -> float:
    """How far an end is out, by the kindest explanation: as written, moved or scaled with the letter."""
    offs = [written - model, written - shift - model, (written - shift) / scale - model]
    return 0.0 if min(offs) < 0 < max(offs) else min(offs, key=abs)


def rise(case: Case, shift: float) -> list[Finding]:
    """Top of the part in the rise band against the model's."""
    if not len(case.template.rises):
        return []
    model = float(case.template.points[case.template.rises, 1].max())
    written = case.heights.rise
    if written is None:  # nothing was taken for the tall part: what is highest has to stand for it
        written = float(case.match.ink[:, 1].max())
    off = _least_off(written, model, shift, case.frame.scale)
    code = "size.rise-tall" if off > 0 else "size.rise-short"
    return case.find(code, abs(off), _ink_at(case, "rises"), height=model)


def drop(case: Case, shift: float) -> list[Finding]:
    """Bottom of the tail against the model's."""
    h = case.heights
    if h.drop is None:
        return []
    model = float(case.template.points[case.template.drops, 1].min())
    off = _least_off(h.drop, model, shift, case.frame.scale)
    code = "size.drop-short" if off > 0 else "size.drop-long"
    return case.find(code, abs(off), _ink_at(case, "drops"), height=model)
