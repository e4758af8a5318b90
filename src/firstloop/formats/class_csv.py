"""The class list as CSV, for a spreadsheet."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Mapping, Sequence
from io import StringIO

_COUNTED = ("secure", "learning", "slipping")
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def _safe(cell: str) -> str:
    """A cell that a spreadsheet takes for text, whatever it begins with."""
    return f"'{cell}" if cell.startswith(_FORMULA) else cell


def class_csv(letters: Sequence[str], children: Iterable[tuple[str, str, Mapping[str, str]]]) -> str:
    """Children down, letters across.

    Parameters
    ----------
    children : iterable of (name, hand, states)
        States in words, by letter; a letter without one is left empty.
    """
    out = StringIO()
    rows = csv.writer(out)
    rows.writerow(["child", "hand", *_COUNTED, *map(_safe, letters)])
    for name, hand, states in children:
        counts = [
            sum(state == one for state in states.values()) for one in ("secure", "learning", "slipping")
        ]
        rows.writerow([_safe(name), hand, *counts, *(states.get(char, "") for char in letters)])
    return out.getvalue()
