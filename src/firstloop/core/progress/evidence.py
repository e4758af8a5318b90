"""What was seen of a child's letter on one day, from whatever source.

Days are day numbers (``datetime.date.toordinal``): the core has no clock.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import lru_cache

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Severity, Verdict

RULES_VERSION = 2
"""Version of the rules of progress: of what counts as evidence, and of how a letter stands by it.

Whoever changes such a rule (here, in ``mastery``, ``measured`` or ``review``) counts this up: days that
were worked out by an older one are then worked out again by themselves.
"""
_CREDIT = {"s": 1.0, "n": 0.5, "f": 0.0}
_CODES = {"secure": "s", "near": "n", "fix": "f", "unreadable": "f", "not-seen": "-"}
_VERDICTS = {"s": "secure", "n": "near", "f": "fix", "-": "not-seen"}


class Aspect(StrEnum):
    """What a state is of: the letter as a whole, or one heading of it."""

    ALL = "all"
    DIRECTION = "direction"
    SHAPE = "shape"
    SIZE = "size"


_PLACE = {aspect: place for place, aspect in enumerate(Aspect)}


class Source(StrEnum):
    """Where a piece of evidence comes from."""

    INK = "ink"
    SCAN = "scan"
    WATCHED = "watched"


@dataclass(frozen=True)
class Evidence:
    """One letter seen written alone, or watched being written: a verdict for each aspect.

    What a source cannot tell is ``not-seen``: a scan knows no direction, a note on how the pen went
    knows nothing else.

    Parameters
    ----------
    token : str
        Four characters, one for each :class:`Aspect` in order: s, n, f or -.
    """

    token: str

    def verdict(self, aspect: Aspect) -> str:
        """Secure, near, fix or not-seen."""
        return _VERDICTS[self.token[_PLACE[aspect]]]


@lru_cache(maxsize=4**4)
def from_token(token: str) -> Evidence:
    """A piece from the four characters it is kept by.

    Raises
    ------
    ValueError
        If it is no such token.
    """
    if len(token) != len(Aspect) or not set(token) <= set(_VERDICTS):
        raise ValueError(f"{token!r} is no piece of evidence")
    return Evidence(token)


def _of(verdicts: Mapping[Aspect, str]) -> Evidence:
    return from_token("".join(_CODES[verdicts.get(aspect, "not-seen")] for aspect in Aspect))


def evidence_of(
    verdict: str, headings: Mapping[str, str], mark: str | None, source: Source = Source.INK
) -> Evidence:
    """What one attempt says, the teacher's mark winning over the checker.

    A mark of secure holds for every heading that was seen. A mark of near or fix holds for the letter;
    where the checker saw nothing wrong, no heading is blamed for it.
    """
    own = {Aspect(name): one for name, one in headings.items() if name in set(Aspect)}
    if mark == "secure":
        own = {aspect: "secure" if one != "not-seen" else one for aspect, one in own.items()}
    if source is Source.SCAN:
        own[Aspect.DIRECTION] = "not-seen"
    return _of({**own, Aspect.ALL: mark or verdict})


def watched(fine: bool) -> Evidence:
    """What a teacher saw of the way a letter was made on paper."""
    return _of({Aspect.DIRECTION: "secure" if fine else "fix"})


@dataclass(frozen=True)
class Day:
    """A day's evidence of one letter.

    Parameters
    ----------
    day : int
        Day number.
    evidence : tuple of Evidence
        Letters written alone and watched, in order. Traced and finished ones are not among them.
    in_words : tuple of Evidence
        The letter inside words, in order.
    helped : int
        Letters traced or finished that day.
    """

    day: int
    evidence: tuple[Evidence, ...] = ()
    in_words: tuple[Evidence, ...] = ()
    helped: int = 0
    slips: Mapping[str, int] = field(default_factory=dict)


def credits_of(days: Iterable[Day], aspect: Aspect) -> list[tuple[int, float]]:
    """Day and credit (1 secure, half near, 0 fix) of every piece that says something of an aspect."""
    place = _PLACE[aspect]
    return [
        (one.day, credit)
        for one in days
        for piece in one.evidence
        if (credit := _CREDIT.get(piece.token[place])) is not None
    ]


WORD_WEIGHT = 1 / 3
"""What a letter inside a word counts, of one written alone; its Direction counts whole."""

_NEIGHBOURS = (
    *("shape.form", "shape.width", "shape.part-extra", "shape.reach"),
    *("join.missing", "join.break", "join.crossing"),
    *("size.uneven", "spacing.tight", "spacing.wide", "spacing.uneven", "line.drift"),
)
"""Slips that the letters beside a letter may cause: squeezed for room, run on into the next one."""
_BADNESS = {Severity.NEAR: Verdict.NEAR, Severity.FIX: Verdict.FIX}


def in_word_evidence(
    headings: Mapping[str, str], found: Iterable[tuple[str, Severity]], read: bool
) -> Evidence:
    """What one letter inside a word says.

    Its Direction is as the checker saw it. Of its Shape and its Size a slip that its neighbours may have
    caused says nothing; where there is no other slip, and it is not secure, the heading is not seen.

    Parameters
    ----------
    headings : mapping
        Verdicts of the checker by heading.
    found : iterable of (code, severity)
        What was found in the letter.
    read : bool
        Whether it could be read at all; what could not be read inside a word says nothing.
    """
    if not read:
        return _of({})
    verdicts = {Aspect(name): one for name, one in headings.items() if name in set(Aspect)}
    for aspect in (Aspect.SHAPE, Aspect.SIZE):
        if verdicts.get(aspect) in (Verdict.NEAR, Verdict.FIX):
            own = [
                _BADNESS[severity]
                for code, severity in found
                if severity in _BADNESS and CODES[code].heading == str(aspect) and code not in _NEIGHBOURS
            ]
            verdicts[aspect] = str(max(own, key=lambda one: one.badness)) if own else "not-seen"
    seen = [Verdict(one) for one in verdicts.values() if one != "not-seen"]
    if seen:
        verdicts[Aspect.ALL] = str(max(seen, key=lambda one: one.badness))
    return _of(verdicts)


@dataclass(frozen=True)
class Credit:
    """What a piece of evidence counts: 1 secure, half near, 0 fix, and how heavily."""

    day: int
    credit: float
    weight: float = 1.0
    in_word: bool = False


def weighed(days: Iterable[Day], aspect: Aspect) -> list[Credit]:
    """Every piece that says something of an aspect, letters alone and those in words, in order."""
    place = _PLACE[aspect]
    word_weight = 1.0 if aspect is Aspect.DIRECTION else WORD_WEIGHT
    return [
        Credit(one.day, credit, word_weight if in_word else 1.0, in_word)
        for one in days
        for pieces, in_word in ((one.evidence, False), (one.in_words, True))
        for piece in pieces
        if (credit := _CREDIT.get(piece.token[place])) is not None
    ]


def slips_in(letters: Iterable[tuple[Iterable[str], Verdict | None]]) -> dict[str, int]:
    """In how many letters each slip was made.

    Parameters
    ----------
    letters : iterable of (codes, mark)
        What was found in each letter written alone, and the teacher's mark: one she let pass has no slip.
    """
    made: Counter[str] = Counter()
    for codes, mark in letters:
        if mark is not Verdict.SECURE:
            made.update(set(codes))
    return dict(made)


def stands_for_day(attempts: Sequence[tuple[bool, bool]]) -> int | None:
    """Which attempt is shown for a day: a picked one, else the last alone, else the last.

    Parameters
    ----------
    attempts : sequence of (picked, alone)
    """
    picked = [place for place, (is_picked, _) in enumerate(attempts) if is_picked]
    alone = [place for place, (_, is_alone) in enumerate(attempts) if is_alone]
    last = range(len(attempts))[-1:]
    return next(iter((*picked[:1], *alone[-1:], *last)), None)
