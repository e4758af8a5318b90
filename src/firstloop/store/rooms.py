"""Rooms of tablets: opening and closing one, letting tablets in, seating children, handing out."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta

from sqlalchemy import Select, func, or_, select, update
from sqlalchemy.orm import Session, contains_eager, joinedload, selectinload

from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.room_tables import Handout, Room, Seat, Tablet
from firstloop.store.tables import Attempt, Child, Row, SchoolClass, WrittenWord

KEEPS_DAYS = 30  # after a room is closed its tablets may still send what they kept


def open_room(session: Session, class_id: int) -> Room | None:
    """The room of a class that is open, with its tablets and who has them."""
    return session.scalar(
        _open(class_id).options(
            selectinload(Room.tablets).joinedload(Tablet.seats).joinedload(Seat.child),
            joinedload(Room.school_class).selectinload(SchoolClass.children),
        )
    )


def bare_room(session: Session, class_id: int) -> Room | None:
    """As :func:`open_room`, with nothing fetched beside it."""
    return session.scalar(_open(class_id))


def _open(class_id: int) -> Select[Room]:
    return select(Room).where(Room.class_id == class_id, Room.closed_at.is_(None))


def the_open_room(session: Session, class_id: int) -> Room:
    """As :func:`open_room`.

    Raises
    ------
    ConflictError
        If none is open.
    """
    found = open_room(session, class_id)
    if found is None:
        raise ConflictError("The room is not open.")
    return found


def add_room(session: Session, class_id: int, code: str, phone_code: str, at: datetime) -> Room:
    """Open a room."""
    room = Room(class_id=class_id, code=code, phone_code=phone_code, opened_at=at)
    session.add(room)
    session.flush()
    return room


def room_of_code(session: Session, code: str) -> Room | None:
    """The open room that a code lets into, as a tablet or as a phone."""
    return session.scalar(
        select(Room).where(Room.closed_at.is_(None), or_(Room.code == code, Room.phone_code == code))
    )


def codes_in_use(session: Session) -> set[str]:
    """Codes of the rooms that are open."""
    found = session.execute(select(Room.code, Room.phone_code).where(Room.closed_at.is_(None)))
    return {code for pair in found for code in pair}


def add_tablet(session: Session, room: Room, token_hash: str, is_phone: bool, at: datetime) -> Tablet:
    """Let a tablet stand at the door of a room."""
    tablet = Tablet(room_id=room.id, token_hash=token_hash, is_phone=is_phone, joined_at=at)
    session.add(tablet)
    session.flush()
    return tablet


def nameless(session: Session, room: Room) -> Sequence[Tablet]:
    """The tablets at the door of a room that nobody has had and nobody let in or sent away."""
    return session.scalars(
        select(Tablet).where(
            Tablet.room_id == room.id,
            Tablet.admitted_at.is_(None),
            Tablet.sent_away_at.is_(None),
            ~Tablet.seats.any(),
        )
    ).all()


def tablet_of_token(session: Session, token_hash: str, at: datetime) -> Tablet | None:
    """The tablet with a token, in a room that is open or was not closed long ago."""
    long_ago = at - timedelta(days=KEEPS_DAYS)
    return (
        session.scalars(
            select(Tablet)
            .join(Tablet.room)
            .where(Tablet.token_hash == token_hash, or_(Room.closed_at.is_(None), Room.closed_at > long_ago))
            .options(contains_eager(Tablet.room), joinedload(Tablet.seats).joinedload(Seat.child))
        )
        .unique()
        .one_or_none()
    )


def tablet_in(room: Room, tablet_id: int) -> Tablet:
    """A tablet of a room.

    Raises
    ------
    NotFoundError
    """
    found = next((one for one in room.tablets if one.id == tablet_id), None)
    if found is None:
        raise NotFoundError("tablet in this room", tablet_id)
    return found


def seat_of(tablet: Tablet) -> Seat | None:
    """Who has a tablet now."""
    return next((one for one in tablet.seats if one.until is None), None)


def seated(session: Session, room: Room, child_ids: Iterable[int] | None = None) -> dict[int, Tablet]:
    """Tablets that were let in, by the child that has each; of all children, or of some."""
    query = (
        select(Seat.child_id, Tablet)
        .join(Tablet.seats)
        .where(
            Tablet.room_id == room.id,
            Tablet.admitted_at.is_not(None),
            Tablet.sent_away_at.is_(None),
            Seat.until.is_(None),
        )
        .order_by(Tablet.id)
    )
    if child_ids is not None:
        query = query.where(Seat.child_id.in_(list(child_ids)))
    return {child_id: tablet for child_id, tablet in session.execute(query)}


def give(session: Session, tablet: Tablet, child: Child | None, at: datetime) -> None:
    """Put a tablet into a child's hands, or into nobody's; who had it before has it no more."""
    now = seat_of(tablet)
    if now is not None:
        if child is not None and now.child_id == child.id:
            return
        now.until = at
        session.flush()
    if child is not None:
        tablet.seats.append(Seat(child_id=child.id, since=at))
    session.flush()


def hand_out(session: Session, room: Room, child_id: int, at: datetime, sheet: Row | WrittenWord) -> None:
    """Hand a row or a word to a child; it is written on when the child's tablet next asks."""
    out = Handout(room_id=room.id, child_id=child_id, handed_at=at)
    if isinstance(sheet, Row):
        out.row = sheet
    else:
        out.word = sheet
    session.add(out)


def collect(session: Session, room: Room, at: datetime) -> Sequence[int]:
    """Take everything in that is out; returns the rows that were."""
    out = Handout.room_id == room.id, Handout.collected_at.is_(None)
    rows = session.scalars(select(Handout.row_id).where(*out, Handout.row_id.is_not(None))).all()
    session.execute(update(Handout).where(*out).values(collected_at=at))
    return [one for one in rows if one is not None]


def handed_out(session: Session, room: Room, child_ids: Iterable[int] | None = None) -> dict[int, Handout]:
    """What each child writes on now: the latest that was handed out and not collected."""
    on_it = joinedload(Attempt.result), joinedload(Attempt.mark)
    latest = select(func.max(Handout.id)).where(Handout.room_id == room.id, Handout.collected_at.is_(None))
    if child_ids is not None:
        latest = latest.where(Handout.child_id.in_(list(child_ids)))
    query = (
        select(Handout)
        .where(Handout.id.in_(latest.group_by(Handout.child_id)))
        .options(
            joinedload(Handout.row).selectinload(Row.attempts).options(*on_it),
            joinedload(Handout.row).joinedload(Row.style),
            joinedload(Handout.row).joinedload(Row.child).joinedload(Child.school_class),
            joinedload(Handout.word).joinedload(WrittenWord.dictated),
        )
    )
    return {one.child_id: one for one in session.scalars(query)}


def all_handed(session: Session, room: Room, child_id: int, since: datetime) -> Sequence[Handout]:
    """Everything that a child was handed in a room since a moment, collected or not."""
    query = select(Handout).where(
        Handout.room_id == room.id, Handout.child_id == child_id, Handout.handed_at >= since
    )
    return session.scalars(query.options(joinedload(Handout.row), joinedload(Handout.word))).all()


def may_write(
    session: Session, tablet: Tablet, row_id: int | None = None, word_id: int | None = None
) -> bool:
    """Whether a row or a word was ever handed out to a child while it had this tablet, or has it."""
    children = {one.child_id for one in tablet.seats}
    on = Handout.row_id == row_id if row_id is not None else Handout.word_id == word_id
    found = session.scalar(select(Handout.id).where(on, Handout.child_id.in_(children)).limit(1))
    return found is not None
