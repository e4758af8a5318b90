"""Dictations: made, written on a tablet, marked unit by unit."""

from __future__ import annotations

from typing import Annotated

from fastapi import Response
from pydantic import Field

from firstloop.api.deps import Day, Db, Now, Today
from firstloop.api.given import Given, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.errors import BAD_FILE, CONFLICT, NOT_FOUND
from firstloop.core.words.dictation import BOX_MOST, TRIES_MOST
from firstloop.services import dictations, unit_states
from firstloop.services.dictations import WORDS_MOST, DictatedView, DictationSummary, DictationView
from firstloop.services.unit_states import ChildUnits, UnitMap
from firstloop.services.written_words import WordView

router = resource("dictations")
PDF = {"content": {"application/pdf": {}}, "description": "PDF, A4."}


class DictationIn(Given):
    """Words to be read out, each as it is written or with its units (``sh-e-ll``)."""

    words: list[Annotated[str, Field(min_length=1, max_length=40)]] = Field(
        min_length=1, max_length=WORDS_MOST
    )


class WhichWord(Given):
    """A word of a dictation with a child."""

    child_id: RecordId
    position: int = Field(ge=0, lt=WORDS_MOST)


class MarkIn(WhichWord):
    """For each writing the sound boxes to mend, counted from 0; no writing takes the marks back."""

    tries: list[Annotated[list[Annotated[int, Field(ge=0, lt=BOX_MOST)]], Field(max_length=BOX_MOST)]] = (
        Field(max_length=TRIES_MOST)
    )


@router.get("/classes/{class_id}/dictations", responses=NOT_FOUND)
def list_dictations(session: Db, class_id: RecordId) -> list[DictationSummary]:
    """The latest dictations of a class."""
    return dictations.every(session, class_id)


@router.post("/classes/{class_id}/dictations", status_code=201, responses={**NOT_FOUND, **BAD_FILE})
def make_dictation(session: Db, at: Now, class_id: RecordId, given: DictationIn) -> DictationView:
    """Make a dictation of some words."""
    return dictations.make(session, class_id, given.words, at)


@router.get("/classes/{class_id}/units", responses=NOT_FOUND)
def get_unit_map(session: Db, today: Today, class_id: RecordId, on: Day | None = None) -> UnitMap:
    """Every child of a class with the state of every sound that was dictated."""
    return unit_states.class_map(session, class_id, on or today)


@router.get("/children/{child_id}/units", responses=NOT_FOUND)
def get_child_units(session: Db, on: Today, child_id: RecordId) -> ChildUnits:
    """The sounds of a child, and what to do next with them."""
    return unit_states.of_child(session, child_id, on)


@router.get("/dictations/{dictation_id}", responses=NOT_FOUND)
def get_dictation(session: Db, dictation_id: RecordId) -> DictationView:
    """A dictation with what became of it."""
    return dictations.view(session, dictation_id)


@router.get("/dictations/{dictation_id}/page.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND})
def get_dictation_page(session: Db, dictation_id: RecordId) -> Response:
    """A page to write it on by hand: sound boxes and lines, and no word."""
    return Response(dictations.page(session, dictation_id), media_type="application/pdf")


@router.delete("/dictations/{dictation_id}", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def drop_dictation(session: Db, dictation_id: RecordId) -> None:
    """Take a dictation back of which nothing is marked or written."""
    dictations.drop(session, dictation_id)


@router.put("/dictations/{dictation_id}/marks", responses={**NOT_FOUND, **BAD_FILE})
def mark_dictated(session: Db, at: Now, dictation_id: RecordId, given: MarkIn) -> DictatedView:
    """Say which sounds of a word a child has to mend."""
    return dictations.mark(session, dictation_id, given.child_id, given.position, given.tries, at)


@router.post("/dictations/{dictation_id}/written", status_code=201, responses=NOT_FOUND)
def write_dictated(session: Db, at: Now, dictation_id: RecordId, given: WhichWord) -> WordView:
    """Ask a child to write a dictated word on a tablet; one written before gets a line through it."""
    return dictations.write(session, dictation_id, given.child_id, given.position, at)
