"""Backups that are closed with a passphrase."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path
from tempfile import TemporaryFile

from firstloop.formats.sealed import seal
from firstloop.store.backup import Contents, backup


def sealed_backup(database: Path, target: Path, passphrase: str, at: datetime) -> Contents:
    """Write everything in the records to one file that only its passphrase opens, whole or not at all.

    Raises
    ------
    SealedError
        If there is too much.
    OSError
    """
    making = target.with_name(target.name + ".making")
    try:
        with TemporaryFile(dir=target.parent) as plain, making.open("wb") as out:
            made = backup(database, plain, at)
            plain.seek(0)
            seal(plain, out, passphrase)
        making.replace(target)
    finally:
        making.unlink(missing_ok=True)
    return made
