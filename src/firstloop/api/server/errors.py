"""Errors of the core and the store as answers: what happened, in words fit for a screen."""

from __future__ import annotations

import errno
import logging
import sqlite3
from math import ceil
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DatabaseError

from firstloop.api.given import ProblemOut
from firstloop.api.server.beside import GaveUpError
from firstloop.api.server.gate import ClosedError
from firstloop.core.families.board import BoardError
from firstloop.core.families.rules import RuleError
from firstloop.core.families.sounds import SoundError
from firstloop.core.ink import InkError
from firstloop.core.letterforms.library import UnknownLetterError
from firstloop.core.letterforms.style import StyleError
from firstloop.core.patter import WordsError
from firstloop.core.planning.changes import ChangeError
from firstloop.core.planning.term import TermError
from firstloop.core.ruling import RulingError
from firstloop.core.sheets.wish import SheetError
from firstloop.core.words.dictation import DictationError
from firstloop.core.words.units import UnitError
from firstloop.formats.calendar_file import CalendarError
from firstloop.formats.child_zip import ChildFileError
from firstloop.formats.sealed import SealedError
from firstloop.formats.word_bank import WordListError
from firstloop.services.door import DoorError, SlowDownError
from firstloop.services.tablets import UnknownTabletError
from firstloop.services.word_bank import WordError
from firstloop.store.backup import BackupError, NoRoomError
from firstloop.store.errors import ConflictError, NotFoundError

log = logging.getLogger(__name__)

_SAID_MOST = 5  # of what was not accepted; a hundred thousand points may all be wrong
AGAIN_S = 3  # after so long a browser asks again
REPLACED = (
    "The records are just being replaced from a file. Nothing is lost: what was written is kept here and "
    "sent again in a moment."
)
_SAFE = (
    "What was kept before is safe. What was just written is not in the records yet: it stays on this device "
    "and is sent again by itself."
)
BUSY = f"Something else is using the records just now. {_SAFE}"
FULL = f"The disk that holds the records is full. {_SAFE} Make room on it."
READ_ONLY = f"The records cannot be written: their file or folder is read-only. {_SAFE}"
DAMAGED = (
    "The records cannot be read: their file is damaged. Nothing was changed. Close First Loop and start it "
    "again; it says then which backup is good."
)

STATUS: dict[type[Exception], int] = {
    NotFoundError: 404,
    UnknownLetterError: 404,
    ConflictError: 409,
    InkError: 400,
    RulingError: 400,
    SheetError: 400,
    StyleError: 400,
    BoardError: 400,
    WordsError: 400,
    RuleError: 400,
    SoundError: 400,
    DictationError: 400,
    TermError: 400,
    ChangeError: 409,
    CalendarError: 400,
    UnitError: 400,
    WordError: 400,
    WordListError: 400,
    ChildFileError: 400,
    BackupError: 400,
    SealedError: 400,
    NoRoomError: 503,
    DoorError: 403,
    UnknownTabletError: 401,
}
Responses = dict[int | str, dict[str, Any]]
# named, not given as a model: one would be built for every door, eight times
PROBLEM = {
    "content": {"application/json": {"schema": {"$ref": f"#/components/schemas/{ProblemOut.__name__}"}}}
}
NOT_FOUND: Responses = {404: {**PROBLEM, "description": "There is no such record or letter."}}
CONFLICT: Responses = {
    409: {**PROBLEM, "description": "The record cannot be changed in this way; nothing was changed."}
}
BAD_RULING: Responses = {400: {**PROBLEM, "description": "There are no such lines to write on."}}
BAD_INK: Responses = {400: {**PROBLEM, "description": "The file cannot be read; the answer says why."}}
BAD_FILE: Responses = {400: {**PROBLEM, "description": "The file cannot be used; the answer says why."}}
NOT_NOW: Responses = {
    503: {**PROBLEM, "description": "Not just now; the answer says what is safe. Ask again in a moment."}
}
TOO_LARGE: Responses = {413: {**PROBLEM, "description": "What was sent is too large."}}
EVERYWHERE: Responses = {
    400: {"model": ProblemOut, "description": "The request could not be read."},
    401: {**PROBLEM, "description": "The teacher's passphrase, or a tablet's token, is wanted."},
    403: {**PROBLEM, "description": "A page of another site asked."},
    **TOO_LARGE,
    429: {**PROBLEM, "description": "That is asked too often; the header Retry-After says how long to wait."},
    421: {**PROBLEM, "description": "It was asked for at an address that is not this machine's."},
    **NOT_NOW,
}


async def _answer(_: Request, problem: Exception) -> JSONResponse:
    status = next(code for kind, code in STATUS.items() if isinstance(problem, kind))
    return JSONResponse(status_code=status, content={"detail": str(problem)})


async def _invalid(_: Request, problem: Exception) -> JSONResponse:
    """Say what was not accepted without sending it back: it may not even be JSON (NaN)."""
    assert isinstance(problem, RequestValidationError)
    for one in problem.errors():
        why: Any = one.get("ctx", {}).get("error")
        if isinstance(why, Exception) and type(why) in STATUS:  # what the core refuses, it says in words
            return await _answer(_, why)
    detail = [
        {"type": one["type"], "loc": one["loc"], "msg": one["msg"]} for one in problem.errors()[:_SAID_MOST]
    ]
    return JSONResponse(status_code=422, content={"detail": detail})


async def _too_large(_: Request, problem: Exception) -> JSONResponse:
    return JSONResponse({"detail": "What was sent is too large. Nothing of it was taken in."}, 413)


def _again(detail: str, status: int = 503) -> JSONResponse:
    return JSONResponse({"detail": detail}, status, headers={"Retry-After": str(AGAIN_S)})


async def _replaced(_: Request, problem: Exception) -> JSONResponse:
    return _again(REPLACED)


async def _database(_: Request, problem: Exception) -> JSONResponse:
    """The file would not: say whether to wait, to make room, or to look after it."""
    said = str(getattr(problem, "orig", problem))
    known = {"locked": BUSY, "busy": BUSY, "full": FULL, "disk I/O": FULL, "readonly": READ_ONLY}
    known |= {"unable to open": READ_ONLY, "malformed": DAMAGED, "not a database": DAMAGED}
    detail = next((words for sign, words in known.items() if sign in said), None)
    if detail is None:
        raise problem
    log.error("the records would not: %s", said)
    return _again(detail)


async def _gave_up(_: Request, problem: Exception) -> JSONResponse:
    return _again("This took longer than First Loop waits. Nothing was changed. Try once more.")


async def _slow_down(_: Request, problem: Exception) -> JSONResponse:
    assert isinstance(problem, SlowDownError)
    wait = {"Retry-After": str(ceil(problem.wait_s))}
    return JSONResponse({"detail": str(problem)}, 429, headers=wait)


async def _disk(_: Request, problem: Exception) -> JSONResponse:
    assert isinstance(problem, OSError)
    if problem.errno not in (errno.ENOSPC, errno.EDQUOT, errno.EROFS, errno.EACCES):
        raise problem
    log.error("the disk would not: %s", problem)
    return _again(FULL if problem.errno in (errno.ENOSPC, errno.EDQUOT) else READ_ONLY)


def add_handlers(app: FastAPI) -> None:
    """Answer every known error with its status and one sentence."""
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(413, _too_large)
    app.add_exception_handler(GaveUpError, _gave_up)
    app.add_exception_handler(ClosedError, _replaced)
    app.add_exception_handler(DatabaseError, _database)
    app.add_exception_handler(sqlite3.DatabaseError, _database)
    app.add_exception_handler(OSError, _disk)
    app.add_exception_handler(SlowDownError, _slow_down)
    for kind in STATUS:
        app.add_exception_handler(kind, _answer)
