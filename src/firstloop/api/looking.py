"""A row as a teacher looks at it: what to try next, what stands out, the best ones."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from sqlalchemy.orm import Session

from firstloop.api.schemas import RowOut, RowSummary, RulingLines
from firstloop.api.writing import attempt_out, attempt_verdict, child_level, child_out
from firstloop.core.check.advice import WELL_DONE, Slip, Step, best_of, next_steps
from firstloop.core.check.advice import Standing as BestStanding
from firstloop.core.check.rows import Place, Standing, judge_whole
from firstloop.core.letterforms.library import letter
from firstloop.core.slots import letter_left_xh, slot_width_xh
from firstloop.formats.check_json import finding_document
from firstloop.store import rows as store
from firstloop.store.rows import Edit
from firstloop.store.styles import house_style
from firstloop.store.tables import Row


def _documents(row: Row) -> list[dict[str, Any]]:
    """What the checker said of every attempt that counts."""
    return [one.result.document for one in row.attempts if one.result and not one.crossed_out]


def _slip(finding: Mapping[str, Any]) -> Slip:
    return Slip(finding["code"], finding["severity"], finding["child"])


def whole_findings(row: Row) -> list[dict[str, Any]]:
    """What is to say of a row as a whole: letters of different size, a line of feet that climbs.

    Traced letters do not count, nor what was crossed out.
    """
    standings = [
        Standing(row.letter, 0, Place(**place), any(f["heading"] == "size" for f in document["findings"]))
        for attempt in row.attempts
        if attempt.result and not attempt.crossed_out and attempt.support != "trace"
        for document in [attempt.result.document]
        if (place := document.get("place"))
    ]
    school_class, ruling = row.child.school_class, row.lines
    level, own = child_level(row.child), school_class.tolerances
    text = row.letter * len(standings)
    whole = judge_whole(text, standings, house_style(row), ruling.xh_mm, level, own)
    return [finding_document(finding, ruling) for finding in whole.findings]


def steps_for(row: Row, whole: Sequence[Mapping[str, Any]]) -> list[Step]:
    """What a row asks for, the teacher's own choice or what helps most first."""
    slips = [[_slip(f) for f in document.get("findings", [])] for document in _documents(row)]
    steps = next_steps(slips, [_slip(f) for f in whole])
    return sorted(steps, key=lambda step: step.code != row.next_code)


def next_time(row: Row) -> str:
    """The one thing to try next, in words for the child."""
    steps = steps_for(row, whole_findings(row))
    return steps[0].child if steps else WELL_DONE


def checkers_best(row: Row) -> int | None:
    """Which attempt written alone the checker likes best."""
    alone = [a for a in row.attempts if a.support == "alone" and not a.crossed_out and a.result]
    standings = [
        BestStanding(a.result.verdict, len(d.get("findings", [])), d.get("measures", {}).get("form_xh"))
        for a in alone
        if a.result
        for d in [a.result.document]
    ]
    best = best_of(standings)
    return None if best is None else alone[best].id


def to_see(row: Row) -> int:
    """Position of the first attempt that counts and is to fix, or of the first one."""
    counted = [attempt for attempt in row.attempts if not attempt.crossed_out]
    return next((one.position for one in counted if attempt_verdict(one) == "fix"), 0)


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


def row_summary(row: Row) -> RowSummary:
    """A row in a list."""
    verdicts = [None if attempt.crossed_out else attempt_verdict(attempt) for attempt in row.attempts]
    return RowSummary(
        id=row.id,
        child=child_out(row.child),
        letter=row.letter,
        started_at=row.started_at,
        verdicts=verdicts,
        all_secure=all(verdict in (None, "secure") for verdict in verdicts),
        finished=row.finished_at is not None,
        marked=all(attempt.mark is not None or attempt.crossed_out for attempt in row.attempts),
    )


def row_out(session: Session, row: Row) -> RowOut:
    """A row for the wire."""
    after, before = neighbours(session, row)
    model, xh_mm = letter(row.letter, house_style(row)), row.base_mm - row.mid_mm
    whole = whole_findings(row)
    steps = steps_for(row, whole)
    return RowOut.model_validate(
        {
            "id": row.id,
            "child": child_out(row.child),
            "letter": row.letter,
            "started_at": row.started_at,
            "finished": row.finished_at is not None,
            "ruling": row.ruling,
            "lines": RulingLines.of(row.lines),
            "xh_mm": xh_mm,
            "slot_mm": slot_width_xh(model) * xh_mm,
            "letter_left_mm": letter_left_xh(model, 0) * xh_mm,
            "support": row.support,
            "attempts": [attempt_out(attempt) for attempt in row.attempts],
            "next_time": steps[0].child if steps else WELL_DONE,
            "next_code": row.next_code,
            "next_steps": [asdict(step) for step in steps],
            "findings": whole,
            "checkers_best": checkers_best(row),
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
