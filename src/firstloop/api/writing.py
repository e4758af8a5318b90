"""Keeping and judging what children write. Ink is safe before anything looks at it."""

from __future__ import annotations

import logging
from collections.abc import Callable
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.api.ink import to_group
from firstloop.api.schemas import (
    AttemptIn,
    AttemptOut,
    ChildOut,
    ClassOut,
    EditIn,
    LetterOut,
    RowOut,
    RowSummary,
    RulingLines,
    StrokeInk,
    StyleOut,
    Support,
    Verdict,
)
from firstloop.core.check.advice import Slip, one_thing
from firstloop.core.check.grades import Level
from firstloop.core.check.letter import CHECKER_VERSION, LetterResult, check_letter
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.document import style_document
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.slots import letter_left_xh, slot_width_xh
from firstloop.formats.check_json import letter_document
from firstloop.store import rows as store
from firstloop.store.classes import get_child
from firstloop.store.rows import Edit
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Child, Row, SchoolClass

log = logging.getLogger(__name__)

USUAL_SUPPORT: tuple[Support, ...] = ("trace", "trace", "finish", "alone", "alone", "alone")
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
    return store.start_row(
        session, child, char, at, school_class.ruling, ruling, support or list(USUAL_SUPPORT)
    )


def row_ruling(row: Row) -> Ruling:
    """The lines a row was written on."""
    return Ruling(row.mid_mm, row.base_mm, row.rise_mm, row.drop_mm)


def attempt_group(attempt: Attempt, row: Row, script: str = "print") -> InkGroup:
    """An attempt's ink for the core."""
    strokes = [StrokeInk(**stroke) for stroke in attempt.ink]
    return to_group(strokes, row_ruling(row), row.letter, script, row.child.hand)


def row_groups(row: Row) -> list[InkGroup]:
    """Every attempt of a row, crossed out or not, as ink."""
    return [attempt_group(attempt, row, str(house_style(row).script)) for attempt in row.attempts]


def judge(attempt: Attempt, row: Row, style: HouseStyle, level: Level) -> LetterResult:
    """Check one kept attempt."""
    return check_letter(attempt_group(attempt, row, str(style.script)), row.letter, style, level)


def keep_and_judge(
    session: Session, row: Row, given: AttemptIn, at: datetime, judge: Judge = judge
) -> Attempt:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

    Raises
    ------
    ConflictError
        If the attempt's key is known in another row.
    """
    ink = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    attempt = store.keep_attempt(session, row, given.key, given.support, at, ink, given.crossed_out)
    if attempt.result is None:
        judge_attempt(session, attempt, row, judge)
    return attempt


def judge_left_over(session: Session, judge: Judge = judge) -> int:
    """Judge attempts whose ink was kept when the application stopped before it was looked at.

    Returns
    -------
    int
        How many there were.
    """
    left = store.unjudged(session)
    for attempt in left:
        judge_attempt(session, attempt, attempt.row, judge)
    return len(left)


def judge_attempt(session: Session, attempt: Attempt, row: Row, judge: Judge = judge) -> None:
    """Judge a kept attempt and keep the result; whatever goes wrong in checking, the ink stays."""
    school_class = row.child.school_class
    document: dict[str, Any] = {}
    try:
        result = judge(attempt, row, house_style(row), Level(school_class.level))
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


def to_see(row: Row) -> int:
    """Position of the first attempt that counts and is to fix, or of the first one."""
    counted = [attempt for attempt in row.attempts if not attempt.crossed_out]
    return next((one.position for one in counted if attempt_verdict(one) == "fix"), 0)


def edits(given: EditIn) -> list[Edit]:
    """The fields given, for every attempt named."""
    found: list[Edit] = []
    for attempt_id in given.attempt_ids:
        if given.crossed_out is not None:
            found.append(Edit(attempt_id, "crossed_out", given.crossed_out))
        if given.best is not None:
            found.append(Edit(attempt_id, "best", given.best))
        if given.mark is not None:
            found.append(Edit(attempt_id, "mark", None if given.mark == "none" else given.mark))
    return found


def agreed_edits(row: Row) -> list[Edit]:
    """Marks that repeat the checker's verdict, for attempts that count and have no mark yet."""
    return [
        Edit(attempt.id, "mark", attempt.result.verdict)
        for attempt in row.attempts
        if attempt.mark is None
        and not attempt.crossed_out
        and attempt.result
        and attempt.result.verdict in ("secure", "near", "fix")
    ]


def class_out(one: SchoolClass) -> ClassOut:
    """A class for the wire."""
    style = StyleOut(id=one.style.id, version=one.style.version, **style_document(house_style(one)))
    return ClassOut.model_validate(
        {
            "id": one.id,
            "name": one.name,
            "ruling": one.ruling,
            "xh_mm": one.xh_mm,
            "level": one.level,
            "style": style,
            "children": [child_out(child) for child in one.children],
        }
    )


def row_summary(row: Row) -> RowSummary:
    """A row in a list."""
    return RowSummary(
        id=row.id,
        child=child_out(row.child),
        letter=row.letter,
        started_at=row.started_at,
        verdicts=[None if attempt.crossed_out else attempt_verdict(attempt) for attempt in row.attempts],
        finished=row.finished_at is not None,
        marked=all(attempt.mark is not None or attempt.crossed_out for attempt in row.attempts),
    )


def row_out(session: Session, row: Row) -> RowOut:
    """A row for the wire."""
    after, before = neighbours(session, row)
    model, xh_mm = letter(row.letter, house_style(row)), row.base_mm - row.mid_mm
    return RowOut.model_validate(
        {
            "id": row.id,
            "child": child_out(row.child),
            "letter": row.letter,
            "started_at": row.started_at,
            "finished": row.finished_at is not None,
            "ruling": row.ruling,
            "lines": RulingLines(rise=row.rise_mm, mid=row.mid_mm, base=row.base_mm, drop=row.drop_mm),
            "xh_mm": xh_mm,
            "slot_mm": slot_width_xh(model) * xh_mm,
            "letter_left_mm": letter_left_xh(model, 0) * xh_mm,
            "support": row.support,
            "attempts": [attempt_out(attempt) for attempt in row.attempts],
            "next_time": next_time(row),
            "to_see": to_see(row),
            "can_undo": bool(row.changes),
            "next_row": after,
            "previous_row": before,
        }
    )


def neighbours(session: Session, row: Row) -> tuple[int | None, int | None]:
    """The rows of the same child after and before this one."""
    ids = store.row_ids(session, row.child_id)
    if row.id not in ids:
        return None, None
    at = ids.index(row.id)  # latest first
    return (ids[at - 1] if at else None), (ids[at + 1] if at + 1 < len(ids) else None)
