"""What a teacher decides on a Monday: what waits, what to recall, whom to take aside, what changed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date, datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from firstloop.api.models import LetterDrawing, drawing
from firstloop.api.overtime import Signs, recent, signs
from firstloop.api.schemas import ChildOut, Given, RecordId
from firstloop.api.settling import settle_all
from firstloop.api.writing import child_out
from firstloop.core.check.codes import CODES
from firstloop.core.check.lookalikes import look_alikes
from firstloop.core.check.plainly import slip_name, to_teach
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.coverage import coverage
from firstloop.core.progress.groups import Group, Need, causes, groups
from firstloop.core.progress.review import Due, Review, recall_row
from firstloop.store import days as store
from firstloop.store import groups as group_store
from firstloop.store.classes import get_class
from firstloop.store.days import Cell, DayRow
from firstloop.store.errors import NotFoundError
from firstloop.store.styles import house_style
from firstloop.store.tables import SchoolClass
from firstloop.store.written import how_many_wait

WEEK_DAYS = 7
_CHANGES_MOST = 8
_CAUSES_MOST = 12


class WaitingOut(BaseModel):
    """Rows that wait for the teacher's mark: how many, by how many children; and words not looked at."""

    rows: int
    children: int
    words: int


class RecallLetterOut(BaseModel):
    """A letter of today's recall row, for how many children it is due, and since when at the longest."""

    letter: str
    drawing: LetterDrawing
    family: str
    children: int
    due_since: date


class TeachGroupOut(BaseModel):
    """Children to take aside together, over what, and what to teach again."""

    code: str
    family: str
    slip: str
    teach: str
    letters: str
    children: list[ChildOut]


class ChangeOut(BaseModel):
    """A letter that became secure or slipped since last week."""

    child: ChildOut
    letter: str
    what: Literal["secure", "slipping"]


class CoveredOut(BaseModel):
    """A letter that was taught: when, when last written alone, and who has not written it alone since."""

    letter: str
    taught: date
    last_alone: date | None
    children: list[ChildOut]


class TodayOut(BaseModel):
    """The few decisions of the day.

    ``groups_kept`` says whether the teacher changed the groups; ``causes`` are what others may be made of.
    """

    class_name: str
    on: date
    waiting: WaitingOut
    recall: list[RecallLetterOut]
    groups: list[TeachGroupOut]
    groups_kept: bool
    causes: list[TeachGroupOut]
    changes: list[ChangeOut]
    more_changes: int
    not_since: list[CoveredOut]


class GroupIn(Given):
    """A group as a teacher wants it."""

    code: str = Field(max_length=30)
    family: str = Field(max_length=40)
    letters: str = Field(max_length=62)
    child_ids: list[RecordId] = Field(min_length=1, max_length=40)


class GroupsIn(Given):
    """All groups of a class, in the order wanted."""

    groups: Annotated[list[GroupIn], Field(max_length=12)]


def today(session: Session, class_id: int, on: date) -> TodayOut:
    """What is to be done with a class on a day.

    Raises
    ------
    NotFoundError
    """
    settle_all(session)
    school_class = get_class(session, class_id)
    now = store.cells(session, class_id, "all", on)
    before = store.cells(session, class_id, "all", on - timedelta(days=WEEK_DAYS))
    signs_here = signs(session, school_class, {cell.letter for cell in now})
    waiting, by_children = store.waiting(session, class_id)
    changes = _changes(school_class, before, now)
    needed = needs(recent(session, class_id, on), signs_here)
    found, kept = class_groups(session, school_class, needed)
    formed = {(one.code, one.family) for one in found}
    return TodayOut(
        class_name=school_class.name,
        on=on,
        waiting=WaitingOut(rows=waiting, children=by_children, words=how_many_wait(session, class_id)),
        recall=_recall(house_style(school_class), signs_here, now, on),
        groups=found,
        groups_kept=kept,
        causes=[
            one
            for one in _groups_out(school_class, map(_document, causes(needed)))
            if (one.code, one.family) not in formed
        ][:_CAUSES_MOST],
        changes=changes[:_CHANGES_MOST],
        more_changes=max(0, len(changes) - _CHANGES_MOST),
        not_since=[one for one in covered(session, school_class) if one.children],
    )


def _changes(school_class: SchoolClass, before: list[Cell], now: list[Cell]) -> list[ChangeOut]:
    """Letters that slipped since, then those that became secure."""
    was = {(cell.child_id, cell.letter): cell.state for cell in before}
    children = {child.id: child for child in school_class.children}
    changed = [
        cell
        for cell in now
        if cell.state in ("slipping", "secure") and was.get((cell.child_id, cell.letter)) != cell.state
    ]
    changed.sort(key=lambda cell: (cell.state != "slipping", children[cell.child_id].first_name, cell.letter))
    return [
        ChangeOut.model_validate(
            {"child": child_out(children[cell.child_id]), "letter": cell.letter, "what": cell.state}
        )
        for cell in changed
    ]


def _review(cell: Cell) -> Review | None:
    if cell.due is None or cell.strength_days is None:
        return None
    return Review(cell.due.toordinal(), cell.day.toordinal(), cell.strength_days)


def due_letters(cells: list[Cell], signs_here: Signs, on: date) -> list[Due]:
    """Letters that are due, with how much is forgotten of each over all the children given."""
    need: dict[str, float] = {}
    family = signs_here.family
    for cell in cells:
        review = _review(cell)
        if review is not None and review.due <= on.toordinal() and cell.letter in family:
            need[cell.letter] = need.get(cell.letter, 0.0) + 1 - review.remembered(on.toordinal())
    return [Due(char, family[char], amount) for char, amount in need.items()]


def recall(style: HouseStyle, cells: list[Cell], signs_here: Signs, on: date) -> str:
    """Letters for a recall row of these children."""

    def alike(a: str, b: str) -> bool:
        return any(other.char == b for other in look_alikes(a, style))

    return recall_row(due_letters(cells, signs_here, on), lambda a, b: alike(a, b) or alike(b, a))


def _recall(style: HouseStyle, signs_here: Signs, cells: list[Cell], on: date) -> list[RecallLetterOut]:
    out = []
    for char in recall(style, cells, signs_here, on):
        since = [cell.due for cell in cells if cell.letter == char and cell.due and cell.due <= on]
        out.append(
            RecallLetterOut(
                letter=char,
                drawing=drawing(letter(char, style)),
                family=signs_here.family[char],
                children=len(since),
                due_since=min(since),
            )
        )
    return out


def needs(days: Sequence[DayRow], signs_here: Signs, *, over_family: bool = True) -> list[Need]:
    """What every child slips in over every family, from days of evidence.

    How often is counted over all letters of the family, or only over those in which the slip was made.
    """
    family = signs_here.family
    letters: Counter[tuple[int, str]] = Counter()
    slips: dict[tuple[int, str, str], Counter[str]] = {}
    for one in days:
        if one.letter not in family:
            continue
        over = family[one.letter]
        letters[one.child_id, one.letter] += len(one.alone)
        for code, count in one.slips.items():
            slips.setdefault((one.child_id, code, over), Counter())[one.letter] += count
    return [
        Need(
            child=child,
            code=code,
            heading=str(CODES[code].heading),
            family=over,
            slips=sum(chars.values()),
            letters=sum(
                letters[child, char] for char in (signs_here.letters(over) if over_family else chars)
            ),
            chars="".join(sorted(chars)),
        )
        for (child, code, over), chars in slips.items()
    ]


def class_groups(
    session: Session, school_class: SchoolClass, needed: Sequence[Need]
) -> tuple[list[TeachGroupOut], bool]:
    """The groups as the teacher changed them, or as worked out from what is needed; and which it is."""
    kept = group_store.kept(session, school_class.id)
    if kept is not None:
        return _groups_out(school_class, kept), True
    return _groups_out(school_class, map(_document, groups(needed))), False


def _document(group: Group) -> dict[str, Any]:
    """A group as it is kept."""
    return {
        "code": group.code,
        "family": group.family,
        "letters": group.chars,
        "child_ids": list(group.children),
    }


def _groups_out(school_class: SchoolClass, documents: Iterable[dict[str, Any]]) -> list[TeachGroupOut]:
    children = {child.id: child for child in school_class.children}
    out = []
    for one in documents:
        here = [children[child_id] for child_id in one["child_ids"] if child_id in children]
        if here:
            out.append(
                TeachGroupOut(
                    code=one["code"],
                    family=one["family"],
                    slip=slip_name(one["code"]),
                    teach=to_teach(one["code"]),
                    letters=one["letters"],
                    children=[child_out(child) for child in here],
                )
            )
    return out


def keep_groups(session: Session, class_id: int, given: GroupsIn, at: datetime) -> None:
    """Keep the groups of a class as the teacher wants them.

    Raises
    ------
    NotFoundError
        If a child is not of the class, or there is no such code; nothing is changed.
    """
    own = {child.id for child in get_class(session, class_id).children}
    for one in given.groups:
        if one.code not in CODES:
            raise NotFoundError("code", one.code)
        for child_id in one.child_ids:
            if child_id not in own:
                raise NotFoundError("child in this class", child_id)
    group_store.keep(session, class_id, [one.model_dump() for one in given.groups], at)


def covered(session: Session, school_class: SchoolClass) -> list[CoveredOut]:
    """Every letter taught, with the children who have not written it alone since."""
    seen = {
        key: (first.toordinal(), None if last is None else last.toordinal())
        for key, (first, last) in store.first_and_last_alone(session, school_class.id).items()
    }
    children = {child.id: child for child in school_class.children}
    return [
        CoveredOut(
            letter=one.char,
            taught=date.fromordinal(one.taught),
            last_alone=None if one.last_alone is None else date.fromordinal(one.last_alone),
            children=[child_out(children[child]) for child in one.not_since],
        )
        for one in coverage(seen, list(children))
    ]
