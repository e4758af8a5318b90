"""Everything that a room of tablets needs while First Loop runs, in one hand: who is here, who waits for
news, what is to be judged, and at which addresses tablets come in.
"""

from __future__ import annotations

import asyncio
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from firstloop.api.server.behind import Behind
from firstloop.api.server.news import News
from firstloop.services import rows, written_words
from firstloop.services.door import Slowing
from firstloop.services.judging import Judge
from firstloop.services.presence import Presence
from firstloop.services.room_views import Outlook
from firstloop.store import written as word_store


@dataclass(frozen=True)
class RoomOffice:
    """What leads a room. ``judge`` is asked for at the moment it is needed: a test may put in another.

    Who looks on goes ``one_by_one``: when thirty are told at once, no letter waits for thirty pages.
    """

    presence: Presence
    news: News
    behind: Behind
    guesses: Slowing
    addresses: tuple[str, ...]
    one_by_one: asyncio.Semaphore
    judge: Callable[[], Judge]

    def outlook(self, at: datetime) -> Outlook:
        """What a view of a room depends on beside the records."""
        return Outlook(at, self.presence, self.addresses)

    def tell_room(self, class_id: int, child_ids: Iterable[int] = ()) -> None:
        """The teacher's screen is out of date: for some children, or else as a whole."""
        changed = [child_subject(one) for one in child_ids]
        self.news.tell(*changed or [whole_subject(class_id)], class_subject(class_id))

    def tell_tablets(self, tablet_ids: Iterable[int]) -> None:
        """These tablets are to ask again."""
        self.news.tell(*[tablet_subject(one) for one in tablet_ids])

    def see_to_attempt(self, attempt_id: int, class_id: int, child_id: int) -> None:
        """Have an attempt judged that is kept, then tell the teacher's screen."""

        def work(session: Session) -> None:
            rows.see_to_kept(session, attempt_id, self.judge())
            self.tell_room(class_id, [child_id])

        self.tell_room(class_id, [child_id])  # the ink first
        self.behind.add(work)

    def see_to_word(self, word_id: int, class_id: int, child_id: int) -> None:
        """As :meth:`see_to_attempt`."""

        def work(session: Session) -> None:
            written_words.see_to(session, word_store.get_word(session, word_id), self.judge())
            self.tell_room(class_id, [child_id])

        self.tell_room(class_id, [child_id])
        self.behind.add(work)


def tablet_subject(tablet_id: int) -> str:
    """What a tablet waits for."""
    return f"tablet {tablet_id}"


def class_subject(class_id: int) -> str:
    """What the teacher's screen waits for."""
    return f"class {class_id}"


def whole_subject(class_id: int) -> str:
    """Grows when the whole room is to be looked at anew."""
    return f"room {class_id}"


def child_subject(child_id: int) -> str:
    """Grows when one child's line is."""
    return f"child {child_id}"
