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

from firstloop.api.server.rates import Rates
from firstloop.services.door import Door

SESSION_COOKIE = "__Host-first-loop"
SAY_IT = "Say the passphrase first. Nothing was read or changed."
TOO_OFTEN = "That is asked too often. Nothing is lost: it is asked again in a moment."
TEACHERS_A_SECOND, TEACHERS_AT_ONCE = 60.0, 600.0  # a screen that opens asks ten times
_OPEN = ("/api/door/", "/api/tablet/")
_OURS = ("/api/", "/openapi.json", "/docs")


class Guard:
    """Lets in whoever has a session, and those who need none; all without a `door` (this machine only)."""

    def __init__(self, app: ASGIApp, door: Door | None, clock: Callable[[], datetime]) -> None:
        self._app, self._door, self._clock = app, door, clock
        self._rates, self._teachers_rates = Rates(), Rates(TEACHERS_A_SECOND, TEACHERS_AT_ONCE)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer that the passphrase is wanted, or let in."""
        refused = None if scope["type"] != "http" or self._door is None else self._refused(scope, self._door)
        await (refused or self._app)(scope, receive, send)

    def _refused(self, scope: Scope, door: Door) -> JSONResponse | None:
        asker, path, at = HTTPConnection(scope), scope["path"], self._clock()
        if path.startswith(_OPEN):
            who = asker.headers.get("authorization") or (asker.client.host if asker.client else "")
            fine = self._rates.may(who, at.timestamp())
        elif path.startswith(_OURS):
            session = asker.cookies.get(SESSION_COOKIE)
            if session is None or not door.is_open_to(session, at):
                return JSONResponse({"detail": SAY_IT}, 401)
            fine = self._teachers_rates.may(session, at.timestamp())
        else:
            fine = True  # the page itself
        return None if fine else JSONResponse({"detail": TOO_OFTEN}, 429, {"Retry-After": "1"})
