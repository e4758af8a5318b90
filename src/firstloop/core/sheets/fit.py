"""How wide a letter, word or line is on paper, and how many stand on a line."""

from __future__ import annotations

from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.letterforms.library import letter_or_word
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.wish import SheetError, TooWideError
from firstloop.core.slots import slot_width_xh

WORD_ROOM_XH = 1.4  # clear paper between two words of a row
_ROUNDING_MM = 1e-6


def text_model(text: str, style: HouseStyle) -> Letter:
    """A letter, word or line as the style writes it.

    Raises
    ------
    SheetError
        If a character has no model.
    """
    lacking = [char for char in text if char != " " and char not in EVERY]
    if lacking or not text.strip():
        raise SheetError(f"there is no model for “{''.join(dict.fromkeys(lacking)) or text}”")
    return letter_or_word(text, style)


def slot_mm(model: Letter, xh_mm: float) -> float:
    """Room that one writing of a letter, word or line takes."""
    if len(model.char) == 1:
        return slot_width_xh(model) * xh_mm
    left, _, right, _ = model.bounds
    return (right - left + WORD_ROOM_XH) * xh_mm


def origin_mm(model: Letter, left_mm: float, width_mm: float, xh_mm: float) -> float:
    """Where a text's own origin stands when it is written in the middle of its slot."""
    left, _, right, _ = model.bounds
    return left_mm + width_mm / 2 - (left + right) / 2 * xh_mm


def how_many(model: Letter, xh_mm: float, line_mm: float) -> int:
    """How many of a text stand on a line, at least one.

    Raises
    ------
    SheetError
        If it is too long for the line; the message says at which size it would fit.
    """
    count = int((line_mm + _ROUNDING_MM) / slot_mm(model, xh_mm))
    if not count:
        raise TooWideError(model.char, slot_mm(model, 1.0), xh_mm, line_mm)
    return count


def folded(text: str, style: HouseStyle, xh_mm: float, line_mm: float) -> list[str]:
    """A text on lines that each stand on a line of paper; a word too long for one stays by itself."""
    lines: list[str] = []
    for one in text.split():
        longer = f"{lines[-1]} {one}" if lines else one
        if lines and slot_mm(text_model(longer, style), xh_mm) <= line_mm:
            lines[-1] = longer
        else:
            lines.append(one)
    return lines
