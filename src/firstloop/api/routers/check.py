"""Judging an ink file, nothing kept: the same document as ``first-loop check --json``."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool

from firstloop.api.bodies import INK_FILE_MOST
from firstloop.api.errors import BAD_INK, TOO_LARGE
from firstloop.api.schemas import CheckOut
from firstloop.core.check.grades import Level
from firstloop.formats.check_json import check_file
from firstloop.formats.style_json import read_style

router = APIRouter(tags=["check"])
_INKML_BODY = {
    "requestBody": {
        "required": True,
        "description": "An InkML file.",
        "content": {"application/inkml+xml": {"schema": {"type": "string"}}},
    }
}


@router.post(
    "/check",
    response_model_exclude_unset=True,
    openapi_extra=_INKML_BODY,
    responses={**BAD_INK, **TOO_LARGE},
    max_body_size=INK_FILE_MOST,
)
async def check_ink(
    request: Request,
    level: Level = Level.GROWING,
    style: Annotated[str | None, Query(description="A house style as JSON.")] = None,
) -> CheckOut:
    """Judge every letter of an InkML file."""
    body = await request.body()
    house = read_style(style) if style is not None else None
    document = await run_in_threadpool(check_file, body, level, house)
    return CheckOut.model_validate(document)
