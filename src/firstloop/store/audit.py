"""Who did what, and when: lines at the end of a file beside the records, a file a month.

It is no part of the records: a restore does not undo it, and no backup carries it away. It names children by
their numbers only, so that nothing in it has to be erased with a child.
"""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

KEPT = timedelta(days=400)
_OWN = 0o600


@dataclass(frozen=True)
class AuditEntry:
    """One thing that was done. ``who`` is "teacher" or "tablet 7", ``verb`` and ``what`` are short keys."""

    at: datetime
    who: str
    verb: str
    what: str
    child_id: int | None = None
    class_id: int | None = None


def _folder(data_dir: Path) -> Path:
    folder = data_dir / "audit"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def note(data_dir: Path, entry: AuditEntry) -> None:
    """Write one line; two processes that write at once do not mix theirs.

    Raises
    ------
    OSError
    """
    at = entry.at.astimezone(UTC)
    line = json.dumps({**asdict(entry), "at": at.isoformat()}) + "\n"
    handle = os.open(_folder(data_dir) / f"{at:%Y-%m}.jsonl", os.O_WRONLY | os.O_APPEND | os.O_CREAT, _OWN)
    try:
        os.write(handle, line.encode())
    finally:
        os.close(handle)


def entries(data_dir: Path) -> Iterator[AuditEntry]:
    """Everything that was noted, latest first; a line that a full disk cut short is passed over."""
    for file in sorted((data_dir / "audit").glob("????-??.jsonl"), reverse=True):
        for line in reversed(file.read_text(encoding="utf-8", errors="replace").splitlines()):
            try:
                fields = json.loads(line)
                yield AuditEntry(**{**fields, "at": datetime.fromisoformat(fields["at"])})
            except (KeyError, TypeError, ValueError):
                continue


def forget_the_old(data_dir: Path, at: datetime) -> int:
    """Let go of whole months that are over for 400 days; how many."""
    oldest = f"{at - KEPT:%Y-%m}"
    old = [one for one in (data_dir / "audit").glob("????-??.jsonl") if one.stem < oldest]
    for one in old:
        one.unlink(missing_ok=True)
    return len(old)
