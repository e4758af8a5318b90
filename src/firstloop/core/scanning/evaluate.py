"""How well pages are read: simulated pages, written on, photographed, and held against what was written.

As with ink there are two hands, one that limits were set with (tuning) and one they were not (kept); each
page has its own house style, size, printing, pencil and picture, all from one seed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from firstloop.core.check.group import GroupResult, check_group
from firstloop.core.check.letter import LIFTS, check_letter
from firstloop.core.check.results import LetterResult, worst_of
from firstloop.core.check.vocabulary.grades import Heading, Severity
from firstloop.core.curves import FloatArray
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.ruling import RULINGS
from firstloop.core.scanning.find import FoundPage, Status, find_pages
from firstloop.core.scanning.read import ReadEntry, Terms, read_page
from firstloop.core.scanning.states import Found
from firstloop.core.scanning.straighten import PX_MM, Straight
from firstloop.core.scanning.written import Place, filled
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import Printing, SheetWish, Traced, WritingRow
from firstloop.core.simulate.camera import Device, Picture, take
from firstloop.core.simulate.evaluate import HANDS, OF_THE_MODEL
from firstloop.core.simulate.pencil import some_lead

DPI = 300.0
_CODE = "K7Q2M9"
_LETTERS = "abcdefghijklmnopqrstuvwxyz"
_HEADINGS = (Heading.SHAPE, Heading.SIZE)

Printer = Callable[[Page, Printing, float], np.ndarray]
"""Prints a page to 8 bit grey at so many dots an inch."""


@dataclass(frozen=True)
class PaperJob:
    """One page: who writes, what takes the picture, and the seed of everything else."""

    hand: str
    device: Device
    seed: int


@dataclass(frozen=True, eq=False)
class Written:
    """A page as it was written on, and its picture."""

    page: Page
    style: HouseStyle
    places: tuple[Place, ...]
    picture: Picture
    about: str


@dataclass
class PaperTally:
    """What came of pages; lengths in mm, one a point or letter."""

    pages: int = 0
    found: int = 0
    printed: list[float] = field(default_factory=list)
    heights: list[float] = field(default_factory=list)
    same: int = 0
    headings: int = 0
    in_words_same: int = 0
    in_words: int = 0
    clean: int = 0
    clean_fix: int = 0
    states: int = 0
    states_right: int = 0
    wrong: list[str] = field(default_factory=list)

    def add(self, other: PaperTally) -> None:
        """Take the counts of other pages in."""
        for name, value in vars(other).items():
            setattr(self, name, getattr(self, name) + value)


def paper_jobs(pages: int, seed: int) -> list[PaperJob]:
    """So many pages for each hand and device."""
    return [
        PaperJob(hand, device, seed * 10_000 + number)
        for hand in OF_THE_MODEL
        for device in Device
        for number in range(pages)
    ]


def run_page(job: PaperJob, printer: Printer) -> PaperTally:
    """Make one page and read it."""
    return judged(job, written_page(job, printer))


def evaluate_paper(
    todo: Sequence[PaperJob],
    one: Callable[[PaperJob], PaperTally],
    progress: Callable[[int, int], object] = lambda done, total: None,
    each: Callable[[Callable[[PaperJob], PaperTally], Iterable[PaperJob]], Iterable[PaperTally]] = map,
) -> dict[tuple[str, Device], PaperTally]:
    """The tallies by hand and device.

    Parameters
    ----------
    one : callable
        Makes one page and reads it: :func:`run_page` with a printer.
    """
    out: dict[tuple[str, Device], PaperTally] = {}
    for done, (job, tally) in enumerate(zip(todo, each(one, todo), strict=True), start=1):
        out.setdefault((job.hand, job.device), PaperTally()).add(tally)
        progress(done, len(todo))
    return out


# -- a page is written on -----------------------------------------------------------------------------


def written_page(job: PaperJob, printer: Printer) -> Written:
    """A sheet, printed, written on and photographed."""
    rng = np.random.default_rng([job.seed, list(HANDS).index(job.hand), list(Device).index(job.device)])
    script = Script(rng.choice([Script.PRINT, Script.PRINT, Script.PRINT_EXITS, Script.CURSIVE]))
    style = replace(DEFAULT_STYLE, script=script, slant_deg=float(rng.choice([0.0, 0.0, 8.0])))
    printing = Printing(rng.choice(list(Printing)))
    wish = SheetWish(
        tuple(_rows(rng)),
        xh_mm=float(rng.choice([5.0, 6.0, 7.0, 8.0, 10.0])),
        ruling=str(rng.choice(list(RULINGS))),
        traced=Traced(rng.choice(list(Traced))),
        printing=printing,
    )
    page = compose(wish, style, _CODE).pages[0]
    paper = printer(page, printing, DPI)
    lead = some_lead(rng)
    places = []
    for entry in page.entries:
        place, paper = filled(entry, paper, DPI, style, HANDS[job.hand], lead, rng)
        places.append(place)
    about = f"{script} {wish.xh_mm:g} mm {wish.ruling} {printing} {lead.width_mm:.2f} mm {lead.dark:.2f}"
    return Written(page, style, tuple(places), take(job.device, paper, DPI, rng), about)


def _rows(rng: np.random.Generator) -> Iterator[WritingRow]:
    for _ in range(2):
        yield WritingRow(tuple(rng.choice(list(_LETTERS), 2, replace=False).tolist()), "alone*")
    yield WritingRow(tuple(rng.choice(list(_LETTERS), 1).tolist()), "model trace trace ring alone*")
    yield WritingRow(("".join(rng.choice(list(_LETTERS), int(rng.integers(3, 5)))),), "alone*")


# -- and held against what was written ------------------------------------------------------------------


def judged(job: PaperJob, written: Written) -> PaperTally:
    """Read a page and count."""
    tally = PaperTally(pages=1)
    known = {one.text: written.page for one in written.page.codes}
    found = find_pages(
        written.picture.grey, lambda sheet, copy, page: known.get(f"FL1:{sheet}:{copy}:{page}")
    )
    if len(found) != 1 or found[0].status is not Status.READ:
        tally.wrong.append(f"{job}: {[str(one.status) for one in found]}")
        return tally
    tally.found = 1
    read = read_page(written.picture.grey, found[0], str(written.style.script), Terms(written.style))
    tally.printed += _off_mm(read.straight, found[0], written)[::7].tolist()
    for place, one in zip(written.places, read.entries, strict=True):
        _count(tally, job, written, place, one)
    return tally


def _count(tally: PaperTally, job: PaperJob, written: Written, place: Place, one: ReadEntry) -> None:
    where = f"{job.hand} {job.device} {job.seed} {one.entry.key} {one.entry.expected} {one.entry.support}"
    where += f" ({written.about})"
    tally.states += 1
    meant = Found.EMPTY if place.ink is None else Found.CROSSED_OUT if place.is_crossed else Found.INK
    if (one.found, one.is_ticked) == (meant, place.is_ticked):
        tally.states_right += 1
    else:
        tally.wrong.append(f"{where}: {meant} {place.is_ticked}, found {one.found} {one.is_ticked}")
    if meant is not Found.INK or place.ink is None:
        return
    if one.group is not None:
        _count_word(tally, written, place.ink, one.group, where)
    if one.letter is None:
        return
    directly = check_letter(place.ink, one.entry.expected, written.style)
    tally.headings += len(_HEADINGS)
    same = _same(directly, one.letter)
    tally.same += sum(same)
    if not all(same):
        tally.wrong.append(f"{where}: {_said(directly)} directly, {_said(one.letter)} on paper")
    high = directly.measures.height_mm, one.letter.measures.height_mm
    if high[0] is not None and high[1] is not None:
        tally.heights.append(abs(high[0] - high[1]))
    if place.is_clean:
        tally.clean += 1
        tally.clean_fix += any(finding.severity is Severity.FIX for finding in one.letter.findings)


def _count_word(tally: PaperTally, written: Written, ink: InkGroup, found: GroupResult, where: str) -> None:
    directly = check_group(replace(ink, truth=found.truth), written.style)
    for letter, on_paper in zip(directly.letters, found.letters, strict=True):
        same = _same(letter, on_paper)
        tally.in_words += len(_HEADINGS)
        tally.in_words_same += sum(same)
        if not all(same):
            tally.wrong.append(
                f"{where}, its {letter.expected}: {_said(letter)} directly, {_said(on_paper)} on paper"
            )


def _same(directly: LetterResult, on_paper: LetterResult) -> list[bool]:
    """Whether a letter is told the same, heading by heading; of lifts a picture says nothing."""
    seen = [one for one in directly.findings if one.code not in LIFTS]
    lifted = len(seen) < len(directly.findings)
    told = {one: worst_of(seen, one) if lifted else directly.headings[one] for one in _HEADINGS}
    return [told[heading] is on_paper.headings[heading] for heading in _HEADINGS]


def _said(result: LetterResult) -> str:
    told = [f for f in result.findings if f.spec.heading in _HEADINGS and f.code not in LIFTS]
    return ", ".join(f"{f.code} {f.value:.2f}" for f in told) or "nothing"


def _off_mm(straight: Straight, found: FoundPage, written: Written) -> FloatArray:
    """How far printed points are from where they should be, mm."""
    spots = [spot for one in written.page.entries for stroke in one.printed for spot in stroke]
    spots += [(x, y) for one in written.page.entries for x in one.box[::2] for y in one.lines.lines_mm]
    cells = np.floor(np.array(spots) * PX_MM).astype(int)
    there = np.stack([m[cells[:, 1], cells[:, 0]] for m in (straight.from_x, straight.from_y)], axis=1) + 0.5
    off = there - written.picture.where((cells + 0.5) / PX_MM)
    return np.asarray(np.hypot(off[:, 0], off[:, 1]) * 25.4 / found.dpi)
