"""Parts that letters share: one arch, one bowl on each side, one cup, one tail.

Every part takes its measures from here, so that widening a bowl or lifting the place where arches
leave their stem changes all letters that have it. Lengths are in xh, upright and at even width.
"""

from __future__ import annotations

from dataclasses import dataclass, field, fields

from firstloop.core.curves import KAPPA, Path, Point, chain, cubic, ellipse_arc, line
from firstloop.core.moves import Move, MoveKind, Placed, arc, down, retrace

SHOULDER_XH = 0.58  # height at which an arch has become a downstroke
PEAK_SHARE = 0.42 / 0.72  # where an arch is highest, of its width
TAIL_TURN_XH = -0.60
TAIL_END_XH = -0.84


def _measure(usual: float, low: float, high: float) -> float:
    value: float = field(default=usual, metadata={"low": low, "high": high})
    return value


@dataclass(frozen=True)
class Parts:
    """The measures of the shared parts; each knows between which limits a letter stays legal.

    Parameters
    ----------
    bowl_width_xh, arch_width_xh, tail_width_xh : float
        From the stem outwards.
    branch_xh : float
        Height at which every arch leaves its stem.
    bowl_start_xh : float
        Where the bowl of a, d, g, q begins and closes, on its stem.
    round_start_deg : float
        Where c and o begin, as an angle on the bowl (0 = right, 90 = top).
    dot_xh : float
        Height of a dot.
    stretch : float
        Sideways scale of the whole letter.
    """

    bowl_width_xh: float = _measure(0.86, 0.66, 1.10)
    arch_width_xh: float = _measure(0.72, 0.54, 0.96)
    branch_xh: float = _measure(0.55, 0.30, 0.75)
    bowl_start_xh: float = _measure(0.86, 0.72, 0.95)
    round_start_deg: float = _measure(46.0, 25.0, 70.0)
    tail_width_xh: float = _measure(0.56, 0.40, 0.80)
    dot_xh: float = _measure(1.5, 1.3, 1.8)
    stretch: float = _measure(1.0, 0.75, 1.35)

    @property
    def peak_xh(self) -> float:
        """Sideways from the stem to the top of the arch."""
        return PEAK_SHARE * self.arch_width_xh

    @property
    def on_stem(self) -> Point:
        """Start of a letter whose bowl is on the left of its stem (a d g q)."""
        return self.bowl_width_xh, self.bowl_start_xh

    def _arch_rise(self, at: Point) -> Path:
        peak = (at[0] + self.peak_xh, 1.0)
        return cubic(at, (at[0] + 0.02, at[1] + 0.6 * (1 - at[1])), (peak[0] - 0.20, 1.0), peak)

    def arch(self) -> Placed:
        """Up and over to the right, until it is a downstroke."""

        def place(at: Point) -> Move:
            end, peak = (at[0] + self.arch_width_xh, SHOULDER_XH), (at[0] + self.peak_xh, 1.0)
            fall = cubic(peak, (peak[0] + 0.19, 1.0), (end[0], end[1] + 0.24), end)
            return Move(MoveKind.ARCH, chain([self._arch_rise(at), fall]))

        return place

    def short_arch(self) -> Placed:
        """Up and over, ending in the air just past the top (r)."""

        def place(at: Point) -> Move:
            peak = (at[0] + self.peak_xh, 1.0)
            end = (peak[0] + 0.17, 0.91)
            fall = cubic(peak, (peak[0] + 0.07, 1.0), (end[0] - 0.05, 0.96), end)
            return Move(MoveKind.ARCH, chain([self._arch_rise(at), fall]))

        return place

    def hump(self, to: float = 0.0) -> tuple[Placed, ...]:
        """Back up the stem, over, and down (n m h)."""
        return retrace(self.branch_xh), self.arch(), down(to)

    def bowl_right(self) -> tuple[Placed, ...]:
        """Back up the stem, over, and clockwise round to the stem at the base line (b p)."""

        def place(at: Point) -> Move:
            stem = at[0] - self.peak_xh
            round_ = ellipse_arc((at[0], 0.5), stem + self.bowl_width_xh - at[0], 0.5, 90, -90)
            close = cubic((at[0], 0.0), (at[0] - 0.20, 0.0), (stem + 0.10, 0.03), (stem, 0.09))
            return Move(MoveKind.ROUND_RIGHT, chain([round_, close]), closes=True)

        return retrace(self.branch_xh), lambda at: Move(MoveKind.ARCH, self._arch_rise(at)), place

    def bowl_left(self) -> Placed:
        """Counterclockwise from the stem, all the way round, closing where it began (a d g q)."""

        def place(at: Point) -> Move:
            rx, ry = self.bowl_width_xh / 2, 0.5
            cx = at[0] - rx
            shoulder = cubic(at, (at[0] - 0.08, at[1] + 0.09), (cx + 0.53 * rx, 1.0), (cx, 1.0))
            round_ = ellipse_arc((cx, 0.5), rx, ry, 90, 270)
            rise = cubic((cx, 0.0), (cx + rx * KAPPA, 0.0), (at[0], 0.5 - ry * KAPPA), (at[0], 0.5))
            side = line((at[0], 0.5), at)
            return Move(MoveKind.ROUND_LEFT, chain([shoulder, round_, rise, side]), closes=True)

        return place

    def round_left(self, from_deg: float, to_deg: float, closes: bool = False) -> Placed:
        """Counterclockwise on the bowl's ellipse, from one angle to another (c e o)."""
        rx = self.bowl_width_xh / 2
        return arc(MoveKind.ROUND_LEFT, (rx, 0.5), rx, 0.5, from_deg, to_deg, closes)

    def on_bowl(self, deg: float) -> Point:
        """Point of the bowl's ellipse at an angle (0 = right, 90 = top)."""
        start = ellipse_arc((self.bowl_width_xh / 2, 0.5), self.bowl_width_xh / 2, 0.5, deg, deg + 1).start
        return float(start[0]), float(start[1])

    def cup(self) -> Placed:
        """Down, round to the right and up to the mid line: the arch turned upside down."""

        def place(at: Point) -> Move:
            turn, right = 1.0 - SHOULDER_XH, at[0] + self.arch_width_xh
            low, leave = (right - self.peak_xh, 0.0), 1 - self.branch_xh
            fall = cubic((at[0], turn), (at[0], turn - 0.24), (low[0] - 0.19, 0.0), low)
            rise = cubic(low, (low[0] + 0.22, 0.0), (right, 0.44 * leave), (right, leave))
            return Move(
                MoveKind.CUP, chain([line(at, (at[0], turn)), fall, rise, line((right, leave), (right, 1.0))])
            )

        return place

    def tail(self) -> tuple[Placed, ...]:
        """Down and round to the left on the drop line: how every tail ends (f g j y)."""

        def place(at: Point) -> Move:
            low = (at[0] - 0.54 * self.tail_width_xh, -1.0)
            end = (at[0] - self.tail_width_xh, TAIL_END_XH)
            turn = cubic(at, (at[0], -0.86), (low[0] + 0.16, -1.0), low)
            up = cubic(low, (low[0] - 0.11, -1.0), (end[0] + 0.06, -0.93), end)
            return Move(MoveKind.HOOK_LEFT, chain([turn, up]))

        return down(TAIL_TURN_XH), place


@dataclass(frozen=True)
class Measure:
    """A measure that a teacher may change on a letter: its key and limits."""

    key: str
    usual: float
    low: float
    high: float


_USUAL = Parts()
MEASURES: dict[str, Measure] = {
    one.name: Measure(
        one.name,
        float(getattr(_USUAL, one.name)),
        one.metadata["low"],
        one.metadata["high"],
    )
    for one in fields(Parts)
}
