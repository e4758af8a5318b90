"""A stand-in for a tablet's pen: writes the next attempt of a row as the child wrote it before."""

from __future__ import annotations

import numpy as np
from sqlalchemy.orm import Session

from firstloop.api.ink import from_stroke
from firstloop.api.schemas import StrokeInk
from firstloop.api.writing import attempt_group
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.simulate.writer import write
from firstloop.core.slots import letter_left_xh, slot_width_xh
from firstloop.store.rows import find_rows
from firstloop.store.styles import house_style
from firstloop.store.tables import Row


def pen_ink(session: Session, row: Row) -> list[StrokeInk]:
    """Strokes for the next slot of `row`, page millimetres and milliseconds from zero.

    An earlier attempt of the same child at the same letter is written again where there is one;
    else the simulated writer writes the letter.
    """
    slot = len(row.attempts)
    earlier = [
        (attempt.position, attempt_group(attempt, one))
        for one in find_rows(session, child_id=row.child_id, letter=row.letter, limit=3)
        if one.id != row.id
        for attempt in one.attempts
        if not attempt.crossed_out
    ]
    model = letter(row.letter, house_style(row))
    if earlier:
        position, group = earlier[slot % len(earlier)]
        away_mm = slot_width_xh(model) * (slot - position) * row.lines.xh_mm
        return [from_stroke(stroke) for stroke in _moved(group, away_mm)]
    ruling = row.lines
    left_mm = letter_left_xh(model, slot) * ruling.xh_mm
    written = write(
        row.letter,
        np.random.default_rng(row.id * 100 + slot),
        style=house_style(row),
        ruling=ruling,
        left_mm=left_mm,
    )
    return [from_stroke(stroke) for stroke in written.strokes]


def _moved(group: InkGroup, dx_mm: float) -> list[InkStroke]:
    starts = [float(s.t_ms[0]) for s in group.strokes if s.t_ms is not None]
    begin = min(starts, default=0.0)
    return [
        InkStroke(s.points_mm + np.array([dx_mm, 0.0]), None if s.t_ms is None else s.t_ms - begin, s.force)
        for s in group.strokes
    ]
