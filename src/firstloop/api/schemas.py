"""What goes over the wire. The browser's types are generated from these."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal, Self

import regex
from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    FiniteFloat,
    StringConstraints,
    model_validator,
)

from firstloop.core.ink import PAGE_MM
from firstloop.core.ruling import Ruling

Verdict = Literal["secure", "near", "fix", "not-seen", "unreadable"]
HeadingVerdict = Literal["secure", "near", "fix", "not-seen"]
MarkVerdict = Literal["secure", "near", "fix"]
Support = Literal["trace", "finish", "alone"]
LevelName = Literal["starting", "growing", "settled"]
SeenName = Literal["bottom", "direction", "lift", "order", "fine"]
HandName = Literal["right", "left"]
RecordId = Annotated[int, Field(ge=1, le=2**63 - 1)]  # what SQLite can count to
LetterChar = Annotated[str, StringConstraints(min_length=1, max_length=1)]
PointList = list[list[float]]
POINTS_MAX = 100_000  # of all strokes together: seven minutes with a fast pen
LATEST_MS = 1e13  # as a time since 1970 this is the year 2286


class Given(BaseModel):
    """What a request brings: taken as it is, or refused; 0 is no ``false`` and "1" no number."""

    model_config = ConfigDict(strict=True)


# the time of another answer, given back as text
Moment = Annotated[datetime, Field(strict=False)]


class FindingOut(BaseModel):
    """Something outside its tolerance; places in page millimetres, ``goal`` is where ``at`` should be."""

    code: str
    heading: Literal["direction", "shape", "size", "flow"]
    severity: Literal["near", "fix", "told"]
    stroke: int
    move: int
    value: float
    unit: str
    tolerance: float | None
    at: list[float]
    span: PointList
    goal: list[float] | None = None
    teacher: str
    child: str


class MeasuresOut(BaseModel):
    """Numbers of one letter; null where the evidence gives none."""

    height_xh: float | None
    height_mm: float | None
    width_xh: float | None
    top_xh: float | None
    bottom_xh: float | None
    start_x_xh: float | None
    start_y_xh: float | None
    slant_deg: float | None
    form_xh: float | None
    strokes: int
    duration_ms: float | None
    speed_xh_s: float | None = None


class HeadingsOut(BaseModel):
    """A verdict for each heading."""

    direction: HeadingVerdict
    shape: HeadingVerdict
    size: HeadingVerdict
    flow: HeadingVerdict


class PlaceOut(BaseModel):
    """Where a letter stands, xh from the page's left and the base line; heights against the model's."""

    left: float
    right: float
    body_left: float
    body_right: float
    foot: float | None
    body: float | None
    tall: float | None
    deep: float | None


class LetterOut(BaseModel):
    """One judged letter; ``model_left_mm`` is where the model's origin stands under the ink."""

    expected: str
    verdict: Verdict
    headings: HeadingsOut
    reads_as: str
    findings: list[FindingOut]
    measures: MeasuresOut
    model_left_mm: float
    place: PlaceOut | None = None


class GroupMeasuresOut(BaseModel):
    """Numbers of a whole group; null or left out where it gives none."""

    letters: int
    drift_deg: float | None = None
    gap_xh: float | None = None
    gap_off_xh: float | None = None
    finger_spaces: float | None = None


class GroupOut(BaseModel):
    """A judged group."""

    truth: str
    letters: list[LetterOut]
    findings: list[FindingOut]
    measures: GroupMeasuresOut
    note: str


class CheckOut(BaseModel):
    """The document of a check, format ``first-loop-check/1``."""

    format: Literal["first-loop-check/1"]
    checker: str
    groups: list[GroupOut]


class StrokeInk(Given):
    """A stroke as the pen gave it: page millimetres, milliseconds, force 0 to 1."""

    x: list[FiniteFloat] = Field(min_length=1, max_length=POINTS_MAX)
    y: list[FiniteFloat] = Field(min_length=1, max_length=POINTS_MAX)
    t: list[FiniteFloat] | None = None
    f: list[FiniteFloat] | None = None

    @model_validator(mode="after")
    def of_one_pen_on_a_page(self) -> StrokeInk:
        """All channels must be as long as x, and the points lie on a page."""
        for channel in (self.y, self.t, self.f):
            if channel is not None and len(channel) != len(self.x):
                raise ValueError("x, y, t and f of a stroke must have the same length")
        if max(map(abs, (*self.x, *self.y))) > PAGE_MM:
            raise ValueError(f"a point lies more than {PAGE_MM / 1000:g} m from the corner of the page")
        if self.t and max(map(abs, self.t)) > LATEST_MS:
            raise ValueError("a point has a time that no clock shows")
        return self


def _bounded(strokes: list[StrokeInk]) -> list[StrokeInk]:
    if sum(len(stroke.x) for stroke in strokes) > POINTS_MAX:
        raise ValueError(f"there are more than {POINTS_MAX:,} points")
    return strokes


Strokes = Annotated[list[StrokeInk], Field(min_length=1, max_length=200), AfterValidator(_bounded)]
WordStrokes = Annotated[list[StrokeInk], Field(min_length=1, max_length=400), AfterValidator(_bounded)]


class RulingLines(BaseModel):
    """Page y of the four lines, mm."""

    rise: float
    mid: float
    base: float
    drop: float

    @classmethod
    def of(cls, ruling: Ruling) -> Self:
        """The lines of a ruling."""
        rise, mid, base, drop = ruling.lines_mm
        return cls(rise=rise, mid=mid, base=base, drop=drop)


class AttemptIn(Given):
    """An attempt as it is ended; ``key`` makes sending it again harmless.

    ``row_started_at`` says for which row it was written: numbers of rows that were erased are given again.
    """

    key: str = Field(min_length=8, max_length=40)
    row_started_at: Moment | None = None
    support: Support
    strokes: Strokes
    crossed_out: bool = False


class AttemptOut(BaseModel):
    """An attempt with its ink, the checker's result and the teacher's mark."""

    id: int
    position: int
    support: Support
    written_at: datetime
    strokes: list[StrokeInk]
    crossed_out: bool
    best: bool
    teachers_best: bool
    mark: MarkVerdict | None
    verdict: Verdict
    checker: str | None
    error: str | None
    result: LetterOut | None


class ChildOut(BaseModel):
    """First name and initial only."""

    id: int
    class_id: int
    first_name: str
    initial: str
    name: str
    hand: HandName
    level: LevelName | None


class ChildChange(Given):
    """How strict to be with one child (null follows the class), its hand, and what to mind with it."""

    level: LevelName | None = None
    hand: HandName | None = None
    caution: str | None = Field(default=None, max_length=400)


def seen_characters(most: int) -> AfterValidator:
    """At most so many characters as a person sees them: a letter with its marks, or an emoji, is one."""

    def check(text: str) -> str:
        if len(_SEEN_CHARACTER.findall(text)) > most:
            raise ValueError("one character, please" if most == 1 else f"at most {most} characters, please")
        return text

    return AfterValidator(check)


_SEEN_CHARACTER = regex.compile(r"\X")
_CODES_MOST = 12  # in one character that is seen
FirstName = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=40 * _CODES_MOST, pattern=r"^[^\s]+$"),
    seen_characters(40),
]
Initial = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=_CODES_MOST, to_upper=True),
    seen_characters(1),
]


class ChildIn(Given):
    """A new child."""

    first_name: FirstName
    initial: Initial
    hand: HandName = "right"


class AdjustmentDoc(Given):
    """A measure changed on one letter, or on all where ``letter`` is empty."""

    letter: str = Field(default="", max_length=1)
    measure: str = Field(max_length=40)
    value: float = Field(allow_inf_nan=False)


class StyleDoc(Given):
    """A house style; letter choices only where they are not the usual one."""

    name: str = Field(default="Print, upright", min_length=1, max_length=80)
    script: Literal["print", "print-exits", "cursive"] = "print"
    slant_deg: float = Field(default=0.0, ge=0.0, le=15.0)
    width: Literal["narrow", "even", "wide"] = "even"
    entry: bool = True
    ascenders: Literal["plain", "looped"] = "plain"
    tails: Literal["looped", "hooked"] = "looped"
    dots: Literal["at-once", "after-word"] = "at-once"
    correction: Literal["cross-out", "rub-out"] = "cross-out"
    breaks: str = Field(default="", max_length=26)
    choices: dict[str, str] = Field(default_factory=dict, max_length=60)
    adjustments: list[AdjustmentDoc] = Field(default_factory=list, max_length=400)


class StyleOut(StyleDoc):
    """House style of a class, in the version it follows."""

    id: int
    version: int


class ClassOut(BaseModel):
    """A class with its children."""

    id: int
    name: str
    ruling: str
    xh_mm: float
    level: LevelName
    style: StyleOut
    children: list[ChildOut]
    archived: bool


class ClassIn(Given):
    """A new class."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    ruling: str = "four-lines"
    xh_mm: float = 10.0
    level: LevelName = "growing"


class ClassChange(Given):
    """How strict to be with a class, and whether it is put away as one of last year's."""

    level: LevelName | None = None
    archived: bool | None = None


class RowIn(Given):
    """A new row; an empty support list means the usual six."""

    child_id: RecordId
    letter: LetterChar
    support: list[Support] = Field(default_factory=list, max_length=20)


class RowSummary(BaseModel):
    """A row in a list: the verdict of every attempt (null where crossed out), and how far it has come.

    ``all_secure``: nothing in it asks to be looked at before it is agreed with.
    """

    id: int
    child: ChildOut
    letter: str
    started_at: datetime
    verdicts: list[Verdict | None]
    all_secure: bool
    finished: bool
    marked: bool


class StepOut(BaseModel):
    """A thing to try next: the code it mends, the words for the child, how often it was slipped."""

    code: str
    child: str
    times: int


class RowOut(BaseModel):
    """A row with every attempt.

    Attempt k stands in the slot that begins at k times ``slot_mm``; the model's origin stands
    ``letter_left_mm`` into its slot. ``next_time`` is the one thing to try next, ``to_see`` the position
    of the attempt that needs the teacher first.
    """

    id: int
    child: ChildOut
    letter: str
    started_at: datetime
    finished: bool
    ruling: str
    lines: RulingLines
    xh_mm: float
    slot_mm: float
    letter_left_mm: float
    support: list[Support]
    attempts: list[AttemptOut]
    next_time: str
    next_code: str | None
    next_steps: list[StepOut]
    findings: list[FindingOut]
    checkers_best: int | None
    to_see: int
    can_undo: bool
    next_row: int | None
    previous_row: int | None


class EditIn(Given):
    """A step on attempts of a row; fields left out stay as they are. ``mark: none`` takes a mark away."""

    attempt_ids: list[RecordId] = Field(min_length=1, max_length=100)
    crossed_out: bool | None = None
    best: bool | None = None
    teachers_best: bool | None = None
    mark: Literal["secure", "near", "fix", "none"] | None = None

    @model_validator(mode="after")
    def something(self) -> EditIn:
        """At least one field must be given."""
        given = (self.crossed_out, self.best, self.teachers_best, self.mark)
        if all(one is None for one in given):
            raise ValueError("say what to change: crossed_out, best, teachers_best or mark")
        return self


class NextStepIn(Given):
    """The code of the next step the teacher chose; null goes back to the checker's choice."""

    code: Annotated[str, StringConstraints(max_length=30)] | None


class RowIdsIn(Given):
    """Several rows."""

    row_ids: list[RecordId] = Field(min_length=1, max_length=200)


class ToleranceIn(Given):
    """A tolerance at the level "growing", in the code's unit; null goes back to the house's."""

    tolerance: FiniteFloat | None


class WatchedIn(Given):
    """What was seen while a child wrote a letter on paper."""

    child_id: RecordId
    letter: LetterChar
    seen: SeenName


class WatchedOut(WatchedIn):
    """A kept note."""

    id: int
    at: datetime


class ProblemOut(BaseModel):
    """What went wrong, in words fit for a screen."""

    detail: str
