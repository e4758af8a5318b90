"""Letters, families and lines of text in a class's house style."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response

from firstloop.api import models
from firstloop.api.deps import Db
from firstloop.api.errors import NOT_FOUND
from firstloop.api.schemas import LetterChar, RecordId
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.formats.svg import letter_sheet
from firstloop.store.classes import get_class, house_style

router = APIRouter(tags=["letters"])
ClassId = Annotated[RecordId | None, Query(description="Whose house style; the default style without it.")]


def _style(session: Db, class_id: int | None) -> HouseStyle:
    return DEFAULT_STYLE if class_id is None else house_style(get_class(session, class_id))


@router.get("/families", responses=NOT_FOUND)
def get_families(session: Db, class_id: ClassId = None) -> models.SchemeOut:
    """The families of the scheme "By movement", each letter with its reason."""
    return models.scheme(_style(session, class_id))


@router.get("/letters/{char}", responses=NOT_FOUND)
def get_letter(session: Db, char: LetterChar, class_id: ClassId = None) -> models.LetterModelOut:
    """One letter: its strokes in time, its marks, words, family and look-alikes."""
    return models.letter_model(char, _style(session, class_id))


@router.get("/line", responses=NOT_FOUND)
def get_line(
    session: Db, text: Annotated[str, Query(max_length=60)], class_id: ClassId = None
) -> models.LineOut:
    """A line of text drawn in the class's letterforms."""
    return models.line(text, _style(session, class_id))


@router.get(
    "/letters.svg",
    response_class=Response,
    responses={200: {"content": {"image/svg+xml": {}}, "description": "The sheet."}, **NOT_FOUND},
)
def get_sheet(session: Db, class_id: ClassId = None) -> Response:
    """All letters on one sheet, with stroke numbers and chevrons, for the wall."""
    style = _style(session, class_id)
    members = [member.char for grouping in models.groupings(style) for member in grouping.members]
    return Response(letter_sheet([letter(char, style) for char in members]), media_type="image/svg+xml")
