"""A class over time: how every letter of every child stood on a day, and why."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from pydantic import BaseModel
from sqlalchemy.orm import Session

from firstloop.api.families import columns
from firstloop.api.schemas import ChildOut
from firstloop.api.settling import day_of, settle_all
from firstloop.api.writing import child_out
from firstloop.core.check.plainly import slip_name, to_teach
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.progress.evidence import Aspect
from firstloop.core.progress.mastery import State, standing
from firstloop.core.progress.steps import most_urgent, to_do
from firstloop.store import days as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.days import DayRow
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, LetterDay, SchoolClass

StateName = Literal["not-started", "learning", "secure", "slipping"]
AspectName = Literal["all", "direction", "shape", "size"]
MONTH_DAYS = 28
_COMMONEST = 6
_SIGNS = ("lower case", "capitals", "digits")
SCHEME = "by-movement"


class FamilySigns(BaseModel):
    """A family of the class's board and the letters in it that stand on the map."""

    key: str
    name: str
    letters: list[str]


class CellOut(BaseModel):
    """A letter of a child: how it stood, since which writing, and whether it is due to be written again."""

    letter: str
    state: StateName
    last_day: date
    due: bool


class FamilyCellOut(BaseModel):
    """The letters of a family of a child: how many are begun and secure, and which to look at ``first``."""

    key: str
    begun: int
    secure: int
    slipping: bool
    first: str | None


class MapRowOut(BaseModel):
    """A child with the letters written by then; ``to_do`` says how much there is to do beside others."""

    child: ChildOut
    cells: list[CellOut]
    families: list[FamilyCellOut]
    to_do: int


class CommonSlipOut(BaseModel):
    """A slip of the class: in how many letters, by how many children, of which letters."""

    code: str
    name: str
    teach: str
    letters: str
    times: int
    children: list[str]


class ClassMapOut(BaseModel):
    """A class as a map, for one aspect on one day. ``dates`` are the days on which it wrote."""

    class_name: str
    aspect: AspectName
    on: date
    dates: list[date]
    families: list[FamilySigns]
    children: list[MapRowOut]
    slips: list[CommonSlipOut]


class StandingOut(BaseModel):
    """How a letter stands under one aspect, with the numbers that say so."""

    aspect: AspectName
    state: StateName
    why: str
    sureness: str
    since: date | None


@dataclass(frozen=True)
class Signs:
    """The letters of a class, by the families of its board."""

    families: tuple[FamilySigns, ...]

    @property
    def family(self) -> dict[str, str]:
        """Name of the family of every letter."""
        return {char: one.name for one in self.families for char in one.letters}

    def letters(self, family: str) -> list[str]:
        """The letters of the families of a name."""
        return [char for one in self.families if one.name == family for char in one.letters]


def signs(session: Session, school_class: SchoolClass, begun: set[str]) -> Signs:
    """All lower-case letters, and of the capitals and digits those that were begun."""
    style = house_style(school_class)
    found = []
    for alphabet in _SIGNS:
        if alphabet != _SIGNS[0] and not begun & set(ALPHABETS[alphabet]):
            continue
        for column in columns(session, school_class.id, SCHEME, alphabet, style):
            chars = [p.char for p in column.places if alphabet == _SIGNS[0] or p.char in begun]
            if chars:
                found.append(
                    FamilySigns(key=f"{alphabet} {column.family.key}", name=column.family.name, letters=chars)
                )
    return Signs(tuple(found))


def class_map(session: Session, class_id: int, aspect: AspectName, on: date) -> ClassMapOut:
    """Every child of a class with the state of every letter at the end of a day.

    Raises
    ------
    NotFoundError
    """
    settle_all(session)
    school_class = get_class(session, class_id)
    by_child: dict[int, list[CellOut]] = {child.id: [] for child in school_class.children}
    for cell in store.cells(session, class_id, aspect, on):
        due = cell.due is not None and cell.due <= on
        by_child[cell.child_id].append(
            CellOut.model_construct(
                letter=cell.letter,
                state=cell.state,  # type: ignore[arg-type]  # as the core named it when it was kept
                last_day=cell.day,
                due=due,
            )
        )
    begun = {cell.letter for cells in by_child.values() for cell in cells}
    families = signs(session, school_class, begun).families
    return ClassMapOut(
        class_name=school_class.name,
        aspect=aspect,
        on=on,
        dates=list(store.dates(session, class_id)),
        families=list(families),
        children=[_map_row(child, by_child[child.id], families) for child in school_class.children],
        slips=common_slips(school_class, recent(session, class_id, on)),
    )


def _map_row(child: Child, cells: list[CellOut], families: Sequence[FamilySigns]) -> MapRowOut:
    stands = {cell.letter: cell.state for cell in cells}
    return MapRowOut(
        child=child_out(child),
        cells=cells,
        families=[_family_cell(one, stands) for one in families],
        to_do=to_do(stands.values()),
    )


def _family_cell(family: FamilySigns, stands: Mapping[str, str]) -> FamilyCellOut:
    mine = {char: stands[char] for char in family.letters if char in stands}
    return FamilyCellOut(
        key=family.key,
        begun=len(mine),
        secure=sum(state == State.SECURE for state in mine.values()),
        slipping=State.SLIPPING in mine.values(),
        first=most_urgent(mine),
    )


def recent(session: Session, class_id: int, on: date, days: int = MONTH_DAYS) -> Sequence[DayRow]:
    """Evidence of a class from the weeks that end on a day."""
    return store.days(
        session, LetterDay.day > on - timedelta(days=days), LetterDay.day <= on, class_id=class_id
    )


def common_slips(school_class: SchoolClass, days: Sequence[DayRow]) -> list[CommonSlipOut]:
    """The slips that most children of a class made, commonest first."""
    names = {child.id: child.first_name for child in school_class.children}
    times: Counter[str] = Counter()
    who: dict[str, Counter[int]] = {}
    where: dict[str, Counter[str]] = {}
    for one in days:
        for code, count in one.slips.items():
            times[code] += count
            who.setdefault(code, Counter())[one.child_id] += count
            where.setdefault(code, Counter())[one.letter] += count
    commonest = sorted(times, key=lambda code: (-len(who[code]), -times[code], code))[:_COMMONEST]
    return [
        CommonSlipOut(
            code=code,
            name=slip_name(code),
            teach=to_teach(code),
            letters="".join(char for char, _ in where[code].most_common()),
            times=times[code],
            children=[names[child] for child, _ in who[code].most_common()],
        )
        for code in commonest
    ]


def letter_standings(session: Session, child_id: int, char: str) -> list[StandingOut]:
    """How a child's letter stands now, under every aspect.

    Raises
    ------
    NotFoundError
    """
    settle_all(session)
    history = [day_of(one) for one in store.of_letter(session, get_child(session, child_id).id, char)]
    out = []
    for aspect in Aspect:
        found = standing(history, aspect)
        out.append(
            StandingOut.model_validate(
                {
                    "aspect": str(aspect),
                    "state": str(found.state),
                    "why": found.why,
                    "sureness": "" if found.state is State.NOT_STARTED else found.sureness,
                    "since": None if found.since is None else date.fromordinal(found.since),
                }
            )
        )
    return out
