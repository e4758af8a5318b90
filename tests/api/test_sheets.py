"""Sheets over the API: looked at, kept, printed for each child, and what became of the copies."""

from __future__ import annotations

import io
import json

import numpy as np
import pypdfium2 as pdfium
import pytest
import zxingcpp
from PIL import Image

from firstloop.formats.sheet_pdf import sheet_pdf
from tests.api.test_journeys import post, school, start, strokes

ROW = {"kind": "writing", "texts": ["n"], "pattern": "model trace alone*"}


@pytest.fixture
def here(client):
    made = school(client)
    for name, hand in (("Bashir", "right"), ("Cleo", "left")):
        client.post(
            f"/api/classes/{made['class']['id']}/children",
            json={"first_name": name, "initial": "M", "hand": hand},
        )
    return next(one for one in client.get("/api/classes").json() if one["id"] == made["class"]["id"])


def path(here: dict, rest: str = "sheets") -> str:
    return f"/api/classes/{here['id']}/{rest}"


def copies(here: dict, **wish) -> list[dict]:
    return [{"child_id": one["id"], "wish": {"rows": [ROW], **wish}} for one in here["children"]]


def printed(client, here, status: int = 201, **body) -> dict:
    given = {"name": "n again", "copies": copies(here), **body}
    answer = client.post(path(here, "printed"), json=given)
    assert answer.status_code == status, answer.text
    return answer.json()


def test_twelve_ready_made_sheets_can_be_looked_at_by_a_class_that_wrote_nothing_yet(client, here):
    ready = client.get(path(here, "sheets/ready")).json()
    assert len(ready) == 12
    for one in ready:
        seen = client.post(path(here, "sheets/preview"), json={"wish": one["wish"]})
        assert seen.status_code == 200, (one["key"], seen.text)
        preview = seen.json()
        assert preview["pages"][0].startswith("<svg")
        assert len(preview["rows"]) == len(one["wish"]["rows"])
        assert {place["row"] for place in preview["places"]} == set(range(len(preview["rows"])))


def test_a_preview_says_each_row_in_words_and_what_fits(client, here):
    wish = {"rows": [ROW, {"kind": "gaps", "texts": ["s[h]ip"]}, {"kind": "date"}], "xh_mm": 8}
    seen = client.post(path(here, "sheets/preview"), json={"wish": wish}).json()
    told = [(one["title"], one["goes"], one["fits"]) for one in seen["rows"]]
    assert told[0] == ("n", "model, trace, then alone", "11 fit")
    assert told[1] == ("s[h]ip", "letters left out", "")
    assert told[2][0] == "Long date"
    assert seen["height_mm"] == 297


@pytest.mark.parametrize(
    ("wish", "why"),
    [
        ({"xh_mm": 3}, "the x-height is 4 to 20 mm, not 3"),
        ({"margin_mm": 120}, "leave no line"),
        ({"ruling": "clouds"}, "there is no ruling 'clouds'"),
        ({"rows": [{**ROW, "texts": ["m" * 60]}]}, "it fits at"),
        ({"rows": [{**ROW, "texts": ["ж"]}]}, "there is no model for “ж”"),
        ({"rows": [{**ROW, "pattern": "model hop"}]}, "“hop” is none of"),
        ({"rows": [{"kind": "gaps", "texts": ["ship"]}]}, "brackets"),
    ],
)
def test_a_bad_wish_gets_one_clear_line_and_nothing_is_kept(client, here, wish, why):
    for verb, place, body in (
        ("post", path(here, "sheets/preview"), {"wish": {"rows": [ROW], **wish}}),
        ("post", path(here), {"name": "mine", "wish": {"rows": [ROW], **wish}}),
        ("post", path(here, "printed"), {"name": "mine", "copies": copies(here, **wish)}),
    ):
        answer = getattr(client, verb)(place, json=body)
        assert answer.status_code == 400, answer.text
        assert why in answer.json()["detail"]
    assert client.get(path(here)).json() == client.get(path(here, "printed")).json() == []


def test_a_sheet_is_kept_changed_dropped_brought_back_and_taken_to_another_class(client, here):
    kept = client.post(path(here), json={"name": "Mondays", "wish": {"rows": [ROW]}}).json()
    changed = client.put(
        f"/api/sheets/{kept['id']}", json={"name": "Tuesdays", "wish": {"rows": [ROW, ROW], "xh_mm": 7}}
    ).json()
    assert (changed["name"], len(changed["wish"]["rows"])) == ("Tuesdays", 2)
    client.delete(f"/api/sheets/{kept['id']}")
    assert client.get(path(here)).json() == []
    assert client.post(f"/api/sheets/{kept['id']}/back").json() == changed

    file = client.get(f"/api/sheets/{kept['id']}/file.json").text
    other = school(client, "Farah")["class"]
    taken = client.post(path(other, "sheets/file"), json={"text": file}).json()
    assert (taken["name"], taken["wish"]) == ("Tuesdays", changed["wish"])
    assert [one["name"] for one in client.get(path(here)).json()] == ["Tuesdays"]


@pytest.mark.parametrize(
    "text",
    ["{", "[]", "{}", '{"format": "first-loop-sheet-wish/1"}',
     '{"format": "first-loop-sheet/1", "name": "x"}',
     '{"format": "first-loop-sheet-wish/1", "name": "x", "wish": {"rows": [{"kind": "hop"}]}}',
     '{"format": "first-loop-sheet-wish/1", "name": "x", "wish": {"xh_mm": NaN}}',
     '{"format": "first-loop-sheet-wish/1", "name": "", "wish": {}}'],
)  # fmt: skip
def test_a_file_that_is_no_sheet_is_refused_in_words(client, here, text):
    answer = client.post(path(here, "sheets/file"), json={"text": text})
    assert answer.status_code == 400
    assert len(answer.json()["detail"]) < 200
    assert client.get(path(here)).json() == []


def codes_of(pdf: bytes) -> list[list[str]]:
    """The texts of the codes on every page."""
    pages = pdfium.PdfDocument(pdf)
    pictures = [np.asarray(page.render(scale=100 / 72).to_pil().convert("L")) for page in pages]
    return [[one.text for one in zxingcpp.read_barcodes(picture)] for picture in pictures]


def test_each_childs_copy_has_a_code_of_its_own_and_no_name_is_in_it(client, here):
    made = printed(client, here)
    answer = client.get(f"/api/printed/{made['code']}/sheet.pdf")
    assert answer.status_code == 200
    assert codes_of(answer.content) == [[f"FL1:{made['code']}:{n}:1"] * 2 for n in (1, 2, 3)]
    document = pdfium.PdfDocument(answer.content)
    assert "Edie" not in json.dumps(document.get_metadata_dict())
    texts = [page.get_textpage().get_text_range() for page in document]
    for one, text in zip(made["copies"], texts, strict=True):
        assert one["child"]["first_name"] in text, "whose page it is stands on it"
    layout = client.get(f"/api/printed/{made['code']}/2/layout.json").json()
    assert layout["pages"][0]["qr"][0]["text"] == f"FL1:{made['code']}:2:1"
    assert layout["format"] == "first-loop-sheet/1"
    assert "Bashir" not in json.dumps(layout)


def test_what_was_printed_stays_as_it_was_when_the_class_changes_its_style(client, here):
    made = printed(client, here)
    before = client.get(f"/api/printed/{made['code']}/sheet.pdf").content
    changed = client.put(f"/api/classes/{here['id']}/style", json={"script": "cursive"})
    assert changed.status_code == 200, changed.text
    assert client.get(f"/api/printed/{made['code']}/sheet.pdf").content == before
    again = client.post(f"/api/printed/{made['code']}/again").json()
    assert again["code"] != made["code"]
    assert client.get(f"/api/printed/{again['code']}/sheet.pdf").content != before


def test_copies_that_came_back_are_noted_and_the_note_taken_back(client, here):
    made = printed(client, here)
    back = f"/api/printed/{made['code']}/2/back"
    assert [one["back_on"] is not None for one in client.put(back, json={"back": True}).json()["copies"]] == [
        False,
        True,
        False,
    ]
    assert all(one["back_on"] is None for one in client.put(back, json={"back": False}).json()["copies"])
    assert client.put(f"/api/printed/{made['code']}/9/back", json={"back": True}).status_code == 404


def test_an_erased_child_leaves_no_copy_and_is_not_printed_for_again(client, here):
    made = printed(client, here)
    gone = made["copies"][1]["child"]
    assert client.delete(f"/api/children/{gone['id']}").status_code < 300
    (now,) = client.get(path(here, "printed")).json()
    assert [one["number"] for one in now["copies"]] == [1, 3]
    assert gone["first_name"] not in json.dumps(now)
    assert client.get(f"/api/printed/{made['code']}/2/layout.json").status_code == 404
    again = client.post(f"/api/printed/{made['code']}/again").json()
    assert [one["child"]["id"] for one in again["copies"]] == [
        one["child"]["id"] for one in made["copies"] if one["child"]["id"] != gone["id"]
    ]


def test_an_erased_child_is_brought_back_with_its_copies_which_are_known_again(client, here):
    made = printed(client, here)
    gone = made["copies"][1]["child"]
    layout = client.get(f"/api/printed/{made['code']}/2/layout.json").json()
    client.put(f"/api/printed/{made['code']}/2/back", json={"back": True})
    client.delete(f"/api/children/{gone['id']}")
    (erased,) = client.get("/api/erased").json()
    assert client.post(f"/api/erased/{erased['id']}/bring-back").status_code < 300
    (now,) = client.get(path(here, "printed")).json()
    assert [one["number"] for one in now["copies"]] == [1, 2, 3]
    assert now["copies"][1]["child"]["name"] == gone["name"]
    assert now["copies"][1]["back_on"] is not None
    assert client.get(f"/api/printed/{made['code']}/2/layout.json").json() == layout


def test_a_child_who_moves_to_another_school_takes_its_copies_along(client, here, elsewhere):
    made = printed(client, here)
    child = made["copies"][0]["child"]
    packed = client.get(f"/api/children/{child['id']}/export.zip").content
    other = school(elsewhere, "Farah")["class"]
    taken = elsewhere.post(f"/api/classes/{other['id']}/children/import", content=packed)
    assert taken.status_code == 201, taken.text
    (now,) = elsewhere.get(path(other, "printed")).json()
    assert (now["code"], [one["number"] for one in now["copies"]]) == (made["code"], [1])


def test_a_child_of_another_class_is_not_printed_for_and_nothing_is_kept(client, here):
    stranger = school(client, "Farah")["child"]
    body = {"copies": [*copies(here), {"child_id": stranger["id"], "wish": {"rows": [ROW]}}]}
    refused = printed(client, here, status=409, **body)
    assert "not in this class" in refused["detail"]
    assert client.get(path(here, "printed")).json() == []


def test_copies_for_two_printers_are_not_one_job(client, here):
    body = copies(here)
    body[1]["wish"]["printing"] = "black"
    assert "one printer" in printed(client, here, status=400, copies=body)["detail"]
    assert client.get(path(here, "printed")).json() == []


def test_one_copy_that_cannot_be_laid_out_prints_none(client, here):
    body = copies(here)
    body[1]["wish"]["rows"] = [{**ROW, "texts": ["m" * 60]}]
    assert "it fits at" in printed(client, here, status=400, copies=body)["detail"]
    assert client.get(path(here, "printed")).json() == []


def test_a_sheet_for_each_child_is_of_what_it_needs(client, here, rng):
    edie = next(one for one in here["children"] if one["first_name"] == "Edie")
    for letter in ("n", "n", "a"):
        row = start(client, edie["id"], letter)
        fault = {"fault": "start.bottom", "size": 1} if letter == "n" else {}
        for key in range(3):
            last = post(client, row, 100 * row["id"] + key, strokes(letter, rng, **fault)).json()
        client.post(f"/api/rows/{row['id']}/edits", json={"attempt_ids": [last["id"]], "best": True})
    made = client.post(path(here, "sheets/each"), json={}).json()
    sheets = {one["child"]["first_name"]: one for one in made}
    assert list(sheets) == sorted(sheets)
    assert sheets["Cleo"]["wish"]["left_hand"]
    assert not sheets["Bashir"]["wish"]["left_hand"]
    mine = sheets["Edie"]
    written = [text for row in mine["wish"]["rows"] for text in row["texts"]]
    assert "n" in written
    assert any(one.startswith("n: begun at the bottom") for one in mine["why"])
    assert "to begin with" in " ".join(sheets["Bashir"]["why"])
    alone = client.get(f"/api/children/{edie['id']}/sheet").json()
    assert alone == mine


def test_sounds_are_underlined_as_the_schools_own_bank_cuts_them(client, here):
    wish = {"rows": [{**ROW, "texts": ["mast"], "pattern": "model"}], "units": True}

    def lines() -> int:
        seen = client.post(path(here, "sheets/preview"), json={"wish": wish}).json()
        return seen["pages"][0].count('stroke-width="0.35"')

    assert lines() == 0
    answer = client.put("/api/bank/words/mast", json={"units": "m-a-st", "by_heart": False})
    assert answer.status_code == 200, answer.text
    assert lines() == 1


@pytest.mark.parametrize(
    ("wanted", "rows"),
    [
        ({"letters": ["n"]}, 2),
        ({"letters": list("nmhb")}, 1),
        ({"words": ["nest", "men"]}, 1),
        ({"line": "a crab on a raft"}, 1),
        ({"recall": list("nm"), "letters": ["h"], "words": ["hen"]}, 4),
    ],
)
def test_a_sheet_for_something_holds_it(client, here, wanted, rows):
    made = client.post(path(here, "sheets/for"), json=wanted).json()
    texts = [text for row in made["wish"]["rows"] for text in row["texts"]]
    for text in (*wanted.get("letters", []), *wanted.get("words", []), *wanted.get("recall", [])):
        assert text in texts
    assert len(made["wish"]["rows"]) == rows
    assert made["name"]


def test_a_sheet_for_a_dictation_has_its_boxes_and_none_of_its_words(client, here):
    dictation = client.post(path(here, "dictations"), json={"words": ["sh-i-p", "mast"]}).json()
    made = client.post(path(here, "sheets/for"), json={"dictation_id": dictation["id"]}).json()
    (row,) = made["wish"]["rows"]
    assert [(one["text"], one["boxes"]) for one in row["words"]] == [("ship", 3), ("mast", 4)]
    assert client.post(path(here, "sheets/for"), json={}).status_code == 400


def test_a_sheet_without_records_is_the_one_of_the_command(client):
    wish = {"letters": ["n", "m"], "rows": 2, "xh_mm": 8}
    layout = client.post("/api/sheet/layout", json=wish).json()
    assert len({cell["row"] for cell in layout["pages"][0]["cells"]}) == 4
    pdf = client.post("/api/sheet/pdf", json=wish).content
    assert codes_of(pdf) == [[f"FL1:{layout['sheet']}:1:1"] * 2]
    png = Image.open(io.BytesIO(client.post("/api/sheet/png", json=wish).content))
    assert np.abs(np.array(png.size) - (1240, 1754)).max() <= 1
    refused = client.post("/api/sheet/layout", json={"letters": ["n"], "page": "a7"})
    assert (refused.status_code, refused.json()["detail"]) == (
        400,
        "there is no page “a7”; there are a4, letter",
    )


def test_a_class_put_away_or_a_page_too_many_is_said(client, here):
    many = [{"child_id": None, "wish": {"rows": [{**ROW, "rows": 60}]}}] * 30
    assert "at most 200 are printed" in printed(client, here, status=400, copies=many)["detail"]
    assert client.get(path(here, "printed")).json() == []
    assert (
        client.post("/api/classes/999/printed", json={"name": "x", "copies": copies(here)}).status_code == 404
    )
    assert sheet_pdf([], "nothing")
