"""Shape: mirrored, read as something else, a part missing, a bowl open, too wide.

The limits are set on the tuning hand of ``first-loop evaluate``, between what its clean letters and
its faulty ones reach.
"""

from __future__ import annotations

import numpy as np

from firstloop.core.check.detect.causes import is_bent_all_over
from firstloop.core.check.match.align import INK_XH
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.template import FINE_XH, ModelPart
from firstloop.core.check.recognise.differences import difference
from firstloop.core.check.recognise.readings import Reading
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import IntArray, nearest
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.moves import MoveKind

K = MoveKind
_COVERED = 0.45
_TRACE_OF_IT = 0.3  # a part of which this share is covered was meant
_STOPPED_XH = 0.5  # an end this far from the model's lets a part count as missing sooner
_STOPPED_COVERED = 0.7
_MEANT = 0.5  # a stroke that is matched to the bar by more than this share was meant as the bar
_FLAT = 1.5
_OFF_THE_WAY_XH, _BEFORE_A_STEM_XH = 0.22, 0.30
_FIRST_XH = 0.75  # as far along its way as a bowl may be begun and still be a letter
_BAR_LEAST = 0.6  # of a bar's length, run through flat
_PART_LEAST = 4  # points; less of a part than this cannot be told from its neighbours
_WIDTH_LEAST_XH = 0.45


def shape_findings(case: Case, reading: Reading, bent: list[Finding], style: HouseStyle) -> list[Finding]:
    """Everything wrong with the shape; one cause, one finding.

    Parameters
    ----------
    bent : list of Finding
        What is wrong with its form, before anything else explains it.
    """
    everything = np.arange(len(case.match.ink))
    if reading.mirrored:
        return mirrored(case, reading, everything)
    missing = part_missing(case)
    if missing and bent and _is_only_misshapen(case, missing[0]):
        missing = []
    out = missing + reads_as(case, reading, style, everything)
    if not missing:
        out += shape_open(case) + width(case, everything)
    if reading.other is None and not (missing and not is_bent_all_over(bent)):
        out += bent
    return out


def _is_only_misshapen(case: Case, missing: Finding) -> bool:
    """Whether a part that seems missing is there after all, misshapen like the rest of the letter."""
    strokes = case.template.letter.kinds
    stroke_left_out = len(strokes[missing.stroke]) == 1 and len(case.ink) < len(strokes)
    return missing.value > _TRACE_OF_IT and not stroke_left_out


def mirrored(case: Case, reading: Reading, span: IntArray) -> list[Finding]:
    """The mirror image fits clearly better than the model."""
    begins = "round" if case.template.kinds[0] in (K.ROUND_LEFT, K.ROUND_RIGHT) else "downstroke"
    return case.find("shape.mirrored", reading.own_cost, span, reads=reading.other or "", begins=begins)


def reads_as(case: Case, reading: Reading, style: HouseStyle, span: IntArray) -> list[Finding]:
    """Another letter of the class fits clearly better where it stands."""
    if reading.other is None:
        return []
    why = difference(case.char, reading.other, style)
    return case.find("shape.reads-as", reading.own_cost, span, reads=reading.other, why=why)


def part_missing(case: Case) -> list[Finding]:
    """A part of the model that no ink covers; the worst one is named."""
    ink = np.concatenate(case.dense)
    worst: tuple[float, ModelPart] | None = None
    for part in case.template.parts:
        if part.name == "dot":
            if case.match.dot is None and not _dot_like(case):
                return case.find(
                    "shape.part-missing", 0.0, case.match.ink[:1], stroke=part.stroke, part="dot"
                )
            continue
        stopped = _stopped_before(case, part)
        if len(part.points) < _PART_LEAST and not stopped:
            continue
        cover = _bar_cover(case, part) if _is_own_bar(case, part) else part.coverage(ink)
        if cover < (_STOPPED_COVERED if stopped else _COVERED) and (worst is None or cover < worst[0]):
            worst = (cover, part)
    if worst is None:
        return []
    cover, part = worst
    where = case.match.matched(
        np.flatnonzero((case.template.stroke == part.stroke) & (case.template.move == part.move))
    )
    return case.find("shape.part-missing", cover, where, stroke=part.stroke, move=part.move, part=part.name)


def _is_own_bar(case: Case, part: ModelPart) -> bool:
    return part.name == "bar" and case.template.letter.kinds[part.stroke] == (K.BAR,)


def _bar_cover(case: Case, part: ModelPart) -> float:
    """Whether some ink was meant as the bar, wherever it stands: a stroke of its own, or a flat stretch."""
    of_ink = case.template.stroke[case.match.model]
    for run, here in zip(case.match.runs, case.shares[:, part.stroke], strict=True):
        wide, high = np.ptp(case.normal[run.at], axis=0)
        if here > _MEANT * run.size and wide > high:
            return 1.0
    across, up = np.abs(np.diff(case.normal[of_ink == part.stroke], axis=0)).T
    flat = float(across[across > _FLAT * up].sum())
    is_bar = flat > _BAR_LEAST * float(np.ptp(part.points[:, 0]))
    return part.coverage(np.concatenate(case.dense)) if is_bar else 0.0


def _stopped_before(case: Case, part: ModelPart) -> bool:
    """Whether this is the model's last part and the pen came up far from its end."""
    strokes = case.template.letter.strokes
    if len(strokes) > 1 or part.move != len(strokes[0].moves) - 1:
        return False
    end = case.template.points[-1]
    return min(float(np.hypot(*(stroke[-1] - end))) for stroke in case.all_normal) > _STOPPED_XH


def _dot_like(case: Case) -> bool:
    """A second mark anywhere above the letter, however large."""
    body_top = case.heights.top if case.heights.top is not None else 1.0
    return any(float(stroke[:, 1].min()) > body_top + 0.05 for stroke in case.ink)


def shape_open(case: Case) -> list[Finding]:
    """Gap where a bowl should close."""
    match = case.match
    start = case.all_normal[match.arrangement.order[0]][:1]
    first = case.template.points[: round(_FIRST_XH / FINE_XH)]
    off = float(nearest(start, first)[0])
    last_move = len(case.template.letter.kinds[0]) - 1
    for closure in case.template.closures:
        if off > (_OFF_THE_WAY_XH if closure.move == last_move else _BEFORE_A_STEM_XH):
            continue  # begun off the way, the bowl cannot close: the start is told
        ending, partner = match.matched(closure.ending), match.matched(closure.partner)
        if len(ending) < 1 or len(partner) < 1:
            continue
        gaps = nearest(match.ink[ending], match.ink[partner])
        gap = max(0.0, float(gaps.min()) - INK_XH / 2) / case.frame.scale
        found = case.find("shape.open", gap, match.ink[ending], move=closure.move)
        if found:
            return found
    return []


def width(case: Case, span: IntArray) -> list[Finding]:
    """Width against the model at the same height."""
    if case.template.width < _WIDTH_LEAST_XH or np.isnan(case.frame.width_ratio):
        return []
    ratio = case.frame.width_ratio
    off = 100 * max(ratio - 1, 1 / ratio - 1 if ratio < 1 else 0)
    return case.find("shape.width", off, span, way="wider" if ratio > 1 else "narrower")
