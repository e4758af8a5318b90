"""Children: their letters over time, their ink to take away, and their erasure."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import APIRouter, Response

from firstloop.api.deps import Db
from firstloop.api.errors import NOT_FOUND
from firstloop.api.progress import ChildPageOut, LetterHistoryOut, child_page, letter_history
from firstloop.api.schemas import ChildChange, ChildOut, LetterChar, RecordId
from firstloop.api.writing import child_out, row_groups
from firstloop.formats.inkml import write_inkml
from firstloop.store import classes
from firstloop.store.rows import find_rows

router = APIRouter(prefix="/children", tags=["children"])


@router.get("/{child_id}", responses=NOT_FOUND)
def get_child(session: Db, child_id: RecordId) -> ChildPageOut:
    """A child with the state of every letter written so far."""
    return child_page(session, child_id)


@router.get("/{child_id}/letters/{char}", responses=NOT_FOUND)
def get_letter_history(session: Db, child_id: RecordId, char: LetterChar) -> LetterHistoryOut:
    """Every attempt of one letter, oldest first."""
    return letter_history(session, child_id, char)


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
    name = f"{child.first_name}-{child.initial}-ink.inkml"
    return Response(
        write_inkml(groups),
        media_type="application/inkml+xml",
        headers={"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}"},
    )


@router.patch("/{child_id}", responses=NOT_FOUND)
def change_child(session: Db, child_id: RecordId, given: ChildChange) -> ChildOut:
    """Be more or less strict with one child from now on."""
    child = classes.get_child(session, child_id)
    child.level = given.level
    session.commit()
    return child_out(child)


@router.delete("/{child_id}", status_code=204, responses=NOT_FOUND)
def erase_child(session: Db, child_id: RecordId) -> None:
    """Erase a child with all rows, ink, results and marks; there is no way back."""
    classes.erase_child(session, child_id)
