"""A class that writes on tablets as its teacher sees it: every child's line, and who slipped just now."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.supports import Support, still_to_write
from firstloop.core.teaching.advice import tells_most
from firstloop.formats.qr_path import QrPath, qr_path
from firstloop.services.children import ChildView, child_view
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.ink import KeptStroke, seen
from firstloop.services.presence import Heard, Presence
from firstloop.services.results import advice_findings
from firstloop.services.row_views import Lines, attempt_verdict, counted, lines_view, row_geometry
from firstloop.store import dictations
from firstloop.store import rooms as store
from firstloop.store.classes import get_class, some_children
from firstloop.store.room_tables import Handout, Tablet
from firstloop.store.tables import Attempt, Child, Row, WrittenWord
from firstloop.text import room as words
from firstloop.text.findings import slip_name

JUST_NOW = timedelta(minutes=2)


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
class DictationHere:
    """A dictation that all write now: its words, the place of the one said last, and of the next if any."""

    id: int
    position: int
    next: int | None
    words: list[str]


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
    dictation: DictationHere | None
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
    out, tablets = store.handed_out(session, room), store.seated(session, room)
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
        dictation=_dictation(session, out.values()),
        tablets=sum(1 for one in tablets.values() if outlook.is_here(one)),
        ways_in=[
            WayIn(address, qr_path(f"{address}/tablet?code={room.code}")) for address in outlook.addresses
        ],
        door=[_at_the_door(one, outlook) for one in room.tablets if one not in tablets.values()],
        children=children,
        just_now=just_now(children),
    )


def _dictation(session: Session, out: Iterable[Handout]) -> DictationHere | None:
    places = {
        (one.word.dictated.dictation_id, one.word.dictated.position)
        if one.word is not None and one.word.dictated is not None
        else None
        for one in out
    }
    place = places.pop() if len(places) == 1 else None
    if place is None or place[0] is None:
        return None
    words = [str(one["text"]) for one in dictations.get(session, place[0]).words]
    after = place[1] + 1
    return DictationHere(place[0], place[1], after if after < len(words) else None, words)


def some(session: Session, class_id: int, child_ids: Sequence[int], outlook: Outlook) -> list[ChildInRoom]:
    """Some children of an open room, as :func:`view` shows them."""
    room = store.bare_room(session, class_id)
    if room is None:
        return []
    out, tablets = store.handed_out(session, room, child_ids), store.seated(session, room, child_ids)
    children = some_children(session, class_id, child_ids)
    return [_child(one, tablets.get(one.id), out.get(one.id), outlook) for one in children]


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
    under_pen = [] if heard is None or heard.sheet != name else seen(heard.under_pen)
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
        under_pen=under_pen,
        to_write=to_write,
    )


def _attempt(one: Attempt, at: datetime) -> LineAttempt:
    found = _finding(one, at)
    ring = None if found is None else list(found["at"])
    return LineAttempt(one.id, seen(one.ink), one.crossed_out, one.result is not None, ring)


def _word(word: WrittenWord) -> LineAttempt:
    return LineAttempt(word.id, seen(word.ink or []), word.crossed_out, word.checker is not None, None)


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
