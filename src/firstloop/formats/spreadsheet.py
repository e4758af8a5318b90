"""Tables for a spreadsheet: CSV that opens with its letters right and no cell is run as a formula."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Sequence
from io import StringIO

_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_MARK = "\ufeff"  # without it spreadsheets take UTF-8 for something older


def _safe(cell: object) -> object:
    """A cell that a spreadsheet takes for text, whatever it begins with."""
    return f"'{cell}" if isinstance(cell, str) and cell.startswith(_FORMULA) else cell


def spreadsheet(rows: Iterable[Sequence[object]]) -> str:
    """Rows of cells as CSV; to be encoded as UTF-8."""
    out = StringIO()
    out.write(_MARK)
    csv.writer(out).writerows([_safe(cell) for cell in row] for row in rows)
    return out.getvalue()
