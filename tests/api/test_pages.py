"""Pages that come back: from the file to the records of a child, and out again."""

from __future__ import annotations

import errno
import io
import os
import shutil
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.formats.pictures import read_picture
from firstloop.formats.sheet_json import write_wish
from firstloop.services import incoming
from tests.conftest import HERE
from tests.core.scanning.paper import DPI
from tests.formats.test_pictures import HOSTILE
from tests.returned import WISH, png, written

PATIENCE_S = 60.0
CHILDREN = ("Anouk", "Bashir", "Cleo")


@dataclass(frozen=True)
class Printed:
    """A class with a sheet that was printed for each of its children, and for nobody; the last page."""

    database: Path
    class_id: int
    children: tuple[int, ...]
    code: str
    pages: tuple[bytes, ...]
    keys: tuple[str, ...]

    def picture(self, copy: int) -> bytes:
        """The page of a copy, written on and scanned."""
        return self.pages[copy - 1]


@pytest.fixture(scope="module")
def printed(empty: Path, tmp_path_factory: pytest.TempPathFactory) -> Printed:
    folder = tmp_path_factory.mktemp("printed")
    shutil.copy(empty, Settings(folder).database)
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        made = client.post("/api/classes", json={"name": "Turnstone class"}).json()["id"]
        children = [
            client.post(f"/api/classes/{made}/children", json={"first_name": one, "initial": "T"}).json()[
                "id"
            ]
            for one in CHILDREN
        ]
        wish = write_wish(WISH)
        copies = [{"child_id": one, "wish": wish} for one in (*children, None)]
        answer = client.post(f"/api/classes/{made}/printed", json={"name": "Tunnels", "copies": copies})
        code = answer.json()["code"]
        pdf = client.get(f"/api/printed/{code}/sheet.pdf").content
        pages = [
            written(pdf, i, client.get(f"/api/printed/{code}/{i + 1}/layout.json").json())
            for i in range(len(copies))
        ]
    return Printed(
        Settings(folder).database,
        made,
        tuple(children),
        code,
        tuple(one for one, _ in pages),
        tuple(pages[0][1]),
    )


@pytest.fixture
def folder(printed: Printed, tmp_path: Path) -> Path:
    shutil.copy(printed.database, Settings(tmp_path).database)
    return tmp_path


@pytest.fixture
def client(folder: Path) -> Iterator[TestClient]:
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        yield client


def pile(client: TestClient, printed: Printed) -> dict:
    return client.get(f"/api/classes/{printed.class_id}/pages").json()


def read_all(client: TestClient, printed: Printed) -> dict:
    """The pile once everything in it was read."""
    until = time.monotonic() + PATIENCE_S
    while time.monotonic() < until:
        found = pile(client, printed)
        if not found["to_read"]:
            return found
        time.sleep(0.05)
    raise AssertionError("the pages were not read in time")


def bring(client: TestClient, printed: Printed, data: bytes, name: str = "scan.png"):
    return client.post(f"/api/classes/{printed.class_id}/pages", params={"name": name}, content=data)


def brought(client: TestClient, printed: Printed, *copies: int) -> list[dict]:
    """Pages of some copies, read, in the order brought in."""
    for copy in copies:
        assert bring(client, printed, printed.picture(copy), f"{copy}.png").status_code == 201
    return sorted(read_all(client, printed)["pages"], key=lambda page: page["id"])


def page_of(client: TestClient, page_id: int) -> dict:
    return client.get(f"/api/pages/{page_id}").json()


def entries(page: dict) -> dict[str, dict]:
    return {one["key"]: one for one in page["entries"]}


def agree(client: TestClient, *page_ids: int):
    return client.post("/api/agree-with-pages", json={"page_ids": list(page_ids)})


def take_out(client: TestClient, *page_ids: int):
    return client.post("/api/take-pages-out", json={"page_ids": list(page_ids)})


def decide(client: TestClient, page_id: int, key: str, **what):
    return client.put(f"/api/pages/{page_id}/entries/{key}", json=what)


def rows(client: TestClient, child_id: int) -> list[dict]:
    found = client.get("/api/rows", params={"child_id": child_id}).json()
    return [client.get(f"/api/rows/{one['id']}").json() for one in found]


def words(client: TestClient, child_id: int) -> list[dict]:
    return client.get(f"/api/children/{child_id}/written").json()


def states(client: TestClient, child_id: int) -> dict[str, str]:
    standings = client.get(f"/api/children/{child_id}/letters/n/standing")
    return {one["aspect"]: one["state"] for one in standings.json()}


# -- in, read, agreed, out --------------------------------------------------------------------------------


def test_a_page_is_read_and_nothing_is_in_the_records_before_it_is_agreed_with(client, printed):
    (page,) = brought(client, printed, 1)
    child = printed.children[0]
    assert (page["status"], page["child"]["id"], page["wants"]) == ("read", child, False)
    found = entries(page_of(client, page["id"]))
    keys = printed.keys
    assert found[keys[0]]["support"] == "trace"
    assert found[keys[3]]["found"] == "crossed-out"
    assert found[keys[-1]]["found"] == "empty"
    assert [key for key, one in found.items() if one["ticked"]] == [keys[1]]
    tall = found[keys[2]]["letter"]
    assert [one["code"] for one in tall["findings"]] == ["size.tall"]
    assert tall["headings"]["direction"] == "not-seen"
    assert rows(client, child) == words(client, child) == []
    copies = client.get(f"/api/classes/{printed.class_id}/printed").json()[0]["copies"]
    assert [one["back_on"] is not None for one in copies] == [True, False, False, False]


def test_what_is_agreed_with_stands_in_check_and_over_time_and_comes_out_again(client, printed):
    (page,) = brought(client, printed, 1)
    child = printed.children[0]
    assert agree(client, page["id"]).status_code == 204
    (row,) = rows(client, child)
    attempts = row["attempts"]
    assert [one["support"] for one in attempts] == ["trace"] + ["alone"] * (len(attempts) - 1)
    assert [one["crossed_out"] for one in attempts].count(True) == 1
    assert [one["best"] for one in attempts].index(True) == 1
    assert row["finished"]
    assert {one["paper"]["page_id"] for one in attempts} == {page["id"]}
    waiting = client.get(f"/api/classes/{printed.class_id}/queue").json()["groups"]
    assert [one["paper"] for one in waiting[0]["rows"][0]["attempts"]] == [one["paper"] for one in attempts]
    (word,) = words(client, child)
    assert (word["text"], word["paper"]["page_id"]) == ("nun", page["id"])
    story = client.get(f"/api/children/{child}/letters/n").json()
    assert story["latest"]["attempt"]["paper"]["page_id"] == page["id"]
    headings = {one["heading"] for one in story["weeks"] if one["secure"] + one["near"] + one["fix"]}
    assert headings == {"shape", "size"}

    assert take_out(client, page["id"]).status_code == 204
    assert rows(client, child) == words(client, child) == []
    assert client.get(f"/api/classes/{printed.class_id}/queue").json()["groups"] == []
    assert not client.get(f"/api/children/{child}/letters/n").json()["weeks"]
    assert [one["agreed"] for one in pile(client, printed)["pages"]] == [False]


def test_ink_stands_in_its_slot_and_its_findings_with_it(client, printed):
    (page,) = brought(client, printed, 1)
    before = entries(page_of(client, page["id"]))
    agree(client, page["id"])
    (row,) = rows(client, printed.children[0])
    for place, one in enumerate(row["attempts"]):
        paper, entry = one["paper"], before[one["paper"]["key"]]
        x = np.concatenate([stroke["x"] for stroke in one["strokes"]])
        assert place * row["slot_mm"] < x.mean() < (place + 1) * row["slot_mm"]
        there = np.concatenate([stroke["x"] for stroke in entry["strokes"]])
        assert np.allclose(x - there, paper["moved_mm"], atol=0.011)
        for here, was in zip(
            one["result"]["findings"] if one["result"] else [],
            entry["letter"]["findings"] if entry["letter"] else [],
            strict=True,
        ):
            assert here["at"][0] - was["at"][0] == pytest.approx(paper["moved_mm"], abs=0.011)
            assert here["at"][1] == was["at"][1]


def test_marks_are_not_lost_when_a_page_is_taken_out_and_let_in_again(client, printed):
    (page,) = brought(client, printed, 1)
    agree(client, page["id"])
    (row,) = rows(client, printed.children[0])
    second = row["attempts"][1]["id"]
    edits = {"attempt_ids": [second], "mark": "fix", "teachers_best": True}
    assert client.post(f"/api/rows/{row['id']}/edits", json=edits).status_code == 200
    take_out(client, page["id"])
    agree(client, page["id"])
    (again,) = rows(client, printed.children[0])
    assert [one["mark"] for one in again["attempts"]].index("fix") == 1
    assert again["attempts"][1]["teachers_best"]
    assert [one["crossed_out"] for one in again["attempts"]] == [
        one["crossed_out"] for one in row["attempts"]
    ]


def test_a_page_is_let_in_once_however_many_agree_at_once(client, printed):
    (page,) = brought(client, printed, 1)
    with ThreadPoolExecutor(4) as pool:
        codes = sorted(pool.map(lambda _: agree(client, page["id"]).status_code, range(4)))
    assert codes == [204, 409, 409, 409]
    assert len(rows(client, printed.children[0])) == 1


def test_pages_are_let_in_all_or_none(client, printed):
    first, second = brought(client, printed, 1, 2)
    client.delete(f"/api/pages/{second['id']}")
    assert agree(client, first["id"], second["id"]).status_code == 409
    assert rows(client, printed.children[0]) == []


# -- put right --------------------------------------------------------------------------------------------


def test_places_are_put_right_by_hand_and_every_step_is_taken_back(client, printed):
    (page,) = brought(client, printed, 1)
    key = printed.keys[1]
    before = entries(page_of(client, page["id"]))[key]
    line = {"x": [30.0, 30.0], "y": [before["lines"]["mid"], before["lines"]["base"]]}
    steps = [{"expected": "h"}, {"found": "crossed-out"}, {"found": "empty"}, {"strokes": [line]}, {}]
    seen = []
    for step in steps:
        answer = decide(client, page["id"], key, **step)
        assert answer.status_code == 200, answer.text
        seen.append(entries(answer.json())[key])
    assert seen[0]["expected"] == "h"
    assert seen[0]["verdict"] != "secure"
    assert [one["found"] for one in seen[1:]] == ["crossed-out", "empty", "ink", "ink"]
    assert seen[3]["strokes"][0]["x"] == line["x"]
    for _ in steps:
        assert client.post(f"/api/pages/{page['id']}/undo").status_code == 200
    assert entries(page_of(client, page["id"]))[key] == before
    assert client.post(f"/api/pages/{page['id']}/undo").status_code == 409


@pytest.mark.parametrize("text", [" ", "ß", "n" * 121])
def test_a_letter_that_the_house_cannot_draw_is_refused(client, printed, text):
    (page,) = brought(client, printed, 1)
    before = entries(page_of(client, page["id"]))
    assert decide(client, page["id"], printed.keys[1], expected=text).status_code in (404, 422)
    assert entries(page_of(client, page["id"])) == before


def test_the_pile_holds_what_was_let_in_of_late_only(client, printed):
    first, second = brought(client, printed, 1, 4)
    agree(client, first["id"])
    shown = {one["id"]: one for one in pile(client, printed)["pages"]}
    assert shown[first["id"]]["agreed"]
    for one in shown.values():
        looked_at = page_of(client, one["id"])
        counts = ("written", "crossed_out", "empty", "unclear", "wants", "why")
        assert [one[name] for name in counts] == [looked_at[name] for name in counts]
    client.app.state.clock = lambda: datetime.now(UTC) + timedelta(days=15)
    assert [one["id"] for one in pile(client, printed)["pages"]] == [second["id"]]
    assert page_of(client, first["id"])["agreed"]  # it is still to be seen


def test_what_is_in_the_records_is_not_put_right_behind_their_back(client, printed):
    (page,) = brought(client, printed, 1)
    agree(client, page["id"])
    assert decide(client, page["id"], printed.keys[0], found="empty").status_code == 409
    assert (
        client.put(f"/api/pages/{page['id']}/child", json={"child_id": printed.children[1]}).status_code
        == 409
    )
    assert client.delete(f"/api/pages/{page['id']}").status_code == 409


def test_a_letter_put_right_is_a_row_of_its_own(client, printed):
    (page,) = brought(client, printed, 1)
    decide(client, page["id"], printed.keys[4], expected="h")
    agree(client, page["id"])
    assert sorted(row["letter"] for row in rows(client, printed.children[0])) == ["h", "n"]


def test_a_copy_for_anybody_asks_whose_it_is_and_is_judged_as_for_that_child(client, printed):
    (page,) = brought(client, printed, 4)
    assert page["wants"]
    assert page["child"] is None
    assert agree(client, page["id"]).status_code == 409
    child = printed.children[2]
    client.patch(f"/api/children/{child}", json={"level": "settled"})
    given = client.put(f"/api/pages/{page['id']}/child", json={"child_id": child}).json()
    assert not given["wants"]
    assert agree(client, page["id"]).status_code == 204
    strict = entries(given)[printed.keys[2]]["letter"]["findings"][0]["tolerance"]
    own = rows(client, child)[0]["attempts"][2]["result"]["findings"][0]["tolerance"]
    assert own == strict
    looser = entries(page_of(client, brought(client, printed, 1)[-1]["id"]))[printed.keys[2]]
    assert looser["letter"]["findings"][0]["tolerance"] > strict


def test_a_page_counts_on_the_day_it_was_written(client, printed):
    (page,) = brought(client, printed, 1)
    day = datetime.now(UTC).date() - timedelta(days=3)
    path = f"/api/pages/{page['id']}/written-on"
    assert client.put(path, json={"day": f"{day:%Y-%m-%d}"}).status_code == 200
    tomorrow = datetime.now(UTC).date() + timedelta(days=2)
    assert client.put(path, json={"day": f"{tomorrow:%Y-%m-%d}"}).status_code == 409
    agree(client, page["id"])
    assert client.get(f"/api/children/{printed.children[0]}/letters/n").json()["first"]["day"] == f"{day}"


# -- what is not as it should be --------------------------------------------------------------------------


def test_the_same_page_twice_is_said_and_can_be_taken_instead(client, printed):
    (first,) = brought(client, printed, 1)
    again = read_picture(printed.picture(1), 1)[::-1, ::-1]
    bring(client, printed, png(again), "again.png")
    second = max(read_all(client, printed)["pages"], key=lambda page: page["id"])
    assert (second["status"], second["wants"]) == ("repeated", True)
    assert agree(client, second["id"]).status_code == 409
    agree(client, first["id"])
    assert client.post(f"/api/pages/{second['id']}/instead").status_code == 409
    take_out(client, first["id"])
    taken = client.post(f"/api/pages/{second['id']}/instead").json()
    assert taken["status"] == "read"
    assert [one["id"] for one in pile(client, printed)["pages"]] == [second["id"]]


def test_the_very_same_file_is_not_taken_in_twice(client, printed):
    brought(client, printed, 1)
    answer = bring(client, printed, printed.picture(1), "copy of scan.png")
    assert answer.status_code == 409
    assert "1.png" in answer.json()["detail"]


def test_pages_that_nobody_knows_are_said_plainly_and_kept(client, printed):
    blank = png(np.full((900, 700), 240, dtype=np.uint8))
    bring(client, printed, blank, "blank.png")
    (page,) = read_all(client, printed)["pages"]
    assert page["status"] == "not-a-sheet"
    assert client.get(f"/api/pictures/{page['picture_id']}.jpg").status_code == 200
    sheet = {"sheet": "ZZZZZ2", "copy_number": 1, "page": 1}
    assert client.put(f"/api/pages/{page['id']}/sheet", json=sheet).status_code == 404


def test_a_page_of_a_child_since_erased_is_not_taken_for_anothers(client, printed):
    client.delete(f"/api/children/{printed.children[0]}")
    (page,) = brought(client, printed, 1)
    assert page["status"] == "other-sheet"
    assert "erased" in page["why"]
    assert page["written"] == 0


def test_a_picture_is_read_as_the_sheet_and_with_the_corners_that_a_person_names(client, printed):
    grey = read_picture(printed.picture(2), 1).copy()
    edge = round(25 * DPI / 25.4)
    for x in (slice(0, edge), slice(-edge, None)):  # marks and codes are lost
        for y in (slice(0, edge), slice(-edge, None)):
            grey[y, x] = 255
    bring(client, printed, png(grey), "torn.png")
    (page,) = read_all(client, printed)["pages"]
    assert page["status"] == "not-a-sheet"
    tall, wide = grey.shape
    corners = [[0, 0], [wide, 0], [wide, tall], [0, tall]]
    asked = {"sheet": printed.code, "copy_number": 2, "page": 1, "corners_px": corners}
    answer = client.put(f"/api/pages/{page['id']}/sheet", json=asked)
    assert answer.status_code == 200, answer.text
    named = answer.json()
    assert (named["status"], named["child"]["id"]) == ("read", printed.children[1])
    found = entries(named)
    assert [found[key]["found"] for key in printed.keys[:4]] == ["ink", "ink", "ink", "crossed-out"]
    assert client.get(f"/api/pages/{page['id']}").status_code == 404  # the new one is in its place


def test_what_cannot_be_opened_is_said_and_dismissed(client, printed):
    made = bring(client, printed, b"%PDF-1.4 and nothing that follows", "broken.pdf").json()
    (file,) = read_all(client, printed)["files"]
    assert file["name"] == "broken.pdf"
    assert file["problem"]
    assert client.delete(f"/api/brought/{made['id']}").status_code == 204
    assert pile(client, printed)["files"] == []
    assert bring(client, printed, b"").status_code == 409


# -- nothing lost, nothing left behind ----------------------------------------------------------------------


def test_reading_stops_and_goes_on(client, printed):
    client.put(f"/api/classes/{printed.class_id}/pages/stopped", json={"stopped": True})
    bring(client, printed, printed.picture(1))
    stopped = client.put(f"/api/classes/{printed.class_id}/pages/stopped", json={"stopped": True}).json()
    if stopped["to_read"]:
        time.sleep(0.5)
        assert pile(client, printed)["to_read"] == stopped["to_read"]
    client.put(f"/api/classes/{printed.class_id}/pages/stopped", json={"stopped": False})
    assert len(read_all(client, printed)["pages"]) == 1


def test_what_a_kill_left_unread_is_read_after_the_next_start(folder, printed):
    application = create_app(Settings(folder), web_dir=None)
    with application.state.sessions() as session, incoming.coming_in(folder) as file:  # never started: killed
        file.write(printed.picture(1))
        incoming.bring_in(session, printed.class_id, "scan.png", file, folder, datetime.now(UTC))
    (folder / "incoming" / "0123abc.part").write_bytes(b"half a file")
    (folder / "incoming" / "4711").write_bytes(b"of records that were put back")
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        (page,) = read_all(client, printed)["pages"]
        assert page["status"] == "read"
        until = time.monotonic() + PATIENCE_S
        while list((folder / "incoming").iterdir()) and time.monotonic() < until:
            time.sleep(0.05)
        assert list((folder / "incoming").iterdir()) == []


def test_a_file_that_is_gone_is_said(folder, printed):
    application = create_app(Settings(folder), web_dir=None)
    with application.state.sessions() as session, incoming.coming_in(folder) as file:
        file.write(printed.picture(1))
        made = incoming.bring_in(session, printed.class_id, "scan.png", file, folder, datetime.now(UTC))
    incoming.let_go(folder, made.id)
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        (file,) = read_all(client, printed)["files"]
        assert file["problem"] == incoming.GONE


def test_a_full_disk_takes_nothing_in_and_leaves_nothing(client, printed, folder, monkeypatch):
    def full(_descriptor: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    answer = bring(client, printed, printed.picture(1))
    assert answer.status_code == 503
    assert "full" in answer.json()["detail"]
    monkeypatch.undo()
    assert list((folder / "incoming").iterdir()) == []
    assert brought(client, printed, 1)[0]["status"] == "read"


def test_nothing_but_pixels_is_kept_of_a_picture(client, printed, folder):
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x010F] = "Invented Cameras"
    exif.get_ifd(0x8825)[2] = (50.0, 30.0, 0.0)
    exif[0x0112] = 3  # upside down
    upside_down = Image.open(io.BytesIO(printed.picture(1))).rotate(180)
    upside_down.save(out, "JPEG", exif=exif, quality=92)
    bring(client, printed, out.getvalue(), "photo.jpg")
    (page,) = read_all(client, printed)["pages"]
    kept = client.get(f"/api/pictures/{page['picture_id']}.jpg").content
    assert not Image.open(io.BytesIO(kept)).getexif()
    assert b"Invented Cameras" not in Settings(folder).database.read_bytes()
    assert abs(page_of(client, page["id"])["entries"][0]["box"][0]) < 210
    assert page["status"] == "read"
    assert list((folder / "incoming").iterdir()) == []


def test_pictures_go_when_they_are_old_and_what_was_decided_stays(client, printed):
    first, second, third = brought(client, printed, 1, 2, 3)
    agree(client, first["id"])
    client.delete(f"/api/pages/{second['id']}")
    assert client.put("/api/records/pictures", json={"days": 30}).json() == {"days": 30}
    assert client.get(f"/api/pictures/{first['picture_id']}.jpg").status_code == 200
    client.put("/api/records/pictures", json={"days": 0})
    assert client.get(f"/api/pictures/{first['picture_id']}.jpg").status_code == 409
    assert client.get(f"/api/pictures/{third['picture_id']}.jpg").status_code == 200  # nobody decided yet
    assert client.get(f"/api/pages/{first['id']}/straight.jpg").status_code == 200
    assert client.post(f"/api/pages/{second['id']}/back").status_code == 404
    assert len(rows(client, printed.children[0])) == 1


def test_a_page_thrown_away_comes_back(client, printed):
    (page,) = brought(client, printed, 1)
    client.delete(f"/api/pages/{page['id']}")
    assert pile(client, printed)["pages"] == []
    assert agree(client, page["id"]).status_code == 409
    assert client.post(f"/api/pages/{page['id']}/back").json()["status"] == "read"
    assert agree(client, page["id"]).status_code == 204


def test_erasing_a_child_leaves_no_picture_and_bringing_it_back_brings_the_page(client, printed, folder):
    both = np.hstack([read_picture(printed.picture(1), 1), read_picture(printed.picture(2), 1)])
    bring(client, printed, png(both), "both.png")
    first, second = sorted(read_all(client, printed)["pages"], key=lambda page: page["child"]["id"])
    agree(client, first["id"], second["id"])
    erased = client.delete(f"/api/children/{printed.children[0]}").json()
    assert client.get(f"/api/pictures/{first['picture_id']}.jpg").status_code == 409
    assert client.get(f"/api/pages/{first['id']}/straight.jpg").status_code == 404
    assert client.get(f"/api/pages/{second['id']}/straight.jpg").status_code == 200  # the other child's own
    back = client.post(f"/api/erased/{erased['id']}/bring-back").json()
    (row,) = rows(client, back["id"])
    paper = row["attempts"][0]["paper"]
    assert client.get(f"/api/pages/{paper['page_id']}/straight.jpg").status_code == 200
    assert take_out(client, paper["page_id"]).status_code == 204
    assert rows(client, back["id"]) == []


def test_pages_go_along_with_their_child(client, printed, elsewhere):
    (page,) = brought(client, printed, 1)
    decide(client, page["id"], printed.keys[4], found="crossed-out")
    agree(client, page["id"])
    file = client.get(f"/api/children/{printed.children[0]}/export.zip").content
    there = elsewhere.get("/api/classes").json()[0]["id"]
    answer = elsewhere.post(f"/api/classes/{there}/children/import", content=file)
    assert answer.status_code == 201, answer.text
    child = answer.json()["id"]
    (row,) = rows(elsewhere, child)
    (before,) = rows(client, printed.children[0])
    assert [one["verdict"] for one in row["attempts"]] == [one["verdict"] for one in before["attempts"]]
    paper = row["attempts"][0]["paper"]
    original = client.get(f"/api/pages/{page['id']}/straight.jpg").content
    assert elsewhere.get(f"/api/pages/{paper['page_id']}/straight.jpg").content == original
    assert words(elsewhere, child)[0]["paper"]["page_id"] == paper["page_id"]


def test_a_backup_holds_the_pages(client, printed):
    (page,) = brought(client, printed, 1)
    backup = client.get("/api/records/backup.zip").content
    agree(client, page["id"])
    assert client.post("/api/records/restore", content=backup).status_code == 200
    assert rows(client, printed.children[0]) == []
    assert client.get(f"/api/pictures/{page['picture_id']}.jpg").status_code == 200
    assert agree(client, page["id"]).status_code == 204


# -- a scanner's folder -------------------------------------------------------------------------------------


def test_what_a_scanner_has_finished_is_taken_out_of_its_folder(folder, printed, session_of, tmp_path):
    scanner = tmp_path / "scanner"
    scanner.mkdir()
    (scanner / "page.png").write_bytes(printed.picture(1)[:5000])
    (scanner / ".hidden.png").write_bytes(b"x")
    (scanner / "coming.part").write_bytes(b"x")
    (scanner / "empty.png").touch()
    seen: dict = {}

    def look() -> int:
        return incoming.fetch(session_of, scanner, folder, datetime.now(UTC), seen)

    assert look() == 0  # it may still be written to
    (scanner / "page.png").write_bytes(printed.picture(1))
    assert look() == 0
    assert look() == 1
    assert {one.name for one in scanner.iterdir()} == {".hidden.png", "coming.part", "empty.png"}
    (scanner / "once more.png").write_bytes(printed.picture(1))
    assert look() == 0
    assert look() == 1  # known by its content: it goes, and is not there twice
    assert len(list((folder / "incoming").iterdir())) == 1


@pytest.fixture
def session_of(folder: Path):
    with create_app(Settings(folder), web_dir=None).state.sessions() as session:
        yield session


def test_pages_from_the_scanners_folder_come_to_the_class_of_their_sheet(folder, printed, tmp_path):
    scanner = tmp_path / "scanner"
    scanner.mkdir()
    (scanner / "page.png").write_bytes(printed.picture(3))
    settings = Settings(folder, pages_from=scanner)
    with TestClient(create_app(settings, web_dir=None), base_url=HERE) as client:
        until = time.monotonic() + PATIENCE_S
        while not pile(client, printed)["pages"] and time.monotonic() < until:
            time.sleep(0.1)
        (page,) = pile(client, printed)["pages"]
    assert page["child"]["id"] == printed.children[2]
    assert not list(scanner.iterdir())


# -- any other picture of writing ---------------------------------------------------------------------------


def test_an_exercise_book_is_read_by_the_lines_and_words_that_a_person_gives(client, printed):
    from firstloop.core.simulate.camera import Device, take
    from firstloop.core.simulate.notebook import exercise_book

    rng = np.random.default_rng(5)
    book, _ = exercise_book(("mud and sand", "n n n n"), rng, DPI)
    bring(client, printed, png(take(Device.PHONE, book, DPI, rng).grey), "book.png")
    (page,) = read_all(client, printed)["pages"]
    assert page["status"] == "not-a-sheet"
    seen = client.post(f"/api/pages/{page['id']}/proposal", json={}).json()
    assert len(seen["bands"]) == 2
    lines = [
        {**band, "text": text} for band, text in zip(seen["bands"], ("mud  and sand", "n n n n"), strict=True)
    ]
    asked = {
        "child_id": printed.children[0],
        "corners_px": seen["corners_px"],
        "lines": lines,
        "mid_to_base_mm": 6.0,
    }
    too_large = client.put(f"/api/pages/{page['id']}/writing", json={**asked, "mid_to_base_mm": 60.0})
    assert too_large.status_code == 409
    answer = client.put(f"/api/pages/{page['id']}/writing", json=asked)
    assert answer.status_code == 200, answer.text
    page = answer.json()
    letters = [one for one in page["entries"] if one["expected"] == "n"]
    assert [one["verdict"] for one in letters] == ["secure"] * 4
    heights = [one["letter"]["measures"]["height_mm"] for one in letters]
    assert np.allclose(heights, 6.0, atol=1.0)
    assert agree(client, page["id"]).status_code == 204
    (row,) = rows(client, printed.children[0])
    assert len(row["attempts"]) == 4
    assert [one["text"] for one in words(client, printed.children[0])] == ["mud and sand"]


def test_nothing_hostile_is_kept_or_left_behind(client, printed, folder):
    for number, (name, data) in enumerate(HOSTILE.items()):
        answer = bring(client, printed, data, f"{number}.png")
        assert answer.status_code == (201 if data else 409), name
    found = read_all(client, printed)
    assert found["pages"] == []
    assert len(found["files"]) == len(HOSTILE) - 1
    assert all(one["problem"] for one in found["files"])
    until = time.monotonic() + PATIENCE_S
    while list((folder / "incoming").iterdir()) and time.monotonic() < until:
        time.sleep(0.05)
    assert list((folder / "incoming").iterdir()) == []
