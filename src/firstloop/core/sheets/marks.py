"""What makes a page readable by machine: a mark near each corner, and a code printed twice."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from firstloop.core.sheets.scene import Area, Code, Mark, Spot

MARK_MM = 9.0
EDGE_MM = 8.0  # clear paper outside the marks: printers do not reach the edge
CODE_MM = 13.0
_BESIDE_MM = 4.0
CODE_LETTERS = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"  # none is taken for another
CODE_LENGTH = 6
MODULES = 6
# the four first of the dictionary DICT_4X4_50, row by row, 1 is white
_BITS = (
    ("1011", "0101", "0011", "0010"),
    ("0000", "1111", "1001", "1010"),
    ("0011", "0011", "0010", "1101"),
    ("1001", "1001", "0100", "0110"),
)


def square(left: float, top: float, size: float) -> tuple[Spot, Spot, Spot, Spot]:
    """Corners of a square clockwise from its top left."""
    return (left, top), (left + size, top), (left + size, top + size), (left, top + size)


def marks(size_mm: tuple[float, float]) -> tuple[Mark, ...]:
    """The four marks of a page, clockwise from the top left."""
    wide, tall = size_mm
    right, low = wide - EDGE_MM - MARK_MM, tall - EDGE_MM - MARK_MM
    places = ((EDGE_MM, EDGE_MM), (right, EDGE_MM), (right, low), (EDGE_MM, low))
    return tuple(Mark(number, square(*place, MARK_MM)) for number, place in enumerate(places))


def black_modules(mark: Mark) -> list[Area]:
    """The black squares of a mark, those side by side as one."""
    (left, top), (right, _), *_ = mark.corners
    border = "0" * MODULES
    return merged((border, *(f"0{bits}0" for bits in _BITS[mark.number]), border), left, top, right - left)


def merged(rows: Sequence[str], left: float, top: float, size: float) -> list[Area]:
    """The black squares (``0``) of a square pattern, those side by side as one."""
    step = size / len(rows)
    out: list[Area] = []
    for y, row in enumerate(rows):
        for run in re.finditer("0+", row):
            right = left + run.end() * step
            out.append((left + run.start() * step, top + y * step, right, top + (y + 1) * step))
    return out


def codes(sheet: str, copy: int, page: int, size_mm: tuple[float, float]) -> tuple[Code, Code]:
    """The code of a page, at the top right and again at the bottom left."""
    wide, tall = size_mm
    text = f"FL1:{sheet}:{copy}:{page}"
    beside = EDGE_MM + MARK_MM + _BESIDE_MM
    return (
        Code(text, square(wide - beside - CODE_MM, EDGE_MM, CODE_MM)),
        Code(text, square(beside, tall - EDGE_MM - CODE_MM, CODE_MM)),
    )


def new_code(rng: np.random.Generator) -> str:
    """The code of a sheet."""
    return "".join(CODE_LETTERS[i] for i in rng.integers(len(CODE_LETTERS), size=CODE_LENGTH))
