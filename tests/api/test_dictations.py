"""Dictations over the API: made, marked, written on a tablet, kept with the child."""

from __future__ import annotations

import pypdfium2 as pdfium
import pytest

from firstloop.store import written as written_store
from tests.api.test_journeys import school
from tests.api.test_written import pen, send


@pytest.fixture
def made(client):
    child = school(client)["child"]
    path = f"/api/classes/{child['class_id']}/dictations"
    dictation = client.post(path, json={"words": ["tin", "shell", "z-or-b", "lake"]}).json()
    return {"child": child, "path": path, **dictation}


def mark(client, made, position: int, *tries, child=None):
    body = {"child_id": child or made["child"]["id"], "position": position, "tries": list(tries)}
    return client.put(f"/api/dictations/{made['id']}/marks", json=body)


def of_child(client, made):
    return client.get(f"/api/dictations/{made['id']}").json()["children"][0]["words"]


def test_words_come_with_their_sound_boxes(made):
    assert [one["text"] for one in made["words"]] == ["tin", "shell", "zorb", "lake"]
    assert [one["boxes"] for one in made["words"]] == [
        ["t", "i", "n"],
        ["sh", "e", "ll"],
        ["z", "or", "b"],
        ["l", "a_e", "k"],
    ]
    assert all(one["drawing"]["paths"] for one in made["words"])
    assert made["children"][0]["words"] == [None] * 4


@pytest.mark.parametrize("words", [[], ["a"], ["c4t"], ["c--t"], ["x"] * 21])
def test_what_cannot_be_dictated_is_refused(client, made, words):
    assert client.post(made["path"], json={"words": words}).status_code in (400, 422)


def test_a_word_is_marked_mended_and_marked_once_more(client, made):
    assert mark(client, made, 1, [2]).json()["tries"] == [[2]]
    assert mark(client, made, 1, [2], []).json()["tries"] == [[2], []]
    assert mark(client, made, 0, []).json()["tries"] == [[]]
    assert [one and one["tries"] for one in of_child(client, made)] == [[[]], [[2], []], None, None]
    (listed,) = client.get(made["path"]).json()
    assert (listed["words"], listed["marked"], listed["of"]) == (["tin", "shell", "zorb", "lake"], 2, 4)
    assert mark(client, made, 1).json()["tries"] == []  # taken back
    assert client.get(made["path"]).json()[0]["marked"] == 1
    for wrong in ([[5]], [[], [1]], [[1], [1], [1]]):
        assert mark(client, made, 1, *wrong).status_code in (400, 422)
    assert mark(client, made, 9, []).status_code == 404
    assert of_child(client, made)[1]["tries"] == []  # what was refused changed nothing


def test_a_child_of_another_class_is_not_marked_here(client, made):
    other = client.post("/api/classes", json={"name": "Turnstone group"}).json()
    child = client.post(
        f"/api/classes/{other['id']}/children", json={"first_name": "Bram", "initial": "O"}
    ).json()
    assert mark(client, made, 0, [], child=child["id"]).status_code == 404


def test_on_a_tablet_the_model_is_hidden_and_formation_stands_beside_spelling(client, made):
    def write():
        body = {"child_id": made["child"]["id"], "position": 0}
        return client.post(f"/api/dictations/{made['id']}/written", json=body).json()

    first = write()
    assert (first["text"], first["boxes"]) == ("tin", 3)
    assert write()["id"] == first["id"]  # asked for and not written yet: the same again
    send(client, first, pen(first, slips={1: ("position.floating", 0.5)}))
    seen = of_child(client, made)[0]
    assert seen["written"]
    assert "above the base line" in seen["formation"]
    assert seen["tries"] == []
    again = write()
    assert again["id"] != first["id"]
    assert client.get(f"/api/written/{first['id']}").json()["crossed_out"]  # a line through it
    assert of_child(client, made)[0]["word_id"] == again["id"]


def test_the_page_to_write_on_has_a_box_for_every_sound_and_no_word(client, made):
    answer = client.get(f"/api/dictations/{made['id']}/page.pdf")
    assert answer.headers["content-type"] == "application/pdf"
    with pdfium.PdfDocument(answer.content) as document:
        page = document[0]
        said = page.get_textpage().get_text_range()
        paths = [one for one in page.get_objects() if one.type == pdfium.raw.FPDF_PAGEOBJ_PATH]
        bounds = [one.get_bounds() for one in paths]  # a path is gone with its document
    assert not {"tin", "shell", "zorb", "lake"} & set(said.split())
    assert all(str(number) in said for number in (1, 2, 3, 4))
    squares = [
        one for one in bounds if abs((one[2] - one[0]) - (one[3] - one[1])) < 0.5 and one[2] - one[0] > 30
    ]
    assert len(squares) == 3 + 3 + 3 + 3  # one for every sound


def test_a_dictation_with_nothing_in_it_is_taken_back_and_one_with_marks_stays(client, made):
    mark(client, made, 0, [])
    assert client.delete(f"/api/dictations/{made['id']}").status_code == 409
    mark(client, made, 0)
    assert client.delete(f"/api/dictations/{made['id']}").status_code == 204
    assert client.get(f"/api/dictations/{made['id']}").status_code == 404


def test_a_childs_dictations_go_along_in_its_file_and_with_a_move(client, made):
    child = made["child"]["id"]
    first = client.post(
        f"/api/dictations/{made['id']}/written", json={"child_id": child, "position": 0}
    ).json()
    send(client, first, pen(first))
    mark(client, made, 0, [1], [])
    mark(client, made, 1, [])
    file = client.get(f"/api/children/{child}/export.zip").content
    assert client.delete(f"/api/children/{child}").status_code in (200, 204)
    other = client.post("/api/classes", json={"name": "Turnstone group"}).json()
    taken = client.post(f"/api/classes/{other['id']}/children/import", content=file)
    assert taken.status_code == 201, taken.text
    units = client.get(f"/api/children/{taken.json()['id']}/units").json()
    assert {one["unit"]: one["credit"] for one in units["units"]} == {
        "t": "1 of 1", "i": "0 of 1, 1 when written again", "n": "1 of 1",
        "sh": "1 of 1", "e": "1 of 1", "ll": "1 of 1",
    }  # fmt: skip
    with client.app.state.sessions() as session:
        (word,) = written_store.words_of(session, taken.json()["id"], 5)
        assert len(word.dictated.units) == 3
