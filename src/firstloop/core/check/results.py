"""What the checker says of one letter."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.check.vocabulary.grades import Heading, Verdict
from firstloop.core.check.whole.placement import Placement


@dataclass(frozen=True)
class Measures:
    """Numbers of one written letter; None where the evidence cannot give one."""

    height_xh: float | None = None
    height_mm: float | None = None
    width_xh: float | None = None
    top_xh: float | None = None
    bottom_xh: float | None = None
    start_x_xh: float | None = None
    start_y_xh: float | None = None
    slant_deg: float | None = None
    form_xh: float | None = None
    strokes: int | None = None
    duration_ms: float | None = None
    speed_xh_s: float | None = None


@dataclass(frozen=True, eq=False)
class LetterResult:
    """What the checker says of one letter.

    Parameters
    ----------
    headings : dict
        A verdict for each heading.
    model_left_xh : float
        Where the model's origin stands when it is slid sideways under the ink, letter space.
    """

    expected: str
    verdict: Verdict
    headings: dict[Heading, Verdict]
    reads_as: str
    findings: tuple[Finding, ...]
    measures: Measures
    model_left_xh: float = 0.0
    place: Placement | None = None


def worst_of(findings: Sequence[Finding], heading: Heading | None = None) -> Verdict:
    """The verdict that findings come to, all of them or those of one heading."""
    mine = (f.severity.verdict for f in findings if heading is None or f.spec.heading is heading)
    return max(mine, key=lambda verdict: verdict.badness, default=Verdict.SECURE)


def nothing_seen() -> dict[Heading, Verdict]:
    """Verdicts of ink that says nothing under any heading."""
    return dict.fromkeys(Heading, Verdict.NOT_SEEN)


def not_seen(char: str) -> LetterResult:
    """A letter without ink."""
    return LetterResult(char, Verdict.NOT_SEEN, nothing_seen(), "", (), Measures())


def found_mark(char: str) -> LetterResult:
    """A full stop or another mark: found, and no more than that."""
    return LetterResult(char, Verdict.SECURE, nothing_seen(), char, (), Measures())
