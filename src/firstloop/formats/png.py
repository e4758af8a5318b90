"""PNG out: a letter or word on its lines, as a picture of any height."""

from __future__ import annotations

import io

from PIL import Image, ImageDraw

from firstloop.core.letterforms.model import Letter
from firstloop.core.ruling import RULINGS

HEIGHT_MOST_PX = 4000
_SHARPER = 3  # drawn so much larger, then made smaller, for smooth edges
_INK, _LINE, _PALE, _BAND, _PAPER = "#1b2a44", "#5b78a6", "#9fb0cb", "#f5eee0", "#fcf9f2"
_WEIGHT_XH = 0.11
_MARGIN_XH = 0.5


class PictureError(ValueError):
    """A picture of a size that cannot be made."""


def model_png(letter: Letter, height_px: int = 600) -> bytes:
    """Draw a letter or word.

    Parameters
    ----------
    height_px : int
        Of the whole picture, 40 to 4000.

    Raises
    ------
    PictureError
    """
    if not 40 <= height_px <= HEIGHT_MOST_PX:
        raise PictureError(f"a picture is 40 to {HEIGHT_MOST_PX} pixels high, not {height_px}")
    left, bottom, right, top = letter.bounds
    high, low = max(top, 2.0) + 0.4, min(bottom, -1.0) - 0.4
    scale = height_px * _SHARPER / (high - low)
    width = int((right - left + 2 * _MARGIN_XH) * scale)
    picture = Image.new("RGB", (width, height_px * _SHARPER), _PAPER)
    draw = ImageDraw.Draw(picture)

    def down(y: float) -> float:
        return (high - y) * scale

    draw.rectangle((0, down(1), width, down(0)), fill=_BAND)
    for line in RULINGS["four-lines"].lines:
        strong = line.name == "base"
        y, weight = down(line.height_xh), max(1, round((0.03 if strong else 0.016) * scale))
        step = int(0.18 * scale) if line.dashed else width
        for x in range(0, width, 2 * step if line.dashed else width):
            draw.line((x, y, min(x + step, width), y), fill=_LINE if strong else _PALE, width=weight)
    r = _WEIGHT_XH * scale / 2
    for stroke in letter.sampled:
        points = [((x - left + _MARGIN_XH) * scale, down(y)) for x, y in stroke.points]
        draw.line(points, fill=_INK, width=round(2 * r), joint="curve")
        for x, y in points:
            draw.ellipse((x - r, y - r, x + r, y + r), fill=_INK)
    small = picture.resize((max(1, width // _SHARPER), height_px), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    small.save(out, "PNG", optimize=True)
    return out.getvalue()
