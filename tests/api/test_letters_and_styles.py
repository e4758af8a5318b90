"""Letters, house styles, families, words and exports, as the screens ask for them."""

from __future__ import annotations

import io
import xml.etree.ElementTree as ET

import numpy as np
import pytest
from PIL import Image

from firstloop.core.letterforms.library import EVERY, letter
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.letterforms.words import word
from firstloop.core.ruling import RULINGS
from firstloop.formats.inkml import read_inkml
from firstloop.formats.moves_json import MovesError, read_moves, write_moves
from firstloop.formats.png import PictureError, model_png
from firstloop.formats.svg import animated_svg, model_svg

SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture
def kittiwake(client):
    return client.post("/api/classes", json={"name": "Kittiwake class"}).json()


def change(client, class_id, change_, scheme="by-movement", alphabet="lower case"):
    return client.post(
        f"/api/classes/{class_id}/families",
        params={"scheme": scheme, "alphabet": alphabet},
        json={"change": change_},
    )


def standing(answer):
    return {f["name"]: "".join(m["drawing"]["char"] for m in f["members"]) for f in answer["families"]}


def test_every_letter_has_a_page(client):
    for char in [*sorted(set(EVERY) - set("?.")), "%3F", "full-stop"]:
        page = client.get(f"/api/letters/{char}").json()
        assert page["strokes"], char
        assert page["reason"], char
        assert page["patter"][0]["is_start"], char


def test_a_letter_the_house_cannot_draw_is_not_found(client):
    answer = client.get("/api/letters/%25")
    assert answer.status_code == 404
    assert "'%'" in answer.json()["detail"]


def test_a_style_is_looked_at_before_it_is_kept(client, kittiwake):
    style = {**kittiwake["style"], "choices": {"k": "one", "y": "slopes"}}
    style.pop("id"), style.pop("version")
    look = client.post(
        "/api/styles/look", json={"style": style, "against": {}, "text": "keys", "letter": "n"}
    ).json()
    assert look["changed"] == ["k", "y"]
    assert [(m["letter"], m["after"]) for m in look["moved"]] == [("k", "Stems with rounds"), ("y", "Slopes")]
    assert look["line"]["text"] == "keys"
    assert look["line"]["paths"] != look["before"]["paths"]
    k = next(one for one in look["choices"] if one["key"] == "k")
    assert [option["chosen"] for option in k["options"]] == [False, True]
    branch = next(one for one in look["measures"] if one["key"] == "branch_xh")
    assert {"m", "h", "r"} <= set(branch["shared_by"])
    assert not any(one["key"] == "b" for one in look["choices"])  # only for joined writing
    assert client.get("/api/classes").json()[0]["style"]["choices"] == {}


def test_a_class_follows_a_style_and_goes_back(client, kittiwake):
    first = kittiwake["style"]["id"]
    doc = {"script": "cursive", "name": "Joined", "choices": {"q": "hook"}}
    kept = client.put(f"/api/classes/{kittiwake['id']}/style", json=doc).json()["style"]
    assert (kept["script"], kept["version"], kept["choices"]) == ("cursive", 1, {"q": "hook"})
    assert {one["name"] for one in client.get("/api/styles").json()} == {"Joined", "Print, upright"}
    exported = client.get(f"/api/classes/{kittiwake['id']}/style.json").json()
    assert exported["format"] == "first-loop-style/1"
    back = client.put(f"/api/classes/{kittiwake['id']}/style/{first}").json()["style"]
    assert back["script"] == "print"
    exported.pop("format")
    again = client.put(f"/api/classes/{kittiwake['id']}/style", json=exported).json()["style"]
    assert again["choices"] == {"q": "hook"}


@pytest.mark.parametrize(
    "style",
    [
        {"choices": {"k": "three"}},
        {"choices": {"nobody": "one"}},
        {"adjustments": [{"letter": "n", "measure": "branch_xh", "value": 9}]},
        {"adjustments": [{"letter": "n", "measure": "colour", "value": 0.5}]},
    ],
)
def test_a_style_no_letter_can_follow_is_refused_and_nothing_changes(client, kittiwake, style):
    answer = client.put(f"/api/classes/{kittiwake['id']}/style", json=style)
    assert answer.status_code == 400
    assert client.get("/api/classes").json()[0]["style"] == kittiwake["style"]


def test_a_board_is_changed_step_by_step_and_taken_back(client, kittiwake):
    board = f"/api/classes/{kittiwake['id']}/families"
    at = {"scheme": "by-movement", "alphabet": "lower case"}
    plain = client.get("/api/families", params={"class_id": kittiwake["id"]}).json()
    assert standing(plain)["Scoops"] == "uy"
    moved = change(client, kittiwake["id"], {"action": "move", "letter": "y", "family": "slopes"}).json()
    y = next(m for f in moved["families"] for m in f["members"] if m["drawing"]["char"] == "y")
    assert (y["by_hand"], y["by_rule"]) == (True, "scoops")
    assert y["reason"].startswith("By rule in Scoops")
    ruled = change(client, kittiwake["id"], {"action": "add", "name": "Dotted", "rule": "has: dot"}).json()
    assert standing(ruled)["Dotted"] == "ij"
    client.post(f"{board}/undo", params=at)
    back = client.post(f"{board}/undo", params=at).json()
    assert back == plain
    assert client.post(f"{board}/undo", params=at).status_code == 409


def test_a_rule_is_seen_in_letters_before_it_is_used(client, kittiwake):
    def seen(**given):
        return client.get("/api/families/rule", params={"class_id": kittiwake["id"], **given})

    new = seen(rule="has:  dot").json()
    assert (new["rule"], new["come"], new["go"]) == ("has: dot", ["i", "j"], [])
    scoops = seen(rule="begins with: cup, back", family="scoops").json()
    assert (scoops["come"], scoops["go"]) == ([], ["y"])
    assert [one["char"] for one in scoops["letters"]] == ["u"]
    wrong = seen(rule="has: spot")
    assert (wrong.status_code, "is not a move" in wrong.json()["detail"]) == (400, True)
    assert not client.get("/api/families", params={"class_id": kittiwake["id"]}).json()["can_undo"]
    words = client.get("/api/families/moves/n", params={"class_id": kittiwake["id"]}).json()
    assert [one["word"] for one in words] == ["down", "back", "over", "down"]
    assert all(one["path"].startswith("M ") for one in words)


def test_letters_are_put_in_order_in_one_step_each(client, kittiwake):
    def moved(**step):
        return standing(change(client, kittiwake["id"], {"action": "move", **step}).json())

    assert moved(letter="y", family="scoops", before="u")["Scoops"] == "yu"
    assert moved(letter="v", family="scoops", before="u")["Scoops"] == "yvu"
    order = change(client, kittiwake["id"], {"action": "order", "families": ["slopes", "rounds"]}).json()
    assert list(standing(order))[:2] == ["Slopes", "Rounds"]
    back = client.post(
        f"/api/classes/{kittiwake['id']}/families/undo",
        params={"scheme": "by-movement", "alphabet": "lower case"},
    ).json()
    assert next(iter(standing(back))) != "Slopes"


def test_a_family_is_split_as_proposed_or_as_the_teacher_swaps(client, kittiwake):
    found = client.get(
        "/api/families/split", params={"class_id": kittiwake["id"], "family": "up-and-overs", "most": 3}
    ).json()
    assert [len(part["letters"]) for part in found] == [3, 3]
    parts = [part["letters"] for part in found]
    parts[0][0], parts[1][0] = parts[1][0], parts[0][0]
    given = {"class_id": kittiwake["id"], "family": "up-and-overs", "part": ["".join(p) for p in parts]}
    told = client.get("/api/families/split", params=given).json()
    assert [part["letters"] for part in told] == parts
    assert all(part["reason"].startswith("As you put them.") for part in told)
    cut = change(
        client, kittiwake["id"], {"action": "split", "family": "up-and-overs", "parts": parts}
    ).json()
    assert sorted(standing(cut)["Up-and-overs 2"]) == sorted(parts[1])
    wrong = change(client, kittiwake["id"], {"action": "split", "family": "rounds", "parts": [["c"], ["o"]]})
    assert wrong.status_code == 400


@pytest.mark.parametrize(
    ("step", "said"),
    [
        ({"action": "rule", "family": "scoops", "rule": "begins with: zigzag"}, "zigzag"),
        ({"action": "move", "letter": "A", "family": "scoops"}, "not on this board"),
        ({"action": "rename", "family": "nowhere", "name": "X"}, "no family"),
    ],
)
def test_a_change_that_cannot_be_made_says_why(client, kittiwake, step, said):
    answer = change(client, kittiwake["id"], step)
    assert answer.status_code == 400
    assert said in answer.json()["detail"]


def test_two_schemes_are_compared(client):
    def compared(first, second):
        return client.get("/api/families/compare", params={"first": first, "second": second}).json()

    moved = {one["letter"]: one["after"] for one in compared("by-movement", "by-height")}
    assert moved["g"] == "Middle and drop"
    assert compared("by-height", "by-height") == []


def test_an_order_of_sounds_is_typed_and_drawn(client, kittiwake):
    path = f"/api/classes/{kittiwake['id']}/sounds"
    shipped = client.get(path).json()
    assert not shipped["own"]
    words = [one["words"] for one in shipped["sets"]]
    assert words == sorted(words)
    assert words[-1] > 1500  # each set says how many words can be made with it
    split = client.put(path, json={"text": "l k\na_e"}).json()["sets"][1]
    assert (split["units"][0]["drawing"]["char"], split["words"]) == ("a-e", 1)
    kept = client.put(path, json={"text": "n e t\nck sh"}).json()
    assert [[u["text"] for u in one["units"]] for one in kept["sets"]] == [["n", "e", "t"], ["ck", "sh"]]
    assert client.put(path, json={"text": "s s"}).status_code == 400
    assert client.get(path).json() == kept
    assert kept["own"]
    assert client.put(path, json={"text": ""}).json() == shipped


def test_own_words_must_fit_the_moves(client, kittiwake):
    path = f"/api/classes/{kittiwake['id']}/words/n"
    phrases = [one["text"] for one in client.get("/api/letters/n").json()["patter"]]
    own = [f"ours {i}" for i in range(len(phrases))]
    assert client.put(path, json={"phrases": own}).json()["phrases"] == own
    refused = client.put(path, json={"phrases": own[1:]})
    assert refused.status_code == 400
    assert str(len(phrases)) in refused.json()["detail"]
    assert client.get(f"/api/classes/{kittiwake['id']}/words").json() == [{"letter": "n", "phrases": own}]


def test_a_word_is_played_joined_where_the_class_joins(client, kittiwake):
    client.put(f"/api/classes/{kittiwake['id']}/style", json={"script": "cursive", "name": "Joined"})
    model = client.get("/api/model", params={"text": "mast", "class_id": kittiwake["id"]}).json()
    assert len(model["strokes"]) == 2  # the word, and the bar of t after it
    assert model["strokes"][1]["moves"][0]["kind"] == "bar"
    assert model["blocks"] == ["rise", "middle"]
    printed = client.get("/api/model", params={"text": "mast"}).json()
    assert len(printed["strokes"]) == 5


@pytest.mark.parametrize("text", ["n", "sat", "quay jig"])
def test_what_a_ruling_draws_around_a_text_is_the_same_on_the_screen_as_on_paper(client, text):
    boxed = client.get("/api/model", params={"text": text}).json()["boxed"]
    words = letter_boxes(word(text) if len(text) > 1 else letter(text))
    for kind in (RULINGS["three-blocks"], RULINGS["word-boxes"]):
        on_paper = [(left, -top, right, -low) for left, low, right, top in kind.drawn_boxes(words)]
        assert np.array(boxed[kind.boxes]) == pytest.approx(100 * np.array(on_paper), abs=0.01)


def test_slips_are_shown_with_what_they_would_be_read_as(client):
    found = client.get("/api/letters/h/slips").json()
    assert {"shape.reads-as": "n"}.items() <= {one["code"]: one["reads_as"] for one in found}.items()


@pytest.mark.parametrize("form", ["svg", "animated-svg", "png", "inkml", "json"])
@pytest.mark.parametrize("text", ["b", "quay", "A crab!"])
def test_letters_and_words_are_exported(client, form, text):
    answer = client.get("/api/model/file", params={"text": text, "form": form})
    assert answer.status_code == 200
    assert "attachment" in answer.headers["content-disposition"]
    if "svg" in form:
        assert ET.fromstring(answer.content).tag == f"{SVG}svg"
    if form == "png":
        assert Image.open(io.BytesIO(answer.content)).height == 600
    if form == "inkml":
        (group,) = read_inkml(answer.content)
        assert group.truth == text
        assert len(group.strokes) == len((letter(text) if len(text) == 1 else word(text)).strokes)
    if form == "json":
        assert read_moves(answer.content).char == text


def test_moves_survive_their_file():
    model = word("quay", HouseStyle(script=Script.CURSIVE, slant_deg=7))
    back = read_moves(write_moves(model))
    assert back.kinds == model.kinds
    np.testing.assert_allclose(back.points, model.points, atol=1e-5)


@pytest.mark.parametrize("data", ["{", "[]", '{"format": "other"}', '{"format": "first-loop-moves/1"}'])
def test_moves_that_are_none_are_refused(data):
    with pytest.raises(MovesError):
        read_moves(data)


def test_a_still_picture_numbers_its_strokes():
    root = ET.fromstring(model_svg(letter("E")))
    assert [one.text for one in root.iter(f"{SVG}text")] == ["1", "2", "3", "4"]


def test_a_playing_picture_uncovers_each_stroke_in_turn():
    root = ET.fromstring(animated_svg(word("it")))
    moving = [one for one in root.iter(f"{SVG}animate") if one.get("attributeName") == "stroke-dashoffset"]
    assert len(moving) == 4
    begins = []
    for one in moving:
        times, values = ([float(v) for v in one.get(key).split(";")] for key in ("keyTimes", "values"))
        assert times == sorted(times)
        assert (times[0], times[-1]) == (0, 1)
        assert values == sorted(values, reverse=True)
        begins.append(next(t for t, v in zip(times, values, strict=True) if v < 1))
    assert begins == sorted(begins)


def test_a_picture_has_ink_where_the_letter_is():
    picture = np.array(Image.open(io.BytesIO(model_png(letter("l"), height_px=300))).convert("L"))
    dark = np.argwhere(picture < 80)
    assert np.ptp(dark[:, 0]) / 300 == pytest.approx(2 / 3.8, abs=0.05)
    with pytest.raises(PictureError):
        model_png(letter("l"), height_px=10)


def test_the_stepping_stone_is_among_the_letters_the_class_has_begun(client, kittiwake):
    child = client.post(
        f"/api/classes/{kittiwake['id']}/children", json={"first_name": "Hana", "initial": "O"}
    ).json()

    def stone(char):
        page = client.get(f"/api/letters/{char}", params={"class_id": kittiwake["id"]}).json()
        return page["stepping_stone"]

    assert stone("h") == "n"  # in the order of the families, until the class has begun
    for char in "oldb":
        client.post("/api/rows", json={"child_id": child["id"], "letter": char})
    assert stone("h") == "b"
    assert stone("d") in "ol"  # b came after d
