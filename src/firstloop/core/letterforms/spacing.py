"""Room between letters and between words, as the model has it: what is measured against, and drawn by."""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import numpy as np

from firstloop.core.letterforms.model import Letter, without_joins
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import Word, word
from firstloop.core.ruling import Box


@lru_cache(maxsize=256)
def model_gaps(text: str, style: HouseStyle) -> tuple[float, ...]:
    """Room between each letter of a text and the next one in the model, joins left out, xh."""
    model = word(text, style)
    edges = []
    for index, char in enumerate(text):
        if char.isspace():
            continue
        points = np.concatenate(without_joins(model.letter_at(index)))[:, 0] + model.lefts[index]
        edges.append((float(points.min()), float(points.max())))
    return tuple(b[0] - a[1] for a, b in pairwise(edges))


def letter_boxes(model: Letter) -> list[list[Box]]:
    """The boxes of the letters of a text, word by word; of a letter alone, one word of one.

    Between two letters their joins count to neither; the first and the last of a word have theirs.
    """
    if not isinstance(model, Word):
        return [[model.bounds]]
    words: list[list[Box]] = [[]]
    for index, char in enumerate(model.char):
        if char.isspace():
            words.append([])
            continue
        one, at = model.letter_at(index), model.lefts[index]
        left, bottom, right, top = one.bounds
        own = np.concatenate(without_joins(one))[:, 0]
        if index and not model.char[index - 1].isspace():
            left = float(own.min())
        if model.char[index + 1 : index + 2].strip():
            right = float(own.max())
        words[-1].append((left + at, bottom, right + at, top))
    return words
