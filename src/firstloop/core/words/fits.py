"""Which one fits: a word with a gap, and two units to choose from."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np

from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.units import UnitError, spell

_USUAL_UNITS = 3  # words of about so many are shown first


@dataclass(frozen=True)
class Gap:
    """A word with one unit left open, and the two that are offered for it.

    Parameters
    ----------
    place : int
        Which of its units is open.
    options : tuple of two units
        In the order in which they are shown.
    fitting : frozenset of str
        Those of the two that make a word: one of them, or both.
    """

    word: BankWord
    place: int
    options: tuple[str, str]
    fitting: frozenset[str]

    @property
    def both_fit(self) -> bool:
        """Whether either makes a word, so that what it is to mean has to be said."""
        return len(self.fitting) == 2


def gaps(
    bank: Bank,
    one: str,
    other: str,
    rng: np.random.Generator,
    words_besides: Collection[str] = (),
    both: bool = False,
    most: int = 8,
    among: Bank | None = None,
) -> list[Gap]:
    """Words into which one of two units fits and the other does not; both mixed, in no order.

    A word into which both fit is left out, or, with `both`, only such words are given.

    Parameters
    ----------
    words_besides : collection of str
        Words that there are though they are not offered, by which no gap is said to have one answer only.
    most : int
        How many; as nearly as can be, half for each of the two.
    among : Bank, optional
        The words that may be shown, such as those taught; what fits is told by the whole `bank`.
    """
    found: dict[str, list[Gap]] = {one: [], other: []}
    done: set[tuple[str, ...]] = set()
    for unit, rival in ((one, other), (other, one)):
        for word in (among or bank).holding(unit):
            if word.units.count(unit) > 1 or rival in word.sounds:
                continue
            place = word.units.index(unit)
            rest = (*word.units[:place], "", *word.units[place + 1 :])
            swapped = (*word.units[:place], rival, *word.units[place + 1 :])
            fits_too = swapped in bank.by_units or _text(swapped) in words_besides
            if fits_too is both and rest not in done and not (fits_too and swapped not in bank.by_units):
                done.add(rest)
                options = (one, other) if rng.random() < 0.5 else (other, one)
                found[unit].append(
                    Gap(word, place, options, frozenset((unit, rival) if fits_too else (unit,)))
                )
    return _mixed(found[one], found[other], rng, most)


def _text(units: tuple[str, ...]) -> str:
    try:
        return spell(units)
    except UnitError:
        return ""


def _mixed(some: list[Gap], others: list[Gap], rng: np.random.Generator, most: int) -> list[Gap]:
    for gaps_of in (some, others):
        gaps_of.sort(key=lambda gap: (gap.word.by_heart, abs(len(gap.word.units) - _USUAL_UNITS)))
    half = most // 2
    first = some[: max(half, most - len(others))]
    chosen = [*first, *others[: most - len(first)]]
    return [chosen[i] for i in rng.permutation(len(chosen))]
