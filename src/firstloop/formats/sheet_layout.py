"""The layout file of a sheet: where everything on it is that a machine may look for, as JSON, out and in."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from firstloop.core.letterforms.style import Script
from firstloop.core.ruling import Ruling
from firstloop.core.sheets.scene import (
    Code,
    Entry,
    Item,
    Mark,
    Page,
    Ring,
    Rule,
    Sheet,
    Spot,
    Tone,
    Words,
)
from firstloop.core.supports import Support

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
        "aside_mm": _aside(entry),
    }
    if entry.is_letter:
        out["best_mm"] = None if entry.best is None else _numbers(entry.best)
    return out


def _aside(entry: Entry) -> dict[str, Any]:
    """What is printed and no writing: start rings, lines (leaders, edges of boxes) and numbers in type."""
    items = entry.aside
    return {
        "rings": [_numbers((*one.centre, one.radius_mm)) for one in items if isinstance(one, Ring)],
        "lines": [_spots(line) for line in entry.lines_aside],
        "numbers": [
            {"text": one.text, "at": _numbers(one.at), "size_pt": one.size_pt}
            for one in items
            if isinstance(one, Words)
        ],
    }


def _read_aside(aside: dict[str, Any]) -> tuple[Item, ...]:
    rings = (Ring((float(x), float(y)), float(r), 0.0, Tone.INK) for x, y, r in aside.get("rings", ()))
    lines = (Rule(_spot(a), _spot(b), 0.0, Tone.GREY) for a, b in aside.get("lines", ()))
    numbers = (
        Words(
            str(one["text"]), (float(one["at"][0]), float(one["at"][1])), float(one["size_pt"]), centred=True
        )
        for one in aside.get("numbers", ())
    )
    return (*rings, *lines, *numbers)


def _numbers(values: Sequence[float]) -> list[float]:
    return [round(one, _DIGITS) for one in values]


def _spots(spots: Sequence[Spot]) -> list[list[float]]:
    return [_numbers(one) for one in spots]


class LayoutError(ValueError):
    """A file that is no layout of a sheet; the message says why."""


def read_layout(document: Any) -> Sheet:
    """A sheet as far as a machine looks for it: marks, codes and what is written, without what is drawn.

    Raises
    ------
    LayoutError
    """
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise LayoutError(f"this is no layout of a sheet: it does not say “{FORMAT}”")
    try:
        pages = tuple(_read_page(one) for one in document["pages"])
        entries = [one for page in document["pages"] for one in (*page["cells"], *page["lines"])]
        script = str(entries[0]["script"]) if entries else str(Script.PRINT)
        return Sheet(str(document["sheet"]), script, pages)
    except (KeyError, TypeError, ValueError, IndexError) as problem:
        raise LayoutError(f"this layout does not hold together: {problem}") from None


def _read_page(page: dict[str, Any]) -> Page:
    wide, tall = map(float, page["size_mm"])
    entries = sorted(map(_read_entry, (*page["cells"], *page["lines"])), key=lambda one: (one.row, one.place))
    return Page(
        int(page["page"]),
        (wide, tall),
        (),
        tuple(entries),
        tuple(Mark(int(one["id"]), _square(one["corners_mm"])) for one in page["marks"]),
        tuple(Code(str(one["text"]), _square(one["corners_mm"])) for one in page["qr"]),
    )


def _read_entry(one: dict[str, Any]) -> Entry:
    lines = one["ruling_mm"]
    left, top, right, bottom = map(float, one["box_mm"])
    best = one.get("best_mm")
    return Entry(
        str(one["id"]),
        int(one["row"]),
        int(one["place"]),
        str(one["expected"]),
        Support(one["support"]),
        (left, top, right, bottom),
        Ruling(*(float(lines[name]) for name in ("mid", "base", "rise", "drop"))),
        None if best is None else (float(best[0]), float(best[1]), float(best[2])),
        tuple(tuple((float(x), float(y)) for x, y in stroke) for stroke in one["printed_mm"]),
        _read_aside(one.get("aside_mm", {})),
    )


def _spot(values: Sequence[float]) -> Spot:
    x, y = values
    return float(x), float(y)


def _square(corners: Sequence[Sequence[float]]) -> tuple[Spot, Spot, Spot, Spot]:
    a, b, c, d = map(_spot, corners)
    return a, b, c, d
