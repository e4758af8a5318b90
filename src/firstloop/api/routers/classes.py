"""Classes and their overview."""

from __future__ import annotations

from fastapi import APIRouter

from firstloop.api.deps import Db
from firstloop.api.errors import BAD_RULING, CONFLICT, NOT_FOUND
from firstloop.api.progress import ClassMapOut, class_map
from firstloop.api.schemas import ChildIn, ChildOut, ClassIn, ClassOut, RecordId
from firstloop.api.writing import child_out, class_out
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import ruling_kind
from firstloop.store import classes as store

router = APIRouter(prefix="/classes", tags=["classes"])


@router.get("")
def list_classes(session: Db) -> list[ClassOut]:
    """Every class with its children."""
    return [class_out(one) for one in store.all_classes(session)]


@router.post("", status_code=201, responses={**CONFLICT, **BAD_RULING})
def add_class(session: Db, given: ClassIn) -> ClassOut:
    """Add a class that writes print on the given ruling."""
    ruling_kind(given.ruling).ruled(given.xh_mm)
    return class_out(
        store.add_class(session, given.name, HouseStyle(), given.ruling, given.xh_mm, given.level)
    )


@router.post("/{class_id}/children", status_code=201, responses={**NOT_FOUND, **CONFLICT})
def add_child(session: Db, class_id: RecordId, given: ChildIn) -> ChildOut:
    """Add a child by first name and initial."""
    return child_out(store.add_child(session, class_id, given.first_name, given.initial, given.hand))


@router.get("/{class_id}/map", responses=NOT_FOUND)
def get_class_map(session: Db, class_id: RecordId) -> ClassMapOut:
    """How every child stands in every letter, from the two latest rows of each."""
    return class_map(session, class_id)
