"""Plane curves: cubic paths, sampling by arc length, and distances between point runs.

Everything a letter or a child draws ends up as an ``(n, 2)`` array of points. This module is the
only place that knows how to make one from a curve and how to compare two.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]
IntArray = npt.NDArray[np.int64]
BoolArray = npt.NDArray[np.bool_]
Point = tuple[float, float]

KAPPA = 0.5522847498  # control length that makes four cubics an almost exact circle


@dataclass(frozen=True, eq=False)
class Path:
    """A continuous run of cubic Bezier pieces; a straight line is a cubic too.

    Parameters
    ----------
    cubics : array, shape (k, 4, 2)
        Control points. Each piece begins where the one before ended.
    """

    cubics: FloatArray

    @property
    def start(self) -> FloatArray:
        """First point, shape (2,)."""
        return np.asarray(self.cubics[0, 0])

    @property
    def end(self) -> FloatArray:
        """Last point, shape (2,)."""
        return np.asarray(self.cubics[-1, 3])

    @property
    def heading_in(self) -> FloatArray:
        """Unit vector in which it begins, shape (2,)."""
        return _direction(self.cubics[0])

    @property
    def heading_out(self) -> FloatArray:
        """Unit vector in which it ends, shape (2,)."""
        return -_direction(self.cubics[-1, ::-1])

    def points(self, spacing: float = 0.01) -> FloatArray:
        """Sample at about even arc length.

        Parameters
        ----------
        spacing : float
            Wanted distance between neighbours, in the unit of the path.

        Returns
        -------
        array, shape (n, 2), n >= 2, both ends included.
        """
        t = np.linspace(0.0, 1.0, 33)[:, None]
        a, b, c, d = (self.cubics[:, None, i, :] for i in range(4))
        s = 1.0 - t
        fine = s**3 * a + 3 * s**2 * t * b + 3 * s * t**2 * c + t**3 * d
        run = fine.reshape(-1, 2)
        count = max(2, int(np.ceil(length(run) / spacing)) + 1)
        return resample(run, count)

    def transformed(self, matrix: FloatArray) -> Path:
        """Apply a 2x2 linear map to every control point (exact for cubics)."""
        return Path(self.cubics @ matrix.T)

    def shifted(self, dx: float, dy: float = 0.0) -> Path:
        """Move the whole path."""
        return Path(self.cubics + np.array([dx, dy]))


def _direction(piece: FloatArray) -> FloatArray:
    """Unit vector from the first control point of a cubic to the first that differs."""
    gaps = piece[1:] - piece[0]
    sizes = np.hypot(gaps[:, 0], gaps[:, 1])
    at = int(np.argmax(sizes > 1e-9))
    return np.asarray(gaps[at] / max(float(sizes[at]), 1e-12))


def line(a: Point, b: Point) -> Path:
    """Return a straight path from `a` to `b`."""
    p, q = np.array(a, float), np.array(b, float)
    return Path(np.array([[p, p + (q - p) / 3, q - (q - p) / 3, q]]))


def cubic(a: Point, b: Point, c: Point, d: Point) -> Path:
    """Return one cubic piece with control points `a`, `b`, `c`, `d`."""
    return Path(np.array([[a, b, c, d]], float))


def chain(paths: Iterable[Path]) -> Path:
    """Join paths that follow one another."""
    return Path(np.concatenate([path.cubics for path in paths]))


def ellipse_arc(centre: Point, rx: float, ry: float, from_deg: float, to_deg: float) -> Path:
    """Arc of an axis-parallel ellipse; counterclockwise when `to_deg` is the greater.

    Pieces span at most a quarter, which keeps the cubic within 0.03 % of the ellipse.
    """
    pieces = max(1, int(np.ceil(abs(to_deg - from_deg) / 90 - 1e-9)))
    angles = np.radians(np.linspace(from_deg, to_deg, pieces + 1))
    handle = 4 / 3 * np.tan((angles[1] - angles[0]) / 4)
    on = np.column_stack([np.cos(angles), np.sin(angles)])
    tangent = np.column_stack([-np.sin(angles), np.cos(angles)]) * handle
    unit = np.stack([on[:-1], on[:-1] + tangent[:-1], on[1:] - tangent[1:], on[1:]], axis=1)
    return Path(unit * np.array([rx, ry]) + np.array(centre))


def steps(points: FloatArray) -> FloatArray:
    """Distance of each point from the one before it; shape (n - 1,)."""
    gap = points[1:] - points[:-1]
    return np.hypot(gap[:, 0], gap[:, 1])


def length(points: FloatArray) -> float:
    """Arc length of a point run; 0 for a single point."""
    return float(steps(points).sum())


def along(points: FloatArray) -> FloatArray:
    """Arc length from the first point to each; shape (n,)."""
    out = np.zeros(len(points))
    np.cumsum(steps(points), out=out[1:])
    return out


def resample(points: FloatArray, count: int) -> FloatArray:
    """Return `count` points at equal arc length along `points`.

    A run with no extent (a tap) gives `count` copies of its point.
    """
    where = along(points)
    if where[-1] <= 0:
        return np.repeat(points[:1], count, axis=0)
    wanted = np.arange(count) * (where[-1] / max(count - 1, 1))
    out = np.empty((count, 2))
    out[:, 0] = np.interp(wanted, where, points[:, 0])
    out[:, 1] = np.interp(wanted, where, points[:, 1])
    return out


def spline(points: FloatArray, between: int = 8) -> FloatArray:
    """Smooth curve through all `points`, with `between` samples from each to the next.

    The centripetal Catmull-Rom spline (Barry and Goldman, 1988), which makes no loops or cusps of
    its own. No two neighbours may be the same point.

    Returns
    -------
    array, shape ((n - 1) * between + 1, 2)
    """
    ends = [2 * points[:1] - points[1:2], points, 2 * points[-1:] - points[-2:-1]]
    p = np.concatenate(ends)
    knots = np.concatenate([[0.0], np.cumsum(np.sqrt(steps(p)))])
    p0, p1, p2, p3 = (p[i : len(p) - 3 + i, None, :] for i in range(4))
    t0, t1, t2, t3 = (knots[i : len(p) - 3 + i, None, None] for i in range(4))
    t = t1 + (t2 - t1) * np.linspace(0, 1, between, endpoint=False)[None, :, None]

    def mix(a: FloatArray, b: FloatArray, ta: FloatArray, tb: FloatArray) -> FloatArray:
        return np.asarray(((tb - t) * a + (t - ta) * b) / (tb - ta))

    a1, a2, a3 = mix(p0, p1, t0, t1), mix(p1, p2, t1, t2), mix(p2, p3, t2, t3)
    b1, b2 = mix(a1, a2, t0, t2), mix(a2, a3, t1, t3)
    return np.concatenate([mix(b1, b2, t1, t2).reshape(-1, 2), points[-1:]])


def nearest(a: FloatArray, b: FloatArray) -> FloatArray:
    """Distance from each point of `a` to the nearest point of `b`; shape (len(a),)."""
    across = a[:, 0, None] - b[:, 0]
    up = a[:, 1, None] - b[:, 1]
    across *= across
    up *= up
    across += up
    return np.asarray(np.sqrt(across.min(1)))


def cross(a: FloatArray, b: FloatArray) -> FloatArray:
    """Cross products of plane vectors, shape (..., 2) each: positive where `b` is turned left of `a`."""
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])


def true_runs(mask: BoolArray) -> list[tuple[int, int]]:
    """Where a mask is true: first index of each stretch, and the index after its last.

    Examples
    --------
    >>> true_runs(np.array([False, True, True, False, True]))
    [(1, 3), (4, 5)]
    """
    edges = np.flatnonzero(np.diff(np.concatenate([[False], mask, [False]])))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))


def flipped(points: FloatArray) -> FloatArray:
    """Points with left and right exchanged about the y axis; shape (n, 2) in and out."""
    return np.asarray(points * np.array([-1.0, 1.0]))


def written_twice(
    points: FloatArray, within: float, least: float, spacing: float
) -> tuple[BoolArray, IntArray]:
    """Find the lengths of a run that lie on an earlier part of it.

    Parameters
    ----------
    points : array, shape (n, 2)
        Evenly spaced by `spacing`.
    within : float
        How close counts as on top.
    least : float
        Shorter lengths are not reported (a crossing, a corner).

    Returns
    -------
    mask : array of bool, shape (n,)
    earlier : array of int, shape (n,)
        Index of the nearest earlier point where there is one so close, else 0.
    """
    mask, earlier = np.zeros(len(points), dtype=np.bool_), np.zeros(len(points), dtype=np.int64)
    x, y = points.T
    gap2 = (x[:, None] - x) ** 2 + (y[:, None] - y) ** 2
    close = np.tril(gap2 <= within**2, -max(1, round(4 * within / spacing)) - 1)
    later, before = np.divmod(np.flatnonzero(close), len(points))
    order = np.argsort(-gap2[later, before], kind="stable")  # the nearest is set last
    earlier[later[order]] = before[order]
    mask[later] = True
    for a, b in true_runs(mask):
        if (b - a) * spacing < least:
            mask[a:b] = False
    return mask, earlier


def turning_deg(points: FloatArray) -> float:
    """Total signed turning of a run in degrees; counterclockwise (y up) is positive."""
    moves = np.hypot(*np.diff(points, axis=0).T) > 1e-9
    return float(turns_deg(points[np.append(True, moves)]).sum())


def turns_deg(points: FloatArray) -> FloatArray:
    """Signed turning at each inner point of a run, degrees, shape (n - 2,); 0 where a step has no length."""
    d = np.diff(points, axis=0)
    still = np.hypot(d[:, 0], d[:, 1]) <= 1e-9
    turn = (np.diff(np.arctan2(d[:, 1], d[:, 0])) + np.pi) % (2 * np.pi) - np.pi
    return np.asarray(np.degrees(np.where(still[1:] | still[:-1], 0.0, turn)))


def split(piece: FloatArray, t: float) -> tuple[FloatArray, FloatArray]:
    """Cut one cubic, shape (4, 2), in two at `t` (de Casteljau's algorithm)."""
    a, b, c, d = piece
    ab, bc, cd = a + t * (b - a), b + t * (c - b), c + t * (d - c)
    abc, bcd = ab + t * (bc - ab), bc + t * (cd - bc)
    middle = abc + t * (bcd - abc)
    return np.array([a, ab, abc, middle]), np.array([middle, bcd, cd, d])


def until_heading(path: Path, heading: FloatArray) -> Path:
    """The part of a path from its beginning to where it goes most nearly along `heading`, a unit vector.

    Only the first half turn is looked at.
    """
    t = np.linspace(0.0, 1.0, 201)[:, None]
    best, where = -1.0, (0, 1.0)
    for number, (a, b, c, d) in enumerate(path.cubics[:3]):
        way = (1 - t) ** 2 * (b - a) + 2 * (1 - t) * t * (c - b) + t**2 * (d - c)
        along_it = (way @ heading) / np.maximum(np.hypot(way[:, 0], way[:, 1]), 1e-12)
        if along_it.max() > best + 1e-9:
            best, where = float(along_it.max()), (number, float(t[int(along_it.argmax()), 0]))
    number, at = where
    return Path(np.concatenate([path.cubics[:number], split(path.cubics[number], at)[0][None]]))
