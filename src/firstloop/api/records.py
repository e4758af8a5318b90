"""Care of records: one child out and in, everything out and in, last year's classes put away."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal, Self

from pydantic import (
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Field,
    ValidationError,
    field_validator,
    model_validator,
)
from sqlalchemy.orm import Session

from firstloop.api.report import child_report
from firstloop.api.schemas import HandName, LevelName, MarkVerdict, SeenName, StrokeInk, Support, Verdict
from firstloop.api.settling import settle_all
from firstloop.api.writing import row_groups
from firstloop.api.written import word_group
from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.letterforms.document import style_from
from firstloop.core.ruling import Ruling
from firstloop.formats.child_zip import ChildFileError, read_child, write_child
from firstloop.formats.inkml import write_inkml
from firstloop.store import records as store
from firstloop.store.backup import Contents
from firstloop.store.classes import get_child, get_class
from firstloop.store.tables import Child


class _Kept(BaseModel):
    """Part of a child's file: exactly these fields, or it is refused."""

    model_config = ConfigDict(extra="forbid")


class _Result(_Kept):
    checker: str = Field(max_length=20)
    level: LevelName
    verdict: Verdict
    document: dict[str, Any]
    error: str | None
    current: bool


class _Mark(_Kept):
    verdict: MarkVerdict
    made_at: AwareDatetime


class _Attempt(_Kept):
    key: str = Field(min_length=8, max_length=40)
    position: int = Field(ge=0, le=10_000)
    support: Support
    written_at: AwareDatetime
    ink: list[StrokeInk] = Field(min_length=1)
    crossed_out: bool
    best: bool
    teachers_best: bool
    mark: _Mark | None
    results: list[_Result]


class _OnLines(_Kept):
    ruling: str = Field(max_length=30)
    rise_mm: float
    mid_mm: float
    base_mm: float
    drop_mm: float

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        Ruling(self.mid_mm, self.base_mm, self.rise_mm, self.drop_mm)
        return self


class _Row(_OnLines):
    letter: str = Field(min_length=1, max_length=1)
    started_at: AwareDatetime
    finished_at: AwareDatetime | None
    support: list[Support]
    next_code: str | None
    style: int
    attempts: list[_Attempt]

    @field_validator("letter")
    @classmethod
    def _drawn(cls, char: str) -> str:
        if char not in EVERY:
            raise ValueError(f"the house has no {char!r}")
        return char


class _Said(_Kept):
    checker: str = Field(max_length=20)
    level: LevelName
    document: dict[str, Any]
    measures: dict[str, float]
    error: str | None


class _Word(_OnLines):
    text: str = Field(min_length=2, max_length=40)
    started_at: AwareDatetime
    style: int
    ink: list[StrokeInk] = Field(min_length=1)
    crossed_out: bool
    checker: str | None = Field(max_length=20)
    level: LevelName | None
    document: dict[str, Any]
    measures: dict[str, float]
    error: str | None
    earlier: list[_Said]
    looked_at: AwareDatetime | None = None  # files from before words were looked at lack it


class _Style(_Kept):
    name: str = Field(max_length=80)
    version: int
    document: dict[str, Any]

    @field_validator("document")
    @classmethod
    def _readable(cls, document: dict[str, Any]) -> dict[str, Any]:
        style_from(document)
        return document


class _Watched(_Kept):
    letter: str = Field(min_length=1, max_length=1)
    seen: SeenName
    at: AwareDatetime


class _Note(_Kept):
    at: AwareDatetime
    text: str = Field(max_length=2000)


class _Child(_Kept):
    first_name: str = Field(min_length=1, max_length=40)
    initial: str = Field(min_length=1, max_length=1)
    hand: HandName
    level: LevelName | None
    caution: str = Field(max_length=400)


class ChildFile(_Kept):
    """The records of one child, as they go from one First Loop to another."""

    format: Literal["first-loop-child"]
    version: Literal[1]
    child: _Child
    styles: dict[str, _Style]
    rows: list[_Row]
    words: list[_Word] = []  # files from before words were written have none
    watched: list[_Watched]
    notes: list[_Note]


class CountsOut(BaseModel):
    """How much there is."""

    classes: int
    children: int
    rows: int
    attempts: int


class BackupOut(CountsOut):
    """What a backup holds, and when it was made."""

    made_at: datetime


class RestoredOut(BaseModel):
    """What was put in place, and the file in the folder backups that holds what was there before."""

    now: BackupOut
    aside: str


def backup_out(contents: Contents) -> BackupOut:
    """For the wire."""
    return BackupOut.model_validate(contents, from_attributes=True)


def child_name(child: Child) -> str:
    """For a file's name."""
    return f"{child.first_name}-{child.initial}"


def export_child(session: Session, child_id: int, at: datetime) -> bytes:
    """Everything of one child in one file.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    groups = [group for row in store.rows_of(session, child_id) for group in row_groups(row)]
    groups += [word_group(word) for word in child.words if word.ink]
    report = child_report(session, child_id, at.date())
    return write_child(store.child_records(session, child), write_inkml(groups), report)


def import_child(session: Session, class_id: int, data: bytes, at: datetime) -> Child:
    """Take a child from another First Loop into a class; all of it or nothing.

    Raises
    ------
    NotFoundError
        If there is no such class.
    ChildFileError
        If the file cannot be read, or holds what First Loop would not have written.
    ConflictError
        If the class has a child of that name, or the ink is here already.
    """
    into = get_class(session, class_id)
    try:
        given = ChildFile.model_validate(read_child(data))
    except ValidationError as problem:
        first = problem.errors()[0]
        where = " ".join(str(part) for part in first["loc"])
        raise ChildFileError(
            f"The file does not hold together at {where}: {first['msg']}. Nothing was taken in."
        ) from problem
    wanted = [*(row.style for row in given.rows), *(word.style for word in given.words)]
    missing = {str(style) for style in wanted} - set(given.styles)
    if missing:
        raise ChildFileError("The file lacks the house style of some writing. Nothing was taken in.")
    document = given.model_dump()
    for row, kept in zip(document["rows"], given.rows, strict=True):
        for attempt, one in zip(row["attempts"], kept.attempts, strict=True):
            attempt["ink"] = [stroke.model_dump(exclude_none=True) for stroke in one.ink]
    for word, kept_word in zip(document["words"], given.words, strict=True):
        word["ink"] = [stroke.model_dump(exclude_none=True) for stroke in kept_word.ink]
    child = store.add_child_records(session, into, document, at)
    settle_all(session, child.id)
    return child
