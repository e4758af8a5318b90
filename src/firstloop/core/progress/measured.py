"""Measures of one written letter against its model, comparable from letter to letter and week to week."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from firstloop.core.letterforms.model import NARROW_XH, Letter

_TAIL_XH = -0.2  # a letter whose model reaches lower has no foot of its own to stand on the line
_FLAT_XH = 0.5
_SPREAD_LEAST = 3


def measured(
    measures: Mapping[str, float | None], model: Letter, slant_deg: float, xh_mm: float
) -> dict[str, float]:
    """What can be told of one letter, by the keys of :data:`~firstloop.core.progress.trends.MEASURES`.

    Parameters
    ----------
    measures : mapping
        As the checker gives them: ``height_xh``, ``width_xh``, ``bottom_xh``, ``slant_deg``,
        ``form_xh``, ``speed_xh_s``; None where the ink cannot tell.
    slant_deg : float
        Slant of the house.
    xh_mm : float
        Height of the middle band as it was ruled.
    """
    left, bottom, right, top = model.bounds
    out: dict[str, float] = {}

    def keep(key: str, source: str, scale: float, zero: float) -> None:
        value = measures.get(source)
        if value is not None:
            out[key] = round(scale * (value - zero), 3)

    if top - bottom > _FLAT_XH:
        keep("height", "height_xh", 100 / (top - bottom), top - bottom)
    if right - left > NARROW_XH:
        keep("width", "width_xh", 100 / (right - left), right - left)
    if bottom > _TAIL_XH:
        keep("place", "bottom_xh", xh_mm, bottom)
    keep("slant", "slant_deg", 1.0, slant_deg)
    keep("form", "form_xh", 100.0, 0.0)
    keep("speed", "speed_xh_s", 1.0, 0.0)
    return out


def measured_of_text(measures: Mapping[str, float | None], xh_mm: float) -> dict[str, float]:
    """What can be told of the room in a word or line, by the keys of `MEASURES`.

    Parameters
    ----------
    measures : mapping
        As the checker gives them for a whole: ``gap_off_xh`` and ``finger_spaces``; None where the text
        has no such room.
    """
    out: dict[str, float] = {}
    off, fingers = measures.get("gap_off_xh"), measures.get("finger_spaces")
    if off is not None:
        out["room"] = round(off * xh_mm, 3)
    if fingers is not None:
        out["fingers"] = round(100 * (fingers - 1), 3)
    return out


def spread(heights: Sequence[float]) -> float | None:
    """How uneven the heights of one row are: largest less smallest, as a share of the model's, per cent.

    None for fewer than three letters.
    """
    return float(np.ptp(heights)) if len(heights) >= _SPREAD_LEAST else None


def middles(letters: Sequence[Mapping[str, float]]) -> dict[str, float]:
    """The middle value of each measure over several letters."""
    keys = sorted({key for one in letters for key in one})
    return {key: round(float(np.median([one[key] for one in letters if key in one])), 3) for key in keys}
