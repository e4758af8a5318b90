"""What a tablet may do: come into a room, take a name, and write what was handed out to its child.

It is told its own child's sheet with the model to write from, and nothing else: no other names once it has
one, no verdict, no history. What it wrote is taken from it exactly once, however often it sends it.
"""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import Correction
from firstloop.core.supports import Support, still_to_write
from firstloop.services import dictations, evidence, rows, written_words
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.door import hashed
from firstloop.services.ink import KeptStroke
from firstloop.services.letters import TextModel, text_model
from firstloop.services.presence import Presence
from firstloop.services.row_views import Lines, counted, lines_view, row_geometry
from firstloop.services.rows import WrittenAttempt, same_sheet
from firstloop.services.written_words import LEFT_XH
from firstloop.store import rooms as store
from firstloop.store import rows as row_store
from firstloop.store import written as word_store
from firstloop.store.classes import get_child
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.room_tables import Handout, Room, Tablet
from firstloop.store.rows import Edit
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, Row, WrittenWord

NAMELESS_MOST = 60  # whoever knows the code could send in any number
FULL = "Too many tablets without a name stand at the door. The teacher can send them away."
NO_SUCH_CODE = "That code opens no room. Look at the board once more."


class UnknownTabletError(Exception):
    """Nobody knows this tablet: it has to come in anew. What it kept stays on it."""

    def __str__(self) -> str:
        return (
            "This tablet is not in a room. Nothing that is kept on it is lost: come in again with the code."
        )


@dataclass(frozen=True)
class NameToTake:
    """A child whose name no tablet has yet."""

    id: int
    name: str


@dataclass(frozen=True)
class SheetAttempt:
    """A letter on a child's own sheet, as it was sent."""

    key: str
    strokes: list[KeptStroke]
    crossed_out: bool
    best: bool


@dataclass(frozen=True)
class Sheet:
    """What a child writes on: a row of a letter or a word, its lines, and the model to write from.

    A word that is heard and not seen has ``boxes`` and no model. ``attempts`` of a word are one at most.
    """

    kind: str
    id: int
    text: str
    started_at: datetime
    hand: str
    ruled: RulingView
    lines: Lines
    xh_mm: float
    slot_mm: float
    letter_left_mm: float
    support: list[Support]
    layered: bool
    to_write: list[Support]
    attempts: list[SheetAttempt]
    boxes: int | None
    model: TextModel | None


@dataclass(frozen=True)
class ChildsPage:
    """All that a tablet knows.

    ``names`` are those to choose from while it has none; ``open`` is false once the room is closed.
    """

    room: int
    open: bool
    is_phone: bool
    admitted: bool
    pens_down: bool
    names: list[NameToTake]
    child: NameToTake | None
    rubs_out: bool
    sheet: Sheet | None


@dataclass(frozen=True)
class Joined:
    """A tablet that has come to the door: its token is told this once."""

    token: str
    page: ChildsPage


@dataclass(frozen=True)
class Kept:
    """An attempt that is safe: what the records call it, and what is still to be written in its row."""

    attempt_id: int
    key: str
    to_write: list[Support]


def join(session: Session, code: str, at: datetime, presence: Presence) -> Joined:
    """Let a tablet come to the door of the room that a code opens.

    When too many without a name stand there, those that were not heard of lately have gone.

    Raises
    ------
    ConflictError
        If it opens none, or too many are there still.
    """
    said = "".join(code.split()).upper()
    room = store.room_of_code(session, said)
    if room is None:
        raise ConflictError(NO_SUCH_CODE)
    at_the_door = store.nameless(session, room)
    if len(at_the_door) >= NAMELESS_MOST:
        gone = [one for one in at_the_door if not presence.of(one.id).is_here(at.timestamp())]
        if not gone:
            raise ConflictError(FULL)
        for one in gone:
            one.sent_away_at = at
    token = secrets.token_urlsafe(32)
    store.add_tablet(session, room, hashed(token), said == room.phone_code, at)
    session.commit()
    return Joined(token, page(session, known(session, token, at)))


def known(session: Session, token: str, at: datetime) -> Tablet:
    """The tablet that a token belongs to.

    Raises
    ------
    UnknownTabletError
    """
    found = store.tablet_of_token(session, hashed(token), at)
    if found is None or found.sent_away_at is not None:
        raise UnknownTabletError
    return found


def take_name(session: Session, tablet: Tablet, child_id: int, at: datetime) -> ChildsPage:
    """Take a name that no other tablet has.

    Raises
    ------
    ConflictError
        If this tablet has one, or another has that one.
    """
    if store.seat_of(tablet) is not None:
        raise ConflictError("This tablet has a name. The teacher can give it another.")
    if tablet.is_phone or tablet.room.closed_at is not None:
        raise ConflictError("No names are given out here.")
    if child_id not in {one.id for one in _free_names(session, tablet)}:
        raise ConflictError("Another tablet has this name. Choose yours, or ask your teacher.")
    store.give(session, tablet, get_child(session, child_id), at)
    session.commit()
    return page(session, tablet)


def without_name(session: Session, tablet: Tablet) -> list[int]:
    """The tablets of the same room that have no name yet: they show which ones are free."""
    room = store.open_room(session, tablet.room.class_id)
    return [] if room is None else [one.id for one in room.tablets if store.seat_of(one) is None]


def page(session: Session, tablet: Tablet) -> ChildsPage:
    """What a tablet shows now."""
    room, seat = tablet.room, store.seat_of(tablet)
    is_open = room.closed_at is None
    admitted = tablet.admitted_at is not None
    out = (
        store.handed_out(session, room, [seat.child_id]).get(seat.child_id)
        if seat is not None and admitted and is_open
        else None
    )
    style = house_style(room.school_class)
    return ChildsPage(
        room=room.id,
        open=is_open,
        is_phone=tablet.is_phone,
        admitted=admitted,
        pens_down=room.pens_down,
        names=_free_names(session, tablet) if is_open and seat is None and not tablet.is_phone else [],
        child=None if seat is None else NameToTake(seat.child_id, seat.child.first_name),
        rubs_out=style.correction is Correction.RUB_OUT,
        sheet=None if out is None else _sheet(out),
    )


def _free_names(session: Session, tablet: Tablet) -> list[NameToTake]:
    room = store.the_open_room(session, tablet.room.class_id)
    taken = {seat.child_id for one in room.tablets if (seat := store.seat_of(one)) and not one.sent_away_at}
    return [NameToTake(one.id, _name(one)) for one in room.school_class.children if one.id not in taken]


def _name(child: Child) -> str:
    return f"{child.first_name} {child.initial}".strip()


def _sheet(out: Handout) -> Sheet | None:
    if out.row is not None:
        return _row_sheet(out.row)
    return None if out.word is None else _word_sheet(out.word)


def _row_sheet(row: Row) -> Sheet:
    pattern = [Support(one) for one in row.support]
    slot_mm, left_mm = row_geometry(row)
    return Sheet(
        kind="row",
        id=row.id,
        text=row.letter,
        started_at=row.started_at,
        hand=row.child.hand,
        ruled=ruling_view(row.ruling, row.child.school_class.washed),
        lines=lines_view(row.lines),
        xh_mm=row.lines.xh_mm,
        slot_mm=slot_mm,
        letter_left_mm=left_mm,
        support=pattern,
        layered=row.layered,
        to_write=still_to_write(pattern, len(counted(row))),
        attempts=[
            SheetAttempt(one.key, one.ink, one.crossed_out, one.best)  # type: ignore[arg-type]  # as it was kept
            for one in row.attempts
        ],
        boxes=None,
        model=text_model(row.letter, house_style(row)),
    )


def _word_sheet(word: WrittenWord) -> Sheet:
    boxes = None if word.dictated is None else len(word.dictated.units)
    written = [] if word.ink is None else [SheetAttempt(f"word-{word.id}", word.ink, word.crossed_out, False)]  # type: ignore[arg-type]
    return Sheet(
        kind="word",
        id=word.id,
        text="" if boxes is not None else word.text,  # what is dictated is heard, and not read off the tablet
        started_at=word.started_at,
        hand=word.child.hand,
        ruled=ruling_view(word.ruling, word.child.school_class.washed),
        lines=lines_view(word.lines),
        xh_mm=word.lines.xh_mm,
        slot_mm=0.0,
        letter_left_mm=LEFT_XH * word.lines.xh_mm,
        support=[],
        layered=False,
        to_write=[] if word.ink is not None else [Support.ALONE],
        attempts=written,
        boxes=boxes,
        model=None if boxes is not None else text_model(word.text, house_style(word)),
    )


def _may_write(session: Session, tablet: Tablet, **what: int) -> None:
    """Whether this sheet was handed to a child with this tablet: no other is there for it."""
    if tablet.admitted_at is None or not store.may_write(session, tablet, **what):
        raise NotFoundError("sheet of this tablet", next(iter(what.values())))


def keep_attempt(
    session: Session, tablet: Tablet, row_id: int, given: WrittenAttempt, at: datetime
) -> tuple[Kept, int]:
    """Keep an attempt; when this returns it is durable. Nothing has judged it yet. Tells whose it is too.

    Raises
    ------
    NotFoundError
        If the row was never handed to a child with this tablet.
    ConflictError
        As :func:`firstloop.services.rows.keep`.
    """
    _may_write(session, tablet, row_id=row_id)
    attempt, to_write = rows.keep(session, row_id, given, at)
    return Kept(attempt.id, attempt.key, to_write), attempt.row.child_id


def _own_word(session: Session, tablet: Tablet, word_id: int, started_at: datetime | None) -> WrittenWord:
    """A word that was handed to a child with this tablet, and is the one that was meant."""
    _may_write(session, tablet, word_id=word_id)
    word = word_store.get_word(session, word_id)
    same_sheet(started_at, word)
    return word


def keep_word(
    session: Session, tablet: Tablet, word_id: int, strokes: list[dict[str, Any]], started_at: datetime | None
) -> int:
    """Keep a word; when this returns it is durable. Nothing has judged it yet. Returns whose it is.

    Raises
    ------
    NotFoundError, ConflictError
    """
    word = _own_word(session, tablet, word_id, started_at)
    word_store.keep_ink(session, word, strokes)
    session.commit()
    return word.child_id


def cross_out_word(
    session: Session, tablet: Tablet, word_id: int, started_at: datetime | None, at: datetime
) -> int:
    """Put a line through a word; where the child is still at it, it is given a clean line for the same word.

    The ink stays. Crossed out again it stays so. Returns whose it is.

    Raises
    ------
    NotFoundError, ConflictError
    """
    word = _own_word(session, tablet, word_id, started_at)
    if not word.crossed_out:
        word.crossed_out, word.settled = True, False
        _give_again(session, tablet.room, word, at)
        session.commit()
    return word.child_id


def _give_again(session: Session, room: Room, word: WrittenWord, at: datetime) -> None:
    out = store.handed_out(session, room, [word.child_id]).get(word.child_id)
    if room.closed_at is not None or out is None or out.word_id != word.id:
        return  # it was taken in meanwhile, or something else handed out
    again = (
        written_words.begin(session, word.child_id, word.text, at)
        if word.dictated is None
        else dictations.begin_again(session, word.dictated, at)
    )
    store.hand_out(session, room, word.child_id, at, again)


def choose_best(
    session: Session, tablet: Tablet, row_id: int, key: str, started_at: datetime | None, at: datetime
) -> int:
    """Let the child's best of a row be the attempt with a key. Chosen again it stays so. Returns whose it is.

    Raises
    ------
    NotFoundError
        If there is no such attempt in a row of this tablet.
    ConflictError
    """
    _may_write(session, tablet, row_id=row_id)
    row = row_store.get_row(session, row_id)
    same_sheet(started_at, row)
    chosen = next((one for one in row.attempts if one.key == key), None)
    if chosen is None:
        raise NotFoundError("attempt in this row called", key)
    if not chosen.best:
        best = partial(rows.with_one_best, [Edit(chosen.id, "best", True)])
        row_store.change(session, row, best, at)
        evidence.work_out_row(session, row)
    return row.child_id


def leave(session: Session, tablet: Tablet, at: datetime) -> None:
    """Let a tablet go: its name is free again. What it was handed it may still send."""
    store.give(session, tablet, None, at)
    session.commit()


def class_of_phone(tablet: Tablet) -> int:
    """The class whose pages the teacher's phone brings in.

    Raises
    ------
    ConflictError
        If it is no phone, was not let in, or the room is closed.
    """
    if not tablet.is_phone or tablet.admitted_at is None or tablet.room.closed_at is not None:
        raise ConflictError("Only the teacher's phone brings pages in, once it was let in.")
    return tablet.room.class_id


def children_of(tablet: Tablet) -> Sequence[int]:
    """Every child that had this tablet."""
    return [one.child_id for one in tablet.seats]
