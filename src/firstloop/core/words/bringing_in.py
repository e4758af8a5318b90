"""Bringing a list of words in: what each line says, what it would change, and lines that cannot be read."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.units import SOUNDS, WORD_MOST, UnitError, cut, read_cut

YES = frozenset({"1", "yes", "y", "true", "x", "*"})
NO = frozenset({"", "0", "no", "n", "false"})


class Bad(StrEnum):
    """Why a line cannot be read."""

    EMPTY = "empty"
    LETTERS = "letters"
    LONG = "long"
    UNITS = "units"
    SPELLING = "spelling"
    BY_HEART = "by-heart"
    TWICE = "twice"
    NAME = "name"
    COLUMNS = "columns"


class Effect(StrEnum):
    """What a line would do to the bank."""

    NEW = "new"
    CORRECTED = "corrected"
    SAME = "same"


@dataclass(frozen=True)
class Line:
    """A line of a list as it was typed: its number, and what stands in its columns."""

    number: int
    columns: tuple[str, ...]


@dataclass(frozen=True)
class BadLine:
    """A line that cannot be read, and why."""

    number: int
    text: str
    why: Bad


@dataclass(frozen=True)
class Entry:
    """A line that can be read; ``proposed`` where its units are only proposed."""

    number: int
    word: BankWord
    effect: Effect
    proposed: bool


@dataclass(frozen=True)
class Brought:
    """A list as it would come in."""

    entries: tuple[Entry, ...]
    bad: tuple[BadLine, ...]


class _BadLineError(Exception):
    def __init__(self, why: Bad) -> None:
        self.why = why


def bring_in(
    lines: Iterable[Line],
    bank: Bank,
    names: Collection[str] = (),
    done: Callable[[int], None] | None = None,
) -> Brought:
    """What a list would change; nothing is changed.

    Parameters
    ----------
    lines : iterable of Line
        Word, units with ``-`` between them, whether to know by heart; the last two may be missing.
        Without units the bank's own are taken, or, where it has none, the longest known ones first.
    names : collection of str
        First names of children, in lower case: they are no words.
    done : callable, optional
        Is told the number of lines done, now and then.
    """
    entries: list[Entry] = []
    bad: list[BadLine] = []
    seen: set[str] = set()
    for count, line in enumerate(lines, start=1):
        try:
            entry = _entry(line, bank, names)
            if entry.word.text in seen:
                raise _BadLineError(Bad.TWICE)
            seen.add(entry.word.text)
            entries.append(entry)
        except _BadLineError as problem:
            bad.append(BadLine(line.number, ",".join(line.columns)[:60], problem.why))
        if done is not None and count % 500 == 0:
            done(count)
    return Brought(tuple(entries), tuple(bad))


def _entry(line: Line, bank: Bank, names: Collection[str]) -> Entry:
    text, typed, heart = (*(column.strip() for column in line.columns[:3]), "", "", "")[:3]
    if len(line.columns) > 3 and any(column.strip() for column in line.columns[3:]):
        raise _BadLineError(Bad.COLUMNS)
    if text != "I":
        text = text.lower()
    before = bank.by_text.get(text)
    _is_word(text, before, names)
    if heart.lower() not in YES | NO:
        raise _BadLineError(Bad.BY_HEART)
    by_heart = heart.lower() in YES if heart else before is not None and before.by_heart
    proposed = not typed and before is None
    try:
        units = read_cut(typed.lower()) if typed else before.units if before else cut(text.lower(), SOUNDS)
    except UnitError as problem:
        raise _BadLineError(Bad.UNITS) from problem
    try:
        word = BankWord(text, units, by_heart, before.kind if before else None)
    except UnitError as problem:
        raise _BadLineError(Bad.SPELLING) from problem
    effect = Effect.NEW if before is None else Effect.SAME if word == before else Effect.CORRECTED
    return Entry(line.number, word, effect, proposed)


def _is_word(text: str, before: BankWord | None, names: Collection[str]) -> None:
    if not text:
        raise _BadLineError(Bad.EMPTY)
    if not text.isascii() or not text.isalpha():
        raise _BadLineError(Bad.LETTERS)
    if len(text) > WORD_MOST:
        raise _BadLineError(Bad.LONG)
    if text in names and before is None:
        raise _BadLineError(Bad.NAME)
