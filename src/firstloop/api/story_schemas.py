"""What the story of a child is made of, on the wire."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel, Field

from firstloop.api.overtime import AspectName, StateName
from firstloop.api.schemas import ChildOut, Given


class InkDrawing(BaseModel):
    """A written letter, small: path data in hundredths of the middle band, y down from its base line."""

    row_id: int
    position: int
    day: date
    paths: list[str]
    bounds: list[float]


class LetterStoryOut(BaseModel):
    """A letter of a child: how it stands and why, and the first and the latest of it."""

    letter: str
    family: str
    state: StateName
    why: str
    sureness: str
    due: bool
    first: InkDrawing | None
    latest: InkDrawing | None


class WeekShareOut(BaseModel):
    """How much of a week's letters was secure, with the interval of the true share (8 in 10)."""

    monday: date
    share: float
    low: float
    high: float
    letters: int


class TurnOut(BaseModel):
    """A week in which something changed, and from what to what."""

    day: date
    before: float
    after: float
    words: str


class HeadingStoryOut(BaseModel):
    """One heading over the weeks."""

    aspect: AspectName
    name: str
    weeks: list[WeekShareOut]
    turns: list[TurnOut]


class PointOut(BaseModel):
    """A measure on a day: the middle value of that day's letters."""

    day: date
    value: float


class MeasureStoryOut(BaseModel):
    """A measure over time; ``words`` is empty where no change can be claimed.

    ``turned`` is the day of a change at one point.
    """

    key: str
    name: str
    unit: str
    points: list[PointOut]
    words: str
    turned: date | None


class StepOut(BaseModel):
    """One thing to do next."""

    kind: Literal["teach", "bring-back", "recall"]
    letters: str
    words: str


class HabitOut(BaseModel):
    """A slip over the letters in which it is made, and what became of it."""

    code: str
    letters: str
    course: Literal["gone", "less", "steady", "more", "new"]
    since: date | None
    words: str


class PicksOut(BaseModel):
    """In how many of the latest rows the child picked the letter that the checker liked best."""

    same: int
    rows: int


class NoteOut(BaseModel):
    """What the teacher wrote down."""

    id: int
    at: datetime
    text: str


class NoteIn(Given):
    """A note of the teacher's."""

    text: str = Field(min_length=1, max_length=2000)


class StoryOut(BaseModel):
    """One child over time."""

    child: ChildOut
    class_name: str
    caution: str
    since: date | None
    letters: list[LetterStoryOut]
    headings: list[HeadingStoryOut]
    measures: list[MeasureStoryOut]
    next_steps: list[StepOut]
    habits: list[HabitOut]
    picks: PicksOut
    notes: list[NoteOut]
