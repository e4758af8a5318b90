"""PNG out: a letter or word on its lines, as a picture of any height."""

from __future__ import annotations

import io
from collections.abc import Callable

import numpy as np
from PIL import Image, ImageDraw

from firstloop.core.curves import FloatArray, Point
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.moves import Move
from firstloop.core.ruling import USUAL_RULING, RulingKind, ruling_kind

HEIGHT_MOST_PX = 4000
_SHARPER = 3  # drawn so much larger, then made smaller, for smooth edges
_INK, _LINE, _PALE, _BAND, _PAPER = "#1b2a44", "#5b78a6", "#9fb0cb", "#f5eee0", "#fcf9f2"
_WEIGHT_XH = 0.11
_MARGIN_XH = 0.5
_STEP_XH = 0.01


class PictureError(ValueError):
    """A picture of a size that cannot be made."""


class _PngPen:
    """Draws strokes of round-ended thickness on a picture; a pen as letters know it."""

    def __init__(
        self, draw: ImageDraw.ImageDraw, place: Callable[[FloatArray], FloatArray], weight: float
    ) -> None:
        self._draw, self._place, self._weight = draw, place, weight
        self._points: list[tuple[float, float]] = []

    def pen_down(self, start: Point) -> None:
        """Begin a stroke."""
        self._points = []

    def make(self, move: Move) -> None:
        """Go along one move."""
        self._points += [(x, y) for x, y in self._place(move.path.points(_STEP_XH)).tolist()]

    def pen_up(self) -> None:
        """Draw the stroke."""
        r = self._weight / 2
        self._draw.line(self._points, fill=_INK, width=round(self._weight), joint="curve")
        for x, y in self._points:
            self._draw.ellipse((x - r, y - r, x + r, y + r), fill=_INK)


def model_png(letter: Letter, ruling: str = USUAL_RULING, height_px: int = 600) -> bytes:
    """Draw a letter or word.

    Parameters
    ----------
    ruling : str
        Key of a ruling in :data:`firstloop.core.ruling.RULINGS`.
    height_px : int
        Of the whole picture, 40 to 4000.

    Raises
    ------
    PictureError, RulingError
    """
    if not 40 <= height_px <= HEIGHT_MOST_PX:
        raise PictureError(f"a picture is 40 to {HEIGHT_MOST_PX} pixels high, not {height_px}")
    left, bottom, right, top = letter.bounds
    high, low = max(top, 2.0) + 0.4, min(bottom, -1.0) - 0.4
    scale = height_px * _SHARPER / (high - low)
    width = int((right - left + 2 * _MARGIN_XH) * scale)
    picture = Image.new("RGB", (width, height_px * _SHARPER), _PAPER)
    draw = ImageDraw.Draw(picture)

    def place(points: FloatArray) -> FloatArray:
        return np.column_stack([(points[:, 0] - left + _MARGIN_XH) * scale, (high - points[:, 1]) * scale])

    _rule(draw, ruling_kind(ruling), letter, place, width, scale)
    letter.draw(_PngPen(draw, place, _WEIGHT_XH * scale))
    small = picture.resize((max(1, width // _SHARPER), height_px), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    small.save(out, "PNG", optimize=True)
    return out.getvalue()


def _rule(
    draw: ImageDraw.ImageDraw,
    kind: RulingKind,
    letter: Letter,
    place: Callable[[FloatArray], FloatArray],
    width: int,
    scale: float,
) -> None:
    """Everything the ruling draws."""

    def down(y: float) -> float:
        return float(place(np.array([[0.0, y]]))[0, 1])

    if kind.washed:
        draw.rectangle((0, down(1), width, down(0)), fill=_BAND)
    thin = max(1, round(0.016 * scale))
    for x0, low, x1, high in kind.drawn_boxes(letter_boxes(letter)):
        (a, b), (c, d) = place(np.array([[x0, high], [x1, low]])).tolist()
        draw.rectangle((a, b, c, d), outline=_PALE, width=thin)
    for line in kind.lines:  # over the boxes, whose edges would make the base line pale
        y, weight = down(line.height_xh), max(1, round(0.03 * scale)) if line.strong else thin
        step = int(0.18 * scale) if line.dashed else width
        for x in range(0, width, 2 * step if line.dashed else width):
            draw.line((x, y, min(x + step, width), y), fill=_LINE if line.strong else _PALE, width=weight)
