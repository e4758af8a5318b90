"""A row, a word or a line as a whole: evenness, room between letters and words, and the line of feet."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np

from firstloop.core.check.codes import severity_of, tolerance_at
from firstloop.core.check.findings import Finding
from firstloop.core.check.grades import Level
from firstloop.core.check.reading import bare
from firstloop.core.check.template import template
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.letterforms.words import word

_FINGER_LEAST_XH = 0.5  # 4 mm at an x-height of 8 mm
_DRIFT_LEAST = 3  # feet; fewer make no line
_DRIFT_REACH_XH = 2.0
_BOTH_WAYS_XH = 0.17  # gaps that are off this much either way are uneven, not wide or tight
_PARTS = (
    ("letter", "all letters", "body"),
    ("tall part", "all tall parts", "tall"),
    ("tail", "all tails", "deep"),
)


@dataclass(frozen=True)
class Place:
    """Where one written letter stands, letter space; None where it has no such part.

    Parameters
    ----------
    left, right : float
        Of all its ink.
    body_left, body_right : float
        Of the ink that is no join.
    foot : float or None
        Lowest point of its body above the base line.
    body, tall, deep : float or None
        Heights of the part in the middle band (of a capital or digit: all of it), of the tall part
        and of the tail, against those of the model.
    """

    left: float
    right: float
    body_left: float
    body_right: float
    foot: float | None = None
    body: float | None = None
    tall: float | None = None
    deep: float | None = None

    @property
    def middle(self) -> float:
        """Halfway along its ink."""
        return (self.left + self.right) / 2


@dataclass(frozen=True, eq=False)
class Standing:
    """One letter of a group: its place, which word it is of, and whether its own size is told already."""

    char: str
    word: int
    place: Place | None
    told_of: bool = False


@dataclass(frozen=True)
class Whole:
    """What is judged of a group as a whole, and by what."""

    findings: tuple[Finding, ...]
    measures: dict[str, float | None]


@dataclass(frozen=True)
class _Terms:
    xh_mm: float
    level: Level
    own: Mapping[str, float]

    def find(self, code: str, value: float, at: Sequence[float], **words: str) -> list[Finding]:
        severity = severity_of(code, value, self.level, self.own)
        if severity is None:
            return []
        span = np.array([at], dtype=np.float64)
        words = {"mm": f"{value * self.xh_mm:.1f} mm", **words}
        tolerance = tolerance_at(code, self.level, self.own)
        return [Finding(code, severity, value, tolerance, 0, 0, span[0], span, words)]


def judge_whole(
    text: str,
    letters: Sequence[Standing],
    style: HouseStyle,
    xh_mm: float,
    level: Level,
    own: Mapping[str, float],
) -> Whole:
    """Judge a row of one letter, a word or a line of words.

    Parameters
    ----------
    text : str
        What was asked for, single spaces between words.
    letters : sequence of Standing
        One for each character that is no space, in order.
    """
    terms = _Terms(xh_mm, level, own)
    seen = [one for one in letters if one.place is not None]
    findings = _uneven(seen, terms)
    drift, measure = _drift(seen, terms)
    measures: dict[str, float | None] = {"letters": len(letters), "drift_deg": measure}
    if not is_row(text):
        found, gap, off = _spacing(text, letters, style, terms)
        between, fingers = _between_words(text, letters, style, terms)
        findings += found + between
        measures |= {"gap_xh": gap, "gap_off_xh": off, "finger_spaces": fingers}
    return Whole(tuple(findings + drift), measures)


def is_row(text: str) -> bool:
    """Whether a text is one letter over and over."""
    return len(set(text)) == 1


def _uneven(seen: Sequence[Standing], terms: _Terms) -> list[Finding]:
    """Largest against smallest of the letters' bodies, tall parts or tails; the worst is told.

    A single letter that is told of for its own size explains the rest.
    """
    told = [one for one in seen if one.told_of]
    if len(told) == 1:
        seen = [one for one in seen if not one.told_of]
    worst: list[Finding] = []
    for which, every, part in _PARTS:
        sized = [(float(v), one) for one in seen if (v := getattr(one.place, part)) is not None and v > 0]
        if len(sized) < 2:
            continue
        (small, low), (large, high) = min(sized, key=_first), max(sized, key=_first)
        words = {"which": f"{which} ({high.char})", "which_all": every}
        if low.char != high.char:
            words["which"] += f", against {low.char},"
        assert high.place is not None
        found = terms.find("size.uneven", 100 * (large / small - 1), (high.place.middle, 0.5), **words)
        if found and (not worst or found[0].value > worst[0].value):
            worst = found
    return worst


def _first(pair: tuple[float, Standing]) -> float:
    return pair[0]


def _drift(seen: Sequence[Standing], terms: _Terms) -> tuple[list[Finding], float | None]:
    """Slope of a line through the feet."""
    feet = [(one.place.middle, one.place.foot) for one in seen if one.place and one.place.foot is not None]
    if len(feet) < _DRIFT_LEAST:
        return [], None
    x, y = np.array(feet).T
    if np.ptp(x) < _DRIFT_REACH_XH:
        return [], None
    slope = float(np.degrees(np.arctan(np.polyfit(x - x.mean(), y, 1)[0])))
    last = int(x.argmax())
    climbs = "climbs" if slope > 0 else "sinks"
    return terms.find("line.drift", abs(slope), (x[last], y[last]), climbs=climbs), slope


@lru_cache(maxsize=256)
def model_gaps(text: str, style: HouseStyle) -> tuple[float, ...]:
    """Room between each letter of a text and the next one in the model, joins left out, xh."""
    model = word(text, style)
    edges = []
    for index, char in enumerate(text):
        if char.isspace():
            continue
        points = np.concatenate(bare(model.letter_at(index)))[:, 0] + model.lefts[index]
        edges.append((float(points.min()), float(points.max())))
    return tuple(b[0] - a[1] for a, b in pairwise(edges))


def _spacing(
    text: str, letters: Sequence[Standing], style: HouseStyle, terms: _Terms
) -> tuple[list[Finding], float | None, float | None]:
    """Room between the letters of a word against the model's; its mean, and how much more that is."""
    offs, gaps, where, models = [], [], [], []
    for (a, b), model in zip(pairwise(letters), model_gaps(text, style), strict=True):
        if a.word != b.word or a.place is None or b.place is None:
            continue
        gap = b.place.body_left - a.place.body_right
        gaps.append(gap)
        offs.append(gap - model)
        models.append(model)
        where.append((a, b, ((a.place.body_right + b.place.body_left) / 2, 0.5)))
    if not gaps:
        return [], None, None
    spread = 100 * float(np.std(offs)) / max(float(np.mean(gaps)), float(np.mean(models)), 0.1)
    found: dict[str, list[Finding]] = {}
    for code, worst in (("spacing.wide", int(np.argmax(offs))), ("spacing.tight", int(np.argmin(offs)))):
        a, b, at = where[worst]
        off = offs[worst] if code == "spacing.wide" else -offs[worst]
        found[code] = terms.find(code, off, at, where=f"{a.char} and {b.char}")
    uneven = terms.find("spacing.uneven", spread, where[int(np.argmax(np.abs(offs)))][2])
    mean, all_off = float(np.mean(gaps)), [*found["spacing.wide"], *found["spacing.tight"]]
    both_ways = min(max(offs), -min(offs)) > _BOTH_WAYS_XH
    found_here = (uneven or all_off) if both_ways or not all_off else all_off
    return found_here, mean, float(np.mean(offs))


@lru_cache(maxsize=256)
def _rooms_between_words(text: str, style: HouseStyle) -> tuple[float, ...]:
    """Clear paper between each two words of the model, xh."""
    model = word(text, style)
    ends = []
    for index, char in enumerate(text):
        if not char.isspace():
            x = np.concatenate([s.points for s in model.letter_at(index).sampled])[:, 0] + model.lefts[index]
            ends.append((index, float(x.min()), float(x.max())))
    return tuple(b[1] - a[2] for a, b in pairwise(ends) if b[0] > a[0] + 1)


def finger_xh(style: HouseStyle) -> float:
    """A finger space: as wide as the class's o, and at least half the x-height."""
    o = np.concatenate(bare(template("o", style).letter))
    return max(float(np.ptp(o[:, 0])), _FINGER_LEAST_XH)


def _between_words(
    text: str, letters: Sequence[Standing], style: HouseStyle, terms: _Terms
) -> tuple[list[Finding], float | None]:
    """Room between words against one finger space; the tightest and the widest are told.

    Exits and lead-ins reach into that room: as much of it as they take in the model is not counted.
    """
    finger = finger_xh(style)
    edges = [(a, b) for a, b in pairwise(letters) if a.word != b.word]
    gaps = []
    for (a, b), room in zip(edges, _rooms_between_words(text, style), strict=True):
        if a.place is None or b.place is None:
            continue
        taken = 0.0 if style.script is Script.PRINT else max(0.0, finger - room)
        gap = max(0.0, b.place.left - a.place.right + taken) / finger
        gaps.append((gap, ((a.place.right + b.place.left) / 2, 0.0)))
    if not gaps:
        return [], None
    tight, wide = min(gaps), max(gaps)
    found = terms.find("words.tight", *tight) + terms.find("words.wide", *wide)
    return found, float(np.median([gap for gap, _ in gaps]))
