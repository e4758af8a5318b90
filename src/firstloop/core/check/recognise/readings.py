"""Would the ink be read as the letter asked for, as its mirror image, or as another letter?

The limits are set on the tuning hand of ``first-loop evaluate``: each stands between what its clean
letters and what its mirrored or misread ones reach, nearer to the latter, so that in doubt the letter
asked for wins.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from firstloop.core.check.match.align import align
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.template import template
from firstloop.core.check.recognise.pictures import (
    PLAIN_XH,
    ClassSet,
    class_set,
    mirror,
    picture,
    reading_costs,
)
from firstloop.core.curves import FloatArray, flipped, length
from firstloop.core.letterforms.style import HouseStyle

BENT_ALL_OVER = 1.6  # tolerances of form beyond which what is said of single parts means little
_MIRROR_RATIO = 0.62
_MIRROR_LEAST_XH = 0.095  # a letter that fits itself better than this is not mirrored
_MIRROR_MOST_XH = 0.16
_MIRROR_MOVE_RATIO = 0.5  # the same, for the pen's way instead of the picture
_MIRROR_LOOKS_RATIO = 0.9
_MIRROR_MOVE_LEAST_XH = 0.085
_SYMMETRIC_XH = 0.03
_OTHER_RATIO = 0.80
_OTHER_PLAIN_XH = 0.08
_OTHER_LOOSE_RATIO = 0.65
_OTHER_MOST_XH = 0.18
_OTHER_BENT_XH = 0.11  # the same, for ink that is far from its own letter's way all over
_AS_LIKELY = 1.3  # a rival that fits no worse than so many times as badly may be it, if the pen went its way
_AS_LIKELY_XH = 0.1
_ITS_WAY = 0.6
_OWN_LEAST_XH = 0.09  # a letter that fits itself better than this in its own frame is no mirror image
_ELSEWHERE_XH = 0.55
_UNREADABLE_XH = 0.45
# so many times the model's length of ink, that fits neither as a picture nor as a way, is a scribble
_SCRIBBLE_LENGTH = 2.4
_FILLS_ANYTHING = 5.0  # times as long as its model: so much ink looks a little like any letter
_NO_PICTURE_XH = 0.12
_NO_WAY_XH = 0.28


@dataclass(frozen=True)
class Reading:
    """What the ink looks like: the letter asked for, its mirror image or another; and how well it fits."""

    reads_as: str
    own_cost: float
    mirrored: bool
    other: str | None
    best_cost: float


def read(case: Case, style: HouseStyle, chars: str, form_off: float = 0.0) -> Reading:
    """Read the ink as a picture, at its true place on the lines.

    Parameters
    ----------
    chars : str
        The letters it may be read as.
    form_off : float
        How many tolerances its form is out; 0 where it is within.
    """
    own_set = class_set(case.char, style)
    ink = picture(list(case.bare_ink))
    own = float(reading_costs(ink, own_set)[0])
    if own > PLAIN_XH:  # not plainly itself where it stands: perhaps in its own frame
        laid = picture([case.frame.apply(stroke) for stroke in case.bare_ink])
        own = min(own, float(reading_costs(laid, own_set)[0]))
    astray = form_off > 0 or _is_begun_elsewhere(case)
    if own <= PLAIN_XH and not astray:  # plainly itself: what else it is like does not matter
        return Reading(case.char, own, _is_mirrored(case, style, own, own), None, own)
    letters, costs = _costs(case, style, chars, ink)
    own = min(own, float(costs[0]))
    mirror_cost = _mirror_cost(ink, own_set) if own > _OWN_LEAST_XH else own
    mirrored = _is_mirrored(case, style, own, mirror_cost)
    rival = next((int(i) for i in np.argsort(costs) if letters[int(i)] != case.char), 0)
    cost = float(costs[rival])
    clear = own > PLAIN_XH and _passes_for(cost, own, not mirrored and form_off > BENT_ALL_OVER)
    if not clear and astray and cost < min(_AS_LIKELY * costs[0], _AS_LIKELY_XH):
        clear = _goes_its_way(case, letters[rival], style)
    return Reading(
        reads_as=letters[rival] if clear else case.char,
        own_cost=own,
        mirrored=mirrored,
        other=letters[rival] if clear else None,
        best_cost=min(own, float(costs.min()), mirror_cost),
    )


def _is_begun_elsewhere(case: Case) -> bool:
    """Whether the pen went down so far from the model's start that another letter may be meant."""
    off = case.all_normal[case.first_stroke][0] - case.template.runs[0][0]
    return case.begins and float(np.hypot(*off)) > _ELSEWHERE_XH


def _costs(case: Case, style: HouseStyle, chars: str, ink: FloatArray) -> tuple[str, FloatArray]:
    """The letters it may be read as, the one asked for first, and how badly it fits each."""
    letters = class_set("".join(dict.fromkeys(case.char + chars)), style)
    costs = reading_costs(ink, letters)
    if costs[0] > PLAIN_XH and style.script.flicks:
        # of another letter more than an exit may have been taken for the exit
        whole = class_set(letters.chars, style, joins=True)
        costs = np.minimum(costs, reading_costs(picture(list(case.ink)), whole))
    return letters.chars, costs


def nearest_readings(case: Case, style: HouseStyle, chars: str, count: int = 4) -> list[tuple[str, float]]:
    """The letters that the ink looks most like, nearest first, and how badly it fits each, xh."""
    letters, costs = _costs(case, style, chars, picture(list(case.bare_ink)))
    return [(letters[int(i)], float(costs[i])) for i in np.argsort(costs)[:count]]


def _goes_its_way(case: Case, other: str, style: HouseStyle) -> bool:
    """Whether the pen went the way of a letter that the ink looks as much like, and clearly not its own."""
    if style.is_joined:
        return False
    return align(case.ink, template(other, style)).cost < _ITS_WAY * case.match.cost


def _passes_for(rival: float, own: float, bent: bool) -> bool:
    """Whether ink that fits a rival so well, and its own letter so badly, is taken for the rival.

    A rival that fits as a well-made letter would has to be only a little better; one that fits
    loosely, as misshapen ink does, has to be much better.
    """
    if rival < _OTHER_PLAIN_XH:
        return rival < _OTHER_RATIO * own
    most = _OTHER_BENT_XH if bent else _OTHER_MOST_XH
    return rival < min(_OTHER_LOOSE_RATIO * own, most)


def _mirror_cost(ink: FloatArray, own: ClassSet) -> float:
    """Cost of the ink's mirror image against the model, on the lines or box on box."""
    turned = mirror(ink)
    high, low = turned[:, 1].max(), turned[:, 1].min()
    goal = own.pictures[0][:, 1]
    boxed = turned.copy()
    boxed[:, 1] = (turned[:, 1] - low) / max(high - low, 0.2) * np.ptp(goal) + goal.min()
    return float(min(reading_costs(turned, own)[0], reading_costs(boxed, own)[0]))


def _is_mirrored(case: Case, style: HouseStyle, own: float, mirror_cost: float) -> bool:
    """Whether the mirror image fits clearly better, as a picture or as a movement.

    Letters that are their own mirror image (o, v, x ...) have no mirrored form.
    """
    if class_set(case.char, replace(style, slant_deg=0.0)).mirror_cost < _SYMMETRIC_XH:
        return False
    looks = mirror_cost < min(_MIRROR_RATIO * own, _MIRROR_MOST_XH) and own > _MIRROR_LEAST_XH
    if not looks and case.match.cost < _MIRROR_MOVE_LEAST_XH:
        return False
    ratio = align(tuple(map(flipped, case.ink)), case.template).cost / case.match.cost
    return ratio < (_MIRROR_LOOKS_RATIO if looks else _MIRROR_MOVE_RATIO)


def is_unreadable(case: Case, reading: Reading) -> bool:
    """Whether this is no letter at all: a tap, or a scribble."""
    written = sum(length(stroke) for stroke in case.ink)
    if written < 0.25:
        return True
    times = (written - 1.0) / case.template.length
    no_picture = reading.best_cost > _NO_PICTURE_XH or times > _FILLS_ANYTHING
    lost = times > _SCRIBBLE_LENGTH and no_picture and case.match.cost > _NO_WAY_XH
    return reading.best_cost > _UNREADABLE_XH or lost
