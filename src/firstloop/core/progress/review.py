"""Which letters are due to be written again, by the FSRS memory model.

Every row is a review: all secure is easy to have remembered, mostly secure good, mostly near hard,
and mostly to fix means the letter has to be learnt again. Kept without the random spread of dates
that the scheduler offers, so that the same rows always give the same dates.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import pairwise, permutations

from fsrs import Card, Rating, Scheduler

from firstloop.core.progress.evidence import Aspect, Day, credits_of

RECALL_LEAST, RECALL_MOST = 4, 5
RETENTION = 0.8  # a letter is due when one child in five would have lost it
_SCHEDULER = Scheduler(
    desired_retention=RETENTION,
    learning_steps=(),
    relearning_steps=(),
    maximum_interval=120,
    enable_fuzzing=False,
)
_EASY, _GOOD, _HARD = 0.99, 2 / 3, 1 / 3
_EASY_LETTERS = 3


@dataclass(frozen=True)
class Review:
    """What the memory model says of a child's letter.

    Parameters
    ----------
    due, last : int
        Day numbers: when to write it again, and when it was written last.
    strength_days : float
        Days after which it would still be written well 9 times in 10.
    """

    due: int
    last: int
    strength_days: float

    def remembered(self, day: int) -> float:
        """Chance, 0 to 1, that the letter would be written well on `day`."""
        card = Card(0, stability=self.strength_days, due=_moment(self.due), last_review=_moment(self.last))
        return float(_SCHEDULER.get_card_retrievability(card, _moment(day)))


def _moment(day: int) -> datetime:
    return datetime.fromordinal(day).replace(tzinfo=UTC)


def rating(day: Day) -> Rating | None:
    """How a day's letters were remembered; None where none was written alone."""
    credits = [credit for _, credit in credits_of([day], Aspect.ALL)]
    if not credits:
        return None
    share = sum(credits) / len(credits)
    if share >= _EASY and len(credits) >= _EASY_LETTERS:
        return Rating.Easy
    if share >= _GOOD:
        return Rating.Good
    return Rating.Hard if share >= _HARD else Rating.Again


def reviews(days: Iterable[Day]) -> list[Review | None]:
    """What the memory model says after each day; None until the letter has been written alone."""
    card: Card | None = None
    out: list[Review | None] = []
    for one in days:
        given = rating(one)
        if given is not None:
            card = card or Card(0, due=_moment(one.day))
            card, _ = _SCHEDULER.review_card(card, given, _moment(one.day))
        out.append(_read(card))
    return out


def _read(card: Card | None) -> Review | None:
    if card is None or card.last_review is None or card.stability is None:
        return None
    return Review(card.due.toordinal(), card.last_review.toordinal(), float(card.stability))


def review(days: Iterable[Day]) -> Review | None:
    """When a letter is due, from all days on which it was written alone; None where there are none."""
    return next(reversed(reviews(days)), None)


@dataclass(frozen=True)
class Due:
    """A letter with how much it needs to be written again (larger is more), and its family."""

    char: str
    family: str
    need: float


def recall_row(due: Sequence[Due], alike: Callable[[str, str], bool], most: int = RECALL_MOST) -> str:
    """Letters for a recall row: the most due first, from different families, look-alikes not side by side.

    Families are gone through again only when there are too few to fill a row of
    :data:`RECALL_LEAST`. An order in which no two neighbours are alike is looked for among all
    orders, the one that keeps the most due foremost; a letter that can stand nowhere is left out.

    Parameters
    ----------
    alike : callable
        Whether two letters are easily taken for one another.
    """
    waiting = sorted(due, key=lambda one: (-one.need, one.char))
    chosen: list[Due] = []
    for one in waiting:
        if len(chosen) < most and one.family not in {other.family for other in chosen}:
            chosen.append(one)
    for one in waiting:
        if len(chosen) < RECALL_LEAST and one not in chosen:
            chosen.append(one)
    chars = [one.char for one in chosen]
    for order in permutations(chars):  # the first one is the most due first
        if not any(alike(a, b) for a, b in pairwise(order)):
            return "".join(order)
    return recall_row(chosen[:-1], alike, most)


@dataclass(frozen=True)
class Remembered:
    """A letter of one child with what the memory model says of it."""

    char: str
    review: Review


def due_letters(letters: Iterable[Remembered], family: Mapping[str, str], day: int) -> list[Due]:
    """Letters that are due on a day, with how much is forgotten of each over all the children given.

    Parameters
    ----------
    family : mapping
        Name of the family of every letter that counts.
    """
    need: dict[str, float] = {}
    for one in letters:
        if one.review.due <= day and one.char in family:
            need[one.char] = need.get(one.char, 0.0) + 1 - one.review.remembered(day)
    return [Due(char, family[char], amount) for char, amount in need.items()]


def most_due(due: Sequence[Due], others: Sequence[str], most: int) -> list[str]:
    """The letters that most need to be written again; where too few are due, those of `others` follow."""
    chars = [one.char for one in sorted(due, key=lambda one: (-one.need, one.char))]
    return [*chars, *(char for char in others if char not in chars)][:most]


class Forecast:
    """Letters as they would be remembered, were each written mostly well whenever it is asked for.

    Parameters
    ----------
    hard : set of str
        Letters of which it is known that they are written mostly near.
    """

    def __init__(self, hard: frozenset[str] = frozenset()) -> None:
        self._cards: dict[str, Card] = {}
        self._hard = hard

    def written(self, char: str, day: int) -> None:
        """Take a letter for written on a day."""
        card = self._cards.get(char) or Card(0, due=_moment(day))
        given = Rating.Hard if char in self._hard else Rating.Good
        self._cards[char], _ = _SCHEDULER.review_card(card, given, _moment(day))

    def due(self, day: int, family: Mapping[str, str], by: int | None = None) -> list[Due]:
        """Letters due, with how much of each would be forgotten on a day.

        Parameters
        ----------
        by : int, optional
            Only those that are due by then; without it all letters.
        """
        found = []
        for char, card in self._cards.items():
            read = _read(card)
            if read is not None and char in family and (by is None or read.due <= by):
                found.append(Due(char, family[char], 1 - read.remembered(day)))
        return found
