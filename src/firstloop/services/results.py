"""What a checker said, as it is shown: the kept document with its headings, units and sentences."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, fields
from typing import Any

from firstloop.core.check.results import Measures
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Heading, Severity, Unit, Verdict
from firstloop.core.check.whole.placement import Placement
from firstloop.core.message import message
from firstloop.core.teaching.advice import AttemptFinding
from firstloop.text import put, say
from firstloop.text.findings import allowance, to_child, to_teacher

Document = Mapping[str, Any]
Points = list[list[float]]


@dataclass(frozen=True)
class FindingView:
    """Something outside its tolerance; places in page millimetres, ``goal`` is where ``at`` should be.

    ``allowance`` says in words how much of it is fine, ``mm`` is the value of a length in millimetres.
    """

    code: str
    heading: Heading
    severity: Severity
    stroke: int
    move: int
    value: float
    unit: str
    tolerance: float | None
    at: list[float]
    span: Points
    goal: list[float] | None
    mm: float | None
    allowance: str
    teacher: str
    child: str

    @property
    def counts(self) -> bool:
        """Whether it is something to mend; what is only told counts for nothing."""
        return self.severity is not Severity.TOLD


@dataclass(frozen=True)
class HeadingVerdicts:
    """A verdict for each heading."""

    direction: Verdict
    shape: Verdict
    size: Verdict
    flow: Verdict


@dataclass(frozen=True)
class MeasuresView:
    """Numbers of one letter; null where the evidence gives none."""

    height_xh: float | None
    height_mm: float | None
    width_xh: float | None
    top_xh: float | None
    bottom_xh: float | None
    start_x_xh: float | None
    start_y_xh: float | None
    slant_deg: float | None
    form_xh: float | None
    strokes: int | None
    duration_ms: float | None
    speed_xh_s: float | None


@dataclass(frozen=True)
class LetterView:
    """One judged letter; ``model_left_mm`` is where the model's origin stands under the ink.

    ``tells_most`` is the place in ``findings`` of the one to look at first. Lengths of ``place`` are xh from
    the page's left and the base line, its heights against the model's.
    """

    expected: str
    verdict: Verdict
    headings: HeadingVerdicts
    reads_as: str
    findings: list[FindingView]
    tells_most: int | None
    measures: MeasuresView
    model_left_mm: float
    place: Placement | None


@dataclass(frozen=True)
class GroupView:
    """A judged group."""

    truth: str
    letters: list[LetterView]
    findings: list[FindingView]
    measures: dict[str, float | None]
    note: str


@dataclass(frozen=True)
class RemarkView:
    """Something to say of a word: of which letters, or of "the whole", to the teacher and to the child."""

    of: str
    of_letters: bool
    teacher: str
    child: str = ""


@dataclass
class _Alike:
    """The same finding in several letters."""

    first: FindingView
    chars: list[str] = field(default_factory=list)


def finding_view(document: Document, xh_mm: float) -> FindingView:
    """A kept finding with what its code adds, and its sentences.

    Parameters
    ----------
    xh_mm : float
        Height of the middle band that it was written in.
    """
    code, value, facts = document["code"], document["value"], document.get("facts", {})
    return FindingView(
        code=code,
        heading=CODES[code].heading,
        severity=Severity(document["severity"]),
        stroke=document["stroke"],
        move=document["move"],
        value=value,
        unit=str(CODES[code].unit),
        tolerance=document.get("tolerance"),
        at=document["at"],
        span=document["span"],
        goal=document.get("goal"),
        allowance=allowance(code, value, document.get("tolerance"), xh_mm),
        mm=round(value * xh_mm, 1) if CODES[code].unit is Unit.XH else None,
        teacher=to_teacher(code, value, facts, xh_mm),
        child=to_child(code, value, facts, xh_mm),
    )


def advice_findings(document: Document) -> list[AttemptFinding]:
    """The findings of a kept letter or whole, as advice is given by them; none where nothing was judged."""
    return [
        AttemptFinding(one["code"], Severity(one["severity"]), one["value"], one.get("facts", {}))
        for one in document.get("findings", [])
    ]


def counted_codes(document: Document) -> list[str]:
    """Codes of a kept letter's findings that are to be mended, each as often as it was found."""
    return [one["code"] for one in document.get("findings", []) if one["severity"] != Severity.TOLD]


_NO_MEASURES = {one.name: one.default for one in fields(Measures)}


def letter_view(document: Document, xh_mm: float, tells_most: int | None = None) -> LetterView:
    """A kept letter to be shown."""
    place = document["place"]
    return LetterView(
        expected=document["expected"],
        verdict=Verdict(document["verdict"]),
        headings=HeadingVerdicts(
            **{str(one): Verdict(document["headings"].get(one, Verdict.NOT_SEEN)) for one in Heading}
        ),
        reads_as=document["reads_as"],
        findings=[finding_view(one, xh_mm) for one in document["findings"]],
        tells_most=tells_most,
        measures=MeasuresView(**{**_NO_MEASURES, **document["measures"]}),
        model_left_mm=document["model_left_mm"],
        place=None if place is None else Placement(**place),
    )


def group_view(document: Document, xh_mm: float) -> GroupView:
    """A kept group to be shown."""
    note = document["note"]
    return GroupView(
        truth=document["truth"],
        letters=[letter_view(one, xh_mm) for one in document["letters"]],
        findings=[finding_view(one, xh_mm) for one in document["findings"]],
        measures=dict(document["measures"]),
        note="" if note is None else put(message(note["key"], **note["values"])),
    )


def remarks(group: GroupView) -> list[RemarkView]:
    """What to say of a word: of the whole first, then of what is missing, then of its letters.

    What is the same with several letters is said once.
    """
    said = [RemarkView(say("the-whole"), False, one.teacher, one.child) for one in _counted(group.findings)]
    unseen = ", ".join(one.expected for one in group.letters if one.verdict is Verdict.NOT_SEEN)
    if unseen:
        said.append(RemarkView(say("the-unseen"), False, say("not-seen", letters=unseen)))
    alike: dict[tuple[str, str], _Alike] = {}
    for letter in group.letters:
        for one in _counted(letter.findings):
            alike.setdefault((one.code, one.child), _Alike(one)).chars.append(letter.expected)
    return [*said, *map(_of_letters, alike.values())]


def _of_letters(those: _Alike) -> RemarkView:
    """A finding of one letter, or of several: the first with its measure, the others named."""
    char, *others = those.chars
    teacher = those.first.teacher
    if others:
        teacher = say("also-of", said=teacher.removesuffix("."), char=char, others=", ".join(others))
    return RemarkView(" ".join(those.chars), True, teacher, those.first.child)


def _counted(findings: Iterable[FindingView]) -> list[FindingView]:
    return [one for one in findings if one.counts]
