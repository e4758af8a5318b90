"""Sheets that are ready to print: what stands on each, for given letters, words and a sentence."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.fit import folded
from firstloop.core.sheets.wish import (
    USUAL_PATTERN,
    BoxedWord,
    CardRow,
    DateRow,
    HeadingRow,
    RowWish,
    SheetWish,
    SoundRow,
    WritingRow,
)

AGAIN_PATTERN = "model ring alone*"
SHORT_PATTERN = "model trace alone*"
LINE_PATTERN = "model / trace / alone"
SIX_ALONE = "model alone alone alone alone alone alone"
_LETTERS_MOST, _FAMILY_MOST, _WORDS_MOST, _CARDS_ACROSS, _CARDS_MOST = 2, 7, 6, 3, 15
_WEEK_XH_MM, _WEEK_GAP_MM, _RECALL_ROWS = 8.0, 3.0, 3


class Ready(StrEnum):
    """The sheets that are ready to print."""

    LETTER = "letter"
    FAMILY = "family"
    RECALL = "recall"
    WORDS = "words"
    SENTENCE = "sentence"
    DATE = "date"
    DICTATION = "dictation"
    WEEK = "week"
    STRIPS = "strips"
    CARDS = "cards"
    EMPTY = "empty"
    MARKING = "marking"


@dataclass(frozen=True)
class Material:
    """What sheets are made of.

    Parameters
    ----------
    known, letters : sequence of str
        All that is taught, and what of it is new.
    family : sequence of str
        The letters that go with it.
    recall : sequence of str
        What is due to be written again.
    days : sequence of str
        Five days as they are said.
    """

    known: Sequence[str]
    letters: Sequence[str]
    family: Sequence[str]
    recall: Sequence[str]
    words: Sequence[str]
    sentence: str
    dictated: Sequence[BoxedWord]
    days: Sequence[str]


def ready_made(which: Ready, of: Material, base: SheetWish, style: HouseStyle) -> SheetWish:
    """A sheet of some material, on the page, lines and size of `base`.

    Raises
    ------
    SheetError
    """
    match which:
        case Ready.WEEK:
            size = min(base.xh_mm, _WEEK_XH_MM)
            week = replace(base, xh_mm=size, gap_mm=_WEEK_GAP_MM, rings_to_tick=False, pages=1)
            return replace(week, rows=tuple(_week(of, week, style)))
        case Ready.SENTENCE:
            return replace(base, rows=sentence_rows(of.sentence, base, style))
        case _:
            return replace(base, rows=_rows(which, of))


def _rows(which: Ready, of: Material) -> tuple[RowWish, ...]:
    letters, words = tuple(of.letters[:_LETTERS_MOST]), tuple(of.words[:_WORDS_MOST])
    rows: dict[Ready, tuple[RowWish, ...]] = {
        Ready.LETTER: letter_rows(letters, words),
        Ready.FAMILY: (WritingRow(tuple(of.family[:_FAMILY_MOST]), SHORT_PATTERN, rows=None),),
        Ready.RECALL: (recall_row(of.recall, _RECALL_ROWS),),
        Ready.WORDS: (WritingRow(words, SHORT_PATTERN),),
        Ready.DATE: (DateRow("model"), DateRow("trace"), DateRow("alone")),
        Ready.DICTATION: (SoundRow(tuple(of.dictated)),),
        Ready.STRIPS: (WritingRow((*letters, *words[:3]), "model", cut=True),),
        Ready.CARDS: (CardRow(tuple(of.known[-_CARDS_MOST:]), _CARDS_ACROSS),),
        Ready.EMPTY: (WritingRow(rows=None),),
        Ready.MARKING: (WritingRow(tuple(of.family[:_FAMILY_MOST]), SIX_ALONE, rows=None),),
    }
    return rows[which]


def letter_rows(letters: Sequence[str], words: Sequence[str] = ()) -> tuple[RowWish, ...]:
    """Each letter shown, traced, finished and alone; once more with its starts only; then in words."""
    rows: list[RowWish] = []
    for char in letters:
        rows += [WritingRow((char,), USUAL_PATTERN), WritingRow((char,), AGAIN_PATTERN)]
    held = [text for text in words if set(text) & set(letters)]
    return (*rows, WritingRow(tuple(held[:2]), SHORT_PATTERN)) if held else tuple(rows)


def recall_row(letters: Sequence[str], rows: int = 1) -> WritingRow:
    """Earlier letters side by side: each shown small in its place once, then written alone."""
    return WritingRow(tuple(letters), "model alone alone", rows, together=True)


def sentence_rows(sentence: str, wish: SheetWish, style: HouseStyle) -> tuple[RowWish, ...]:
    """A sentence shown, traced and written alone, on as many lines as it takes."""
    return tuple(
        WritingRow((line,), LINE_PATTERN, 3) for line in folded(sentence, style, wish.xh_mm, wish.line_mm)
    )


def _week(of: Material, wish: SheetWish, style: HouseStyle) -> list[RowWish]:
    """Five days of two minutes: what is new, again, what is due, a word, a line."""
    first = of.letters[0] if of.letters else ""
    last = of.letters[-1] if of.letters else ""
    line = next(iter(folded(of.sentence, style, wish.xh_mm, wish.line_mm)), "")
    work: list[tuple[tuple[str, ...], str, bool]] = [
        ((first,), USUAL_PATTERN, False),
        ((last,), AGAIN_PATTERN, False),
        (tuple(of.recall), "model alone", True),
        (tuple(of.words[:1]), SHORT_PATTERN, False),
        ((line,), "model / alone", False),
    ]
    rows: list[RowWish] = []
    for day, (wanted, pattern, together) in zip(of.days, work, strict=False):
        texts = tuple(filter(None, wanted)) or tuple(filter(None, [first]))
        if texts:
            count = 2 if pattern.count("/") else 1
            rows += [HeadingRow(day), WritingRow(texts, pattern, count, together)]
    return rows
