"""Cutting a word into its letters by following the model of the whole word.

The pen's way through the word is warped onto the model's way: heights as they stand on the lines,
headings, and places along the line, which are fitted letter by letter, since no two children space
their letters alike. What belongs to one letter of the model is then cut out of the ink. Dots and
bars, which may come at any time, are given to the letter they stand over.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from firstloop.core.check.ink.cleaning import is_tap
from firstloop.core.check.match.warp import warp_path
from firstloop.core.curves import FloatArray, IntArray, along, resample
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import Word, word

_STEP_XH = 0.16
_POINTS_MOST = 2500
_HEADING_WEIGHT = 0.30
_ALONG_WEIGHT = 0.5
_ROUNDS = (2, 1)  # first by every other point, to move the letters to where they belong; then by all
_LEVEL_LEAST_XH = 2.0  # a shorter line has no slope to speak of
_LATE_MOST_XH = 1.7  # a dot, a bar or a second slope is no longer than this
_OVER = 0.6
_SHORTEST_XH = 0.1  # a cut nearer than this to a pen-down or a pen-up is none


class Cut(NamedTuple):
    """A stretch of one ink stroke, from one point to another (both included), and its letter."""

    stroke: int
    first: int
    last: int
    letter: int


@dataclass(frozen=True, eq=False)
class WordWay:
    """The pen's way through a model word, dots and bars left out.

    ``points`` (n, 2), ``heading`` (n, 2) unit vectors, ``owner`` (n,) index of the letter;
    ``late`` holds the middle of each dot and bar with its letter.
    """

    points: FloatArray
    heading: FloatArray
    owner: IntArray
    late: tuple[tuple[FloatArray, int], ...]


def _headings(points: FloatArray) -> FloatArray:
    d = np.gradient(points, axis=0) if len(points) > 1 else np.zeros((len(points), 2))
    return np.asarray(d / np.maximum(np.hypot(*d.T), 1e-9)[:, None])


@lru_cache(maxsize=256)
def word_way(text: str, style: HouseStyle) -> WordWay:
    """Prepare a word to be followed.

    Raises
    ------
    UnknownLetterError
    """
    return _way(word(text, style))


def _way(model: Word) -> WordWay:
    owners = {(s.stroke, m): s.index for s in model.spans for m in range(s.first, s.last + 1)}
    points, headings, owner, late = [], [], [], []
    for s, sampled in enumerate(model.sampled):
        if s in model.waiting or len(model.sampled[s].points) < 3:
            late.append((sampled.points.mean(0), owners[s, 0]))
            continue
        count = max(3, round(float(along(sampled.points)[-1]) / _STEP_XH) + 1)
        at = np.linspace(0, len(sampled.points) - 1, count).round().astype(int)
        points.append(sampled.points[at])
        headings.append(_headings(sampled.points[at]))
        owner.append(np.array([owners[s, int(m)] for m in sampled.move[at]], dtype=np.int64))
    empty = np.zeros((0, 2))
    return WordWay(
        np.concatenate([empty, *points]),
        np.concatenate([empty, *headings]),
        np.concatenate([np.zeros(0, dtype=np.int64), *owner]),
        tuple(late),
    )


def _late_strokes(strokes: tuple[FloatArray, ...], wanted: int) -> list[int]:
    """Ink strokes that may be dots, bars or second slopes: short, and over ink that is there already."""
    if not wanted:
        return [i for i, stroke in enumerate(strokes) if is_tap(stroke)]
    found = []
    for i, stroke in enumerate(strokes):
        left, right = stroke[:, 0].min(), stroke[:, 0].max()
        rest = [s for j, s in enumerate(strokes) if j != i and not is_tap(s)]
        if float(along(stroke)[-1]) > _LATE_MOST_XH or not rest:
            continue
        x = np.concatenate([s[:, 0] for s in rest])
        over = [(min(right, float(s[:, 0].max())) - max(left, float(s[:, 0].min()))) for s in rest]
        inside = x.min() < (left + right) / 2 < x.max()
        if inside and max(over) >= _OVER * (right - left):
            found.append(i)
    return found


def follow(group: InkGroup, text: str, style: HouseStyle) -> tuple[list[Cut], float]:
    """Cut the ink of a word by following its model.

    Returns
    -------
    cuts : list of Cut
        In the order written; together they are all the ink but taps.
    cost : float
        Mean distance of the match, xh with headings counted in.
    """
    way = word_way(text, style)
    ink = group.in_letter_space
    late = _late_strokes(ink, len(way.late))
    body = [i for i in range(len(ink)) if i not in late] or list(range(len(ink)))
    late = [i for i in late if i not in body]
    total = sum(float(along(ink[i])[-1]) for i in body)
    step = max(_STEP_XH, total / _POINTS_MOST)
    runs = [resample(ink[i], max(3, round(float(along(ink[i])[-1]) / step) + 1)) for i in body]
    points = np.concatenate(runs)
    owner, cost, place = _warped(points, np.concatenate([_headings(run) for run in runs]), way)
    cuts, at = [], 0
    for i, run in zip(body, runs, strict=True):
        cuts += _cut(i, ink[i], owner[at : at + len(run)])
        at += len(run)
    under = _under([ink[i] for i in late], points, place, owner, way)
    cuts += [Cut(i, 0, len(ink[i]) - 1, letter) for i, letter in zip(late, under, strict=True)]
    return cuts, cost


def _warped(points: FloatArray, heading: FloatArray, way: WordWay) -> tuple[IntArray, float, FloatArray]:
    """Owner of every ink point, the cost, and the places along the line as fitted to the model."""
    x = _fitted(points[:, 0], way.points[:, 0])
    model = _features(way.points[:, 0], way.points[:, 1], way.heading)
    y = points[:, 1]
    for every in _ROUNDS:
        pairs, cost = warp_path(_features(x, y, heading)[::every], model[::every])
        match = np.zeros(-(-len(points) // every), dtype=np.int64)
        match[pairs[:, 0]] = pairs[:, 1] * every
        match = np.repeat(match, every)[: len(points)]
        owner = way.owner[match]
        x = _letter_by_letter(points[:, 0], way.points[match, 0], owner)
        y = _levelled(points, way.points[match, 1])
    return owner, cost, x


def _features(x: FloatArray, y: FloatArray, heading: FloatArray) -> FloatArray:
    return np.column_stack([_ALONG_WEIGHT * x, y, _HEADING_WEIGHT * heading])


def _fitted(x: FloatArray, goal: FloatArray) -> FloatArray:
    """Places along the line, laid on those of the model end to end."""
    wide = max(float(np.ptp(x)), 1e-6)
    return np.asarray((x - x.min()) / wide * np.ptp(goal) + goal.min())


def _letter_by_letter(x: FloatArray, goal: FloatArray, owner: IntArray) -> FloatArray:
    """Places along the line, each letter moved so that its middle is on its model's."""
    out = x.copy()
    for letter in np.unique(owner):
        mine = owner == letter
        out[mine] += np.median(goal[mine]) - np.median(x[mine])
    return out


def _levelled(points: FloatArray, goal: FloatArray) -> FloatArray:
    """Heights with the slope of the whole line taken out."""
    x, y = points.T
    if np.ptp(x) < _LEVEL_LEAST_XH:
        return np.asarray(y)
    slope, rise = np.polyfit(x - x.mean(), goal - y, 1)
    return np.asarray(y + slope * (x - x.mean()) + rise)


def _cut(number: int, stroke: FloatArray, owner: IntArray) -> list[Cut]:
    """Cut one stroke where its owner changes; the point of a cut belongs to both sides."""
    where = along(stroke)
    total = float(where[-1])
    changes = np.flatnonzero(np.diff(owner))
    edges = (changes + 0.5) / max(len(owner) - 1, 1) * total
    owners = [int(owner[i]) for i in (*changes, len(owner) - 1)]
    cuts: list[Cut] = []
    first, before = 0, 0.0
    for edge, letter in zip((*edges, total), owners, strict=True):
        at_end = edge >= total
        if edge - before < _SHORTEST_XH and not at_end:
            continue
        last = len(stroke) - 1 if at_end or total - edge < _SHORTEST_XH else int(np.searchsorted(where, edge))
        if last > first:
            cuts.append(Cut(number, first, last, letter))
            first, before = last, float(edge)
    return cuts or [Cut(number, 0, len(stroke) - 1, owners[-1])]


def _under(
    late: list[FloatArray], points: FloatArray, place: FloatArray, owner: IntArray, way: WordWay
) -> list[int]:
    """The letters that dots and bars stand over: each of the model's gets the nearest."""
    if not late:
        return []
    middles = np.array([(stroke.min(0) + stroke.max(0)) / 2 for stroke in late])
    nearest = np.abs(points[:, 0] - middles[:, :1]).argmin(1)
    middles[:, 0] += place[nearest] - points[nearest, 0]
    out = [int(letter) for letter in owner[nearest]]
    if way.late:
        from scipy.optimize import linear_sum_assignment  # noqa: PLC0415  # slow to load, seldom needed

        goals = np.array([middle for middle, _ in way.late])
        apart = np.abs(middles[:, None] - goals[None]).sum(2)
        for mark, goal in zip(*linear_sum_assignment(apart), strict=True):
            out[mark] = way.late[goal][1]
    return out


def pieces(group: InkGroup, cuts: list[Cut], count: int) -> list[tuple[list[InkStroke], bool]]:
    """The strokes of each of `count` letters, and whether its first begins where the pen went down."""
    out: list[tuple[list[InkStroke], bool]] = [([], True) for _ in range(count)]
    for cut in cuts:
        whole = group.strokes[cut.stroke]
        part = slice(cut.first, cut.last + 1)
        piece = InkStroke(
            whole.points_mm[part],
            None if whole.t_ms is None else whole.t_ms[part],
            None if whole.force is None else whole.force[part],
        )
        strokes, begins = out[cut.letter]
        out[cut.letter] = ([*strokes, piece], begins if strokes else cut.first == 0)
    return out
