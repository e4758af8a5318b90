"""A stand-in for a tablet's pen: the ink that it would write next, in true time."""

from __future__ import annotations

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.core.slots import letter_left_xh, slot_width_xh
from firstloop.services.ink import KeptStroke, attempt_ink, from_stroke
from firstloop.services.written_words import LEFT_XH
from firstloop.store import rows as row_store
from firstloop.store.styles import house_style
from firstloop.store.written import get_word

KeptStrokes = list[KeptStroke]


def next_letter(session: Session, row_id: int) -> KeptStrokes:
    """Strokes for the next slot of a row, page millimetres and milliseconds from zero.

    An earlier attempt of the same child at the same letter is written again where there is one;
    else the simulated writer writes the letter.

    Raises
    ------
    NotFoundError
    """
    row = row_store.get_row(session, row_id)
    written = len(row.attempts)
    slot = 0 if row.layered else written
    earlier = [
        (attempt.position, attempt_ink(attempt, one))
        for one in row_store.find_rows(session, child_id=row.child_id, letter=row.letter, limit=3)
        if one.id != row.id
        for attempt in one.attempts
        if not attempt.crossed_out
    ]
    style, ruling = house_style(row), row.lines
    model = letter(row.letter, style)
    if earlier:
        position, group = earlier[written % len(earlier)]
        away_mm = slot_width_xh(model) * (slot - position) * ruling.xh_mm
        return [from_stroke(stroke) for stroke in _moved(group, away_mm)]
    rng = np.random.default_rng(row.id * 100 + written)
    left_mm = letter_left_xh(model, slot) * ruling.xh_mm
    ink = write(row.letter, rng, style=style, ruling=ruling, left_mm=left_mm)
    return [from_stroke(stroke) for stroke in ink.strokes]


def whole_word(session: Session, word_id: int) -> KeptStrokes:
    """Ink for a word, page millimetres and milliseconds from zero.

    Raises
    ------
    NotFoundError
    """
    word = get_word(session, word_id)
    ruling = word.lines
    rng = np.random.default_rng(word.id)
    made = write_text(word.text, rng, style=house_style(word), ruling=ruling, left_mm=LEFT_XH * ruling.xh_mm)
    return [from_stroke(stroke) for stroke in made.strokes]


def _moved(group: InkGroup, dx_mm: float) -> list[InkStroke]:
    starts = [float(s.t_ms[0]) for s in group.strokes if s.t_ms is not None]
    begin = min(starts, default=0.0)
    return [
        InkStroke(s.points_mm + np.array([dx_mm, 0.0]), None if s.t_ms is None else s.t_ms - begin, s.force)
        for s in group.strokes
    ]
