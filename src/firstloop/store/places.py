"""The folders beside the records: where backups are kept, and where work is done that a kill may end."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from filelock import FileLock, Timeout

_WORK = "work-"


def backups_folder(data_dir: Path) -> Path:
    """Where the files are kept that hold what a restore or an upgrade replaced."""
    folder = data_dir / "backups"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def incoming_folder(data_dir: Path) -> Path:
    """Where files with pictures of pages lie, each under its number, until they are read."""
    folder = data_dir / "incoming"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def new_name(folder: Path, what: str, at: datetime, suffix: str) -> Path:
    """A file in `folder` that is not there yet; it is made (empty), so that nobody else gets the name."""
    stem = f"{what}-{at.astimezone(UTC):%Y%m%d-%H%M%S}"
    for number in range(1, 1000):
        path = folder / f"{stem}{'' if number == 1 else f'-{number}'}{suffix}"
        try:
            path.touch(exist_ok=False)
        except FileExistsError:
            continue
        return path
    raise FileExistsError(f"there are a thousand files called {stem}")


@contextmanager
def work_folder(data_dir: Path) -> Iterator[Path]:
    """A folder to work in, gone at the end; one that a kill leaves is cleared away at the next start."""
    data_dir.mkdir(parents=True, exist_ok=True)
    with (
        tempfile.TemporaryDirectory(prefix=_WORK, dir=data_dir, ignore_cleanup_errors=True) as name,
        FileLock(Path(name) / "lock"),
    ):
        yield Path(name)


def clear_left_over(data_dir: Path) -> int:
    """Clear away the folders of work that was killed, and files it began; returns how many there were."""
    cleared = 0
    backups = data_dir / "backups"
    for file in (*backups.glob("*.making"), *backups.glob("before-restore-*.zip")):
        if file.suffix == ".making" or file.stat().st_size == 0:
            file.unlink(missing_ok=True)
            cleared += 1
    for folder in data_dir.glob(f"{_WORK}*"):
        try:
            with FileLock(folder / "lock", timeout=0):
                cleared += 1
        except Timeout:
            continue  # somebody is at work in it
        shutil.rmtree(folder, ignore_errors=True)
    return cleared


def one_server(data_dir: Path) -> FileLock:
    """What a First Loop holds as long as it serves these records, or puts others in their place."""
    data_dir.mkdir(parents=True, exist_ok=True)
    return FileLock(data_dir / "in-use.lock", timeout=0)
