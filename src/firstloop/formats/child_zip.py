"""One child in one file: everything to read (PDF, CSV, InkML) and everything to take in again (JSON)."""

from __future__ import annotations

import zipfile
from collections.abc import Callable, Mapping, Sequence
from datetime import date, datetime
from io import BytesIO
from typing import Any

import orjson

from firstloop.formats.old_results import without_sentences
from firstloop.formats.spreadsheet import spreadsheet
from firstloop.formats.zips import UNREADABLE_ZIP

FORMAT = "first-loop-child"
VERSION = 2
_WITH_SENTENCES = 1  # results had their sentences in them
UNPACKED_MOST = 400_000_000  # bytes; a child's ten years of ink are a fraction of that
PAGE_MOST = 20_000_000
_RECORDS = "records.json"


class ChildFileError(ValueError):
    """A file that is no child's records, or cannot be read; the message says why."""


def letters_csv(rows: Sequence[Mapping[str, Any]], day: Callable[[datetime], date]) -> str:
    """One line for every letter written: when, how, and what was said of it.

    Parameters
    ----------
    day : callable
        The day that a moment belongs to, where the child writes.
    """
    lines: list[list[object]] = [["day", "letter", "number", "support", "crossed out", "checker", "mark"]]
    for row in rows:
        for one in row["attempts"]:
            current = next((result["verdict"] for result in one["results"] if result["current"]), "")
            mark = one["mark"]["verdict"] if one["mark"] else ""
            crossed = "yes" if one["crossed_out"] else ""
            number = one["position"] + 1
            lines.append(
                [day(row["started_at"]), row["letter"], number, one["support"], crossed, current, mark]
            )
    return spreadsheet(lines)


def write_child(
    records: Mapping[str, Any], inkml: bytes, report: bytes, day: Callable[[datetime], date]
) -> bytes:
    """Pack a child; `day` as in :func:`letters_csv`."""
    pages, pictures = _apart(records.get("pages", []))
    document = {"format": FORMAT, "version": VERSION, **records, "pages": pages}
    files = {
        _RECORDS: orjson.dumps(document),
        **pictures,
        "ink.inkml": inkml,
        "letters.csv": letters_csv(records["rows"], day).encode(),
        "report.pdf": report,
        "READ ME.txt": _READ_ME.encode(),
    }
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, data in files.items():
            packed.writestr(name, data)
    return out.getvalue()


def _apart(pages: Sequence[Mapping[str, Any]]) -> tuple[list[dict[str, Any]], dict[str, bytes]]:
    """Pages that came back without their pictures, which are files of their own; and these files."""
    named = [
        (page, None if page["straight"] is None else f"pages/{number}.jpg")
        for number, page in enumerate(pages, start=1)
    ]
    pictures = {name: page["straight"] for page, name in named if name is not None}
    return [{**page, "straight": name} for page, name in named], pictures


def _together(packed: zipfile.ZipFile, document: dict[str, Any]) -> None:
    """Pages with their pictures again."""
    for page in document.get("pages", []):
        if page.get("straight") is not None:
            size = packed.getinfo(page["straight"]).file_size
            if size > PAGE_MOST:
                raise ChildFileError("The picture of a page in the file is too large.")
            page["straight"] = packed.read(page["straight"])


def read_child(data: bytes) -> dict[str, Any]:
    """Unpack the records of a child; the caller checks what is in them.

    Raises
    ------
    ChildFileError
        If it is no such file, was made by a later version, or unpacks to more than is sensible.
    """
    try:
        with zipfile.ZipFile(BytesIO(data)) as packed:
            size = packed.getinfo(_RECORDS).file_size
            document = orjson.loads(packed.read(_RECORDS)) if size <= UNPACKED_MOST else None
            if isinstance(document, dict):
                _together(packed, document)
    except UNREADABLE_ZIP as problem:
        raise ChildFileError("This is no file of a child's records from First Loop, or it is damaged.") from (
            problem
        )
    if size > UNPACKED_MOST:
        raise ChildFileError("The file is too large to be one child's records.")
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise ChildFileError("This is no file of a child's records from First Loop.")
    if document.get("version") == _WITH_SENTENCES:
        without_sentences(document)
    elif document.get("version") != VERSION:
        raise ChildFileError("The file was made by a later First Loop; bring this one up to date first.")
    return {**document, "version": VERSION}


_READ_ME = """What is in here, all of one child:

report.pdf    a page for a parent and a page with figures
letters.csv   every letter written, for a spreadsheet
ink.inkml     all ink as the pen gave it (InkML, millimetres)
pages         pages of paper that came back, made straight (JPEG)
records.json  everything, to be taken into another First Loop

These are a child's records. The school's own data-protection and safeguarding rules apply to them.
"""
