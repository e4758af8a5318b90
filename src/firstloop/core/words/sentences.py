"""Looking at a sentence: what in it is not yet taught, how it begins and ends, and what could stand there."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.units import SOUNDS, UnitError, cut

SWAPS = 4
_WORD = re.compile(r"[^\W\d_]+(?:['’-][^\W\d_]+)*")
_STOPS = (".", "?", "!")
_VOWELS = "aeiou"


@dataclass(frozen=True)
class Taught:
    """What a class, or a child, has been taught; None stands for everything.

    Letters are meant in both their heights: who has begun a knows A.
    """

    letters: frozenset[str] | None = None
    units: frozenset[str] | None = None

    def missing_letters(self, text: str) -> list[str]:
        """Letters of a text that are not taught, each once, in order."""
        if self.letters is None:
            return []
        return list(
            dict.fromkeys(char for char in text.lower() if char.isalpha() and char not in self.letters)
        )

    def missing_units(self, units: Sequence[str]) -> list[str]:
        """Units that are not taught, each once, in order."""
        return [] if self.units is None else list(dict.fromkeys(u for u in units if u not in self.units))

    def knows(self, word: BankWord) -> bool:
        """Whether all of a word is taught. Of one to know by heart its letters are enough."""
        units = self.units is None or word.by_heart or word.sounds <= self.units
        return units and not self.missing_letters(word.text)


class Form(StrEnum):
    """What may be amiss with how a sentence is put down."""

    CAPITAL_START = "capital-start"
    STOP_END = "stop-end"
    CAPITAL_I = "capital-i"
    CAPITAL_INSIDE = "capital-inside"
    SPACES = "spaces"
    SPACE_BEFORE_STOP = "space-before-stop"


@dataclass(frozen=True)
class Token:
    """A word of a sentence, where it stands, and what of it is not taught.

    Parameters
    ----------
    start, end : int
        Where it stands in the sentence.
    units : tuple of str
        As the bank cuts it, else as proposed; none where it cannot be cut.
    in_bank : bool
        Whether the bank has it, or has it without its last s.
    swaps : tuple of str
        Words that could stand there, all of them taught; none where nothing is missing.
    """

    text: str
    start: int
    end: int
    units: tuple[str, ...]
    in_bank: bool
    letters: tuple[str, ...] = ()
    sounds: tuple[str, ...] = ()
    swaps: tuple[str, ...] = ()

    @property
    def is_taught(self) -> bool:
        """Whether nothing of it is missing."""
        return not self.letters and not self.sounds


@dataclass(frozen=True)
class FormSlip:
    """Something amiss with how a sentence is put down, and where."""

    form: Form
    at: int


@dataclass(frozen=True)
class SentenceCheck:
    """What was seen of a sentence; ``mended`` is it with its form put right."""

    text: str
    tokens: tuple[Token, ...]
    slips: tuple[FormSlip, ...]
    mended: str

    @property
    def is_within_reach(self) -> bool:
        """Whether all of its words are taught."""
        return all(token.is_taught for token in self.tokens)


def check_sentence(text: str, bank: Bank, taught: Taught, newest: Sequence[str] = ()) -> SentenceCheck:
    """Look at a sentence.

    Parameters
    ----------
    newest : sequence of str
        Letters in the order in which they were taught: a swap with the latest comes first.
    """
    found = list(_WORD.finditer(text))
    words = [match.group() for match in found]
    able = [word for word in bank if taught.knows(word)] if taught != Taught() else []
    tokens = []
    for number, match in enumerate(found):
        token = _token(match, bank, taught)
        if not token.is_taught:
            before = words[number - 1].lower() if number else ""
            swaps = _swaps(token, before, able, bank, {word.lower() for word in words}, newest)
            token = Token(**{**vars(token), "swaps": swaps})
        tokens.append(token)
    return SentenceCheck(text, tuple(tokens), tuple(_form(text, found)), mended(text))


def within_reach(sentences: Sequence[str], bank: Bank, taught: Taught) -> list[str]:
    """Sentences of which all words are taught."""
    return [
        text
        for text in sentences
        if all(_token(match, bank, taught).is_taught for match in _WORD.finditer(text))
    ]


def _token(match: re.Match[str], bank: Bank, taught: Taught) -> Token:
    text = match.group()
    word, plural = _in_bank(text, bank)
    if word is None:
        try:
            units = cut(text.lower(), SOUNDS)
        except UnitError:
            units = ()
    else:
        units = (*word.units, "s") if plural else word.units
    by_heart = word is not None and word.by_heart
    return Token(
        text=text,
        start=match.start(),
        end=match.end(),
        units=units,
        in_bank=word is not None,
        letters=tuple(taught.missing_letters(text)),
        sounds=() if by_heart else tuple(taught.missing_units(units)),
    )


def _in_bank(text: str, bank: Bank) -> tuple[BankWord | None, bool]:
    """The bank's word, and whether it stands there with an s at its end."""
    known = bank.by_text
    for one in (text, text.lower()):
        if one in known:
            return known[one], False
    stem = text.lower()[:-1]
    return (known[stem], True) if text.lower().endswith("s") and stem in known else (None, False)


def _swaps(
    token: Token,
    before: str,
    able: Sequence[BankWord],
    bank: Bank,
    besides: set[str],
    newest: Sequence[str],
) -> tuple[str, ...]:
    """Taught words that could stand there: of the same kind first, then those most like it."""
    word, plural = _in_bank(token.text, bank)
    kind = None if word is None else word.kind
    order = {char: number for number, char in enumerate(newest)}

    def fits(one: BankWord) -> bool:
        article = before not in ("a", "an") or (one.text[0] in _VOWELS) == (before == "an")
        return article and one.text.lower() not in besides and (kind is None or one.kind is kind)

    def rank(one: BankWord) -> tuple[int, int, int, str]:
        same = (one.units[:1] == token.units[:1]) + (one.units[-1:] == token.units[-1:])
        new = max((order.get(char, -1) for char in one.letters), default=-1)
        return -same, abs(len(one.units) - len(token.units) + plural), -new, one.text

    best = sorted((one for one in able if fits(one)), key=rank)[:SWAPS]
    return tuple(_as(one.text + "s" * plural, token.text) for one in best)


def _as(word: str, like: str) -> str:
    """A word with a capital where the other has one."""
    return word[0].upper() + word[1:] if like[:1].isupper() and like != "I" else word


def _form(text: str, words: Sequence[re.Match[str]]) -> list[FormSlip]:
    if not words:
        return []
    slips = []
    first = words[0]
    if first.group()[0].islower():
        slips.append(FormSlip(Form.CAPITAL_START, first.start()))
    for match in words:
        word = match.group()
        if word == "i":
            slips.append(FormSlip(Form.CAPITAL_I, match.start()))
        elif any(char.isupper() for char in word[1:]):
            slips.append(FormSlip(Form.CAPITAL_INSIDE, match.start()))
    slips += [FormSlip(Form.SPACES, one.start()) for one in re.finditer(r"\s{2,}", text.strip())]
    slips += [FormSlip(Form.SPACE_BEFORE_STOP, one.start()) for one in re.finditer(r"\s+[.?!,]", text)]
    if not text.rstrip().endswith(_STOPS):
        slips.append(FormSlip(Form.STOP_END, len(text.rstrip())))
    return slips


def mended(text: str) -> str:
    """The sentence with one space between words, a capital at its start, a capital I and a stop.

    Examples
    --------
    >>> mended("the cat  and i sat")
    'The cat and I sat.'
    """
    text = re.sub(r"\s+([.?!,])", r"\1", re.sub(r"\s+", " ", text.strip()))
    text = re.sub(r"\bi\b", "I", text)
    if not text:
        return ""
    return text[0].upper() + text[1:] + ("" if text.endswith(_STOPS) else ".")
