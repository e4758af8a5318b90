"""A plan as CSV: one lesson a line."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Sequence
from io import StringIO

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def plan_csv(head: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    """Lines of a plan; a cell that a spreadsheet would take for a formula is written as text."""
    out = StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    for row in rows:
        writer.writerow([f"'{cell}" if cell.startswith(_FORMULA) else cell for cell in row])
    return out.getvalue()
