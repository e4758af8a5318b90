"""How a child's sounds stand by what was dictated: by the same rule as letters."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from sqlalchemy.orm import Session

from firstloop.core.progress.evidence import Aspect, Day
from firstloop.core.progress.mastery import Standing, State, standing
from firstloop.core.words.dictation import Marked, came_right, next_units, unit_days
from firstloop.services.children import ChildView, child_view
from firstloop.services.taught import unit_order
from firstloop.store import dictations as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.school import school_time
from firstloop.text import say
from firstloop.text.progress import day as said_day

_STEPS_MOST = 3
_WORDS_SHOWN = 12


@dataclass(frozen=True)
class UnitView:
    """A sound of a child: how it stands, and what that rests on. ``since`` is when it came to stand so."""

    unit: str
    state: State
    credit: str
    why: str
    since: date | None


@dataclass(frozen=True)
class DictatedOnDay:
    """A dictated word of a child, with the sound boxes to mend in each writing."""

    day: date
    text: str
    units: list[str]
    tries: list[list[int]]


@dataclass(frozen=True)
class ChildUnits:
    """The sounds of a child in the class's order, what comes next, what came right, the latest words."""

    units: list[UnitView]
    next_steps: list[str]
    came_right: list[str]
    words: list[DictatedOnDay]


@dataclass(frozen=True)
class UnitCell:
    """A sound of a child in the map of a class."""

    unit: str
    state: State
    credit: str


@dataclass(frozen=True)
class UnitRow:
    """A child with its sounds."""

    child: ChildView
    cells: list[UnitCell]


@dataclass(frozen=True)
class UnitSet:
    """Sounds taught together, those of them that were dictated."""

    number: int
    units: list[str]


@dataclass(frozen=True)
class UnitMap:
    """Every child of a class with the state of every sound that was dictated, at the end of a day."""

    on: date
    sets: list[UnitSet]
    children: list[UnitRow]


def _until(on: date) -> datetime:
    return datetime(on.year, on.month, on.day, tzinfo=UTC) + timedelta(days=2)


def _marked(
    session: Session, on: date, *, class_id: int | None = None, child_id: int | None = None
) -> dict[int, list[Marked]]:
    """Every marked word up to a day, by child."""
    day = school_time(session).day
    out: dict[int, list[Marked]] = {}
    for child, at, units, tries in store.marked(session, _until(on), class_id=class_id, child_id=child_id):
        if day(at) <= on:
            word = Marked(day(at).toordinal(), tuple(units), tuple(map(frozenset, tries)))
            out.setdefault(child, []).append(word)
    return out


def of_child(session: Session, child_id: int, on: date) -> ChildUnits:
    """The sounds of a child up to a day.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    words = _marked(session, on, child_id=child_id).get(child_id, [])
    days = unit_days(words)
    order = _order(session, child.class_id, days)
    stands = {unit: standing(days[unit], Aspect.ALL) for unit in order}
    day = school_time(session).day
    return ChildUnits(
        units=[_view(unit, stands[unit], days[unit]) for unit in order],
        next_steps=_steps(words, stands),
        came_right=[
            say(
                "unit.came-right",
                unit=one.unit,
                day=said_day(date.fromordinal(one.day)),
                wrong=one.wrong,
                of=one.of,
            )
            for one in came_right(words)
        ],
        words=[
            DictatedOnDay(day(one.at), one.text, one.units, one.tries)
            for one in store.of_child(session, child_id, _WORDS_SHOWN)
            if one.tries
        ],
    )


def class_map(session: Session, class_id: int, on: date) -> UnitMap:
    """The sounds of a class up to a day.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    by_child = {child: unit_days(words) for child, words in _marked(session, on, class_id=class_id).items()}
    seen = {unit for days in by_child.values() for unit in days}
    sets = [
        UnitSet(number, [unit for unit in units if unit in seen])
        for number, units in enumerate(unit_order(session, class_id), start=1)
    ]
    others = sorted(seen - {unit for one in sets for unit in one.units})
    sets = [one for one in [*sets, UnitSet(0, others)] if one.units]
    return UnitMap(
        on=on,
        sets=sets,
        children=[
            UnitRow(child_view(child), _cells(by_child.get(child.id, {}))) for child in school_class.children
        ],
    )


def _cells(days: Mapping[str, Sequence[Day]]) -> list[UnitCell]:
    return [
        UnitCell(unit, found.state, _credit(found))
        for unit, mine in days.items()
        for found in (standing(mine, Aspect.ALL),)
    ]


def _order(session: Session, class_id: int, days: Mapping[str, object]) -> list[str]:
    known = [unit for one in unit_order(session, class_id) for unit in one]
    return [unit for unit in known if unit in days] + sorted(unit for unit in days if unit not in known)


def _credit(found: Standing) -> str:
    return say(
        "unit.credit",
        right=found.secure,
        of=found.letters,
        again=say("unit.again", count=found.near) if found.near else "",
    )


def _view(unit: str, found: Standing, days: Sequence[Day]) -> UnitView:
    credit = _credit(found)
    state = say(f"state.{found.state}")
    why = say("unit.why", state=state, credit=credit, days=say("days", count=len(days)))
    return UnitView(unit, found.state, credit, why, date.fromordinal(found.since) if found.since else None)


def _steps(words: Sequence[Marked], stands: Mapping[str, Standing]) -> list[str]:
    """What to do next: what goes wrong in one place, what slipped, what is mostly to mend; longer words."""
    found = next_units(words, stands)
    steps = [
        say("unit-step.before", unit=one.unit, before=one.before, wrong=one.wrong, of=one.of)
        for one in found.in_context
    ]
    if found.slipping:
        steps.append(say("unit-step.slipping", units=", ".join(found.slipping)))
    steps += [say("unit-step.teach", unit=unit, credit=_credit(stands[unit])) for unit in found.teach]
    if found.longer is not None:
        steps.append(say("unit-step.longer", count=found.longer))
    return steps[:_STEPS_MOST]
