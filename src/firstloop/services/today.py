"""What a teacher decides on a Monday: what waits, what to recall, whom to take aside, what changed."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.changes import changes
from firstloop.core.progress.coverage import coverage
from firstloop.core.progress.groups import Group, Need, causes, groups
from firstloop.core.progress.mastery import State
from firstloop.core.progress.review import Due, Remembered, Review, due_letters, recall_row
from firstloop.core.progress.slips import Lately, needs, new_slips, seen_lately
from firstloop.services.children import ChildView, child_view
from firstloop.services.class_map import signs, term_slips, within_month
from firstloop.services.letters import LetterDrawing, drawing
from firstloop.store import days as store
from firstloop.store import groups as group_store
from firstloop.store import pages
from firstloop.store.classes import get_class
from firstloop.store.days import Cell
from firstloop.store.errors import NotFoundError
from firstloop.store.styles import house_style
from firstloop.store.tables import SchoolClass
from firstloop.store.written import how_many_wait, letters_in_words
from firstloop.text import progress
from firstloop.text.findings import slip_name, to_teach

WEEK_DAYS = 7
_CHANGES_MOST = 8
_CAUSES_MOST = 12
_SEEN_MOST = 4


@dataclass(frozen=True)
class Waiting:
    """Rows that wait for the teacher's mark: how many, by how many children; words not looked at, and pages
    that came back and are not in the records.
    """

    rows: int
    children: int
    words: int
    pages: int


@dataclass(frozen=True)
class RecallLetter:
    """A letter of today's recall row, for how many children it is due, and since when at the longest."""

    letter: str
    drawing: LetterDrawing
    family: str
    children: int
    due_since: date


@dataclass(frozen=True)
class TeachGroup:
    """Children to take aside together, over what, and what to teach again."""

    code: str
    family: str
    slip: str
    teach: str
    letters: str
    children: list[ChildView]


@dataclass(frozen=True)
class ChangeView:
    """A letter that became secure or slipped since last week."""

    child: ChildView
    letter: str
    what: State


@dataclass(frozen=True)
class SeenSlip:
    """A slip that children took to of late, or that was seen of them, with its letters, in words."""

    code: str
    letters: str
    words: str
    children: list[ChildView]


@dataclass(frozen=True)
class CoveredView:
    """A letter that was taught: when, when last written alone, and who has not written it alone since."""

    letter: str
    taught: date
    last_alone: date | None
    children: list[ChildView]


@dataclass(frozen=True)
class Today:
    """The few decisions of the day.

    ``groups_kept`` says whether the teacher changed the groups; ``causes`` are what others may be made of.
    ``new_slips`` are those that a child has taken to of late, ``watch_for`` what was seen where too little
    has been written yet to say more.
    """

    class_name: str
    on: date
    waiting: Waiting
    recall: list[RecallLetter]
    groups: list[TeachGroup]
    groups_kept: bool
    causes: list[TeachGroup]
    changes: list[ChangeView]
    more_changes: int
    new_slips: list[SeenSlip]
    watch_for: list[SeenSlip]
    not_since: list[CoveredView]


@dataclass(frozen=True)
class WantedGroup:
    """A group as it is kept, worked out or as a teacher wants it."""

    code: str
    family: str
    letters: str
    child_ids: list[int]


def today(session: Session, class_id: int, on: date) -> Today:
    """What is to be done with a class on a day.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    style = house_style(school_class)
    now = store.cells(session, class_id, "all", on)
    before = store.cells(session, class_id, "all", on - timedelta(days=WEEK_DAYS))
    family = signs(session, school_class, {cell.letter for cell in now}).family
    waiting, by_children = store.waiting(session, class_id)
    changed = _changes(school_class, before, now)
    term = term_slips(session, class_id, on)
    needed = needs(within_month(term, on), family)
    found, kept = _groups(session, school_class, needed)
    formed = {(one.code, one.family) for one in found}
    others = _group_views(school_class, map(_wanted, causes(needed)))
    due = due_now(now, family, on)
    return Today(
        class_name=school_class.name,
        on=on,
        waiting=Waiting(
            waiting, by_children, how_many_wait(session, class_id), pages.how_many_wait(session, class_id)
        ),
        recall=_recall(recall(style, due), style, family, now, on),
        groups=found,
        groups_kept=kept,
        causes=[one for one in others if (one.code, one.family) not in formed][:_CAUSES_MOST],
        changes=changed[:_CHANGES_MOST],
        more_changes=max(0, len(changed) - _CHANGES_MOST),
        new_slips=_seen(school_class, new_slips(term, on.toordinal())),
        watch_for=_seen(school_class, seen_lately(term, on.toordinal())),
        not_since=[one for one in _covered(session, school_class, on) if one.children],
    )


def groups_now(session: Session, class_id: int, on: date) -> list[TeachGroup]:
    """Children to take aside together, as the teacher changed the groups or as they are worked out.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    begun = {cell.letter for cell in store.cells(session, class_id, "all", on)}
    family = signs(session, school_class, begun).family
    needed = needs(within_month(term_slips(session, class_id, on), on), family)
    return _groups(session, school_class, needed)[0]


def covered(session: Session, class_id: int, on: date) -> list[CoveredView]:
    """Every letter taught, with the children who have not written it alone since.

    Raises
    ------
    NotFoundError
    """
    return _covered(session, get_class(session, class_id), on)


def keep_groups(session: Session, class_id: int, wanted: Sequence[WantedGroup], at: datetime) -> None:
    """Keep the groups of a class as the teacher wants them.

    Raises
    ------
    NotFoundError
        If a child is not of the class, or there is no such code; nothing is changed.
    """
    own = {child.id for child in get_class(session, class_id).children}
    for one in wanted:
        if one.code not in CODES:
            raise NotFoundError("code", one.code)
        for child_id in one.child_ids:
            if child_id not in own:
                raise NotFoundError("child in this class", child_id)
    group_store.keep(session, class_id, [asdict(one) for one in wanted], at)
    session.commit()


def fresh_groups(session: Session, class_id: int) -> None:
    """Go back to the groups that are worked out.

    Raises
    ------
    NotFoundError
    """
    group_store.forget(session, get_class(session, class_id).id)
    session.commit()


def due_now(cells: Iterable[Cell], family: dict[str, str], on: date) -> list[Due]:
    """Letters that are due, over all the children given."""
    remembered = [
        Remembered(cell.letter, Review(cell.due.toordinal(), cell.day.toordinal(), cell.strength_days))
        for cell in cells
        if cell.due is not None and cell.strength_days is not None
    ]
    return due_letters(remembered, family, on.toordinal())


def recall(style: HouseStyle, due: Sequence[Due]) -> str:
    """Letters for a recall row."""
    return recall_row(due, lambda a, b: are_alike(a, b, style))


def _changes(school_class: SchoolClass, before: list[Cell], now: list[Cell]) -> list[ChangeView]:
    children = {child.id: child for child in school_class.children}
    was, stands = (
        {(cell.child_id, cell.letter): State(cell.state) for cell in cells} for cells in (before, now)
    )
    names = {number: child.first_name for number, child in children.items()}
    return [
        ChangeView(child_view(children[one.child]), one.letter, one.what)
        for one in changes(was, stands, names)
    ]


def _recall(
    chars: str, style: HouseStyle, family: dict[str, str], cells: list[Cell], on: date
) -> list[RecallLetter]:
    out = []
    for char in chars:
        since = [cell.due for cell in cells if cell.letter == char and cell.due and cell.due <= on]
        out.append(RecallLetter(char, drawing(letter(char, style)), family[char], len(since), min(since)))
    return out


def _groups(
    session: Session, school_class: SchoolClass, needed: Sequence[Need]
) -> tuple[list[TeachGroup], bool]:
    """The groups as the teacher changed them, or as worked out from what is needed; and which it is."""
    kept = group_store.kept(session, school_class.id)
    if kept is not None:
        return _group_views(school_class, [WantedGroup(**one) for one in kept]), True
    return _group_views(school_class, map(_wanted, groups(needed))), False


def _wanted(group: Group) -> WantedGroup:
    return WantedGroup(group.code, group.family, group.chars, list(group.children))


def _group_views(school_class: SchoolClass, wanted: Iterable[WantedGroup]) -> list[TeachGroup]:
    children = {child.id: child for child in school_class.children}
    out = []
    for one in wanted:
        here = [child_view(children[number]) for number in one.child_ids if number in children]
        if here:
            slip, teach = slip_name(one.code), to_teach(one.code)
            out.append(TeachGroup(one.code, one.family, slip, teach, one.letters, here))
    return out


def _seen(school_class: SchoolClass, found: Sequence[Lately]) -> list[SeenSlip]:
    """Who made one slip in the same letters stand together, the gravest slip first."""
    children = {child.id: child for child in school_class.children}
    alike: dict[tuple[str, str], list[Lately]] = {}
    for one in found:
        alike.setdefault((one.code, one.chars), []).append(one)
    out = []
    for (code, chars), mine in alike.items():
        views = [child_view(children[one.child]) for one in mine]
        together = replace(
            mine[0], slips=sum(one.slips for one in mine), letters=sum(one.letters for one in mine)
        )
        out.append(SeenSlip(code, chars, progress.seen(together), views))
    return out[:_SEEN_MOST]


def _covered(session: Session, school_class: SchoolClass, on: date) -> list[CoveredView]:
    seen = {
        key: (first.toordinal(), None if last is None else last.toordinal())
        for key, (first, last) in store.first_and_last_alone(session, school_class.id).items()
    }
    in_words = {
        key: last.toordinal() for key, last in letters_in_words(session, on, class_id=school_class.id).items()
    }
    children = {child.id: child for child in school_class.children}
    return [
        CoveredView(
            letter=one.char,
            taught=date.fromordinal(one.taught),
            last_alone=None if one.last_alone is None else date.fromordinal(one.last_alone),
            children=[child_view(children[child]) for child in one.not_since],
        )
        for one in coverage(seen, list(children), in_words)
    ]
