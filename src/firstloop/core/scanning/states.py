"""What was done in a place of a page: written, left empty, crossed out, written over."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from scipy.spatial.distance import cdist

from firstloop.core.check.match.template import Template, template
from firstloop.core.check.ways.follow import NOWHERE, STEP_XH, Followed, Lines
from firstloop.core.check.ways.letters import letter_ways
from firstloop.core.curves import BoolArray, FloatArray, IntArray, cross, nearest
from firstloop.core.letterforms.alphabets import ALPHABETS, EVERY
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle

# Limits were set on 2,829 places of 48 pages (seeds 7000 to 7007, both hands); values nearby did as well.
# How well a letter is followed, what is tiny, how much is far more ink: on 4,571 (seeds 90000 to 90319). How
# much of a line is left over, and what goes on: on 16,019 of 366 pages (90000 to 135019, 10000 to 10023).
_OFF_XH, _COVER, _STRIKE_XH = 0.1, 0.85, 0.5  # of a line: how straight, how much of it is ink, how long
_CHORD, _AT_ONCE = np.linspace(0, 1, 40), 100_000  # lines times spots of ink
_ENDS_MOST, _TEXT_ENDS_MOST = 14, 40
_BESIDE_XH, _BESIDE_LEAST = 0.12, 2  # so far to each side, so many spots of other ink
_HARDLY = 0.25  # followed is what costs more a step
# How well a letter is followed at least, how far a line then goes on beyond all other ink at both ends, and
# how much of it is none of the letter: the worse, and the less, the more. What is hardly followed may be
# anything.
_OUT = ((0.15, 0.15, 0.18), (0.15, 0.08, 0.33), (_HARDLY, 0.15, 0.25), (np.inf, 0.15, 0.42))
_ON_XH = 0.15  # where a stem goes on, other ink meets it up to here: the bowl of an a that is made a d
_TIP_XH = 0.15  # from where a stroke ends to where it goes on
_DOT_XH, _DOT_MOST_XH = 0.2, 0.5  # a dot is this little below the top of its letter at most; how large it is
_UNDER_DOT_XH, _UNDER_DOT_OUT_XH = 0.25, 0.1  # of a line through what has one: how long, how far out
_LONG_XH, _SHARE, _LEFT_XH = 0.8, 0.33, 0.85  # of a line through a letter that is all there
_FOLLOWED = 0.65  # a way that costs more says little of what is left over
# A scribble has no letter under it that was crossed out. What a step may cost on the ink of one that was: on
# 6,516 (90000 to 92015, 100000 to 100109).
_SEEN_LINE = 0.22
_PRESSED = 0.34  # of its steps, that have ink of their own
_ALONE_SHARE, _ALONE_OUT_XH = 0.45, 0.05  # of a line beside a letter, not through it
_OTHER = 0.1  # a way that costs less is that of the letter that was written
_TEXT_XH, _TEXT_SHARE = 1.5, 0.7  # a line through less may be a bar; of the width of the ink
_CONNECTED = 0.6  # of a line through a word
# How many more times ink goes all the way up or down than the letter: on 3,952 places of 72 pages, 1 in 4 of
# them crossed out (140000 to 140015, 150000 to 150019); from 1.2 to 1.5 it is much the same.
_UP_AND_DOWN = 1.4
_FLAT_XH = 0.25  # what is no taller goes neither up nor down
_MUCH_INK, _MUCH_IN_TEXT = 2.05, 1.35  # times the model's, drawn by the pen of the page
_BLOT, _BLOT_INK = 1.5, 0.6  # times as wide as the pen of the page; less of the model's ink is a tiny letter
_OVER, _OVER_XH = 1.35, 0.8  # times the model's length; so much of it no part of the letter
_OVER_NEAR_XH, _OVER_NEAR = 0.2, 0.9  # so much of that this near the letter
# Of 174 ticks on tails 167 are told by these (158 where it had to be followed more cheaply without); of 62
# tails in a ring none as one (seeds 162000 to 162013, 164000 to 164011).
_MISSING_MORE = 0.15  # of a letter
_TICK_AREA, _TICK_MIDDLE, _TICK_LEFT = 1.1, 0.7, 0.6  # radii of the ring, of which a rest may be on its edge


class Found(StrEnum):
    """What is in a place of a page."""

    INK = "ink"
    WRITTEN_OVER = "written-over"
    CROSSED_OUT = "crossed-out"
    EMPTY = "empty"
    UNCLEAR = "unclear"


def letter_state(
    lines: Lines, inked_xh: float, pen_xh: float, expected: str, style: HouseStyle, chars: str
) -> Found:
    """What was done where one letter was asked for, and there is ink.

    It is crossed out where a straight line goes through it that is no part of it: the letter is followed
    along the ink, and what a line has to itself is left over.

    Parameters
    ----------
    inked_xh : float
        How long a line of the pen would be that covers as much paper: a zigzag runs into one blot, whose
        middle lines say nothing.
    pen_xh : float
        How wide the pen of the page writes.
    chars : str
        The letters that it may be instead.
    """
    model = template(expected, style)
    size = _written_size(lines, model)
    if lines.width_xh > _BLOT * pen_xh and inked_xh > _BLOT_INK * size:
        return Found.CROSSED_OUT
    if expected in ALPHABETS["marks"]:
        return Found.CROSSED_OUT if inked_xh > _MUCH_INK * size else Found.INK
    if not _meetings(lines):
        return Found.INK  # one line alone, however long, has nothing that goes through it
    if letter(expected, style).has_dot and _is_struck_under_dot(lines):
        return Found.CROSSED_OUT
    return _followed_state(lines, size, pen_xh, expected, style, chars)


def _followed_state(
    lines: Lines, size: float, pen_xh: float, expected: str, style: HouseStyle, chars: str
) -> Found:
    """What was done to a letter of a size, xh, whose lines meet: it is followed along them."""
    own, best = letter_ways(lines, expected, style, chars)
    is_other = best is not own and best.cost < _OTHER
    left, whole = _left_over(lines, own), _is_whole(own)
    is_over = whole and _is_written_over(lines, left, size)
    if not (is_other or is_over) and _is_zigzag(lines, template(expected, style), pen_xh):
        return Found.CROSSED_OUT
    strikes = list(_strikes(lines, _ENDS_MOST, into_ink=True))
    is_struck = (whole or not is_other) and _is_struck(lines, strikes, left, own)
    if is_other and _is_whole(best):
        is_struck |= _is_struck(lines, strikes, _left_over(lines, best), best)
    if is_struck or (whole and own.way_cost < _SEEN_LINE and _is_alone(strikes, left)):
        return Found.CROSSED_OUT
    if is_over:
        return Found.WRITTEN_OVER
    left = _left_over(lines, best)
    is_left = (
        best.cost < _FOLLOWED and best.way_cost < _SEEN_LINE and _is_left_over(lines, strikes, left, best)
    )
    # where something of the letter is missing, the line may be that
    return Found.CROSSED_OUT if is_left and _is_whole(best) else Found.INK


def _is_whole(followed: Followed) -> bool:
    """Whether all of a letter is there, and none of its strokes is pressed together for want of ink."""
    strokes = np.split(followed.at, followed.laid.begins[1:])
    return not followed.missing and all(len(np.unique(one)) > _PRESSED * len(one) for one in strokes)


@dataclass(frozen=True, eq=False)
class BestRing:
    """The ring of the best one, letter space: its middle, shape (2,), and radius."""

    middle: FloatArray
    radius_xh: float


def tick_on_letter(
    tied: Lines, free: Lines, ring: BestRing, expected: str, style: HouseStyle, chars: str
) -> BoolArray:
    """Which spots of ink are a tick in a ring that a letter runs into; shape (p,), none where there is none.

    The letter does not go along the tick and has hardly more missing without what is in the ring; where it
    is hardly followed, it has to be so more cheaply without.

    Parameters
    ----------
    tied, free : Lines
        All of the ink; and without what is in the ring.
    chars : str
        As of :func:`letter_state`.
    """
    own, without = (letter_ways(lines, expected, style, chars)[0] for lines in (tied, free))
    away = np.hypot(*(tied.spots - ring.middle).T) / ring.radius_xh
    left = _left_over(tied, own)
    is_tick = (
        (own.way_cost < _HARDLY or without.whole_cost < own.whole_cost)
        and without.missing <= own.missing + _MISSING_MORE
        and left[away < _TICK_MIDDLE].sum() * STEP_XH > _TICK_LEFT * ring.radius_xh
    )
    return left & (away < _TICK_AREA) if is_tick else np.zeros_like(left)


def _is_struck(lines: Lines, strikes: Sequence[_Strike], left: BoolArray, followed: Followed) -> bool:
    """Whether a line goes through all of a letter and on at both ends, and is none of its own."""
    limits = [(out, share) for cost, out, share in _OUT if followed.way_cost < cost]
    return any(
        one.is_through
        and any(one.sticks_out_xh > out and left[one.spots].mean() > share for out, share in limits)
        and not _goes_on(lines, one.spots, left, followed)
        for one in strikes
    )


def _is_struck_under_dot(lines: Lines) -> bool:
    """Whether a line goes through what has a dot above it: without that an i would be a t."""
    largest = lines.parts == np.bincount(lines.parts).argmax()
    others = lines.spots[~largest]
    if not len(others) or others[:, 1].min() < lines.spots[largest, 1].max() - _DOT_XH:
        return False
    ends = _strikes(lines.only(largest), _ENDS_MOST, into_ink=False, least_xh=_UNDER_DOT_XH)
    return np.ptp(others, axis=0).max() < _DOT_MOST_XH and any(
        one.is_through and one.sticks_out_xh > _UNDER_DOT_OUT_XH for one in ends
    )


def _is_alone(strikes: Sequence[_Strike], left: BoolArray) -> bool:
    """Whether a line from end to end is none of a letter's, also where it only runs along it."""
    return any(
        one.sticks_out_xh > _ALONE_OUT_XH
        and left[one.spots].mean() > _ALONE_SHARE
        and left[one.spots[[0, -1]]].all()
        for one in strikes
    )


def _goes_on(lines: Lines, spots: IntArray, left: BoolArray, followed: Followed) -> bool:
    """Whether a line is a letter's own, made too long.

    What is left over along it is at one end, alone, as of a stem; or at both, from where a stroke of the
    letter begins and ends, as of a wide x.
    """
    over = left[spots]
    changes = np.flatnonzero(over[1:] != over[:-1])
    if len(changes) == 2 and over[0] and over[-1]:
        tips = lines.spots[followed.tips]
        return len(tips) > 0 and bool((nearest(lines.spots[spots[changes]], tips) < _TIP_XH).all())
    if len(changes) != 1:
        return False
    way = lines.spots[spots[-1]] - lines.spots[spots[0]]
    along = (lines.spots - lines.spots[spots[0]]) @ way / float(np.hypot(*way))
    start, end = along[spots[over]][[0, -1]]
    others = np.delete(along, spots)
    return int(((others > start + _ON_XH) & (others < end - _ON_XH)).sum()) < _BESIDE_LEAST


def _is_written_over(lines: Lines, left: BoolArray, size_xh: float) -> bool:
    """Whether what is left over lies along the letter: it was written twice."""
    if len(left) * STEP_XH < _OVER * size_xh or left.sum() * STEP_XH < _OVER_XH or left.all():
        return False
    near = nearest(lines.spots[left], lines.spots[~left]) < _OVER_NEAR_XH
    return bool(near.mean() > _OVER_NEAR)


def _is_left_over(lines: Lines, strikes: Sequence[_Strike], left: BoolArray, followed: Followed) -> bool:
    """Whether a line is left over of ink."""
    return any(
        one.is_through
        and one.size_xh > _LONG_XH
        and left[one.spots].mean() > _SHARE
        and left[one.spots].sum() * STEP_XH > _LEFT_XH
        and not _goes_on(lines, one.spots, left, followed)
        for one in strikes
    )


def text_state(lines: Lines, inked_xh: float, text: str, style: HouseStyle) -> Found:
    """What was done where a word or line was asked for, and there is ink; as :func:`letter_state`."""
    (low, bottom), (high, top) = lines.box
    models = [one for char in text if char in EVERY and len((one := template(char, style)).points)]
    if models and inked_xh > _MUCH_IN_TEXT * sum(_once(one) for one in models) * _grown(lines, models):
        return Found.CROSSED_OUT
    if high - low > _TEXT_XH:
        for strike in _strikes(lines, _TEXT_ENDS_MOST, into_ink=False):
            wide = np.ptp(lines.spots[strike.spots, 0])
            is_wide = strike.sticks_out_xh > 0 and wide > _TEXT_SHARE * (high - low)
            if strike.is_through and is_wide and _is_connected(lines, strike.spots):
                return Found.CROSSED_OUT
    dense = len(lines.spots) * STEP_XH / max((high - low) * min(top - bottom, 2.0), 0.5)
    return Found.CROSSED_OUT if dense > 6.0 and _meetings(lines) > 40 else Found.INK


def _is_connected(lines: Lines, spots: IntArray) -> bool:
    """Whether most of a line is of one piece of ink: the tops of letters in a row are not."""
    return int(np.bincount(lines.parts[spots]).max()) > _CONNECTED * len(spots)


def _written_size(lines: Lines, model: Template) -> float:
    """How long the model is, made as tall as the ink where that is taller, xh."""
    return max(_once(model) * _grown(lines, [model], 2.0), 0.5)


def _once(model: Template) -> float:
    """How much paper a model covers, what is drawn twice once, xh along its line."""
    return float(model.length) - float(model.twice.sum()) * 0.04


def _grown(lines: Lines, models: Sequence[Template], most: float = np.inf) -> float:
    """How many times as tall as its models together ink is: once at least, and no more than `most`."""
    (_, bottom), (_, top) = lines.box
    own = float(np.ptp(np.concatenate([model.points[:, 1] for model in models])))
    return min(max((top - bottom) / own, 1.0), most) if own > STEP_XH else 1.0


def _is_zigzag(lines: Lines, model: Template, pen_xh: float) -> bool:
    """Whether ink goes all the way up or down more often than a letter does, what is drawn twice once.

    Where its line is wider than the pen's, some of its ways have run together.
    """
    (_, bottom), (_, top) = lines.box
    ways = sum(float(np.abs(np.diff(lines.spots[run, 1])).sum()) for run in lines.runs)
    y = model.points[:, 1]
    is_drawn = (np.diff(model.stroke) == 0) & ~model.twice[1:]
    own = float(np.abs(np.diff(y))[is_drawn].sum()) / max(float(np.ptp(y)), STEP_XH)
    more = _UP_AND_DOWN / max(lines.width_xh / pen_xh, 1.0) ** 2
    return ways / max(float(top - bottom), _FLAT_XH) > own + more


def _meetings(lines: Lines) -> int:
    """At how many places of ink more than two lines meet."""
    return sum(len(beside) > 2 for beside in lines.beside)


def _left_over(lines: Lines, followed: Followed) -> BoolArray:
    """Which spots of ink the way of a letter does not go along; shape (p,)."""
    left = np.ones(len(lines.spots), dtype=np.bool_)
    left[followed.at[followed.at != NOWHERE]] = False
    # a way goes several spots at a step: what lies between two of its own is its own
    is_left = left.tolist()
    alone = [bool(beside) and not any(is_left[spot] for spot in beside) for beside in lines.beside]
    return np.asarray(left & ~np.array(alone))


@dataclass(frozen=True, eq=False)
class _Strike:
    """A straight line along ink.

    Parameters
    ----------
    spots : array of int
        The ink along it, from one end to the other.
    size_xh : float
        Its length.
    sticks_out_xh : float
        How far it goes on beyond all other ink, in its own way or across, and from where a line leaves it, at
        the end where that is less; 0 where one end is in ink.
    is_through : bool
        Whether other ink is on both sides; it is on one side only of a stem.
    """

    spots: IntArray
    size_xh: float
    sticks_out_xh: float
    is_through: bool


def _strikes(
    lines: Lines, ends_most: int, *, into_ink: bool, least_xh: float = _STRIKE_XH
) -> Iterator[_Strike]:
    """Straight lines through ink from each of its ends to others, and the longest to anywhere in the ink."""
    ends = np.flatnonzero([len(beside) == 1 for beside in lines.beside])
    if not 0 < len(ends) <= ends_most:
        return
    for number, end in enumerate(ends):
        off = lines.spots - lines.spots[end]
        size = np.hypot(*off.T)
        goals = np.arange(len(size)) if into_ink else ends[number + 1 :]
        far = goals[size[goals] > least_xh]
        parts = np.array_split(far, len(far) * len(lines.spots) // _AT_ONCE + 1)
        along = np.concatenate([_along_ink(lines.spots, lines.spots[end], off, part) for part in parts])
        if not len(along):
            continue
        longest = int(along[size[along].argmax()])
        for other in {longest, *np.intersect1d(along, ends[number + 1 :]).tolist()}:
            yield _strike(lines, lines.spots[end], lines.spots[other], is_free=other in ends)


def _along_ink(spots: FloatArray, start: FloatArray, off: FloatArray, far: IntArray) -> IntArray:
    """To which spots there is ink nearly all along a straight line; looked at here and there at first."""
    missed = np.zeros(len(far), dtype=np.int64)
    for part in (_CHORD[::4], np.delete(_CHORD, np.s_[::4])):
        chords = start + part[:, None, None] * off[far]
        away = cdist(spots, chords.reshape(-1, 2)).min(0).reshape(chords.shape[:2])
        missed += (away > _OFF_XH).sum(axis=0)
        is_along = len(_CHORD) - missed > _COVER * len(_CHORD)
        far, missed = far[is_along], missed[is_along]
    return far


def _strike(lines: Lines, start: FloatArray, end: FloatArray, *, is_free: bool) -> _Strike:
    """The straight line between two spots of ink."""
    size = float(np.hypot(*(end - start)))
    way = (end - start) / size
    chord = start + np.linspace(0, size, max(2, round(size / STEP_XH)))[:, None] * way
    mine = nearest(lines.spots, chord) < _OFF_XH
    others = lines.spots[~mine] - start
    beside, along = cross(way, others), others @ way
    over = (along > 0) & (along < size)
    sides = [int((over & (sign * beside > _BESIDE_XH)).sum()) for sign in (-1, 1)]
    left, right = sorted([0.0, float(end[0] - start[0])])
    out = max(
        min(along.min(initial=np.inf), (size - along).min(initial=np.inf)),
        min((others[:, 0] - left).min(initial=np.inf), (right - others[:, 0]).min(initial=np.inf)),
    )
    spots = np.flatnonzero(mine)
    spots = spots[np.argsort((lines.spots[spots] - start) @ way)]
    out = min(float(out), *(_to_meeting(lines, int(end)) for end in spots[[0, -1]])) if is_free else 0.0
    return _Strike(spots, size, out, min(sides) >= _BESIDE_LEAST)


def _to_meeting(lines: Lines, end: int) -> float:
    """How far it is from an end of ink to where another line leaves it, xh; infinite where none does.

    Where two strokes come to a point, none of them sticks out, however far each is from the other.
    """
    before, here = -1, end
    while len(lines.beside[here]) <= 2:
        on = [spot for spot in lines.beside[here] if spot != before]
        if not on or on[0] == end:
            return np.inf
        before, here = here, on[0]
    return float(np.hypot(*(lines.spots[here] - lines.spots[end])))
