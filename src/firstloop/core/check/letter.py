"""One letter, judged: the way from ink to a verdict under each heading."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from firstloop.core.check.align import Correspondence, Lay, align_all, as_modelled, rematch_all
from firstloop.core.check.bars import bar_findings
from firstloop.core.check.bends import bend_findings
from firstloop.core.check.case import Case
from firstloop.core.check.causes import unexplained
from firstloop.core.check.codes import NO_OWN
from firstloop.core.check.direction import direction_findings
from firstloop.core.check.extra import find_extra, is_extra
from firstloop.core.check.findings import Finding
from firstloop.core.check.flow import pauses, slow, speed_xh_s
from firstloop.core.check.frame import Frame, Heights, heights, lay, without_stray_start
from firstloop.core.check.grades import Heading, Level, Severity
from firstloop.core.check.joins import join_crossing, join_findings
from firstloop.core.check.limits import too_much
from firstloop.core.check.mending import mended, without_taps
from firstloop.core.check.rows import Place
from firstloop.core.check.shape import Reading, form_xh, is_unreadable, read, shape_findings
from firstloop.core.check.size import size_findings
from firstloop.core.check.template import Template, template
from firstloop.core.curves import FloatArray, spline, steps
from firstloop.core.ink import InkError, InkGroup
from firstloop.core.letterforms.alphabets import ALPHABETS, alphabet_of
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle

CHECKER_VERSION = "3"
_ORDER = {Severity.TOLD: 0, Severity.NEAR: 1, Severity.FIX: 2}
_DUPLICATE_XH = 1e-6
_SPARSE_XH = 0.15  # points further apart than this are a slow tablet's: corners were cut between them
_CURVE_LEAST = 4
_TOGETHER = 16  # letters
_LOOK_AGAIN_XH = 0.045  # a match worse than this is made once more in its own frame


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
    strokes: int = 0
    duration_ms: float | None = None
    speed_xh_s: float | None = None


@dataclass(frozen=True, eq=False)
class LetterResult:
    """What the checker says of one letter.

    Parameters
    ----------
    verdict : str
        ``secure``, ``near``, ``fix`` or ``unreadable``.
    headings : dict
        A verdict for each heading.
    model_left_xh : float
        Where the model's origin stands when it is slid sideways under the ink, letter space.
    """

    expected: str
    verdict: str
    headings: dict[Heading, str]
    reads_as: str
    findings: tuple[Finding, ...]
    measures: Measures
    model_left_xh: float = 0.0
    place: Place | None = None


def _clean(stroke: FloatArray) -> FloatArray:
    """Drop points that repeat the one before (a resting pen); draw curves through points far apart."""
    moved = steps(stroke)
    points, size = stroke, float(moved.sum())
    if len(moved) and moved.min() <= _DUPLICATE_XH:
        points = stroke[np.concatenate([[True], moved > _DUPLICATE_XH])]
    if len(points) >= _CURVE_LEAST and size > _SPARSE_XH * (len(points) - 1):
        return spline(points)
    return points


def _verdict(findings: tuple[Finding, ...], heading: Heading | None = None) -> str:
    worst = max(
        (_ORDER[f.severity] for f in findings if heading is None or f.spec.heading is heading),
        default=0,
    )
    return ("secure", "near", "fix")[worst]


def _measures(
    group: InkGroup, ink: tuple[FloatArray, ...], form: float | None, slant: float | None
) -> Measures:
    points = np.concatenate(ink)
    low, high = points.min(0), points.max(0)
    return Measures(
        height_xh=float(high[1] - low[1]),
        height_mm=float((high[1] - low[1]) * group.ruling.xh_mm),
        width_xh=float(high[0] - low[0]),
        top_xh=float(high[1]),
        bottom_xh=float(low[1]),
        start_x_xh=float(ink[0][0, 0] - low[0]),
        start_y_xh=float(ink[0][0, 1]),
        slant_deg=slant,
        form_xh=form,
        strokes=len(ink),
        duration_ms=group.duration_ms,
        speed_xh_s=speed_xh_s(group),
    )


@dataclass(frozen=True, eq=False)
class Neighbours:
    """How a letter stands in its word.

    Parameters
    ----------
    template : Template or None
        Its model as it stands there; None for the letter as it stands alone.
    begins : bool
        Whether its ink begins where the pen went down.
    lifted_after : bool
        Whether the pen came up after it although the word runs on.
    """

    template: Template | None = None
    begins: bool = True
    lifted_after: bool = False


ALONE = Neighbours()


@dataclass(frozen=True, eq=False)
class Asked:
    """One written letter that is to be judged, and how.

    Parameters
    ----------
    group : InkGroup
        The strokes of this letter only.
    expected : str
        The letter the child was asked for.
    chars : str
        Letters it might be read as; those of its own alphabet where none are given.
    own : mapping
        Tolerances a class has accepted in place of the table's, by code, at the level "growing".
    usual_xh_s : float, optional
        How fast this child usually writes.
    """

    group: InkGroup
    expected: str
    style: HouseStyle = DEFAULT_STYLE
    level: Level = Level.GROWING
    chars: str = ""
    own: Mapping[str, float] = field(default_factory=lambda: NO_OWN)
    beside: Neighbours = ALONE
    usual_xh_s: float | None = None

    @property
    def forms(self) -> tuple[HouseStyle, ...]:
        """The class's style, then those with other forms of the letter that are no fault."""
        return accepted(self.expected, self.style) if self.beside.template is None else (self.style,)


def build_cases(asked: Sequence[Asked]) -> list[Case]:
    """Tie the ink of each letter to its model and lay it in its frame; taps of the pen are left out.

    Raises
    ------
    UnknownLetterError
        If the house has no model for a letter.
    InkError
        If there is no ink.
    """
    models, groups = [], []
    for one in asked:
        model = one.beside.template or template(one.expected, one.style)
        if not one.group.strokes:
            raise InkError("there is no ink to check")
        group = mended(one.group)
        keep = without_taps(group.in_letter_space, dots=model.dot is not None)
        if len(keep) < len(group.strokes):
            group = replace(group, strokes=tuple(group.strokes[i] for i in keep))
        models.append(model)
        groups.append(group)
    inks = [tuple(_clean(stroke) for stroke in group.in_letter_space) for group in groups]
    return [
        Case(group, ink, model, *laid, one.level, one.own, one.beside.begins, one.beside.lifted_after)
        for one, group, ink, model, laid in zip(asked, groups, inks, models, _laid(inks, models), strict=True)
    ]


Laid = tuple[Correspondence, Heights, Frame]


def _laid(inks: Sequence[tuple[FloatArray, ...]], models: Sequence[Template]) -> list[Laid]:
    """Match each ink with its model, and once more in its own frame where they do not fit well."""
    out: list[Laid] = []
    for match, model in zip(align_all(list(zip(inks, models, strict=True))), models, strict=True):
        found = heights(match, model)
        out.append((match, found, lay(match, model, found)))
    again: dict[int, tuple[Correspondence, Lay]] = {}
    for k, ((match, _, frame), model) in enumerate(zip(out, models, strict=True)):
        aside = without_stray_start(match, model, frame)
        if aside:
            again[k] = as_modelled(match, model), aside
        elif match.cost > _LOOK_AGAIN_XH:
            again[k] = match, frame.apply
    for k, match in zip(again, rematch_all(list(again.values())), strict=True):
        if again[k][0] is not out[k][0] or match.cost < out[k][0].cost:
            found = heights(match, models[k])
            out[k] = match, found, lay(match, models[k], found)
    return out


def build_case(group: InkGroup, expected: str, style: HouseStyle = DEFAULT_STYLE) -> Case:
    """As :func:`build_cases`, for one letter that stands alone."""
    return build_cases([Asked(group, expected, style)])[0]


def check_letter(
    group: InkGroup,
    expected: str,
    style: HouseStyle = DEFAULT_STYLE,
    level: Level = Level.GROWING,
    *,
    own: Mapping[str, float] = NO_OWN,
    usual_xh_s: float | None = None,
) -> LetterResult:
    """Judge one written letter that stands alone, as :func:`check_letters` does many."""
    return check_letters([Asked(group, expected, style, level, own=own, usual_xh_s=usual_xh_s)])[0]


def check_letters(asked: Sequence[Asked]) -> list[LetterResult]:
    """Judge written letters, each by the form among those its class accepts that it fits best.

    Together they take less time than one by one; a few at a time, so that no long line fills the memory.
    More ink than a letter can be is unreadable at once, and a mark is only found.

    Raises
    ------
    UnknownLetterError, InkError
        As :func:`build_cases`.
    """
    if len(asked) > _TOGETHER:
        return [*check_letters(asked[:_TOGETHER]), *check_letters(asked[_TOGETHER:])]
    at_once = [_without_looking(one) for one in asked]
    cases = iter(build_cases([one for one, known in zip(asked, at_once, strict=True) if known is None]))
    out: list[LetterResult] = []
    for one, known in zip(asked, at_once, strict=True):
        if known is not None:
            out.append(known)
            continue
        case = next(cases)
        best = _check(case, one)
        for form in one.forms[1:]:
            if best.verdict == "secure":
                break
            other = replace(one, style=form)
            best = min(best, _check(build_cases([other])[0], other), key=_badness)
        out.append(best)
    return out


def _without_looking(asked: Asked) -> LetterResult | None:
    """What is said of ink that no model is laid on; None where one is."""
    if asked.expected in ALPHABETS["marks"] and asked.group.strokes:
        return found_mark(asked.expected)
    return unreadable(asked.group, asked.expected) if too_much(asked.group) else None


def found_mark(char: str) -> LetterResult:
    """A full stop or another mark: found, and no more than that."""
    return LetterResult(char, "secure", {heading: "not-seen" for heading in Heading}, char, (), Measures())


def accepted(char: str, style: HouseStyle) -> tuple[HouseStyle, ...]:
    """The class's style, then those with other forms of `char` that are no fault.

    After the stem of a capital a child may lift or go back up, whichever the model shows.
    """
    stems = CHOICES["stems"]
    if char not in stems.letters:
        return (style,)
    return style, *(style.choosing("stems", o) for o in stems.options if o != style.pick("stems"))


def _relaid(case: Case, ink: tuple[FloatArray, ...]) -> Case:
    """The same case with other ink."""
    match, found, frame = _laid([ink], [case.template])[0]
    return replace(case, ink=ink, match=match, heights=found, frame=frame)


def _without_extra(case: Case) -> tuple[Case, list[Finding]]:
    """The case without ink that goes on after the end of the letter, and what to say of that."""
    extra = find_extra(case)
    if extra is None or join_crossing(case):  # a loop that crosses elsewhere is that
        return case, []
    said = case.find("shape.part-extra", extra.length_xh, extra.span, stroke=0)
    ink = tuple(extra.rest if i == extra.stroke else stroke for i, stroke in enumerate(case.ink))
    rest = _relaid(case, ink)
    better = rest.match.cost < case.match.cost and is_extra(extra, rest)
    return (rest, said) if said and better else (case, [])


def _badness(result: LetterResult) -> tuple[int, int]:
    order = ("secure", "near", "fix", "unreadable")
    return order.index(result.verdict), len(result.findings)


def _check(case: Case, asked: Asked) -> LetterResult:
    expected, style = case.char, asked.style
    chars = asked.chars or "".join(ALPHABETS[alphabet_of(expected)])
    extra: list[Finding] = []
    reading = read(case, style, chars)
    if is_unreadable(case, reading):
        return unreadable(case.group, expected)
    if reading.other is None and not reading.mirrored:  # a g for a q has no extra curl: it is a g
        case, extra = _without_extra(case)
        reading = read(case, style, chars) if extra else reading
    shape = shape_findings(case, reading, style)
    if not reading.mirrored:
        shape += bar_findings(case) + bend_findings(case) + join_findings(case)
    direction = [] if reading.mirrored else direction_findings(case)
    flow = pauses(case) + slow(case, asked.usual_xh_s)
    findings = tuple([*extra, *unexplained([*direction, *shape, *_size(case, reading)]), *flow])
    headings = {heading: _verdict(findings, heading) for heading in Heading}
    return LetterResult(
        expected=expected,
        verdict=_verdict(findings),
        headings=headings,
        reads_as=reading.reads_as,
        findings=findings,
        measures=_measures(case.group, case.ink, form_xh(case), case.slant_deg),
        model_left_xh=model_left_xh(case),
        place=_place(case),
    )


def _size(case: Case, reading: Reading) -> list[Finding]:
    """Size and place; of a mirrored letter through its mirror image, where its landmarks are found."""
    if not reading.mirrored:
        return size_findings(case)
    flip = np.array([-1.0, 1.0])
    ink = tuple(stroke * flip for stroke in case.ink)
    turned = _relaid(case, ink)
    return [
        replace(f, at=f.at * flip, span=f.span * flip, goal=None if f.goal is None else f.goal * flip)
        for f in size_findings(turned)
    ]


def unreadable(group: InkGroup, expected: str) -> LetterResult:
    """Ink that is no letter: that, and nothing else."""
    ink = group.in_letter_space
    span = np.concatenate(ink)
    finding = Finding("unreadable", Severity.FIX, 0.0, None, 0, 0, span[len(span) // 2], span)
    return LetterResult(
        expected=expected,
        verdict="unreadable",
        headings={heading: "not-seen" for heading in Heading},
        reads_as="",
        findings=(finding,),
        measures=_measures(group, ink, None, None),
    )


def model_left_xh(case: Case) -> float:
    """x of the model's origin when its middle stands under the middle of the ink, letter space."""
    points = np.concatenate(case.ink)
    left, _, right, _ = case.template.letter.bounds
    return float((points[:, 0].min() + points[:, 0].max()) / 2 - (left + right) / 2)


def _place(case: Case) -> Place:
    """Where the letter stands, for what is judged of a row or word as a whole."""
    every, own = (np.concatenate(ink)[:, 0] for ink in (case.ink, case.bare_ink))
    h, model = case.heights, case.template
    foot = 0.0 if h.foot is None else h.foot
    sized = h.foot is not None and (h.top is not None or (h.rise is not None and not model.is_lower))
    tall = deep = None
    if model.is_lower and h.rise is not None:
        tall = (h.rise - foot) / float(model.points[model.rises, 1].max())
    if h.drop is not None:
        deep = h.drop / float(model.points[model.drops, 1].min())
    return Place(
        float(every.min()),
        float(every.max()),
        float(own.min()),
        float(own.max()),
        foot=h.lowest,
        body=case.frame.scale if sized else None,
        tall=tall,
        deep=deep,
    )
