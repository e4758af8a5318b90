"""The one thing to try next, the best one of a row, and which row to look at first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from firstloop.core.check.codes import CODES

# direction before shape before size: a letter made the right way comes before one made neat
_HEADINGS = ("direction", "shape", "size")
_PLACE = {code: place for place, code in enumerate(CODES)}
_OFTEN = 2  # a slip made this often, or far out once, is one to work on
_WORRY = {"secure": 0.0, "near": 1.0, "fix": 3.0, "unreadable": 3.0}
_ORDER = ("secure", "near", "fix", "unreadable", "not-seen")
WELL_DONE = "Keep it just like your best one."


@dataclass(frozen=True)
class Slip:
    """A finding reduced to what advice needs."""

    code: str
    severity: str
    child: str


@dataclass(frozen=True)
class Step:
    """A thing to try next: the code it mends, the words for the child, and how often it was slipped."""

    code: str
    child: str
    times: int


@dataclass(frozen=True)
class Standing:
    """An attempt as it stands: its verdict, how much was found, and how far its form is off, xh."""

    verdict: str
    found: int
    form_xh: float | None


def next_steps(attempts: Sequence[Sequence[Slip]], whole: Sequence[Slip] = ()) -> list[Step]:
    """Everything a row asks for, what helps most first.

    What was slipped twice or more, or was once to fix, goes before a single near miss; then direction
    before shape before size; then the commonest.

    Parameters
    ----------
    attempts : sequence of sequences of Slip
        Findings of each attempt that counts (crossed-out ones left out), in order.
    whole : sequence of Slip
        Findings about the row as a whole.
    """
    times: dict[str, int] = {}
    latest: dict[str, Slip] = {}
    serious: set[str] = set()
    for slips in (*attempts, whole):
        for slip in {slip.code: slip for slip in slips}.values():
            if slip.severity not in ("near", "fix") or CODES[slip.code].heading not in _HEADINGS:
                continue
            times[slip.code] = times.get(slip.code, 0) + 1
            latest[slip.code] = slip
            if slip.severity == "fix" or times[slip.code] >= _OFTEN:
                serious.add(slip.code)

    def rank(code: str) -> tuple[bool, int, int, int]:
        heading = _HEADINGS.index(CODES[code].heading)
        return code not in serious, heading, -times[code], _PLACE[code]

    return [Step(code, latest[code].child, times[code]) for code in sorted(times, key=rank)]


def best_of(standings: Sequence[Standing | None]) -> int | None:
    """Which attempt the checker likes best: by verdict, then by how much was found, then by form.

    None stands for an attempt that does not count; None comes back where none does.
    """
    known = [i for i, one in enumerate(standings) if one is not None and one.verdict in _ORDER[:3]]

    def rank(i: int) -> tuple[int, int, float]:
        one = standings[i]
        assert one is not None
        return _ORDER.index(one.verdict), one.found, 1.0 if one.form_xh is None else one.form_xh

    return min(known, key=rank, default=None)


def worry(verdicts: Sequence[str]) -> float:
    """How much a row needs looking at, from 0 (all secure) to 3 (all to fix).

    Examples
    --------
    >>> worry(["secure", "fix"])
    1.5
    """
    known = [_WORRY[verdict] for verdict in verdicts if verdict in _WORRY]
    return sum(known) / len(known) if known else 0.0
