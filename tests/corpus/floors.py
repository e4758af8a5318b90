"""The floors under the checker: where they are kept, and how they are written anew once it has got better.

    python -m tests.corpus.floors --write

Read the difference before you commit it: a floor that goes down is a checker that has got worse.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

from firstloop.core.simulate.corpus import Counts, counted, wanted

FILE = Path(__file__).with_name("floors.json")
Floors = Mapping[str, Mapping[str, float]]
_SLACK = 1  # ink by which a count may be worse: another machine rounds otherwise
_VALUE_SLACK = 0.1


def floors() -> Floors:
    """The figures that the checker has reached, by name of a count."""
    return json.loads(FILE.read_text(encoding="utf-8"))


def measured(workers: int = 2) -> Floors:
    """The figures it reaches now."""
    with ProcessPoolExecutor(workers) as pool:
        found = counted(wanted(), partial(pool.map, chunksize=24))
        return {name: counts.figures() for name, counts in found}


def broken(name: str, counts: Counts, known: Floors) -> list[str]:
    """What is worse than its floor, in words; nothing where the checker is as good as it was."""
    floor, out = known.get(name, {}), []
    for figure, now in counts.figures().items():
        if figure not in floor:
            out.append(f"{name}: {figure} is {now:g} and has no floor")
            continue
        was = floor[figure]
        if figure == "value":
            worse = abs(now - was) > _VALUE_SLACK * was
        elif figure.startswith("found"):
            worse = now < was - _SLACK
        else:
            worse = now > was + _SLACK
        if worse:
            out.append(f"{name}: {figure} is {now:g}, was {was:g}")
    return out


if __name__ == "__main__":
    text = "{\n" + ",\n".join(f"  {json.dumps(k)}: {json.dumps(v)}" for k, v in measured().items()) + "\n}\n"
    if "--write" in sys.argv:
        FILE.write_text(text, encoding="utf-8")
    else:
        sys.stdout.write(text)
