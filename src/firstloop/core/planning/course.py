"""What is to be taught, shared out: families over lessons, large ones in parts.

A part is two or three lessons of one family that follow one another; a small family is one part, unless
it holds look-alikes, which want to come apart. Every lesson holds letters of one family.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations

MOST_NEW = 3  # letters new in one lesson
PART_LESSONS = 3


@dataclass(frozen=True)
class Family:
    """A family with the letters it has to teach, in its own order."""

    key: str
    chars: tuple[str, ...]


@dataclass(frozen=True)
class Part:
    """Lessons of one family that follow one another, by how many letters each has."""

    family: int
    sizes: tuple[int, ...]


@dataclass(frozen=True)
class Course:
    """Families in the order of their scheme, and the parts they are taught in.

    Parameters
    ----------
    left : tuple of str
        Letters for which the term has no lesson.
    """

    families: tuple[Family, ...]
    parts: tuple[Part, ...]
    left: tuple[str, ...] = ()

    @property
    def lessons(self) -> int:
        """How many lessons it takes."""
        return sum(len(part.sizes) for part in self.parts)


def even(count: int, parts: int) -> list[int]:
    """Share `count` out over `parts` as evenly as can be, the larger shares first."""
    return [count // parts + (i < count % parts) for i in range(parts)]


def spread(days: Sequence[int], count: int) -> list[int]:
    """So many of these days, spread over all of them as evenly as can be, the first among them."""
    return [days[i * len(days) // count] for i in range(count)]


def course(
    families: Sequence[Family], lessons: int, confused: Callable[[str, str], bool] = lambda one, other: False
) -> Course:
    """Share families out over at most so many lessons.

    Every family gets the fewest lessons it can do with; those that remain go one by one to the family
    whose lessons are fullest, until every lesson has one letter. Letters for which there is no room are
    left, the last of the scheme first.

    Parameters
    ----------
    confused : callable
        Whether two letters are look-alikes.
    """
    kept, left = _that_fit([one for one in families if one.chars], lessons)
    counts = [-(-len(one.chars) // MOST_NEW) for one in kept]
    for _ in range(lessons - sum(counts)):
        fullest = max(range(len(kept)), key=lambda i: (len(kept[i].chars) / counts[i], -i), default=None)
        if fullest is None or counts[fullest] == len(kept[fullest].chars):
            break
        counts[fullest] += 1
    parts = []
    for i, (family, count) in enumerate(zip(kept, counts, strict=True)):
        sizes = even(len(family.chars), count)
        alike = any(confused(one, other) for one, other in combinations(family.chars, 2))
        fewest = 2 if alike and count > 1 else 1
        for length in even(count, max(fewest, -(-count // PART_LESSONS))):
            parts.append(Part(i, tuple(sizes[:length])))
            sizes = sizes[length:]
    return Course(tuple(kept), tuple(parts), left)


def _that_fit(families: list[Family], lessons: int) -> tuple[list[Family], tuple[str, ...]]:
    kept: list[Family] = []
    left: list[str] = []
    room = lessons
    for one in families:
        chars = one.chars[: room * MOST_NEW]
        room -= -(-len(chars) // MOST_NEW)
        left.extend(one.chars[len(chars) :])
        if chars:
            kept.append(Family(one.key, chars))
    return kept, tuple(left)
