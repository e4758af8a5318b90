"""A class set up, its children listed, changed, moved, erased and brought back."""

from __future__ import annotations

import sqlite3
import zipfile
from datetime import timedelta
from io import BytesIO

import pytest

from firstloop.api.settings import Settings
from firstloop.services import erased
from firstloop.store.tables import ErasedChild
from tests.api.test_journeys import post, school, start, strokes

LIST = """First name,Surname,Hand
Wilf,Ashby,left
Nell;Crane;R

Orla F
Edie Wren
Solo
Mo-Anne de Vries\tleft
Nell Cobb
"""


def read(client, text: str) -> dict:
    return client.post("/api/classes/1/children/read-list", json={"text": text}).json()


def names(client, class_id: int = 1) -> list[str]:
    (found,) = [one for one in client.get("/api/classes").json() if one["id"] == class_id]
    return [child["name"] for child in found["children"]]


def add(client, first_name: str, initial: str, class_id: int = 1) -> int:
    body = {"first_name": first_name, "initial": initial}
    return client.post(f"/api/classes/{class_id}/children", json=body).json()["id"]


def another_class(client) -> int:
    return client.post("/api/classes", json={"name": "Dunlin class"}).json()["id"]


def test_a_list_of_names_is_read_as_teachers_have_them_and_added_at_once(client, edie):
    found = read(client, LIST)
    fields = ("first_name", "initial", "hand")
    assert [tuple(one[key] for key in fields) for one in found["names"]] == [
        ("Wilf", "A", "left"),
        ("Nell", "C", "right"),
        ("Orla", "F", "right"),
        ("Mo-Anne", "V", "left"),
    ]
    assert [(one["line"], one["text"]) for one in found["unread"]] == [
        (6, "Edie Wren"),
        (7, "Solo"),
        (9, "Nell Cobb"),
    ]
    assert names(client) == ["Edie W"]  # nothing is added before it is agreed with
    body = {"children": [{key: one[key] for key in fields} for one in found["names"]]}
    assert client.post("/api/classes/1/children/many", json=body).status_code == 201
    assert names(client) == ["Edie W", "Mo-Anne V", "Nell C", "Orla F", "Wilf A"]
    again = client.post("/api/classes/1/children/many", json=body)
    assert again.status_code == 409
    assert "Wilf A is already in this class" in again.json()["detail"]


def test_of_several_children_all_are_added_or_none(client, edie):
    body = {"children": [{"first_name": "Ida", "initial": "K"}, {"first_name": "Edie", "initial": "W"}]}
    assert client.post("/api/classes/1/children/many", json=body).status_code == 409
    assert names(client) == ["Edie W"]


def test_a_child_is_called_otherwise_and_goes_to_another_class_with_all_it_wrote(client, edie, rng):
    post(client, start(client, edie["id"], support=["alone"]), 1, strokes("n", rng))
    other = another_class(client)
    url = f"/api/children/{edie['id']}"
    changed = client.patch(url, json={"first_name": "Edith", "hand": "left"}).json()
    assert (changed["name"], changed["hand"]) == ("Edith W", "left")
    assert client.patch(url, json={"class_id": other}).json()["class_id"] == other
    assert (names(client), names(client, other)) == ([], ["Edith W"])
    (child,) = client.get(f"/api/classes/{other}/map").json()["children"]
    assert [cell["letter"] for cell in child["cells"]] == ["n"]
    assert client.get("/api/classes/1/map").json()["children"] == []


def test_where_there_is_another_of_that_name_a_child_stays_as_it_was(client, edie):
    other = another_class(client)
    add(client, "Edie", "W", other)
    assert client.patch(f"/api/children/{edie['id']}", json={"class_id": other}).status_code == 409
    assert names(client) == ["Edie W"]
    assert client.patch(f"/api/children/{edie['id']}", json={"class_id": 99}).status_code == 404


def without_ids(row: dict) -> dict:
    kept = ("strokes", "mark", "verdict", "crossed_out", "best", "result")
    return {
        **{key: row[key] for key in ("letter", "started_at", "lines", "support")},
        "attempts": [{key: one[key] for key in kept} for one in row["attempts"]],
    }


def test_an_erased_child_is_gone_everywhere_and_comes_back_with_everything(client, edie, rng):
    row = start(client, edie["id"], support=["alone"])
    kept = post(client, row, 1, strokes("n", rng, fault="start.bottom", size=1)).json()
    client.post(f"/api/rows/{row['id']}/edits", json={"attempt_ids": [kept["id"]], "mark": "near"})
    client.post(f"/api/children/{edie['id']}/notes", json={"text": "Tilt the paper."})
    before = without_ids(client.get(f"/api/rows/{row['id']}").json())
    gone = client.delete(f"/api/children/{edie['id']}").json()
    assert gone["name"] == "Edie W"
    assert client.get(f"/api/rows/{row['id']}").status_code == 404
    assert client.get("/api/classes/1/map").json()["children"] == []
    assert [one["name"] for one in client.get("/api/erased").json()] == ["Edie W"]
    back = client.post(f"/api/erased/{gone['id']}/bring-back").json()
    (found,) = client.get("/api/rows", params={"child_id": back["id"]}).json()
    assert without_ids(client.get(f"/api/rows/{found['id']}").json()) == before
    notes = client.get(f"/api/children/{back['id']}/story").json()["notes"]
    assert [one["text"] for one in notes] == ["Tilt the paper."]
    assert client.get("/api/erased").json() == []
    assert client.post(f"/api/erased/{gone['id']}/bring-back").status_code == 404


def test_while_another_has_the_name_an_erased_child_waits(client, edie):
    gone = client.delete(f"/api/children/{edie['id']}").json()
    add(client, "Edie", "W")
    assert client.post(f"/api/erased/{gone['id']}/bring-back").status_code == 409
    assert [one["id"] for one in client.get("/api/erased").json()] == [gone["id"]]


def test_after_thirty_days_or_when_told_so_an_erased_child_is_gone_for_good(client, edie):
    gone = client.delete(f"/api/children/{edie['id']}").json()
    with client.app.state.sessions() as session:
        at = session.get(ErasedChild, gone["id"]).erased_at
        assert erased.forget_the_old(session, at + timedelta(days=30)) == 0
        assert erased.every(session, at + timedelta(days=31)) == []
        assert erased.forget_the_old(session, at + timedelta(days=31)) == 1
    again = client.delete(f"/api/children/{add(client, 'Rosalind', 'Q')}").json()
    assert client.delete(f"/api/erased/{again['id']}").status_code == 204
    assert client.get("/api/erased").json() == []


def test_no_backup_holds_anything_of_an_erased_child(client, edie, rng, tmp_path):
    child = add(client, "Rosalind", "Q")
    post(client, start(client, child, support=["alone"]), 1, strokes("n", rng))
    client.delete(f"/api/children/{child}")
    with zipfile.ZipFile(BytesIO(client.get("/api/records/backup.zip").content)) as packed:
        data = packed.read("records.sqlite3")
    assert b"Rosalind" not in data
    (tmp_path / "copy.sqlite3").write_bytes(data)
    with sqlite3.connect(tmp_path / "copy.sqlite3") as copy:
        assert copy.execute("SELECT count(*) FROM erased_child").fetchone() == (0,)
    with sqlite3.connect(Settings(tmp_path).database) as own:
        assert own.execute("SELECT count(*) FROM erased_child").fetchone() == (1,)


def test_a_class_is_set_up_otherwise_and_its_old_rows_stay_as_they_were(client, edie):
    old = start(client, edie["id"])
    given = {"name": "Sanderling class", "ruling": "base-only", "xh_mm": 14.0, "pattern": ["trace", "alone"]}
    changed = client.patch("/api/classes/1", json=given).json()
    assert {key: changed[key] for key in given} == given
    new = start(client, edie["id"])
    assert (new["ruling"], new["xh_mm"], new["support"]) == ("base-only", 14.0, ["trace", "alone"])
    kept = client.get(f"/api/rows/{old['id']}").json()
    for key in ("ruling", "xh_mm", "support", "lines"):
        assert kept[key] == old[key]


@pytest.mark.parametrize(
    "given", [{"xh_mm": 2.0}, {"ruling": "wavy"}, {"pattern": []}, {"pattern": ["guess"]}]
)
def test_a_class_that_nobody_could_write_in_is_refused(client, given):
    school(client)
    before = client.get("/api/classes").json()
    assert client.patch("/api/classes/1", json=given).status_code in (400, 422)
    assert client.get("/api/classes").json() == before


def test_a_row_goes_on_until_its_line_is_full(client, edie):
    client.patch("/api/classes/1", json={"fill_line": True, "pattern": ["trace", "ring", "alone"]})
    narrow = client.post("/api/rows", json={"child_id": edie["id"], "letter": "l"}).json()
    wide = client.post("/api/rows", json={"child_id": edie["id"], "letter": "m"}).json()
    for row in (narrow, wide):
        assert row["support"][:2] == ["trace", "ring"]
        assert set(row["support"][2:]) == {"alone"}
        full = len(row["support"]) * row["slot_mm"]
        assert full <= 174 < full + row["slot_mm"]
    assert len(narrow["support"]) > len(wide["support"])
    client.patch("/api/classes/1", json={"xh_mm": 20, "pattern": ["trace"] * 8})
    big = client.post("/api/rows", json={"child_id": edie["id"], "letter": "m"}).json()
    assert big["support"] == ["trace"] * 8 + ["alone"]  # what is to be traced is traced
    own = client.post("/api/rows", json={"child_id": edie["id"], "letter": "m", "support": ["alone"]}).json()
    assert own["support"] == ["alone"]


def test_a_letter_begun_in_a_ring_is_helped_and_no_evidence(client, edie, rng):
    client.patch("/api/classes/1", json={"pattern": ["ring", "alone"]})
    row = start(client, edie["id"])
    post(client, row, 1, strokes("n", rng, fault="start.bottom", size=1), support="ring")
    post(client, row, 2, strokes("n", rng), support="alone")
    (state,) = client.get(f"/api/children/{edie['id']}").json()["letters"]
    assert (state["letter"], state["attempts"]) == ("n", 2)
    told = client.get(f"/api/children/{edie['id']}/letters/n").json()
    assert told["slips"] == []
    assert told["standings"][0]["why"].startswith("learning: 1 of the last 1 alone")


def test_washed_or_not_is_seen_at_once_and_old_rows_keep_their_lines(client, edie):
    before = client.post("/api/rows", json={"child_id": edie["id"], "letter": "n"}).json()
    assert before["ruled"]["washed"]
    changed = client.patch("/api/classes/1", json={"washed": False, "layered": True}).json()
    assert (changed["ruled"]["washed"], changed["layered"]) == (False, True)
    same = client.get(f"/api/rows/{before['id']}").json()
    assert (same["layered"], same["lines"], same["support"]) == (False, before["lines"], before["support"])
    after = client.post("/api/rows", json={"child_id": edie["id"], "letter": "n"}).json()
    assert (after["layered"], after["ruled"]["washed"]) == (True, False)


def test_a_class_calls_the_lines_as_it_likes_and_no_other_does(client, edie, rng):
    other = client.post("/api/classes", json={"name": "Dunlin class"}).json()
    named = client.patch(
        "/api/classes/1", json={"line_names": {"mid": "roof line", "base": "base line"}}
    ).json()
    assert named["line_names"] == {"mid": "roof line"}  # the usual name is none of its own

    def said(class_id: int) -> str:
        model = client.get("/api/letters/n", params={"class_id": class_id}).json()
        return " ".join(phrase["text"] for phrase in model["patter"])

    assert "Start at the roof line." in said(1)
    assert "Start at the mid line." in said(other["id"])
    row = start(client, edie["id"])
    told = post(client, row, 1, strokes("n", rng, fault="start.bottom", size=1)).json()
    assert told["result"]["findings"][0]["child"] == "Start at the roof line, then straight down."
    row = client.get(f"/api/rows/{row['id']}").json()
    assert row["next_time"] == "Start at the roof line, then straight down."
    assert client.patch("/api/classes/1", json={"line_names": {}}).json()["line_names"] == {}
    assert client.get(f"/api/rows/{row['id']}").json()["next_time"].startswith("Start at the mid line")
    assert client.patch("/api/classes/1", json={"line_names": {"top": "x"}}).status_code == 422
