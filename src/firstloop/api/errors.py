"""Errors of the core and the store as answers: what happened, in words fit for a screen."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from fastapi.responses import JSONResponse

from firstloop.api.schemas import ProblemOut
from firstloop.core.ink import InkError
from firstloop.core.letterforms.lower import UnknownLetterError
from firstloop.core.letterforms.style import StyleError
from firstloop.core.ruling import RulingError
from firstloop.store.errors import ConflictError, NotFoundError

STATUS: dict[type[Exception], int] = {
    NotFoundError: 404,
    UnknownLetterError: 404,
    ConflictError: 409,
    InkError: 400,
    RulingError: 400,
    StyleError: 400,
}
Responses = dict[int | str, dict[str, Any]]
PROBLEM = {"model": ProblemOut}
NOT_FOUND: Responses = {404: {**PROBLEM, "description": "There is no such record or letter."}}
CONFLICT: Responses = {
    409: {**PROBLEM, "description": "The record cannot be changed in this way; nothing was changed."}
}
BAD_INK: Responses = {400: {**PROBLEM, "description": "The file cannot be read; the answer says why."}}


async def _answer(_: Request, problem: Exception) -> JSONResponse:
    status = next(code for kind, code in STATUS.items() if isinstance(problem, kind))
    return JSONResponse(status_code=status, content={"detail": str(problem)})


def add_handlers(app: FastAPI) -> None:
    """Answer every known error with its status and one sentence."""
    for kind in STATUS:
        app.add_exception_handler(kind, _answer)
