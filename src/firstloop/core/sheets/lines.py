"""Rows of letters, words and lines dealt out on ruled lines, each place with its help."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import count, cycle

from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.fit import how_many, slot_mm, text_model
from firstloop.core.sheets.wish import Help, Pattern, SheetWish, WritingRow, read_pattern

_ROUNDING_MM = 1e-6


@dataclass(frozen=True, eq=False)
class Place:
    """A place on a line: what is written there, with how much help, and how wide it is."""

    model: Letter
    help: Help
    width_mm: float


@dataclass(frozen=True, eq=False)
class Line:
    """What stands on one ruled line; ``at_end`` is a model at its right end, for a left hand."""

    places: tuple[Place, ...] = ()
    at_end: Place | None = None


def lines_of(row: WritingRow, wish: SheetWish, style: HouseStyle) -> Iterator[Line]:
    """The lines of a row of the wish; without an end where it goes on until the page is full.

    Raises
    ------
    SheetError
        If a letter has no model, or is too wide for a line.
    """
    patterns = read_pattern(row.pattern)
    rows = count() if row.rows is None else range(row.rows)
    if not row.texts:
        yield from (Line() for _ in rows)
        return
    models = [text_model(text, style) for text in row.texts]
    for model in models:
        how_many(model, wish.xh_mm, wish.line_mm)  # each of them stands on a line
    if row.together:
        for k in rows:
            yield from _shared(models, _at(patterns, k), wish)
    elif row.rows is None:
        for k, model in zip(rows, cycle(models), strict=False):
            yield from _filled(model, _at(patterns, k // len(models)), wish)
    else:
        for model in models:
            for k in rows:
                yield from _filled(model, _at(patterns, k), wish)


def _at(patterns: Sequence[Pattern], k: int) -> Pattern:
    """The pattern of the k-th row: the last one goes on."""
    return patterns[min(k, len(patterns) - 1)]


def _filled(model: Letter, pattern: Pattern, wish: SheetWish) -> Iterator[Line]:
    """A pattern over as many lines as it takes."""
    width, room = slot_mm(model, wish.xh_mm), how_many(model, wish.xh_mm, wish.line_mm)
    at_end = Place(model, Help.MODEL, width) if wish.left_hand and Help.MODEL in pattern.fixed else None
    if room > 1 and at_end is not None:
        room -= 1
    else:
        at_end = None
    helps = list(pattern.fixed)
    if pattern.fill is not None:
        full = -(-max(len(helps), 1) // room) * room
        helps += [pattern.fill] * (full - len(helps))
    for i in range(0, len(helps), room):
        yield Line(tuple(Place(model, one, width) for one in helps[i : i + room]), at_end)


def _shared(models: Sequence[Letter], pattern: Pattern, wish: SheetWish) -> Iterator[Line]:
    """Several texts side by side, each by the pattern, and on on the next line."""
    helps = (*pattern.fixed, *([pattern.fill] if pattern.fill else []))
    line: list[Place] = []
    used = 0.0
    for model in models:
        width = slot_mm(model, wish.xh_mm)
        for one in helps:
            if line and used + width > wish.line_mm + _ROUNDING_MM:
                yield Line(tuple(line))
                line, used = [], 0.0
            line.append(Place(model, one, width))
            used += width
    yield Line(tuple(line))
