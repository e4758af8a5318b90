"""A sheet of one's own for each child: what is on it, and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from firstloop.core.check.vocabulary.grades import Heading
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.steps import Kind, NextStep
from firstloop.core.ruling import X_HEIGHT_MAX_MM
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.readymade import AGAIN_PATTERN, SHORT_PATTERN, recall_row
from firstloop.core.sheets.wish import USUAL_PATTERN, RowWish, SheetError, SheetWish, WritingRow

LETTERS_MOST, WORDS_MOST, RECALL_MOST = 3, 2, 5
LARGER_MM = 2.0


class Why(StrEnum):
    """Why something is on a child's sheet."""

    TEACH = "teach"
    BRING_BACK = "bring-back"
    RECALL = "recall"
    BEGUN = "begun"
    FIRST = "first"
    LARGER = "larger"
    WORDS = "words"


@dataclass(frozen=True)
class Reason:
    """What is on the sheet for one cause: its letters or words, and of a slip its code."""

    why: Why
    texts: tuple[str, ...]
    code: str = ""


@dataclass(frozen=True)
class ForChild:
    """The rows of a child each with its reason, what matters most first, and the size of its lines."""

    rows: tuple[tuple[RowWish, Reason], ...]
    xh_mm: float
    larger: bool

    def on(self, base: SheetWish, left_hand: bool, style: HouseStyle) -> tuple[SheetWish, list[Reason]]:
        """The child's sheet on the page and lines of another, so much of it as one page holds; and why.

        Raises
        ------
        SheetError
            If not even its first row stands on a page.
        """
        rows = list(self.rows)
        while True:
            chosen = tuple(row for row, _ in rows)
            wish = replace(base, rows=chosen, xh_mm=self.xh_mm, left_hand=left_hand, pages=1)
            try:
                compose(wish, style, "")
            except SheetError:
                rows = _fewer(rows)
                continue
            reasons = _joined([reason for _, reason in rows])
            return wish, [*reasons, Reason(Why.LARGER, ())] if self.larger else reasons


def _fewer(rows: list[tuple[RowWish, Reason]]) -> list[tuple[RowWish, Reason]]:
    """Without what matters least: the last row, or the last letter of an only one.

    Raises
    ------
    SheetError
        If nothing is left to be taken away.
    """
    if len(rows) > 1:
        return rows[:-1]
    ((row, reason),) = rows
    if not isinstance(row, WritingRow) or len(row.texts) < 2:
        raise SheetError("not even one letter stands on this page; smaller lines would hold it")
    return [(replace(row, texts=row.texts[:-1]), replace(reason, texts=reason.texts[:-1]))]


_ONCE_MORE = (AGAIN_PATTERN, "alone*")
_PATTERNS = {Why.TEACH: USUAL_PATTERN, Why.BRING_BACK: AGAIN_PATTERN}


def for_child(
    steps: Sequence[NextStep], begun: Sequence[str], first: Sequence[str], words: Sequence[str], xh_mm: float
) -> ForChild:
    """A child's sheet: a recall row, at most three letters that most need it, and words with them.

    Parameters
    ----------
    steps : sequence of NextStep
        What is to be done next with the child.
    begun : sequence of str
        Letters that are being learned, those in most need first.
    first : sequence of str
        Letters to begin with, where nothing was written yet.
    words : sequence of str
        Words that the child can write, best first.
    xh_mm : float
        Size of the class's lines; they are larger for whoever slips in size.
    """
    wanted: dict[str, Reason] = {}
    due = ""
    larger = False
    for step in steps:
        if step.kind is Kind.RECALL:
            due = step.letters[:RECALL_MOST]
            continue
        code = "" if step.need is None else step.need.code
        larger = larger or (step.need is not None and step.need.heading is Heading.SIZE)
        for char in step.letters:
            wanted.setdefault(char, Reason(Why(step.kind), (char,), code))
    for char in begun:
        wanted.setdefault(char, Reason(Why.BEGUN, (char,)))
    for char in () if wanted or due else first:
        wanted.setdefault(char, Reason(Why.FIRST, (char,)))
    chosen = list(wanted.values())[:LETTERS_MOST]
    letters = {one.texts[0] for one in chosen}
    held = [text for text in words if letters & set(text)][:WORDS_MOST]
    rows: list[tuple[RowWish, Reason]] = []
    if due:
        rows.append((recall_row(due), Reason(Why.RECALL, tuple(due))))
    rows += [(WritingRow(one.texts, _PATTERNS.get(one.why, SHORT_PATTERN)), one) for one in chosen]
    rows += [(WritingRow((text,), SHORT_PATTERN), Reason(Why.WORDS, (text,))) for text in held]
    for pattern in _ONCE_MORE[: LETTERS_MOST - len(chosen)]:  # a page for one letter has more of it
        rows += [(WritingRow(one.texts, pattern), one) for one in chosen]
    size = min(xh_mm + LARGER_MM, X_HEIGHT_MAX_MM) if larger else xh_mm
    return ForChild(tuple(rows), size, larger)


def _joined(reasons: Sequence[Reason]) -> list[Reason]:
    """Letters, or words, that are there for one cause as one reason."""
    by_cause: dict[tuple[Why, str], tuple[str, ...]] = {}
    for one in reasons:
        known = by_cause.get((one.why, one.code), ())
        by_cause[one.why, one.code] = (*known, *(text for text in one.texts if text not in known))
    return [Reason(why, texts, code) for (why, code), texts in by_cause.items()]
