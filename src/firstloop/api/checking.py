"""Checking: the queue, how a letter was judged, and where marks and checks differ."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

import numpy as np
from pydantic import BaseModel
from sqlalchemy.orm import Session

from firstloop.api.looking import agreed_edits, row_summary
from firstloop.api.schemas import PointList, RowSummary
from firstloop.api.settling import settle_all
from firstloop.api.writing import attempt_group
from firstloop.core.check.advice import worry
from firstloop.core.check.agreement import Marked, agreement
from firstloop.core.check.codes import CODES
from firstloop.core.check.explain import explain
from firstloop.core.check.grades import Level
from firstloop.core.check.letter import build_case
from firstloop.core.check.limits import too_much
from firstloop.core.check.shape import nearest_readings
from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.alphabets import ALPHABETS, alphabet_of
from firstloop.core.ruling import Ruling
from firstloop.formats.check_json import page_points
from firstloop.store import rows as store
from firstloop.store.classes import get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.styles import house_style
from firstloop.store.tables import Row

Order = Literal["newest", "worrying"]


class QueueOut(BaseModel):
    """Rows that wait for the teacher's mark, in the order asked for."""

    rows: list[RowSummary]


class MoveInkOut(BaseModel):
    """A phrase of the model and the ink that answers to it, page millimetres."""

    words: str
    stroke: int
    first_move: int
    last_move: int
    runs: list[PointList]


class ArrowOut(BaseModel):
    """Which way the pen went at a place of the ink: page millimetres; degrees, clockwise from the right."""

    x: float
    y: float
    heading_deg: float


class ReadingOut(BaseModel):
    """A letter the ink might be taken for; the smaller the cost the likelier."""

    letter: str
    cost_xh: float


class ExplainedOut(BaseModel):
    """How one attempt was judged: the correspondence, the model laid on the child's letter, the pen's way.

    ``readings`` are the letters that it looks most like.
    """

    moves: list[MoveInkOut]
    model: list[PointList]
    starts: PointList
    arrows: list[ArrowOut]
    readings: list[ReadingOut]


class ProposalOut(BaseModel):
    """A tolerance at which the checker would say what the teacher said; values at the level "growing"."""

    tolerance: float
    ticked: int
    looked_at: int
    lowest: float
    highest: float


class SeenOut(BaseModel):
    """A value the checker told alone on a marked attempt, and whether the teacher let it pass."""

    value: float
    let_pass: bool


class AgreementOut(BaseModel):
    """How often the teacher agreed with one code, and what it allows."""

    code: str
    heading: str
    name: str
    unit: str
    agreed: int
    looked_at: int
    tolerance: float | None
    house_tolerance: float | None
    proposal: ProposalOut | None
    seen: list[SeenOut]


class TrustOut(BaseModel):
    """The teacher's marks against the checker's verdicts, and the tolerances the class has taken over."""

    marked: int
    agreed: int
    codes: list[AgreementOut]
    own: dict[str, float]


def queue(session: Session, class_id: int, order: Order) -> QueueOut:
    """Rows with an attempt that has no mark yet."""
    waiting = [row_summary(row) for row in store.waiting_rows(session, get_class(session, class_id).id)]
    if order == "worrying":
        waiting.sort(key=lambda row: -worry([verdict for verdict in row.verdicts if verdict]))
    return QueueOut(rows=waiting)


def agree(session: Session, class_id: int, row_ids: list[int], at: datetime) -> list[RowSummary]:
    """Take the checker's verdicts as marks in several rows of a class.

    Raises
    ------
    NotFoundError
        If a row is not of the class; nothing is changed.
    """
    found = [store.get_row(session, row_id) for row_id in dict.fromkeys(row_ids)]
    for row in found:
        if row.child.class_id != class_id:
            raise NotFoundError("row in this class", row.id)
    for row in found:
        if agreed := agreed_edits(row):
            store.change(session, row, agreed, at)
    settle_all(session)
    return [row_summary(row) for row in found]


def _lists(runs: tuple[FloatArray, ...], ruling: Ruling) -> list[PointList]:
    return [page_points(run, ruling) for run in runs]


def explained(row: Row, attempt_id: int) -> ExplainedOut:
    """How an attempt of a row was judged.

    Raises
    ------
    NotFoundError
        If the attempt is not in the row.
    ConflictError
        If the ink could not be judged.
    """
    attempt = next((one for one in row.attempts if one.id == attempt_id), None)
    if attempt is None:
        raise NotFoundError("attempt in this row", attempt_id)
    if row.letter in ALPHABETS["marks"] or (attempt.result and not attempt.result.document):
        raise ConflictError("This ink could not be judged, so there is nothing to explain. It is kept.")
    style, ruling = house_style(row), row.lines
    group = attempt_group(attempt, row, str(style.script))
    if too_much(group):
        raise ConflictError("This is more ink than a letter has, so there is nothing to explain. It is kept.")
    case = build_case(group, row.letter, style)
    found = explain(case)
    alphabet = "".join(ALPHABETS[alphabet_of(row.letter)])
    places = [arrow for stroke in found.chevrons for arrow in stroke]
    where = page_points(np.array([[arrow.x, arrow.y] for arrow in places]).reshape(-1, 2), ruling)
    return ExplainedOut(
        moves=[
            MoveInkOut(
                words=move.words,
                stroke=move.stroke,
                first_move=move.first_move,
                last_move=move.last_move,
                runs=_lists(move.runs, ruling),
            )
            for move in found.moves
        ],
        model=_lists(found.model, ruling),
        starts=page_points(np.array(found.starts), ruling),
        arrows=[
            ArrowOut(x=x, y=y, heading_deg=-arrow.heading_deg)
            for (x, y), arrow in zip(where, places, strict=True)
        ],
        readings=[
            ReadingOut(letter=char, cost_xh=round(cost, 4))
            for char, cost in nearest_readings(case, style, alphabet)
        ],
    )


def trust(session: Session, class_id: int) -> TrustOut:
    """Where the teacher's marks and the checker's verdicts differ in a class, code by code."""
    school_class = get_class(session, class_id)
    own = school_class.tolerances
    both = store.marked_results(session, class_id)
    marked = [
        Marked(
            tuple((f["code"], f["value"]) for f in document.get("findings", []) if f["severity"] != "told"),
            mark,
            Level(level),
        )
        for document, level, mark in both
    ]
    return TrustOut(
        marked=len(both),
        agreed=sum(document.get("verdict") == mark for document, _, mark in both),
        codes=[
            AgreementOut(
                code=one.code,
                heading=str(CODES[one.code].heading),
                name=code_name(one.code),
                unit=CODES[one.code].unit,
                agreed=one.agreed,
                looked_at=one.looked_at,
                tolerance=one.tolerance,
                house_tolerance=CODES[one.code].tolerance,
                proposal=None if one.proposal is None else ProposalOut(**vars(one.proposal)),
                seen=[SeenOut(value=value, let_pass=let_pass) for value, let_pass in one.seen],
            )
            for one in agreement(marked, own)
        ],
        own=own,
    )


def take_over(session: Session, class_id: int, code: str, tolerance: float | None) -> TrustOut:
    """Let a class have its own tolerance for a code from now on; None goes back to the house's.

    Raises
    ------
    NotFoundError
        If there is no such class or code.
    ConflictError
        If the code has no tolerance, or this one is not between half and twice the house's.
    """
    spec = CODES.get(code)
    if spec is None:
        raise NotFoundError("code", code)
    if tolerance is not None:
        if not spec.tolerance:
            raise ConflictError(f"{code} has no tolerance to change.")
        if not spec.tolerance / 2 <= tolerance <= spec.tolerance * 2:
            raise ConflictError("A tolerance may be between half and twice the house's.")
    school_class = get_class(session, class_id)
    own = {key: value for key, value in school_class.tolerances.items() if key != code}
    school_class.tolerances = own if tolerance is None else {**own, code: tolerance}
    session.commit()
    return trust(session, class_id)


def code_name(code: str) -> str:
    """A code in plain words: "start high"."""
    return code.replace(".", " ").replace("-", " ")
