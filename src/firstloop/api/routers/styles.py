"""House styles: looking at one, keeping it, following it, exporting and importing it."""

from __future__ import annotations

from fastapi import APIRouter, Response

from firstloop.api import styles
from firstloop.api.deps import Db, Now
from firstloop.api.errors import NOT_FOUND
from firstloop.api.schemas import ClassOut, RecordId, StyleDoc
from firstloop.api.styles import StyleLookIn, StyleLookOut, StyleVersionOut
from firstloop.api.writing import class_out
from firstloop.core.letterforms.document import style_document
from firstloop.formats.style_json import write_style
from firstloop.store import styles as store
from firstloop.store.classes import all_classes, get_class

router = APIRouter(tags=["house styles"])


@router.post("/styles/look", responses={**NOT_FOUND})
def look_at_style(given: StyleLookIn) -> StyleLookOut:
    """Draw a style that need not be kept: every choice on its letters, a line of text, what changes."""
    return styles.look(given)


@router.get("/styles")
def list_styles(session: Db) -> list[StyleVersionOut]:
    """The latest version of every style, and which classes follow it."""
    followers: dict[int, list[str]] = {}
    for one in all_classes(session):
        followers.setdefault(one.style_id, []).append(one.name)
    return [
        StyleVersionOut(
            id=row.id,
            name=row.name,
            version=row.version,
            classes=followers.get(row.id, []),
            style=StyleDoc(**style_document(store.read(row))),
        )
        for row in store.latest_styles(session)
    ]


@router.put("/classes/{class_id}/style", responses={**NOT_FOUND})
def set_style(session: Db, at: Now, class_id: RecordId, given: StyleDoc) -> ClassOut:
    """Let a class follow a style: the next version of the present one, or a new one by another name.

    Rows that were written keep the version they were written in.
    """
    school_class = get_class(session, class_id)
    store.keep_style(session, school_class, styles.to_style(given), at)
    return class_out(school_class)


@router.put("/classes/{class_id}/style/{style_id}", responses=NOT_FOUND)
def follow_style(session: Db, class_id: RecordId, style_id: RecordId) -> ClassOut:
    """Let a class follow a version that is kept already."""
    school_class = get_class(session, class_id)
    store.follow(session, school_class, style_id)
    return class_out(school_class)


@router.get(
    "/classes/{class_id}/style.json",
    response_class=Response,
    responses={200: {"content": {"application/json": {}}, "description": "The style."}, **NOT_FOUND},
)
def export_style(session: Db, class_id: RecordId) -> Response:
    """The class's style as a file, for another class or school."""
    text = write_style(store.house_style(get_class(session, class_id)))
    headers = {"content-disposition": 'attachment; filename="house-style.json"'}
    return Response(text, media_type="application/json", headers=headers)
