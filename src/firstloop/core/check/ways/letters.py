"""The way of a letter along ink whose order nobody saw."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from firstloop.core.check.match.template import Template, template
from firstloop.core.check.recognise.pictures import as_far, class_set, picture, reading_costs
from firstloop.core.check.ways.follow import Followed, Guide, Lines, follow, guide
from firstloop.core.check.ways.strokes import as_strokes
from firstloop.core.curves import FloatArray, flipped
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.model import NARROW_XH
from firstloop.core.letterforms.style import HouseStyle

# A way that costs less is the letter asked for: none other is looked at. The best ways cost 0.02.
_PLAIN_MIRROR, _PLAIN = 0.06, 0.1
_MIRRORED, _OTHER = 0.7, 0.6  # of what its own way costs, another has to cost less than this share
_MIRROR_LEAST = 0.04  # letters that are nearly the same in the mirror are no more alike than that
_OTHERS = 3
_STRETCH = (0.6, 1.6)
_SAME_XH = 0.1


def letter_strokes(lines: Lines, expected: str, style: HouseStyle, chars: str) -> list[FloatArray]:
    """Ink as strokes that go as the letter asked for does, or as what was written in its place.

    Parameters
    ----------
    chars : str
        The letters it may be instead.

    Returns
    -------
    list of array, shape (n, 2), letter space, all of the ink.
    """
    if expected in ALPHABETS["marks"]:
        return [lines.spots[run] for run in lines.runs]
    _, best = letter_ways(lines, expected, style, chars)
    return as_strokes(lines, best)


@lru_cache(maxsize=2)  # asked for again of the same ink, and of that without a tick: its state, its strokes
def letter_ways(lines: Lines, expected: str, style: HouseStyle, chars: str) -> tuple[Followed, Followed]:
    """The way of the letter asked for along ink, and the way of what was written: often the same."""
    model = template(expected, style)
    own = _followed(lines, _guide(model, mirrored=False))
    best, most = own, own.cost
    if own.cost > _PLAIN_MIRROR:
        turned = _followed(lines, _guide(model, mirrored=True))
        if turned.cost < min(_MIRRORED * own.cost, own.cost - _MIRROR_LEAST):
            best, most = turned, turned.cost
    if own.cost > _PLAIN:
        for char in _likely(lines, chars, style, expected):
            other = _followed(lines, _guide(template(char, style), mirrored=False))
            if other.whole_cost < min(_OTHER * own.cost, most):
                best, most = other, other.whole_cost
    return own, best


def _likely(lines: Lines, chars: str, style: HouseStyle, expected: str) -> list[str]:
    """What the ink looks most like but the letter asked for."""
    letters = class_set(chars, style, joins=True)
    costs = reading_costs(picture([lines.spots[run] for run in lines.runs]), letters)
    nearest = [letters.chars[int(i)] for i in np.argsort(costs)]
    return [char for char in nearest if char != expected][:_OTHERS]


@lru_cache(maxsize=512)
def _guide(model: Template, *, mirrored: bool) -> Guide:
    """The strokes of a model but its dot, which lies apart from all other ink."""
    strokes = list(model.runs.values())
    return guide([flipped(one) for one in strokes] if mirrored else strokes)


def _followed(lines: Lines, model: Guide) -> Followed:
    return follow(lines, model, layings(lines, model.points))


def layings(lines: Lines, model: FloatArray) -> Sequence[FloatArray]:
    """A model laid on ink: as it stands on the lines, box on box, and with rises and drops as long."""
    (low, bottom), (high, top) = lines.box
    own_low, own_high = model.min(0), model.max(0)
    wide = own_high[0] - own_low[0]
    stretch = 1.0
    if wide > NARROW_XH and high - low > NARROW_XH / 2:
        stretch = float(np.clip((high - low) / wide, *_STRETCH))
    x = (model[:, 0] - (own_low[0] + own_high[0]) / 2) * stretch + (low + high) / 2
    y = model[:, 1]
    heights = [y]
    if max(abs(bottom - own_low[1]), abs(top - own_high[1])) > _SAME_XH:
        tall = max(own_high[1] - own_low[1], 0.1)
        heights.append((y - own_low[1]) / tall * (top - bottom) + bottom)
        heights.append(as_far(y[None], *np.array([[[bottom]], [[top]]]))[0])
    return [np.column_stack([x, one]) for one in heights]
