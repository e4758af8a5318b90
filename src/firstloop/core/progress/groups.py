"""Children who can be taught together: the same slip over the same family of letters."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.grades import COUNTED_HEADINGS, Heading

LEAST, MOST = 2, 6  # children in a group
GROUPS_EACH = 2  # groups a child may be in
GROUPS_MOST = 4
OFTEN = 0.3  # a slip made in less than this share of letters is no cause to be taken aside
TIMES = 2


@dataclass(frozen=True)
class Need:
    """A slip of one child over one family of letters.

    Parameters
    ----------
    slips, letters : int
        How often it was made in how many letters of the family written alone, of late.
    chars : str
        The letters in which it was made.
    """

    child: int
    code: str
    heading: Heading
    family: str
    slips: int
    letters: int
    chars: str

    @property
    def share(self) -> float:
        """Slips for each letter written."""
        return self.slips / max(self.letters, 1)


@dataclass(frozen=True)
class Group:
    """Children to take aside together, and what for."""

    code: str
    family: str
    children: tuple[int, ...]
    chars: str


def _worst_first(needs: Iterable[Need]) -> list[Need]:
    return sorted(needs, key=lambda need: (-need.share, -need.slips, need.child))


def groups(needs: Sequence[Need]) -> tuple[Group, ...]:
    """Form a few groups of two to six, no child in more than two.

    Causes are taken in turn: direction before shape before size, then the one that most children
    share. More than six children with one cause make two groups of like size.
    """
    used: dict[int, int] = {}
    out: list[Group] = []
    for cause, sharing in _ranked(needs):
        free = [need for need in sharing if used.get(need.child, 0) < GROUPS_EACH]
        for some in _parts(free):
            if len(out) == GROUPS_MOST:
                return tuple(out)
            out.append(_group(cause, some))
            for need in some:
                used[need.child] = used.get(need.child, 0) + 1
    return tuple(out)


def causes(needs: Sequence[Need]) -> tuple[Group, ...]:
    """Every cause with all who share it, one child or many: what a teacher may make a group of."""
    return tuple(_group(cause, sharing) for cause, sharing in _ranked(needs))


def _ranked(needs: Sequence[Need]) -> list[tuple[tuple[str, str], list[Need]]]:
    """Causes in the order in which they are taken, each with who shares it, the worst first."""
    by_cause: dict[tuple[str, str], list[Need]] = {}
    for need in needs:
        if need.slips >= TIMES and need.share >= OFTEN:
            by_cause.setdefault((need.code, need.family), []).append(need)

    def rank(cause: tuple[str, str]) -> tuple[int, int, float, tuple[str, str]]:
        mine = by_cause[cause]
        heading = mine[0].heading
        place = COUNTED_HEADINGS.index(heading) if heading in COUNTED_HEADINGS else len(COUNTED_HEADINGS)
        return place, -len(mine), -sum(need.share for need in mine), cause

    return [(cause, _worst_first(by_cause[cause])) for cause in sorted(by_cause, key=rank)]


def _parts(needs: list[Need]) -> list[list[Need]]:
    """Cut a list of children into groups of a size that can be taught; none where there are too few."""
    if len(needs) < LEAST:
        return []
    count = -(-len(needs) // MOST)
    return [needs[i::count] for i in range(count)]


def _group(cause: tuple[str, str], needs: list[Need]) -> Group:
    times: dict[str, int] = {}
    for need in needs:
        for char in need.chars:
            times[char] = times.get(char, 0) + 1
    chars = "".join(sorted(times, key=lambda char: (-times[char], char)))
    return Group(*cause, tuple(need.child for need in needs), chars)
