"""How long a text takes a class to write, from how long its letters really took."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from firstloop.core.check.vocabulary.grades import Level

LEAST_LETTERS = 30  # measured, before the class's own pace is taken
USUAL_S = {Level.STARTING: 6.0, Level.GROWING: 4.0, Level.SETTLED: 2.5}
"""Seconds a letter in a text, pauses between letters and words within: a rough figure until there is ink."""


@dataclass(frozen=True)
class Pace:
    """How long a letter takes in a text, with the pauses around it.

    Parameters
    ----------
    letters : int
        How many measured letters it rests on; 0 for the usual figure.
    """

    letter_s: float
    letters: int = 0

    @property
    def is_measured(self) -> bool:
        """Whether it is the class's own."""
        return self.letters > 0

    def seconds(self, text: str) -> float:
        """How long a text takes; the room between words takes as long as half a letter."""
        words = text.split()
        return self.letter_s * (sum(map(len, words)) + 0.5 * max(0, len(words) - 1))


def pace(written: Sequence[tuple[int, float]], level: Level) -> Pace:
    """The pace of a class: the middle of what its words took, each by its letters.

    Parameters
    ----------
    written : sequence of (letters, seconds)
        Words that were written, from the first touch of the pen to the last.
    """
    taken = [(letters, seconds) for letters, seconds in written if letters > 0 and seconds > 0]
    letters = sum(count for count, _ in taken)
    if letters < LEAST_LETTERS:
        return Pace(USUAL_S[level])
    each = np.array([seconds / count for count, seconds in taken])
    order = np.argsort(each)
    reached = np.cumsum(np.array([count for count, _ in taken])[order])
    middle = each[order][int(np.searchsorted(reached, letters / 2))]
    return Pace(float(middle), letters)
