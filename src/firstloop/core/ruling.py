"""Ruled lines in millimetres, and the way between the page and letter space.

The page has y downwards in millimetres; letter space has y upwards in xh with the base line at 0.
The two are tied band by band, so one model serves rulings of other proportions.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

import numpy as np

from firstloop.core.curves import FloatArray

X_HEIGHT_MIN_MM, X_HEIGHT_MAX_MM = 4.0, 20.0
READ_MIN_MM, READ_MAX_MM = 1.0, 200.0  # what ink from elsewhere may stand on: fine print to a board
FARTHEST_MM = 5_000.0
RISE_XH, DROP_XH = 2.0, -1.0
RISE_RANGE_XH = (1.5, 2.2)
DROP_RANGE_XH = (-1.2, -0.5)


class RulingError(ValueError):
    """Lines were given that nothing can be written between."""


@dataclass(frozen=True)
class Ruling:
    """Where the four lines stand on a page.

    Parameters
    ----------
    mid_mm, base_mm : float
        Page y of the mid and base line, growing downwards.
    rise_mm, drop_mm : float or None
        Page y of the outer lines; None puts them at 2 and -1 xh.

    Raises
    ------
    RulingError
        If the lines are not in order from the top of the page, not finite, or on no page.
    """

    mid_mm: float
    base_mm: float
    rise_mm: float | None = None
    drop_mm: float | None = None

    def __post_init__(self) -> None:
        known = [v for v in (self.rise_mm, self.mid_mm, self.base_mm, self.drop_mm) if v is not None]
        if not np.all(np.isfinite(known)):
            raise RulingError("a ruled line is not at a finite place")
        if any(a >= b for a, b in pairwise(known)):
            raise RulingError("ruled lines must go down the page in the order rise, mid, base, drop")
        if not READ_MIN_MM <= self.xh_mm <= READ_MAX_MM or max(map(abs, known)) > FARTHEST_MM:
            raise RulingError(
                f"mid and base line must be {READ_MIN_MM:g} to {READ_MAX_MM:g} mm apart and lie on a page"
            )

    @property
    def xh_mm(self) -> float:
        """Base line to mid line."""
        return self.base_mm - self.mid_mm

    @property
    def lines_mm(self) -> tuple[float, float, float, float]:
        """Page y of rise, mid, base and drop line, the outer ones filled in."""
        rise = self.mid_mm - self.xh_mm if self.rise_mm is None else self.rise_mm
        drop = self.base_mm + self.xh_mm if self.drop_mm is None else self.drop_mm
        return rise, self.mid_mm, self.base_mm, drop

    def to_letter(self, points_mm: FloatArray) -> FloatArray:
        """Page millimetres to letter space; shape (n, 2) in and out. x stays where it is, in xh."""
        return np.column_stack(
            [points_mm[:, 0] / self.xh_mm, _bands(points_mm[:, 1], self.lines_mm, _HEIGHTS_XH)]
        )

    def to_page(self, points_xh: FloatArray, left_mm: float = 0.0) -> FloatArray:
        """Letter space to page millimetres; the inverse of :meth:`to_letter`, moved right by `left_mm`."""
        x = left_mm + points_xh[:, 0] * self.xh_mm
        return np.column_stack([x, _bands(points_xh[:, 1], _HEIGHTS_XH, self.lines_mm)])


_HEIGHTS_XH = (RISE_XH, 1.0, 0.0, DROP_XH)


def _bands(values: FloatArray, source: tuple[float, ...], target: tuple[float, ...]) -> FloatArray:
    """Piecewise linear map through four known heights, running on straight outside them."""
    s, t = np.array(source), np.array(target)
    if s[0] > s[-1]:
        s, t = s[::-1], t[::-1]
    band = np.clip(np.searchsorted(s, values) - 1, 0, len(s) - 2)
    slope = (t[1:] - t[:-1]) / (s[1:] - s[:-1])
    return np.asarray(t[band] + (values - s[band]) * slope[band])


class Boxes(StrEnum):
    """What a ruling draws boxes around."""

    LETTER = "letter"
    WORD = "word"


@dataclass(frozen=True)
class RuledLine:
    """One line of a ruling as it is drawn: its name, height in xh, whether it is dashed, and strong."""

    name: str
    height_xh: float
    dashed: bool
    strong: bool


Box = tuple[float, float, float, float]
"""Left, bottom, right, top, xh."""


@dataclass(frozen=True)
class RulingKind:
    """A way of ruling paper: which lines are drawn and how. Its name stands in the catalogue.

    Every output (screen, SVG, PDF, PNG) draws what stands here: a new ruling is a new entry of
    :data:`RULINGS`.

    Parameters
    ----------
    washed : bool
        Whether the middle band is tinted.
    boxes : Boxes or None
        Whether every letter has its three blocks, or every word a box.
    """

    key: str
    lines: tuple[RuledLine, ...]
    washed: bool = False
    boxes: Boxes | None = None
    rise_xh: float = RISE_XH
    drop_xh: float = DROP_XH

    def ruled(self, xh_mm: float, top_mm: float = 0.0) -> Ruling:
        """Rule a page with the rise line at `top_mm`.

        Raises
        ------
        RulingError
            If the x-height is outside 4 to 20 mm.
        """
        if not X_HEIGHT_MIN_MM <= xh_mm <= X_HEIGHT_MAX_MM:
            raise RulingError(
                f"x-height must be {X_HEIGHT_MIN_MM:g} to {X_HEIGHT_MAX_MM:g} mm, not {xh_mm:g}"
            )
        base = top_mm + self.rise_xh * xh_mm
        return Ruling(base - xh_mm, base, top_mm, base - self.drop_xh * xh_mm)

    @property
    def room_below_xh(self) -> float:
        """So far below its lowest line the boxes of tails may reach."""
        return _BOX_ROOM_XH if self.boxes is Boxes.WORD else 0.0

    def drawn_boxes(self, words: Sequence[Sequence[Box]]) -> list[Box]:
        """The boxes to be drawn around words, each given as the boxes of its letters.

        Examples
        --------
        >>> len(RULINGS["three-blocks"].drawn_boxes([[(0, 0, 1, 1), (1, 0, 2, 2)]]))
        6
        >>> RULINGS["three-blocks"].drawn_boxes([[(0, 0, 0, 2)]])[1]
        (-0.6, 0.0, 0.6, 1.0)
        >>> RULINGS["word-boxes"].drawn_boxes([[(0, 0, 1, 1), (1.0, -1.0, 2, 2)]])
        [(-0.2, -1.2, 2.2, 2.2)]
        """
        return [] if self.boxes is None else boxes_around(words, self.boxes, self.rise_xh, self.drop_xh)


_BOX_ROOM_XH = 0.2  # clear paper between what is written and its box
_BLOCKS_LEAST_XH = 1.2  # how wide blocks are: a pencil's line has room in those of an l, too


def boxes_around(
    words: Sequence[Sequence[Box]], boxes: Boxes, rise_xh: float = RISE_XH, drop_xh: float = DROP_XH
) -> list[Box]:
    """Three blocks for every letter, or a box around every word, each given as the boxes of its letters."""
    written = [word for word in words if word]
    if boxes is Boxes.WORD:
        return [_around(word) for word in written]
    bands = ((1.0, rise_xh), (0.0, 1.0), (drop_xh, 0.0))
    cells = [cell for word in written for cell in pairwise(_edges(word))]
    return [(left, low, right, high) for left, right in cells for low, high in bands]


def _edges(word: Sequence[Box]) -> list[float]:
    """Where the blocks of a word's letters meet: halfway between neighbours, clear of the outer ones."""
    (first, *_), (_, _, last, _) = word[0], word[-1]
    between = [(one[2] + other[0]) / 2 for one, other in pairwise(word)]
    room = max(_BOX_ROOM_XH, (_BLOCKS_LEAST_XH - (last - first)) / 2)
    return [first - room, *between, last + room]


def _around(boxes: Sequence[Box]) -> Box:
    left, bottom, right, top = zip(*boxes, strict=True)
    room = _BOX_ROOM_XH
    return min(left) - room, min(bottom) - room, max(right) + room, max(top) + room


_DASHED, _PLAIN, _STRONG = "dashed", "plain", "strong"


def _lines(rise: str = "", mid: str = "", base: str = "", drop: str = "") -> tuple[RuledLine, ...]:
    """Lines by how each is drawn; one that is not named is left out."""
    named = (("rise", RISE_XH, rise), ("mid", 1.0, mid), ("base", 0.0, base), ("drop", DROP_XH, drop))
    return tuple(
        RuledLine(name, height, look == _DASHED, look == _STRONG) for name, height, look in named if look
    )


RULINGS: dict[str, RulingKind] = {
    kind.key: kind
    for kind in (
        RulingKind("four-lines", _lines(_DASHED, _PLAIN, _STRONG, _DASHED), washed=True),
        RulingKind("four-lines-capital", _lines(_PLAIN, _DASHED, _STRONG, _DASHED), washed=True),
        RulingKind("three-blocks", _lines(_PLAIN, _PLAIN, _STRONG, _PLAIN), boxes=Boxes.LETTER),
        RulingKind("base-only", _lines(base=_STRONG)),
        RulingKind("word-boxes", (), boxes=Boxes.WORD),
        RulingKind("blank", ()),
    )
}


USUAL_RULING = "four-lines"


def ruling_kind(key: str) -> RulingKind:
    """Look a ruling up by its key.

    Raises
    ------
    RulingError
        If there is none of that name.
    """
    try:
        return RULINGS[key]
    except KeyError:
        raise RulingError(f"there is no ruling {key!r}; choose one of {', '.join(RULINGS)}") from None
