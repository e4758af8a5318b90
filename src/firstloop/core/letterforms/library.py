"""Every letter the house draws, in any house style, as it stands alone; and any text."""

from __future__ import annotations

from functools import lru_cache

from firstloop.core.letterforms.alphabets import ALPHABETS, EVERY, UnknownLetterError, plain
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.letterforms.words import word

__all__ = ["ALPHABETS", "EVERY", "UnknownLetterError", "letter", "letter_or_word"]


@lru_cache(maxsize=4096)
def letter(char: str, style: HouseStyle = DEFAULT_STYLE) -> Letter:
    """Return the model of one letter in a house style: a joined one with its lead-in and its exit.

    Raises
    ------
    UnknownLetterError
        If the house has no model for `char`.
    """
    if style.script.is_bare:
        return plain(char, style).transformed(style.matrix)
    alone = word(char, style)
    return Letter(char, alone.strokes).shifted(-alone.lefts[0])


def letter_or_word(text: str, style: HouseStyle = DEFAULT_STYLE) -> Letter:
    """Return the model of a text: of one letter as it stands alone, else of a word or a line.

    Raises
    ------
    UnknownLetterError
    """
    return letter(text, style) if len(text) == 1 else word(text, style)
