"""The word bank as files: the one that ships, and lists of words as CSV, both ways."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator
from functools import lru_cache
from importlib.resources import files

from firstloop.core.words.bank import Bank, BankWord, Kind
from firstloop.core.words.bringing_in import Line
from firstloop.core.words.units import CUT, read_cut, spell

COLUMNS = ("word", "units", "by_heart")
LINES_MOST = 50_000
_BY_HEART = "*"


class WordListError(ValueError):
    """A file that is no list of words; the message says why."""


@lru_cache(maxsize=1)
def shipped_bank() -> Bank:
    """The words that ship with First Loop."""
    words: list[BankWord] = []
    kind: Kind | None = None
    for line in _shipped("words.txt"):
        if line.startswith("["):
            kind = Kind(line.strip("[]"))
            continue
        for typed in line.split():
            units = typed.removesuffix(_BY_HEART)
            text = spell(units.split(CUT))
            words.append(BankWord(text, read_cut(units.lower()), typed.endswith(_BY_HEART), kind))
    return Bank(tuple(words))


@lru_cache(maxsize=1)
def shipped_sentences() -> tuple[str, ...]:
    """The sentences that ship with First Loop."""
    return tuple(_shipped("sentences.txt"))


@lru_cache(maxsize=1)
def words_besides() -> frozenset[str]:
    """Words that there are though they are not offered: by them no gap is said to have one answer only."""
    return frozenset(word for line in _shipped("besides.txt") for word in line.split())


def _shipped(name: str) -> Iterator[str]:
    for line in files("firstloop.formats").joinpath("bank", name).read_text(encoding="utf-8").splitlines():
        if line.strip() and not line.startswith("#"):
            yield line.strip()


def read_word_list(raw: bytes) -> list[Line]:
    """Lines of a CSV, with or without a heading; separated by commas, semicolons or tabs.

    Raises
    ------
    WordListError
        If it is no text, or has more than :data:`LINES_MOST` lines.
    """
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise WordListError("this is no text; save the list as CSV (UTF-8)") from error
    first = text.split("\n", 1)[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    lines: list[Line] = []
    try:
        for columns in reader:
            if not any(column.strip() for column in columns):
                continue
            if len(lines) == LINES_MOST:
                raise WordListError(f"the list has more than {LINES_MOST:,} lines; bring it in as several")
            lines.append(Line(reader.line_num, tuple(columns)))
    except csv.Error as error:
        raise WordListError(f"line {reader.line_num} cannot be read: {error}") from error
    if lines and lines[0].columns[0].strip().lower() == COLUMNS[0]:
        del lines[0]
    if not lines:
        raise WordListError("there are no words in it; one a line, like “shell,sh-e-ll”")
    return lines


def write_word_list(words: Iterable[BankWord]) -> str:
    """The same list as CSV; it comes in again as it went out."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for word in words:
        writer.writerow((word.text, CUT.join(word.units), "yes" if word.by_heart else ""))
    return out.getvalue()
