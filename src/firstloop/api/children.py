"""Children: their letters over time, their ink to take away, and their erasure."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import Response
from pydantic import Field

from firstloop.api.deps import ApartDep, Db, Now, Today
from firstloop.api.given import Given, LetterChar, LevelName, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import CONFLICT, NOT_FOUND
from firstloop.formats.bounds import FirstName, HandName, Initial
from firstloop.services import child_file, child_story, children, erased, letter_history, report
from firstloop.services.child_story import Story
from firstloop.services.children import ChildView, NoteView
from firstloop.services.erased import ErasedView
from firstloop.services.letter_history import ChildPage, LetterHistory, StandingView

router = resource("children", "/children")
PDF = {"content": {"application/pdf": {}}, "description": "PDF, A4."}
ZIP = {"content": {"application/zip": {}}, "description": "InkML, JSON, CSV and PDF in one file."}
INKML = {"content": {"application/inkml+xml": {}}, "description": "All ink, InkML."}


class ChildChange(Given):
    """What a child is called, its hand and class, what to mind with it, and how strict to be with it.

    Of these only what is given changes; a ``level`` of null follows the class.
    """

    first_name: FirstName | None = None
    initial: Initial | None = None
    class_id: RecordId | None = None
    level: LevelName | None = None
    hand: HandName | None = None
    caution: str | None = Field(default=None, max_length=400)


class NoteIn(Given):
    """A note of the teacher's."""

    text: str = Field(min_length=1, max_length=2000)


def _download(data: bytes, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}"}
    return Response(data, media_type=media_type, headers=headers)


@router.get("/{child_id}", responses=NOT_FOUND)
def get_child(session: Db, child_id: RecordId) -> ChildPage:
    """A child with the state of every letter written so far."""
    return letter_history.child_page(session, child_id)


@router.get("/{child_id}/letters/{char}", responses=NOT_FOUND)
def get_letter_history(session: Db, child_id: RecordId, char: LetterChar) -> LetterHistory:
    """Every attempt of one letter, oldest first."""
    return letter_history.history(session, child_id, char)


@router.get("/{child_id}/story", responses=NOT_FOUND)
def get_story(session: Db, on: Today, child_id: RecordId) -> Story:
    """One child over time: letters, headings, measures, what to do next."""
    return child_story.story(session, child_id, on)


@router.get("/{child_id}/letters/{char}/standing", responses=NOT_FOUND)
def get_standing(session: Db, child_id: RecordId, char: LetterChar) -> list[StandingView]:
    """How a letter stands under every heading, with the numbers that say so."""
    return letter_history.standings(session, child_id, char)


@router.post("/{child_id}/notes", status_code=201, responses=NOT_FOUND)
def add_note(session: Db, at: Now, child_id: RecordId, given: NoteIn) -> NoteView:
    """Write something down about a child."""
    return children.add_note(session, child_id, given.text, at)


@router.delete("/{child_id}/notes/{note_id}", status_code=204, responses=NOT_FOUND)
def take_back_note(session: Db, child_id: RecordId, note_id: RecordId) -> None:
    """Take a note back."""
    children.take_back_note(session, child_id, note_id)


@router.get("/{child_id}/ink.inkml", response_class=Response, responses={200: INKML, **NOT_FOUND})
def export_ink(session: Db, child_id: RecordId) -> Response:
    """All ink a child has written, as InkML in millimetres, oldest first."""
    name = children.file_name(session, child_id)
    return _download(child_file.all_ink(session, child_id), "application/inkml+xml", f"{name}-ink.inkml")


@router.get("/{child_id}/report.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_report(session: Db, apart: ApartDep, on: Today, child_id: RecordId) -> Response:
    """A page for a parent and a page with figures."""
    name = children.file_name(session, child_id)
    made = apart.make_in_a_room(session, report.child_report, child_id, on)
    return _download(made, "application/pdf", f"{name}-report.pdf")


@router.get("/{child_id}/practice.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_practice(session: Db, apart: ApartDep, on: Today, child_id: RecordId) -> Response:
    """The two letters most due, to practise at home."""
    name = children.file_name(session, child_id)
    made = apart.make_in_a_room(session, report.practice_strip, child_id, on)
    return _download(made, "application/pdf", f"{name}-practice.pdf")


@router.get("/{child_id}/export.zip", response_class=Response, responses={200: ZIP, **NOT_FOUND})
def get_export(session: Db, apart: ApartDep, on: Today, child_id: RecordId) -> Response:
    """Everything of one child, to read or to take into another First Loop."""
    name = children.file_name(session, child_id)
    return _download(apart.make(child_file.export, child_id, on), "application/zip", f"{name}.zip")


@router.patch("/{child_id}", responses={**NOT_FOUND, **CONFLICT})
def change_child(session: Db, child_id: RecordId, given: ChildChange) -> ChildView:
    """Change what is known of a child, how strict to be with it, or its class: with all it has written."""
    fields = {name: getattr(given, name) for name in given.model_fields_set}
    kept = {name: value for name, value in fields.items() if name == "level" or value is not None}
    return children.change(session, child_id, **kept)


@router.delete("/{child_id}", responses=NOT_FOUND)
def erase_child(session: Db, at: Now, child_id: RecordId) -> ErasedView:
    """Erase a child with all rows, ink, results and marks; for thirty days it can be brought back."""
    return erased.erase(session, child_id, at)
