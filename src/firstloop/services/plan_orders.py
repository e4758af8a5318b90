"""The orders that a class's letters can be taught in, and what each costs."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_confused
from firstloop.core.families.distance import edit_distance
from firstloop.core.letterforms.alphabets import plain
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.costs import LONG_AGO, Costs, Measure, gaps, ready
from firstloop.core.planning.course import Course, Family, course, spread
from firstloop.core.planning.orders import Aim, Lessons, Ordered, Search
from firstloop.core.planning.plan import Plan, empty, is_open, room
from firstloop.core.words.joins import JoinKind
from firstloop.formats.plan_json import PlanDocument, Wish
from firstloop.services import word_bank
from firstloop.services.families import columns
from firstloop.store.styles import style_of_class
from firstloop.text import say
from firstloop.text.plan import costs_said

JOINS = "joins"
AS_IT_IS = "as-it-is"
TOPICS = ("lower case", "capitals", "digits", JOINS)
KINDS_OF_JOIN = (JoinKind.INTO_LOW, JoinKind.INTO_TALL, JoinKind.INTO_ROUND, JoinKind.FROM_MID)
_UNLIKE = 3.0  # how unlike a letter and a kind of join are to make
_SEED = 7


@dataclass(frozen=True)
class Problem:
    """Letters to be put in order over the days of a plan; everything the search needs, and nothing else.

    Parameters
    ----------
    fixed : tuple of (letter, day)
        Letters whose day stands.
    """

    families: tuple[Family, ...]
    days: tuple[int, ...]
    fixed: tuple[tuple[str, int], ...]
    distance: tuple[tuple[float, ...], ...]
    alike: tuple[tuple[int, int], ...]
    words: tuple[frozenset[str], ...]
    span: tuple[int, int]

    @property
    def course(self) -> Course:
        """The families shared out over the days."""
        return course(self.families, len(self.days), _confused_in(self))

    @property
    def chars(self) -> tuple[str, ...]:
        """All letters that count."""
        return (*(char for one in self.families for char in one.chars), *(char for char, _ in self.fixed))


@dataclass(frozen=True)
class OrderChoice:
    """An order with what it costs, in words, and how many words can be written by its half and its end.

    ``letters`` are the letters of each lesson in turn; ``clashes`` how many look-alikes are new within a
    fortnight of each other.
    """

    order: str
    name: str
    says: list[str]
    letters: list[list[str]]
    clashes: int
    words_by_half: int
    words: int
    present: bool


Solve = Callable[[Problem, Aim], Ordered]
Between = Callable[[Problem, tuple[float, float, float]], Ordered]


def families_of(session: Session, class_id: int, wish: Wish, style: HouseStyle) -> list[Family]:
    """What is to be taught, in families as the class has them, without what was taught before."""
    out = []
    for alphabet in wish.alphabets:
        if alphabet == JOINS:
            out.append(Family(JOINS, tuple(str(one) for one in KINDS_OF_JOIN if one not in wish.known)))
            continue
        for column in columns(session, class_id, wish.scheme, alphabet, style):
            chars = tuple(one.char for one in column.places if one.char not in wish.known)
            out.append(Family(f"{alphabet} {column.family.key}", chars))
    return [one for one in out if one.chars]


def to_deal(
    session: Session, class_id: int, document: PlanDocument, today: int, style: HouseStyle
) -> list[Family]:
    """What is still to be dealt out: all that is to be taught, but for what stands where it is."""
    stands = _standing(document.plan, today)
    families = [
        Family(one.key, tuple(char for char in one.chars if char not in stands))
        for one in families_of(session, class_id, document.wish, style)
    ]
    others = {char for one in families for char in one.chars} | stands.keys()
    families.append(_besides(document.plan, others, today))
    return [one for one in families if one.chars]


def _standing(plan: Plan, today: int) -> dict[str, int]:
    """Letters whose day stands: of lessons that are over or locked."""
    return {char: one.day for one in plan.lessons if not is_open(one, today) for char in one.taught}


def problem_of(session: Session, class_id: int, document: PlanDocument, today: int) -> Problem:
    """What there is to put in order: letters of the lessons that are open, over their days.

    Raises
    ------
    NotFoundError
    """
    style = style_of_class(session, class_id)
    plan, wish = document.plan, document.wish
    families = to_deal(session, class_id, document, today, style)
    days = room(plan, wish.slots, today)
    kept = course(families, len(days)).families  # what is left has no day to be measured by
    fixed = (*((char, LONG_AGO) for char in wish.known), *sorted(_standing(plan, today).items()))
    chars = (*(char for one in kept for char in one.chars), *(char for char, _ in fixed))
    free = len(chars) - len(fixed)
    able = frozenset(chars)
    return Problem(
        kept,
        days,
        fixed,
        _distances(chars, style),
        _alike(chars, free, style),
        tuple(word.letters for word in word_bank.present(session) if word.letters <= able),
        (days[0] if days else today, wish.term.last),
    )


def _besides(plan: Plan, others: Collection[str], today: int) -> Family:
    """What a plan holds that is in none of the families any more."""
    open_lessons = [one for one in plan.lessons if is_open(one, today)]
    waiting = [char for one in plan.lessons for char in one.not_shown]
    chars = [*(char for one in open_lessons for char in one.new), *waiting, *plan.left]
    return Family("besides", tuple(char for char in dict.fromkeys(chars) if char not in others))


@lru_cache(maxsize=64)
def _distances(chars: tuple[str, ...], style: HouseStyle) -> tuple[tuple[float, ...], ...]:
    def between(one: str, other: str) -> float:
        if len(one) == len(other) == 1:
            return edit_distance(plain(one, style), plain(other, style))
        return 0.0 if one == other else _UNLIKE

    return tuple(tuple(between(one, other) for other in chars) for one in chars)


def _alike(chars: tuple[str, ...], free: int, style: HouseStyle) -> tuple[tuple[int, int], ...]:
    """Pairs of look-alikes of which at least one is to be dealt out."""
    pairs = ((a, b) for b in range(len(chars)) for a in range(min(b, free)))
    return tuple((a, b) for a, b in pairs if confused(chars[a], chars[b], style))


def measure_of(problem: Problem) -> Measure:
    """What orders of these letters are measured by."""
    return Measure(
        problem.chars,
        len(problem.chars) - len(problem.fixed),
        tuple(day for _, day in problem.fixed),
        np.array(problem.distance).reshape(len(problem.chars), -1),
        problem.alike,
        problem.words,
        problem.span,
    )


def _search(problem: Problem) -> Search:
    return Search(problem.course, problem.days, measure_of(problem), np.random.default_rng(_SEED))


_NONE = Ordered((), Costs(0, 0, 0, 0))


@lru_cache(maxsize=64)
def solve(problem: Problem, aim: Aim) -> Ordered:
    """The order that is best at one thing; kept, so that the same is not worked out twice."""
    return _search(problem).order(aim) if problem.families and problem.days else _NONE


@lru_cache(maxsize=64)
def between(problem: Problem, share: tuple[float, float, float]) -> Ordered:
    """An order between the others."""
    if not problem.families or not problem.days:
        return _NONE
    return _search(problem).between(share, {aim: solve(problem, aim) for aim in Aim})


def days_of(problem: Problem, lessons: Lessons) -> dict[str, int]:
    """Day of every letter that is dealt out."""
    days = spread(problem.days, len(lessons))
    return {char: day for day, chars in zip(days, lessons, strict=True) for char in chars}


def choice(problem: Problem, order: str, found: Ordered, half: int, now: Mapping[str, int]) -> OrderChoice:
    """An order with what it costs, in words.

    Parameters
    ----------
    half : int
        Day in the middle.
    now : mapping
        Day of every letter as the plan is.
    """
    days = days_of(problem, found.lessons)
    return _told(problem, order, found, days, half, all(now.get(char) == day for char, day in days.items()))


def as_it_is(problem: Problem, plan: Plan, half: int) -> OrderChoice | None:
    """The order of a plan as it is, by the same measure; None where it lacks a letter that is measured."""
    free = problem.chars[: len(problem.chars) - len(problem.fixed)]
    days = {char: plan.days[char] for char in free if char in plan.days}
    if len(days) < len(free):
        return None
    lessons = [(one.day, [char for char in one.taught if char in days]) for one in plan.lessons]
    costs = measure_of(problem).costs(lessons)
    order = tuple(tuple(chars) for _, chars in lessons if chars)
    return _told(problem, AS_IT_IS, Ordered(order, costs), days, half, present=True)


def _told(
    problem: Problem, order: str, found: Ordered, days: Mapping[str, int], half: int, present: bool
) -> OrderChoice:
    every = {**dict(problem.fixed), **days}
    by_half, in_all = ready(problem.words, every, (half, problem.span[1]))
    waits = any(not word.isdisjoint(days) for word in problem.words)
    free = len(problem.chars) - len(problem.fixed)
    new = set(problem.chars[:free])
    apart = [one for one in gaps(every, _confused_in(problem)) if not new.isdisjoint(one[:2])]
    return OrderChoice(
        order=order,
        name=say(f"plan.order.{order}"),
        says=costs_said(found.costs, apart, by_half if waits else None),
        letters=[list(chars) for chars in found.lessons],
        clashes=found.costs.clashes,
        words_by_half=by_half,
        words=in_all,
        present=present and bool(days),
    )


def _confused_in(problem: Problem) -> Callable[[str, str], bool]:
    """Whether two letters are look-alikes, by what was worked out for the search."""
    pairs = {frozenset({problem.chars[a], problem.chars[b]}) for a, b in problem.alike}
    return lambda one, other: frozenset({one, other}) in pairs


def confused(one: str, other: str, style: HouseStyle) -> bool:
    """Whether two things to teach are letters that look alike."""
    return len(one) == len(other) == 1 and are_confused(one, other, style)


def fresh(wish: Wish, today: int, first_key: int) -> Plan:
    """A plan of the days that are still to come, holding nothing yet."""
    return empty([one for one in wish.slots if one.day >= today], first_key)
