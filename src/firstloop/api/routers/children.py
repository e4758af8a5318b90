"""Children: their letters over time, their ink to take away, and their erasure."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import APIRouter, Response

from firstloop.api.deps import BesideDep, Db, Now, SettingsDep, Today
from firstloop.api.errors import NOT_FOUND
from firstloop.api.overtime import StandingOut, letter_standings
from firstloop.api.progress import ChildPageOut, LetterHistoryOut, child_page, letter_history
from firstloop.api.records import child_name, exported_child
from firstloop.api.report import child_report, practice_strip
from firstloop.api.schemas import ChildChange, ChildOut, LetterChar, RecordId
from firstloop.api.story import note_out, story
from firstloop.api.story_schemas import NoteIn, NoteOut, StoryOut
from firstloop.api.writing import child_out, row_groups
from firstloop.formats.inkml import write_inkml
from firstloop.store import classes
from firstloop.store.rows import find_rows

EXPORT_PATIENCE_S = 600.0
router = APIRouter(prefix="/children", tags=["children"])


@router.get("/{child_id}", responses=NOT_FOUND)
def get_child(session: Db, child_id: RecordId) -> ChildPageOut:
    """A child with the state of every letter written so far."""
    return child_page(session, child_id)


@router.get("/{child_id}/letters/{char}", responses=NOT_FOUND)
def get_letter_history(session: Db, child_id: RecordId, char: LetterChar) -> LetterHistoryOut:
    """Every attempt of one letter, oldest first."""
    return letter_history(session, child_id, char)


@router.get("/{child_id}/story", responses=NOT_FOUND)
def get_story(session: Db, on: Today, child_id: RecordId) -> StoryOut:
    """One child over time: letters, headings, measures, what to do next."""
    return story(session, child_id, on)


@router.get("/{child_id}/letters/{char}/standing", responses=NOT_FOUND)
def get_standing(session: Db, child_id: RecordId, char: LetterChar) -> list[StandingOut]:
    """How a letter stands under every heading, with the numbers that say so."""
    return letter_standings(session, child_id, char)


@router.post("/{child_id}/notes", status_code=201, responses=NOT_FOUND)
def add_note(session: Db, at: Now, child_id: RecordId, given: NoteIn) -> NoteOut:
    """Write something down about a child."""
    return note_out(classes.add_note(session, child_id, given.text, at))


@router.delete("/{child_id}/notes/{note_id}", status_code=204, responses=NOT_FOUND)
def take_back_note(session: Db, child_id: RecordId, note_id: RecordId) -> None:
    """Take a note back."""
    classes.take_back_note(session, child_id, note_id)


@router.get(
    "/{child_id}/ink.inkml",
    response_class=Response,
    responses={
        200: {"content": {"application/inkml+xml": {}}, "description": "All ink, InkML."},
        **NOT_FOUND,
    },
)
def export_ink(session: Db, child_id: RecordId) -> Response:
    """All ink a child has written, as InkML in millimetres, oldest first."""
    child = classes.get_child(session, child_id)
    groups = [group for row in reversed(find_rows(session, child_id=child_id)) for group in row_groups(row)]
    return _download(write_inkml(groups), "application/inkml+xml", f"{child_name(child)}-ink.inkml")


PDF = {"content": {"application/pdf": {}}, "description": "PDF, A4."}
ZIP = {"content": {"application/zip": {}}, "description": "InkML, JSON, CSV and PDF in one file."}


def _download(data: bytes, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}"}
    return Response(data, media_type=media_type, headers=headers)


@router.get("/{child_id}/report.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_report(session: Db, on: Today, child_id: RecordId) -> Response:
    """A page for a parent and a page with figures."""
    name = child_name(classes.get_child(session, child_id))
    return _download(child_report(session, child_id, on), "application/pdf", f"{name}-report.pdf")


@router.get("/{child_id}/practice.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_practice(session: Db, on: Today, child_id: RecordId) -> Response:
    """The two letters most due, to practise at home."""
    name = child_name(classes.get_child(session, child_id))
    return _download(practice_strip(session, child_id, on), "application/pdf", f"{name}-practice.pdf")


@router.get("/{child_id}/export.zip", response_class=Response, responses={200: ZIP, **NOT_FOUND})
def get_export(
    session: Db, settings: SettingsDep, beside: BesideDep, on: Today, child_id: RecordId
) -> Response:
    """Everything of one child, to read or to take into another First Loop."""
    name = child_name(classes.get_child(session, child_id))
    data = beside.run(EXPORT_PATIENCE_S, exported_child, settings.database, child_id, on)
    return _download(data, "application/zip", f"{name}.zip")


@router.patch("/{child_id}", responses=NOT_FOUND)
def change_child(session: Db, child_id: RecordId, given: ChildChange) -> ChildOut:
    """Be more or less strict with one child from now on, or write down its hand and what to mind with it."""
    child = classes.get_child(session, child_id)
    if "level" in given.model_fields_set:
        child.level = given.level
    if given.hand is not None:
        child.hand = given.hand
    if given.caution is not None:
        child.caution = given.caution
    session.commit()
    return child_out(child)


@router.delete("/{child_id}", status_code=204, responses=NOT_FOUND)
def erase_child(session: Db, child_id: RecordId) -> None:
    """Erase a child with all rows, ink, results and marks; there is no way back."""
    classes.erase_child(session, child_id)
