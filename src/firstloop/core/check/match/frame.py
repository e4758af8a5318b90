"""The child's own letter laid on the model: sizes as written, and a map that takes them out.

Size and place are read off as written. Everything else is judged after this frame has moved the
ink's own lines onto the model's, so that a tall or floating letter is that and nothing else.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from firstloop.core.check.match.align import INK_XH, Correspondence, Laying
from firstloop.core.check.match.template import FINE_XH, Template
from firstloop.core.curves import BoolArray, FloatArray, IntArray
from firstloop.core.letterforms.model import NARROW_XH

_RIDGE = 0.004
_SLANT_RIDGE = 0.02
_SHEAR_MAX = float(np.tan(np.radians(48)))
_SCALE_RANGE = (0.35, 3.0)
_KNOT_GAP_XH = 0.25
_FAR_XH = 100.0  # further than any ink
_ROBUST_XH = 0.15
_ROBUST_ROUNDS = 3
_WHOLE_ROUNDS = 2
_FIT_EVERY = 3
HEAD_XH = 0.38  # the first stretch after pen-down, whose place is judged as a start
_STEEP, _STEEP_OVER_XH = 0.6, 0.12  # sine of a steep way down, and over how much ink it is seen
_HIGHEST_XH = 0.02
_STRAY_XH = 0.2
_LOW_PART_XH = 0.25
_CLEARLY_NARROW = 0.72  # of the model's width
_SEEMS_WIDE = 1.3  # times as wide as the model
_AS_WIDE = 1.2
_UPRIGHT_XH = 0.4  # a downstroke shorter than this says little about the lean


@dataclass(frozen=True)
class Heights:
    """Where the ink's own tops and feet are, as written, xh above the base line.

    ``top`` and ``foot`` are means over the body's landmarks, of those in print without any far
    below the highest (the middle of a w, an arch); ``lowest`` is the lowest foot. None where the letter
    has no such landmark or the ink lacks it.
    """

    top: float | None
    foot: float | None
    lowest: float | None
    rise: float | None
    drop: float | None


@dataclass(frozen=True, eq=False)
class Frame:
    """From ink as written (letter space) to the model's own place and size.

    Parameters
    ----------
    knots_ink, knots_model : arrays, shape (k,)
        Heights of the ink and where they are on the model; between them all is in proportion.
    scale : float
        Ink height over model height in the body; 1 where it cannot be told.
    width_ratio : float
        Ink width over model width at the same height; NaN for letters with no width.
    """

    knots_ink: FloatArray
    knots_model: FloatArray
    across: float
    shear: float
    offset: float
    scale: float
    width_ratio: float

    def apply(self, points: FloatArray) -> FloatArray:
        """Laying ink points on the model; shape (n, 2) in and out."""
        x, y = points.T
        out = np.empty_like(points)
        out[:, 0] = self.across * x + self.shear * y + self.offset
        out[:, 1] = np.interp(y, self.knots_ink, self.knots_model)
        return out

    def undo(self, points: FloatArray) -> FloatArray:
        """Laying points of the model on the ink, the way back of :meth:`apply`."""
        y = np.interp(points[:, 1], self.knots_model, self.knots_ink)
        return np.column_stack([(points[:, 0] - self.shear * y - self.offset) / self.across, y])


def _spots(match: Correspondence, template: Template, name: str, sign: float) -> list[float]:
    heights = []
    for landmark in template.landmarks[name]:
        where = match.matched(landmark.near)
        if landmark.is_soon:
            where = _without_head(match, template, where)
        if len(where):
            heights.append(sign * float((sign * match.ink[where, 1]).max()))
    return heights


def _head_xh(match: Correspondence, template: Template) -> float:
    """How much ink after a pen-down is judged as a start and makes nothing else wrong, xh.

    More than usual where a letter that begins beside its top is come down on steeply from above all of it:
    that much the pen needs to come in. A letter that begins with a stem or a slope is meant to come down.
    """
    tops = (*template.landmarks["tops"], *template.landmarks["rises"])
    if not any(one.is_soon and template.stroke[one.near[0]] == 0 for one in tops):
        return HEAD_XH
    run = match.runs[0]
    y = match.ink[run.at, 1][::-1] if run.backwards else match.ink[run.at, 1]
    usual, reach = round(HEAD_XH / INK_XH), round(_STEEP_OVER_XH / INK_XH)
    if len(y) < 2 * usual or y[0] < match.ink[:, 1].max() - _HIGHEST_XH:
        return HEAD_XH
    steep = (y[:-reach] - y[reach:]) / _STEEP_OVER_XH > _STEEP
    falls = len(steep) if steep.all() else int(np.argmin(steep))
    return max(HEAD_XH, falls * INK_XH)


def _without_head(match: Correspondence, template: Template, where: IntArray) -> IntArray:
    """Leave out the first stretch after the pen went down, if anything remains: it is judged as a start.

    In a narrow letter less ink lies between the start and the top, and the stretch is shorter.
    """
    wide = float(np.ptp(match.ink[:, 0])) / max(template.width, NARROW_XH)
    come_in = _head_xh(match, template)
    head = come_in * max(wide, 0.5) if wide < _CLEARLY_NARROW else come_in
    later = where[match.since_pen_down[where] > head]
    if not len(later) and come_in > HEAD_XH:  # a top that is all start: the highest that is none
        run = match.runs[0].at
        later = run.start + np.flatnonzero(match.since_pen_down[run] > head)
    return later if len(later) else where


def _mean(values: list[float]) -> float | None:
    return float(np.mean(values)) if values else None


def heights(match: Correspondence, template: Template) -> Heights:
    """Read the ink's own heights off the landmarks of the model."""
    tops = _spots(match, template, "tops", 1.0)
    feet = _spots(match, template, "feet", -1.0)
    rises = _spots(match, template, "rises", 1.0)
    drops = _spots(match, template, "drops", -1.0)
    if template.body.all():  # where a join comes in, it may stand higher than the letter
        tops = [top for top in tops if top > max(tops) - _LOW_PART_XH]
    return Heights(
        _mean(tops), _mean(feet), min(feet, default=None), max(rises, default=None), min(drops, default=None)
    )


def _body_scale(h: Heights, template: Template) -> float:
    if not template.is_lower:
        return _whole_scale(h, template)
    if h.top is not None and h.foot is not None:
        return h.top - h.foot
    if h.top is not None and h.drop is not None:
        return 1.0 + agreed(h.top - 1.0, -1.0 - h.drop)
    return 1.0


def _whole_scale(h: Heights, template: Template) -> float:
    """Height of a capital or digit against its model's; 1 where it cannot be told."""
    if h.rise is None or h.foot is None:
        return 1.0
    return (h.rise - h.foot) / float(template.points[template.rises, 1].max())


def agreed(up: float, down: float) -> float:
    """What two ends have in common when both are out the same way, else 0."""
    return float(np.sign(up) * min(abs(up), abs(down))) if up * down > 0 else 0.0


def _knots(h: Heights, template: Template, scale: float) -> tuple[FloatArray, FloatArray]:
    """Heights known on both sides, from the lowest up, never closer than a quarter xh.

    Beyond the outer ones all is in proportion to the letter.
    """
    y = template.points[:, 1]
    pairs = []
    if h.drop is not None:
        pairs.append((h.drop, float(y[template.drops].min())))
    if h.foot is not None:
        pairs.append((h.foot, 0.0))
    if h.top is not None:
        pairs.append((h.top, 1.0))
    if h.rise is not None:
        pairs.append((h.rise, float(y[template.rises].max())))
    kept: list[tuple[float, float]] = []
    for pair in pairs:
        if not kept or pair[0] - kept[-1][0] >= _KNOT_GAP_XH:
            kept.append(pair)
    if not kept:
        kept = [(0.0, 0.0)]
    (low_ink, low), (high_ink, high) = kept[0], kept[-1]
    below = (low_ink - _FAR_XH * scale, low - _FAR_XH)
    above = (high_ink + _FAR_XH * scale, high + _FAR_XH)
    ink, model = np.array([below, *kept, above]).T
    return ink, model


def _least_squares(moments: FloatArray, expected: float, fixed: bool) -> FloatArray:
    """Weighted fit of ``goal = across * x + shear * y + offset``; `fixed` keeps across as expected.

    Across is the ratio of the spreads that are left once the slant is taken out (the reduced major
    axis): a wobbly hand would make plain least squares take a narrow letter for a wider one.

    Parameters
    ----------
    moments : array, shape (4, 4)
        Weighted sums of all products of x, y, 1 and the goal.

    Returns
    -------
    array, shape (3,) : across, shear and offset.
    """
    (sxx, sxy, sx, _), (_, syy, sy, syg), (_, _, total, sg), (_, _, _, sgg) = moments.tolist()
    x, y, aim = sx / total, sy / total, sg / total
    xx, xy = sxx - x * sx, sxy - x * sy
    yy = syy - y * sy + _SLANT_RIDGE * total
    yg, gg = syg - y * sg, sgg - aim * sg
    across = expected
    if not fixed:
        spread_ink = xx - xy * xy / yy + _RIDGE * total
        spread_goal = gg - yg * yg / yy + _RIDGE * total * expected**2
        across = (max(spread_goal, 0.0) / spread_ink) ** 0.5
        across = min(max(across, 0.3 * expected), 3.0 * expected)
    shear = min(max((yg - across * xy) / yy, -_SHEAR_MAX), _SHEAR_MAX)
    return np.array([across, shear, aim - across * x - shear * y])


def _sideways(ink: FloatArray, goal: FloatArray, early: BoolArray, scale: float, narrow: bool) -> FloatArray:
    """Fit x, with stretches that are far out counting for little.

    The first stretch is left out, and helps to tell the width only when it turns out to be in its place.

    Returns
    -------
    array, shape (3,) : ``x' = across * x + shear * y + offset``.
    """
    terms = np.stack([ink[:, 0], ink[:, 1], np.ones(len(ink)), goal])

    def fit(weight: FloatArray) -> tuple[FloatArray, FloatArray]:
        """The fit, and how far each mapped ink point is from its goal, xh."""
        found = _least_squares((weight * terms) @ terms.T, 1 / scale, narrow)
        return found, goal - found @ terms[:3]

    counts = np.where(early, 0.0, 1.0)
    found, off = fit(counts)
    for _ in range(_ROBUST_ROUNDS - 1):
        found, off = fit(counts * _trust(off))
    if early.any() and np.abs(off[early]).max() < _STRAY_XH:
        for _ in range(_WHOLE_ROUNDS):
            found, off = fit(_trust(off))
    return found


def _trust(off: FloatArray) -> FloatArray:
    """Weight of points that are `off` from their goal (Cauchy's)."""
    return np.asarray(1 / (1 + (off / _ROBUST_XH) ** 2))


def fit_frame(match: Correspondence, template: Template, h: Heights) -> Frame:
    """Work out the frame of one written letter."""
    scale = float(np.clip(_body_scale(h, template), *_SCALE_RANGE))
    knots_ink, knots_model = _knots(h, template, scale)
    narrow = template.width < NARROW_XH or float(np.ptp(match.ink[:, 0])) < 0.08
    some = slice(None, None, _FIT_EVERY)
    early = _at_the_start(match, template)[some]
    fit = _sideways(match.ink[some], template.points[match.model[some], 0], early, scale, narrow)
    across, shear, offset = fit.tolist()
    ratio = float("nan") if narrow else 1 / (across * scale)
    return Frame(knots_ink, knots_model, across, shear, offset, scale, ratio)


def without_stray_start(match: Correspondence, template: Template, frame: Frame) -> Laying | None:
    """Another way to lay a letter that seems too wide only because it was begun far to one side.

    Once the pen has come back such a letter is as wide as its model there; a wide letter is not.
    None where it is no such letter.
    """
    if not frame.width_ratio > _SEEMS_WIDE:
        return None
    excess = (frame.width_ratio - 1) * template.width * frame.scale
    first = match.ink_stroke == match.arrangement.order[0]
    ink = match.ink[~first | (match.since_pen_down > HEAD_XH + excess), 0]
    model = template.points[(template.stroke > 0) | (template.since_pen_down > HEAD_XH), 0]
    if len(ink) * INK_XH < HEAD_XH or len(model) * FINE_XH < HEAD_XH:
        return None
    if not 1 / _AS_WIDE < np.ptp(ink) / (np.ptp(model) * frame.scale) < _AS_WIDE:
        return None
    offset = (model.min() + model.max()) / 2 - (ink.min() + ink.max()) / 2 / frame.scale
    return replace(frame, across=1 / frame.scale, shear=0.0, offset=float(offset)).apply


def _at_the_start(match: Correspondence, template: Template) -> BoolArray:
    """Mark the first stretch, of ink or model; nothing where little else would be left. Shape (m,)."""
    early = np.minimum(match.since_pen_down, template.since_pen_down[match.model]) <= HEAD_XH
    if (come_in := _head_xh(match, template)) > HEAD_XH:
        early |= match.since_pen_down <= come_in
    early &= match.ink_stroke == match.arrangement.order[0]
    return early if (~early).sum() * INK_XH > 2 * HEAD_XH else np.zeros(len(early), dtype=np.bool_)


def slant_deg(match: Correspondence, template: Template) -> float | None:
    """Lean of the downstrokes, degrees forward of the vertical; None without one long enough.

    The first stretch after the pen went down is left out where enough remains: it is judged as a start.
    """
    total_xy = total_yy = 0.0
    upright = np.flatnonzero(template.upright[match.model])
    settled = match.since_pen_down[upright] > HEAD_XH
    keys = match.ink_stroke[upright] * 100 + template.move[match.model[upright]]
    for key in dict.fromkeys(keys.tolist()):
        mine = keys == key
        run = match.ink[upright[mine & settled]]
        if len(run) < 2 or np.ptp(run[:, 1]) < _UPRIGHT_XH:
            run = match.ink[upright[mine]]
        if np.ptp(run[:, 1]) < _UPRIGHT_XH:
            continue
        x, y = (run - run.mean(0)).T
        total_xy += float(x @ y)
        total_yy += float(y @ y)
    return None if total_yy < 1e-6 else float(np.degrees(np.arctan2(total_xy, total_yy)))
