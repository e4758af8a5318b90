"""Everything kept of one child, as plain documents: taken out, and put in elsewhere."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from firstloop.store.base import LINES
from firstloop.store.errors import ConflictError
from firstloop.store.page_records import add_pages, pages_document
from firstloop.store.sheets import add_copies, copies_document
from firstloop.store.tables import (
    Attempt,
    Child,
    DictatedWord,
    HouseStyleRow,
    Mark,
    Note,
    Result,
    Row,
    SchoolClass,
    Watched,
    WrittenWord,
)

Document = dict[str, Any]
_ROW = (
    "letter",
    "started_at",
    "finished_at",
    *LINES,
    "support",
    "next_code",
)
_ATTEMPT = (
    "key",
    "position",
    "support",
    "written_at",
    "ink",
    "evidence",
    "crossed_out",
    "best",
    "teachers_best",
)
_RESULT = ("checker", "level", "verdict", "document", "error", "current")
_WORD = (
    "text",
    "started_at",
    *LINES,
    "ink",
    "evidence",
    "crossed_out",
    "checker",
    "level",
    "document",
    "measures",
    "error",
    "earlier",
    "looked_at",
)
_DICTATED = ("position", "text", "units", "at", "tries")
_CHILD = ("first_name", "initial", "hand", "level", "caution")
_ROWS_AT_ONCE = 200


def _fields(record: object, names: Iterable[str]) -> Document:
    return {name: getattr(record, name) for name in names}


def rows_of(session: Session, child_id: int) -> Sequence[Row]:
    """All rows of a child with everything on them, oldest first."""
    load = selectinload(Row.attempts)
    return session.scalars(
        select(Row)
        .where(Row.child_id == child_id)
        .order_by(Row.started_at, Row.id)
        .options(load.selectinload(Attempt.results), load.selectinload(Attempt.mark), selectinload(Row.style))
    ).all()


def child_records(session: Session, child: Child) -> Document:
    """A child as a document. Steps that could be undone are left out; every result is in it."""
    styles: dict[int, HouseStyleRow] = {}
    rows = []
    for row in rows_of(session, child.id):
        styles[row.style_id] = row.style
        rows.append({**_fields(row, _ROW), "style": row.style_id, "attempts": _attempts(row)})
    kept = [one for one in child.words if one.ink is not None]
    words = [{**_fields(one, _WORD), "style": one.style_id} for one in kept]
    place = {one.id: number for number, one in enumerate(kept)}
    styles |= {one.style_id: one.style for one in child.words}
    return {
        "child": _fields(child, _CHILD),
        "styles": {
            str(number): {"name": one.name, "version": one.version, "document": one.document}
            for number, one in styles.items()
        },
        "rows": rows,
        "words": words,
        "dictated": [
            {**_fields(one, _DICTATED), "word": None if one.word_id is None else place.get(one.word_id)}
            for one in child.dictated
        ],
        "watched": [_fields(one, ("letter", "seen", "at")) for one in child.watched],
        "notes": [_fields(one, ("at", "text")) for one in child.notes],
        "sheets": copies_document(session, child.id),
        "pages": pages_document(session, child.id, place),
    }


def _attempts(row: Row) -> list[Document]:
    return [
        {
            **_fields(one, _ATTEMPT),
            "mark": None if one.mark is None else _fields(one.mark, ("verdict", "made_at")),
            "results": [_fields(result, _RESULT) for result in one.results],
        }
        for one in row.attempts
    ]


def row_from(document: Document, child_id: int, style_id: int) -> Row:
    """A row with everything on it, not yet in the records; its evidence is still to be worked out."""
    attempts = []
    for one in document["attempts"]:
        mark = None if one["mark"] is None else Mark(**one["mark"])
        attempts.append(
            Attempt(
                **_take(one, _ATTEMPT),
                mark=mark,
                results=[Result(**_take(r, _RESULT)) for r in one["results"]],
            )
        )
    return Row(child_id=child_id, style_id=style_id, attempts=attempts, **_take(document, _ROW))


def _take(document: Document, names: Iterable[str]) -> Document:
    return {name: document[name] for name in names}


def add_child_records(session: Session, into: SchoolClass, document: Document, at: datetime) -> Child:
    """Put a child taken out elsewhere into a class; all of it or nothing.

    Raises
    ------
    ConflictError
        If the class has a child of that name, or some of the ink is in the records already.
    """
    own = document["child"]
    if any(c.first_name == own["first_name"] and c.initial == own["initial"] for c in into.children):
        raise ConflictError(f"{own['first_name']} {own['initial']} is already in {into.name}.")
    keys = [one["key"] for row in document["rows"] for one in row["attempts"]]
    for first in range(0, len(keys), _ROWS_AT_ONCE):
        known = select(Attempt.key).where(Attempt.key.in_(keys[first : first + _ROWS_AT_ONCE])).limit(1)
        if session.scalar(known) is not None:
            raise ConflictError("Some of this ink is in the records already; nothing was changed.")
    child = Child(class_id=into.id, **_take(own, _CHILD))
    session.add(child)
    session.flush()
    styles = {number: _style(session, one, at) for number, one in document["styles"].items()}
    session.add_all(row_from(row, child.id, styles[str(row["style"])].id) for row in document["rows"])
    words = [
        WrittenWord(child_id=child.id, style_id=styles[str(one["style"])].id, **_take(one, _WORD))
        for one in document["words"]
    ]
    session.add_all(words)
    session.add_all(
        DictatedWord(
            child_id=child.id,
            word=None if one["word"] is None else words[one["word"]],
            **_take(one, _DICTATED),
        )
        for one in document["dictated"]
    )
    session.add_all(Watched(child_id=child.id, **one) for one in document["watched"])
    session.add_all(Note(child_id=child.id, **one) for one in document["notes"])
    add_copies(session, into.id, child.id, document["sheets"])
    session.flush()
    add_pages(session, child, document["pages"], [word.id for word in words])
    session.commit()
    session.refresh(into, ["children"])
    return child


def _style(session: Session, document: Document, at: datetime) -> HouseStyleRow:
    """The style a row was written in: one that is here already and is the same, else a new one."""
    for known in session.scalars(select(HouseStyleRow)):
        if known.document == document["document"]:
            return known
    style = HouseStyleRow(
        name=document["name"], version=document["version"], document=document["document"], made_at=at
    )
    session.add(style)
    session.flush()
    style.lineage = style.id
    return style
