"""Who may do what where First Loop is reached over a network: nobody anything, until a door says otherwise.

Three kinds of doors are told apart by their path alone, so that one that is new and unnamed is closed:
what stands under ``/api/door/`` is open (how else would anybody get in), what stands under ``/api/tablet/``
asks for a tablet's own token itself, and all the rest is the teacher's and wants her session.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from starlette.requests import HTTPConnection
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from firstloop.services.door import Door

SESSION_COOKIE = "__Host-first-loop"
SAY_IT = "Say the passphrase first. Nothing was read or changed."
_OPEN = ("/api/door/", "/api/tablet/")
_OURS = ("/api/", "/openapi.json", "/docs")


class Guard:
    """Lets in whoever has a session, and those who need none; all without a `door` (this machine only)."""

    def __init__(self, app: ASGIApp, door: Door | None, clock: Callable[[], datetime]) -> None:
        self._app, self._door, self._clock = app, door, clock

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer that the passphrase is wanted, or let in."""
        if scope["type"] == "http" and self._door is not None and self._is_closed(scope["path"]):
            token = HTTPConnection(scope).cookies.get(SESSION_COOKIE)
            if not self._door.is_open_to(token, self._clock()):
                await JSONResponse({"detail": SAY_IT}, 401)(scope, receive, send)
                return
        await self._app(scope, receive, send)

    @staticmethod
    def _is_closed(path: str) -> bool:
        return path.startswith(_OURS) and not path.startswith(_OPEN)
