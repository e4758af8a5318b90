"""A class of 30 over three years, made up of a few written ones: records to measure the map and a story on.

One in five days of a letter is taken from a handful of written rows, so that documents have their true
size; what is measured is reading, not judging.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import numpy as np
from sqlalchemy import insert, text
from sqlalchemy.orm import Session

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.progress.measured import measured_of_text
from firstloop.core.ruling import ruling_kind
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.formats.check_json import group_document, letter_document
from firstloop.services.evidence import work_out_all
from firstloop.services.ink import from_stroke
from firstloop.store import classes
from firstloop.store.base import line_columns
from firstloop.store.tables import Attempt, Result, Row, WrittenWord

CHILDREN, LETTERS_A_ROW = 30, 6
BEGIN = datetime(2023, 9, 4, 9, 0, tzinfo=UTC)
SCHOOL_WEEKS = 39 * 3
CHARS = "".join(char for key in ("lower case", "capitals", "digits") for char in ALPHABETS[key])
WORDS_A_WEEK = 3
_WRITTEN = 2  # true letters of each kind that the rest are copies of


def three_years(
    session: Session, attempts: int, told: Callable[[int], None] = lambda done: None, seed: int = 1
) -> int:
    """Fill an empty database with one class; returns its id."""
    session.execute(text("PRAGMA synchronous=OFF"))
    rng = np.random.default_rng(seed)
    made = classes.add_class(session, "Class of three years", DEFAULT_STYLE, "four-lines", 10.0, "growing")
    children = [
        classes.add_child(session, made.id, f"Child{chr(97 + k % 26)}", chr(65 + k // 26), "right").id
        for k in range(CHILDREN)
    ]
    lines = line_columns("four-lines", ruling_kind("four-lines").ruled(10.0, top_mm=4.0))
    kinds = {char: [_letter(char, rng) for _ in range(_WRITTEN)] for char in CHARS}
    words = [_word(text, rng) for text in ("mint", "sand", "gull", "hunt in mud")]
    rows = attempts // LETTERS_A_ROW
    per_child = rows // CHILDREN
    row_id = attempt_id = 0
    for child in children:
        row_list, attempt_list, result_list = [], [], []
        for n in range(per_child):
            week = n * SCHOOL_WEEKS // per_child
            at = BEGIN + timedelta(weeks=week * 52 // 39, days=int(n % 5), minutes=int(n % 50))
            char = CHARS[int(rng.integers(len(CHARS)))]
            row_id += 1
            row_list.append(
                {"id": row_id, "child_id": child, "letter": char, "started_at": at, "finished_at": at}
                | {"style_id": made.style_id, "support": ["alone"] * LETTERS_A_ROW}
                | lines
            )
            for place in range(LETTERS_A_ROW):
                attempt_id += 1
                ink, verdict, document = kinds[char][int(rng.integers(_WRITTEN))]
                attempt_list.append(
                    {"id": attempt_id, "row_id": row_id, "key": f"k{attempt_id:08d}", "position": place}
                    | {"support": "alone", "written_at": at, "ink": ink}
                )
                result_list.append(
                    {"attempt_id": attempt_id, "checker": "2", "verdict": verdict, "document": document}
                )
        session.execute(insert(Row), row_list)
        session.execute(insert(Attempt), attempt_list)
        session.execute(insert(Result), result_list)
        session.execute(
            insert(WrittenWord),
            [
                {"child_id": child, "started_at": BEGIN + timedelta(weeks=week * 52 // 39, days=place)}
                | {"style_id": made.style_id, "checker": "3", "level": "growing"}
                | lines
                | words[int(rng.integers(len(words)))]
                for week in range(SCHOOL_WEEKS)
                for place in range(WORDS_A_WEEK)
            ],
        )
        work_out_all(session)
        session.expunge_all()
        told(attempt_id)
    return made.id


def _word(text: str, rng: np.random.Generator) -> dict:
    ruling = ruling_kind("four-lines").ruled(10.0, top_mm=4.0)
    group = write_text(text, rng, ruling=ruling, left_mm=10.0)
    result = check_group(group)
    ink = [from_stroke(stroke) for stroke in group.strokes]
    measures = measured_of_text(result.measures, ruling.xh_mm)
    return {"text": text, "ink": ink, "document": group_document(result, ruling), "measures": measures}


def _letter(char: str, rng: np.random.Generator) -> tuple[list[dict], str, dict]:
    ruling = ruling_kind("four-lines").ruled(10.0, top_mm=4.0)
    group = write(char, rng, ruling=ruling, left_mm=4.0)
    result = check_letter(group, char)
    ink = [from_stroke(stroke) for stroke in group.strokes]
    return ink, result.verdict, letter_document(result, ruling)
