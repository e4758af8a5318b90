"""Care of records: one child out and in, everything out and in, last year's classes put away."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Annotated, Any, Literal, Self

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Field,
    ValidationError,
    ValidationInfo,
    field_validator,
    model_validator,
)
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from firstloop.api.report import child_report
from firstloop.api.schemas import (
    ChildOut,
    FirstName,
    Given,
    GroupOut,
    HandName,
    Initial,
    LetterOut,
    LevelName,
    MarkVerdict,
    SeenName,
    Strokes,
    Support,
    Verdict,
    WordStrokes,
    seen_characters,
)
from firstloop.api.settling import settle_all
from firstloop.api.writing import row_groups
from firstloop.api.written import word_group
from firstloop.core.check.codes import CODES
from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.letterforms.document import style_from
from firstloop.core.ruling import Ruling
from firstloop.formats.child_zip import ChildFileError, read_child, write_child
from firstloop.formats.inkml import write_inkml
from firstloop.store import records as store
from firstloop.store.backup import Contents
from firstloop.store.classes import get_child, get_class
from firstloop.store.database import open_engine, sessions
from firstloop.store.school import school_time
from firstloop.store.tables import Child

EARLIEST = datetime(1990, 1, 1, tzinfo=UTC)
_AHEAD = timedelta(days=1)  # how far the clock of another machine may be ahead


def _sensible(at: datetime, info: ValidationInfo) -> datetime:
    """A moment of teaching: not before there was such a thing, nor later than now."""
    latest = (info.context or {}).get("now", at) + _AHEAD
    if not EARLIEST <= at <= latest:
        raise ValueError("this is no day on which a child wrote")
    return at


When = Annotated[AwareDatetime, AfterValidator(_sensible)]


class _Kept(BaseModel):
    """Part of a child's file: exactly these fields, or it is refused."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


def _letter_document(document: dict[str, Any]) -> dict[str, Any]:
    """What a checker said of a letter, or nothing: kept as it came once it has been found to be that."""
    if document:
        LetterOut.model_validate(document)
        if unknown := {one["code"] for one in document["findings"]} - set(CODES):
            raise ValueError(f"there is no finding {sorted(unknown)[0]!r:.40}")
    return document


def _word_document(document: dict[str, Any]) -> dict[str, Any]:
    if document:
        GroupOut.model_validate(document)
    return document


class _Result(_Kept):
    checker: str = Field(max_length=20)
    level: LevelName
    verdict: Verdict
    document: Annotated[dict[str, Any], AfterValidator(_letter_document)]
    error: str | None = Field(max_length=1000)
    current: bool


class _Mark(_Kept):
    verdict: MarkVerdict
    made_at: When


class _Attempt(_Kept):
    key: str = Field(min_length=8, max_length=40)
    position: int = Field(ge=0, le=10_000)
    support: Support
    written_at: When
    ink: Strokes
    crossed_out: bool
    best: bool
    teachers_best: bool
    mark: _Mark | None
    results: list[_Result] = Field(max_length=1000)

    @model_validator(mode="after")
    def _one_holds(self) -> Self:
        if sum(one.current for one in self.results) > 1:
            raise ValueError("more than one result of a letter holds")
        return self


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
    started_at: When
    finished_at: When | None
    support: list[Support] = Field(max_length=200)
    next_code: str | None = Field(max_length=30)
    style: int
    attempts: list[_Attempt] = Field(max_length=1000)

    @field_validator("letter")
    @classmethod
    def _drawn(cls, char: str) -> str:
        if char not in EVERY:
            raise ValueError(f"the house has no {char!r}")
        return char

    @model_validator(mode="after")
    def _in_their_places(self) -> Self:
        if len({one.position for one in self.attempts}) < len(self.attempts):
            raise ValueError("two letters of a row stand in one place")
        return self


class _Said(_Kept):
    checker: str = Field(max_length=20)
    level: LevelName
    document: Annotated[dict[str, Any], AfterValidator(_word_document)]
    measures: dict[str, float]
    error: str | None = Field(max_length=1000)


class _Word(_OnLines):
    text: str = Field(min_length=2, max_length=40)
    started_at: When
    style: int
    ink: WordStrokes
    crossed_out: bool
    checker: str | None = Field(max_length=20)
    level: LevelName | None
    document: Annotated[dict[str, Any], AfterValidator(_word_document)]
    measures: dict[str, float]
    error: str | None = Field(max_length=1000)
    earlier: list[_Said] = Field(max_length=1000)
    looked_at: When | None = None  # files from before words were looked at lack it


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
    at: When


class _Note(_Kept):
    at: When
    text: Annotated[str, Field(max_length=20_000), seen_characters(2000)]


class _Child(_Kept):
    first_name: FirstName
    initial: Initial
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

    @model_validator(mode="after")
    def _each_ink_once(self) -> Self:
        keys = [one.key for row in self.rows for one in row.attempts]
        if len(set(keys)) < len(keys):
            raise ValueError("some ink is in the file twice")
        return self


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


class TimeZoneIn(Given):
    """A time zone by its name in the public list: Europe/London."""

    name: str = Field(max_length=60)


class TimeZoneOut(BaseModel):
    """The school's time zone, and the names of all there are."""

    name: str
    names: list[str]


class SetAsideOut(BaseModel):
    """A row whose day could not be worked out, and why."""

    child: ChildOut
    letter: str
    day: date
    why: str


def backup_out(contents: Contents) -> BackupOut:
    """For the wire."""
    return BackupOut.model_validate(contents, from_attributes=True)


def child_name(child: Child) -> str:
    """For a file's name."""
    return f"{child.first_name}-{child.initial}"


def export_child(session: Session, child_id: int, on: date) -> bytes:
    """Everything of one child in one file.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    groups = [group for row in store.rows_of(session, child_id) for group in row_groups(row)]
    groups += [word_group(word) for word in child.words if word.ink]
    report = child_report(session, child_id, on)
    day = school_time(session).day
    return write_child(store.child_records(session, child), write_inkml(groups), report, day)


def exported_child(database: Path, child_id: int, on: date) -> bytes:
    """As :func:`export_child`, from the file of the records: for a process of its own."""
    engine = open_engine(database)
    try:
        with sessions(engine)() as session:
            return export_child(session, child_id, on)
    finally:
        engine.dispose()


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
        given = ChildFile.model_validate(read_child(data), context={"now": at})
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
    child_id = child.id
    try:
        settle_all(session, child_id)
    except DBAPIError:  # busy or full: the child is in, and is worked out when it is next looked at
        session.rollback()
    return child
