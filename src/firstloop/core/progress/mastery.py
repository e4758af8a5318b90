"""How a child's letter stands: not started, learning, secure or slipping, and how sure that is.

The rule, in one place:

* Letters written alone count, and for Direction also what was watched; traced and finished ones do
  not, and a scan says nothing of Direction.
* A letter inside a word counts a third of one written alone, its Direction whole; its Shape and Size
  only where no neighbour can have caused the slip. It begins no letter: it counts once the letter has
  been taught in a row of its own.
* The latest 12 letters' worth count; each weighs a little less than the one after it (half as much 6
  letters on). Secure counts whole, near half, fix nothing. A teacher's mark stands in place of the
  checker's.
* **Secure** when at least 5 letters' worth on at least 2 days are in hand and their weighted share is
  80 % or more.
* **Slipping** when it has been secure and the latest 3 letters' worth are together worth no more than
  half; it lasts until the letter is secure again.
* **Learning** before that, and **not started** when nothing has been written at all.

How sure: the chance that the child's true share is above 70 %, given what was seen and nothing else
(a Beta distribution from an even start).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from scipy.special import betaincc

from firstloop.core.progress.evidence import Aspect, Credit, Day, weighed

WINDOW = 12
HALF_AFTER = 6
LEAST_LETTERS = 5
LEAST_DAYS = 2
SECURE_SHARE = 0.80
SLIP_OF, SLIP_CREDIT = 3, 1.5
TRUE_SHARE = 0.70
_EVEN = 1e-9  # thirds add up to whole letters but for rounding


class State(StrEnum):
    """How a letter stands."""

    NOT_STARTED = "not-started"
    LEARNING = "learning"
    SECURE = "secure"
    SLIPPING = "slipping"


class Sureness(StrEnum):
    """How sure a state is."""

    SURE = "sure"
    FAIRLY = "fairly-sure"
    NOT_YET = "not-sure-yet"


_SURE = ((0.90, Sureness.SURE), (0.75, Sureness.FAIRLY))


@dataclass(frozen=True)
class Standing:
    """A state with what it rests on.

    Parameters
    ----------
    secure, near, letters, days : int
        How many of the letters written alone that count were secure and near, how many there are, and on
        how many days they and those in words were written.
    in_words, in_words_secure : int
        How many letters inside words count, and how many of these were secure.
    worth : float
        How many letters all of them are worth.
    share : float or None
        Weighted share of them, 0 to 1.
    chance : float or None
        How likely the state is right: for secure the chance that the true share is above 70 %, else
        the chance that it is not. None where there is nothing to go by.
    since : int or None
        Day number since which it has been so.
    """

    state: State
    secure: int = 0
    near: int = 0
    letters: int = 0
    days: int = 0
    in_words: int = 0
    in_words_secure: int = 0
    worth: float = 0.0
    share: float | None = None
    chance: float | None = None
    since: int | None = None

    @property
    def sureness(self) -> Sureness:
        """How sure the state is."""
        found = (one for least, one in _SURE if self.chance is not None and self.chance >= least)
        return next(found, Sureness.NOT_YET)

    @property
    def wants_letters(self) -> bool:
        """Whether a claim still needs more letters."""
        return self.state is State.LEARNING and self.worth < LEAST_LETTERS - _EVEN

    @property
    def wants_days(self) -> bool:
        """Whether a claim still needs more days."""
        return self.state is State.LEARNING and self.days < LEAST_DAYS


def _share(seen: Sequence[Credit]) -> tuple[float, float]:
    """Weighted credit and total weight, the latest letter weighing most: its own weight."""
    got = total = age = 0.0
    for one in reversed(seen):
        weight = one.weight * 0.5 ** (age / HALF_AFTER)
        got, total, age = got + weight * one.credit, total + weight, age + one.weight
    return got, total


def _latest(seen: Sequence[Credit], worth: float) -> tuple[Credit, ...]:
    """The latest pieces that are together worth so many letters, or all of them."""
    held = 0.0
    for place in range(len(seen) - 1, -1, -1):
        if held >= worth - _EVEN:
            return tuple(seen[place + 1 :])
        held += seen[place].weight
    return tuple(seen)


def _worth(seen: Sequence[Credit]) -> float:
    return sum(one.weight for one in seen)


def _chance_above(got: float, weight: float) -> float:
    """Chance that the true share is above :data:`TRUE_SHARE`."""
    return float(betaincc(1 + got, 1 + weight - got, TRUE_SHARE))


@dataclass(frozen=True)
class _Held:
    """What is carried from day to day: the state and its day, whether it ever was secure, the latest."""

    state: State = State.NOT_STARTED
    since: int | None = None
    was_secure: bool = False
    seen: tuple[Credit, ...] = ()


def _after(held: _Held, one: Day, aspect: Aspect) -> _Held:
    started = bool(one.evidence or one.helped)
    if not started and held.state is State.NOT_STARTED:
        return held  # a word begins no letter
    seen = _latest((*held.seen, *weighed([one], aspect)), WINDOW)
    now = _next_state(held.state, held.was_secure, seen, started)
    since = held.since if now is held.state else one.day
    return _Held(now, since, held.was_secure or now is State.SECURE, seen)


def standings(days: Sequence[Day], aspect: Aspect) -> list[Standing]:
    """How a letter stood at the end of each day.

    Parameters
    ----------
    days : sequence of Day
        In order of date.

    Returns
    -------
    list of Standing, one a day.
    """
    out, held = [], _Held()
    for one in days:
        held = _after(held, one, aspect)
        out.append(_standing(held))
    return out


def standing(days: Sequence[Day], aspect: Aspect) -> Standing:
    """How a letter stands after all its days."""
    held = _Held()
    for one in days:
        held = _after(held, one, aspect)
    return _standing(held)


def _next_state(state: State, was_secure: bool, seen: Sequence[Credit], started: bool) -> State:
    if not seen:
        return State.LEARNING if started or state is not State.NOT_STARTED else State.NOT_STARTED
    last = _latest(seen, SLIP_OF)
    long_enough = was_secure and _worth(last) >= SLIP_OF - _EVEN
    if (
        long_enough
        and sum(one.weight * one.credit for one in last) <= SLIP_CREDIT * _worth(last) / SLIP_OF + _EVEN
    ):
        return State.SLIPPING
    got, weight = _share(seen)
    enough = _worth(seen) >= LEAST_LETTERS - _EVEN and len({one.day for one in seen}) >= LEAST_DAYS
    if enough and got / weight >= SECURE_SHARE:
        return State.SECURE
    return state if state in (State.SECURE, State.SLIPPING) else State.LEARNING


def _standing(held: _Held) -> Standing:
    state, since, seen = held.state, held.since, held.seen
    if not seen:
        return Standing(state, since=since)
    alone = [one.credit for one in seen if not one.in_word]
    words = [one.credit for one in seen if one.in_word]
    got, weight = _share(seen)
    above = _chance_above(got, weight)
    return Standing(
        state=state,
        secure=alone.count(1.0),
        near=alone.count(0.5),
        letters=len(alone),
        days=len({one.day for one in seen}),
        in_words=len(words),
        in_words_secure=words.count(1.0),
        worth=_worth(seen),
        share=got / weight,
        chance=above if state is State.SECURE else 1 - above,
        since=since,
    )
