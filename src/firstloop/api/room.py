"""The room full of tablets, led by the teacher."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Callable, Iterable
from datetime import datetime
from typing import Annotated

from fastapi import Depends, Request
from fastapi.sse import EventSourceResponse
from pydantic import BaseModel, Field, StringConstraints, model_validator
from sqlalchemy.orm import Session

from firstloop.api.deps import Db, Now, RoomOfficeDep, Today, in_session
from firstloop.api.given import Given, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import CONFLICT, NOT_FOUND, Responses
from firstloop.api.server.room_office import RoomOffice, child_subject, class_subject, whole_subject
from firstloop.services import room_views, rooms
from firstloop.services.dictations import WORDS_MOST
from firstloop.services.room_views import ChildInRoom, RoomView
from firstloop.services.rooms import Dictated, ToHandOut

router = resource("room", "/classes/{class_id}/room")
HERE: Responses = {**NOT_FOUND, **CONFLICT}
BEAT_S = 15.0  # without news a room is shown anew so often: who is away shows by saying nothing
GATHER_S = 0.25  # news that come together are told together


class RoomNow(BaseModel):
    """The room of a class; null while it is not open."""

    room: RoomView | None


class DictatedIn(Given):
    """A word of a dictation, by its place from 0."""

    dictation_id: RecordId
    position: int = Field(ge=0, lt=WORDS_MOST)


class HandOutIn(Given):
    """A row of a letter, words, or a word to be heard; with none of them each child its own letter.

    Without children all are meant.
    """

    letter: Annotated[str, StringConstraints(max_length=1)] = ""
    text: Annotated[str, StringConstraints(max_length=40)] = ""
    dictated: DictatedIn | None = None
    child_ids: list[RecordId] | None = Field(default=None, max_length=200)

    @model_validator(mode="after")
    def one_thing(self) -> HandOutIn:
        """One thing is handed out at a time."""
        if sum(map(bool, (self.letter, self.text, self.dictated))) > 1:
            raise ValueError("hand out one thing: a letter, words, or a word of a dictation")
        return self

    def wish(self) -> ToHandOut:
        """As the room is asked."""
        heard = self.dictated
        dictated = None if heard is None else Dictated(heard.dictation_id, heard.position)
        children = None if self.child_ids is None else tuple(self.child_ids)
        return ToHandOut(self.letter, " ".join(self.text.split()), dictated, children)


class PensIn(Given):
    """Whether pens are down."""

    down: bool


class AdmitIn(Given):
    """Tablets to let in; null for all that have a name."""

    tablet_ids: list[RecordId] | None = Field(default=None, max_length=200)


class GiveIn(Given):
    """The child that is to have a tablet; ``with_written``: with what was written on it by a wrong name."""

    child_id: RecordId
    with_written: bool = False


@router.get("", responses=NOT_FOUND)
def get_room(session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId) -> RoomNow:
    """The room as it stands."""
    return RoomNow(room=room_views.view(session, class_id, office.outlook(at)))


@router.post("", responses=NOT_FOUND)
def open_room(session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId) -> RoomNow:
    """Open the room: its code lets tablets come to the door."""
    rooms.open_one(session, class_id, at)
    return _after(session, at, office, class_id)


@router.delete("", responses=HERE)
def close_room(session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId) -> RoomNow:
    """Collect everything and close the room. Tablets that still keep ink send it when they can."""
    told = rooms.tablet_ids(session, class_id)
    rooms.close(session, class_id, at)
    return _after(session, at, office, class_id, told)


@router.put("/pens", responses=HERE)
def put_pens(session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId, given: PensIn) -> RoomNow:
    """Pens down, or up again."""
    rooms.pens(session, class_id, given.down)
    return _after(session, at, office, class_id)


@router.post("/admit", responses=HERE)
def admit_tablets(session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId, given: AdmitIn) -> RoomNow:
    """Let tablets in."""
    rooms.admit(session, class_id, given.tablet_ids, at)
    return _after(session, at, office, class_id)


@router.put("/tablets/{tablet_id}/child", responses=HERE)
def give_tablet(
    session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId, tablet_id: RecordId, given: GiveIn
) -> RoomNow:
    """Give a tablet to a child; put right a name that was wrong."""
    rooms.give(session, class_id, tablet_id, given.child_id, at, with_written=given.with_written)
    return _after(session, at, office, class_id)


@router.delete("/tablets/{tablet_id}", responses=HERE)
def send_tablet_away(
    session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId, tablet_id: RecordId
) -> RoomNow:
    """Send a tablet out of the room."""
    rooms.send_away(session, class_id, tablet_id, at)
    return _after(session, at, office, class_id, [tablet_id])


@router.post("/hand-out", responses=HERE)
def hand_out(
    session: Db, at: Now, on: Today, office: RoomOfficeDep, class_id: RecordId, given: HandOutIn
) -> RoomNow:
    """Hand out a row, words or a word to be heard to the children that have a tablet."""
    told = rooms.hand_out(session, class_id, given.wish(), at, on)
    return _told(session, at, office, class_id, told)


@router.post("/collect", responses=HERE)
def collect_sheets(session: Db, at: Now, office: RoomOfficeDep, class_id: RecordId) -> RoomNow:
    """Take everything in: rows end, the tablets show a clean page."""
    rooms.collect(session, class_id, at)
    return _after(session, at, office, class_id)


def _after(session: Db, at: Now, office: RoomOffice, class_id: int, gone: Iterable[int] = ()) -> RoomNow:
    """Tell all tablets and the teacher's other screens, and answer with the room as it stands now."""
    return _told(session, at, office, class_id, [*gone, *rooms.tablet_ids(session, class_id)])


def _told(session: Db, at: Now, office: RoomOffice, class_id: int, tablet_ids: Iterable[int]) -> RoomNow:
    """Tell some tablets and the teacher's other screens, and answer with the room as it stands now."""
    office.tell_tablets(tablet_ids)
    office.tell_room(class_id)
    return RoomNow(room=room_views.view(session, class_id, office.outlook(at)))


class Arrived(BaseModel):
    """What changed in a room: the ``whole`` of it (null when it is closed), or some children's lines."""

    whole: bool = False
    room: RoomView | None = None
    children: list[ChildInRoom] = []
    just_now: list[str] = []


async def _is_there(request: Request, class_id: RecordId) -> None:
    """Whether there is such a class, before anything is sent."""
    await in_session(request, lambda session: rooms.check_class(session, class_id))


@router.get(
    "/arriving", response_class=EventSourceResponse, responses=NOT_FOUND, dependencies=[Depends(_is_there)]
)
async def arriving(request: Request, office: RoomOfficeDep, class_id: RecordId) -> AsyncIterator[Arrived]:
    """What arrives in the room, as it arrives: server-sent events, until the room is closed."""
    news, subject, whole = office.news, class_subject(class_id), whole_subject(class_id)
    seen_whole = known = -1
    children: dict[int, ChildInRoom] = {}
    seen: dict[int, int] = {}
    while not await request.is_disconnected():
        nothing_new = known == news.number(subject)
        known = news.number(subject)  # what changes while it is looked at is told the next time
        if nothing_new or seen_whole != news.number(whole):
            seen_whole = news.number(whole)
            seen = {one: news.number(child_subject(one)) for one in seen}
            async with office.one_by_one:
                room = await in_session(
                    request, lambda s: room_views.view(s, class_id, office.outlook(_now(request)))
                )
            children = {} if room is None else {one.child.id: one for one in room.children}
            seen = {one: seen.get(one, news.number(child_subject(one))) for one in children}
            yield Arrived(room=room, whole=True, just_now=room_views.just_now(children.values()))
            if room is None:
                return
        else:
            changed = {
                one: number for one in children if (number := news.number(child_subject(one))) != seen[one]
            }
            seen |= changed
            async with office.one_by_one:
                fresh = await in_session(request, _looked_at(office, class_id, list(changed), _now(request)))
            children |= {one.child.id: one for one in fresh}
            said = room_views.just_now(children.values())
            yield Arrived(children=fresh, just_now=said)
        await asyncio.sleep(GATHER_S)
        await news.wait(subject, known, BEAT_S)


def _now(request: Request) -> datetime:
    moment: datetime = request.app.state.clock()
    return moment


def _looked_at(
    office: RoomOffice, class_id: int, child_ids: list[int], at: datetime
) -> Callable[[Session], list[ChildInRoom]]:
    return lambda session: room_views.some(session, class_id, child_ids, office.outlook(at))
