from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import pytest
from alembic import command
from sqlalchemy import func, select, text
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import ruling_kind
from firstloop.store import classes, days, erased, rows, school
from firstloop.store.database import alembic_config, open_engine, upgrade
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.rows import AttemptResult, Edit
from firstloop.store.tables import Attempt, Change, Child, Mark, Result, Row

AT = datetime(2026, 9, 8, 9, 20, tzinfo=UTC)
INK = [{"x": [1.0, 2.0], "y": [3.0, 4.0], "t": [0.0, 8.0]}]


@pytest.fixture
def child(session: Session) -> Child:
    made = classes.add_class(session, "Kittiwake class", HouseStyle(), "four-lines", 10.0, "growing")
    child = classes.add_child(session, made.id, "Orla", "F", "right")
    session.commit()
    return child


def new_row(session: Session, child: Child, at: datetime = AT, letter: str = "n") -> Row:
    lines = ruling_kind("four-lines").ruled(10.0)
    row = rows.start_row(session, child, letter, at, "four-lines", lines, ["alone"] * 3)
    session.flush()
    return row


def kept(session: Session, row: Row, key: str, crossed_out: bool = False) -> Attempt:
    attempt = rows.keep_attempt(session, row, key, "alone", AT, INK, crossed_out)
    session.commit()
    return attempt


def changed(session: Session, row: Row, *edits: Edit) -> None:
    rows.change(session, row, lambda _: edits, AT)


@pytest.fixture
def row(session: Session, child: Child) -> Row:
    made = new_row(session, child)
    for i in range(3):
        attempt = kept(session, made, f"attempt-{i}")
        rows.keep_first_result(session, attempt, "1", "growing", AttemptResult("near", {"findings": []}))
    session.commit()
    return rows.get_row(session, made.id)


def test_ink_comes_back_as_the_pen_gave_it(session, row):
    session.expire_all()
    assert [attempt.ink for attempt in rows.get_row(session, row.id).attempts] == [INK] * 3


def test_the_same_key_twice_keeps_one_attempt(session, row):
    assert kept(session, row, "attempt-1").position == 1
    assert session.scalar(select(func.count()).select_from(Attempt)) == 3


def test_a_key_of_another_row_is_refused(session, child, row):
    with pytest.raises(ConflictError):
        kept(session, new_row(session, child), "attempt-1")


@pytest.mark.parametrize(
    ("field", "values"),
    [("mark", ["secure", "fix", None]), ("crossed_out", [True, False]), ("best", [True, False])],
)
def test_every_step_can_be_taken_back_to_the_beginning(session, row, field, values):
    one = row.attempts[0]
    read = (
        (lambda: one.mark.verdict if one.mark else None) if field == "mark" else (lambda: getattr(one, field))
    )
    seen = [read()]
    for value in values:
        changed(session, row, Edit(one.id, field, value))
        seen.append(read())
    assert seen[1:] == values
    for expected in seen[-2::-1]:
        rows.undo(session, row, AT)
        assert read() == expected
    with pytest.raises(ConflictError, match="nothing to undo"):
        rows.undo(session, row, AT)


def test_an_edit_of_an_attempt_elsewhere_changes_nothing(session, child, row):
    stranger = kept(session, new_row(session, child), "stranger")
    with pytest.raises(NotFoundError):
        changed(session, row, Edit(row.attempts[0].id, "mark", "fix"), Edit(stranger.id, "mark", "fix"))
    assert rows.get_row(session, row.id).attempts[0].mark is None
    assert not row.changes


def test_a_new_result_holds_and_the_old_one_is_kept_beside_it(session, child, row):
    attempt = row.attempts[0]
    rows.add_result(attempt, "2", "growing", AttemptResult("secure", {"findings": []}))
    session.commit()
    session.expire(attempt)
    assert (attempt.result.checker, attempt.result.verdict) == ("2", "secure")
    assert [(one.checker, one.verdict, one.current) for one in attempt.results] == [
        ("1", "near", False),
        ("2", "secure", True),
    ]
    assert session.scalar(select(func.count()).select_from(Result)) == 4


def test_a_row_waits_until_every_attempt_that_counts_is_marked(session, child, row):
    one, two, three = (attempt.id for attempt in row.attempts)
    assert [found.id for found in rows.waiting_rows(session, child.class_id)[0]] == [row.id]
    changed(session, row, Edit(one, "mark", "secure"), Edit(two, "mark", "near"))
    assert rows.waiting_rows(session, child.class_id)[0]
    changed(session, row, Edit(three, "crossed_out", True))
    assert not rows.waiting_rows(session, child.class_id)[0]


def test_a_childs_usual_speed_is_the_median_of_enough_letters(session, child, row):
    assert rows.usual_speed(session, child.id) is None
    for k in range(8):
        attempt = kept(session, row, f"speed-{k:02}")
        judged = AttemptResult("secure", {"measures": {"speed_xh_s": 2.0 + k % 2}})
        rows.keep_first_result(session, attempt, "2", "growing", judged)
    assert rows.usual_speed(session, child.id) == 2.5


def test_rows_are_found_latest_first_and_empty_ones_not_at_all(session, child, row):
    later = new_row(session, child, AT + timedelta(days=1))
    assert [one.id for one in rows.find_rows(session, child_id=child.id)] == [row.id]
    kept(session, later, "later-one")
    assert [one.id for one in rows.find_rows(session, child_id=child.id)] == [later.id, row.id]
    assert rows.row_ids(session, child.id) == [later.id, row.id]
    assert rows.find_rows(session, letter="q") == []


def test_weeks_are_counted_from_the_first_row_written(session, child, row):
    assert rows.first_day(session, child.class_id) == date(2026, 9, 8)


def test_erasing_a_child_leaves_nothing_of_it(session, child, row):
    changed(session, row, Edit(row.attempts[0].id, "mark", "fix"))
    erased.erase(session, child, b"a file", AT)
    for table in (Child, Row, Attempt, Result, Mark, Change):
        assert session.scalar(select(func.count()).select_from(table)) == 0
    with pytest.raises(NotFoundError):
        classes.get_child(session, child.id)


def test_two_children_of_one_name_and_two_classes_of_one_name_are_refused(session, child):
    with pytest.raises(ConflictError, match="Orla F"):
        classes.add_child(session, child.class_id, "Orla", "F", "left")
    with pytest.raises(ConflictError, match="Kittiwake"):
        classes.add_class(session, "Kittiwake class", HouseStyle(), "four-lines", 10.0, "growing")
    assert len(classes.all_classes(session)) == 1


def test_the_database_keeps_its_own_rules(session):
    assert session.scalar(text("PRAGMA foreign_keys")) == 1
    assert session.scalar(text("PRAGMA journal_mode")) == "wal"
    session.add(Child(class_id=99, first_name="Nobody", initial="N"))
    with pytest.raises(IntegrityError):
        session.commit()


def test_the_migrations_make_the_tables_that_the_code_knows_and_can_be_taken_back(tmp_path):
    engine = open_engine(tmp_path / "fresh.sqlite3")
    upgrade(engine)
    command.check(alembic_config(engine))
    command.downgrade(alembic_config(engine), "base")
    upgrade(engine)
    engine.dispose()


@pytest.mark.usefixtures("row")
def test_a_day_is_left_in_the_middle_once_nobody_writes_on_its_row(session):
    second = timedelta(seconds=1)
    assert [key.letter for key in days.unsettled(session, rested=(AT + second, AT + 9 * second))] == ["n"]
    assert days.unsettled(session, rested=(AT - second, AT + second)) == []  # it is written on
    ahead = days.unsettled(session, rested=(AT - 9 * second, AT - second))
    assert len(ahead) == 1  # by a clock that was wrong it was written later than now
    assert len(days.unsettled(session)) == 1


def test_a_school_that_moves_has_another_time_at_once_and_for_whoever_looks_again(session, child):
    engine = session.get_bind()
    with Session(engine) as other:
        before = school.school_time(other)
        school.move(session, "Asia/Kathmandu")
        assert school.school_time(session).zone.key == "Asia/Kathmandu"
        assert school.school_time(other) == before  # what a transaction sees is of one time
        session.commit()
        other.commit()
        assert school.school_time(other).zone.key == "Asia/Kathmandu"
        school.move(other, "America/New_York")
        other.rollback()
        assert school.school_time(other).zone.key == "Asia/Kathmandu"
