"""Judging an ink file, nothing kept: the same document as ``first-loop check --json``."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request
from fastapi.concurrency import run_in_threadpool

from firstloop.api.errors import BAD_INK
from firstloop.api.schemas import CheckOut
from firstloop.core.check.grades import Level
from firstloop.formats.check_json import check_file
from firstloop.formats.style_json import read_style

router = APIRouter(tags=["check"])
BODY_MAX_BYTES = 64 * 1024 * 1024
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
    responses={**BAD_INK, 413: {**BAD_INK[400], "description": "The file is too large."}},
)
async def check_ink(
    request: Request,
    level: Level = Level.GROWING,
    style: Annotated[str | None, Query(description="A house style as JSON.")] = None,
) -> CheckOut:
    """Judge every letter of an InkML file."""
    body = bytearray()
    async for chunk in request.stream():
        body += chunk
        if len(body) > BODY_MAX_BYTES:
            raise HTTPException(413, f"The file is larger than {BODY_MAX_BYTES // 1024 // 1024} MB.")
    house = read_style(style) if style is not None else None
    document = await run_in_threadpool(check_file, bytes(body), level, house)
    return CheckOut.model_validate(document)
