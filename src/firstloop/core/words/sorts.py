"""Sorts: words with something in common among words without it, in an order that gives nothing away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.find import Place, holds

RUN_MOST = 3  # of one kind on end


@dataclass(frozen=True)
class Sorted:
    """A word of a sort, and whether it belongs."""

    word: BankWord
    belongs: bool


def sort(
    bank: Bank,
    unit: str,
    place: Place,
    rng: np.random.Generator,
    half: int = 6,
) -> list[Sorted]:
    """Words that begin, end or hold a unit, and as many that do not; none where there are too few.

    Those that do not belong are as like as can be: of about the same length, and rather with letters of
    the unit than without.

    Parameters
    ----------
    half : int
        How many of each kind, at most.
    """
    inside = [word for word in bank if holds(word, unit, place, as_sound=True)]
    outside = [word for word in bank if unit not in word.sounds]
    count = min(half, len(inside), len(outside))
    if count < 2:
        return []
    chosen = _some(inside, count, rng)
    length = sum(len(word.text) for word in chosen) / count
    letters = frozenset(unit)
    tempting = sorted(
        outside,
        key=lambda word: (abs(len(word.text) - length) > 1.5, not letters & word.letters, word.by_heart),
    )
    beside = _some(tempting[: 3 * count], count, rng)
    return in_no_order(
        [*(Sorted(word, True) for word in chosen), *(Sorted(word, False) for word in beside)], rng
    )


def _some(words: Sequence[BankWord], count: int, rng: np.random.Generator) -> list[BankWord]:
    plain = [word for word in words if not word.by_heart]
    pool = plain if len(plain) >= count else list(words)
    return [pool[i] for i in rng.choice(len(pool), count, replace=False)]


def in_no_order(words: Sequence[Sorted], rng: np.random.Generator) -> list[Sorted]:
    """The same words so that their order does not tell which belong.

    No more than :data:`RUN_MOST` of a kind stand on end, and they do not take turns, where the numbers
    allow it: of many shuffles the first that is so.
    """
    order = list(words)
    for _ in range(200):
        order = [words[i] for i in rng.permutation(len(words))]
        if not gives_away([one.belongs for one in order]):
            break
    return order


def gives_away(belongs: Sequence[bool]) -> bool:
    """Whether an order tells the kinds: a long run of one, or the two by turns."""
    runs = np.diff(np.flatnonzero(np.concatenate([[True], np.diff(np.asarray(belongs)) != 0, [True]])))
    return bool(runs.max(initial=0) > RUN_MOST or (len(belongs) > 3 and runs.max(initial=0) == 1))
