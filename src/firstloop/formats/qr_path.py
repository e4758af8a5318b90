"""A QR code as one path, to be drawn at any size."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import segno

_QUIET = 4  # modules of clear paper around it, as ISO/IEC 18004 asks


@dataclass(frozen=True)
class QrPath:
    """Path data of the dark modules in a square of `size` units, quiet zone included."""

    path: str
    size: int


@lru_cache(maxsize=32)  # a room shows its few for an hour
def qr_path(text: str) -> QrPath:
    """The QR code of a text, error correction M."""
    matrix = segno.make(text, error="m", micro=False).matrix
    cells = [
        f"M{x + _QUIET} {y + _QUIET}h1v1h-1z"
        for y, row in enumerate(matrix)
        for x, dark in enumerate(row)
        if dark
    ]
    return QrPath("".join(cells), len(matrix) + 2 * _QUIET)
