"""One letter over a class: who needs what of it, with the last sample of each."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy.orm import Session

from firstloop.core.progress.evidence import Aspect
from firstloop.core.progress.mastery import State, standing
from firstloop.core.progress.slips import gravity, slips_of_late
from firstloop.core.progress.steps import most_in_need
from firstloop.services.child_story import InkDrawing, ink_drawing
from firstloop.services.children import ChildView, child_view
from firstloop.services.class_map import day_slips, signs
from firstloop.services.evidence import day_of
from firstloop.store import days as store
from firstloop.store.classes import get_class
from firstloop.store.days import DayRow
from firstloop.store.school import school_time
from firstloop.store.tables import Child, LetterDay
from firstloop.store.written import letters_in_words
from firstloop.text import progress
from firstloop.text.findings import slip_name, to_teach

_SLIPS_SHOWN = 2


@dataclass(frozen=True)
class SlipOfLate:
    """A slip made of late: its code, what it is called, what to teach again, and in how many letters."""

    code: str
    name: str
    teach: str
    times: int


@dataclass(frozen=True)
class ChildsLetter:
    """How one letter stands with a child: why, the gravest slips of late, the last sample."""

    child: ChildView
    state: State
    why: str
    due: bool
    slips: list[SlipOfLate]
    latest: InkDrawing | None


@dataclass(frozen=True)
class LetterInClass:
    """A letter with every child of a class, who needs it most first; ``family`` is the one it is in."""

    letter: str
    class_name: str
    family: str
    children: list[ChildsLetter]


def letter_in_class(session: Session, class_id: int, char: str, on: date) -> LetterInClass:
    """Who of a class needs what of a letter, by need.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    by_child: dict[int, list[DayRow]] = {child.id: [] for child in school_class.children}
    for one in store.days(session, LetterDay.letter == char, LetterDay.day <= on, class_id=class_id):
        by_child[one.child_id].append(one)
    in_words = letters_in_words(session, on, class_id=class_id)
    latest = _latest(session, by_child.values())
    found = {
        child.id: _of_child(child, by_child[child.id], latest, in_words.get((child.id, char)), on)
        for child in school_class.children
    }
    order = most_in_need(
        {number: one.state for number, one in found.items()},
        {number: gravity((slip.code, slip.times) for slip in one.slips) for number, one in found.items()},
    )
    return LetterInClass(
        letter=char,
        class_name=school_class.name,
        family=signs(session, school_class, {char}).family.get(char, ""),
        children=[found[number] for number in order],
    )


def _latest(session: Session, histories: Iterable[Sequence[DayRow]]) -> dict[int, InkDrawing]:
    wanted = [shown for mine in histories if (shown := _last_shown(mine)) is not None]
    day = school_time(session).day
    return {one.attempt_id: ink_drawing(one, day(one.started_at)) for one in store.shown(session, wanted)}


def _last_shown(mine: Sequence[DayRow]) -> int | None:
    return next((one.shown_id for one in reversed(mine) if one.shown_id is not None), None)


def _of_child(
    child: Child, mine: Sequence[DayRow], latest: Mapping[int, InkDrawing], in_word: date | None, on: date
) -> ChildsLetter:
    stands = standing([day_of(one) for one in mine], Aspect.ALL)
    of_late = slips_of_late(day_slips(mine), on.toordinal())[:_SLIPS_SHOWN]
    shown = _last_shown(mine)
    return ChildsLetter(
        child=child_view(child),
        state=stands.state,
        why=progress.why(stands, in_word),
        due=bool(mine and mine[-1].due and mine[-1].due <= on),
        slips=[SlipOfLate(code, slip_name(code), to_teach(code), times) for code, times in of_late],
        latest=None if shown is None else latest.get(shown),
    )
