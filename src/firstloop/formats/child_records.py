"""The records of one child as they go from one First Loop to another, and what is refused in them."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Annotated, Any, Literal, Self

import orjson
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

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.letterforms.document import style_from
from firstloop.core.ruling import Ruling
from firstloop.core.sheets.marks import CODE_LENGTH, CODE_LETTERS
from firstloop.core.words.dictation import TRIES_MOST, checked_tries
from firstloop.core.words.units import UNIT_MOST, WORD_MOST, spell
from firstloop.formats.bounds import (
    FirstName,
    HandName,
    Initial,
    LevelName,
    Mark,
    SeenName,
    StrokeInk,
    Strokes,
    SupportName,
    WordStrokes,
    seen_characters,
)
from firstloop.formats.child_zip import ChildFileError
from firstloop.formats.pictures import read_picture
from firstloop.formats.sheet_json import NAME_LONGEST, read_wish, write_wish
from firstloop.formats.sheet_layout import FORMAT as LAYOUT_FORMAT
from firstloop.formats.sheet_layout import read_layout

Point = Annotated[list[float], Field(min_length=2, max_length=2)]
LAYOUT_MOST = 5_000_000
EvidenceName = Literal["ink", "scan"]
Found = Literal["ink", "written-over", "crossed-out", "empty", "unclear"]
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


class _Finding(_Kept):
    code: str = Field(max_length=30)
    severity: Literal["near", "fix", "told"]
    stroke: int
    move: int
    value: float
    tolerance: float | None = None
    at: Point
    span: list[Point] = Field(max_length=100)
    goal: Point | None = None
    facts: dict[str, Annotated[str, Field(max_length=40)]] = Field(default={}, max_length=10)

    @field_validator("code")
    @classmethod
    def _known(cls, code: str) -> str:
        if code not in CODES:
            raise ValueError(f"there is no finding {code!r:.40}")
        return code


class _Headings(_Kept):
    direction: Verdict
    shape: Verdict
    size: Verdict
    flow: Verdict


class _Letter(_Kept):
    expected: str = Field(max_length=40)
    verdict: Verdict
    headings: _Headings
    reads_as: str = Field(max_length=1)
    findings: list[_Finding] = Field(max_length=100)
    measures: dict[str, float | int]
    model_left_mm: float
    place: dict[str, float] | None


class _Note(_Kept):
    key: str = Field(max_length=40)
    values: dict[str, str] = {}


class _Group(_Kept):
    truth: str = Field(max_length=400)
    letters: list[_Letter] = Field(max_length=400)
    findings: list[_Finding] = Field(max_length=100)
    measures: dict[str, float | int]
    note: _Note | None


def _checked(kind: type[_Kept], document: dict[str, Any]) -> dict[str, Any]:
    """What a checker said, or nothing: kept as it came once it has been found to be that."""
    if document:
        kind.model_validate(document)
    return document


def _letter_document(document: dict[str, Any]) -> dict[str, Any]:
    return _checked(_Letter, document)


def _word_document(document: dict[str, Any]) -> dict[str, Any]:
    return _checked(_Group, document)


class _Result(_Kept):
    checker: str = Field(max_length=20)
    level: LevelName
    verdict: Verdict
    document: Annotated[dict[str, Any], AfterValidator(_letter_document)]
    error: str | None = Field(max_length=1000)
    current: bool


class _Mark(_Kept):
    verdict: Mark
    made_at: When


class _Attempt(_Kept):
    key: str = Field(min_length=8, max_length=40)
    position: int = Field(ge=0, le=10_000)
    support: SupportName
    written_at: When
    ink: Strokes
    evidence: EvidenceName = "ink"
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
    support: list[SupportName] = Field(max_length=200)
    layered: bool = False
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
    text: str = Field(min_length=2, max_length=120)
    started_at: When
    style: int
    ink: WordStrokes
    evidence: EvidenceName = "ink"
    crossed_out: bool
    checker: str | None = Field(max_length=20)
    level: LevelName | None
    document: Annotated[dict[str, Any], AfterValidator(_word_document)]
    measures: dict[str, float]
    error: str | None = Field(max_length=1000)
    earlier: list[_Said] = Field(max_length=1000)
    looked_at: When | None = None  # files from before words were looked at lack it


class _Dictated(_Kept):
    position: int = Field(ge=0, le=100)
    text: str = Field(min_length=1, max_length=WORD_MOST)
    units: list[Annotated[str, Field(min_length=1, max_length=UNIT_MOST)]] = Field(max_length=WORD_MOST)
    at: When
    tries: list[list[int]] = Field(max_length=TRIES_MOST)
    word: int | None = Field(default=None, ge=0)

    @model_validator(mode="after")
    def _holds_together(self) -> Self:
        if spell(self.units) != self.text.lower():
            raise ValueError("the units of a dictated word do not spell it")
        checked_tries(self.units, self.tries)
        return self


def _a_style(document: dict[str, Any]) -> dict[str, Any]:
    style_from(document)
    return document


class _Style(_Kept):
    name: str = Field(max_length=80)
    version: int
    document: Annotated[dict[str, Any], AfterValidator(_a_style)]


class _Watched(_Kept):
    letter: str = Field(min_length=1, max_length=1)
    seen: SeenName
    at: When


class _Remark(_Kept):
    at: When
    text: Annotated[str, Field(max_length=20_000), seen_characters(2000)]


class _Sheet(_Kept):
    """A sheet that was printed for the child: what was on it and where, and when it came back."""

    code: str = Field(pattern=f"^[{CODE_LETTERS}]{{{CODE_LENGTH}}}$")
    name: str = Field(min_length=1, max_length=NAME_LONGEST)
    day: date
    printed_at: When
    style: Annotated[dict[str, Any], AfterValidator(_a_style)]
    number: int = Field(ge=1, le=10_000)
    pages: int = Field(ge=1, le=1000)
    wish: dict[str, Any]
    layout: dict[str, Any]
    back_on: date | None

    @field_validator("wish")
    @classmethod
    def _a_wish(cls, document: dict[str, Any]) -> dict[str, Any]:
        return write_wish(read_wish(document))

    @field_validator("layout")
    @classmethod
    def _a_layout(cls, document: dict[str, Any]) -> dict[str, Any]:
        if document.get("format") != LAYOUT_FORMAT or len(orjson.dumps(document)) > LAYOUT_MOST:
            raise ValueError("this is no layout of a sheet")
        return document


def _a_layout(document: dict[str, Any]) -> dict[str, Any]:
    if len(orjson.dumps(document)) > LAYOUT_MOST:
        raise ValueError("this is no layout of a sheet")
    read_layout(document)
    return document


class _Place(_OnLines):
    """A place of a page that came back; ``attempt`` is the key of the letter that it became."""

    key: str = Field(min_length=1, max_length=12)
    row: int
    place: int
    expected: str = Field(min_length=1, max_length=120)
    support: SupportName
    box: list[float] = Field(min_length=4, max_length=4)
    found: Found
    ticked: bool
    decided: bool
    ink: list[StrokeInk] = Field(max_length=400)
    level: LevelName
    checker: str = Field(max_length=20)
    document: dict[str, Any]
    moved_mm: float
    mark: Mark | None
    teachers_best: bool
    attempt: str | None = Field(max_length=40)
    word: int | None = Field(ge=0)

    @model_validator(mode="after")
    def _said(self) -> Self:
        _checked(_Letter if "verdict" in self.document else _Group, self.document)
        return self


class _Page(_Kept):
    """A page that came back, with its picture made straight."""

    status: Literal["read", "repeated"]
    came_at: When
    sheet: str | None = Field(max_length=6)
    copy_number: int | None
    page: int | None
    layout: Annotated[dict[str, Any], AfterValidator(_a_layout)]
    style: Annotated[dict[str, Any], AfterValidator(_a_style)]
    ruling: str = Field(max_length=30)
    turned_deg: float | None
    dpi: float | None
    residual_mm: float | None
    written_on: date
    agreed_at: When | None
    straight: bytes | None
    places: list[_Place] = Field(max_length=1000)

    @field_validator("straight")
    @classmethod
    def _a_picture(cls, data: bytes | None) -> bytes | None:
        if data is not None:
            read_picture(data, 1)
        return data


class _Child(_Kept):
    first_name: FirstName
    initial: Initial
    hand: HandName
    level: LevelName | None
    caution: str = Field(max_length=400)


class ChildFile(_Kept):
    """The records of one child, as they go from one First Loop to another."""

    format: Literal["first-loop-child"]
    version: Literal[2]
    child: _Child
    styles: dict[str, _Style]
    rows: list[_Row]
    words: list[_Word] = []  # files from before words were written have none
    dictated: list[_Dictated] = []  # nor have they dictations
    watched: list[_Watched]
    notes: list[_Remark]
    sheets: list[_Sheet] = Field(default=[], max_length=2000)  # nor sheets that were printed
    pages: list[_Page] = Field(default=[], max_length=2000)  # nor pages that came back

    @model_validator(mode="after")
    def _each_ink_once(self) -> Self:
        keys = [one.key for row in self.rows for one in row.attempts]
        if len(set(keys)) < len(keys):
            raise ValueError("some ink is in the file twice")
        if any(one.word is not None and one.word >= len(self.words) for one in self.dictated):
            raise ValueError("a dictated word has no ink in the file")
        places = [one for page in self.pages for one in page.places]
        if {one.attempt for one in places} - {None, *keys}:
            raise ValueError("a letter of a page is not in the file")
        if any(one.word is not None and one.word >= len(self.words) for one in places):
            raise ValueError("a word of a page is not in the file")
        return self


def checked_records(document: dict[str, Any], now: datetime) -> dict[str, Any]:
    """A child's records as they can be kept, all of them or none.

    Raises
    ------
    ChildFileError
        If they hold what First Loop would not have written.
    """
    try:
        given = ChildFile.model_validate(document, context={"now": now})
    except ValidationError as problem:
        first = problem.errors()[0]
        where = " ".join(str(part) for part in first["loc"])
        raise ChildFileError(
            f"The file does not hold together at {where}: {first['msg']}. Nothing was taken in."
        ) from problem
    wanted = [*(row.style for row in given.rows), *(word.style for word in given.words)]
    if {str(style) for style in wanted} - set(given.styles):
        raise ChildFileError("The file lacks the house style of some writing. Nothing was taken in.")
    out = given.model_dump()
    for row, kept in zip(out["rows"], given.rows, strict=True):
        for attempt, one in zip(row["attempts"], kept.attempts, strict=True):
            attempt["ink"] = [stroke.model_dump(exclude_none=True) for stroke in one.ink]
    for word, kept_word in zip(out["words"], given.words, strict=True):
        word["ink"] = [stroke.model_dump(exclude_none=True) for stroke in kept_word.ink]
    for page, kept_page in zip(out["pages"], given.pages, strict=True):
        for place, kept_place in zip(page["places"], kept_page.places, strict=True):
            place["ink"] = [stroke.model_dump(exclude_none=True) for stroke in kept_place.ink]
    return out
