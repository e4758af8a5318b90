"""Where each attempt of a row stands: slots of equal width from the left of the page."""

from __future__ import annotations

from firstloop.core.letterforms.model import Letter

ROOM_XH = 1.1  # clear paper shared between both sides of a letter
SLOT_LEAST_XH = 1.9
LINE_MM = 174.0  # across A4 between margins of 18 mm


def slot_width_xh(letter: Letter) -> float:
    """Width of one slot for `letter`, xh."""
    left, _, right, _ = letter.bounds
    return max(SLOT_LEAST_XH, right - left + ROOM_XH)


def fit_on_a_line(letter: Letter, xh_mm: float) -> int:
    """How many letters stand on a line across a page (:data:`LINE_MM`), at least one."""
    return max(1, int(LINE_MM / (slot_width_xh(letter) * xh_mm)))


def letter_left_xh(letter: Letter, slot: int) -> float:
    """Where the letter's own origin stands when it is written in the middle of a slot, xh from the left."""
    left, _, right, _ = letter.bounds
    return slot_width_xh(letter) * (slot + 0.5) - (left + right) / 2
