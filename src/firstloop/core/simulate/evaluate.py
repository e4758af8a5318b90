"""How well the checker does: recall and false alarms a code, on the simulated writer's ink."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

import numpy as np

from firstloop.core.check.findings import CODES, Severity
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
_WITHOUT_SIZE = 1.0


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
    extra: Counter[str] = field(default_factory=Counter)
    confusion: Counter[tuple[str, str]] = field(default_factory=Counter)


def fault_size(fault: Fault, tolerances: int) -> float:
    """Size of a fault at so many tolerances, in its own unit."""
    tolerance = CODES[fault.code].tolerance
    if CODES[fault.code].unit == "lifts":
        return tolerances / 2
    return _WITHOUT_SIZE if tolerance is None else tolerance * tolerances


def _codes(result: LetterResult) -> set[str]:
    return {f.code for f in result.findings if f.severity is not Severity.TOLD}


def _faulty(
    fault: Fault, repeats: int, styles: Iterable[HouseStyle], hand: SimHand, rng: np.random.Generator
) -> Iterator[tuple[str, int, LetterResult]]:
    for style in styles:
        for tolerances in (2, 4):
            for char in fault.letters:
                for _ in range(repeats):
                    size = fault_size(fault, tolerances)
                    ink = write(char, rng, fault=fault.code, size=size, style=style, hand=hand)
                    yield char, tolerances, check_letter(ink, char, style)


def evaluate(
    repeats: int = 6,
    seed: int = 1,
    styles: Iterable[HouseStyle] = STYLES,
    hand: SimHand = ORDINARY_HAND,
    codes: Iterable[str] | None = None,
) -> Evaluation:
    """Write clean and faulty letters, check them all, and count.

    Parameters
    ----------
    repeats : int
        Letters written for each letter, style, code and size.
    seed : int
        Of the writer's random numbers.
    """
    rng = np.random.default_rng(seed)
    wanted = list(FAULTS if codes is None else codes)
    table = Evaluation({code: CodeRow(code) for code in CODES})
    for style in styles:
        for char in LOWER:
            for _ in range(repeats * 4):
                result = check_letter(write(char, rng, style=style, hand=hand), char, style)
                severities = {f.code: f.severity for f in result.findings if f.severity is not Severity.TOLD}
                table.clean += 1
                table.clean_any += bool(severities)
                table.clean_fix += Severity.FIX in severities.values()
                for code in severities:
                    table.rows[code].alarms[char] += 1
                if result.reads_as != char:
                    table.confusion[char, result.reads_as] += 1
    for code in wanted:
        row = table.rows[code]
        for char, tolerances, result in _faulty(FAULTS[code], repeats, styles, hand, rng):
            row.tried[tolerances] += 1
            codes_found = _codes(result)
            if code in codes_found:
                row.found[tolerances] += 1
                table.extra.update(f"{code} + {other}" for other in codes_found - {code})
            else:
                row.missed[f"{char}:{'+'.join(sorted(codes_found)) or 'nothing'}"] += 1
    return table
