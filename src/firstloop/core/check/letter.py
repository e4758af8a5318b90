"""One letter, judged: the way from ink to a verdict under each heading."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from firstloop.core.check.detect.bars import bar_findings
from firstloop.core.check.detect.bends import bend_findings
from firstloop.core.check.detect.causes import form_off, unexplained
from firstloop.core.check.detect.direction import direction_findings
from firstloop.core.check.detect.extra import without_extra
from firstloop.core.check.detect.flow import pauses, slow, speed_xh_s
from firstloop.core.check.detect.form import form, form_xh
from firstloop.core.check.detect.joins import join_crossing, join_findings
from firstloop.core.check.detect.shape import shape_findings
from firstloop.core.check.detect.size import size_findings
from firstloop.core.check.ink.limits import too_much
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.cases import Asked, build_cases, relaid
from firstloop.core.check.recognise.readings import Reading, is_unreadable, read
from firstloop.core.check.results import LetterResult, Measures, found_mark, nothing_seen, worst_of
from firstloop.core.check.vocabulary.codes import NO_TOLERANCES
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.check.vocabulary.grades import Heading, Level, Severity, Verdict
from firstloop.core.check.whole.placement import Placement
from firstloop.core.curves import FloatArray, flipped, steps
from firstloop.core.ink import Evidence, InkGroup
from firstloop.core.letterforms.alphabets import ALPHABETS, alphabet_of
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle

CHECKER_VERSION = "8"
_TOGETHER = 16  # letters
_UNSEEN = (Heading.DIRECTION, Heading.FLOW)
"""What a picture of ink says nothing of."""
LIFTS = ("join.break",)
"""Findings under other headings that tell of a lift."""
_CORNERS = ("shape.corner",)
_MEETING_XH = 0.2  # the chord that a bend is measured over, and a little: its chords go into the meeting
_ELSEWHERE_XH = 0.45  # so far along the way
_CORNER_SURE = 1.4  # tolerances: thinning alone bends a blunt pencil's line by some (`evaluate --paper`)


def _measures(
    group: InkGroup, ink: tuple[FloatArray, ...], form: float | None, slant: float | None
) -> Measures:
    points = np.concatenate(ink)
    low, high = points.min(0), points.max(0)
    seen_written = group.evidence is Evidence.INK
    return Measures(
        height_xh=float(high[1] - low[1]),
        height_mm=float((high[1] - low[1]) * group.ruling.xh_mm),
        width_xh=float(high[0] - low[0]),
        top_xh=float(high[1]),
        bottom_xh=float(low[1]),
        start_x_xh=float(ink[0][0, 0] - low[0]) if seen_written else None,
        start_y_xh=float(ink[0][0, 1]) if seen_written else None,
        slant_deg=slant,
        form_xh=form,
        strokes=len(ink) if seen_written else None,
        duration_ms=group.duration_ms,
        speed_xh_s=speed_xh_s(group),
    )


def check_letter(
    group: InkGroup,
    expected: str,
    style: HouseStyle = DEFAULT_STYLE,
    level: Level = Level.GROWING,
    *,
    tolerances: Mapping[str, float] = NO_TOLERANCES,
    usual_xh_s: float | None = None,
) -> LetterResult:
    """Judge one written letter that stands alone, as :func:`check_letters` does many."""
    return check_letters(
        [Asked(group, expected, style, level, tolerances=tolerances, usual_xh_s=usual_xh_s)]
    )[0]


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
        for accepted in one.forms[1:]:
            if best.verdict is Verdict.SECURE:
                break
            other = replace(one, style=accepted)
            best = min(best, _check(build_cases([other])[0], other), key=_badness)
        out.append(best)
    return out


def _without_looking(asked: Asked) -> LetterResult | None:
    """What is said of ink that no model is laid on; None where one is."""
    if asked.expected in ALPHABETS["marks"] and asked.group.strokes:
        return found_mark(asked.expected)
    return unreadable(asked.group, asked.expected) if too_much(asked.group) else None


def _without_extra(case: Case, lost: bool) -> tuple[Case, list[Finding]]:
    """The case without ink that goes on after the end of the letter, and what to say of that."""
    if join_crossing(case):
        return case, []  # a loop that crosses elsewhere is that
    found = without_extra(case, only_curls=lost)
    if found is None:
        return case, []
    rest, extra = found
    said = case.find("shape.part-extra", extra.length_xh, extra.span, stroke=0)
    return (rest, said) if said else (case, [])


def _badness(result: LetterResult) -> tuple[int, int]:
    return result.verdict.badness, len(result.findings)


def _check(case: Case, asked: Asked) -> LetterResult:
    expected, style = case.char, asked.style
    chars = asked.chars or "".join(ALPHABETS[alphabet_of(expected)])
    extra: list[Finding] = []
    bent = form(case)
    reading = read(case, style, chars, form_off(bent))
    lost = is_unreadable(case, reading)
    if lost or (reading.other is None and not reading.mirrored):  # a g for a q has no extra curl: it is a g
        case, extra = _without_extra(case, lost)
        if extra:
            bent = form(case)
            reading = read(case, style, chars, form_off(bent))
        elif lost:
            return unreadable(case.group, expected)
    shape = shape_findings(case, reading, bent, style)
    if not reading.mirrored:
        shape += bar_findings(case) + bend_findings(case) + join_findings(case)
    direction = [] if reading.mirrored else direction_findings(case)
    flow = pauses(case) + slow(case, asked.usual_xh_s)
    findings = tuple([*extra, *unexplained([*direction, *shape, *_size(case, reading)]), *flow])
    if case.group.evidence is Evidence.SCAN:
        findings = tuple(f for f in findings if _shows_on_paper(f, case))
    headings = {heading: worst_of(findings, heading) for heading in Heading}
    if case.group.evidence is Evidence.SCAN:
        headings |= dict.fromkeys(_UNSEEN, Verdict.NOT_SEEN)
    return LetterResult(
        expected=expected,
        verdict=worst_of(findings),
        headings=headings,
        reads_as=reading.reads_as,
        findings=findings,
        measures=_measures(case.group, case.ink, form_xh(case), case.slant_deg),
        model_left_xh=model_left_xh(case),
        place=_placement(case),
    )


def _shows_on_paper(finding: Finding, case: Case) -> bool:
    """Whether ink of which only the picture is known can tell a finding.

    Where lines meet, a way goes round a corner that no pen has made; a blunt pencil makes others rounder.
    """
    if finding.spec.heading in _UNSEEN or finding.code in LIFTS:
        return False
    if finding.code not in _CORNERS:
        return True
    return finding.value > _CORNER_SURE * (finding.tolerance or 0.0) and not _is_meeting(finding.at, case)


def _is_meeting(spot: FloatArray, case: Case) -> bool:
    """Whether ink from elsewhere along the way comes by a place of the ink."""
    near = [np.hypot(*(stroke - spot).T) for stroke in case.ink]
    own = min(range(len(near)), key=lambda i: float(near[i].min()))
    for i, away in enumerate(near):
        others = away < _MEETING_XH
        if i == own:
            along = np.append(0.0, np.cumsum(steps(case.ink[i])))
            others &= np.abs(along - along[int(away.argmin())]) > _ELSEWHERE_XH
        if others.any():
            return True
    return False


def _size(case: Case, reading: Reading) -> list[Finding]:
    """Size and place; of a mirrored letter through its mirror image, where its landmarks are found."""
    if not reading.mirrored:
        return size_findings(case)
    turned = relaid(case, tuple(map(flipped, case.ink)))
    return [
        replace(f, at=flipped(f.at), span=flipped(f.span), goal=None if f.goal is None else flipped(f.goal))
        for f in size_findings(turned)
    ]


def unreadable(group: InkGroup, expected: str) -> LetterResult:
    """Ink that is no letter: that, and nothing else."""
    ink = group.in_letter_space
    span = np.concatenate(ink)
    finding = Finding("unreadable", Severity.FIX, 0.0, None, 0, 0, span[len(span) // 2], span)
    return LetterResult(
        expected=expected,
        verdict=Verdict.UNREADABLE,
        headings=nothing_seen(),
        reads_as="",
        findings=(finding,),
        measures=_measures(group, ink, None, None),
    )


def model_left_xh(case: Case) -> float:
    """x of the model's origin when its middle stands under the middle of the ink, letter space."""
    points = np.concatenate(case.ink)
    left, _, right, _ = case.template.letter.bounds
    return float((points[:, 0].min() + points[:, 0].max()) / 2 - (left + right) / 2)


def _placement(case: Case) -> Placement:
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
    return Placement(
        float(every.min()),
        float(every.max()),
        float(own.min()),
        float(own.max()),
        foot=h.lowest,
        body=case.frame.scale if sized else None,
        tall=tall,
        deep=deep,
    )
