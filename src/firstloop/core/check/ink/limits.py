"""How much ink a letter can be: more is a scribble, and is not looked at any closer.

Matching takes time by the length of the ink, so that without a limit one stroke across a hall would
take all the time and memory there is.
"""

from __future__ import annotations

from firstloop.core.curves import length
from firstloop.core.ink import InkGroup

LETTER_MOST_XH = 60.0  # the longest model is 11 xh; traced over five times it is not yet this
BESIDE_MOST_XH = 20.0  # for each letter beside it in a word
STROKES_MOST, STROKES_BESIDE = 40, 2  # the most a model has is 4
TEXT_LONGEST = 400  # characters; more is no line of writing


def too_much(group: InkGroup, letters: int = 1) -> bool:
    """Whether a group holds more ink than so many letters can be made of."""
    if len(group.strokes) > STROKES_MOST + STROKES_BESIDE * (letters - 1):
        return True
    return sum(map(length, group.in_letter_space)) > LETTER_MOST_XH + BESIDE_MOST_XH * (letters - 1)
