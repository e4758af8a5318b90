"""How one letter was judged: which ink answers to which move, and the model laid on the child's letter."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.check.ink.limits import too_much
from firstloop.core.check.match.cases import build_case
from firstloop.core.check.recognise.readings import nearest_readings
from firstloop.core.curves import FloatArray
from firstloop.core.ink import Evidence
from firstloop.core.letterforms.alphabets import ALPHABETS, alphabet_of
from firstloop.core.ruling import Ruling
from firstloop.core.teaching.explain import explain
from firstloop.formats.check_json import page_points
from firstloop.services.ink import attempt_ink
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.rows import get_row
from firstloop.store.styles import house_style
from firstloop.text.movement import short

Points = list[list[float]]


@dataclass(frozen=True)
class MoveInkView:
    """A phrase of the model and the ink that answers to it, page millimetres."""

    words: str
    stroke: int
    first_move: int
    last_move: int
    runs: list[Points]


@dataclass(frozen=True)
class Arrow:
    """Which way the pen went at a place of the ink: page millimetres; degrees, clockwise from the right."""

    x: float
    y: float
    heading_deg: float


@dataclass(frozen=True)
class ReadingView:
    """A letter the ink might be taken for; the smaller the cost the likelier."""

    letter: str
    cost_xh: float


@dataclass(frozen=True)
class Explanation:
    """How one attempt was judged: the correspondence, the model laid on the child's letter, the pen's way.

    ``readings`` are the letters that it looks most like. Of ink from paper nobody knows the pen's way:
    there are no ``starts`` and no ``arrows`` then.
    """

    moves: list[MoveInkView]
    model: list[Points]
    starts: Points
    arrows: list[Arrow]
    readings: list[ReadingView]


def _lists(runs: tuple[FloatArray, ...], ruling: Ruling) -> list[Points]:
    return [page_points(run, ruling) for run in runs]


def explained(session: Session, row_id: int, attempt_id: int) -> Explanation:
    """How an attempt of a row was judged.

    Raises
    ------
    NotFoundError
        If the attempt is not in the row.
    ConflictError
        If the ink could not be judged.
    """
    row = get_row(session, row_id)
    attempt = next((one for one in row.attempts if one.id == attempt_id), None)
    if attempt is None:
        raise NotFoundError("attempt in this row", attempt_id)
    if row.letter in ALPHABETS["marks"] or (attempt.result and not attempt.result.document):
        raise ConflictError("This ink could not be judged, so there is nothing to explain. It is kept.")
    style, ruling, ink = house_style(row), row.lines, attempt_ink(attempt, row)
    if too_much(ink):
        raise ConflictError("This is more ink than a letter has, so there is nothing to explain. It is kept.")
    case = build_case(ink, row.letter, style)
    found = explain(case)
    alphabet = "".join(ALPHABETS[alphabet_of(row.letter)])
    by_pen = ink.evidence is Evidence.INK
    places = [arrow for stroke in found.chevrons for arrow in stroke] if by_pen else []
    where = page_points(np.array([[arrow.x, arrow.y] for arrow in places]).reshape(-1, 2), ruling)
    return Explanation(
        moves=[
            MoveInkView(
                words=short(move.phrase),
                stroke=move.phrase.stroke,
                first_move=move.phrase.first_move,
                last_move=move.phrase.last_move,
                runs=_lists(move.runs, ruling),
            )
            for move in found.moves
        ],
        model=_lists(found.model, ruling),
        starts=page_points(np.array(found.starts), ruling) if by_pen else [],
        arrows=[
            Arrow(x=x, y=y, heading_deg=-arrow.heading_deg)
            for (x, y), arrow in zip(where, places, strict=True)
        ],
        readings=[
            ReadingView(char, round(cost, 4)) for char, cost in nearest_readings(case, style, alphabet)
        ],
    )
