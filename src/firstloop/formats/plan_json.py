"""A plan as it is kept: what it was made from, its lessons, and what was changed on their pages."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from datetime import date
from typing import Any

from firstloop.core.planning.plan import Lesson, Plan
from firstloop.core.planning.term import Holiday, LessonKind, Slot, Term, slots


@dataclass(frozen=True)
class Wish:
    """What a plan is made from.

    Parameters
    ----------
    name : str
        What the term is called.
    alphabets : tuple of str
        What is to be taught: keys of alphabets, or "joins".
    known : tuple of str
        What was taught before.
    order : str
        An aim of ``core.planning.orders``, or "between".
    share : tuple of 3 float
        How much each of the three aims counts, where the order is between them.
    """

    name: str
    term: Term
    scheme: str
    alphabets: tuple[str, ...]
    known: tuple[str, ...] = ()
    order: str = "scheme"
    share: tuple[float, float, float] = (1.0, 1.0, 1.0)

    @property
    def slots(self) -> tuple[Slot, ...]:
        """Every lesson of the term, with what it is kept for."""
        return slots(self.term, bool(self.known))


@dataclass(frozen=True)
class PlanDocument:
    """A plan with what it was made from. ``pages`` holds what was changed on a lesson's page, by its key."""

    wish: Wish
    plan: Plan
    pages: Mapping[int, Mapping[str, Any]] = field(default_factory=dict)

    def with_plan(self, plan: Plan) -> PlanDocument:
        """The same with another plan."""
        return replace(self, plan=plan)


def _iso(day: int) -> str:
    return date.fromordinal(day).isoformat()


def _day(iso: str) -> int:
    return date.fromisoformat(iso).toordinal()


def write_plan(document: PlanDocument) -> dict[str, Any]:
    """As JSON; days are written as dates."""
    wish, plan = document.wish, document.plan
    return {
        "term": {
            "name": wish.name,
            "first": _iso(wish.term.first),
            "last": _iso(wish.term.last),
            "minutes": list(wish.term.minutes),
            "holidays": [
                {"first": _iso(one.first), "last": _iso(one.last), "name": one.name}
                for one in wish.term.holidays
            ],
        },
        "wish": {
            "scheme": wish.scheme,
            "alphabets": list(wish.alphabets),
            "known": list(wish.known),
            "order": wish.order,
            "share": list(wish.share),
        },
        "lessons": [{**asdict(one), "day": _iso(one.day), "kind": str(one.kind)} for one in plan.lessons],
        "left": list(plan.left),
        "dropped": [[key, _iso(day)] for key, day in plan.dropped],
        "pages": {str(key): dict(page) for key, page in document.pages.items()},
    }


def read_plan(document: Mapping[str, Any]) -> PlanDocument:
    """What :func:`write_plan` wrote."""
    term, wish = document["term"], document["wish"]
    holidays = tuple(Holiday(_day(o["first"]), _day(o["last"]), o["name"]) for o in term["holidays"])
    return PlanDocument(
        Wish(
            term["name"],
            Term(_day(term["first"]), _day(term["last"]), tuple(term["minutes"]), holidays),
            wish["scheme"],
            tuple(wish["alphabets"]),
            tuple(wish["known"]),
            wish["order"],
            tuple(wish["share"]),
        ),
        Plan(
            tuple(_lesson(one) for one in document["lessons"]),
            tuple(document["left"]),
            tuple((key, _day(day)) for key, day in document["dropped"]),
        ),
        {int(key): page for key, page in document["pages"].items()},
    )


def _lesson(one: Mapping[str, Any]) -> Lesson:
    return Lesson(
        one["key"],
        _day(one["day"]),
        one["minutes"],
        LessonKind(one["kind"]),
        tuple(one["new"]),
        one["locked"],
        None if one["shown"] is None else tuple(one["shown"]),
        one["missed"],
    )
