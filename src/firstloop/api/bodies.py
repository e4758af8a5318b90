"""Reading a file that is the whole body of a request."""

from __future__ import annotations

from typing import IO, Any

from fastapi import HTTPException, Request


def file_body(media_type: str, what: str) -> dict[str, Any]:
    """What the description says of such a body."""
    return {
        "requestBody": {
            "required": True,
            "description": what,
            "content": {media_type: {"schema": {"type": "string", "format": "binary"}}},
        }
    }


async def read_into(request: Request, out: IO[bytes], most: int) -> None:
    """Write a body to a file as it comes in.

    Raises
    ------
    HTTPException
        413, if it is larger than `most` bytes.
    """
    size = 0
    async for chunk in request.stream():
        size += len(chunk)
        if size > most:
            raise HTTPException(413, f"The file is larger than {most // 1_000_000} MB.")
        out.write(chunk)
