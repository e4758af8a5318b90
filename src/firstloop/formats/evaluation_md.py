"""The tables of ``first-loop evaluate`` as Markdown."""

from __future__ import annotations

from collections.abc import Callable
from math import isnan
from pathlib import Path

import numpy as np

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.scanning.evaluate import PaperTally
from firstloop.core.simulate.camera import Device
from firstloop.core.simulate.evaluate import HANDS, INK_SETS, CodeRow, Evaluation, InkSet, Job, Tally
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import AGES
from firstloop.core.simulate.pens import PENS
from firstloop.core.simulate.text import LARGEST_WHOLE

GOALS = {2: 0.95, 4: 0.99}
ANY_GOAL, FIX_GOAL = 0.05, 0.01
_MISSES_SHOWN = 3
_EXTRAS_SHOWN = 12


def _share(value: float, goal: float = 1.0) -> str:
    text = f"{100 * value:.1f} %"
    return text if value <= goal else f"**{text}**"


def _recall(row: CodeRow | Tally, tolerances: int) -> str:
    value = row.recall(tolerances)
    if isnan(value):  # none tried
        return ""
    return f"{value:.3f}" if value >= GOALS[tolerances] else f"**{value:.3f}**"


def _clean(tally: Tally) -> str:
    count = max(tally.clean, 1)
    return (
        f"{tally.clean} | {_share(tally.clean_any / count, ANY_GOAL)} | "
        f"{_share(tally.clean_fix / count, FIX_GOAL)} | {sum(tally.confusion.values())}"
    )


def _named(code: str) -> str:
    sized = CODES[code].tolerance is not None and not CODES[code].unit.is_count
    largest = FAULTS[code].largest if code in FAULTS else LARGEST_WHOLE.get(code, float("inf"))
    return f"`{code}` (at most {largest:g})" if sized and largest < float("inf") else f"`{code}`"


def _code_line(code: str, kept: Tally, others: list[Tally]) -> str:
    every = [tally.rows.get(code, CodeRow(code)) for tally in (kept, *others)]
    missed = every[0].missed
    words = "; ".join(f"{said} ({count})" for said, count in missed.most_common(_MISSES_SHOWN))
    tried = sum(sum(row.tried.values()) for row in every)
    alarms = sum(every[0].alarms.values()) / max(kept.clean, 1)
    recalls = " | ".join(_recall(row, t) for row in every for t in (2, 4))
    return f"| {_named(code)} | {tried} | {recalls} | {_share(alarms)} | {words} |"


def _is_ordinary(job: Job) -> bool:
    return job.pen is None and job.age is None


def _ordinary(table: Evaluation, hand: str, part: InkSet | None = None) -> Tally:
    """What came of one hand's ordinary ink, of one part or of all."""
    return table.where(lambda job: job.hand == hand and _is_ordinary(job) and part in (None, job.part))


def _part_lines(table: Evaluation) -> list[str]:
    out = []
    for part in INK_SETS:
        for hand in HANDS:
            tally = _ordinary(table, hand, part)
            if tally.clean:
                out.append(
                    f"| {part.name} | {hand} | {_clean(tally)} | {_recall(tally, 2)} | {_recall(tally, 4)} |"
                )
    return out


def _clean_lines(table: Evaluation, names: list[str], of: Callable[[Job], str | None]) -> list[str]:
    out = []
    for name in names:
        tally = Tally()
        for job, one in table.done:
            if of(job) == name:
                tally.add(one)
        out.append(f"| {name} | {_clean(tally)} |")
    return out


def evaluation_markdown(table: Evaluation, repeats: int, seed: int) -> str:
    """The whole page: by part, by code, with bad pens, by age, and what was confused."""
    by_hand = {hand: _ordinary(table, hand) for hand in HANDS}
    kept, others = by_hand["kept"], [by_hand["tuning"], by_hand["own"]]
    every = kept.confusion + others[0].confusion + others[1].confusion
    codes = [code for code in CODES if any(t.rows.get(code, CodeRow(code)).tried for t in by_hand.values())]
    confused = ", ".join(f"{a} as {b or 'nothing'} ({n})" for (a, b), n in every.most_common(20))
    extras = [f"| `{made}` | `{also}` | {n} |" for (made, also), n in kept.extra.most_common(_EXTRAS_SHOWN)]
    clean_head = ["| --- | ---: | ---: | ---: | ---: |"]
    lines = [
        "# How well the checker does",
        "",
        f"Written by `first-loop evaluate --repeats {repeats} --seed {seed} --write docs/evaluation.md`, "
        f"checker version {CHECKER_VERSION}, level growing.",
        "",
        "The ink is that of three simulated writers. The first bends the model's lines; tolerances were set "
        "with it (tuning). The second moves from target to target in overlapping strokes of lognormal speed; "
        "nothing was set with it, and its figures are the ones that count (kept). The third is somebody else "
        "for every ink: with letterforms of their own (fuller or more pointed rounds, arches that spring "
        "elsewhere, another width and lean) and smooth movements of least jerk (own). All write clean ink "
        "with natural variation, and ink with one named fault at two and at four tolerances, held to the "
        "largest size that still makes sense. What misses its goal (recall 0.95 and 0.99; of clean letters "
        "5 % with any finding, 1 % with one to fix) is bold. In words, findings are counted against letters.",
        "",
        "## By script and style",
        "",
        "| ink | writer | clean letters | any finding | to fix | misread | recall at 2 | recall at 4 |",
        "| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: |",
        *_part_lines(table),
        *[f"| **all** | {h} | {_clean(t)} | {_recall(t, 2)} | {_recall(t, 4)} |" for h, t in by_hand.items()],
        "",
        f"Read as something else (clean ink, all writers): {confused or 'nothing'}.",
        "",
        "## By code",
        "",
        "| code | written | kept: at 2 | kept: at 4 | tuning: at 2 | tuning: at 4 | own: at 2 | own: at 4 "
        "| on clean letters | what was found instead (kept) |",
        "| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | --- |",
        *[_code_line(code, kept, others) for code in codes],
        "",
        "## Clean print with bad pens, and by age (kept)",
        "",
        "| pen | clean letters | any finding | to fix | misread |",
        *clean_head,
        *_clean_lines(table, list(PENS), lambda job: job.pen),
        "",
        "| age | clean letters | any finding | to fix | misread |",
        *clean_head,
        *_clean_lines(table, list(AGES), lambda job: job.age),
        "",
        "## Found together (kept)",
        "",
        "One cause, one finding is the aim; these came with the one that was made:",
        "",
        "| made | found too | times |",
        "| --- | --- | ---: |",
        *extras,
        "",
        "What the misses look like, and have in common: [evaluation-notes.md](evaluation-notes.md).",
        "",
    ]
    return "\n".join(lines)


# -- on paper -------------------------------------------------------------------------------------------

_PAPER = "## On paper\n"
_PAPER_GOALS: dict[str, tuple[float, float, float]] = {  # scanner, copier, phone
    "found": (1.0, 0.999, 0.99),
    "printed": (0.10, 0.15, 0.25),
    "printed_95": (0.25, 0.35, 0.60),
    "height": (0.15, 0.20, 0.25),
    "height_95": (0.35, 0.40, 0.60),
    "same": (0.96, 0.95, 0.93),
    "clean": (0.01, 0.01, 0.02),
    "states": (0.995, 0.99, 0.98),
}


def paper_part(file: Path) -> tuple[str, str]:
    """The text of a file before what it says of paper, and what it says of paper."""
    text = file.read_text(encoding="utf-8") if file.exists() else ""
    before, mark, after = text.partition(_PAPER)
    return before, mark + after


def paper_markdown(table: dict[tuple[str, Device], PaperTally], pages: int, seed: int) -> str:
    """What ``first-loop evaluate --paper`` measured; what misses its goal is bold."""
    lines = [
        _PAPER,
        f"Written by `first-loop evaluate --paper --pages {pages} --seed {seed} --write docs/evaluation.md`. "
        "Pages of every ruling, printing, script and x-height from 5 to 10 mm are printed, written on with "
        "pencils of 0.3 to 0.8 mm and felt pens, and photographed. Verdicts are compared heading by heading "
        "(Shape, Size) with those of the same ink judged directly; a lift of the pen in a join, of which "
        "paper shows nothing, is left out.",
        "",
        "| writer | picture | pages | found | printed points, median / 95 % "
        "| height of a letter, median / 95 % | same verdict | in words | clean, to fix | states right |",
        "| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |",
        *[_paper_line(hand, device, tally) for (hand, device), tally in table.items()],
        "",
    ]
    return "\n".join(lines)


def _paper_line(hand: str, device: Device, tally: PaperTally) -> str:
    at = list(Device).index(device)

    def least(value: float, goal: str) -> str:
        text = f"{100 * value:.1f} %"
        return text if value >= _PAPER_GOALS[goal][at] else f"**{text}**"

    def most_mm(values: list[float], goal: str) -> str:
        both = [(float(np.quantile(values or [0.0], q)), g) for q, g in ((0.5, goal), (0.95, f"{goal}_95"))]
        return " / ".join(f"{v:.2f}" if v <= _PAPER_GOALS[g][at] else f"**{v:.2f}**" for v, g in both) + " mm"

    cells = [
        hand,
        str(device),
        str(tally.pages),
        least(tally.found / max(tally.pages, 1), "found"),
        most_mm(tally.printed, "printed"),
        most_mm(tally.heights, "height"),
        least(tally.same / max(tally.headings, 1), "same"),
        least(tally.in_words_same / max(tally.in_words, 1), "same"),
        _share(tally.clean_fix / max(tally.clean, 1), _PAPER_GOALS["clean"][at]),
        least(tally.states_right / max(tally.states, 1), "states"),
    ]
    return f"| {' | '.join(cells)} |"
