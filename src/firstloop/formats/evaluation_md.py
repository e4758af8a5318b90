"""The tables of ``first-loop evaluate`` and ``first-loop bench`` as Markdown."""

from __future__ import annotations

from firstloop.core.check.codes import CODES
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.simulate.bench import Timing
from firstloop.core.simulate.evaluate import CodeRow, Evaluation
from firstloop.core.simulate.faults import FAULTS

GOALS = {2: 0.95, 4: 0.99}
_MISSES_SHOWN = 3
_EXTRAS_SHOWN = 12


def _share(value: float) -> str:
    return f"{100 * value:.1f} %"


def _recall(row: CodeRow, tolerances: int) -> str:
    value = row.recall(tolerances)
    return f"{value:.3f}" if value >= GOALS[tolerances] else f"**{value:.3f}**"


def _line(row: CodeRow, clean: int) -> str:
    missed = "; ".join(f"{words} ({count})" for words, count in row.missed.most_common(_MISSES_SHOWN))
    alarms = sum(row.alarms.values()) / max(clean, 1)
    tried = sum(row.tried.values())
    sized = CODES[row.code].tolerance is not None and CODES[row.code].unit != "lifts"
    largest = FAULTS[row.code].largest
    capped = f" (at most {largest:g})" if sized and largest < float("inf") else ""
    recalls = f"{_recall(row, 2)} | {_recall(row, 4)}"
    return f"| `{row.code}`{capped} | {tried} | {recalls} | {_share(alarms)} | {missed} |"


def evaluation_markdown(table: Evaluation, repeats: int, seed: int) -> str:
    """The whole page: totals, a line for each code, confusions, and codes that came together."""
    tried = [row for row in table.rows.values() if row.tried]
    confused = ", ".join(f"{a} read as {b or 'nothing'} ({n})" for (a, b), n in table.confusion.most_common())
    extras = "\n".join(
        f"| `{made}` | `{also}` | {n} |" for (made, also), n in table.extra.most_common(_EXTRAS_SHOWN)
    )
    return "\n".join(
        [
            "# How well the checker does",
            "",
            f"Written by `first-loop evaluate --repeats {repeats} --seed {seed} --write docs/evaluation.md`, "
            f"checker version {CHECKER_VERSION}, level growing, three house styles "
            "(upright, slanted by 6 degrees, wide).",
            "",
            "The ink is the simulated writer's: clean letters with natural variation, and letters with one "
            "named fault at two and at four tolerances, held to the largest size that still makes sense. "
            "A figure below its goal (0.95 and 0.99) is bold.",
            "",
            f"Clean letters: {table.clean}; "
            f"with any finding {_share(table.clean_any / max(table.clean, 1))} (goal 5 %), "
            f"with one to fix {_share(table.clean_fix / max(table.clean, 1))} (goal 1 %). "
            f"Read as another letter: {confused or 'none'}.",
            "",
            "| code | written | recall at 2 | recall at 4 | on clean letters | what was found instead |",
            "| --- | ---: | ---: | ---: | ---: | --- |",
            *[_line(row, table.clean) for row in tried],
            "",
            "Codes found together with the one that was made (one cause, one finding is the aim):",
            "",
            "| made | found too | times |",
            "| --- | --- | ---: |",
            extras,
            "",
        ]
    )


def bench_markdown(timings: list[Timing]) -> str:
    """Medians and goals."""
    lines = [
        f"| {t.task} | {t.runs} | {t.median_ms:.1f} ms | {t.p95_ms:.1f} ms | "
        f"{f'{t.goal_ms:g} ms' if t.goal_ms else ''} |"
        for t in timings
    ]
    return "\n".join(
        ["| task | runs | median | 95 % | goal |", "| --- | ---: | ---: | ---: | ---: |", *lines, ""]
    )
