"""What is told over weeks, from rows whose verdicts are known."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy.orm import Session

from firstloop.api.looking import neighbours, next_time, row_summary, to_see
from firstloop.api.overtime import letter_standings
from firstloop.api.progress import child_page, letter_history, usual
from firstloop.api.writing import attempt_verdict
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import ruling_kind
from firstloop.store import classes, rows
from firstloop.store.rows import Edit, Judged
from firstloop.store.tables import Child, Row

FIRST = datetime(2026, 9, 8, 9, 20, tzinfo=UTC)  # a Tuesday
INK = [{"x": [1.0, 2.0], "y": [3.0, 4.0]}]


@pytest.fixture
def child(session: Session) -> Child:
    made = classes.add_class(session, "Kittiwake class", HouseStyle(), "four-lines", 10.0, "growing")
    return classes.add_child(session, made.id, "Hana", "O", "right")


def finding(code: str, heading: str, severity: str) -> dict:
    where = {"at": [1.0, 1.0], "span": [[1.0, 1.0]], "stroke": 0, "move": 0}
    said = {"teacher": f"{code} seen.", "child": f"Mind {code}."}
    return (
        {"code": code, "heading": heading, "severity": severity, "value": 1.0, "unit": "xh", "tolerance": 0.3}
        | where
        | said
    )


MEASURES = dict.fromkeys(
    (
        "height_xh",
        "height_mm",
        "width_xh",
        "top_xh",
        "bottom_xh",
        "start_x_xh",
        "start_y_xh",
        "slant_deg",
        "form_xh",
    )
) | {"strokes": 1, "duration_ms": None}


def judged(*findings: dict) -> tuple[str, dict]:
    headings = dict.fromkeys(("direction", "shape", "size", "flow"), "secure")
    for one in findings:
        headings[one["heading"]] = one["severity"]
    worst = "fix" if "fix" in headings.values() else "near" if "near" in headings.values() else "secure"
    document = {
        "expected": "n", "verdict": worst, "headings": headings, "reads_as": "n", "findings": list(findings),
        "measures": MEASURES, "model_left_mm": 0.0,
    }  # fmt: skip
    return worst, document


GOOD = judged()
BELOW = judged(finding("start.bottom", "direction", "fix"))
TALL = judged(finding("size.tall", "size", "near"))


def write(
    session: Session, child: Child, day: int, *results, letter: str = "n", support: str = "alone"
) -> Row:
    at = FIRST + timedelta(days=day)
    row = rows.start_row(
        session, child, letter, at, "four-lines", ruling_kind("four-lines").ruled(10.0), [support]
    )
    for i, (verdict, document) in enumerate(results):
        attempt = rows.keep_attempt(session, row, f"key-{row.id}-{i}-{day}", support, at, INK, False)
        rows.keep_first_result(session, attempt, "1", "growing", Judged(verdict, document))
    return rows.get_row(session, row.id)


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
    assert usual(verdicts) == expected


def test_weeks_are_counted_from_the_monday_of_the_first_row(session, child):
    write(session, child, 0, GOOD)
    write(session, child, 5, GOOD)  # Sunday of the same week
    write(session, child, 6, BELOW)  # Monday
    weeks = [
        (w.week, w.monday.isoformat(), w.secure, w.fix) for w in letter_history(session, child.id, "n").weeks
    ]
    assert weeks[0] == (1, "2026-09-07", 2, 0)
    assert weeks[3] == (2, "2026-09-14", 0, 1)


def test_a_cure_shows_in_the_weeks_and_in_the_slips(session, child):
    write(session, child, 0, BELOW, BELOW, BELOW)
    write(session, child, 14, BELOW, GOOD, BELOW)
    write(session, child, 28, GOOD, GOOD, TALL)
    history = letter_history(session, child.id, "n")
    direction = [w.usual for w in history.weeks if w.heading == "direction"]
    assert direction == ["fix", "fix", "secure"]
    slips = {slip.code: (slip.early, slip.late) for slip in history.slips}
    assert slips == {"start.bottom": (5, 0), "size.tall": (0, 1)}
    assert (history.early_rows, history.late_rows) == (2, 1)
    assert history.next_time == "Mind size.tall."


def test_first_and_latest_are_the_childs_own_not_traced_nor_crossed_out(session, child):
    write(session, child, 0, GOOD, support="trace")
    early = write(session, child, 1, GOOD, GOOD)
    late = write(session, child, 9, GOOD, GOOD)
    rows.change(session, early, [Edit(early.attempts[0].id, "crossed_out", True)], FIRST)
    rows.change(session, late, [Edit(late.attempts[1].id, "crossed_out", True)], FIRST)
    history = letter_history(session, child.id, "n")
    assert history.first.attempt.id == early.attempts[1].id
    assert history.latest.attempt.id == late.attempts[0].id
    assert len(history.attempts) == 5


def test_a_letter_never_written_has_an_empty_history(session, child):
    history = letter_history(session, child.id, "q")
    assert (history.attempts, history.weeks, history.slips, history.first) == ([], [], [], None)


def test_the_letters_of_a_child_say_how_they_stand(session, child):
    write(session, child, 0, BELOW, BELOW, BELOW)
    write(session, child, 7, GOOD, GOOD, GOOD)
    write(session, child, 14, GOOD, GOOD, GOOD)
    write(session, child, 14, BELOW, letter="m")
    states = {one.letter: (one.state, one.attempts) for one in child_page(session, child.id).letters}
    assert states == {"n": ("learning", 9), "m": ("learning", 1)}
    write(session, child, 21, GOOD, GOOD, GOOD)
    assert child_page(session, child.id).letters[1].state == "secure"


def test_the_teachers_mark_is_what_the_records_say(session, child):
    row = write(session, child, 0, BELOW, GOOD)
    rows.change(session, row, [Edit(row.attempts[0].id, "mark", "secure")], FIRST)
    assert [attempt_verdict(attempt) for attempt in row.attempts] == ["secure", "secure"]
    history = letter_history(session, child.id, "n")
    assert history.weeks[0].secure == 2
    assert row_summary(row).marked is False
    rows.change(session, row, [Edit(row.attempts[1].id, "mark", "near")], FIRST)
    assert row_summary(row).marked is True
    assert row_summary(row).verdicts == ["secure", "near"]


def test_a_crossed_out_attempt_is_not_scored(session, child):
    row = write(session, child, 0, BELOW, GOOD)
    assert next_time(row) == "Mind start.bottom."
    rows.change(session, row, [Edit(row.attempts[0].id, "crossed_out", True)], FIRST)
    assert next_time(row) == "Keep it just like your best one."
    assert row_summary(row).verdicts == [None, "secure"]
    assert letter_standings(session, child.id, "n")[0].why.startswith("learning: 1 of the last 1 alone")


def test_rows_of_a_child_follow_one_another(session, child):
    first, second, third = (write(session, child, day, GOOD) for day in (0, 1, 2))
    assert neighbours(session, second) == (third.id, first.id)
    assert neighbours(session, first) == (second.id, None)
    assert neighbours(session, third) == (None, second.id)


def test_checking_begins_at_the_first_attempt_that_needs_the_teacher(session, child):
    row = write(session, child, 0, GOOD, BELOW, BELOW)
    assert to_see(row) == 1
    rows.change(session, row, [Edit(row.attempts[1].id, "mark", "secure")], FIRST)
    assert to_see(row) == 2
    rows.change(session, row, [Edit(row.attempts[2].id, "crossed_out", True)], FIRST)
    assert to_see(row) == 0
