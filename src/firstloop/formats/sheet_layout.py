"""The layout file of a sheet: where everything on it is that a machine may look for, as JSON."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from firstloop.core.sheets.scene import Entry, Page, Sheet, Spot

FORMAT = "first-loop-sheet/1"
_DIGITS = 3  # of a millimetre


def write_layout(sheet: Sheet) -> dict[str, Any]:
    """The layout of a sheet."""
    return {"format": FORMAT, "sheet": sheet.code, "pages": [_page(one, sheet.script) for one in sheet.pages]}


def _page(page: Page, script: str) -> dict[str, Any]:
    return {
        "page": page.number,
        "size_mm": list(page.size_mm),
        "marks": [{"id": one.number, "corners_mm": _spots(one.corners)} for one in page.marks],
        "qr": [{"text": one.text, "corners_mm": _spots(one.corners)} for one in page.codes],
        "cells": [_entry(one, script) for one in page.entries if one.is_letter],
        "lines": [_entry(one, script) for one in page.entries if not one.is_letter],
    }


def _entry(entry: Entry, script: str) -> dict[str, Any]:
    lines = ("rise", "mid", "base", "drop")
    out: dict[str, Any] = {
        "id": entry.key,
        "row": entry.row,
        "place": entry.place,
        "expected": entry.expected,
        "script": script,
        "support": str(entry.support),
        "box_mm": _numbers(entry.box),
        "ruling_mm": dict(zip(lines, _numbers(entry.lines.lines_mm), strict=True)),
        "printed_mm": [_spots(stroke) for stroke in entry.printed],
    }
    if entry.is_letter:
        out["best_mm"] = None if entry.best is None else _numbers(entry.best)
    return out


def _numbers(values: Sequence[float]) -> list[float]:
    return [round(one, _DIGITS) for one in values]


def _spots(spots: Sequence[Spot]) -> list[list[float]]:
    return [_numbers(one) for one in spots]
