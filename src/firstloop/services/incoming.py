"""Files with pictures on their way in: safe on the disk before they are in the records.

A file lies under the number that it has in the records, until all its pictures are read. Then it goes: what
else it said (of the place where it was taken, above all) is kept nowhere.
"""

from __future__ import annotations

import hashlib
import logging
import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import IO
from uuid import uuid4

from sqlalchemy.orm import Session

from firstloop.formats.pictures import MEGABYTES
from firstloop.services import page_pile
from firstloop.store import pages as store
from firstloop.store.errors import ConflictError
from firstloop.store.places import incoming_folder

log = logging.getLogger(__name__)

GONE = "the file is not there any more; bring it in once more"
_PART = ".part"
_CHUNK = 1 << 20
_NAME_MOST = 120
_UNFINISHED = (".part", ".tmp", ".crdownload", ".partial")


@dataclass(frozen=True)
class Brought:
    """A file that was brought in."""

    id: int
    name: str


def path_of(data_dir: Path, file_id: int) -> Path:
    """Where a file lies."""
    return incoming_folder(data_dir) / str(file_id)


@contextmanager
def coming_in(data_dir: Path) -> Iterator[IO[bytes]]:
    """A file to be written to as it comes in; gone at the end unless it was put in its place."""
    part = incoming_folder(data_dir) / f"{uuid4().hex}{_PART}"
    try:
        with part.open("w+b") as file:
            yield file
    finally:
        part.unlink(missing_ok=True)


def bring_in(
    session: Session, class_id: int | None, name: str, file: IO[bytes], data_dir: Path, at: datetime
) -> Brought:
    """Take in a file that came in whole (see :func:`coming_in`): once this is done nothing loses it.

    Raises
    ------
    NotFoundError
    ConflictError
        If this very file is here already, or there is nothing in it.
    """
    file.flush()
    os.fsync(file.fileno())
    if not file.tell():
        raise ConflictError("There is nothing in this file.")
    file.seek(0)
    digest = hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]  # any that is read
    made = page_pile.bring(session, class_id, Path(name).name[:_NAME_MOST] or "picture", digest, at)
    Path(file.name).replace(path_of(data_dir, made.id))
    session.commit()
    return Brought(made.id, made.name)


def let_go(data_dir: Path, file_id: int) -> None:
    """The file itself is not needed any more."""
    path_of(data_dir, file_id).unlink(missing_ok=True)


def clear_up(session: Session, data_dir: Path) -> int:
    """Let go of what a kill left: parts of files, and files that are read or in no records; of how many."""
    gone = 0
    for one in incoming_folder(data_dir).iterdir():
        if not one.name.isdigit() or not store.is_needed(session, int(one.name)):
            one.unlink(missing_ok=True)
            gone += 1
    return gone


def fetch(
    session: Session,
    folder: Path,
    data_dir: Path,
    at: datetime,
    seen: dict[Path, tuple[int, float]],
) -> int:
    """Move what a scanner has finished writing from its folder into the records; how many files.

    A file is finished once it has stayed as it is from one look to the next.

    Parameters
    ----------
    seen : dict
        Size and time of every file at the look before; brought up to date here.
    """
    if not folder.is_dir():
        return 0
    found = {one: _state(one) for one in sorted(folder.iterdir()) if _is_picture(one)}
    taken = 0
    for path, state in found.items():
        if state is None or seen.get(path) != state or not 0 < state[0] <= MEGABYTES * 1_000_000:
            continue
        try:
            with path.open("rb") as source, coming_in(data_dir) as part:
                while piece := source.read(_CHUNK):
                    part.write(piece)
                bring_in(session, None, path.name, part, data_dir, at)
        except ConflictError:  # it is here already
            session.rollback()
        except OSError as problem:
            log.warning("a file in the scanner's folder could not be taken in: %s", problem.strerror)
            session.rollback()
            continue
        with suppress(OSError):
            path.unlink()
        taken += 1
    seen.clear()
    seen.update({path: state for path, state in found.items() if state is not None})
    return taken


def _is_picture(path: Path) -> bool:
    return path.is_file() and not path.name.startswith(".") and path.suffix.lower() not in _UNFINISHED


def _state(path: Path) -> tuple[int, float] | None:
    try:
        known = path.stat()
    except OSError:
        return None
    return known.st_size, known.st_mtime
