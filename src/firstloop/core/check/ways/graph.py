"""Ink as a graph: the middle line of what is dark, its ends, and where lines meet."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import skimage
from scipy.ndimage import gaussian_filter1d

from firstloop.core.curves import BoolArray, FloatArray, cross, length, true_runs

_SPUR_WIDTHS = 0.5  # a side branch no longer than so many widths of the line is roughness of its edge
_SPUR_MIDDLE_WIDTHS = 0.35  # nor one along which the pen's middle went no further
_MEETING_WIDTHS = 0.8  # two meetings no further apart are one: lines that cross are thinned to two forks
_SMOOTH_WIDTHS = 0.12
_SMOOTH_LEAST_PX = 1.2
_ARM_WIDTHS = (0.7, 1.8)  # from a bend: where the lines that meet in it are straight enough to go by
_POINTED_DEG = 50.0
_POINT_LEAST_WIDTHS = 0.25  # beyond what thinning left: any bend has less
_POINT_MOST_WIDTHS = 1.6  # and no point more
_PEN_LEAST_SHARE = 0.7  # a line narrower than this is not the pen's
_PEN_SHARE = 0.75  # of half the pen's width: so far inside the ink, its middle was there


@dataclass(frozen=True, eq=False)
class Edge:
    """A line between two nodes, its points included; shape (n, 2), x and y. A dot is a single point."""

    a: int
    b: int
    points: FloatArray


@dataclass(frozen=True, eq=False)
class InkGraph:
    """The middle lines of ink.

    Parameters
    ----------
    edges : tuple of Edge
        In pixels of the picture, counted from the corner of the first.
    width : float
        Of the pen's line, the usual one, pixels.
    """

    edges: tuple[Edge, ...]
    width: float

    @property
    def degrees(self) -> dict[int, int]:
        """How many lines begin or end at every node."""
        out: dict[int, int] = defaultdict(int)
        for edge in self.edges:
            out[edge.a] += 1
            out[edge.b] += 1
        return dict(out)

    @property
    def length(self) -> float:
        """Of all lines, pixels."""
        return sum(length(edge.points) for edge in self.edges)


def ink_graph(mask: BoolArray, is_print: Callable[[FloatArray], bool] = lambda line: False) -> InkGraph:
    """The middle lines of what is dark in a picture; shape (height, width).

    Parameters
    ----------
    is_print : callable
        Whether a line that ends in nothing, its points of shape (n, 2), is a rest of what was printed.
    """
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    if not len(rows):
        return InkGraph((), 0.0)
    corner = np.array([columns[0], rows[0]])  # only what is dark is looked at, with a place around it
    part = np.pad(mask[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1], 1)
    found = _graph_of(part, lambda line: is_print(line + corner - 1))
    return InkGraph(tuple(Edge(one.a, one.b, one.points + corner - 1) for one in found.edges), found.width)


def _graph_of(mask: BoolArray, is_print: Callable[[FloatArray], bool]) -> InkGraph:
    thin = np.asarray(skimage.morphology.skeletonize(mask), dtype=np.bool_)  # type: ignore[no-untyped-call]
    if not thin.any():
        return InkGraph((), 0.0)
    inside = _inside(mask)
    width = 2 * float(np.median(inside[thin]))
    drawing = _Drawing(_traced(thin), inside)
    drawing.prune(width)
    drawing.merge(_MEETING_WIDTHS * width)
    drawing.prune(width)
    drawing.leave_out(is_print, width)
    reach = max(_SMOOTH_WIDTHS * width, _SMOOTH_LEAST_PX)
    edges = tuple(
        Edge(a, b, _with_points(_smooth(points, reach), inside, width)) for a, b, points in drawing.edges
    )
    return _to_the_ends(InkGraph(edges, width), mask)


def _inside(mask: BoolArray) -> FloatArray:
    """How far each place of ink is from where there is none, pixels; shape (height, width)."""
    import cv2  # noqa: PLC0415  # slow to load, and needed for pictures alone

    far = cv2.distanceTransform(mask.view(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    return np.asarray(far, dtype=np.float64)


def _to_the_ends(graph: InkGraph, mask: BoolArray) -> InkGraph:
    """Lines that end half a pen's width before the ink does: thinning takes a little more, or less."""
    degrees = graph.degrees
    edges = []
    for edge in graph.edges:
        points = edge.points
        if len(points) > 3 and degrees[edge.a] == 1:
            points = _at_the_end(points[::-1], mask, graph.width)[::-1]
        if len(points) > 3 and degrees[edge.b] == 1:
            points = _at_the_end(points, mask, graph.width)
        edges.append(Edge(edge.a, edge.b, points))
    return InkGraph(tuple(edges), graph.width)


def _at_the_end(points: FloatArray, mask: BoolArray, width: float) -> FloatArray:
    back = points[-min(len(points), max(3, round(width)))]
    way = points[-1] - back
    size = float(np.hypot(*way))
    if size == 0:
        return points
    steps = np.arange(0.0, 2 * width, 0.25)
    x, y = np.floor(points[-1] + steps[:, None] * way / size).astype(int).T
    there = (y >= 0) & (y < mask.shape[0]) & (x >= 0) & (x < mask.shape[1])
    there[there] = mask[y[there], x[there]]
    beyond = float(steps[int(np.argmin(there))]) if not there.all() else 0.0
    more = beyond - (width - 1) / 2  # a line of n pixels is n + 1 wide to the middles of those beside it
    if more > 0:
        return np.concatenate([points, (points[-1] + more * way / size)[None]])
    from_end = np.cumsum(np.hypot(*np.diff(points[::-1], axis=0).T))
    return points[: max(len(points) - int((from_end <= -more).sum()), 2)]


Line = tuple[int, int, FloatArray]

_ROUND = [(-1, 0), (0, 1), (1, 0), (0, -1), (-1, 1), (1, 1), (1, -1), (-1, -1)]
_BESIDE = [(0, 1), (1, 2), (2, 3), (3, 0)]  # the neighbours along the sides between which each corner lies


def _traced(thin: BoolArray) -> list[Line]:
    """Lines from end or meeting to end or meeting; a ring begins anywhere."""
    spots, near = _neighbours(thin)
    used: set[tuple[int, int]] = set()
    seen = np.zeros(len(near), dtype=np.bool_)
    out: list[Line] = []

    def go(start: int, then: int) -> None:
        chain = [start, then]
        while len(near[chain[-1]]) == 2 and chain[-1] != start:
            one, other = near[chain[-1]]
            chain.append(other if one == chain[-2] else one)
        used.update(((start, then), (chain[-1], chain[-2])))
        seen[chain] = True
        out.append((chain[0], chain[-1], spots[chain]))

    for node in (i for i, mine in enumerate(near) if len(mine) != 2):
        if not near[node]:
            seen[node] = True
            out.append((node, node, spots[[node]]))
        for then in near[node]:
            if (node, then) not in used:
                go(node, then)
    while not seen.all():
        ring = int(seen.argmin())
        go(ring, near[ring][0])
    return out


def _neighbours(thin: BoolArray) -> tuple[FloatArray, list[list[int]]]:
    """The middles of thin pixels, shape (n, 2), and the neighbours of each.

    Two pixels that touch at a corner are neighbours only where no third lies between them.
    """
    padded = np.pad(thin, 1)
    ys, xs = np.unravel_index(np.flatnonzero(padded), padded.shape)
    number = np.full(padded.shape, -1)
    number[ys, xs] = np.arange(len(ys))
    near = np.stack([number[ys + dy, xs + dx] for dy, dx in _ROUND], axis=1)
    for corner, (a, b) in enumerate(_BESIDE, start=len(_BESIDE)):
        near[(near[:, a] >= 0) | (near[:, b] >= 0), corner] = -1
    spots = np.column_stack([xs, ys]).astype(np.float64) - 0.5  # without the padding
    there = near >= 0
    flat = near[there].tolist()
    return spots, [flat[low:high] for low, high in pairwise([0, *there.sum(axis=1).cumsum().tolist()])]


class _Drawing:
    """Lines that are being put in order: side branches off, forks together."""

    def __init__(self, edges: list[Line], inside: FloatArray) -> None:
        self.edges, self._inside = edges, inside

    def _at(self) -> dict[int, list[int]]:
        """Which lines begin or end at every node."""
        out: dict[int, list[int]] = defaultdict(list)
        for i, (a, b, _) in enumerate(self.edges):
            out[a].append(i)
            out[b].append(i)
        return out

    def _side_branches(self) -> list[tuple[int, FloatArray]]:
        """Lines from a meeting to where nothing follows: which, and their points in that direction."""
        degrees = {node: len(lines) for node, lines in self._at().items()}
        return [
            (i, points if degrees[b] == 1 else points[::-1])
            for i, (a, b, points) in enumerate(self.edges)
            if min(degrees[a], degrees[b]) == 1 and max(degrees[a], degrees[b]) > 2
        ]

    def prune(self, width: float) -> None:
        """Take side branches off that are roughness of a line's edge, the shortest first."""
        while True:
            spurs = [(length(one), i) for i, one in self._side_branches() if self._is_rough(one, width)]
            if not spurs:
                return
            del self.edges[min(spurs)[1]]
            self._run_on()

    def _is_rough(self, points: FloatArray, width: float) -> bool:
        """Whether a side branch is short, or short as far as the middle of the pen was in it."""
        x, y = np.floor(points[-1]).astype(int)
        beyond = max(width / 2 - float(self._inside[y, x]), 0.0)
        long = length(points)
        return long <= _SPUR_WIDTHS * width or long - beyond <= _SPUR_MIDDLE_WIDTHS * width

    def leave_out(self, is_print: Callable[[FloatArray], bool], width: float) -> None:
        """Take side branches off that are print: what is left of its lines is thin."""
        out = {i for i, one in self._side_branches() if is_print(one) and not self._is_of_the_pen(one, width)}
        self.edges = [edge for i, edge in enumerate(self.edges) if i not in out]
        self._run_on()

    def _is_of_the_pen(self, points: FloatArray, width: float) -> bool:
        """Whether a side branch is as wide as the pen's line, or nearly, where it ends."""
        x, y = np.floor(points[len(points) // 2 :]).astype(int).T
        return float(np.median(self._inside[y, x])) > _PEN_LEAST_SHARE * width / 2

    def merge(self, longest: float) -> None:
        """Make two meetings one where no more than this lies between them."""
        while True:
            at = self._at()
            short = [
                (length(points), i)
                for i, (a, b, points) in enumerate(self.edges)
                if a != b and min(len(at[a]), len(at[b])) > 2
            ]
            if not short or min(short)[0] > longest:
                return
            a, b, points = self.edges.pop(min(short)[1])
            spot = points[len(points) // 2]
            self.edges = [_moved(edge, (a, b), a, spot) for edge in self.edges]
            self._run_on()

    def _run_on(self) -> None:
        """Where two lines only are left at a node they are one."""
        while True:
            at = self._at()
            node = next((one for one, two in at.items() if len(two) == 2 and two[0] != two[1]), None)
            if node is None:
                return
            one, other = (self.edges[i] for i in at[node])
            self.edges = [edge for i, edge in enumerate(self.edges) if i not in at[node]]
            self.edges.append(_end_to_end(one, other, node))


def _moved(edge: Line, nodes: Iterable[int], to: int, spot: FloatArray) -> Line:
    a, b, points = edge
    if a in nodes:
        a, points = to, np.concatenate([spot[None], points])
    if b in nodes:
        b, points = to, np.concatenate([points, spot[None]])
    return a, b, points


def _end_to_end(one: Line, other: Line, node: int) -> Line:
    """Two lines as one through a node; they may meet at their other ends too."""
    a, b, points = one
    c, d, more = other
    if b != node:
        a, points = b, points[::-1]
    if c != node:
        d, more = c, more[::-1]
    return a, d, np.concatenate([points, more[1:]])


def _smooth(points: FloatArray, reach: float) -> FloatArray:
    """A line freed from the steps of its pixels; its ends stay."""
    if len(points) < 4:
        return points
    ends = points[[0, -1]]
    around = min(round(3 * reach), len(points) - 1)
    if np.array_equal(*ends):
        return np.asarray(gaussian_filter1d(points, reach, axis=0, mode="wrap"))
    before = 2 * ends[:1] - points[1 : around + 1][::-1]
    after = 2 * ends[1:] - points[-around - 1 : -1][::-1]
    long = np.concatenate([before, points, after])
    return np.asarray(gaussian_filter1d(long, reach, axis=0)[around : around + len(points)])


def _with_points(line: FloatArray, inside: FloatArray, width: float) -> FloatArray:
    """A line with the points that thinning blunted, wherever the middle of the pen was at the point.

    Parameters
    ----------
    inside : array, shape (height, width)
        How far each pixel of the ink is from its edge.
    """
    near, far = round(_ARM_WIDTHS[0] * width), round(_ARM_WIDTHS[1] * width)
    if len(line) < 2 * far + 3:
        return line
    middle = np.arange(far, len(line) - far)
    into = line[middle - near] - line[middle - far]
    out = line[middle + far] - line[middle + near]
    turn = np.abs(np.degrees(np.arctan2(cross(into, out), (into * out).sum(1))))
    whole = len(line)  # up to here it is as it was: of two points as near as this, one is made
    for low, high in reversed(true_runs(turn > _POINTED_DEG)):
        at = low + int(turn[low:high].argmax())
        k = int(middle[at])
        if k + near >= whole:
            continue
        sharp = float(cross(into[at], out[at]))
        share = float(cross(line[k + near] - line[k - near], out[at])) / sharp if sharp else -1.0
        if share < 0:  # straight back, or no way on meets the way to it
            continue
        point = _furthest(line[k], line[k - near] + share * into[at], inside, width)
        if point is not None:
            line = np.concatenate([line[: k - near + 1], point[None], line[k + near :]])
            whole = k - near + 1
    return line


def _furthest(blunt: FloatArray, spot: FloatArray, inside: FloatArray, width: float) -> FloatArray | None:
    """How far towards a point the middle of the pen was; None where that is no further than in any bend."""
    way = spot - blunt
    size = float(np.hypot(*way))
    share = np.arange(0.0, min(size, _POINT_MOST_WIDTHS * width) + 0.25, 0.25) / max(size, 0.25)
    places = blunt + np.minimum(share, 1.0)[:, None] * way
    x, y = np.floor(places).astype(int).T
    there = (y >= 0) & (y < inside.shape[0]) & (x >= 0) & (x < inside.shape[1])
    there[there] = inside[y[there], x[there]] >= _PEN_SHARE * width / 2
    reached = places[: len(places) if there.all() else int(there.argmin())]
    if not len(reached):
        return None
    is_there = len(reached) == len(places)
    return reached[-1] if is_there or np.hypot(*(reached[-1] - blunt)) > _POINT_LEAST_WIDTHS * width else None
