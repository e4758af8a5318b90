"""Keeping and judging what children write. Ink is safe before anything looks at it."""

from __future__ import annotations

import logging
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy.orm import Session

from firstloop.api.ink import to_group
from firstloop.api.judges import Judge, here
from firstloop.api.schemas import (
    AttemptIn,
    AttemptOut,
    ChildOut,
    ClassOut,
    EditIn,
    LetterOut,
    StrokeInk,
    StyleOut,
    Support,
    Verdict,
    WatchedOut,
)
from firstloop.core.check.grades import Level
from firstloop.core.check.letter import CHECKER_VERSION, Asked, LetterResult, check_letters
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.document import style_document
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.formats.check_json import letter_document
from firstloop.store import rows as store
from firstloop.store.classes import get_child
from firstloop.store.errors import ConflictError
from firstloop.store.rows import Edit, Judged
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Child, Row, SchoolClass, Watched, WrittenWord

log = logging.getLogger(__name__)

USUAL_SUPPORT: tuple[Support, ...] = ("trace", "trace", "finish", "alone", "alone", "alone")
TOP_XH = 0.4  # clear paper above the rise line


@dataclass(frozen=True)
class Terms:
    """By what a child's letter is judged: style, level, the class's tolerances, the child's usual speed."""

    style: HouseStyle
    level: Level
    own: Mapping[str, float]
    usual_xh_s: float | None


def start_row(session: Session, child_id: int, char: str, support: list[str], at: datetime) -> Row:
    """Begin a row on the class's ruling.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    child = get_child(session, child_id)
    school_class = child.school_class
    letter(char, house_style(school_class))
    lines = fresh_lines(school_class)
    return store.start_row(
        session, child, char, at, school_class.ruling, lines, support or list(USUAL_SUPPORT)
    )


def fresh_lines(school_class: SchoolClass) -> Ruling:
    """The lines of a class on a clean sheet."""
    return ruling_kind(school_class.ruling).ruled(school_class.xh_mm, top_mm=TOP_XH * school_class.xh_mm)


def attempt_group(attempt: Attempt, row: Row, script: str = "print") -> InkGroup:
    """An attempt's ink for the core."""
    strokes = [StrokeInk(**stroke) for stroke in attempt.ink]
    return to_group(strokes, row.lines, row.letter, script, row.child.hand)


def row_groups(row: Row) -> list[InkGroup]:
    """Every attempt of a row, crossed out or not, as ink."""
    return [attempt_group(attempt, row, str(house_style(row).script)) for attempt in row.attempts]


def child_level(child: Child) -> Level:
    """How strict to be with a child: its own level, or the class's."""
    return Level(child.level or child.school_class.level)


def terms_of(session: Session, row: Row) -> Terms:
    """By what the letters of a row are judged now."""
    child = row.child
    usual = store.usual_speed(session, child.id)
    return Terms(house_style(row), child_level(child), child.school_class.tolerances, usual)


def check_on(groups: Sequence[InkGroup], char: str, terms: Terms) -> list[LetterResult]:
    """Check letters of one row."""
    style, level, own, usual = terms.style, terms.level, terms.own, terms.usual_xh_s
    return check_letters([Asked(group, char, style, level, own=own, usual_xh_s=usual) for group in groups])


def keep_and_judge(
    session: Session, row: Row, given: AttemptIn, at: datetime, judge: Judge = here
) -> Attempt:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

    Raises
    ------
    ConflictError
        If the attempt's key is known in another row, or it was written for another row.
    """
    same_sheet(given.row_started_at, row)
    ink = [stroke.model_dump(exclude_none=True) for stroke in given.strokes]
    attempt = store.keep_attempt(session, row, given.key, given.support, at, ink, given.crossed_out)
    if given.crossed_out and not attempt.crossed_out:  # crossed out while it was on its way a first time
        store.change(session, row, [Edit(attempt.id, "crossed_out", True)], at)
    if attempt.result is None:
        judge_attempt(session, attempt, row, judge)
    return attempt


def same_sheet(started_at: datetime | None, sheet: Row | WrittenWord) -> None:
    """Refuse ink that was written for another row or word, which had this number before it was erased.

    Raises
    ------
    ConflictError
    """
    if started_at is not None and started_at != sheet.started_at:
        raise ConflictError("What this was written for is no longer in the records.")


def judge_attempt(session: Session, attempt: Attempt, row: Row, judge: Judge = here) -> None:
    """Judge a kept attempt and keep the result; whatever goes wrong in checking, the ink stays."""
    terms = terms_of(session, row)
    try:
        (found,) = judge(judged, task_of([attempt], row, terms))
    except Exception as problem:  # the ink is safe; say so instead of losing the row
        log.exception("checking attempt %s failed", attempt.id)
        found = cannot(f"{type(problem).__name__}: {problem}")
    keep_result(session, attempt, terms, found)


def cannot(why: str) -> Judged:
    """What is kept of ink that could not be judged; it says nothing of the child."""
    return Judged("unreadable", {}, why[:400])


def keep_result(session: Session, attempt: Attempt, terms: Terms, found: Judged) -> None:
    """Keep what was said of an attempt, unless something has been said by now."""
    store.keep_first_result(session, attempt, CHECKER_VERSION, str(terms.level), found)


@dataclass(frozen=True)
class RowTask:
    """Attempts of one row, and by what they are judged; it can go to another process."""

    groups: tuple[InkGroup, ...]
    char: str
    terms: Terms
    ruling: Ruling


def task_of(attempts: Sequence[Attempt], row: Row, terms: Terms) -> RowTask:
    """Attempts of a row as a task."""
    groups = tuple(attempt_group(attempt, row, str(terms.style.script)) for attempt in attempts)
    return RowTask(groups, row.letter, terms, row.lines)


def judged(task: RowTask) -> list[Judged]:
    """What is said of each; one letter that cannot be judged must not stop the others."""
    try:
        results = check_on(task.groups, task.char, task.terms)
    except Exception as problem:
        if len(task.groups) == 1:
            return [cannot(f"{type(problem).__name__}: {problem}")]
        return [one for group in task.groups for one in judged(replace(task, groups=(group,)))]
    return [Judged(result.verdict, letter_document(result, task.ruling)) for result in results]


def child_out(child: Child) -> ChildOut:
    """A child for the wire."""
    return ChildOut(
        id=child.id,
        class_id=child.class_id,
        first_name=child.first_name,
        initial=child.initial,
        name=f"{child.first_name} {child.initial}",
        hand="left" if child.hand == "left" else "right",
        level=None if child.level is None else Level(child.level).value,
    )


def watched_out(note: Watched) -> WatchedOut:
    """A note for the wire."""
    return WatchedOut.model_validate(
        {"id": note.id, "child_id": note.child_id, "letter": note.letter, "seen": note.seen, "at": note.at}
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
            "teachers_best": attempt.teachers_best,
            "mark": attempt.mark.verdict if attempt.mark else None,
            "verdict": attempt_verdict(attempt),
            "checker": result.checker if result else None,
            "error": result.error if result else None,
            "result": LetterOut.model_validate(result.document) if result and result.document else None,
        }
    )


def edits(given: EditIn) -> list[Edit]:
    """The fields given, for every attempt named."""
    found: list[Edit] = []
    for attempt_id in given.attempt_ids:
        if given.crossed_out is not None:
            found.append(Edit(attempt_id, "crossed_out", given.crossed_out))
        if given.best is not None:
            found.append(Edit(attempt_id, "best", given.best))
        if given.teachers_best is not None:
            found.append(Edit(attempt_id, "teachers_best", given.teachers_best))
        if given.mark is not None:
            found.append(Edit(attempt_id, "mark", None if given.mark == "none" else given.mark))
    return found


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
            "archived": one.archived_at is not None,
        }
    )
