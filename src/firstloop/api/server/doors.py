"""Who may come in: this machine by its own names, and no page of another site.

Any page that the teacher has open can send requests to an address of her own machine. Two signs tell it
from ours: the Host it asked for (a name of another's, made to point here) and where the browser says the
asking page is from (Origin, Sec-Fetch-Site). Both are looked at before anything else is. Programs that are
no browsers send neither and are let in: on this machine they can read the file as well.
"""

from __future__ import annotations

import logging
import re
import secrets
from collections.abc import Iterable
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

log = logging.getLogger(__name__)

LOOPBACK = frozenset({"localhost", "127.0.0.1", "::1"})
_READING = frozenset({"GET", "HEAD", "OPTIONS"})
_OURS = frozenset({"same-origin", "none"})  # none: typed, or a bookmark
_HOST = re.compile(r"(?:\[(?P<six>[0-9a-fA-F:.]+)\]|(?P<name>[^:\[\]]+))(?::\d{1,5})?\Z")

NOT_THIS_MACHINE = (
    "First Loop answers only to the addresses it was started on. Nothing was read or changed. "
    "Open it at the address that it named when it started."
)
ANOTHER_SITE = "A page of another site asked for this, so it was not done. Nothing was read or changed."
BROKEN = (
    "First Loop could not do this; the fault is its own. What was kept before is safe, and what is on the "
    "paper stays there until it has been kept. Try once more."
)

_POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data: blob:; "
    "font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; "
    "frame-ancestors 'none'"
)
_ALWAYS = {
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), microphone=(), geolocation=(), payment=(), usb=()",
}


def host_name(host: str | None) -> str | None:
    """The name or address in a Host header, without its port; None where it is none.

    >>> host_name("[::1]:8000"), host_name("LOCALHOST"), host_name("a:b:c")
    ('::1', 'localhost', None)
    """
    found = _HOST.match(host or "")
    return None if found is None else (found["six"] or found["name"]).lower()


def asked_from_elsewhere(headers: Headers) -> bool:
    """Whether the browser says that a page of another site asks."""
    site = headers.get("sec-fetch-site")
    if site is not None and site not in _OURS:
        return True
    origin = headers.get("origin")
    return origin is not None and urlsplit(origin).netloc.lower() != (headers.get("host") or "").lower()


class Doors:
    """Turns strangers away, says on every answer what a browser may do with it, and hides what broke.

    Parameters
    ----------
    listens_on : iterable of str
        Addresses beside the loopback names that this machine was started to listen on.
    """

    def __init__(self, app: ASGIApp, listens_on: Iterable[str] = ()) -> None:
        self.app = app
        self.names = LOOPBACK | {name.lower() for name in listens_on}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, or let in."""
        if scope["type"] != "http":
            if scope["type"] == "lifespan":
                await self.app(scope, receive, send)
            return  # there is no door of another kind
        headers, begun = Headers(scope=scope), False
        nonce = scope.setdefault("state", {})["nonce"] = secrets.token_urlsafe(16)

        async def labelled(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                answer = MutableHeaders(scope=message)
                answer["Content-Security-Policy"] = _POLICY.format(nonce=nonce)
                answer.update(_ALWAYS)
                if scope["path"].startswith("/api/"):
                    answer.setdefault("Cache-Control", "no-store")
            await send(message)

        refused = self._refused(scope, headers)
        if refused is not None:
            await refused(scope, receive, labelled)
            return
        # how much comes is counted; believed, this header would be answered in plain text and not in JSON
        scope["headers"] = [header for header in scope["headers"] if header[0] != b"content-length"]
        try:
            await self.app(scope, receive, labelled)
        except Exception:
            log.exception("%s %s broke", scope["method"], scope["path"])
            if begun:
                raise
            await JSONResponse({"detail": BROKEN}, 500)(scope, receive, labelled)

    def _refused(self, scope: Scope, headers: Headers) -> JSONResponse | None:
        if host_name(headers.get("host")) not in self.names:
            return JSONResponse({"detail": NOT_THIS_MACHINE}, 421)
        guarded = scope["method"] not in _READING or scope["path"].startswith("/api/")
        if guarded and asked_from_elsewhere(headers):
            return JSONResponse({"detail": ANOTHER_SITE}, 403)
        return None
