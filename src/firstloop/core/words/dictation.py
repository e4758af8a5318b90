"""Dictation: what a word that was marked says of each of its units, as evidence like that of letters.

The first writing counts: a unit that was right in it is secure, one that was right only when the word was
written once more is near, one that was right in neither is to mend. A unit twice in a word counts twice.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.progress.evidence import Day, Evidence, evidence_of
from firstloop.core.progress.mastery import SECURE_SHARE, Standing, State
from firstloop.core.words.units import SPLIT, places

TRIES_MOST = 2  # a word is written once more, and no more than that
BOX_MOST = 12


class DictationError(ValueError):
    """A mark that a dictated word cannot have; the message says why."""


@dataclass(frozen=True)
class Marked:
    """A dictated word of a child, marked.

    Parameters
    ----------
    day : int
        Day number.
    tries : sequence of sets of int
        For each writing the places of the units to mend; none where it was right.
    """

    day: int
    units: tuple[str, ...]
    tries: tuple[frozenset[int], ...]


def checked_tries(units: Sequence[str], tries: Sequence[Sequence[int]]) -> list[list[int]]:
    """Tries as they are kept: places in order, a second writing only after something was to mend.

    Raises
    ------
    DictationError
    """
    if len(tries) > TRIES_MOST:
        raise DictationError(f"a word is written {TRIES_MOST} times at most")
    if len(tries) == TRIES_MOST and not tries[0]:
        raise DictationError("a word that was right is not written once more")
    for places_ in tries:
        if not set(places_) <= set(range(len(units))):
            raise DictationError(f"there are {len(units)} units in the word")
    return [sorted(set(places_)) for places_ in tries]


def unit_verdicts(units: Sequence[str], tries: Sequence[frozenset[int]]) -> list[Verdict]:
    """How each unit of a marked word was written; none of a word that is not marked yet."""
    if not tries:
        return []
    first, last = tries[0], tries[-1]
    return [
        Verdict.SECURE if at not in first else Verdict.NEAR if at not in last else Verdict.FIX
        for at in range(len(units))
    ]


def unit_days(words: Iterable[Marked]) -> dict[str, list[Day]]:
    """The evidence of every unit, day by day; by unit."""
    by_day: dict[tuple[str, int], list[Evidence]] = defaultdict(list)
    for word in words:
        for unit, verdict in zip(word.units, unit_verdicts(word.units, word.tries), strict=False):
            by_day[unit, word.day].append(evidence_of(str(verdict), {}, None))
    out: dict[str, list[Day]] = defaultdict(list)
    for (unit, day), pieces in sorted(by_day.items(), key=lambda item: item[0][1]):
        out[unit].append(Day(day, tuple(pieces)))
    return dict(out)


def shown_units(text: str, units: Sequence[str]) -> list[str]:
    """What stands in each sound box: the letters of the unit, a split one as it is cut (a_e)."""
    letters = list(text)
    return [
        unit if SPLIT in unit else "".join(letters[at] for at in own)
        for unit, own in zip(units, places(units), strict=True)
    ]


_CONTEXT_LEAST = 3  # times wrong beside the same unit
_CONTEXT_SHARE = 0.6  # of the times it stands there
_ELSEWHERE_SHARE = 0.25  # no more often is it wrong elsewhere


@dataclass(frozen=True)
class InContext:
    """A unit that goes wrong before one other unit and not elsewhere."""

    unit: str
    before: str
    wrong: int
    of: int


def in_context(words: Iterable[Marked]) -> list[InContext]:
    """Units that are to mend mostly before one certain unit, the most often wrong first."""
    seen: dict[tuple[str, str], list[bool]] = defaultdict(list)
    for word in words:
        if not word.tries:
            continue
        for at, unit in enumerate(word.units):
            following = word.units[at + 1] if at + 1 < len(word.units) else ""
            seen[unit, following].append(at in word.tries[0])
    out = []
    for (unit, before), wrong in seen.items():
        elsewhere = [one for (u, b), some in seen.items() if u == unit and b != before for one in some]
        often = sum(wrong) >= _CONTEXT_LEAST and sum(wrong) >= _CONTEXT_SHARE * len(wrong)
        if before and often and elsewhere and sum(elsewhere) <= _ELSEWHERE_SHARE * len(elsewhere):
            out.append(InContext(unit, before, sum(wrong), len(wrong)))
    return sorted(out, key=lambda one: (-one.wrong, one.unit))


_READY_WORDS = 8  # of late, all of them right at once


def ready_for_longer(words: Sequence[Marked]) -> int | None:
    """How many units the next words may have, where the latest words were all right at once; else None.

    Parameters
    ----------
    words : sequence of Marked
        In order of time.
    """
    latest = [word for word in words if word.tries][-_READY_WORDS:]
    if len(latest) < _READY_WORDS or any(word.tries[0] for word in latest):
        return None
    return max(len(word.units) for word in latest) + 1


_RIGHT_LEAST, _WRONG_LEAST = 3, 3


@dataclass(frozen=True)
class CameRight:
    """A unit that was often to mend and has been right at once ever since a day."""

    unit: str
    day: int
    wrong: int
    of: int


def came_right(words: Sequence[Marked]) -> list[CameRight]:
    """Units that came right, the latest first.

    Of the writings before, at least three and at least half were to mend; since then at least three were
    right at once, and none was to mend.

    Parameters
    ----------
    words : sequence of Marked
        In order of time.
    """
    seen: dict[str, list[tuple[int, bool]]] = defaultdict(list)
    for word in words:
        for at, unit in enumerate(word.units if word.tries else ()):
            seen[unit].append((word.day, at in word.tries[0]))
    out = []
    for unit, written in seen.items():
        last = max((place for place, (_, wrong) in enumerate(written) if wrong), default=-1)
        before, since = written[: last + 1], written[last + 1 :]
        wrong = sum(was for _, was in before)
        if len(since) >= _RIGHT_LEAST and wrong >= _WRONG_LEAST and 2 * wrong >= len(before):
            out.append(CameRight(unit, since[0][0], wrong, len(before)))
    return sorted(out, key=lambda one: (-one.day, one.unit))


_TEACH_SHARE = 0.5  # of a unit's writings right: no more than that, and it is taught again


@dataclass(frozen=True)
class NextUnits:
    """What to do next with the units of a child; ``longer`` only where every unit is mostly right."""

    in_context: list[InContext]
    slipping: list[str]
    teach: list[str]
    longer: int | None


def next_units(words: Sequence[Marked], stands: Mapping[str, Standing]) -> NextUnits:
    """What to do next, by rule: no unit is named twice.

    Parameters
    ----------
    words : sequence of Marked
        In order of time.
    stands : mapping
        How every unit stands.
    """
    placed = in_context(words)
    named = {one.unit for one in placed}
    slipping = [u for u, found in stands.items() if found.state is State.SLIPPING and u not in named]
    teach = [
        unit
        for unit, found in stands.items()
        if found.state is State.LEARNING
        and unit not in named
        and found.letters > 1
        and (found.share or 0.0) <= _TEACH_SHARE
    ]
    sure = all((found.share or 0.0) >= SECURE_SHARE for found in stands.values())
    nothing = sure and not (placed or slipping or teach)
    return NextUnits(placed, slipping, teach, ready_for_longer(words) if nothing else None)
