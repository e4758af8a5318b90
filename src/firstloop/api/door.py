"""The teacher's door over a network: the passphrase, the session, the recovery words."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request, Response
from pydantic import BaseModel, Field

from firstloop.api.deps import Now, Who
from firstloop.api.given import Given
from firstloop.api.routers import resource
from firstloop.api.server.errors import PROBLEM, Responses
from firstloop.api.server.guard import SESSION_COOKIE
from firstloop.services.door import PASSPHRASE_MOST, SESSION_HOURS, Door
from firstloop.store.errors import ConflictError

router = resource("door", "/door")
REFUSED: Responses = {
    403: {**PROBLEM, "description": "It was wrong, or is guessed too easily."},
    409: {**PROBLEM, "description": "This First Loop is reached from its own machine only, and needs none."},
    429: {**PROBLEM, "description": "Too many wrong tries; the header Retry-After says how long to wait."},
}
Phrase = Annotated[str, Field(min_length=1, max_length=PASSPHRASE_MOST)]


class DoorState(BaseModel):
    """Whether a passphrase is wanted here, and whether it was said."""

    needed: bool
    is_open: bool


class EnterIn(Given):
    """The teacher's passphrase."""

    passphrase: Phrase


class RecoverIn(Given):
    """The recovery words, and the passphrase that is to hold from now on."""

    words: Phrase
    passphrase: Phrase


class PassphraseIn(Given):
    """The passphrase that holds, and the one that is to."""

    passphrase: Phrase
    following: Phrase


class RecoveryWords(BaseModel):
    """New recovery words: they are told this once."""

    words: str


async def _door(request: Request) -> Door:
    door: Door | None = request.app.state.door
    if door is None:
        raise ConflictError("This First Loop is reached from its own machine only, and needs no passphrase.")
    return door


DoorDep = Annotated[Door, Depends(_door)]


@router.get("/")
async def door_state(request: Request, at: Now) -> DoorState:
    """Whether the passphrase is still to be said."""
    door: Door | None = request.app.state.door
    is_open = door is None or door.is_open_to(request.cookies.get(SESSION_COOKIE), at)
    return DoorState(needed=door is not None, is_open=is_open)


@router.post("/enter", status_code=204, responses=REFUSED)
def enter(response: Response, door: DoorDep, at: Now, who: Who, given: EnterIn) -> None:
    """Say the passphrase: this browser is the teacher's for eight hours, or until she leaves."""
    token = door.enter(given.passphrase, who, at)
    response.set_cookie(
        SESSION_COOKIE, token, max_age=SESSION_HOURS * 3600, secure=True, httponly=True, samesite="strict"
    )


@router.post("/leave", status_code=204, responses=REFUSED)
def leave(request: Request, response: Response, door: DoorDep) -> None:
    """End the session of this browser."""
    token = request.cookies.get(SESSION_COOKIE)
    if token:
        door.leave(token)
    response.delete_cookie(SESSION_COOKIE, secure=True, httponly=True, samesite="strict")


@router.post("/recover", responses=REFUSED)
def recover(door: DoorDep, at: Now, who: Who, given: RecoverIn) -> RecoveryWords:
    """Set a new passphrase with the recovery words. They are used up; the answer has new ones."""
    return RecoveryWords(words=door.recover(given.words, given.passphrase, who, at))


@router.post("/passphrase", responses=REFUSED)
def change_passphrase(door: DoorDep, at: Now, who: Who, given: PassphraseIn) -> RecoveryWords:
    """Set another passphrase. Every session ends, this one too; the answer has new recovery words."""
    return RecoveryWords(words=door.change(given.passphrase, given.following, who, at))
