"""What a pen wrote: strokes of points on a page, kept as they came."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

import numpy as np

from firstloop.core.curves import FloatArray
from firstloop.core.ruling import Ruling

POINTS_MAX = 2_000_000
PAGE_MM = 5_000.0  # how far from the corner of the page ink can be; no paper or board is larger


class Evidence(StrEnum):
    """Where ink comes from: of a scan it is not known in which order and direction it was written."""

    INK = "ink"
    SCAN = "scan"


class InkError(ValueError):
    """Ink that cannot be used, and why."""


@dataclass(frozen=True, eq=False)
class InkStroke:
    """Pen down to pen up.

    Parameters
    ----------
    points_mm : array, shape (n, 2), n >= 1
        Page millimetres, y downwards.
    t_ms : array, shape (n,), optional
        Time of each point.
    force : array, shape (n,), optional
        Pressure, 0 to 1.

    Raises
    ------
    InkError
        If there are no points, lengths differ, a number is not finite, or a point lies off any page.
    """

    points_mm: FloatArray
    t_ms: FloatArray | None = None
    force: FloatArray | None = None

    def __post_init__(self) -> None:
        if self.points_mm.ndim != 2 or self.points_mm.shape[1] != 2 or not len(self.points_mm):
            raise InkError("a stroke needs at least one point with X and Y")
        if not np.isfinite(self.points_mm).all():
            raise InkError("a stroke has a point that is not a finite number")
        if np.abs(self.points_mm).max() > PAGE_MM:
            raise InkError(f"a stroke has a point more than {PAGE_MM / 1000:g} m from the corner of the page")
        for name, channel in (("time", self.t_ms), ("force", self.force)):
            if channel is None:
                continue
            if channel.shape != (len(self.points_mm),):
                raise InkError(f"the {name} channel has another length than the points")
            if not np.isfinite(channel).all():
                raise InkError(f"the {name} channel has a value that is not a finite number")

    @property
    def duration_ms(self) -> float | None:
        """Time from first to last point, or None without times."""
        return None if self.t_ms is None else float(self.t_ms[-1] - self.t_ms[0])


@dataclass(frozen=True, eq=False)
class InkGroup:
    """Strokes that belong together: one attempt, a row, a word.

    Parameters
    ----------
    strokes : tuple of InkStroke
        In the order they were written.
    ruling : Ruling
        The lines they were written on.
    truth : str
        What the child was asked to write; empty when nobody knows.
    evidence : Evidence
        Where the strokes come from.
    """

    strokes: tuple[InkStroke, ...]
    ruling: Ruling
    truth: str = ""
    script: str = "print"
    hand: str = "right"
    evidence: Evidence = Evidence.INK

    @cached_property
    def in_letter_space(self) -> tuple[FloatArray, ...]:
        """Every stroke in letter space: (n, 2), xh, y upwards from the base line."""
        return tuple(self.ruling.to_letter(stroke.points_mm) for stroke in self.strokes)

    @property
    def duration_ms(self) -> float | None:
        """Time from the first pen down to the last pen up, or None without times."""
        timed = [stroke.t_ms for stroke in self.strokes if stroke.t_ms is not None]
        if len(timed) != len(self.strokes) or not timed:
            return None
        return float(max(t[-1] for t in timed) - min(t[0] for t in timed))
