"""Errors of the core and the store as answers: what happened, in words fit for a screen."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse

from firstloop.api.schemas import ProblemOut
from firstloop.core.families.board import BoardError
from firstloop.core.families.rules import RuleError
from firstloop.core.families.sounds import SoundError
from firstloop.core.ink import InkError
from firstloop.core.letterforms.library import UnknownLetterError
from firstloop.core.letterforms.style import StyleError
from firstloop.core.patter import WordsError
from firstloop.core.ruling import RulingError
from firstloop.formats.child_zip import ChildFileError
from firstloop.store.backup import BackupError
from firstloop.store.errors import ConflictError, NotFoundError

STATUS: dict[type[Exception], int] = {
    NotFoundError: 404,
    UnknownLetterError: 404,
    ConflictError: 409,
    InkError: 400,
    RulingError: 400,
    StyleError: 400,
    BoardError: 400,
    WordsError: 400,
    RuleError: 400,
    SoundError: 400,
    ChildFileError: 400,
    BackupError: 400,
}
Responses = dict[int | str, dict[str, Any]]
PROBLEM = {"model": ProblemOut}
NOT_FOUND: Responses = {404: {**PROBLEM, "description": "There is no such record or letter."}}
CONFLICT: Responses = {
    409: {**PROBLEM, "description": "The record cannot be changed in this way; nothing was changed."}
}
UNREADABLE: Responses = {400: {**PROBLEM, "description": "The request could not be read."}}
BAD_RULING: Responses = {400: {**PROBLEM, "description": "There are no such lines to write on."}}
BAD_INK: Responses = {400: {**PROBLEM, "description": "The file cannot be read; the answer says why."}}
BAD_FILE: Responses = {400: {**PROBLEM, "description": "The file cannot be used; the answer says why."}}
TOO_LARGE: Responses = {413: {**PROBLEM, "description": "The file is too large."}}


async def _answer(_: Request, problem: Exception) -> JSONResponse:
    status = next(code for kind, code in STATUS.items() if isinstance(problem, kind))
    return JSONResponse(status_code=status, content={"detail": str(problem)})


async def _invalid(_: Request, problem: Exception) -> JSONResponse:
    """Say what was not accepted without sending it back: it may not even be JSON (NaN)."""
    assert isinstance(problem, RequestValidationError)
    detail = [{"type": one["type"], "loc": one["loc"], "msg": one["msg"]} for one in problem.errors()]
    return JSONResponse(status_code=422, content={"detail": detail})


def add_handlers(app: FastAPI) -> None:
    """Answer every known error with its status and one sentence."""
    app.add_exception_handler(RequestValidationError, _invalid)
    for kind in STATUS:
        app.add_exception_handler(kind, _answer)
