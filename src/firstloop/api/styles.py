"""House styles: looking at one, keeping it, following it, exporting it."""

from __future__ import annotations

from fastapi import Response
from pydantic import Field

from firstloop.api.deps import ClassId, Db, Now
from firstloop.api.given import Given, RecordId, StyleDoc
from firstloop.api.routers import resource
from firstloop.api.server.errors import NOT_FOUND
from firstloop.formats.style_json import write_style
from firstloop.services import differences, styles
from firstloop.services.classes import ClassView
from firstloop.services.differences import DifferenceView
from firstloop.services.styles import StyleLook, StyleVersion

router = resource("house styles")
JSON = {"content": {"application/json": {}}, "description": "The style."}


class StyleLookIn(Given):
    """A style to be looked at, and the one it is compared with."""

    style: StyleDoc
    against: StyleDoc | None = None
    text: str = Field(default="a quick brown fox", max_length=60)
    letter: str = Field(default="", max_length=1)


@router.post("/styles/look", responses={**NOT_FOUND})
def look_at_style(given: StyleLookIn) -> StyleLook:
    """Draw a style that need not be kept: every choice on its letters, a line of text, what changes."""
    against = given.against.model_dump() if given.against else None
    return styles.look(given.style.model_dump(), against, given.text, given.letter)


@router.get("/differences", responses=NOT_FOUND)
def list_differences(session: Db, class_id: ClassId = None) -> list[DifferenceView]:
    """Where schools differ: both ways drawn, what speaks for each, what the class takes."""
    return differences.where_schools_differ(session, class_id)


@router.get("/styles")
def list_styles(session: Db) -> list[StyleVersion]:
    """The latest version of every style, and which classes follow it."""
    return styles.kept(session)


@router.put("/classes/{class_id}/style", responses={**NOT_FOUND})
def set_style(session: Db, at: Now, class_id: RecordId, given: StyleDoc) -> ClassView:
    """Let a class follow a style: the next version of the present one, or a new one by another name.

    Rows that were written keep the version they were written in.
    """
    return styles.keep(session, class_id, given.model_dump(), at)


@router.put("/classes/{class_id}/style/{style_id}", responses=NOT_FOUND)
def follow_style(session: Db, class_id: RecordId, style_id: RecordId) -> ClassView:
    """Let a class follow a version that is kept already."""
    return styles.follow(session, class_id, style_id)


@router.get("/classes/{class_id}/style.json", response_class=Response, responses={200: JSON, **NOT_FOUND})
def export_style(session: Db, class_id: RecordId) -> Response:
    """The class's style as a file, for another class or school."""
    text = write_style(styles.of_class(session, class_id))
    headers = {"content-disposition": 'attachment; filename="house-style.json"'}
    return Response(text, media_type="application/json", headers=headers)
