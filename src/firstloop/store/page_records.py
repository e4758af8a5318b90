"""Pages that came back, as they go along with the records of their child."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from firstloop.store.base import LINES
from firstloop.store.page_tables import PageEntry, ReturnedPage
from firstloop.store.tables import Attempt, Child

Document = dict[str, Any]
_PAGE = (
    "status",
    "came_at",
    "sheet",
    "page",
    "layout",
    "style",
    "ruling",
    "turned_deg",
    "dpi",
    "residual_mm",
    "written_on",
    "agreed_at",
    "straight",
)
_PLACE = (
    "key",
    "row",
    "place",
    "expected",
    "support",
    "box",
    *LINES,
    "found",
    "ticked",
    "decided",
    "ink",
    "level",
    "checker",
    "document",
    "moved_mm",
    "mark",
    "teachers_best",
)
_IDS_AT_ONCE = 500


def pages_document(session: Session, child_id: int, words: Mapping[int, int]) -> list[Document]:
    """Pages of a child that could be read, without the pictures they were found in: others may be in these.

    Parameters
    ----------
    words : mapping
        The place of each of the child's words in the same document, by its number.
    """
    pages = session.scalars(
        select(ReturnedPage)
        .where(
            ReturnedPage.child_id == child_id,
            ReturnedPage.dropped_at.is_(None),
            ReturnedPage.layout.is_not(None),
        )
        .order_by(ReturnedPage.id)
        .options(selectinload(ReturnedPage.entries).selectinload(PageEntry.attempt))
    )
    return [
        {
            **{name: getattr(page, name) for name in _PAGE},
            "copy_number": page.copy,
            "places": [_place(entry, words) for entry in page.entries],
        }
        for page in pages
    ]


def _place(entry: PageEntry, words: Mapping[int, int]) -> Document:
    return {
        **{name: getattr(entry, name) for name in _PLACE},
        "attempt": None if entry.attempt is None else entry.attempt.key,
        "word": None if entry.word_id is None else words.get(entry.word_id),
    }


def add_pages(session: Session, child: Child, documents: Sequence[Document], word_ids: Sequence[int]) -> None:
    """Put pages back whose letters and words are in the records by now.

    Parameters
    ----------
    word_ids : sequence of int
        The numbers of the child's words, in the order of the document.
    """
    keys = [one["attempt"] for page in documents for one in page["places"] if one["attempt"]]
    numbers: dict[str, int] = {}
    for first in range(0, len(keys), _IDS_AT_ONCE):
        some = Attempt.key.in_(keys[first : first + _IDS_AT_ONCE])
        numbers |= {
            key: number for key, number in session.execute(select(Attempt.key, Attempt.id).where(some))
        }
    for document in documents:
        page = ReturnedPage(
            child_id=child.id,
            class_id=child.class_id,
            copy=document["copy_number"],
            steps=[],
            **{name: document[name] for name in _PAGE},
        )
        page.entries = [
            PageEntry(
                attempt_id=numbers.get(one["attempt"]),
                word_id=None if one["word"] is None else word_ids[one["word"]],
                **{name: one[name] for name in _PLACE},
            )
            for one in document["places"]
        ]
        session.add(page)
