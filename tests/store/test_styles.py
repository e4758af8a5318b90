"""House styles in versions, and the migration that brought them."""

from __future__ import annotations

from datetime import UTC, datetime

import orjson
import pytest
from alembic import command
from sqlalchemy import text

from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.ruling import ruling_kind
from firstloop.store import boards, classes, rows, styles
from firstloop.store.database import alembic_config, open_engine, sessions, upgrade
from firstloop.store.errors import ConflictError, NotFoundError

AT = datetime(2026, 11, 25, 9, 0, tzinfo=UTC)
OLD_RECORDS = (
    "INSERT INTO house_style (id, name, script, slant_deg, width) VALUES (1, 'Ours', 'print', 6.0, 'wide')",
    """INSERT INTO school_class (id, name, style_id, ruling, xh_mm, level)
       VALUES (1, 'Kittiwake class', 1, 'four-lines', 10, 'growing')""",
    "INSERT INTO child (id, class_id, first_name, initial, hand) VALUES (1, 1, 'Hana', 'O', 'right')",
    """INSERT INTO row (id, child_id, letter, started_at, ruling, rise_mm, mid_mm, base_mm, drop_mm, support)
       VALUES (1, 1, 'n', '2026-11-01 09:00:00', 'four-lines', 0, 10, 20, 30, '[]')""",
    """INSERT INTO attempt (id, row_id, key, position, support, written_at, ink, crossed_out, best)
       VALUES (1, 1, 'key-1', 0, 'alone', '2026-11-01 09:00:00', '[{"x": [1.0], "y": [2.0]}]', 0, 0)""",
)
LINES = ruling_kind("four-lines").ruled(10.0)


@pytest.fixture
def kittiwake(session):
    return classes.add_class(session, "Kittiwake class", DEFAULT_STYLE, "four-lines", 10.0, "growing", AT)


def start(session, child):
    row = rows.start_row(session, child, "k", AT, "four-lines", LINES, ["alone"])
    session.flush()
    return row


def test_a_change_is_a_new_version_and_rows_keep_theirs(session, kittiwake):
    child = classes.add_child(session, kittiwake.id, "Hana", "O", "right")
    before = start(session, child)
    one_stroke = DEFAULT_STYLE.choosing("k", "one")
    made = styles.keep_style(session, kittiwake, one_stroke, AT)
    after = start(session, child)
    assert (made.version, made.lineage) == (2, before.style.lineage)
    assert styles.house_style(before) == DEFAULT_STYLE
    assert styles.house_style(after) == one_stroke == styles.house_style(kittiwake)
    assert [one.version for one in styles.versions(session, made)] == [2, 1]


def test_keeping_what_is_already_so_makes_no_version(session, kittiwake):
    first = kittiwake.style
    assert styles.keep_style(session, kittiwake, DEFAULT_STYLE, AT) is first
    assert len(styles.versions(session, first)) == 1


def test_another_name_is_another_style_and_a_class_may_go_back(session, kittiwake):
    print_id = kittiwake.style_id
    joined = HouseStyle(name="Joined", script=Script.CURSIVE)
    made = styles.keep_style(session, kittiwake, joined, AT)
    assert made.version == 1
    assert {one.name for one in styles.latest_styles(session)} == {"Print, upright", "Joined"}
    styles.follow(session, kittiwake, print_id)
    assert styles.house_style(kittiwake) == DEFAULT_STYLE
    with pytest.raises(NotFoundError):
        styles.follow(session, kittiwake, 999)


def test_another_class_goes_on_with_the_version_it_has(session, kittiwake):
    turnstone = classes.add_class(session, "Turnstone group", DEFAULT_STYLE, "four-lines", 7.0, "growing", AT)
    styles.follow(session, turnstone, kittiwake.style_id)
    styles.keep_style(session, kittiwake, DEFAULT_STYLE.choosing("f", "tail"), AT)
    assert styles.house_style(turnstone) == DEFAULT_STYLE


def test_board_steps_are_taken_back_one_by_one(session, kittiwake):
    for name in ("one", "two"):
        boards.keep(session, kittiwake.id, "by-movement", "lower case", {"name": name})
    assert boards.present(session, kittiwake.id, "by-movement", "lower case") == {"name": "two"}
    assert boards.present(session, kittiwake.id, "by-movement", "capitals") is None
    boards.undo(session, kittiwake.id, "by-movement", "lower case")
    assert boards.present(session, kittiwake.id, "by-movement", "lower case") == {"name": "one"}
    boards.undo(session, kittiwake.id, "by-movement", "lower case")
    with pytest.raises(ConflictError):
        boards.undo(session, kittiwake.id, "by-movement", "lower case")


def test_only_so_many_steps_are_kept(session, kittiwake):
    for number in range(boards.STEPS_KEPT + 5):
        boards.keep(session, kittiwake.id, "by-height", "digits", {"n": number})
    steps = boards._steps(session, kittiwake.id, "by-height", "digits")
    assert [steps[0].document["n"], len(steps)] == [boards.STEPS_KEPT + 4, boards.STEPS_KEPT]


def test_own_words_replace_each_other(session, kittiwake):
    boards.keep_words(session, kittiwake.id, "n", ["start", "down"])
    boards.keep_words(session, kittiwake.id, "n", ["begin", "down"])
    assert boards.own_words(session, kittiwake.id) == {"n": ["begin", "down"]}
    boards.keep_words(session, kittiwake.id, "n", [])
    assert boards.own_words(session, kittiwake.id) == {}


def test_records_of_the_first_tables_keep_their_style(tmp_path):
    engine = open_engine(tmp_path / "records.sqlite3")
    command.upgrade(alembic_config(engine), "0001")
    with engine.begin() as old:
        for statement in OLD_RECORDS:
            old.execute(text(statement))
    upgrade(engine)
    with sessions(engine)() as session:
        style = styles.house_style(rows.get_row(session, 1))
        assert len(rows.get_row(session, 1).attempts) == 1
        assert (style.name, style.slant_deg, style.width.value) == ("Ours", 6.0, "wide")
        kept = styles.keep_style(session, classes.get_class(session, 1), style.choosing("k", "one"), AT)
        assert kept.version == 2
    command.downgrade(alembic_config(engine), "0001")
    with engine.connect() as old:
        assert old.execute(text("SELECT slant_deg, width FROM house_style WHERE id = 1")).one() == (
            6.0,
            "wide",
        )
        assert orjson.loads(old.execute(text("SELECT support FROM row")).scalar_one()) == []
    engine.dispose()
