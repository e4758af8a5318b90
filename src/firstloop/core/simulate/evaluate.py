"""How well the checker does: recall and false alarms a code, on the simulated writer's ink."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from firstloop.core.check.codes import CODES
from firstloop.core.check.grades import Severity
from firstloop.core.check.letter import LetterResult, check_letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Width
from firstloop.core.simulate.faults import FAULTS, Fault
from firstloop.core.simulate.hand import ORDINARY_HAND, SimHand
from firstloop.core.simulate.writer import write

STYLES = (
    DEFAULT_STYLE,
    HouseStyle("Print, slanted", slant_deg=6.0),
    HouseStyle("Print, wide", width=Width.WIDE),
)
CLEAN_SHARE = 4  # clean letters for one of each fault
_WITHOUT_SIZE = 1.0
_TELL_EVERY = 50


@dataclass
class CodeRow:
    """Counts for one code: tried and found at two and at four tolerances; false alarms on clean letters."""

    code: str
    tried: Counter[int] = field(default_factory=Counter)
    found: Counter[int] = field(default_factory=Counter)
    missed: Counter[str] = field(default_factory=Counter)
    alarms: Counter[str] = field(default_factory=Counter)

    def recall(self, tolerances: int) -> float:
        """Share found; NaN if none were tried."""
        tried = self.tried[tolerances]
        return self.found[tolerances] / tried if tried else float("nan")


@dataclass
class Evaluation:
    """The table of ``first-loop evaluate``."""

    rows: dict[str, CodeRow]
    clean: int = 0
    clean_fix: int = 0
    clean_any: int = 0
    extra: Counter[tuple[str, str]] = field(default_factory=Counter)
    confusion: Counter[tuple[str, str]] = field(default_factory=Counter)


def fault_size(fault: Fault, tolerances: int) -> float:
    """Size of a fault at so many tolerances, in its own unit."""
    tolerance = CODES[fault.code].tolerance
    if CODES[fault.code].unit == "lifts":
        return tolerances / 2
    return _WITHOUT_SIZE if tolerance is None else tolerance * tolerances


def _codes(result: LetterResult) -> set[str]:
    return {f.code for f in result.findings if f.severity is not Severity.TOLD}


@dataclass(frozen=True)
class _Case:
    """One letter to write and check; a clean one has no code."""

    char: str
    style: HouseStyle
    code: str | None = None
    tolerances: int = 0


def _cases(repeats: int, styles: Iterable[HouseStyle], codes: Iterable[str]) -> Iterator[_Case]:
    for style in styles:
        for char in LOWER:
            yield from [_Case(char, style)] * (repeats * CLEAN_SHARE)
        for code in codes:
            for tolerances in (2, 4):
                for char in FAULTS[code].letters:
                    yield from [_Case(char, style, code, tolerances)] * repeats


def _written(case: _Case, hand: SimHand, rng: np.random.Generator) -> LetterResult:
    size = fault_size(FAULTS[case.code], case.tolerances) if case.code else 0.0
    ink = write(case.char, rng, fault=case.code, size=size, style=case.style, hand=hand)
    return check_letter(ink, case.char, case.style)


def evaluate(
    repeats: int = 6,
    seed: int = 1,
    styles: Sequence[HouseStyle] = STYLES,
    hand: SimHand = ORDINARY_HAND,
    codes: Iterable[str] | None = None,
    told: Callable[[int, int], None] = lambda done, total: None,
) -> Evaluation:
    """Write clean and faulty letters, check them all, and count.

    Parameters
    ----------
    repeats : int
        Letters written for each letter, style, code and size; four times as many clean ones.
    seed : int
        Of the writer's random numbers.
    told : callable
        Called now and then with (letters done, letters in all).
    """
    rng = np.random.default_rng(seed)
    table = Evaluation({code: CodeRow(code) for code in CODES})
    cases = list(_cases(repeats, styles, list(FAULTS) if codes is None else list(codes)))
    for done, case in enumerate(cases):
        result = _written(case, hand, rng)
        if case.code is None:
            _count_clean(table, case.char, result)
        else:
            _count_faulty(table.rows[case.code], table, case, result)
        if done % _TELL_EVERY == 0:
            told(done, len(cases))
    return table


def _count_clean(table: Evaluation, char: str, result: LetterResult) -> None:
    severities = {f.code: f.severity for f in result.findings if f.severity is not Severity.TOLD}
    table.clean += 1
    table.clean_any += bool(severities)
    table.clean_fix += Severity.FIX in severities.values()
    for code in severities:
        table.rows[code].alarms[char] += 1
    if result.reads_as != char:
        table.confusion[char, result.reads_as] += 1


def _count_faulty(row: CodeRow, table: Evaluation, case: _Case, result: LetterResult) -> None:
    row.tried[case.tolerances] += 1
    found = _codes(result)
    if row.code in found:
        row.found[case.tolerances] += 1
        table.extra.update((row.code, other) for other in found - {row.code})
    else:
        row.missed[f"{case.char}: {' + '.join(sorted(found)) or 'nothing'}"] += 1
