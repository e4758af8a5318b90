"""What a tablet may ask and send. Nothing of the teacher's stands behind these doors.

Every door but the first wants the tablet's own token, and gives only what belongs to the child that has it.
"""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Header, Query, Request, Response
from pydantic import Field
from sqlalchemy.orm import Session

from firstloop.api.deps import (
    Db,
    GateDep,
    Now,
    PageReaderDep,
    RoomOfficeDep,
    SettingsDep,
    Who,
    in_session,
)
from firstloop.api.given import Given, Moment, RecordId
from firstloop.api.pages import PAGES_BODY, PAGES_MOST, take_in
from firstloop.api.routers import router_of
from firstloop.api.rows import AttemptIn
from firstloop.api.server.errors import CONFLICT, NOT_FOUND, NOT_NOW, PROBLEM, TOO_LARGE, Responses
from firstloop.api.server.room_office import tablet_subject
from firstloop.api.written import WordInkIn
from firstloop.formats.bounds import UnderPen
from firstloop.services import tablets
from firstloop.services.rows import WrittenAttempt
from firstloop.services.tablets import ChildsPage, Joined, Kept
from firstloop.store.errors import ConflictError
from firstloop.store.room_tables import Tablet

PATIENCE_S = 25.0
UNSENT_MOST = 100_000
SLOW: Responses = {429: {**PROBLEM, "description": "Too many wrong codes, or too much at once; wait."}}

joining = router_of("tablet", "/tablet")


class JoinIn(Given):
    """The code on the board."""

    code: str = Field(min_length=4, max_length=20)


class NameIn(Given):
    """The child that has this tablet."""

    child_id: RecordId


class BestIn(Given):
    """The attempt that the child likes best, by its key."""

    key: str = Field(min_length=8, max_length=40)
    row_started_at: Moment | None = None


class CrossOutIn(Given):
    """The word that a child puts a line through, by when it was begun."""

    word_started_at: Moment | None = None


class UnderPenIn(Given):
    """Ink that is not ended yet, and the row or word it stands on. The teacher sees it; it is not kept."""

    row_id: RecordId | None = None
    word_id: RecordId | None = None
    strokes: UnderPen


def _token(authorization: Annotated[str, Header(max_length=200)] = "") -> str:
    kind, _, token = authorization.partition(" ")
    return token if kind.lower() == "bearer" else ""


Token = Annotated[str, Depends(_token)]


def _tablet(session: Db, at: Now, token: Token) -> Tablet:
    return tablets.known(session, token, at)


TabletDep = Annotated[Tablet, Depends(_tablet)]
router = router_of("tablet", "/tablet", _tablet)
waiting = router_of("tablet", "/tablet")  # who waits holds no session: it asks by itself


@joining.post("/join", status_code=201, responses={**CONFLICT, **SLOW})
def join_room(session: Db, who: Who, at: Now, office: RoomOfficeDep, given: JoinIn) -> Joined:
    """Come to the door of the room that a code opens. The teacher lets the tablet in."""
    office.guesses.check(who, at.timestamp())
    try:
        joined = tablets.join(session, given.code, at, office.presence)
    except ConflictError:
        office.guesses.wrong(who, at.timestamp())
        raise
    tablet = tablets.known(session, joined.token, at)
    office.presence.hear(tablet.id, at.timestamp())
    office.tell_room(tablet.room.class_id)
    return joined


@waiting.get("/now")
async def tablet_now(
    request: Request,
    response: Response,
    token: Token,
    office: RoomOfficeDep,
    at: Now,
    after: Annotated[int, Query(ge=0, le=2**53)] = 0,
    unsent: Annotated[int, Query(ge=0, le=UNSENT_MOST)] = 0,
) -> ChildsPage:
    """What the tablet shows. With the number of the last answer (header News) it waits until that changes."""

    def heard(session: Session) -> int:
        tablet = tablets.known(session, token, at)
        if office.presence.hear(tablet.id, at.timestamp(), unsent=unsent):
            office.tell_room(tablet.room.class_id, tablets.children_of(tablet)[-1:])
        return tablet.id

    def look(session: Session) -> ChildsPage:
        return tablets.page(session, tablets.known(session, token, at))

    async with office.one_by_one:
        tablet_id = await in_session(request, heard)
    number = await office.news.wait(tablet_subject(tablet_id), after, PATIENCE_S)
    response.headers["News"] = str(number)
    async with office.one_by_one:
        return await in_session(request, look)


@waiting.post(
    "/pages",
    status_code=201,
    openapi_extra=PAGES_BODY,
    responses={**NOT_FOUND, **CONFLICT, **TOO_LARGE, **NOT_NOW},
    max_body_size=PAGES_MOST,
)
async def send_page(
    request: Request,
    token: Token,
    settings: SettingsDep,
    gate: GateDep,
    reader: PageReaderDep,
    at: Now,
    name: Annotated[str, Query(min_length=1, max_length=200)] = "picture",
) -> None:
    """Bring a photograph of a page in from the teacher's own phone, into the pile of pages."""
    class_id = await in_session(request, lambda s: tablets.class_of_phone(tablets.known(s, token, at)))
    await take_in(request, settings, gate, reader, at, class_id, name)


@router.put("/name", responses=CONFLICT)
def take_name(session: Db, at: Now, tablet: TabletDep, office: RoomOfficeDep, given: NameIn) -> ChildsPage:
    """Take a name that no other tablet has."""
    found = tablets.take_name(session, tablet, given.child_id, at)
    office.tell_tablets(tablets.without_name(session, tablet))
    office.tell_room(tablet.room.class_id)
    return found


@router.post("/rows/{row_id}/attempts", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def send_attempt(
    session: Db, at: Now, tablet: TabletDep, office: RoomOfficeDep, row_id: RecordId, given: AttemptIn
) -> Kept:
    """Keep an attempt; it is durable when this answers. Sending its key again can only cross it out."""
    strokes = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    written = WrittenAttempt(given.key, given.support, strokes, given.crossed_out, given.row_started_at)
    kept, child_id = tablets.keep_attempt(session, tablet, row_id, written, at)
    office.presence.hear(tablet.id, at.timestamp(), under_pen=())  # it is an attempt now
    office.see_to_attempt(kept.attempt_id, tablet.room.class_id, child_id)
    return kept


@router.put("/rows/{row_id}/best", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def choose_best(
    session: Db, at: Now, tablet: TabletDep, office: RoomOfficeDep, row_id: RecordId, given: BestIn
) -> None:
    """Say which attempt the child likes best. Sending it again changes nothing."""
    child_id = tablets.choose_best(session, tablet, row_id, given.key, given.row_started_at, at)
    office.tell_room(tablet.room.class_id, [child_id])


@router.put("/words/{word_id}/ink", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def send_word(
    session: Db, at: Now, tablet: TabletDep, office: RoomOfficeDep, word_id: RecordId, given: WordInkIn
) -> None:
    """Keep a word; it is durable when this answers. Sending the same ink again changes nothing."""
    strokes = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    child_id = tablets.keep_word(session, tablet, word_id, strokes, given.word_started_at)
    office.presence.hear(tablet.id, at.timestamp(), under_pen=())  # it is a word now
    office.see_to_word(word_id, tablet.room.class_id, child_id)


@router.put("/words/{word_id}/crossed-out", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def cross_out_tablets_word(
    session: Db, at: Now, tablet: TabletDep, office: RoomOfficeDep, word_id: RecordId, given: CrossOutIn
) -> None:
    """Put a line through a word, and have a clean line for it. Sending it again changes nothing."""
    child_id = tablets.cross_out_word(session, tablet, word_id, given.word_started_at, at)
    office.see_to_word(word_id, tablet.room.class_id, child_id)
    office.tell_tablets([tablet.id])


@router.put("/under-pen", status_code=204)
def show_under_pen(tablet: TabletDep, at: Now, office: RoomOfficeDep, given: UnderPenIn) -> None:
    """Show the teacher what is under the pen. It is kept nowhere: what counts comes as an attempt."""
    sheet = ("row", given.row_id) if given.row_id else ("word", given.word_id) if given.word_id else None
    strokes = tuple(one.model_dump(exclude_none=True) for one in given.strokes)
    office.presence.hear(tablet.id, at.timestamp(), sheet=sheet, under_pen=strokes)
    office.tell_room(tablet.room.class_id, tablets.children_of(tablet)[-1:])


@router.post("/leave", status_code=204)
def leave_room(session: Db, at: Now, tablet: TabletDep, office: RoomOfficeDep) -> None:
    """Leave the room: the name is free again."""
    class_id = tablet.room.class_id
    tablets.leave(session, tablet, at)
    office.presence.forget(tablet.id)
    office.tell_room(class_id)
