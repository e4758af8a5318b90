"""The room full of tablets: what is handed out, what to know just now, and who did what to the records."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

_OF = {  # by the tag of the door
    "about": "the demo school",
    "bank": "the word bank",
    "check": "an ink file",
    "children": "the record",
    "classes": "the class",
    "dictations": "a dictation",
    "door": "the passphrase",
    "families": "the families of letters",
    "house styles": "the house style",
    "letters": "the letters",
    "pages": "pages that came back",
    "plan": "the plan",
    "records": "the records as a whole",
    "room": "the room of tablets",
    "rows": "rows of letters",
    "sheets": "sheets",
    "tablet": "a tablet",
    "watched": "what was watched",
    "word bank": "the word bank",
    "words": "words",
    "written": "written words",
}

ROOM: dict[str, Entry] = {
    "room.row": "a row of {letter}",
    "room.words": "{text}",
    "room.heard": "the word they hear, {text}",
    "room.own": "each child its own",
    "room.nothing": "nothing handed out",
    **{f"audit.of.{tag}": what for tag, what in _OF.items()},
    "audit.teacher": "The teacher",
    "audit.opened": "opened",
    "audit.changed": "changed",
    "audit.exported": "took out",
    "audit.erased": "erased",
    "audit.says": "{who} {verb} {what} · {of}",
    "audit.says-all": "{who} {verb} {what}",
    "audit.erased-child": "a child that is erased (number {number})",
    "room.just-now": "{names} just now: {slip}",
}
