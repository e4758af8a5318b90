"""A class that writes on tablets, as its teacher leads it.

What the children write stands in rows and words like all other ink; a room only says who has which tablet,
and what was handed out.
"""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.core.progress.steps import most_urgent
from firstloop.services import dictations, evidence, families, rows, written_words
from firstloop.services.class_map import SCHEME
from firstloop.store import days
from firstloop.store import rooms as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.days import Key
from firstloop.store.errors import ConflictError
from firstloop.store.room_tables import Room
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, Row, WrittenWord

_LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"  # none that is easily taken for another
_CODE_LONG = 6


@dataclass(frozen=True)
class Dictated:
    """A word of a dictation, by its place from 0: the teacher says it, and no tablet shows it."""

    dictation_id: int
    position: int


@dataclass(frozen=True)
class ToHandOut:
    """What to hand out: a row of one letter, words, a word of a dictation, or else each child its own letter.

    Without ``child_ids`` it is for all.
    """

    letter: str = ""
    text: str = ""
    dictated: Dictated | None = None
    child_ids: tuple[int, ...] | None = None

    @property
    def is_own(self) -> bool:
        """Whether each child gets its own letter."""
        return not (self.letter or self.text or self.dictated)


def check_class(session: Session, class_id: int) -> None:
    """Whether there is such a class.

    Raises
    ------
    NotFoundError
    """
    get_class(session, class_id)


def tablet_ids(session: Session, class_id: int) -> list[int]:
    """The tablets of a class's open room; none while it is not open."""
    room = store.open_room(session, class_id)
    return [] if room is None else [one.id for one in room.tablets]


def open_one(session: Session, class_id: int, at: datetime) -> None:
    """Open the room of a class; one that is open stays as it is.

    Raises
    ------
    NotFoundError
    """
    get_class(session, class_id)
    if store.open_room(session, class_id) is not None:
        return
    used = store.codes_in_use(session)
    store.add_room(session, class_id, _code(used), _code(used), at)
    session.commit()


def _code(used: set[str]) -> str:
    while (code := "".join(secrets.choice(_LETTERS) for _ in range(_CODE_LONG))) in used:
        pass
    used.add(code)
    return code


def close(session: Session, class_id: int, at: datetime) -> None:
    """Close a room: all is collected, no tablet comes in any more; those that keep ink may still send it.

    Raises
    ------
    ConflictError
        If it is not open.
    """
    room = store.the_open_room(session, class_id)
    _collect(session, room, at)
    room.closed_at = at
    session.commit()


def pens(session: Session, class_id: int, down: bool) -> None:
    """Have all pens put down, or taken up again.

    Raises
    ------
    ConflictError
    """
    store.the_open_room(session, class_id).pens_down = down
    session.commit()


def admit(session: Session, class_id: int, tablet_ids: Sequence[int] | None, at: datetime) -> None:
    """Let tablets in that stand at the door with a name; without numbers all of them.

    Raises
    ------
    ConflictError, NotFoundError
    """
    room = store.the_open_room(session, class_id)
    some = room.tablets if tablet_ids is None else [store.tablet_in(room, one) for one in tablet_ids]
    for tablet in some:
        if tablet.admitted_at is None and (tablet.is_phone or store.seat_of(tablet) is not None):
            tablet.admitted_at = at
    session.commit()


def send_away(session: Session, class_id: int, tablet_id: int, at: datetime) -> None:
    """Let a tablet into the room no more. What it kept and did not send stays on it.

    Raises
    ------
    ConflictError, NotFoundError
    """
    tablet = store.tablet_in(store.the_open_room(session, class_id), tablet_id)
    store.give(session, tablet, None, at)
    tablet.sent_away_at = at
    session.commit()


def give(
    session: Session, class_id: int, tablet_id: int, child_id: int, at: datetime, *, with_written: bool
) -> None:
    """Give a tablet to a child, also one that had another's name.

    Whoever had this child's tablet has none then. With `with_written` what was written on it in this room
    goes to the child too: the name was wrong from the start.

    Raises
    ------
    NotFoundError
    ConflictError
        If the room is not open, or it is the teacher's phone.
    """
    room = store.the_open_room(session, class_id)
    tablet, child = store.tablet_in(room, tablet_id), get_child(session, child_id)
    if tablet.is_phone or child.class_id != class_id:
        raise ConflictError("Only a tablet is given to a child, and only to one of this class.")
    before = store.seat_of(tablet)
    for other in room.tablets:
        seat = store.seat_of(other)
        if other is not tablet and seat is not None and seat.child_id == child_id:
            store.give(session, other, None, at)
    store.give(session, tablet, child, at)
    tablet.admitted_at = tablet.admitted_at or at
    touched: list[Key] = []
    if with_written and before is not None and before.child_id != child_id:
        touched = _take_along(session, room, before.child_id, child, before.since)
    session.commit()
    evidence.work_out(session, touched)


def _take_along(session: Session, room: Room, from_id: int, child: Child, since: datetime) -> list[Key]:
    """Let what a child was handed since then be another's; returns the days that are to be worked out."""
    day = school_time(session).day
    touched = []
    for out in store.all_handed(session, room, from_id, since):
        sheet = out.row or out.word
        if sheet is None:
            continue
        if isinstance(sheet, WrittenWord) and sheet.dictated is not None:
            dictations.let_be_of(session, sheet.dictated, child)
        out.child_id = sheet.child_id = child.id
        sheet.settled = False
        letters = sheet.letter if isinstance(sheet, Row) else sheet.text.replace(" ", "")
        touched += [
            Key(one, char, day(sheet.started_at)) for one in (from_id, child.id) for char in set(letters)
        ]
    return touched


def hand_out(session: Session, class_id: int, what: ToHandOut, at: datetime, on: date) -> list[int]:
    """Hand a row or words to the children that have a tablet; what they were at is ended for them.

    Returns the tablets for which something is new.

    Raises
    ------
    ConflictError
        If the room is not open, or nobody in it has a tablet.
    NotFoundError, UnknownLetterError
    """
    room = store.the_open_room(session, class_id)
    tablets = store.seated(session, room)
    chosen = [one for one in tablets if what.child_ids is None or one in what.child_ids]
    if not chosen:
        raise ConflictError("No child that was let in has a tablet yet.")
    own: dict[int, str] = {}
    letter = what.letter
    if what.is_own:
        own, letter = _own_letters(session, class_id, on), _first_letter(session, class_id)
    with session.no_autoflush:  # written all at once: no letter waits while thirty rows are thought out
        for child_id in chosen:
            sheet = (
                _word_of(session, child_id, what, at)
                if what.text or what.dictated
                else rows.begin(session, child_id, own.get(child_id, letter), [], at)
            )
            store.hand_out(session, room, child_id, at, sheet)
    news = list(tablets) if room.pens_down else chosen  # all pens go up again
    room.pens_down = False
    session.commit()
    return [tablets[one].id for one in news]


def _word_of(session: Session, child_id: int, what: ToHandOut, at: datetime) -> WrittenWord:
    if what.dictated is None:
        return written_words.begin(session, child_id, what.text, at)
    return dictations.begin(session, what.dictated.dictation_id, child_id, what.dictated.position, at)


def _own_letters(session: Session, class_id: int, on: date) -> dict[int, str]:
    """For every child the letter to write first: one that slipped, then one being learned."""
    states: dict[int, dict[str, str]] = {}
    for cell in days.cells(session, class_id, "all", on):
        states.setdefault(cell.child_id, {})[cell.letter] = cell.state
    found = {child: most_urgent(letters) for child, letters in states.items()}
    return {child: letter for child, letter in found.items() if letter is not None}


def _first_letter(session: Session, class_id: int) -> str:
    """The class's first letter, for a child who has begun none."""
    style = house_style(get_class(session, class_id))
    board = families.columns(session, class_id, SCHEME, "lower case", style)
    return next(member.char for column in board for member in column.places)


def collect(session: Session, class_id: int, at: datetime) -> None:
    """Take everything in: the rows end, and the tablets show a clean page.

    Raises
    ------
    ConflictError
    """
    _collect(session, store.the_open_room(session, class_id), at)


def _collect(session: Session, room: Room, at: datetime) -> None:
    collected = store.collect(session, room, at)
    session.commit()
    for row_id in collected:
        if rows.has_ink(session, row_id):
            rows.finish(session, row_id, at)
