"""One cause, one finding: what another finding already says is not said again."""

from __future__ import annotations

from collections.abc import Sequence

from firstloop.core.check.recognise.readings import BENT_ALL_OVER
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.check.vocabulary.grades import Severity

_EXPLAINS: dict[str, frozenset[str]] = {
    "start.bottom": frozenset({"shape.form", "size.tall", "shape.slant", "shape.width"}),
    "start.high": frozenset({"shape.slant"}),
    "start.low": frozenset({"retrace.gap", "shape.corner", "shape.slant"}),
    "start.side": frozenset({"shape.slant", "shape.corner"}),
    "shape.open": frozenset({"start.high", "start.low"}),
    "lift.missing": frozenset({"shape.form"}),
    "shape.reads-as": frozenset({"shape.form", "shape.corner", "shape.width", "shape.slant"}),
    "shape.part-missing": frozenset(
        {
            "retrace.gap",
            "lift.extra",
            "lift.missing",
            "start.side",
            "shape.bar-height",
            "shape.bars-uneven",
            "shape.bar-detached",
            "shape.width",
            "shape.corner",
        }
    ),
    "shape.slant": frozenset({"shape.width"}),
    "shape.reach": frozenset({"shape.width"}),
    "shape.bar-height": frozenset({"shape.bar-detached"}),
    "join.missing": frozenset({"shape.form"}),
    "join.crossing": frozenset({"shape.form"}),
    "size.rise-short": frozenset({"start.low", "shape.bar-height"}),
    "size.rise-tall": frozenset({"start.high", "shape.bar-height"}),
}
# the same, for findings that are far out: the unsteadiness of a letter far too small grows as it is
# blown up, and one bent all over is bent here and there as well
_FAR_OUT: dict[str, frozenset[str]] = {
    "size.short": frozenset({"retrace.gap", "shape.corner", "shape.form", "shape.bar-detached"}),
    "shape.form": frozenset({"shape.corner", "retrace.gap"}),
    "shape.slant": frozenset({"shape.dot-gap"}),
}
# the same, unless the letter is bent all over: a bar far from its place is off its way from end to end
_UNLESS_BENT: dict[str, frozenset[str]] = {"shape.bar-height": frozenset({"shape.form"})}
# two ways of saying the same: only the one further out is said
_RIVALS = (
    ("shape.slant", "shape.form"),
    ("shape.bars-uneven", "shape.width"),
)
# a letter bent all over is that, whatever else it seems to be, and not because of one of these
_BENT_EXPLAINS = frozenset({"shape.slant", "retrace.gap"})
_BENT_STANDS_BESIDE = frozenset({"start.bottom", "join.missing", "join.crossing"})
_HARDLY_A_JOIN = 1.2  # tolerances; a join that is missing, or a start, bends a letter less than that
_FAR = 1.8  # tolerances
_LEANS_FAR = 2.5  # tolerances
# a letter bent all over is that before it is pointed here or leaning there; more so where it is bent in
# places too: a lean alone rounds no corner and opens no way back
_FORM_WEIGHT, _FORM_WEIGHT_BENT = 1.5, 3.0
_BENT_CORNER, _BENT_GAP = 1.5, (1.4, 5.0)  # tolerances; a way back further off than that was never made


def unexplained(findings: Sequence[Finding]) -> list[Finding]:
    """Leave out what another finding already explains."""
    bent = is_bent_all_over(findings)
    if _leans_far(findings):
        findings = [finding for finding in findings if finding.code != "start.side"]
    stands_beside = _BENT_STANDS_BESIDE if form_off(findings) > _HARDLY_A_JOIN else frozenset()
    explained = {
        effect
        for finding in findings
        if finding.code not in stands_beside
        for effect in _EXPLAINS.get(finding.code, ())
    }
    if bent and "shape.form" not in explained:
        explained |= _BENT_EXPLAINS
    for finding in findings:
        if not bent:
            explained |= _UNLESS_BENT.get(finding.code, frozenset())
        if finding.severity is Severity.FIX:
            explained |= _FAR_OUT.get(finding.code, frozenset())
    form_weight = _FORM_WEIGHT_BENT if _bends_in_places(findings) else _FORM_WEIGHT
    out = {f.code: _times(f, form_weight) for f in findings if f.code not in explained}
    if out.keys() & {"shape.reads-as", "shape.open"} and out.get("start.side", _FAR) < _FAR:
        explained.add("start.side")  # a start far to one side is what makes it open, or another letter
    for pair in _RIVALS:
        if all(code in out for code in pair):
            explained.add(min(pair, key=lambda code: out[code]))
    return [finding for finding in findings if finding.code not in explained]


def is_bent_all_over(findings: Sequence[Finding]) -> bool:
    """Whether the form is so far out that what is said of single parts means little."""
    return form_off(findings) > BENT_ALL_OVER


def form_off(findings: Sequence[Finding]) -> float:
    """How many tolerances the form is out; 0 where it is not told."""
    return max((f.value / f.tolerance for f in findings if f.code == "shape.form" and f.tolerance), default=0)


def _leans_far(findings: Sequence[Finding]) -> bool:
    """Whether a letter leans so far that its start stands a little to one side for that alone."""
    out = {finding.code: _times(finding) for finding in findings}
    return out.get("shape.slant", 0.0) > _LEANS_FAR and out.get("start.side", 0.0) < _FAR


def _bends_in_places(findings: Sequence[Finding]) -> bool:
    """Whether a corner is lost, or a way back goes beside itself, as in a letter that is bent."""
    out = {finding.code: _times(finding) for finding in findings}
    low, high = _BENT_GAP
    return out.get("shape.corner", 0.0) > _BENT_CORNER or low <= out.get("retrace.gap", 0.0) < high


def _times(finding: Finding, form_weight: float = _FORM_WEIGHT) -> float:
    """How many tolerances out."""
    weight = form_weight if finding.code == "shape.form" else 1.0
    return weight * finding.value / finding.tolerance if finding.tolerance else 1.0
