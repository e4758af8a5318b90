"""A page from its file to the records of a child, and out again."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.server.beside import GaveUpError
from firstloop.api.settings import Settings
from firstloop.services import simulated_scanner
from tests.api.pages.given import agree, brought, entries, page_of, pile, read_all, rows, take_out, words
from tests.conftest import HERE


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

    assert take_out(client, page["id"]).status_code == 200
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


def test_the_simulated_scanner_sends_what_is_out_and_says_when_it_could_not(folder, printed, monkeypatch):
    to, meanwhile = f"/api/classes/{printed.class_id}/pages/simulated", []

    def gives_up(*_: object) -> None:
        meanwhile.append(demo.post(to).status_code)
        raise GaveUpError

    monkeypatch.setattr(simulated_scanner, "_other_writing", lambda _style: [])
    monkeypatch.setattr(simulated_scanner, "PAGES", 1)
    with TestClient(create_app(Settings(folder, simulated_pen=True), web_dir=None), base_url=HERE) as demo:
        with monkeypatch.context() as for_once:
            for_once.setattr(simulated_scanner, "send", gives_up)
            assert demo.post(to).status_code == 503
        assert meanwhile == [409]
        assert pile(demo, printed)["pages"] == []
        assert demo.post(to).status_code == 202
        (page,) = read_all(demo, printed)["pages"]
    assert (page["status"], page["child"]["id"]) == ("read", printed.children[0])
