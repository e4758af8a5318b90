"""Judging an ink file, nothing kept: the same document as ``first-loop check --json``."""

from __future__ import annotations

from typing import Annotated

import orjson
from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from firstloop.api.deps import BesideDep
from firstloop.api.routers import resource
from firstloop.api.server.beside import GaveUpError
from firstloop.api.server.bodies import INK_FILE_MOST
from firstloop.api.server.errors import BAD_INK, TOO_LARGE
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.ink import InkError
from firstloop.core.letterforms.style import HouseStyle
from firstloop.formats.style_json import read_style
from firstloop.services.check_files import CheckDocument, check_file

router = resource("check")
PATIENCE_S = 600.0
LARGE_BYTES = 100_000  # a page of writing; more is judged in a process of its own
_INKML_BODY = {
    "requestBody": {
        "required": True,
        "description": "An InkML file.",
        "content": {"application/inkml+xml": {"schema": {"type": "string"}}},
    }
}


def _answer(body: bytes, level: Level, house: HouseStyle | None) -> bytes:
    """The document of a file as JSON."""
    return orjson.dumps(check_file(body, level, house))


@router.post(
    "/check",
    response_model=CheckDocument,
    openapi_extra=_INKML_BODY,
    responses={**BAD_INK, **TOO_LARGE},
    max_body_size=INK_FILE_MOST,
)
async def check_ink(
    request: Request,
    beside: BesideDep,
    level: Level = Level.GROWING,
    style: Annotated[str | None, Query(description="A house style as JSON.")] = None,
) -> Response:
    """Judge every letter of an InkML file."""
    body = await request.body()
    house = read_style(style) if style is not None else None
    if len(body) <= LARGE_BYTES:
        answer = await run_in_threadpool(_answer, body, level, house)
    else:
        try:
            answer = await run_in_threadpool(beside.run, PATIENCE_S, _answer, body, level, house)
        except GaveUpError:
            raise InkError("the file holds more writing than can be judged at once; split it") from None
    return Response(answer, media_type="application/json")
