"""Sheets of paper: what stands on every page in type."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

SHEETS: dict[str, Entry] = {
    "sheet.name": "Name",
    "sheet.care": "Feet on the floor, a loose grip; stop when it hurts.",
    "sheet.bar": "100 mm: print at 100 %, not fitted",
}
