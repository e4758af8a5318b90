"""The one thing to try next, the best one of a row, and which row to look at first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import COUNTED_HEADINGS, MARKS, Severity, Verdict

_PLACE = {code: place for place, code in enumerate(CODES)}
_OFTEN = 2  # a slip made this often, or far out once, is one to work on
_WORRY = {Verdict.SECURE: 0.0, Verdict.NEAR: 1.0, Verdict.FIX: 3.0, Verdict.UNREADABLE: 3.0}


@dataclass(frozen=True)
class AttemptFinding:
    """A finding reduced to what advice needs, and to what its sentences need."""

    code: str
    severity: Severity
    value: float = 0.0
    facts: Mapping[str, str] = field(default_factory=dict)

    @property
    def counts(self) -> bool:
        """Whether it is something to mend."""
        return self.severity is not Severity.TOLD


@dataclass(frozen=True)
class NextTry:
    """A thing to try next: the code it mends, how often it was slipped, and the latest such slip."""

    code: str
    times: int
    latest: AttemptFinding


@dataclass(frozen=True)
class JudgedAttempt:
    """An attempt reduced to what tells the best: its verdict, how much was found, how far its form is off."""

    verdict: Verdict
    found: int
    form_xh: float | None


def next_tries(
    attempts: Sequence[Sequence[AttemptFinding]],
    whole: Sequence[AttemptFinding] = (),
    chosen: str | None = None,
) -> list[NextTry]:
    """Everything a row asks for, the teacher's own choice or else what helps most first.

    What was slipped twice or more, or was once to fix, goes before a single near miss; then direction
    before shape before size; then the commonest.

    Parameters
    ----------
    attempts : sequence of sequences of AttemptFinding
        Findings of each attempt that counts (crossed-out ones left out), in order.
    whole : sequence of AttemptFinding
        Findings about the row as a whole.
    chosen : str or None
        Code that the teacher wants first.
    """
    times: dict[str, int] = {}
    latest: dict[str, AttemptFinding] = {}
    serious: set[str] = set()
    for findings in (*attempts, whole):
        for one in {one.code: one for one in findings}.values():
            if not one.counts or CODES[one.code].heading not in COUNTED_HEADINGS:
                continue
            times[one.code] = times.get(one.code, 0) + 1
            latest[one.code] = one
            if one.severity is Severity.FIX or times[one.code] >= _OFTEN:
                serious.add(one.code)

    def rank(code: str) -> tuple[bool, bool, int, int, int]:
        heading = COUNTED_HEADINGS.index(CODES[code].heading)
        return code != chosen, code not in serious, heading, -times[code], _PLACE[code]

    return [NextTry(code, times[code], latest[code]) for code in sorted(times, key=rank)]


def tells_most(findings: Sequence[AttemptFinding]) -> int | None:
    """Which finding of one letter to look at first: the first to fix, else the first near; None without.

    That a letter could not be read says nothing that could be pointed at.
    """
    for severity in (Severity.FIX, Severity.NEAR):
        for place, one in enumerate(findings):
            if one.severity is severity and one.code != "unreadable":
                return place
    return None


def first_to_see(verdicts: Sequence[Verdict | None]) -> int:
    """Position in a row of the first attempt that is to fix, or of the first one; None does not count."""
    counted = [place for place, one in enumerate(verdicts) if one is not None]
    return next((place for place in counted if verdicts[place] is Verdict.FIX), counted[0] if counted else 0)


def is_all_secure(verdicts: Sequence[Verdict | None]) -> bool:
    """Whether nothing in a row asks to be looked at before it is agreed with; None does not count."""
    return all(one in (None, Verdict.SECURE) for one in verdicts)


def agreed_mark(verdict: Verdict) -> Verdict | None:
    """The mark that repeats a checker's verdict; None where that is no mark."""
    return verdict if verdict in MARKS else None


def best_of(attempts: Sequence[JudgedAttempt | None]) -> int | None:
    """Which attempt the checker likes best: by verdict, then by how much was found, then by form.

    None stands for an attempt that does not count; None comes back where none does.
    """
    known = [(i, one) for i, one in enumerate(attempts) if one is not None and one.verdict in MARKS]

    def rank(pair: tuple[int, JudgedAttempt]) -> tuple[int, int, float]:
        _, one = pair
        return one.verdict.badness, one.found, 1.0 if one.form_xh is None else one.form_xh

    best = min(known, key=rank, default=None)
    return None if best is None else best[0]


def worry(verdicts: Sequence[Verdict]) -> float:
    """How much a row needs looking at, from 0 (all secure) to 3 (all to fix).

    Examples
    --------
    >>> worry([Verdict.SECURE, Verdict.FIX])
    1.5
    """
    known = [_WORRY[verdict] for verdict in verdicts if verdict in _WORRY]
    return sum(known) / len(known) if known else 0.0
