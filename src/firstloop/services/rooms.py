"""A class that writes on tablets, as its teacher sees and leads it.

What the children write stands in rows and words like all other ink; a room only says who has which tablet,
and what was handed out.
"""

from __future__ import annotations

import secrets
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.progress.steps import most_urgent
from firstloop.core.supports import Support, still_to_write
from firstloop.core.teaching.advice import tells_most
from firstloop.formats.qr_path import QrPath, qr_path
from firstloop.services import evidence, families, rows, written_words
from firstloop.services.children import ChildView, child_view
from firstloop.services.class_map import SCHEME
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.ink import KeptStroke
from firstloop.services.presence import Heard, Presence
from firstloop.services.results import advice_findings
from firstloop.services.row_views import Lines, attempt_verdict, counted, lines_view, row_geometry
from firstloop.store import days
from firstloop.store import rooms as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.days import Key
from firstloop.store.errors import ConflictError
from firstloop.store.room_tables import Handout, Room, Tablet
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Child, Row, WrittenWord
from firstloop.text import room as words
from firstloop.text.findings import slip_name

_LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"  # none that is easily taken for another
_CODE_LONG = 6
JUST_NOW = timedelta(minutes=2)


@dataclass(frozen=True)
class ToHandOut:
    """What to hand out: a row of one letter, each child its own letter, or words; to some children or all."""

    letter: str = ""
    text: str = ""
    child_ids: tuple[int, ...] | None = None


@dataclass(frozen=True)
class LineAttempt:
    """A letter on a child's line; ``ring`` is where to look (page mm) if it was just written and wants it."""

    id: int
    strokes: list[KeptStroke]
    crossed_out: bool
    judged: bool
    ring: list[float] | None


@dataclass(frozen=True)
class ChildsLine:
    """What a child writes on now. ``under_pen`` is ink that is not ended yet; the records have none of it."""

    row_id: int | None
    word_id: int | None
    text: str
    ruled: RulingView
    lines: Lines
    xh_mm: float
    width_mm: float
    attempts: list[LineAttempt]
    under_pen: list[KeptStroke]
    to_write: int


@dataclass(frozen=True)
class ChildInRoom:
    """A child of the class: its tablet if it has one, whether that was heard of lately, and its line.

    ``unsent`` is what the tablet still kept when it was last heard of. ``slip`` is the code of what was
    slipped just now, ``remark`` its name.
    """

    child: ChildView
    tablet_id: int | None
    here: bool
    unsent: int
    slip: str
    remark: str
    line: ChildsLine | None


@dataclass(frozen=True)
class TabletAtTheDoor:
    """A tablet that waits to be let in, or is in and has no name: ``wants`` is the name it chose."""

    id: int
    wants: str
    child_id: int | None
    admitted: bool
    is_phone: bool
    here: bool
    unsent: int


@dataclass(frozen=True)
class WayIn:
    """An address that a tablet can open, with its QR code."""

    address: str
    qr: QrPath


@dataclass(frozen=True)
class RoomView:
    """A room as its teacher sees it; ``just_now`` says who slipped in the last minutes, in sentences.

    ``letter`` is the one that all write, if they do: what would be shown again.
    """

    id: int
    class_id: int
    code: str
    phone_code: str
    opened_at: datetime
    pens_down: bool
    handed_out: str
    handed_at: datetime | None
    letter: str
    tablets: int
    ways_in: list[WayIn]
    door: list[TabletAtTheDoor]
    children: list[ChildInRoom]
    just_now: list[str]


@dataclass(frozen=True)
class Outlook:
    """What a view of a room depends on beside the records: the time, presence, addresses of this machine."""

    at: datetime
    presence: Presence
    addresses: Sequence[str] = ()

    def heard(self, tablet: Tablet) -> Heard:
        """What a tablet last said."""
        return self.presence.of(tablet.id)

    def is_here(self, tablet: Tablet) -> bool:
        """Whether it was heard of lately."""
        return self.heard(tablet).is_here(self.at.timestamp())


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
    tablets = _tablet_of_each(room)
    chosen = [one for one in tablets if what.child_ids is None or one in what.child_ids]
    if not chosen:
        raise ConflictError("No child that was let in has a tablet yet.")
    own = {} if what.letter or what.text else _own_letters(session, class_id, on)
    first = "" if what.letter or what.text else _first_letter(session, class_id)
    for child_id in chosen:
        if what.text:
            word = written_words.begin(session, child_id, what.text, at)
            store.hand_out(session, room, child_id, at, word_id=word.id)
        else:
            letter = what.letter or own.get(child_id, first)
            row_id = rows.begin(session, child_id, letter, [], at).id
            store.hand_out(session, room, child_id, at, row_id=row_id)
    news = list(tablets) if room.pens_down else chosen  # all pens go up again
    room.pens_down = False
    session.commit()
    return [tablets[one].id for one in news]


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


def view(session: Session, class_id: int, outlook: Outlook) -> RoomView | None:
    """The room of a class; None while it is not open.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    room = store.open_room(session, class_id)
    if room is None:
        return None
    tablets = _tablet_of_each(room)
    out = store.handed_out(session, room)
    children = [
        _child(child, tablets.get(child.id), out.get(child.id), outlook) for child in school_class.children
    ]
    letters = {one.row.letter if one.row else "" for one in out.values()}
    said = [_said(one) for one in out.values()]
    return RoomView(
        id=room.id,
        class_id=class_id,
        code=room.code,
        phone_code=room.phone_code,
        opened_at=room.opened_at,
        pens_down=room.pens_down,
        handed_out=words.all_of_it(said),
        handed_at=max((one.handed_at for one in out.values()), default=None),
        letter=letters.pop() if len(letters) == 1 else "",
        tablets=sum(1 for one in tablets.values() if outlook.is_here(one)),
        ways_in=[
            WayIn(address, qr_path(f"{address}/tablet?code={room.code}")) for address in outlook.addresses
        ],
        door=[_at_the_door(one, outlook) for one in room.tablets if one.id not in _in_use(tablets)],
        children=children,
        just_now=just_now(children),
    )


def some(session: Session, class_id: int, child_ids: Sequence[int], outlook: Outlook) -> list[ChildInRoom]:
    """Some children of an open room, as :func:`view` shows them."""
    room = store.open_room(session, class_id)
    if room is None:
        return []
    out, tablets = store.handed_out(session, room, child_ids), _tablet_of_each(room)
    children = [one for one in room.school_class.children if one.id in set(child_ids)]
    return [_child(one, tablets.get(one.id), out.get(one.id), outlook) for one in children]


def _tablet_of_each(room: Room) -> dict[int, Tablet]:
    """Tablets that were let in, by the child that has each."""
    seated = [
        (seat.child_id, one)
        for one in room.tablets
        if (seat := store.seat_of(one)) and one.admitted_at and not one.sent_away_at
    ]
    return dict(seated)


def _in_use(tablets: Mapping[int, Tablet]) -> set[int]:
    return {one.id for one in tablets.values()}


def _at_the_door(tablet: Tablet, outlook: Outlook) -> TabletAtTheDoor:
    seat, heard = store.seat_of(tablet), outlook.heard(tablet)
    return TabletAtTheDoor(
        id=tablet.id,
        wants="" if seat is None else child_view(seat.child).name,
        child_id=None if seat is None else seat.child_id,
        admitted=tablet.admitted_at is not None,
        is_phone=tablet.is_phone,
        here=outlook.is_here(tablet),
        unsent=heard.unsent,
    )


def _child(child: Child, tablet: Tablet | None, out: Handout | None, outlook: Outlook) -> ChildInRoom:
    heard = None if tablet is None else outlook.heard(tablet)
    slip = _slip(out, outlook.at)
    return ChildInRoom(
        child=child_view(child),
        tablet_id=None if tablet is None else tablet.id,
        here=tablet is not None and outlook.is_here(tablet),
        unsent=0 if heard is None else heard.unsent,
        slip=slip,
        remark=slip_name(slip) if slip else "",
        line=None if out is None else _line(out, heard, outlook.at),
    )


def _line(out: Handout, heard: Heard | None, at: datetime) -> ChildsLine | None:
    sheet = out.row or out.word
    if sheet is None:
        return None
    name = ("row", sheet.id) if isinstance(sheet, Row) else ("word", sheet.id)
    under_pen = [] if heard is None or heard.sheet != name else [dict(one) for one in heard.under_pen]
    if isinstance(sheet, Row):
        pattern = [Support(one) for one in sheet.support]
        slot_mm, _ = row_geometry(sheet)
        attempts = [_attempt(one, at) for one in sheet.attempts]
        to_write = len(still_to_write(pattern, len(counted(sheet))))
        width_mm = slot_mm * max(len(attempts) + to_write, 1)
    else:
        attempts = [] if sheet.ink is None else [_word(sheet)]
        to_write, width_mm = int(sheet.ink is None), 0.0
    return ChildsLine(
        row_id=out.row_id,
        word_id=out.word_id,
        text=sheet.letter if isinstance(sheet, Row) else sheet.text,
        ruled=ruling_view(sheet.ruling, sheet.child.school_class.washed),
        lines=lines_view(sheet.lines),
        xh_mm=sheet.lines.xh_mm,
        width_mm=width_mm,
        attempts=attempts,
        under_pen=under_pen,  # type: ignore[arg-type]  # as the tablet sent it
        to_write=to_write,
    )


def _attempt(one: Attempt, at: datetime) -> LineAttempt:
    found = _finding(one, at)
    ring = None if found is None else list(found["at"])
    return LineAttempt(one.id, one.ink, one.crossed_out, one.result is not None, ring)  # type: ignore[arg-type]


def _word(word: WrittenWord) -> LineAttempt:
    return LineAttempt(word.id, word.ink or [], word.crossed_out, word.checker is not None, None)  # type: ignore[arg-type]


def _finding(one: Attempt, at: datetime) -> dict[str, Any] | None:
    """What is to be fixed in a letter that was written just now; None where nothing is."""
    fresh = at - one.written_at < JUST_NOW and not one.crossed_out and one.result is not None
    if not fresh or one.result is None or attempt_verdict(one) is not Verdict.FIX:
        return None
    findings: list[dict[str, Any]] = one.result.document.get("findings", [])
    most = tells_most(advice_findings(one.result.document))
    return None if most is None else findings[most]


def _slip(out: Handout | None, at: datetime) -> str:
    """What the latest letter of a row was slipped in, if it was written just now."""
    letters = [] if out is None or out.row is None else counted(out.row)
    found = _finding(letters[-1], at) if letters else None
    return "" if found is None else found["code"]


def just_now(children: Iterable[ChildInRoom]) -> list[str]:
    """Who slipped just now, in sentences."""
    slips: dict[str, list[str]] = {}
    for one in children:
        if one.slip:
            slips.setdefault(one.slip, []).append(one.child.first_name)
    return words.just_now(slips)


def _said(out: Handout) -> str:
    if out.row is not None:
        return words.handed_out(out.row.letter, "")
    heard = out.word is not None and out.word.dictated is not None
    return words.handed_out("", out.word.text if out.word else "", heard=heard)
