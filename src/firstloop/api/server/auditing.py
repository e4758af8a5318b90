"""Notes who did what, once it is done: changes, exports, and the opening of a child's page.

Letters as they come from tablets are not noted one by one: they are in the records themselves.
"""

from __future__ import annotations

import logging
import re
from collections import OrderedDict
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from fastapi.concurrency import run_in_threadpool
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from firstloop.services import audit
from firstloop.store.audit import AuditEntry, note

log = logging.getLogger(__name__)

_NUMBER = re.compile(r"[0-9]{1,18}")
_OPENED = {"get_story"}
_EXPORTED = {"get_backup", "make_sealed_backup", "export_ink", "get_report", "get_export", "get_class_list"}
_ERASED = {"erase_child", "forget_child"}
_INK = {"add_attempt", "write_word", "send_attempt", "send_word", "choose_best", "show_under_pen"}
_ONLY_LOOKS = re.compile(r"(look_at|draw|lay|propose|preview|check|read|join|leave|take_name|enter)(_|\Z)")
_TOO_OFTEN = timedelta(minutes=10)  # the same thing is not noted again within so long
_KNOWN_MOST = 500
_DONE = range(200, 400)


class Auditing:
    """Notes what was done, and lets nobody wait for it; a note that cannot be written is logged."""

    def __init__(self, app: ASGIApp, data_dir: Path, sessions: Any, clock: Callable[[], datetime]) -> None:
        self._app, self._data_dir, self._sessions, self._clock = app, data_dir, sessions, clock
        self._lately: OrderedDict[tuple[Any, ...], datetime] = OrderedDict()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Have it done, then note it."""
        status = 0

        async def seen(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
            await send(message)

        await self._app(scope, receive, seen)
        route = scope.get("route")
        verb = None if status not in _DONE else _verb(scope, getattr(route, "name", ""))
        if verb is not None:
            await run_in_threadpool(self._note, verb, route, dict(scope.get("path_params", {})))

    def _note(self, verb: str, route: Any, params: dict[str, Any]) -> None:
        about = {name: int(value) for name, value in params.items() if _NUMBER.fullmatch(str(value))}
        what, at = (getattr(route, "tags", None) or ["records"])[0], self._clock()
        try:
            with self._sessions() as session:
                child_id, class_id = audit.whose(session, about)
            if self._is_new((verb, what, child_id, class_id), at):
                note(self._data_dir, AuditEntry(at, "teacher", verb, what, child_id, class_id))
        except Exception:  # what was done is done
            log.exception("what was done could not be noted")

    def _is_new(self, key: tuple[Any, ...], at: datetime) -> bool:
        last = self._lately.get(key)
        if last is not None and at - last < _TOO_OFTEN:
            return False
        self._lately.pop(key, None)
        self._lately[key] = at
        while len(self._lately) > _KNOWN_MOST:
            self._lately.popitem(last=False)
        return True


def _verb(scope: Scope, name: str) -> str | None:
    """What was done, in one word; None for what is not noted."""
    if name in _EXPORTED:
        return "exported"
    if name in _OPENED:
        return "opened"
    if name in _ERASED:
        return "erased"
    reads = scope["method"] in ("GET", "HEAD", "OPTIONS") or _ONLY_LOOKS.match(name)
    return None if reads or not name or name in _INK else "changed"
