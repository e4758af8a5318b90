"""The word bank: words with the units they are cut into."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property
from itertools import pairwise

from firstloop.core.words.units import WORD_MOST, UnitError, spell

_STAY = frozenset({"will", "may", "mark"})  # words that are names as well


class Kind(StrEnum):
    """What a word does in a sentence."""

    NAMING = "naming"
    DOING = "doing"
    DESCRIBING = "describing"
    LITTLE = "little"


@dataclass(frozen=True)
class BankWord:
    """A word of the bank.

    Parameters
    ----------
    units : tuple of str
        The units that spell it, in lower case.
    by_heart : bool
        To know by heart: its units do not all sound as usual.
    kind : Kind or None
        What it does in a sentence, where that is known.

    Raises
    ------
    UnitError
        If the units do not spell it.
    """

    text: str
    units: tuple[str, ...]
    by_heart: bool = False
    kind: Kind | None = None

    def __post_init__(self) -> None:
        if spell(self.units) != self.text.lower():
            raise UnitError(f"“{'-'.join(self.units)}” does not spell “{self.text}”")
        if len(self.text) > WORD_MOST:
            raise UnitError(f"“{self.text}” has more than {WORD_MOST} letters")

    @cached_property
    def letters(self) -> frozenset[str]:
        """The letters it is written with."""
        return frozenset(self.text)

    @cached_property
    def pairs(self) -> frozenset[str]:
        """Every two letters that stand side by side."""
        return frozenset(map("".join, pairwise(self.text)))

    @cached_property
    def sounds(self) -> frozenset[str]:
        """Its units, each once."""
        return frozenset(self.units)


@dataclass(frozen=True)
class Change:
    """What a school did with a word: added or corrected it, or hid it (``word`` is None)."""

    text: str
    word: BankWord | None


@dataclass(frozen=True, eq=False)
class Bank:
    """Words in order; each text stands in it once."""

    words: tuple[BankWord, ...]

    @cached_property
    def by_text(self) -> Mapping[str, BankWord]:
        """Every word by how it is written."""
        return {word.text: word for word in self.words}

    @cached_property
    def by_units(self) -> Mapping[tuple[str, ...], BankWord]:
        """Every word by its units."""
        return {word.units: word for word in self.words}

    def __len__(self) -> int:
        return len(self.words)

    def __iter__(self) -> Iterator[BankWord]:
        return iter(self.words)

    def __contains__(self, text: object) -> bool:
        return text in self.by_text

    def holding(self, unit: str) -> list[BankWord]:
        """Words that hold a unit."""
        return [word for word in self.words if unit in word.sounds]

    def only(self, letters: frozenset[str] | None = None, units: frozenset[str] | None = None) -> Bank:
        """The words of these letters and these units; None stands for all."""
        return Bank(
            tuple(
                word
                for word in self.words
                if (letters is None or word.letters <= letters) and (units is None or word.sounds <= units)
            )
        )

    def without_names(self, names: frozenset[str]) -> Bank:
        """The bank without first names of children, but for the words that no sentence can do without."""
        return Bank(tuple(word for word in self.words if word.text in _STAY or word.text not in names))

    def after(self, changes: Iterable[Change]) -> Bank:
        """The bank with what a school changed; of two changes of one word the later one holds."""
        now: dict[str, BankWord | None] = dict(self.by_text)
        for change in changes:
            word = change.word
            before = self.by_text.get(change.text)
            if word is not None and word.kind is None and before is not None:
                word = BankWord(word.text, word.units, word.by_heart, before.kind)
            now[change.text] = word
        return Bank(tuple(word for word in now.values() if word is not None))
