"""Filling the demo school: children write, the checker judges, and the rows go into the records.

They go the way a child's records come in from elsewhere (``store.records``), so nothing is kept that
the application could not have kept itself.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from sqlalchemy import text
from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION, check_letter
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.ruling import Ruling, ruling_kind
from firstloop.core.simulate.hand import SimHand
from firstloop.core.simulate.writer import write
from firstloop.core.slots import letter_left_xh
from firstloop.core.supports import USUAL_ROW, Support
from firstloop.demo import school
from firstloop.demo.dictations import dictate
from firstloop.demo.hands import (
    CLOCK,
    LESSON_AT,
    SEED,
    Writing,
    first_monday,
    hand_of,
    lesson_at,
    lesson_day,
    side_of,
    slip_of,
)
from firstloop.demo.sheets import print_sheets
from firstloop.demo.term import keep as keep_plans
from firstloop.demo.term import lived
from firstloop.demo.words import plan_words, write_word
from firstloop.formats.check_json import letter_document
from firstloop.services import children, classes, evidence, records, watching
from firstloop.services.ink import from_stroke, to_group
from firstloop.services.rows import TOP_XH
from firstloop.store.base import line_columns
from firstloop.store.records import row_from
from firstloop.store.tables import WrittenWord

WORKERS = 2
_ROWS_AT_ONCE = 24
RECALL_TIMES = 3


@dataclass(frozen=True)
class PlannedRow:
    """A row that a child will write: who, when, what, and the seed of its ink."""

    child: str
    hand: str
    letter: str
    at: datetime
    week: int
    support: tuple[Support, ...]
    is_new: bool
    seed: tuple[int, ...]
    style: HouseStyle = DEFAULT_STYLE
    xh_mm: float = school.XH_MM


def plan(today: date) -> Iterator[PlannedRow]:
    """Every row of the term, in the order written."""
    for number, lesson in enumerate(lived(today)):
        begin = lesson_at(today, lesson.week, lesson.weekday)
        for c, child in enumerate(school.CHILDREN):
            if lesson.week in school.AWAY.get(child, ()):
                continue
            hand = side_of(child)
            for k, char in enumerate(lesson.new + lesson.recall):
                is_new = k < len(lesson.new)
                support = USUAL_ROW if is_new else (Support.ALONE,) * RECALL_TIMES
                at = begin + timedelta(minutes=6 * k, seconds=7 * c)
                yield PlannedRow(child, hand, char, at, lesson.week, support, is_new, (SEED, number, c, k))


def plan_joined(today: date) -> Iterator[PlannedRow]:
    """Every row of the group that joins: a letter a week, four times alone."""
    for week, char in enumerate(school.JOINED_PLAN, start=1):
        begin = lesson_at(today, week, 2)
        for c, child in enumerate(school.JOINED_CHILDREN):
            yield PlannedRow(
                child=child,
                hand=side_of(child),
                letter=char,
                at=begin + timedelta(seconds=7 * c),
                week=week,
                support=(Support.ALONE,) * 4,
                is_new=True,
                seed=(SEED, 100 + week, c),
                style=school.JOINED_STYLE,
                xh_mm=school.JOINED_XH_MM,
            )


def write_row(row: PlannedRow) -> dict[str, Any]:
    """Write and judge every attempt of a row, a crossed-out one once more, and let the child pick the best.

    Returns
    -------
    dict
        The row as the records keep it (see ``store.records``).
    """
    rng = np.random.default_rng(row.seed)
    hand = hand_of(row.child, row.week, rng)
    ruling = ruling_kind(school.RULING).ruled(row.xh_mm, top_mm=TOP_XH * row.xh_mm)
    attempts: list[dict[str, Any]] = []
    for support in row.support:
        crossed = rng.random() < school.CROSSED_OUT and support is not Support.TRACE
        for crossed_out in (True, False) if crossed else (False,):
            attempts.append(_attempt(row, rng, hand, ruling, support, crossed_out, len(attempts)))
    attempts[_pick(attempts, np.random.default_rng((*row.seed, 1)))]["best"] = True
    return {
        "letter": row.letter,
        "started_at": row.at,
        "finished_at": attempts[-1]["written_at"],
        **line_columns(school.RULING, ruling),
        "support": [str(one) for one in row.support],
        "next_code": None,
        "attempts": attempts,
    }


def _attempt(
    row: PlannedRow,
    rng: np.random.Generator,
    hand: SimHand,
    ruling: Ruling,
    support: Support,
    crossed_out: bool,
    place: int,
) -> dict[str, Any]:
    one = Writing(row.child, row.letter, row.week, row.is_new, row.style)
    fault, size = (None if support is Support.TRACE else slip_of(one, place, rng)) or (None, 0.0)
    left_mm = letter_left_xh(letter(row.letter, row.style), place) * row.xh_mm
    ink = write(
        row.letter,
        rng,
        fault=fault,
        size=size,
        style=row.style,
        ruling=ruling,
        hand=hand.steadier(0.6) if support is Support.TRACE else hand,
        left_mm=left_mm,
    )
    strokes = [from_stroke(stroke) for stroke in ink.strokes]
    group = to_group(strokes, ruling, row.letter, str(row.style.script), row.hand)
    result = check_letter(group, row.letter, row.style, Level.GROWING)
    return {
        "key": "-".join(map(str, (*row.seed, place))).rjust(8, "0"),
        "position": place,
        "support": str(support),
        "written_at": row.at + timedelta(seconds=6 * (place + 1)),
        "ink": strokes,
        "crossed_out": crossed_out,
        "evidence": "ink",
        "best": False,
        "teachers_best": False,
        "mark": None,
        "results": [
            {
                "checker": CHECKER_VERSION,
                "level": str(Level.GROWING),
                "verdict": str(result.verdict),
                "document": letter_document(result, ruling),
                "error": None,
                "current": True,
            }
        ],
    }


def _pick(attempts: list[dict[str, Any]], rng: np.random.Generator) -> int:
    """The attempt the child likes best: mostly one the checker likes too."""
    own = [i for i, one in enumerate(attempts) if not one["crossed_out"] and one["support"] == "alone"]
    secure = [i for i in own if attempts[i]["results"][0]["verdict"] == "secure"]
    pool = secure if secure and rng.random() < 0.8 else own
    return pool[int(rng.integers(len(pool)))]


def _mark(attempt: dict[str, Any], at: datetime) -> None:
    """The teacher's own mark: mostly the checker's, but a letter begun only a little low is let pass."""
    result = attempt["results"][0]
    if attempt["crossed_out"] or result["verdict"] not in ("secure", "near", "fix"):
        return
    found = [f for f in result["document"]["findings"] if f["severity"] != "told"]
    lets = len(found) == 1 and found[0]["code"] in school.LET_PASS
    passed = lets and found[0]["value"] <= school.LET_PASS[found[0]["code"]]
    attempt["mark"] = {"verdict": "secure" if passed else result["verdict"], "made_at": at}


def seed(
    session: Session,
    today: date,
    progress: Callable[[int, int], None] = lambda done, total: None,
    weeks: int = school.WEEKS,
) -> int:
    """Fill an empty database with the demo school.

    Parameters
    ----------
    progress : callable
        Called with (rows done, rows in all) as the work goes on.
    weeks : int
        How much of the term to write, from its beginning.

    Returns
    -------
    int
        Number of attempts written.
    """
    session.execute(text("PRAGMA synchronous=OFF"))  # invented data can be made again
    records.begin(session, CLOCK.key)
    children = _found(session, first_monday(today))
    planned = [row for row in (*plan(today), *plan_joined(today)) if row.week <= weeks]
    total = 0
    with ProcessPoolExecutor(WORKERS) as pool:
        for done, (row, document) in enumerate(
            zip(planned, pool.map(write_row, planned, chunksize=8), strict=True), start=1
        ):
            if row.week < weeks:
                for attempt in document["attempts"]:
                    _mark(attempt, row.at + timedelta(hours=5))
            child_id, style_id = children[row.child]
            session.add(row_from(document, child_id, style_id))
            total += len(document["attempts"])
            if done % _ROWS_AT_ONCE == 0:
                session.commit()
                session.expunge_all()
            progress(done, len(planned))
        words = list(plan_words(today, weeks))
        for word, kept in zip(words, pool.map(write_word, words, chunksize=8), strict=True):
            child_id, style_id = children[word.child]
            session.add(WrittenWord(child_id=child_id, style_id=style_id, **kept))
    session.commit()
    session.expunge_all()
    evidence.work_out_all(session)
    dictate(
        session,
        classes.every(session)[0].id,
        {name: child_id for name, (child_id, _) in children.items()},
        today,
        weeks,
    )
    _watch(session, {name: child_id for name, (child_id, _) in children.items()}, today, weeks)
    both = classes.every(session)
    keep_plans(session, both[0].id, both[1].id, today, weeks)
    print_sheets(session, both[0].id, today, weeks)
    session.execute(text("PRAGMA synchronous=FULL"))
    return total


def _found(session: Session, monday: date) -> dict[str, tuple[int, int]]:
    """Both classes with their children; for every child by name its id and that of its style."""
    at = datetime.combine(monday, LESSON_AT, tzinfo=CLOCK)
    groups = (
        (school.CLASS_NAME, DEFAULT_STYLE, school.XH_MM, school.CHILDREN),
        (school.JOINED_NAME, school.JOINED_STYLE, school.JOINED_XH_MM, school.JOINED_CHILDREN),
    )
    ids = {}
    for name, style, xh_mm, names in groups:
        made = classes.add(session, name, school.RULING, xh_mm, Level.GROWING, style, at)
        for child in names:
            first_name, initial = child.split()
            ids[child] = children.add(session, made.id, first_name, initial, side_of(child)).id, made.style.id
    return ids


def _watch(session: Session, ids: dict[str, int], today: date, weeks: int) -> None:
    """What the teacher noted while the children wrote on paper."""
    for week, child, char, seen in school.WATCHED:
        if week <= weeks:
            at = datetime.combine(lesson_day(today, week, 3), LESSON_AT, tzinfo=CLOCK)
            watching.log(session, ids[child], char, seen, at + timedelta(minutes=30))
