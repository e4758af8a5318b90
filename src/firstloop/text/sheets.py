"""The rows of a sheet in words: what is on each, how it goes from left to right, and what fits."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import groupby

from firstloop.core.sheets.each import Reason, Why
from firstloop.core.sheets.wish import (
    CardRow,
    DateRow,
    DrawRow,
    GapRow,
    HeadingRow,
    Help,
    Pattern,
    RowWish,
    SoundRow,
    WritingRow,
    read_pattern,
)
from firstloop.text import say
from firstloop.text.findings import slip_name, to_teach
from firstloop.text.progress import listed

_TEXTS_SAID = 8


@dataclass(frozen=True)
class RowSaid:
    """A row of a sheet: what is on it, how it goes, and what fits."""

    title: str
    goes: str
    fits: str


def row(one: RowWish, fit: Mapping[str, int]) -> RowSaid:
    """A row in words.

    Parameters
    ----------
    fit : mapping
        How many of each of its texts stand on a line.
    """
    match one:
        case WritingRow():
            return RowSaid(_title(one), _goes(one), _fits(one, fit))
        case DateRow():
            return RowSaid(say("sheet.row.date"), pattern(one.pattern), _rows(one.rows))
        case SoundRow():
            words = [word.text for word in one.words]
            return RowSaid(listed(words[:_TEXTS_SAID]), say("sheet.goes.sounds"), _rows(len(words)))
        case GapRow():
            return RowSaid(listed(one.texts[:_TEXTS_SAID]), say("sheet.goes.gaps"), "")
        case CardRow():
            said = say("sheet.goes.cards", across=one.across)
            return RowSaid(listed(one.texts[:_TEXTS_SAID]), said, "")
        case DrawRow() | HeadingRow():
            return _plain(one)


def _plain(one: DrawRow | HeadingRow) -> RowSaid:
    if isinstance(one, HeadingRow):
        return RowSaid(one.text, say("sheet.goes.heading"), "")
    return RowSaid(say("sheet.row.draw"), say("sheet.goes.draw", height=round(one.height_mm)), "")


def _title(one: WritingRow) -> str:
    if not one.texts:
        return say("sheet.row.empty")
    said = listed(one.texts[:_TEXTS_SAID])
    return say("sheet.row.more", texts=said) if len(one.texts) > _TEXTS_SAID else said


def _goes(one: WritingRow) -> str:
    said = pattern(one.pattern) if one.texts else say("sheet.goes.empty")
    if one.together:
        said = say("sheet.goes.together", goes=said)
    return say("sheet.goes.cut", goes=said) if one.cut else said


def _fits(one: WritingRow, fit: Mapping[str, int]) -> str:
    if one.rows is None:
        return say("sheet.fits.page")
    if one.together or not fit:
        return _rows(one.rows)
    least, most = min(fit.values()), max(fit.values())
    rows = len(one.texts) * one.rows
    on_a_line = str(least) if least == most else say("sheet.fits.from-to", least=least, most=most)
    return (
        say("sheet.fits", count=on_a_line)
        if rows == 1
        else say("sheet.fits.rows", rows=rows, count=on_a_line)
    )


def _rows(rows: int) -> str:
    return say("sheet.rows", count=rows)


def pattern(text: str) -> str:
    """How a row goes: "model, 2 trace, finish, then alone"."""
    rows = [_pattern(one) for one in read_pattern(text)]
    return say("sheet.goes.then-rows").join(rows)


def _pattern(one: Pattern) -> str:
    parts = [(help_, len(list(same))) for help_, same in groupby(one.fixed)]
    said = [_help(help_, count) for help_, count in parts]
    if one.fill is not None:
        fill = _help(one.fill, 1)
        said.append(say("sheet.goes.fill", help=fill) if said else say("sheet.goes.only", help=fill))
    return ", ".join(said)


def _help(one: Help, count: int) -> str:
    word = say(f"sheet.help.{one}")
    return word if count == 1 else f"{count} {word}"


def reason(one: Reason) -> str:
    """Why something is on a child's sheet."""
    letters = listed(one.texts)
    if one.why is Why.TEACH and one.code:
        return say("sheet.why.teach", letters=letters, slip=slip_name(one.code), teach=to_teach(one.code))
    return say(f"sheet.why.{one.why}", letters=letters)
