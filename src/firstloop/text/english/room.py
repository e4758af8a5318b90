"""The room full of tablets: what is handed out, and what the teacher should know just now."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

ROOM: dict[str, Entry] = {
    "room.row": "a row of {letter}",
    "room.words": "{text}",
    "room.heard": "a word they hear",
    "room.own": "each child its own",
    "room.nothing": "nothing handed out",
    "room.just-now": "{names} just now: {slip}",
}
