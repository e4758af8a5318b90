"""Records that are damaged, foreign, newer or gone: one sentence that says what to do, and a way back."""

from __future__ import annotations

import shutil
import sqlite3
import tracemalloc
import zipfile
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

import orjson
import pytest
from typer.testing import CliRunner

from firstloop import cli
from firstloop.api.settings import Settings
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.services.door import Door
from firstloop.store import backup, opening, places
from firstloop.store.backup import BackupError, NoRoomError
from firstloop.store.classes import add_child, add_class, all_classes
from firstloop.store.database import open_engine, sessions
from firstloop.store.errors import RecordsError
from firstloop.store.opening import open_records

AT = datetime(2026, 11, 27, 9, 0, tzinfo=UTC)
run = CliRunner().invoke


@pytest.fixture
def database(records: Path) -> Path:
    """Records of a class with one child."""
    path = Settings(records).database
    engine = open_engine(path)
    with sessions(engine)() as session:
        made = add_class(session, "Kittiwake class", DEFAULT_STYLE, "four-lines", 10.0, "growing")
        add_child(session, made.id, "Edie", "W", "right")
        session.commit()
    engine.dispose()
    return path


@pytest.fixture
def saved(database: Path) -> Path:
    """A backup of them, in the folder where they lie."""
    file = places.backups_folder(database.parent) / "before-holidays.zip"
    backup.backup(database, file, AT)
    return file


def names(database: Path) -> list[str]:
    engine = open_records(database)
    with sessions(engine)() as session:
        found = [child.first_name for one in all_classes(session) for child in one.children]
    engine.dispose()
    return found


def truncated(path: Path) -> None:
    path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])


def damaged(path: Path) -> None:
    data = bytearray(path.read_bytes())
    data[5000:60_000] = b"\xa5" * 55_000
    path.write_bytes(bytes(data))


def foreign_text(path: Path) -> None:
    path.write_text("shopping: milk, chalk\n" * 50)


def foreign_database(path: Path) -> None:
    path.unlink()
    with closing(sqlite3.connect(path)) as db, db:
        db.execute("CREATE TABLE shopping (what TEXT)")


def newer(path: Path) -> None:
    with closing(sqlite3.connect(path)) as db, db:
        db.execute("UPDATE alembic_version SET version_num = '9999'")


def emptied(path: Path) -> None:
    path.write_bytes(b"")


def gone(path: Path) -> None:
    path.unlink()


SPOILT = [truncated, damaged, foreign_text, foreign_database, newer, emptied, gone]


@pytest.mark.parametrize("spoil", SPOILT)
def test_records_that_cannot_be_used_are_one_sentence_with_what_to_do(database, saved, spoil):
    spoil(database)
    before = database.read_bytes() if database.exists() else None
    with pytest.raises(RecordsError) as problem:
        open_records(database)
    assert "Nothing was changed" in str(problem.value)
    assert "first-loop restore" in str(problem.value)
    if spoil is not newer:
        assert saved.name in str(problem.value)  # the last good backup, by name
    assert (database.read_bytes() if database.exists() else None) == before
    answer = run(cli.app, ["serve", "--data", str(database.parent)])
    assert answer.exit_code == 2
    assert answer.stderr.count("\n") == 1
    assert answer.stderr.strip() == str(problem.value)


@pytest.mark.parametrize("spoil", SPOILT)
def test_a_backup_is_put_in_place_of_records_however_they_are_spoilt(database, saved, spoil):
    spoil(database)
    old = database.read_bytes() if database.exists() else b""
    answer = run(cli.app, ["restore", str(saved), "--data", str(database.parent), "--yes"])
    assert answer.exit_code == 0, answer.stderr
    assert names(database) == ["Edie"]
    if old:
        kept = [one for one in saved.parent.iterdir() if one.name.startswith("unreadable")]
        assert [one.read_bytes() for one in kept if one.suffix == ".sqlite3"] == [old]


def test_a_spoilt_backup_is_not_named_as_the_good_one(database, saved):
    later = saved.with_name("later.zip")
    later.write_bytes(saved.read_bytes()[:-400])
    emptied(database)
    with pytest.raises(RecordsError, match=saved.name):
        open_records(database)


def test_an_empty_file_without_backups_is_a_new_school(tmp_path):
    database = Settings(tmp_path).database
    database.touch()
    assert names(database) == []


def test_records_that_cannot_be_written_are_said_at_start(database, monkeypatch):
    monkeypatch.setattr(opening, "_can_write", lambda path: False)
    with pytest.raises(RecordsError, match="read-only"):
        open_records(database)


def test_records_that_another_program_holds_are_said_at_start(database):
    with closing(sqlite3.connect(database)) as other:
        other.execute("BEGIN IMMEDIATE")
        with pytest.raises(RecordsError, match="Another program"):
            open_records(database)
    assert names(database) == ["Edie"]


def test_two_first_loops_do_not_serve_the_same_records(database):
    with places.one_server(database.parent):
        for words in (["serve"], ["restore", "some.zip", "--yes"]):
            answer = run(cli.app, [*words, "--data", str(database.parent)])
            assert answer.exit_code == 2
            assert "Another First Loop is using the records" in answer.stderr


def test_a_network_comes_in_by_the_door_only(tmp_path):
    answer = run(cli.app, ["serve", "--host", "0.0.0.0", "--data", str(tmp_path)])
    assert answer.exit_code == 2
    assert "--room" in answer.stderr
    assert not list(tmp_path.iterdir())


def test_a_room_is_not_served_with_a_passphrase_that_is_guessed(tmp_path):
    told = {"FIRST_LOOP_PASSPHRASE": "password1"}
    answer = run(cli.app, ["serve", "--room", "--data", str(tmp_path)], env=told)
    assert answer.exit_code == 2
    assert "guessed too easily" in answer.stderr


def test_a_passphrase_is_set_anew_on_the_machine_itself_also_over_keys_that_are_damaged(tmp_path):
    (tmp_path / "door").mkdir()
    (tmp_path / "door" / "keys.json").write_text("{")
    told = {"FIRST_LOOP_PASSPHRASE": "seven herons over saltmarsh"}
    answer = run(cli.app, ["passphrase", "--data", str(tmp_path)], env=told)
    assert answer.exit_code == 0
    words = answer.stdout.split("\n\n")[1].split()
    assert len(words) == 6
    door = Door(tmp_path)
    at = datetime(2026, 11, 30, 9, tzinfo=UTC)
    assert door.is_open_to(door.enter(told["FIRST_LOOP_PASSPHRASE"], "here", at), at)
    assert door.recover(" ".join(words), "lanterns under nine quiet bridges", "here", at) != " ".join(words)


# what a backup may hold


def repacked(file: Path, change_manifest=lambda manifest: None, change_records=lambda db: None) -> Path:
    """A backup like `file`, changed, whose sum fits again."""
    out = file.with_name("changed.zip")
    with zipfile.ZipFile(file) as packed:
        manifest = orjson.loads(packed.read("manifest.json"))
        records = file.with_name("records.sqlite3")
        records.write_bytes(packed.read("records.sqlite3"))
    with closing(sqlite3.connect(records)) as db:
        db.execute("PRAGMA journal_mode=DELETE")
        change_records(db)
        db.commit()
    manifest["sha256"] = backup._digest(records)
    change_manifest(manifest)
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("manifest.json", orjson.dumps(manifest))
        packed.write(records, "records.sqlite3")
    records.unlink()
    return out


@pytest.mark.parametrize(
    "statement",
    [
        "CREATE TRIGGER t AFTER INSERT ON child BEGIN DELETE FROM mark; END",
        "CREATE VIEW v AS SELECT * FROM child",
        "CREATE VIRTUAL TABLE f USING fts5(words)",
        "CREATE TABLE more (id INTEGER)",
        "ALTER TABLE child ADD COLUMN surname TEXT",
        "DROP INDEX ix_result_one_current",
        "DROP TABLE note",
        "CREATE UNIQUE INDEX one_child ON child (hand)",
    ],
)
def test_records_that_are_not_exactly_those_first_loop_makes_are_refused(database, saved, statement):
    with pytest.raises(BackupError, match="did not make so"):
        backup.check(repacked(saved, change_records=lambda db: db.execute(statement)), database.parent)
    assert names(database) == ["Edie"]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda manifest: manifest.pop("made_at"), "when it was made"),
        (lambda manifest: manifest.update(made_at="last week"), "when it was made"),
        (lambda manifest: manifest.update(made_at=17), "when it was made"),
        (lambda manifest: manifest.pop("sha256"), "no backup"),
        (lambda manifest: manifest.update(format="other"), "no backup"),
        (lambda manifest: manifest.update(more="x" * 100_000), "no backup"),
    ],
)
def test_a_manifest_that_does_not_say_what_it_should_is_refused_in_a_line(database, saved, change, said):
    with pytest.raises(BackupError, match=said):
        backup.check(repacked(saved, change), database.parent)


def test_a_backup_without_a_version_is_refused_in_a_line(database, saved):
    spoilt = repacked(saved, change_records=lambda db: db.execute("DROP TABLE alembic_version"))
    with pytest.raises(BackupError, match="do not say their version"):
        backup.check(spoilt, database.parent)


def test_a_manifest_of_gigabytes_is_not_unpacked(database, saved):
    bomb = saved.with_name("bomb.zip")
    with (
        zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as packed,
        packed.open("manifest.json", "w", force_zip64=True) as out,
    ):
        for _ in range(200):
            out.write(b" " * 1_000_000)
    assert bomb.stat().st_size < 1_000_000
    tracemalloc.start()
    with pytest.raises(BackupError):
        backup.check(bomb, database.parent)
    _, most = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert most < 10_000_000


def test_a_full_disk_is_not_taken_for_a_damaged_file(database, saved, monkeypatch):
    monkeypatch.setattr(backup, "_ROOM_LEFT", 10**15)
    with pytest.raises(NoRoomError, match="no room"):
        backup.check(saved, database.parent)
    assert not list(database.parent.glob("work-*"))


def test_what_killed_work_leaves_is_cleared_away_at_the_next_start(database, saved):
    left = database.parent / "work-abc"
    left.mkdir()
    shutil.copy(saved, left)
    begun = places.new_name(saved.parent, "before-restore", AT, ".zip")
    begun.with_name(begun.name + ".making").write_bytes(b"half")
    with places.work_folder(database.parent) as at_work:
        assert places.clear_left_over(database.parent) == 3
        assert at_work.exists()  # somebody is at work in this one
        assert list(saved.parent.iterdir()) == [saved]
    assert not list(database.parent.glob("work-*"))


def test_a_backup_that_breaks_off_leaves_neither_a_file_nor_half_of_one(database, monkeypatch):
    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(zipfile.ZipFile, "write", full)
    with pytest.raises(OSError, match="No space"):
        backup.backup(database, database.parent / "new.zip", AT)
    assert not list(database.parent.glob("new.zip*"))
    assert not list(database.parent.glob("work-*"))
