"""How well the checker does: recall and false alarms a code, on the simulated writers' ink.

Three hands write: the one that tolerances were set with, one that is built otherwise and kept for the
table, and one that is built otherwise again and has letterforms of its own. The work is cut into jobs
that know their own seed, so that they may run in any order and in several processes.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from itertools import product
from zlib import crc32

import numpy as np

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.check.vocabulary.grades import Severity
from firstloop.core.curves import FloatArray
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.style import DEFAULT_STYLE, Ascenders, HouseStyle, Script, Width
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import AGES, ORDINARY_HAND, SimHand
from firstloop.core.simulate.own_forms import OwnForms
from firstloop.core.simulate.pens import PENS
from firstloop.core.simulate.text import WHOLE_FAULTS, LetterFault, write_text
from firstloop.core.simulate.writer import write

EXITS = HouseStyle("Print, exits", script=Script.PRINT_EXITS)
CURSIVE = HouseStyle("Cursive", script=Script.CURSIVE)
LOOPED = HouseStyle("Cursive, looped", script=Script.CURSIVE, ascenders=Ascenders.LOOPED, slant_deg=8.0)
HANDS: dict[str, SimHand] = {
    "tuning": ORDINARY_HAND,
    "kept": replace(ORDINARY_HAND, built="strokelets"),
    "own": replace(ORDINARY_HAND, built="splines"),
}
OF_THE_MODEL = ("tuning", "kept")  # hands that write the class's letterforms
WORDS = (
    "mast", "raft", "dock", "crab", "gull", "tide", "sand", "shell", "fish", "chart", "lamp", "rope",
    "drift", "quay", "jiffy", "waves",
)  # fmt: skip
LINES = ("a crab", "the raft", "red gull")
CLEAN_SHARE = 4  # clean letters for one of each fault
_WITHOUT_SIZE = 1.0
_SAMPLES_MOST = 6  # of what went wrong, kept from each job


@dataclass(frozen=True)
class InkSet:
    """Letters in one style, or its words where `alphabet` is ``words``."""

    name: str
    alphabet: str
    style: HouseStyle


INK_SETS = (
    InkSet("print", "lower case", DEFAULT_STYLE),
    InkSet("print, slanted", "lower case", HouseStyle("Print, slanted", slant_deg=6.0)),
    InkSet("print, wide", "lower case", HouseStyle("Print, wide", width=Width.WIDE)),
    InkSet("capitals", "capitals", DEFAULT_STYLE),
    InkSet("digits", "digits", DEFAULT_STYLE),
    InkSet("print, exits", "lower case", EXITS),
    InkSet("cursive", "lower case", CURSIVE),
    InkSet("cursive, looped", "lower case", LOOPED),
    InkSet("words, print", "words", DEFAULT_STYLE),
    InkSet("words, exits", "words", EXITS),
    InkSet("words, cursive", "words", CURSIVE),
    InkSet("words, looped", "words", LOOPED),
)


@dataclass(frozen=True)
class Job:
    """A piece of the work: one part by one hand, clean (no code), with a fault, or with a bad pen."""

    part: InkSet
    hand: str
    seed: int
    repeats: int
    code: str | None = None
    pen: str | None = None
    age: str | None = None

    @property
    def rng(self) -> np.random.Generator:
        """Numbers of its own, whatever ran before."""
        name = f"{self.part.name} {self.hand} {self.code} {self.pen} {self.age}"
        return np.random.default_rng([self.seed, crc32(name.encode())])

    def sim(self, rng: np.random.Generator) -> SimHand:
        """The hand that writes; one with letterforms of its own is somebody else each time."""
        hand = HANDS[self.hand]
        if self.age:
            hand = replace(AGES[self.age], built=hand.built)
        return hand if self.hand in OF_THE_MODEL else replace(hand, forms=OwnForms.someone(rng))


@dataclass(frozen=True, eq=False)
class Sample:
    """Something the checker got wrong: what was written, what was said, and the ink (letter space)."""

    part: str
    text: str
    made: str
    said: str
    strokes: tuple[FloatArray, ...]


@dataclass
class CodeRow:
    """Counts for one code: tried and found at two and at four tolerances; false alarms on clean ink."""

    code: str
    tried: Counter[int] = field(default_factory=Counter)
    found: Counter[int] = field(default_factory=Counter)
    missed: Counter[str] = field(default_factory=Counter)
    alarms: Counter[str] = field(default_factory=Counter)

    def recall(self, tolerances: int) -> float:
        """Share found; NaN if none were tried."""
        tried = self.tried[tolerances]
        return self.found[tolerances] / tried if tried else float("nan")

    def add(self, other: CodeRow) -> None:
        """Count another's with this one's."""
        for name in ("tried", "found", "missed", "alarms"):
            getattr(self, name).update(getattr(other, name))


@dataclass
class Tally:
    """What came of some jobs."""

    rows: dict[str, CodeRow] = field(default_factory=dict)
    clean: int = 0
    clean_fix: int = 0
    clean_any: int = 0
    extra: Counter[tuple[str, str]] = field(default_factory=Counter)
    confusion: Counter[tuple[str, str]] = field(default_factory=Counter)
    samples: list[Sample] = field(default_factory=list)

    def row(self, code: str) -> CodeRow:
        """The counts of a code."""
        return self.rows.setdefault(code, CodeRow(code))

    def add(self, other: Tally) -> None:
        """Count another's with this one's."""
        for code, row in other.rows.items():
            self.row(code).add(row)
        self.clean += other.clean
        self.clean_fix += other.clean_fix
        self.clean_any += other.clean_any
        self.extra.update(other.extra)
        self.confusion.update(other.confusion)
        self.samples += other.samples

    def recall(self, tolerances: int) -> float:
        """Over all codes, each ink counted once."""
        tried = sum(row.tried[tolerances] for row in self.rows.values())
        return sum(row.found[tolerances] for row in self.rows.values()) / tried if tried else float("nan")


@dataclass
class Evaluation:
    """The tables of ``first-loop evaluate``: each job with what came of it."""

    done: list[tuple[Job, Tally]] = field(default_factory=list)

    def where(self, wanted: Callable[[Job], bool]) -> Tally:
        """What came of the jobs that are wanted."""
        total = Tally()
        for job, tally in self.done:
            if wanted(job):
                total.add(tally)
        return total


def fault_size(code: str, tolerances: float) -> float:
    """Size of a fault at so many tolerances, in its own unit."""
    spec = CODES[code]
    if spec.unit.is_count:
        return tolerances / 2
    if spec.tolerance is None:
        return _WITHOUT_SIZE
    return spec.tolerance / tolerances if spec.small_is_worse else spec.tolerance * tolerances


def jobs(
    repeats: int,
    seed: int,
    parts: Sequence[InkSet] = INK_SETS,
    hands: Iterable[str] = tuple(HANDS),
    codes: Iterable[str] | None = None,
) -> list[Job]:
    """Everything to write: clean and faulty ink of every part, and clean print with bad pens and by age."""
    wanted = set(CODES if codes is None else codes)
    out: list[Job] = []
    for part, hand in product(parts, hands):
        base = Job(part, hand, seed, repeats)
        out.append(base)
        out += [replace(base, code=code) for code in made_in(part) if code in wanted]
    if codes is None:
        first = Job(INK_SETS[0], "kept", seed, repeats)
        out += [replace(first, pen=pen) for pen in PENS]
        out += [replace(first, age=age) for age in AGES]
    return out


def made_in(part: InkSet) -> list[str]:
    """Codes whose fault the writer can make in a part."""
    if part.alphabet == "words":
        return [*WHOLE_FAULTS, *(["join.break"] if part.style.is_joined else FAULTS)]
    return [code for code, fault in FAULTS.items() if set(fault.letters_in(part.style.script)) & _set(part)]


def _set(part: InkSet) -> set[str]:
    return set(ALPHABETS[part.alphabet])


def _written(job: Job, rng: np.random.Generator) -> Iterator[tuple[str, int, InkGroup]]:
    """Each ink of a job: the text, the size in tolerances (0 when clean), and the ink."""
    in_words = job.part.alphabet == "words"
    again = job.repeats if job.code or in_words else job.repeats * CLEAN_SHARE
    if in_words and job.code in FAULTS:
        again = 1  # of one letter in every word that has one
    for text, tolerances, _ in product(texts_of(job), (2, 4) if job.code else (0,), range(again)):
        size = fault_size(job.code, tolerances) if job.code else 0.0
        group = (word_ink if in_words else letter_ink)(job, text, size, rng)
        yield text, tolerances, PENS[job.pen](group, rng) if job.pen else group


def texts_of(job: Job) -> Sequence[str]:
    """The letters or words of a job."""
    part, code = job.part, job.code
    if part.alphabet == "words":
        lines = code is not None and code.startswith("words.")
        texts = (*WORDS, *LINES) if code is None else LINES if lines else WORDS
        return [text for text in texts if code not in FAULTS or places(code, text, part.style)]
    letters = sorted(ALPHABETS[part.alphabet])
    made = letters if code is None else FAULTS[code].letters_in(part.style.script)
    return [char for char in letters if char in made]


def places(code: str, text: str, style: HouseStyle) -> list[int]:
    """Where in a text a letter stands that a fault can be made in."""
    letters = FAULTS[code].letters_in(style.script)
    return [i for i, char in enumerate(text) if char in letters]


def letter_ink(job: Job, char: str, size: float, rng: np.random.Generator) -> InkGroup:
    """One letter of a job, its fault of a size in the code's own unit."""
    return write(char, rng, fault=job.code, size=size, style=job.part.style, hand=job.sim(rng))


def word_ink(job: Job, text: str, size: float, rng: np.random.Generator) -> InkGroup:
    """One word of a job; a fault of a letter is made in one of its letters."""
    lifts: tuple[int, ...] = ()
    fault = job.code
    if fault == "join.break":
        fault, lifts = None, tuple(rng.permutation(len(text) - 1)[: int(size)].tolist())
    slips: dict[int, LetterFault] = {}
    if fault is not None and fault in FAULTS:
        place = int(rng.choice(places(fault, text, job.part.style)))
        slips[place] = fault, size
        fault = None
    return write_text(
        text, rng, fault=fault, size=size, style=job.part.style, hand=job.sim(rng), lifts=lifts, slips=slips
    )


def judged(job: Job, text: str, group: InkGroup) -> tuple[list[Finding], str]:
    """Everything found in some ink, and what it was read as."""
    if job.part.alphabet != "words":
        one = check_letter(group, text, job.part.style)
        return [f for f in one.findings if f.counts], one.reads_as
    result = check_group(group, job.part.style)
    found = [f for letter in result.letters for f in letter.findings if f.counts]
    read = "".join(letter.reads_as for letter in result.letters)
    return [*found, *result.findings], read


def run(job: Job) -> Tally:
    """Write and check the ink of one job."""
    rng, tally = job.rng, Tally()
    for text, tolerances, group in _written(job, rng):
        found, read = judged(job, text, group)
        codes = {f.code for f in found}
        if job.code is None:
            wrong = _count_clean(tally, text, found, read)
        else:
            wrong = job.code not in codes
            row = tally.row(job.code)
            row.tried[tolerances] += 1
            if wrong:
                row.missed[f"{text}: {' + '.join(sorted(codes)) or 'nothing'}"] += 1
            else:
                row.found[tolerances] += 1
                tally.extra.update((job.code, other) for other in codes - {job.code})
        if wrong and len(tally.samples) < _SAMPLES_MOST:
            made = f"{job.code} x {tolerances}" if job.code else f"clean, {job.pen or job.hand}"
            said = " + ".join(sorted(codes)) or "nothing"
            tally.samples.append(Sample(job.part.name, text, made, said, group.in_letter_space))
    return tally


def _count_clean(tally: Tally, text: str, found: list[Finding], read: str) -> bool:
    """Count clean ink; whether anything was said of it. In a word every finding counts as a letter."""
    wanted = text.replace(" ", "")
    most = len(wanted)
    tally.clean += most
    tally.clean_any += min(len(found), most)
    tally.clean_fix += min(sum(f.severity is Severity.FIX for f in found), most)
    for code in {f.code for f in found}:
        tally.row(code).alarms[text] += 1
    if read != wanted:
        tally.confusion[text, read] += 1
    return bool(found) or read != wanted


def evaluate(
    todo: Sequence[Job],
    told: Callable[[int, int], None] = lambda done, total: None,
    each: Callable[[Callable[[Job], Tally], Sequence[Job]], Iterable[Tally]] = map,
) -> Evaluation:
    """Run jobs and gather what came of them.

    Parameters
    ----------
    told : callable
        Called after each job with (jobs done, jobs in all).
    each : callable
        How to run them, as the built-in ``map``; a process pool's ``map`` uses every processor.
    """
    table = Evaluation()
    for done, (job, tally) in enumerate(zip(todo, each(run, todo), strict=True), start=1):
        table.done.append((job, tally))
        told(done, len(todo))
    return table
