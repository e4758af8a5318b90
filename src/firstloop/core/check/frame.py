"""The child's own letter laid on the model: sizes as written, and a map that takes them out.

Size and place are read off as written. Everything else is judged after this frame has moved the
ink's own lines onto the model's, so that a tall or floating letter is that and nothing else.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from firstloop.core.check.align import INK_XH, Correspondence
from firstloop.core.check.template import FINE_XH, Template
from firstloop.core.curves import BoolArray, FloatArray, IntArray

_RIDGE = 0.004
_SLANT_RIDGE = 0.02
_SHEAR_MAX = float(np.tan(np.radians(42)))
_SCALE_RANGE = (0.35, 3.0)
_KNOT_GAP_XH = 0.25
_ROBUST_XH = 0.15
_ROBUST_ROUNDS = 3
_WHOLE_ROUNDS = 2
_FIT_EVERY = 3
HEAD_XH = 0.38  # the first stretch after pen-down, whose place is judged as a start
_STRAY_XH = 0.2
_UPRIGHT_XH = 0.4  # a downstroke shorter than this says little about the lean


@dataclass(frozen=True)
class Heights:
    """Where the ink's own tops and feet are, as written, xh above the base line.

    ``top`` and ``foot`` are means over the body's landmarks, ``lowest`` the lowest foot;
    None where the letter has no such landmark or the ink lacks it.
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
        """Lay ink points on the model; shape (n, 2) in and out."""
        y = _through(points[:, 1], self.knots_ink, self.knots_model, 1 / self.scale)
        return np.column_stack([self.across * points[:, 0] + self.shear * points[:, 1] + self.offset, y])

    def undo(self, points: FloatArray) -> FloatArray:
        """Lay points of the model on the ink, the way back of :meth:`apply`."""
        y = _through(points[:, 1], self.knots_model, self.knots_ink, self.scale)
        return np.column_stack([(points[:, 0] - self.shear * y - self.offset) / self.across, y])


def _through(y: FloatArray, source: FloatArray, target: FloatArray, slope: float) -> FloatArray:
    """Piecewise linear through the knots, with `slope` beyond the outer ones."""
    out = np.interp(y, source, target)
    out = np.where(y < source[0], target[0] + (y - source[0]) * slope, out)
    return np.where(y > source[-1], target[-1] + (y - source[-1]) * slope, out)


def _spots(match: Correspondence, template: Template, landmarks: IntArray, sign: float) -> list[float]:
    heights = []
    for landmark in landmarks:
        where = match.matched(template.near(int(landmark)))
        if template.is_soon_after_start(int(landmark)):
            where = _without_head(match, where)
        if len(where):
            heights.append(sign * float((sign * match.ink[where, 1]).max()))
    return heights


def _without_head(match: Correspondence, where: IntArray) -> IntArray:
    """Leave out the first stretch after the pen went down, if anything remains: it is judged as a start."""
    into = match.since_pen_down[where]
    later = where[into > HEAD_XH]
    return later if len(later) else where


def _mean(values: list[float]) -> float | None:
    return float(np.mean(values)) if values else None


def heights(match: Correspondence, template: Template) -> Heights:
    """Read the ink's own heights off the landmarks of the model."""
    tops = _spots(match, template, template.tops, 1.0)
    feet = _spots(match, template, template.feet, -1.0)
    rises = _spots(match, template, template.rises, 1.0)
    drops = _spots(match, template, template.drops, -1.0)
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


def _knots(h: Heights, template: Template) -> tuple[FloatArray, FloatArray]:
    """Heights known on both sides, from the lowest up, never closer than a quarter xh."""
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
    return np.array([a for a, _ in kept]), np.array([b for _, b in kept])


def _least_squares(
    ink: FloatArray, goal: FloatArray, expected: float, weight: FloatArray, fixed: bool
) -> tuple[float, float, float]:
    """Weighted fit of ``goal = across * x + shear * y + offset``; `fixed` keeps across as expected.

    Across is the ratio of the spreads that are left once the slant is taken out (the reduced major
    axis): a wobbly hand would make plain least squares take a narrow letter for a wider one.
    """
    total = weight.sum()
    middle = weight @ ink / total
    aim = float(weight @ goal / total)
    x, y = (ink - middle).T
    wx, wy = weight * x, weight * y
    if fixed:
        across = expected
        shear = float(wy @ (goal - aim - expected * x) / (wy @ y + _SLANT_RIDGE * total))
    else:
        aimed = goal - aim
        xy, gy, yy = wx @ y, wy @ aimed, wy @ y + _SLANT_RIDGE * total
        spread_ink = wx @ x - xy * xy / yy + _RIDGE * total
        spread_goal = weight @ aimed**2 - gy * gy / yy + _RIDGE * total * expected**2
        across = float(np.sqrt(max(spread_goal, 0.0) / spread_ink))
        across = min(max(across, 0.3 * expected), 3.0 * expected)
        shear = float((gy - across * xy) / yy)
    shear = min(max(shear, -_SHEAR_MAX), _SHEAR_MAX)
    return across, shear, aim - across * float(middle[0]) - shear * float(middle[1])


@dataclass(frozen=True)
class _Sideways:
    """How x is mapped: ``x' = across * x + shear * y + offset``."""

    across: float
    shear: float
    offset: float

    def off(self, ink: FloatArray, goal: FloatArray) -> FloatArray:
        """How far each mapped ink point is from its goal, xh."""
        return goal - (self.across * ink[:, 0] + self.shear * ink[:, 1] + self.offset)


def _sideways(ink: FloatArray, goal: FloatArray, early: BoolArray, scale: float, narrow: bool) -> _Sideways:
    """Fit x, with stretches that are far out counting for little.

    The first stretch is left out, and helps to tell the width only when it turns out to be in its place.
    """
    weight = (~early).astype(np.float64)
    for _ in range(_ROBUST_ROUNDS):
        fit = _Sideways(*_least_squares(ink, goal, 1 / scale, weight, narrow))
        weight = np.where(early, 0.0, _trust(fit.off(ink, goal)))
    if early.any() and np.all(np.abs(fit.off(ink[early], goal[early])) < _STRAY_XH):
        for _ in range(_WHOLE_ROUNDS):
            fit = _Sideways(*_least_squares(ink, goal, 1 / scale, _trust(fit.off(ink, goal)), narrow))
    return fit


def _trust(off: FloatArray) -> FloatArray:
    """Weight of points that are `off` from their goal (Cauchy's)."""
    return np.asarray(1 / (1 + (off / _ROBUST_XH) ** 2))


def lay(match: Correspondence, template: Template, h: Heights) -> Frame:
    """Work out the frame of one written letter."""
    scale = float(np.clip(_body_scale(h, template), *_SCALE_RANGE))
    knots_ink, knots_model = _knots(h, template)
    narrow = template.width < 0.30 or float(np.ptp(match.ink[:, 0])) < 0.08
    some = slice(None, None, _FIT_EVERY)
    early = _at_the_start(match, template)[some]
    fit = _sideways(match.ink[some], template.points[match.model[some], 0], early, scale, narrow)
    ratio = float("nan") if narrow else 1 / (fit.across * scale)
    return Frame(knots_ink, knots_model, fit.across, fit.shear, fit.offset, scale, ratio)


def _at_the_start(match: Correspondence, template: Template) -> BoolArray:
    """Mark the first stretch, of ink or model; nothing where little else would be left. Shape (m,)."""
    begins = np.searchsorted(template.stroke, template.stroke[match.model])
    into_model = (match.model - begins) * FINE_XH
    early = np.minimum(match.since_pen_down, into_model) <= HEAD_XH
    early &= match.ink_stroke == match.arrangement.order[0]
    return early if (~early).sum() * INK_XH > 2 * HEAD_XH else np.zeros(len(early), dtype=np.bool_)


def slant_deg(match: Correspondence, template: Template) -> float | None:
    """Lean of the downstrokes, degrees forward of the vertical; None without one long enough.

    The first stretch after the pen went down is left out where enough remains: it is judged as a start.
    """
    total_xy = total_yy = 0.0
    kinds = template.upright[match.model]
    settled = match.since_pen_down > HEAD_XH
    keys = match.ink_stroke * 100 + template.move[match.model]
    for key in np.unique(keys[kinds]):
        mine = kinds & (keys == key)
        run = match.ink[mine & settled]
        if len(run) < 2 or np.ptp(run[:, 1]) < _UPRIGHT_XH:
            run = match.ink[mine]
        if np.ptp(run[:, 1]) < _UPRIGHT_XH:
            continue
        x, y = (run - run.mean(0)).T
        total_xy += float(x @ y)
        total_yy += float(y @ y)
    return None if total_yy < 1e-6 else float(np.degrees(np.arctan2(total_xy, total_yy)))
