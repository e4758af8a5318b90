"""A start that was ended in the middle of bringing the records up to date, at any moment."""

from __future__ import annotations

import os
import shutil
import sqlite3
import subprocess
import sys
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

import pytest
from sqlalchemy import event

from firstloop.store import opening
from firstloop.store.backup import backup, check
from firstloop.store.database import open_engine, upgrade, versions
from firstloop.store.errors import RecordsError
from firstloop.store.opening import open_records
from firstloop.store.shape import differs, shape
from tests.store.test_styles import OLD_RECORDS

KILLED = 9
LOOKS = ("SELECT", "PRAGMA")  # what changes nothing; a kill before it is a kill after what it follows


@pytest.fixture(scope="module")
def old(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Records of the very first version, with a child who wrote one letter."""
    path = tmp_path_factory.mktemp("old") / "first-loop.sqlite3"
    engine = open_engine(path)
    upgrade(engine, versions()[-1])
    engine.dispose()
    with closing(sqlite3.connect(path)) as db, db:
        for statement in OLD_RECORDS:
            db.execute(statement)
    return path


def contents(path: Path) -> tuple:
    with closing(sqlite3.connect(path)) as db:
        return (
            db.execute("SELECT first_name, initial FROM child").fetchall(),
            db.execute("SELECT letter, started_at FROM row").fetchall(),
            db.execute("SELECT key, ink FROM attempt").fetchall(),
        )


def statements(path: Path) -> int:
    """How many statements of an upgrade change something."""
    count = 0

    def counted(_connection, _cursor, statement, *_):
        nonlocal count
        count += not statement.lstrip().startswith(LOOKS)

    engine = open_engine(path)
    event.listen(engine, "before_cursor_execute", counted)
    upgrade(engine)
    engine.dispose()
    return count


def upgraded_and_killed_at(path: Path, number: int) -> None:
    """Upgrade in a process that ends, without another word, just after its `number`-th change."""
    child = os.fork()
    if child == 0:
        left = number

        def kill(_connection, _cursor, statement, *_):
            nonlocal left
            left -= not statement.lstrip().startswith(LOOKS)
            if left < 0:
                os._exit(KILLED)

        engine = open_engine(path)
        event.listen(engine, "after_cursor_execute", kill)
        try:
            upgrade(engine)
        finally:
            os._exit(0)
    _, status = os.waitpid(child, 0)
    assert os.waitstatus_to_exitcode(status) == KILLED


def test_a_start_after_a_kill_at_any_change_goes_on_and_nothing_is_lost(old, tmp_path):
    whole = contents(old)
    shutil.copy(old, tmp_path / "trial.sqlite3")
    count = statements(tmp_path / "trial.sqlite3")
    assert count > 100
    path = tmp_path / "first-loop.sqlite3"
    for number in [*range(0, count, 13), count - 1]:
        for leftover in tmp_path.glob("first-loop.sqlite3*"):
            leftover.unlink()
        shutil.copy(old, path)
        upgraded_and_killed_at(path, number)
        with closing(sqlite3.connect(path)) as db:
            (found,) = db.execute("SELECT version_num FROM alembic_version").fetchone()
            assert found == versions()[-1], number  # all or nothing: killed, it is nothing
        if number % 39 == 0 or number == count - 1:
            open_records(path).dispose()
            with closing(sqlite3.connect(path)) as db:
                assert differs(db, versions()[0]) is None
            assert contents(path) == whole


def test_the_records_are_copied_before_they_are_changed(old, tmp_path):
    path = tmp_path / "first-loop.sqlite3"
    shutil.copy(old, path)
    open_records(path).dispose()
    (copy,) = (tmp_path / "backups").iterdir()
    assert copy.name == f"before-upgrade-from-{versions()[-1]}.zip"
    assert check(copy, tmp_path).attempts == 1
    open_records(path).dispose()
    assert len(list((tmp_path / "backups").iterdir())) == 1  # and not at every start


def test_a_program_that_does_nothing_else_finds_a_backup_whole(old, tmp_path):
    """It has no reason to load what the application has loaded by then."""
    path = tmp_path / "first-loop.sqlite3"
    shutil.copy(old, path)
    open_records(path).dispose()
    backup(path, tmp_path / "backup.zip", datetime.now(UTC))
    program = (
        "import sys\nfrom pathlib import Path\nfrom firstloop.store.backup import check\n"
        "print(check(Path(sys.argv[1]), Path(sys.argv[2])).attempts)\n"
    )
    told = subprocess.run(
        [sys.executable, "-c", program, tmp_path / "backup.zip", tmp_path],
        capture_output=True,
        text=True,
        check=False,
    )
    assert told.stdout == "1\n", told.stderr


@pytest.mark.parametrize("more_pages", [0, 3, 10, 20])
def test_a_disk_that_fills_up_on_the_way_leaves_the_records_as_they_were(
    old, tmp_path, monkeypatch, more_pages
):
    path = tmp_path / "first-loop.sqlite3"
    shutil.copy(old, path)
    with closing(sqlite3.connect(old)) as db:
        pages = db.execute("PRAGMA page_count").fetchone()[0]

    def small_disk(*given):
        engine = open_engine(*given)

        @event.listens_for(engine, "connect")
        def bound(connection, _):
            connection.execute(f"PRAGMA max_page_count={pages + more_pages}")

        return engine

    with monkeypatch.context() as full:
        full.setattr(opening, "open_engine", small_disk)
        with pytest.raises(RecordsError, match="Make room on the disk"):
            open_records(path)
    assert contents(path) == contents(old)
    open_records(path).dispose()
    assert contents(path) == contents(old)


def test_tables_upgraded_step_by_step_are_those_of_a_new_school(old, tmp_path, empty):
    path = tmp_path / "first-loop.sqlite3"
    shutil.copy(old, path)
    engine = open_engine(path)
    for version in reversed(versions()[:-1]):
        upgrade(engine, version)
    engine.dispose()
    with closing(sqlite3.connect(path)) as grown, closing(sqlite3.connect(empty)) as new:
        assert shape(grown) == shape(new)
