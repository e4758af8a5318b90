"""What a new plan begins with, so that a teacher has little to type."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy.orm import Session

from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.services.plan_orders import JOINS, KINDS_OF_JOIN
from firstloop.services.plan_view import item
from firstloop.store import days as store
from firstloop.store.classes import get_class
from firstloop.store.styles import style_of_class
from firstloop.text import say

_WEEKS = 13
_MINUTES = 15
_LESSON_DAYS = (1, 3)  # Tuesday and Thursday


@dataclass(frozen=True)
class Topic:
    """Something to teach: its letters, or kinds of joins, and which of them were begun already."""

    key: str
    name: str
    items: list[str]
    names: list[str]
    begun: list[str]


@dataclass(frozen=True)
class PlanDefaults:
    """Days of a term, and what is to be taught, as a beginning."""

    name: str
    first: date
    last: date
    minutes: list[int]
    topics: list[Topic]
    wanted: list[str]


def defaults(session: Session, class_id: int, on: date) -> PlanDefaults:
    """A term from this week on, with what the class has not begun yet.

    Raises
    ------
    NotFoundError
    """
    get_class(session, class_id)
    style = style_of_class(session, class_id)
    first = on - timedelta(days=on.weekday())
    begun = {char for (_, char) in store.first_and_last_alone(session, class_id)}
    topics = [
        Topic(key, _name(key), list(chars), list(chars), [char for char in chars if char in begun])
        for key, chars in ALPHABETS.items()
        if key != "marks"
    ]
    if style.is_joined:
        kinds = [str(one) for one in KINDS_OF_JOIN]
        topics.append(Topic(JOINS, _name(JOINS), kinds, [item(one, style).name for one in kinds], []))
    # small letters first; then joins, where the class joins, and capitals
    order = [topics[0], *(one for one in topics[1:] if one.key == JOINS), *topics[1:]]
    wanted = [one.key for one in order if len(one.begun) < len(one.items)][:1]
    return PlanDefaults(
        name=say("plan.term-name", season=say(f"plan.season.{_season(on)}")),
        first=first,
        last=first + timedelta(weeks=_WEEKS, days=-3),
        minutes=[_MINUTES if day in _LESSON_DAYS else 0 for day in range(7)],
        topics=topics,
        wanted=wanted or [topics[0].key],
    )


def _name(key: str) -> str:
    return say(f"plan.topic.{key.replace(' ', '-')}")


def _season(on: date) -> str:
    return "autumn" if on.month >= 8 else "spring" if on.month < 4 else "summer"
