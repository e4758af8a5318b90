"""Judging ink files, nothing kept: the document ``first-loop-check/1``."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.ink import InkError
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, StyleError
from firstloop.formats.check_json import group_document
from firstloop.formats.inkml import read_inkml
from firstloop.formats.style_json import read_style
from firstloop.services.results import GroupView, group_view


@dataclass(frozen=True)
class CheckDocument:
    """The document of a check, format ``first-loop-check/1``."""

    checker: str
    groups: list[GroupView]
    format: Literal["first-loop-check/1"] = "first-loop-check/1"


def check_file(data: bytes, level: Level = Level.GROWING, style: HouseStyle | None = None) -> CheckDocument:
    """Read an InkML file, judge all its groups, and give the document.

    Raises
    ------
    InkMLError
        If the file cannot be read.
    """
    found = []
    for ink in read_inkml(data):
        result = check_group(ink, style or DEFAULT_STYLE, level)
        found.append(group_view(group_document(result, ink.ruling), ink.ruling.xh_mm))
    return CheckDocument(CHECKER_VERSION, found)


def ink_files(paths: Sequence[Path]) -> list[Path]:
    """The files named, and the InkML files in the folders named, in order."""
    return [file for path in paths for file in (sorted(path.rglob("*.inkml")) if path.is_dir() else [path])]


def check_many(
    files: Sequence[Path], level: str, style: bytes | None, workers: int
) -> Iterator[CheckDocument | str]:
    """Judge many files, in several processes where there are many; in the order given.

    Yields
    ------
    The document of a file, or in words why it could not be judged.
    """
    todo = [(file, level, style) for file in files]
    if len(todo) < 2 or workers == 1:
        yield from map(_judged, todo)
        return
    with ProcessPoolExecutor(min(workers, len(todo))) as pool:
        yield from pool.map(_judged, todo)


def _judged(task: tuple[Path, str, bytes | None]) -> CheckDocument | str:
    file, level, style = task
    try:
        return check_file(file.read_bytes(), Level(level), None if style is None else read_style(style))
    except (InkError, StyleError) as problem:
        return f"{problem}".replace("\n", " ")
    except OSError as problem:
        return f"{problem.filename}: {problem.strerror}"
