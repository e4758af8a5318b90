"""The alphabets in one table, and a letter of any of them as it is made apart from others."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from firstloop.core.letterforms.capitals import CAPITALS
from firstloop.core.letterforms.digits import DIGITS, MARKS
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.model import Letter, Making
from firstloop.core.letterforms.parts import MEASURES, Parts
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle

ALPHABETS = {"lower case": LOWER, "capitals": CAPITALS, "digits": DIGITS, "marks": MARKS}
EVERY = {char: maker for alphabet in ALPHABETS.values() for char, maker in alphabet.items()}


class UnknownLetterError(LookupError):
    """A letter was asked for that the house cannot draw."""

    def __init__(self, char: str) -> None:
        super().__init__(char)
        self.char = char

    def __str__(self) -> str:
        return f"there is no model for {self.char!r}; the house draws {''.join(EVERY)}"


def alphabet_of(char: str) -> str:
    """Key of the alphabet that `char` is of.

    Raises
    ------
    UnknownLetterError
    """
    found = next((key for key, letters in ALPHABETS.items() if char in letters), None)
    if found is None:
        raise UnknownLetterError(char)
    return found


@lru_cache(maxsize=4096)
def plain(char: str, style: HouseStyle = DEFAULT_STYLE) -> Letter:
    """A letter of the style upright and at even width, as it is made apart from others.

    Raises
    ------
    UnknownLetterError
        If the house has no model for `char`.
    """
    maker = EVERY.get(char)
    if maker is None:
        raise UnknownLetterError(char)
    parts = style.parts(char)
    made = Letter(char, maker(Making(parts, style)))
    return made if parts.stretch == 1 else made.transformed(np.diag([parts.stretch, 1.0]))


class _Watched(Parts):
    """Parts that remember which of their measures were asked for."""

    def __getattribute__(self, name: str) -> object:
        if name in MEASURES:
            object.__getattribute__(self, "__dict__").setdefault("asked", set()).add(name)
        return super().__getattribute__(name)


@lru_cache(maxsize=64)
def measures_of(style: HouseStyle) -> dict[str, frozenset[str]]:
    """Which measures each letter of a style is made with, found by making it and watching."""
    found = {}
    for char, maker in EVERY.items():
        watched = _Watched()
        maker(Making(watched, style))
        found[char] = frozenset(watched.__dict__.get("asked", set())) | {"stretch"}
    return found


def shared_by(measure: str, style: HouseStyle = DEFAULT_STYLE) -> tuple[str, ...]:
    """Letters whose form depends on a measure, in the order of the alphabets."""
    return tuple(char for char, used in measures_of(style).items() if measure in used)
