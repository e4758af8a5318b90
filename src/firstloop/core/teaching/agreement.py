"""Where the teacher's marks and the checker's verdicts differ, and which tolerance would mend it.

A mark is about a whole attempt, so it speaks for one code only where that code was the only thing
found: ticked, the teacher let it pass; marked near or fix, the teacher agrees that it is a slip.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.codes import CODES, NO_TOLERANCES, Strictness
from firstloop.core.check.vocabulary.grades import Level, Verdict

LEAST = 6  # marked attempts that a proposal needs
_SHARE = 0.75  # of them ticked
LEAST_TIMES, MOST_TIMES = 0.5, 2.0  # of the house's tolerance, between which a class's own may be


@dataclass(frozen=True)
class Marked:
    """One attempt that both have judged.

    Parameters
    ----------
    found : tuple of (code, value)
        What the checker told, whatever its severity.
    mark : str
        The teacher's.
    level : Level
        How strict the checker was.
    """

    found: tuple[tuple[str, float], ...]
    mark: Verdict
    level: Level


@dataclass(frozen=True)
class Proposal:
    """A tolerance at which the checker would say what the teacher said.

    ``ticked`` of ``looked_at`` attempts between ``lowest`` and ``highest`` off were let pass.
    """

    tolerance: float
    ticked: int
    looked_at: int
    lowest: float
    highest: float


@dataclass(frozen=True)
class Agreement:
    """How often the teacher agreed that a code was a slip, and what would mend a lasting difference.

    ``seen`` holds every value with whether the teacher let it pass, smallest first.
    """

    code: str
    agreed: int
    looked_at: int
    tolerance: float | None
    proposal: Proposal | None
    seen: tuple[tuple[float, bool], ...]


def agreement(marked: Sequence[Marked], tolerances: Mapping[str, float] = NO_TOLERANCES) -> list[Agreement]:
    """Agreement for every code that was told alone on a marked attempt, most often differing first.

    Values are taken as at the level "growing", so that all children count alike.

    Parameters
    ----------
    tolerances : mapping
        Tolerances the class has accepted already.
    """
    told: dict[str, list[tuple[float, bool]]] = {}
    for one in marked:
        if len(one.found) == 1:
            (code, value), let_pass = one.found[0], one.mark is Verdict.SECURE
            told.setdefault(code, []).append((value / one.level.factor, let_pass))
    out = []
    for code, seen in told.items():
        agreed = sum(not let_pass for _, let_pass in seen)
        tolerance = Strictness(Level.GROWING, tolerances).tolerance(code)
        proposal = _proposal(code, tolerance, seen)
        out.append(Agreement(code, agreed, len(seen), tolerance, proposal, tuple(sorted(seen))))
    return sorted(out, key=lambda one: (one.agreed - one.looked_at, one.code))


def _proposal(code: str, tolerance: float | None, seen: list[tuple[float, bool]]) -> Proposal | None:
    """The widest tolerance below which most attempts were let pass; None where nothing asks for it."""
    spec = CODES[code]
    if not tolerance or spec.tolerance is None or spec.unit.is_count or spec.small_is_worse:
        return None
    step = spec.unit.step or tolerance / 10
    beyond = sorted(one for one in seen if one[0] > tolerance)
    best: Proposal | None = None
    for count in range(LEAST, len(beyond) + 1):
        within = beyond[:count]
        ticked = sum(let_pass for _, let_pass in within)
        highest = within[-1][0]
        goal = step * -(-highest // step)
        if ticked >= _SHARE * count and within[-1][1] and goal <= MOST_TIMES * spec.tolerance:
            best = Proposal(round(goal, 4), ticked, count, within[0][0], highest)
    return best
