"""The class list as CSV, for a spreadsheet."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from firstloop.formats.spreadsheet import spreadsheet

_COUNTED = ("secure", "learning", "slipping")


def class_csv(letters: Sequence[str], children: Iterable[tuple[str, str, Mapping[str, str]]]) -> str:
    """Children down, letters across.

    Parameters
    ----------
    children : iterable of (name, hand, states)
        States in words, by letter; a letter without one is left empty.
    """
    rows: list[list[object]] = [["child", "hand", *_COUNTED, *letters]]
    for name, hand, states in children:
        counts = [sum(state == one for state in states.values()) for one in _COUNTED]
        rows.append([name, hand, *counts, *(states.get(char, "") for char in letters)])
    return spreadsheet(rows)
