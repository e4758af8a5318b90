"""Finding the letters of a row or a word in its ink.

Strokes that stand clear of one another are simply counted off. Where they are not as many as the
letters, neighbouring strokes are shared out so that each letter looks most like itself; and where a
stroke runs through several letters, the word's model is followed and the ink is cut.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from firstloop.core.check.ink.cleaning import is_tap
from firstloop.core.check.recognise.pictures import ClassSet, class_set, own_costs, picture, reading_costs
from firstloop.core.check.segment.follow import Cut, follow, pieces
from firstloop.core.curves import FloatArray, length
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle

_PAD_XH = 0.08  # strokes closer sideways than twice this belong to one letter
_PARTS_MAX = 4  # strokes that one letter may be made of
_SKIP_COST = 0.50  # price of a letter without ink, or of ink without a letter
_TAP_COST = 0.02
_DOT_XH, _DOT_REACH_XH = 1.5, 1.1  # where a dot belongs, and how far from there a tap is still taken for it
_CLUSTER_WELL = 0.30  # counted off, every letter looks at least this much like itself
_PLAINLY = 0.15  # letters that look so much like themselves are not cut to find one more
_FOLLOWED_WELL = 0.29  # a joined word that is followed no better than this is not cut
_FOLLOWED_APART = 0.25  # the same for one in print, where a letter may also be left out
_FOLLOWED_PLAINLY = 0.09  # followed no better than this, it may lack a letter
_LEFT_OUT_SHARE = 0.75  # of the cost: without a letter that was left out, a word is followed so much better
_SUSPECTS = 3  # letters, with those beside them, that may be the ones left out
_TRIED_LONGEST = 24  # characters; in a longer line none is looked for, it would take a second


@dataclass(frozen=True, eq=False)
class LetterInk:
    """The ink of one letter.

    Parameters
    ----------
    begins : bool
        Whether its first stroke begins where the pen went down; False after a cut.
    """

    strokes: tuple[InkStroke, ...]
    begins: bool = True


def cut_letters(group: InkGroup, text: str, style: HouseStyle) -> list[LetterInk]:
    """Share the strokes of a print row, word or line out between its letters.

    Returns
    -------
    For each letter (spaces have none) its ink, in the order written; without strokes where none was
    found.
    """
    wanted = text.replace(" ", "")
    ink = group.in_letter_space
    sets = {char: class_set(char, style, joins=True) for char in set(wanted)}
    counted = clusters(ink)
    if len(counted) == len(wanted):
        if len(set(wanted)) == 1:  # a row of one letter: nothing could be given to another
            return [_whole(group, one) for one in counted]
        costs = [_looks(ink, one, sets[char]) for one, char in zip(counted, wanted, strict=True)]
        if max(costs) <= _CLUSTER_WELL:
            return [_whole(group, one) for one in _with_dots(ink, counted, wanted, style)]
    ways = [counted] if len(counted) == len(wanted) else []
    followed = follow_letters(group, text, style, _FOLLOWED_APART)
    ways.append(_shared_out(ink, wanted, class_set("".join(sorted(set(wanted))), style, joins=True)))
    if followed is not None:
        ways.append(_by_whole_strokes(followed, len(ink)))
    ways = [way for way in ways if 2 * way.count(()) <= len(wanted)]  # else it is not that word
    best = min(ways, key=lambda way: _all_looks(ink, way, wanted, sets), default=None)
    if best is not None and (
        all(best) or followed is None or _lacks_a_letter(group, followed, best, wanted, sets)
    ):
        return [_whole(group, one) for one in _with_dots(ink, best, wanted, style)]
    return followed.pieces if followed is not None else [LetterInk(())] * len(wanted)


@dataclass(frozen=True, eq=False)
class Followed:
    """A word cut by its model: the ink of each letter, and the cuts themselves."""

    pieces: list[LetterInk]
    cuts: list[Cut]
    letters: list[int]


def follow_letters(
    group: InkGroup, text: str, style: HouseStyle, most: float = _FOLLOWED_WELL
) -> Followed | None:
    """Cut a word by following its model; None where the match costs more than `most`."""
    cuts, cost = follow(group, text, style)
    if style.is_joined and cost > _FOLLOWED_PLAINLY and len(text) <= _TRIED_LONGEST:
        cuts, cost = _with_one_left_out(group, text, style, cuts, cost)
    if cost > most:
        return None
    every = pieces(group, cuts, len(text))
    letters = [i for i, char in enumerate(text) if not char.isspace()]
    return Followed([LetterInk(tuple(every[i][0]), every[i][1]) for i in letters], cuts, letters)


def _with_one_left_out(
    group: InkGroup, text: str, style: HouseStyle, cuts: list[Cut], cost: float
) -> tuple[list[Cut], float]:
    """The cuts of a joined word with the letter left out without which it is followed far better, if any."""
    most = _LEFT_OUT_SHARE * cost
    for at in _suspects(group, text, style, cuts):
        shorter = text[:at] + text[at + 1 :]
        if not shorter.strip():
            continue
        found, found_cost = follow(group, shorter, style)
        if found_cost < most:
            most = found_cost
            cuts = [one._replace(letter=one.letter + (one.letter >= at)) for one in found]
            cost = found_cost
    return cuts, cost


def _suspects(group: InkGroup, text: str, style: HouseStyle, cuts: list[Cut]) -> list[int]:
    """The letters that look least like themselves when cut so, and those beside them: one may be left out."""
    every = pieces(group, cuts, len(text))
    places = [i for i, char in enumerate(text) if not char.isspace()]
    looks = []
    for i in places:
        ink = replace(group, strokes=tuple(every[i][0])).in_letter_space
        letters = class_set(text[i], style, joins=True)
        looks.append(_looks(ink, tuple(range(len(ink))), letters) if ink else _SKIP_COST)
    worst = np.argsort(looks)[-_SUSPECTS:]
    return [places[k] for k in range(len(places)) if np.abs(worst - k).min() <= 1]


def _with_dots(
    ink: tuple[FloatArray, ...], way: list[tuple[int, ...]], wanted: str, style: HouseStyle
) -> list[tuple[int, ...]]:
    """Give a letter that lacks its dot the nearest tap no other needs: put far off, it is still a dot."""
    dotted = [letter(char, style).has_dot for char in wanted]
    kept = {i for one, own in zip(way, dotted, strict=True) if own or len(one) == 1 for i in one}
    spare = {i: stroke.mean(0) for i, stroke in enumerate(ink) if i not in kept and is_tap(stroke)}
    out = list(way)
    for place, one in enumerate(way):
        if not (spare and one and dotted[place]) or any(is_tap(ink[i]) for i in one):
            continue
        middle = np.concatenate([ink[i][:, 0] for i in one]).mean()
        off, nearest = min((float(np.hypot(*(at - (middle, _DOT_XH)))), i) for i, at in spare.items())
        if off < _DOT_REACH_XH:
            del spare[nearest]
            out = [tuple(i for i in strokes if i != nearest) for strokes in out]
            out[place] = tuple(sorted((*one, nearest)))
    return out


def _lacks_a_letter(
    group: InkGroup, followed: Followed, way: list[tuple[int, ...]], wanted: str, sets: dict[str, ClassSet]
) -> bool:
    """Whether a letter was left out: the others are plainly there, or look less like themselves when cut."""
    whole = group.in_letter_space
    costs = [_looks(whole, one, sets[char]) for one, char in zip(way, wanted, strict=True) if one]
    if sum(map(len, way)) == len(whole) and max(costs, default=1.0) <= _PLAINLY:
        return True
    cut = 0.0
    for piece, char in zip(followed.pieces, wanted, strict=True):
        ink = replace(group, strokes=piece.strokes).in_letter_space
        cut += _looks(ink, tuple(range(len(ink))), sets[char]) if ink else _SKIP_COST
    return cut > _all_looks(whole, way, wanted, sets)


def _by_whole_strokes(followed: Followed, count: int) -> list[tuple[int, ...]]:
    """Every stroke to the letter that the longest part of it was given to."""
    owner = {}
    for cut in sorted(followed.cuts, key=lambda cut: cut.last - cut.first):
        owner[cut.stroke] = cut.letter
    return [tuple(i for i in range(count) if owner.get(i) == letter) for letter in followed.letters]


def _all_looks(
    ink: tuple[FloatArray, ...], way: list[tuple[int, ...]], wanted: str, sets: dict[str, ClassSet]
) -> float:
    """How little the letters look like themselves when shared out so, strokes left over counted in."""
    costs = [
        _looks(ink, one, sets[char]) if one else _SKIP_COST for one, char in zip(way, wanted, strict=True)
    ]
    used = {i for one in way for i in one}
    return sum(costs) + sum(_skip(stroke) for i, stroke in enumerate(ink) if i not in used)


def _skip(stroke: FloatArray) -> float:
    """Price of leaving a stroke over."""
    return _TAP_COST if is_tap(stroke) else min(_SKIP_COST, 0.1 + length(stroke))


def _whole(group: InkGroup, numbers: tuple[int, ...]) -> LetterInk:
    return LetterInk(tuple(group.strokes[i] for i in numbers))


def _looks(ink: tuple[FloatArray, ...], numbers: tuple[int, ...], letter: ClassSet) -> float:
    return float(reading_costs(picture([ink[i] for i in numbers]), letter)[0])


def clusters(ink: tuple[FloatArray, ...]) -> list[tuple[int, ...]]:
    """Strokes that overlap sideways, from left to right; each a tuple of stroke numbers."""
    spans = sorted((float(s[:, 0].min()), float(s[:, 0].max()), i) for i, s in enumerate(ink))
    out: list[list[int]] = []
    reach = -np.inf
    for low, high, i in spans:
        if out and low - _PAD_XH <= reach + _PAD_XH:
            out[-1].append(i)
            reach = max(reach, high)
        else:
            out.append([i])
            reach = high
    return [tuple(sorted(one)) for one in out]


def _shared_out(ink: tuple[FloatArray, ...], wanted: str, letters: ClassSet) -> list[tuple[int, ...]]:
    """Cheapest way to give neighbouring strokes to letters, leaving either over at a price."""
    order = sorted(range(len(ink)), key=lambda i: float(ink[i][:, 0].min() + ink[i][:, 0].max()))
    skip = [_skip(ink[i]) for i in order]
    fits: dict[tuple[int, int], FloatArray] = {}
    place = {char: k for k, char in enumerate(letters.chars)}

    def fit(first: int, last: int, char: str) -> float:
        if (first, last) not in fits:
            fits[first, last] = own_costs(picture([ink[i] for i in order[first:last]]), letters)
        return float(fits[first, last][place[char]])

    came = _cheapest(skip, wanted, fit)
    out: list[tuple[int, ...]] = [()] * len(wanted)
    i, j = len(order), len(wanted)
    while i or j:
        a, b = came[i, j]
        if a < i and b < j:
            out[b] = tuple(sorted(order[a:i]))
        i, j = a, b
    return out


def _cheapest(
    skip: list[float], wanted: str, fit: Callable[[int, int, str], float]
) -> dict[tuple[int, int], tuple[int, int]]:
    """Where each step of the cheapest sharing came from.

    A step takes a stroke and leaves it over, leaves a letter without ink, or gives up to
    `_PARTS_MAX` neighbouring strokes to the next letter.
    """
    n, m = len(skip), len(wanted)
    best = np.full((n + 1, m + 1), np.inf)
    best[0, 0] = 0.0
    came: dict[tuple[int, int], tuple[int, int]] = {}
    slack = max(_PARTS_MAX, abs(n - m)) + 2
    for i, j in product(range(n + 1), range(m + 1)):
        steps = [(best[i - 1, j] + skip[i - 1], (i - 1, j))] if i else []
        if j:
            steps.append((best[i, j - 1] + _SKIP_COST, (i, j - 1)))
        if j and abs(i / max(n, 1) - j / m) * max(n, m) <= slack:
            parts = [k for k in range(1, min(_PARTS_MAX, i) + 1) if np.isfinite(best[i - k, j - 1])]
            steps += [(best[i - k, j - 1] + fit(i - k, i, wanted[j - 1]), (i - k, j - 1)) for k in parts]
        if steps:
            best[i, j], came[i, j] = min(steps)
    return came
