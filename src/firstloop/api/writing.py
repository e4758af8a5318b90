"""Keeping and judging what children write. Ink is safe before anything looks at it."""

from __future__ import annotations

import logging
from collections.abc import Callable
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.api.ink import to_group
from firstloop.api.schemas import AttemptIn, AttemptOut, ChildOut, LetterOut, RowOut, RulingLines, StrokeInk, Verdict
from firstloop.core.check.advice import Slip, one_thing
from firstloop.core.check.findings import Level
from firstloop.core.check.letter import CHECKER_VERSION, LetterResult, check_letter
from firstloop.core.letterforms.lower import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.formats.check_json import letter_document
from firstloop.store import rows as store
from firstloop.store.classes import get_child, house_style
from firstloop.store.tables import Attempt, Child, Row

log = logging.getLogger(__name__)

USUAL_SUPPORT = ["trace", "trace", "finish", "alone", "alone", "alone"]
TOP_XH = 0.4  # clear paper above the rise line
Judge = Callable[[Attempt, Row, HouseStyle, Level], LetterResult]


def start_row(session: Session, child_id: int, char: str, support: list[str], at: datetime) -> Row:
    """Begin a row on the class's ruling.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    child = get_child(session, child_id)
    school_class = child.school_class
    letter(char, house_style(school_class))
    ruling = ruling_kind(school_class.ruling).ruled(school_class.xh_mm, top_mm=TOP_XH * school_class.xh_mm)
    return store.start_row(session, child, char, at, school_class.ruling, ruling, support or USUAL_SUPPORT)


def row_ruling(row: Row) -> Ruling:
    """The lines a row was written on."""
    return Ruling(row.mid_mm, row.base_mm, row.rise_mm, row.drop_mm)


def judge(attempt: Attempt, row: Row, style: HouseStyle, level: Level) -> LetterResult:
    """Check one kept attempt."""
    strokes = [StrokeInk(**stroke) for stroke in attempt.ink]
    group = to_group(strokes, row_ruling(row), row.letter, str(style.script), row.child.hand)
    return check_letter(group, row.letter, style, level)


def keep_and_judge(session: Session, row: Row, given: AttemptIn, at: datetime, judge: Judge = judge) -> Attempt:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

    Raises
    ------
    ConflictError
        If the attempt's key is known in another row.
    """
    ink = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    attempt, new = store.keep_attempt(session, row, given.key, given.support, at, ink, given.crossed_out)
    if new:
        judge_attempt(session, attempt, row, judge)
    return attempt


def judge_attempt(session: Session, attempt: Attempt, row: Row, judge: Judge = judge) -> None:
    """Judge a kept attempt and keep the result; whatever goes wrong in checking, the ink stays."""
    school_class = row.child.school_class
    document: dict[str, Any] = {}
    try:
        result = judge(attempt, row, house_style(school_class), Level(school_class.level))
        document, verdict, error = letter_document(result, row_ruling(row)), result.verdict, None
    except Exception as problem:  # the ink is safe; say so instead of losing the row
        log.exception("checking attempt %s failed", attempt.id)
        verdict, error = "not-seen", f"{type(problem).__name__}: {problem}"
    store.keep_result(session, attempt, CHECKER_VERSION, verdict, document, error)


def child_out(child: Child) -> ChildOut:
    """A child for the wire."""
    return ChildOut(
        id=child.id,
        class_id=child.class_id,
        first_name=child.first_name,
        initial=child.initial,
        name=f"{child.first_name} {child.initial}",
        hand="left" if child.hand == "left" else "right",
    )


def attempt_verdict(attempt: Attempt) -> Verdict:
    """The verdict in records: the teacher's mark wins."""
    if attempt.mark is not None:
        return attempt.mark.verdict  # type: ignore[return-value]
    return attempt.result.verdict if attempt.result else "not-seen"  # type: ignore[return-value]


def attempt_out(attempt: Attempt) -> AttemptOut:
    """An attempt for the wire."""
    result = attempt.result
    return AttemptOut.model_validate(
        {
            "id": attempt.id,
            "position": attempt.position,
            "support": attempt.support,
            "written_at": attempt.written_at,
            "strokes": attempt.ink,
            "crossed_out": attempt.crossed_out,
            "best": attempt.best,
            "mark": attempt.mark.verdict if attempt.mark else None,
            "verdict": attempt_verdict(attempt),
            "checker": result.checker if result else None,
            "error": result.error if result else None,
            "result": LetterOut.model_validate(result.document) if result and result.document else None,
        }
    )


def next_time(row: Row) -> str:
    """The one thing to try next, from the attempts that count."""
    slips = [
        [Slip(f["code"], f["severity"], f["child"]) for f in attempt.result.document.get("findings", [])]
        for attempt in row.attempts
        if attempt.result and not attempt.crossed_out
    ]
    return one_thing(slips)


def row_out(session: Session, row: Row) -> RowOut:
    """A row for the wire."""
    after, before = neighbours(session, row)
    return RowOut.model_validate(
        {
            "id": row.id,
            "child": child_out(row.child),
            "letter": row.letter,
            "started_at": row.started_at,
            "finished": row.finished_at is not None,
            "ruling": row.ruling,
            "lines": RulingLines(rise=row.rise_mm, mid=row.mid_mm, base=row.base_mm, drop=row.drop_mm),
            "xh_mm": row.base_mm - row.mid_mm,
            "support": row.support,
            "attempts": [attempt_out(attempt) for attempt in row.attempts],
            "next_time": next_time(row),
            "can_undo": bool(row.changes),
            "next_row": after,
            "previous_row": before,
        }
    )


def neighbours(session: Session, row: Row) -> tuple[int | None, int | None]:
    """The rows of the same child after and before this one."""
    ids = [one.id for one in store.find_rows(session, child_id=row.child_id)]
    if row.id not in ids:
        return None, None
    at = ids.index(row.id)  # latest first
    return (ids[at - 1] if at else None), (ids[at + 1] if at + 1 < len(ids) else None)
