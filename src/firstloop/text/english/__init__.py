"""The English catalogue. A file a subject; together they are every sentence of the product."""

from __future__ import annotations

from firstloop.text.catalogue import Catalogue, Entry
from firstloop.text.english.bank import BANK
from firstloop.text.english.differences import DIFFERENCES
from firstloop.text.english.families import FAMILIES
from firstloop.text.english.findings import FINDINGS, WORDS
from firstloop.text.english.home import HOME
from firstloop.text.english.movement import HEIGHTS, MOVES
from firstloop.text.english.plan import PLAN
from firstloop.text.english.progress import PROGRESS
from firstloop.text.english.report import REPORT
from firstloop.text.english.room import ROOM
from firstloop.text.english.scans import SCANS
from firstloop.text.english.sheets import SHEETS
from firstloop.text.english.styles import STYLES


def _plural(number: float) -> str:
    return "one" if number == 1 else "other"


def _entries() -> dict[str, Entry]:
    out: dict[str, Entry] = {}
    for code, finding in FINDINGS.items():
        out |= {f"finding.{code}.{name}": entry for name, entry in finding.items()}
    for key, (text, short) in MOVES.items():
        out |= {f"move.{key}.text": text, f"move.{key}.short": short}
    for key, (noun, at) in HEIGHTS.items():
        out |= {f"height.{key}": noun, f"at.{key}": at}
    return (
        out
        | WORDS
        | FAMILIES
        | STYLES
        | PROGRESS
        | REPORT
        | HOME
        | DIFFERENCES
        | BANK
        | PLAN
        | SHEETS
        | SCANS
        | ROOM
    )


ENGLISH = Catalogue("en", _entries(), _plural)
