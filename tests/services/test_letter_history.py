"""What is told over weeks, from rows whose verdicts are known."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.weeks import usual
from firstloop.core.ruling import ruling_kind
from firstloop.services import evidence, letter_history, row_views
from firstloop.services import rows as row_service
from firstloop.services.letter_history import child_page, standings
from firstloop.store import classes, rows
from firstloop.store.rows import AttemptResult, Edit
from firstloop.store.tables import Child, Row

FIRST = datetime(2026, 9, 8, 9, 20, tzinfo=UTC)  # a Tuesday
INK = [{"x": [1.0, 2.0], "y": [3.0, 4.0]}]


@pytest.fixture
def child(session: Session) -> Child:
    made = classes.add_class(session, "Kittiwake class", HouseStyle(), "four-lines", 10.0, "growing")
    return classes.add_child(session, made.id, "Hana", "O", "right")


FACTS = {"letter": "n", "start": "mid", "first": "straight-down", "which": "body", "line": "mid"}


def finding(code: str, severity: str) -> dict:
    where = {"at": [1.0, 1.0], "span": [[1.0, 1.0]], "stroke": 0, "move": 0}
    return {"code": code, "severity": severity, "value": 1.0, "tolerance": 0.3, "facts": FACTS} | where


def judged(*findings: dict) -> tuple[str, dict]:
    headings = dict.fromkeys(("direction", "shape", "size", "flow"), "secure")
    for one in findings:
        headings[str(CODES[one["code"]].heading)] = one["severity"]
    worst = "fix" if "fix" in headings.values() else "near" if "near" in headings.values() else "secure"
    document = {
        "expected": "n", "verdict": worst, "headings": headings, "reads_as": "n", "findings": list(findings),
        "measures": {"strokes": 1}, "model_left_mm": 0.0, "place": None,
    }  # fmt: skip
    return worst, document


GOOD = judged()
BELOW = judged(finding("start.bottom", "fix"))
TALL = judged(finding("size.tall", "near"))


def write(
    session: Session, child: Child, day: int, *results, letter: str = "n", support: str = "alone"
) -> Row:
    at = FIRST + timedelta(days=day)
    row = rows.start_row(
        session, child, letter, at, "four-lines", ruling_kind("four-lines").ruled(10.0), [support]
    )
    session.flush()
    for i, (verdict, document) in enumerate(results):
        attempt = rows.keep_attempt(session, row, f"key-{row.id}-{i}-{day}", support, at, INK, False)
        rows.keep_first_result(session, attempt, "1", "growing", AttemptResult(verdict, document))
    evidence.work_out_row(session, row)
    return rows.get_row(session, row.id)


def summary(session: Session, row: Row) -> row_service.RowSummary:
    return next(one for one in row_service.find(session, child_id=row.child_id) if one.id == row.id)


@pytest.mark.parametrize(
    ("verdicts", "expected"),
    [
        ([], "not-seen"), (["not-seen"], "not-seen"), (["secure"], "secure"),
        (["secure", "secure", "near"], "secure"),
        (["secure", "near"], "near"), (["fix", "secure"], "fix"), (["fix", "secure", "secure"], "secure"),
        (["unreadable"], "fix"), (["near", "near", "fix"], "near"),
    ],
)  # fmt: skip
def test_how_a_letter_usually_stands(verdicts, expected):
    assert usual(map(Verdict, verdicts)) == expected


def test_weeks_are_counted_from_the_monday_of_the_first_row(session, child):
    write(session, child, 0, GOOD)
    write(session, child, 5, GOOD)  # Sunday of the same week
    write(session, child, 6, BELOW)  # Monday
    weeks = [
        (w.week, w.monday.isoformat(), w.secure, w.fix)
        for w in letter_history.history(session, child.id, "n").weeks
    ]
    assert weeks[0] == (1, "2026-09-07", 2, 0)
    assert weeks[3] == (2, "2026-09-14", 0, 1)


def test_a_cure_shows_in_the_weeks_and_in_the_slips(session, child):
    write(session, child, 0, BELOW, BELOW, BELOW)
    write(session, child, 14, BELOW, GOOD, BELOW)
    write(session, child, 28, GOOD, GOOD, TALL)
    history = letter_history.history(session, child.id, "n")
    direction = [w.usual for w in history.weeks if w.heading == "direction"]
    assert direction == ["fix", "fix", "secure"]
    slips = {slip.code: (slip.early, slip.late) for slip in history.slips}
    assert slips == {"start.bottom": (5, 0), "size.tall": (0, 1)}
    assert (history.early_rows, history.late_rows) == (2, 1)
    assert history.next_time == "Stop at the mid line."


def test_first_and_latest_are_the_childs_own_not_traced_nor_crossed_out(session, child):
    write(session, child, 0, GOOD, support="trace")
    early = write(session, child, 1, GOOD, GOOD)
    late = write(session, child, 9, GOOD, GOOD)
    row_service.edit(session, early.id, [Edit(early.attempts[0].id, "crossed_out", True)], FIRST)
    row_service.edit(session, late.id, [Edit(late.attempts[1].id, "crossed_out", True)], FIRST)
    history = letter_history.history(session, child.id, "n")
    assert history.first.attempt.id == early.attempts[1].id
    assert history.latest.attempt.id == late.attempts[0].id
    assert len(history.attempts) == 5


def test_a_letter_never_written_has_an_empty_history(session, child):
    history = letter_history.history(session, child.id, "q")
    assert (history.attempts, history.weeks, history.slips, history.first) == ([], [], [], None)


def test_the_letters_of_a_child_say_how_they_stand(session, child):
    write(session, child, 0, BELOW, BELOW, BELOW)
    write(session, child, 7, GOOD, GOOD, GOOD)
    write(session, child, 14, GOOD, GOOD, GOOD)
    write(session, child, 14, BELOW, letter="m")
    states = {one.letter: (one.state, one.attempts) for one in child_page(session, child.id).letters}
    assert states == {"n": ("learning", 9), "m": ("learning", 1)}
    write(session, child, 21, GOOD, GOOD, GOOD)
    n, m = child_page(session, child.id).letters  # as their family has them
    assert (n.letter, n.state, m.letter) == ("n", "secure", "m")


def test_the_teachers_mark_is_what_the_records_say(session, child):
    row = write(session, child, 0, BELOW, GOOD)
    row_service.edit(session, row.id, [Edit(row.attempts[0].id, "mark", "secure")], FIRST)
    assert [row_views.attempt_verdict(attempt) for attempt in row.attempts] == ["secure", "secure"]
    history = letter_history.history(session, child.id, "n")
    assert history.weeks[0].secure == 2
    assert summary(session, row).marked is False
    row_service.edit(session, row.id, [Edit(row.attempts[1].id, "mark", "near")], FIRST)
    assert summary(session, row).marked is True
    assert summary(session, row).verdicts == ["secure", "near"]


def test_a_crossed_out_attempt_is_not_scored(session, child):
    row = write(session, child, 0, BELOW, GOOD)
    assert row_views.next_time(row) == "Start at the mid line, then straight down."
    row_service.edit(session, row.id, [Edit(row.attempts[0].id, "crossed_out", True)], FIRST)
    assert row_views.next_time(row) == "Keep it just like your best one."
    assert summary(session, row).verdicts == [None, "secure"]
    assert standings(session, child.id, "n")[0].why.startswith("learning: 1 of the last 1 alone")


def test_rows_of_a_child_follow_one_another(session, child):
    first, second, third = (write(session, child, day, GOOD) for day in (0, 1, 2))
    assert row_views.neighbours(session, second) == (third.id, first.id)
    assert row_views.neighbours(session, first) == (second.id, None)
    assert row_views.neighbours(session, third) == (None, second.id)


def test_checking_begins_at_the_first_attempt_that_needs_the_teacher(session, child):
    row = write(session, child, 0, GOOD, BELOW, BELOW)
    assert row_service.get(session, row.id).to_see == 1
    row_service.edit(session, row.id, [Edit(row.attempts[1].id, "mark", "secure")], FIRST)
    assert row_service.get(session, row.id).to_see == 2
    row_service.edit(session, row.id, [Edit(row.attempts[2].id, "crossed_out", True)], FIRST)
    assert row_service.get(session, row.id).to_see == 0


def test_a_row_has_one_best_of_the_childs_and_one_of_the_teachers(session, child):
    row = write(session, child, 0, GOOD, GOOD, GOOD)
    one, two, three = (attempt.id for attempt in row.attempts)

    def bests() -> tuple[list[bool], list[bool]]:
        attempts = row_service.get(session, row.id).attempts
        return [a.best for a in attempts], [a.teachers_best for a in attempts]

    row_service.edit(session, row.id, [Edit(one, "best", True)], FIRST)
    row_service.edit(session, row.id, [Edit(two, "teachers_best", True)], FIRST)
    row_service.edit(session, row.id, [Edit(three, "best", True)], FIRST)
    assert bests() == ([False, False, True], [False, True, False])
    row_service.undo(session, row.id, FIRST)
    assert bests() == ([True, False, False], [False, True, False])


def test_a_crossed_out_letter_is_still_to_be_written(session, child):
    row = write(session, child, 0, GOOD)
    assert row_service.get(session, row.id).to_write == []
    row_service.edit(session, row.id, [Edit(row.attempts[0].id, "crossed_out", True)], FIRST)
    assert row_service.get(session, row.id).to_write == ["alone"]


def test_a_traced_letter_and_an_unseen_direction_make_no_week_better(session, child):
    write(session, child, 0, GOOD, GOOD, support="trace")
    unseen = GOOD[0], {**GOOD[1], "headings": {**GOOD[1]["headings"], "direction": "not-seen"}}
    row = write(session, child, 1, unseen)
    row_service.edit(session, row.id, [Edit(row.attempts[0].id, "mark", "secure")], FIRST)
    weeks = {week.heading: week for week in letter_history.history(session, child.id, "n").weeks}
    assert (weeks["direction"].secure, weeks["direction"].usual) == (0, "not-seen")
    assert (weeks["shape"].secure, weeks["shape"].usual) == (1, "secure")


def test_nothing_is_worked_out_where_it_is_only_looked_at(session, child):
    row = write(session, child, 0, GOOD)
    rows.change(
        session, row, lambda _: [Edit(row.attempts[0].id, "mark", "fix")], FIRST
    )  # behind the service's back
    session.commit()
    before = standings(session, child.id, "n")[0].why
    for look in (child_page, lambda s, c: letter_history.history(s, c, "n")):
        look(session, child.id)
    assert standings(session, child.id, "n")[0].why == before
    assert evidence.work_out_all(session) == 1
    assert standings(session, child.id, "n")[0].why != before


def test_days_worked_out_by_older_rules_are_worked_out_again(session, child):
    write(session, child, 0, GOOD)
    write(session, child, 7, GOOD)
    assert evidence.work_out_all(session) == 0
    session.execute(
        text("UPDATE letter_day SET rules = rules - 1, state_all = 'slipping' WHERE day < :d"),
        {"d": "2026-09-10"},
    )
    session.commit()
    session.expire_all()
    assert evidence.work_out_all(session) == 1
    assert evidence.work_out_all(session) == 0
    assert child_page(session, child.id).letters[0].state == "learning"
    states = session.execute(text("SELECT state_all FROM letter_day")).scalars().all()
    assert states == ["learning", "learning"]
