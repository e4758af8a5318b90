"""A class over time: how every letter of every child stood on a day."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy.orm import Session

from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.progress.evidence import Aspect
from firstloop.core.progress.mastery import State
from firstloop.core.progress.slips import DaySlips, commonest, new_slips
from firstloop.core.progress.steps import most_to_do, most_urgent, to_do
from firstloop.services.children import ChildView, child_view
from firstloop.services.families import columns
from firstloop.store import days as store
from firstloop.store.classes import get_class
from firstloop.store.days import DayRow
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, LetterDay, SchoolClass
from firstloop.text.findings import slip_name, to_teach

MONTH_DAYS = 28
TERM_DAYS = 120  # how far back it is looked whether a slip is new
_ALPHABETS = ("lower case", "capitals", "digits")
SCHEME = "by-movement"


@dataclass(frozen=True)
class FamilySigns:
    """A family of the class's board and the letters in it that stand on the map."""

    key: str
    name: str
    letters: list[str]


@dataclass(frozen=True)
class MapCell:
    """A letter of a child: how it stood, since which writing, and whether it is due to be written again."""

    letter: str
    state: State
    last_day: date
    due: bool


@dataclass(frozen=True)
class FamilyCell:
    """The letters of a family of a child: how many are begun and secure, and which to look at ``first``."""

    key: str
    begun: int
    secure: int
    slipping: bool
    first: str | None


@dataclass(frozen=True)
class MapRow:
    """A child with the letters written by then; ``to_do`` says how much there is to do beside others."""

    child: ChildView
    cells: list[MapCell]
    families: list[FamilyCell]
    to_do: int


@dataclass(frozen=True)
class CommonSlip:
    """A slip of the class: in how many letters, by how many children, of which letters."""

    code: str
    name: str
    teach: str
    letters: str
    times: int
    children: list[str]


@dataclass(frozen=True)
class ClassMap:
    """A class as a map, for one aspect on one day. ``dates`` are the days on which it wrote.

    ``most_to_do`` are the children, by number, who has most to do first.
    """

    class_name: str
    aspect: Aspect
    on: date
    dates: list[date]
    families: list[FamilySigns]
    children: list[MapRow]
    most_to_do: list[int]
    slips: list[CommonSlip]


@dataclass(frozen=True)
class Signs:
    """The letters of a class, by the families of its board."""

    families: tuple[FamilySigns, ...]

    @property
    def family(self) -> dict[str, str]:
        """Name of the family of every letter."""
        return {char: one.name for one in self.families for char in one.letters}


def signs(session: Session, school_class: SchoolClass, begun: set[str]) -> Signs:
    """All lower-case letters, and of the capitals and digits those that were begun."""
    style = house_style(school_class)
    found = []
    for alphabet in _ALPHABETS:
        if alphabet != _ALPHABETS[0] and not begun & set(ALPHABETS[alphabet]):
            continue
        for column in columns(session, school_class.id, SCHEME, alphabet, style):
            chars = [p.char for p in column.places if alphabet == _ALPHABETS[0] or p.char in begun]
            if chars:
                found.append(FamilySigns(f"{alphabet} {column.family.key}", column.family.name, chars))
    return Signs(tuple(found))


def class_map(session: Session, class_id: int, aspect: Aspect, on: date) -> ClassMap:
    """Every child of a class with the state of every letter at the end of a day.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    by_child: dict[int, list[MapCell]] = {child.id: [] for child in school_class.children}
    for cell in store.cells(session, class_id, aspect, on):
        due = cell.due is not None and cell.due <= on
        by_child[cell.child_id].append(MapCell(cell.letter, State(cell.state), cell.day, due))
    begun = {cell.letter for cells in by_child.values() for cell in cells}
    families = signs(session, school_class, begun).families
    term = term_slips(session, class_id, on)
    taken_to = {one.child for one in new_slips(term, on.toordinal())}
    children = [_map_row(child, by_child[child.id], families) for child in school_class.children]
    return ClassMap(
        class_name=school_class.name,
        aspect=aspect,
        on=on,
        dates=list(store.dates(session, class_id)),
        families=list(families),
        children=children,
        most_to_do=most_to_do(
            {row.child.id: row.to_do for row in children},
            taken_to,
        ),
        slips=_common_slips(school_class, within_month(term, on)),
    )


def _map_row(child: Child, cells: list[MapCell], families: Sequence[FamilySigns]) -> MapRow:
    stands = {cell.letter: cell.state for cell in cells}
    return MapRow(
        child=child_view(child),
        cells=cells,
        families=[_family_cell(one, stands) for one in families],
        to_do=to_do(stands.values()),
    )


def _family_cell(family: FamilySigns, stands: Mapping[str, State]) -> FamilyCell:
    mine = {char: stands[char] for char in family.letters if char in stands}
    return FamilyCell(
        key=family.key,
        begun=len(mine),
        secure=sum(state is State.SECURE for state in mine.values()),
        slipping=State.SLIPPING in mine.values(),
        first=most_urgent(mine),
    )


def term_slips(session: Session, class_id: int, on: date) -> list[DaySlips]:
    """What a class slipped in, in the term (:data:`TERM_DAYS`) that ends on a day."""
    begin = on - timedelta(days=TERM_DAYS)
    return day_slips(store.days(session, LetterDay.day > begin, LetterDay.day <= on, class_id=class_id))


def day_slips(days: Sequence[DayRow]) -> list[DaySlips]:
    """Kept days as the rules about slips look at them."""
    return [
        DaySlips(one.child_id, one.letter, len(one.alone), one.slips, one.day.toordinal()) for one in days
    ]


def within_month(days: Sequence[DaySlips], on: date) -> list[DaySlips]:
    """The days of the month that ends on a day."""
    return [one for one in days if one.day > on.toordinal() - MONTH_DAYS]


def _common_slips(school_class: SchoolClass, days: Sequence[DaySlips]) -> list[CommonSlip]:
    """Every slip of a class, what matters most to most children first."""
    names = {child.id: child.first_name for child in school_class.children}
    return [
        CommonSlip(
            code=one.code,
            name=slip_name(one.code),
            teach=to_teach(one.code),
            letters="".join(one.letters),
            times=one.times,
            children=[names[child] for child in one.children],
        )
        for one in commonest(days)
    ]
