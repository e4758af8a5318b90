"""What a person puts right of a page, and what is not as it should be."""

from __future__ import annotations

import io
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import numpy as np
import pypdfium2 as pdfium
import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.formats.pictures import read_picture
from tests.api.pages.given import (
    agree,
    bring,
    brought,
    decide,
    entries,
    page_of,
    pile,
    read_all,
    rows,
    take_out,
)
from tests.conftest import HERE
from tests.core.scanning.paper import DPI
from tests.returned import png


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


def test_dismissing_what_could_not_be_read_keeps_the_picture_that_nobody_decided_about(client, printed):
    document = pdfium.PdfDocument.new()
    document.new_page(300, 400)
    document.new_page(100_000, 100_000)  # no paper is so large
    out = io.BytesIO()
    document.save(out)
    made = bring(client, printed, out.getvalue(), "two.pdf").json()
    found = read_all(client, printed)
    (page,) = found["pages"]
    assert [one["name"] for one in found["files"]] == ["two.pdf"]
    assert client.delete(f"/api/brought/{made['id']}").status_code == 204
    assert pile(client, printed)["files"] == []
    assert client.get(f"/api/pictures/{page['picture_id']}.jpg").status_code == 200


def test_nobody_waits_while_a_place_is_judged(folder, printed):
    locked: list[bool] = []

    def judge(judged, task):
        with closing(sqlite3.connect(Settings(folder).database, timeout=0)) as other:
            try:
                other.execute("BEGIN IMMEDIATE")
                locked.append(False)
            except sqlite3.OperationalError:
                locked.append(True)
        return judged(task)

    with TestClient(create_app(Settings(folder), judge, web_dir=None), base_url=HERE) as client:
        (page,) = brought(client, printed, 4)
        decide(client, page["id"], printed.keys[1], expected="h")
        child = printed.children[2]
        client.patch(f"/api/children/{child}", json={"level": "settled"})
        client.put(f"/api/pages/{page['id']}/child", json={"child_id": child})
    assert len(locked) > len(printed.keys) / 2
    assert not any(locked)
