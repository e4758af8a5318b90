"""Who opened, changed, exported and erased what, in words, for whoever has to answer for the records."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from itertools import islice
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from firstloop.store import audit as store
from firstloop.store.audit import AuditEntry
from firstloop.store.tables import Child, Row, SchoolClass, WrittenWord
from firstloop.text import room


@dataclass(frozen=True)
class AuditLine:
    """One thing that was done, in a sentence."""

    at: datetime
    says: str


def whose(session: Session, about: Mapping[str, int]) -> tuple[int | None, int | None]:
    """The child and the class that numbers in a request are about, as far as they tell."""
    child_id, class_id = about.get("child_id"), about.get("class_id")
    if child_id is None and "row_id" in about:
        child_id = session.scalar(select(Row.child_id).where(Row.id == about["row_id"]))
    if child_id is None and "word_id" in about:
        child_id = session.scalar(select(WrittenWord.child_id).where(WrittenWord.id == about["word_id"]))
    return child_id, class_id


def lines(session: Session, data_dir: Path, most: int, skip: int = 0) -> list[AuditLine]:
    """The latest things that were done."""
    found = list(islice(store.entries(data_dir), skip, skip + most))
    children = _names(session, {one.child_id for one in found if one.child_id is not None})
    classes = {one.id: one.name for one in session.scalars(select(SchoolClass))}
    return [AuditLine(one.at, _says(one, children, classes)) for one in found]


def _names(session: Session, ids: set[int]) -> dict[int, str]:
    found = session.scalars(select(Child).where(Child.id.in_(ids)))
    return {one.id: f"{one.first_name} {one.initial}" for one in found}


def _says(one: AuditEntry, children: Mapping[int, str], classes: Mapping[int, str]) -> str:
    of = ""
    if one.child_id is not None:
        of = children.get(one.child_id, "") or room.erased_child(one.child_id)
    elif one.class_id is not None:
        of = classes.get(one.class_id, "")
    return room.audited(one.who, one.verb, one.what, of)
