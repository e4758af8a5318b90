"""Ladders for a dictation: from words of two units to words of four, what is new last."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from firstloop.core.words.bank import Bank, BankWord

FROM, TO = 2, 4  # units


def ladder(
    bank: Bank,
    known: Sequence[str],
    rng: np.random.Generator,
    count: int = 6,
    practise: frozenset[str] = frozenset(),
) -> list[BankWord]:
    """Words to be dictated, the shorter first and, of one length, those with newer units later.

    Parameters
    ----------
    bank : Bank
        Words of units taught.
    known : sequence of str
        Units in the order in which they were taught.
    practise : frozenset of str
        Units that are wanted: a word with one of them goes before a word without.
    """
    order = {unit: number for number, unit in enumerate(known)}
    steps = [[word for word in bank if len(word.units) == units] for units in range(FROM, TO + 1)]
    steps = [words for words in steps if words]
    chosen: list[BankWord] = []
    for rung, words in enumerate(steps):
        share = count * (rung + 1) // len(steps) - count * rung // len(steps)
        chosen += _rung(words, share, order, practise, rng)
    return sorted(chosen, key=lambda word: (len(word.units), _newest(word, order)))


def _rung(
    words: Sequence[BankWord],
    share: int,
    order: Mapping[str, int],
    practise: frozenset[str],
    rng: np.random.Generator,
) -> list[BankWord]:
    """Words of one length, the most wanted first, not two that begin alike."""
    mixed = [words[i] for i in rng.permutation(len(words))]
    mixed.sort(key=lambda word: (word.by_heart, -len(practise & word.sounds), -_newest(word, order)))
    first_alike: list[BankWord] = []
    taken: list[BankWord] = []
    for word in mixed:
        alike = word.units[0] in {one.units[0] for one in taken}
        (first_alike if alike else taken).append(word)
    return [*taken, *first_alike][:share]


def _newest(word: BankWord, order: Mapping[str, int]) -> int:
    return max(order.get(unit, -1) for unit in word.units)
