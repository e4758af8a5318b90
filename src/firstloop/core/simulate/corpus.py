"""A small corpus that guards the checker: written anew from its seed each time, and counted.

For every code a few letters and words with that fault, in every script that has it and by both hands: at
two and at four tolerances, where it has to be found, and at half of one, where it has to be left alone.
Beside them clean ink of every set and of every bad pen. The tests hold what is counted here against the
figures that the checker has reached; one that gets worse falls below them.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import product
from statistics import median
from typing import TypeVar
from zlib import crc32

import numpy as np

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Severity
from firstloop.core.simulate.evaluate import (
    INK_SETS,
    OF_THE_MODEL,
    InkSet,
    Job,
    fault_size,
    judged,
    letter_ink,
    made_in,
    texts_of,
    word_ink,
)
from firstloop.core.simulate.pens import PENS

Item = TypeVar("Item")
SEED = 12
_EACH = 8  # inks a code or script, size and hand
_CLEAN_EACH, _CLEAN_WORDS_EACH = 13, 5  # clean letters, and words, of a set and hand
_WITH_PENS = "aekmgtyi"  # letters written with every bad pen
_SIZES = (0.5, 2.0, 4.0)
_INSIDE = 0.5


@dataclass(frozen=True)
class Wanted:
    """One ink to be written: in which set, by which hand, what, with which fault how large, by which pen."""

    ink_set: InkSet
    hand: str
    text: str
    code: str | None = None
    tolerances: float = 0.0
    pen: str | None = None
    of_script: bool = False

    @property
    def name(self) -> str:
        """Which count it belongs to: a code, the faults of a script, or clean ink of a script or pen."""
        if self.code is None:
            return f"clean {self.pen or self.ink_set.name}"
        return f"faults {self.ink_set.name}" if self.of_script else self.code

    def rng(self, seed: int) -> np.random.Generator:
        """Numbers of its own, whatever ran before."""
        name = f"{self.ink_set.name} {self.hand} {self.text} {self.code} {self.tolerances} {self.pen}"
        return np.random.default_rng([seed, crc32(name.encode())])


@dataclass
class Counts:
    """What came of the inks of one name.

    Parameters
    ----------
    inks, told, fixed, misread : int
        How many there were; how much was told that is no fault of theirs (of clean ink anything, of faulty
        ink the fault itself at half a tolerance), and how much to fix; how many were misread.
    beside : int
        How much else was told of ink with a fault of two tolerances: one cause, one finding is the aim.
    found : Counter
        By size in tolerances, in how many the fault was found.
    ratios : list of float
        Of faults found in letters, the value told over the size made.
    """

    inks: int = 0
    told: int = 0
    fixed: int = 0
    misread: int = 0
    beside: int = 0
    found: Counter[str] = field(default_factory=Counter)
    ratios: list[float] = field(default_factory=list)

    def figures(self) -> dict[str, float]:
        """The counts under plain names: those beginning with "found" are to stay high, the others low."""
        out: dict[str, float] = {
            "told": self.told,
            "fixed": self.fixed,
            "misread": self.misread,
            "beside": self.beside,
        }
        out |= {f"found at {size}": count for size, count in sorted(self.found.items())}
        if len(self.ratios) >= _EACH:
            out["value"] = round(median(self.ratios), 3)
        return out


def wanted(seed: int = SEED) -> list[Wanted]:
    """Every ink of the corpus, those of one name together."""
    out: list[Wanted] = []
    for code, hand in product(CODES, OF_THE_MODEL):
        pool = [
            (ink_set, text)
            for ink_set in INK_SETS
            if code in made_in(ink_set)
            for text in texts_of(Job(ink_set, hand, seed, 1, code))
        ]
        sizes = _SIZES if _can_be_inside(code) else _SIZES[1:]
        for (ink_set, text), size in product(_some(pool, _EACH, seed, code, hand), sizes):
            out.append(Wanted(ink_set, hand, text, code, size))
    for ink_set, hand in product(INK_SETS, OF_THE_MODEL):
        faults = [
            (code, text) for code in made_in(ink_set) for text in texts_of(Job(ink_set, hand, seed, 1, code))
        ]
        for (code, text), size in product(_some(faults, _EACH, seed, ink_set.name, hand), _SIZES[1:]):
            out.append(Wanted(ink_set, hand, text, code, size, of_script=True))
    for ink_set, hand in product(INK_SETS, OF_THE_MODEL):
        count = _CLEAN_EACH if ink_set.alphabet != "words" else _CLEAN_WORDS_EACH
        texts = _some(texts_of(Job(ink_set, hand, seed, 1)), count, seed, "clean", ink_set.name, hand)
        out += [Wanted(ink_set, hand, text) for text in texts]
    out += [Wanted(INK_SETS[0], "kept", text, pen=pen) for pen, text in product(PENS, _WITH_PENS)]
    return out


def _some(pool: Sequence[Item], count: int, seed: int, *name: str) -> list[Item]:
    """A few of many, always the same ones."""
    order = np.random.default_rng([seed, crc32(" ".join(name).encode())]).permutation(len(pool))
    return [pool[i] for i in order[:count]]


def _can_be_inside(code: str) -> bool:
    spec = CODES[code]
    return bool(spec.tolerance) and not spec.unit.is_count


def judge(one: Wanted, seed: int = SEED) -> tuple[str, Counts]:
    """Write one ink and count what is said of it."""
    rng, job = one.rng(seed), Job(one.ink_set, one.hand, seed, 1, one.code)
    size = fault_size(one.code, one.tolerances) if one.code else 0.0
    group = (word_ink if one.ink_set.alphabet == "words" else letter_ink)(job, one.text, size, rng)
    if one.pen:
        group = PENS[one.pen](group, rng)
    found, read = judged(job, one.text, group)
    counts = Counts(inks=1)
    if one.code is None:
        counts.told = len(found)
        counts.fixed = sum(finding.severity is Severity.FIX for finding in found)
        counts.misread = int(read != one.text.replace(" ", ""))
        return one.name, counts
    mine = [finding for finding in found if finding.code == one.code]
    if one.tolerances == _INSIDE:
        counts.told = bool(mine)
    else:
        counts.found[f"{one.tolerances:g}"] = bool(mine)
        counts.beside = len({finding.code for finding in found} - {one.code}) if one.tolerances < 3 else 0
        counts.ratios += [mine[0].value / size] if mine and _can_be_inside(one.code) else []
    return one.name, counts


Judging = Callable[[Wanted], tuple[str, Counts]]


def counted(
    todo: Iterable[Wanted],
    each: Callable[
        [Callable[[Wanted], tuple[str, Counts]], Iterable[Wanted]], Iterable[tuple[str, Counts]]
    ] = map,
) -> Iterator[tuple[str, Counts]]:
    """The counts of every name, as soon as its last ink is judged."""
    name, total = "", Counts()
    for mine, one in each(judge, todo):
        if mine != name and name:
            yield name, total
        if mine != name:
            name, total = mine, Counts()
        total.inks += one.inks
        total.told += one.told
        total.fixed += one.fixed
        total.misread += one.misread
        total.beside += one.beside
        total.found.update(one.found)
        total.ratios += one.ratios
    if name:
        yield name, total
