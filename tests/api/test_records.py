"""Care of records: a child out and in, everything out and in, classes put away."""

from __future__ import annotations

import csv
import shutil
import zipfile
from io import BytesIO, StringIO
from pathlib import Path

import numpy as np
import orjson
import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.cli import app as cli
from firstloop.formats.inkml import read_inkml
from tests.api.test_journeys import post, school, start, strokes
from tests.conftest import HERE


@pytest.fixture(scope="module")
def of_edie(empty, tmp_path_factory) -> Path:
    """Records made once: a child who wrote a row of three n, the second crossed out, and a word."""
    folder = tmp_path_factory.mktemp("edie")
    shutil.copy(empty, Settings(folder).database)
    with TestClient(create_app(Settings(folder, simulated_pen=True), web_dir=None), base_url=HERE) as client:
        write_and_mark(client, np.random.default_rng(7))
    return Settings(folder).database


def write_and_mark(client: TestClient, rng: np.random.Generator) -> None:
    """With a mark, a best, a note, a caution and a watched m besides."""
    child = school(client)["child"]
    row = start(client, child["id"], "n")
    for number in range(1, 4):
        post(client, row, number, strokes("n", rng))
    attempts = client.get(f"/api/rows/{row['id']}").json()["attempts"]
    ids = [one["id"] for one in attempts]
    client.post(f"/api/rows/{row['id']}/edits", json={"attempt_ids": [ids[1]], "crossed_out": True})
    client.post(f"/api/rows/{row['id']}/edits", json={"attempt_ids": [ids[0]], "mark": "near"})
    client.post(f"/api/rows/{row['id']}/edits", json={"attempt_ids": [ids[2]], "best": True})
    word = client.post("/api/written", json={"child_id": child["id"], "text": "nun"}).json()
    pen = client.get(f"/api/written/{word['id']}/simulated-pen").json()
    client.put(f"/api/written/{word['id']}/ink", json={"strokes": pen})
    client.post("/api/words-looked-at", json={"word_ids": [word["id"]], "looked_at": True})
    client.post("/api/watched", json={"child_id": child["id"], "letter": "m", "seen": "bottom"})
    client.post(f"/api/children/{child['id']}/notes", json={"text": "New pencil grip."})
    client.patch(f"/api/children/{child['id']}", json={"caution": "Left arm in a sling."})


@pytest.fixture
def records(request: pytest.FixtureRequest, empty: Path, tmp_path: Path) -> Path:
    """The folder of the records: Edie's for a test that asks for her, else empty ones."""
    kept = request.getfixturevalue("of_edie") if "edie" in request.fixturenames else empty
    shutil.copy(kept, Settings(tmp_path).database)
    return tmp_path


@pytest.fixture
def edie(client):
    return client.get("/api/children/1").json()["child"]


def export(client: TestClient, child_id: int) -> bytes:
    return client.get(f"/api/children/{child_id}/export.zip").content


def take_in(client: TestClient, data: bytes, class_id: int = 1):
    return client.post(f"/api/classes/{class_id}/children/import", content=data)


def repacked(data: bytes, change) -> bytes:
    """The same file with its records changed."""
    out = BytesIO()
    with zipfile.ZipFile(BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        document = orjson.loads(old.read("records.json"))
        change(document)
        new.writestr("records.json", orjson.dumps(document))
    return out.getvalue()


class TestOneChild:
    def test_the_file_holds_everything_in_open_formats(self, client, edie):
        with zipfile.ZipFile(BytesIO(export(client, edie["id"]))) as packed:
            assert [one.truth for one in read_inkml(packed.read("ink.inkml"))] == ["n", "n", "n", "nun"]
            assert packed.read("report.pdf").startswith(b"%PDF")
            lines = list(csv.DictReader(StringIO(packed.read("letters.csv").decode("utf-8-sig"))))
            assert [line["crossed out"] for line in lines] == ["", "yes", ""]
            assert lines[0]["mark"] == "near"
            assert orjson.loads(packed.read("records.json"))["child"]["caution"] == "Left arm in a sling."

    def test_a_child_taken_in_elsewhere_is_the_same_child(self, client, edie, elsewhere):
        taken = take_in(elsewhere, export(client, edie["id"]))
        assert taken.status_code == 201
        here, there = (
            c.get(f"/api/children/{i}/story").json()
            for c, i in ((client, edie["id"]), (elsewhere, taken.json()["id"]))
        )
        for one in (here, there):
            one.pop("child"), one.pop("class_name")
            for note in one["notes"]:
                note.pop("id")
            for letter in one["letters"]:
                letter["first"] and letter["first"].pop("row_id")
        assert here == there
        assert elsewhere.get("/api/classes/1/words-to-look-at").json() == []  # that one is looked at
        letters = elsewhere.get(f"/api/children/{taken.json()['id']}").json()["letters"]
        assert [one["letter"] for one in letters] == ["n", "m"]  # as their family has them

    def test_it_can_go_out_and_in_again_and_again(self, client, edie, elsewhere):
        once = export(client, edie["id"])
        taken = take_in(elsewhere, once).json()
        again = export(elsewhere, taken["id"])
        records = [orjson.loads(zipfile.ZipFile(BytesIO(d)).read("records.json")) for d in (once, again)]
        for one in records:
            one["styles"] = list(one["styles"].values())
            for written in (*one["rows"], *one["words"]):
                written.pop("style")
        assert records[0] == records[1]

    def test_a_file_from_before_words_were_looked_at_is_still_taken_in(self, client, edie, elsewhere):
        older = repacked(export(client, edie["id"]), lambda d: d["words"][0].pop("looked_at"))
        assert take_in(elsewhere, older).status_code == 201
        assert len(elsewhere.get("/api/classes/1/words-to-look-at").json()) == 1

    def test_a_child_who_is_here_is_not_taken_in_twice(self, client, edie):
        before = client.get("/api/records").json()
        assert take_in(client, export(client, edie["id"])).status_code == 409
        assert client.get("/api/records").json() == before

    def test_ink_that_is_here_is_not_taken_in_under_another_name(self, client, edie):
        data = repacked(export(client, edie["id"]), lambda d: d["child"].update(first_name="Ada"))
        answer = take_in(client, data)
        assert (answer.status_code, answer.json()["detail"][:20]) == (409, "Some of this ink is ")

    @pytest.mark.parametrize(
        ("change", "says"),
        [
            (lambda d: d.update(version=3), "later First Loop"),
            (lambda d: d.update(format="other"), "no file of a child"),
            (lambda d: d["rows"][0].update(letter="ß"), "rows 0 letter"),
            (lambda d: d["rows"][0].update(base_mm=0.0), "rows 0: Value error, ruled lines must go down"),
            (lambda d: d["words"][0].update(drop_mm=0.0), "words 0: Value error, ruled lines must go down"),
            (lambda d: d["rows"][0]["attempts"][0].update(ink=[]), "attempts 0 ink"),
            (lambda d: d["rows"][0].update(started_at="yesterday"), "rows 0 started_at"),
            (lambda d: d.update(styles={}), "house style"),
            (lambda d: d.update(surname="Wren"), "surname"),
            (lambda d: d["child"].pop("hand"), "child hand"),
        ],
    )
    def test_a_file_that_does_not_hold_together_changes_nothing(self, client, edie, elsewhere, change, says):
        answer = take_in(elsewhere, repacked(export(client, edie["id"]), change))
        assert answer.status_code == 400
        assert says in answer.json()["detail"]
        assert elsewhere.get("/api/records").json()["children"] == 0

    @pytest.mark.parametrize("data", [b"", b"no zip", b"PK\x03\x04" + bytes(40)])
    def test_what_is_no_such_file_is_refused(self, client, data):
        school(client)
        assert take_in(client, data).status_code == 400

    def test_a_cut_file_is_refused(self, client, edie, elsewhere):
        data = export(client, edie["id"])
        for part in (0.3, 0.6, 0.9):
            assert take_in(elsewhere, data[: int(len(data) * part)]).status_code == 400

    def test_a_file_with_any_byte_changed_is_refused_or_the_same(self, client, edie, elsewhere):
        data = export(client, edie["id"])
        for at in range(40, len(data), len(data) // 60):
            changed = bytearray(data)
            changed[at] ^= 0x5A
            answer = take_in(elsewhere, bytes(changed))
            assert answer.status_code in (201, 400)
            if answer.status_code == 201:  # the byte was of another part of the file
                elsewhere.delete(f"/api/children/{answer.json()['id']}")

    def test_erasing_leaves_nothing_of_a_child(self, client, edie, tmp_path):
        assert client.delete(f"/api/children/{edie['id']}").json()["name"] == "Edie W"
        assert client.get("/api/records").json() | {"classes": 0} == {
            "classes": 0, "children": 0, "rows": 0, "attempts": 0,
        }  # fmt: skip
        import sqlite3

        with sqlite3.connect(Settings(tmp_path).database) as connection:
            for table in ("result", "mark", "change", "watched", "note", "letter_day"):
                assert connection.execute(f"SELECT count(*) FROM {table}").fetchone() == (0,)


class TestPaper:
    def test_the_report_and_the_practice_strip_are_pdf(self, client, edie):
        for name in ("report.pdf", "practice.pdf"):
            answer = client.get(f"/api/children/{edie['id']}/{name}")
            assert answer.headers["content-type"] == "application/pdf"
            assert answer.content.startswith(b"%PDF")

    def test_a_child_with_nothing_written_has_them_too(self, client):
        child = school(client)["child"]
        for name in ("report.pdf", "practice.pdf", "export.zip"):
            assert client.get(f"/api/children/{child['id']}/{name}").status_code == 200

    def test_the_class_list_is_safe_in_a_spreadsheet(self, client, edie):
        client.post("/api/classes/1/children", json={"first_name": "=1+1", "initial": "Z"})
        text = client.get("/api/classes/1/list.csv").text
        assert text[0] == "\ufeff"  # by which a spreadsheet knows that it is UTF-8
        lines = list(csv.DictReader(StringIO(text[1:])))
        assert {line["child"] for line in lines} == {"Edie W", "'=1+1 Z"}
        assert next(line for line in lines if line["child"] == "Edie W")["n"] == "learning"


class TestEverything:
    def test_a_backup_comes_back_and_what_was_there_is_kept(self, client, edie, tmp_path):
        made = client.get("/api/records/backup.zip").content
        story = client.get(f"/api/children/{edie['id']}/story").json()
        checked = client.post("/api/records/restore/check", content=made).json()
        assert (checked["children"], checked["attempts"]) == (1, 3)
        client.delete(f"/api/children/{edie['id']}")
        assert client.get(f"/api/children/{edie['id']}").status_code == 404
        restored = client.post("/api/records/restore", content=made).json()
        assert client.get(f"/api/children/{edie['id']}/story").json() == story
        aside = tmp_path / "backups" / restored["aside"].rpartition("/")[2]
        assert client.post("/api/records/restore/check", content=aside.read_bytes()).json()["children"] == 0

    def test_a_damaged_backup_changes_nothing(self, client, edie):
        made = bytearray(client.get("/api/records/backup.zip").content)
        for at in range(len(made) // 50, len(made), len(made) // 25):
            flipped = bytearray(made)
            flipped[at] ^= 0x5A
            assert client.post("/api/records/restore/check", content=bytes(flipped)).status_code in (200, 400)
        made[len(made) // 2] ^= 0xFF
        for data in (bytes(made), bytes(made[: len(made) // 2]), b"", b"no backup", export(client, 1)):
            answer = client.post("/api/records/restore", content=data)
            assert answer.status_code == 400
        assert client.get("/api/records").json()["attempts"] == 3

    def test_a_backup_of_other_records_is_found_out(self, client, edie):
        made = client.get("/api/records/backup.zip").content
        out = BytesIO()
        with zipfile.ZipFile(BytesIO(made)) as old, zipfile.ZipFile(out, "w") as new:
            new.writestr("manifest.json", old.read("manifest.json"))
            new.writestr("records.sqlite3", old.read("records.sqlite3") + b"more")
        answer = client.post("/api/records/restore/check", content=out.getvalue())
        assert "not those that were written" in answer.json()["detail"]

    def test_backup_and_restore_from_the_command_line(self, client, edie, tmp_path):
        runner, file = CliRunner(), tmp_path / "kept.zip"
        made = runner.invoke(cli, ["backup", str(file), "--data", str(tmp_path)])
        assert (made.exit_code, "1 children" in made.output) == (0, True)
        other = tmp_path / "other"
        back = runner.invoke(cli, ["restore", str(file), "--data", str(other), "--yes"])
        assert back.exit_code == 0, back.output
        with TestClient(create_app(Settings(other), web_dir=None), base_url=HERE) as there:
            assert there.get("/api/records").json()["attempts"] == 3

    def test_the_command_line_says_what_is_wrong(self, tmp_path):
        runner, file = CliRunner(), tmp_path / "bad.zip"
        file.write_bytes(b"no backup")
        assert runner.invoke(cli, ["restore", str(file), "--data", str(tmp_path), "--yes"]).exit_code == 2
        assert runner.invoke(cli, ["backup", str(file), "--data", str(tmp_path / "none")]).exit_code == 2

    def test_restoring_asks_first(self, client, edie, tmp_path):
        runner, file = CliRunner(), tmp_path / "kept.zip"
        runner.invoke(cli, ["backup", str(file), "--data", str(tmp_path)])
        client.delete(f"/api/children/{edie['id']}")
        runner.invoke(cli, ["restore", str(file), "--data", str(tmp_path)], input="n\n")
        assert client.get("/api/records").json()["children"] == 0


def test_a_class_put_away_is_listed_apart_and_can_come_back(client):
    school(client)
    client.patch("/api/classes/1", json={"archived": True})
    assert client.get("/api/classes").json() == []
    (away,) = client.get("/api/classes", params={"archived": True}).json()
    assert (away["id"], away["archived"], away["level"]) == (1, True, "growing")
    client.patch("/api/classes/1", json={"archived": False})
    assert [one["id"] for one in client.get("/api/classes").json()] == [1]
