"""Room between the letters of a word, and between words, against the model's."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.findings import Finding, graded
from firstloop.core.check.whole.placement import PlacedLetter
from firstloop.core.letterforms.spacing import model_gaps
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import finger_xh

_BOTH_WAYS_XH = 0.17  # gaps that are off this much either way are uneven, not wide or tight


def spacing(
    text: str, letters: Sequence[PlacedLetter], style: HouseStyle, strictness: Strictness
) -> tuple[list[Finding], float | None, float | None]:
    """Room between the letters of a word against the model's; its mean, and how much more that is."""
    offs, gaps, where, models = [], [], [], []
    for (a, b), model in zip(pairwise(letters), model_gaps(text, style), strict=True):
        if a.word != b.word or a.place is None or b.place is None:
            continue
        gap = b.place.body_left - a.place.body_right
        gaps.append(gap)
        offs.append(gap - model)
        models.append(model)
        where.append((a, b, ((a.place.body_right + b.place.body_left) / 2, 0.5)))
    if not gaps:
        return [], None, None
    spread = 100 * float(np.std(offs)) / max(float(np.mean(gaps)), float(np.mean(models)), 0.1)
    found: dict[str, list[Finding]] = {}
    for code, worst in (("spacing.wide", int(np.argmax(offs))), ("spacing.tight", int(np.argmin(offs)))):
        a, b, at = where[worst]
        off = offs[worst] if code == "spacing.wide" else -offs[worst]
        found[code] = graded(code, off, strictness, np.array([at]), {"before": a.char, "after": b.char})
    farthest = where[int(np.argmax(np.abs(offs)))][2]
    uneven = graded("spacing.uneven", spread, strictness, np.array([farthest]), {})
    mean, all_off = float(np.mean(gaps)), [*found["spacing.wide"], *found["spacing.tight"]]
    both_ways = min(max(offs), -min(offs)) > _BOTH_WAYS_XH
    found_here = (uneven or all_off) if both_ways or not all_off else all_off
    return found_here, mean, float(np.mean(offs))


def between_words(
    letters: Sequence[PlacedLetter], style: HouseStyle, strictness: Strictness
) -> tuple[list[Finding], float | None]:
    """Clear paper between words, ink to ink, in finger spaces; the tightest and the widest are told."""
    finger = finger_xh(style)
    gaps = []
    for a, b in pairwise(letters):
        if a.word == b.word or a.place is None or b.place is None:
            continue
        gap = max(0.0, b.place.left - a.place.right) / finger
        gaps.append((gap, ((a.place.right + b.place.left) / 2, 0.0)))
    if not gaps:
        return [], None
    tight, wide = min(gaps), max(gaps)
    found = [
        one
        for code, (value, at) in (("words.tight", tight), ("words.wide", wide))
        for one in graded(code, value, strictness, np.array([at]), {})
    ]
    return found, float(np.median([gap for gap, _ in gaps]))
