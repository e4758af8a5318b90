"""A lesson of a plan: its page, what the teacher changed on it, and running it."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Response
from pydantic import Field, StringConstraints, field_validator

from firstloop.api.deps import Db, Now, Today
from firstloop.api.given import Given, Moment, RecordId
from firstloop.api.plans import CHANGED, PDF, LessonKey, Number
from firstloop.api.routers import resource
from firstloop.api.server.errors import NOT_FOUND
from firstloop.core.letterforms.alphabets import EVERY
from firstloop.core.planning.lesson import PartKind
from firstloop.services import held_lessons, lessons, plan_files
from firstloop.services.lessons import LessonPage, PartDone

router = resource("plan", "/classes/{class_id}/plan/lessons/{key}")
_PARTS_MOST = 60
Count = Annotated[int, Field(ge=0, le=12)]
Word = Annotated[str, StringConstraints(min_length=1, max_length=20)]
Kind = Annotated[PartKind, Field(strict=False)]
Minutes = Annotated[int, Field(ge=1, le=60)]


class PageIn(Given):
    """What is changed on a lesson's page; a field that is given as null goes back to what is worked out."""

    number: Number
    aim: str | None = Field(default=None, max_length=200)
    minutes: dict[Kind, Minutes] | None = Field(default=None, max_length=len(PartKind))
    without: list[Kind] | None = Field(default=None, max_length=len(PartKind))
    date: str | None = Field(default=None, max_length=40)
    recall: str | None = Field(default=None, max_length=8)
    trace: Count | None = None
    finish: Count | None = None
    alone: Count | None = None
    words: list[Word] | None = Field(default=None, max_length=12)
    sentence: str | None = Field(default=None, max_length=120)
    beside: str | None = Field(default=None, max_length=400)

    @field_validator("date", "recall", "sentence")
    @classmethod
    def _can_be_drawn(cls, text: str | None) -> str | None:
        """Only what the house draws: it is written on the lines."""
        return None if text is None else _drawable(text)

    @field_validator("words")
    @classmethod
    def _words_can_be_drawn(cls, words: list[str] | None) -> list[str] | None:
        return None if words is None else [_drawable(one) for one in words]


def _drawable(text: str) -> str:
    lacking = [char for char in text if char != " " and char not in EVERY]
    if lacking:
        raise ValueError(f"there is no model for {' '.join(dict.fromkeys(lacking))}")
    return " ".join(text.split())


class PartIn(Given):
    """A part of a lesson gone through: since when, and whether it was skipped."""

    part: str = Field(min_length=1, max_length=30)
    at: Moment
    skipped: bool = False


class RunIn(Given):
    """What was done of a lesson so far; the whole note each time."""

    started_at: Moment
    parts: list[PartIn] = Field(max_length=_PARTS_MOST)
    finished: bool = False


@router.get("", responses=NOT_FOUND)
def get_lesson(session: Db, on: Today, class_id: RecordId, key: LessonKey) -> LessonPage:
    """A lesson on one page."""
    return lessons.page(session, class_id, key, on)


@router.patch("", responses=CHANGED)
def change_lesson(
    session: Db, on: Today, at: Now, class_id: RecordId, key: LessonKey, given: PageIn
) -> LessonPage:
    """Change what stands on a lesson's page."""
    fields: dict[str, Any] = given.model_dump(mode="json", exclude_unset=True, exclude={"number"})
    return lessons.change_page(session, class_id, key, given.number, fields, on, at)


@router.get("/page.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_lesson_pdf(session: Db, on: Today, class_id: RecordId, key: LessonKey) -> Response:
    """A lesson on one page, to print."""
    return Response(plan_files.lesson_page(session, class_id, key, on), media_type="application/pdf")


@router.put("/run", responses=CHANGED)
def note_run(session: Db, on: Today, at: Now, class_id: RecordId, key: LessonKey, given: RunIn) -> LessonPage:
    """Note what was done of a lesson; once it is finished the plan follows."""
    parts = [PartDone(one.part, one.at, one.skipped) for one in given.parts]
    return held_lessons.note(session, class_id, key, given.started_at, parts, given.finished, on, at)
