"""How large the body of a request may be, and reading one that is a whole file."""

from __future__ import annotations

from typing import IO, Any

from fastapi import Request

MB = 1_000_000
USUAL_MOST = 4 * MB  # two minutes of scribbling with a fast pen are less than one
INK_FILE_MOST = 64 * MB
CHILD_FILE_MOST = 200 * MB
BACKUP_MOST = 8_000 * MB


def file_body(media_type: str, what: str) -> dict[str, Any]:
    """What the description says of such a body."""
    return {
        "requestBody": {
            "required": True,
            "description": what,
            "content": {media_type: {"schema": {"type": "string", "format": "binary"}}},
        }
    }


async def read_into(request: Request, out: IO[bytes]) -> None:
    """Write a body to a file as it comes in; the door says how much may come (``max_body_size``)."""
    async for chunk in request.stream():
        out.write(chunk)
