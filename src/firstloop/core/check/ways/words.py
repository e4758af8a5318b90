"""The way of a word, a row or a line along ink whose order nobody saw."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import combinations, pairwise

import numpy as np

from firstloop.core.check.ways.follow import NOWHERE, Followed, Guide, Lines, affinely, follow, guide
from firstloop.core.check.ways.letters import letter_strokes
from firstloop.core.check.ways.strokes import as_strokes
from firstloop.core.curves import BoolArray, FloatArray, IntArray
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import finger_xh, word

_PAD_XH = 0.08  # ink closer sideways than twice this belongs to one letter
_DRIFT_XH = 0.6  # over which letters of a word stand nearer or further apart by and by
_SPLITS_MOST = 3000
_WIDTH_SHARE, _WIDTH_XH = 0.3, 0.4  # how much a written word is wider or narrower than its model


def text_strokes(lines: Lines, text: str, style: HouseStyle, chars: str) -> list[FloatArray]:
    """Ink as strokes that go as a text does: word by word, and letter by letter where they stand apart.

    Parameters
    ----------
    chars : str
        The letters that any letter might be instead.

    Returns
    -------
    list of array, shape (n, 2), letter space, all of the ink.
    """
    out: list[FloatArray] = []
    texts = text.split()
    for one, keep in zip(texts, _words(lines, texts, style), strict=True):
        if keep.any():
            out += _word_strokes(lines.only(keep), one, style, chars)
    return out


def _word_strokes(lines: Lines, text: str, style: HouseStyle, chars: str) -> list[FloatArray]:
    blobs = _blobs(lines)
    if len(blobs) == len(text) and (not style.is_joined or len(set(text)) == 1):
        out = []
        for char, blob in zip(text, blobs, strict=True):
            out += letter_strokes(lines.only(blob), char, style, chars)
        return out
    model, along_x = _guide(text, style)
    (low, _), (high, _) = lines.box
    left, right = model.points[:, 0].min(), model.points[:, 0].max()
    stretch = (high - low) / max(right - left, 0.1)
    laid = np.column_stack([(model.points[:, 0] - left) * stretch + low, model.points[:, 1]])

    def bent(guide: Guide, followed: Followed, lines: Lines) -> FloatArray:
        """One affine map, and what is left of the way to the ink, smooth along the word."""
        even = affinely(guide, followed, lines)
        seen = followed.at != NOWHERE
        if not seen.any():
            return even
        off = lines.spots[followed.at[seen]] - even[seen]
        weight = np.exp(-0.5 * ((along_x[:, None] - along_x[seen]) / _DRIFT_XH) ** 2) + 1e-9
        return np.asarray(even + weight @ off / weight.sum(1, keepdims=True))

    return as_strokes(lines, follow(lines, model, [laid], bent))


@lru_cache(maxsize=256)
def _guide(text: str, style: HouseStyle) -> tuple[Guide, FloatArray]:
    """The strokes of a word but its dots, and how far along the word each step is."""
    model = word(text, style)
    strokes = [
        sampled.points for made, sampled in zip(model.strokes, model.sampled, strict=True) if not made.is_dot
    ] or [one.points for one in model.sampled]
    made = guide(strokes)
    return made, made.points[:, 0].copy()


# -- which ink is of which word ----------------------------------------------------------------------


def _blobs(lines: Lines) -> list[BoolArray]:
    """Pieces of ink that stand over one another, from left to right: masks of spots."""
    parts = lines.parts
    spans = sorted(
        (float(lines.spots[parts == k, 0].min()), float(lines.spots[parts == k, 0].max()), k)
        for k in range(int(parts.max()) + 1)
    )
    blobs: list[tuple[float, list[int]]] = []
    for low, high, k in spans:
        if blobs and low - _PAD_XH < blobs[-1][0] + _PAD_XH:
            blobs[-1] = max(blobs[-1][0], high), [*blobs[-1][1], k]
        else:
            blobs.append((high, [k]))
    return [np.isin(parts, members) for _, members in blobs]


def _words(lines: Lines, texts: Sequence[str], style: HouseStyle) -> list[BoolArray]:
    """Which spots are of which word: cut where there is room, so that words are as wide as they should be."""
    if len(texts) == 1:
        return [np.ones(len(lines.spots), dtype=np.bool_)]
    blobs = _blobs(lines)
    if len(blobs) < len(texts):
        return _by_share(lines, texts, style)
    lows = np.array([lines.spots[blob, 0].min() for blob in blobs])
    highs = np.array([lines.spots[blob, 0].max() for blob in blobs])
    gaps = lows[1:] - highs[:-1]
    wanted = _widths(texts, style)
    cuts = min(_splits(gaps, len(texts) - 1), key=lambda cut: _cost(cut, lows, highs, gaps, wanted))
    edges = [0, *(int(cut) + 1 for cut in cuts), len(blobs)]
    return [np.any(blobs[a:b], axis=0) for a, b in pairwise(edges)]


def _splits(gaps: FloatArray, count: int) -> list[tuple[int, ...]]:
    """Places to cut at, the widest gaps before others."""
    widest = np.argsort(-gaps, kind="stable")
    for more in range(len(gaps) - count, -1, -1):
        few = np.sort(widest[: count + more]).tolist()
        ways = 1
        for k in range(count):
            ways = ways * (len(few) - k) // (k + 1)
        if ways <= _SPLITS_MOST:
            return list(combinations(few, count))
    return [tuple(np.sort(widest[:count]).tolist())]


def _cost(
    cuts: Sequence[int], lows: FloatArray, highs: FloatArray, gaps: FloatArray, wanted: FloatArray
) -> float:
    first = np.array([0, *(cut + 1 for cut in cuts)])
    last = np.array([*cuts, len(lows) - 1])
    widths = highs[last] - lows[first]
    scale = widths.sum() / wanted.sum()
    off = (widths - scale * wanted) / (_WIDTH_SHARE * scale * wanted + _WIDTH_XH)
    return float((off**2).sum() - 2 * gaps[list(cuts)].sum())


def _widths(texts: Sequence[str], style: HouseStyle) -> FloatArray:
    bounds = [word(one, style).bounds for one in texts]
    return np.array([max(right - left, 0.2) for left, _, right, _ in bounds])


def _by_share(lines: Lines, texts: Sequence[str], style: HouseStyle) -> list[BoolArray]:
    """Words that touch: ink is shared out by where it would be were all as wide as the model."""
    widths = _widths(texts, style) + finger_xh(style)
    (low, _), (high, _) = lines.box
    edges = low + np.cumsum(widths)[:-1] / widths.sum() * (high - low)
    parts = lines.parts
    middles: IntArray = np.array([lines.spots[parts == k, 0].mean() for k in range(int(parts.max()) + 1)])
    owner = np.searchsorted(edges, middles)[parts]
    return [owner == k for k in range(len(texts))]
