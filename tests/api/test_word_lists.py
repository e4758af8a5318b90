"""Words of a class over the API: found, made into things, the bank changed and brought in."""

from __future__ import annotations

import pytest

from tests.api.test_journeys import post, school, start, strokes


@pytest.fixture
def group(client, rng):
    """A class with two children: one has begun i, n, t, a, p, the other i, n, t."""
    child = school(client)["child"]
    other = client.post(
        f"/api/classes/{child['class_id']}/children", json={"first_name": "Bram", "initial": "O"}
    ).json()
    for one, letters in ((child, "intap"), (other, "int")):
        for number, char in enumerate(letters):
            row = start(client, one["id"], char)
            post(client, row, 100 * one["id"] + number, strokes(char, rng))
            client.post(f"/api/rows/{row['id']}/finish")
    return {"id": child["class_id"], "child": child["id"], "other": other["id"]}


def ask(client, group, what: str, **params):
    answer = client.get(f"/api/classes/{group['id']}/word-lists/{what}", params=params)
    assert answer.status_code == 200, answer.text
    return answer.json()


def texts(words: list[dict]) -> list[str]:
    return [one["text"] for one in words]


def test_words_are_found_of_letters_taught_and_tell_how_many_could_write_them(client, group):
    found = ask(client, group, "found", limit=200)
    assert set(found["taught"]) == set("intap")
    assert found["children"] == 2
    able = {one["text"]: one["able"] for one in found["words"]}
    assert (able["tin"], able["pan"]) == (2, 1)
    assert all(set(text) <= set("intap") for text in able)
    assert found["found"] == found["within"] == len(able) < found["total"]
    assert all(one["drawing"]["paths"] for one in found["words"])
    # to one child; before anything was taught; and of letters not taught too
    assert "pan" not in texts(ask(client, group, "found", child_id=group["other"], limit=200)["words"])
    assert ask(client, group, "found", on="2020-01-01")["words"] == []
    assert "ship" in texts(ask(client, group, "found", any_letters=True, holds="sh", limit=200)["words"])


def test_conditions_are_met_all_at_once(client, group):
    asked = {"holds": "a", "place": "middle", "most": 3, "limit": 200}
    found = texts(ask(client, group, "found", **asked)["words"])
    assert {"pan", "tan", "tap"} <= set(found)
    assert all(len(text) == 3 and text[1] == "a" for text in found)
    assert ask(client, group, "found", join="from-mid")["words"] == []
    family = ask(client, group, "found", family="scoops", any_letters=True, before=False, limit=200)
    assert all(set(text) <= set("uy") for text in texts(family["words"]))
    assert len({len(text) for text in texts(ask(client, group, "found", one_length=True)["words"])}) == 1
    assert ask(client, group, "found", practise="due")["words"] == []  # nothing is due yet


def test_a_childs_first_name_is_no_word(client, group):
    child = f"/api/classes/{group['id']}/children"
    assert "pat" not in texts(ask(client, group, "found", limit=200)["words"])
    assert "tin" in texts(ask(client, group, "found", limit=200)["words"])
    client.post(child, json={"first_name": "Tin", "initial": "A"})
    assert "tin" not in texts(ask(client, group, "found", limit=200)["words"])
    refused = client.put("/api/bank/words/bram", json={})
    assert refused.status_code == 400
    assert "first name" in refused.json()["detail"]


def test_rings_are_of_taught_words_and_another_seed_gives_others(client, group):
    first = ask(client, group, "rings", length=4)
    assert first
    for ring in first:
        words = texts(ring["words"])
        assert all(set(text) <= set("intap") for text in words)
        assert len(ring["steps"]) == len(words)
        for one, step, after in zip(
            ring["words"], ring["steps"], [*ring["words"][1:], ring["words"][0]], strict=True
        ):
            units = one["units"].copy()
            assert units[step["place"]] == step["gone"]
            units[step["place"]] = step["new"]
            assert units == after["units"]
    assert ask(client, group, "rings", any_letters=True, seed=1) != ask(
        client, group, "rings", any_letters=True, seed=2
    )
    assert ask(client, group, "rings", through="sh") == []  # sh is not taught
    assert all(
        any("sh" in word["units"] for word in ring["words"])
        for ring in ask(client, group, "rings", through="sh", any_letters=True)
    )


def test_which_one_fits_is_told_by_the_whole_bank_and_shown_of_taught_words(client, group):
    made = ask(client, group, "gaps", one="i", other="a")
    assert made
    for gap in made:
        (fits,) = gap["fitting"]
        assert set(gap["options"]) == {"i", "a"}
        around = [part["char"] if part else "" for part in (gap["before"], gap["after"])]
        assert fits.join(around) == gap["word"]["text"]
        assert set(gap["word"]["text"]) <= set("intap")
    assert {"pan", "tip"}.isdisjoint(gap["word"]["text"] for gap in made)  # pin and tap are words too
    both = ask(client, group, "gaps", one="i", other="a", both=True)
    assert all(len(gap["fitting"]) == 2 for gap in both)
    assert {"pan", "pin", "tan", "tin"} & {gap["word"]["text"] for gap in both}


def test_a_sort_and_a_ladder(client, group):
    words = ask(client, group, "sort", unit="sh", place="first", any_letters=True, half=5)
    assert [one["belongs"] for one in words].count(True) == 5
    assert all((one["word"]["units"][0] == "sh") == one["belongs"] for one in words)
    assert ask(client, group, "sort", unit="sh") == []  # sh is not taught
    ladder = ask(client, group, "ladder", any_letters=True, sets=6, count=6)
    sizes = [len(one["units"]) for one in ladder]
    assert sizes == sorted(sizes)
    assert len(ladder) == 6


def test_a_sentence_is_looked_at_and_those_within_reach_are_listed(client, group):
    seen = ask(client, group, "sentence", text="the pan is in  a tin")
    assert [one["text"] for one in seen["tokens"] if one["letters"]] == ["the", "is"]
    assert [one["form"] for one in seen["slips"]] == ["capital-start", "spaces", "stop-end"]
    assert all(one["says"].endswith(".") for one in seen["slips"])
    assert seen["mended"] == "The pan is in a tin."
    assert seen["words"] == 6
    assert seen["seconds"] == pytest.approx(4.0 * (14 + 2.5))  # the usual pace of "growing"
    listed = ask(client, group, "sentences", any_letters=True)
    assert listed["found"] == listed["total"] >= 200
    assert ask(client, group, "sentences")["found"] < 5
    time = ask(client, group, "time", text=["pan", "tin"])
    assert time == {"seconds": 24.0, "letters": 0, "measured": False}


def test_a_word_is_added_corrected_hidden_shown_and_all_of_it_undone(client, group):
    def bank(search: str):
        return client.get("/api/bank/words", params={"search": search}).json()

    assert client.get("/api/bank/words").json()["can_undo"] is False
    added = client.put("/api/bank/words/tannin", json={}).json()
    assert (added["units"], added["by_heart"], added["own"]) == (["t", "a", "nn", "i", "n"], False, True)
    assert added["places"] == [[0], [1], [2, 3], [4], [5]]
    assert "tannin" in texts(ask(client, group, "found", limit=200)["words"])
    corrected = client.put("/api/bank/words/tannin", json={"units": "t-a-n-n-i-n", "by_heart": True}).json()
    assert corrected["units"] == ["t", "a", "n", "n", "i", "n"]
    assert client.put("/api/bank/words/tannin", json={"units": "t-a-n"}).status_code == 400
    assert client.post("/api/bank/words/tannin/hidden").status_code == 204
    assert bank("tannin")["hidden"] == ["tannin"]
    assert bank("tannin")["words"] == []
    assert client.post("/api/bank/words/tannin/hidden").status_code == 404
    assert client.post("/api/bank/words/tannin/shown").json() == corrected
    for _ in range(4):
        client.post("/api/bank/undo")
    assert bank("tannin") == {
        "words": [],
        "found": 0,
        "total": bank("")["total"],
        "hidden": [],
        "can_undo": False,
    }
    assert client.post("/api/bank/undo").status_code == 409
    assert texts(bank("-igh-")["words"])
    assert all("igh" in one["units"] for one in bank("-igh-")["words"])


LIST = "word,units,by_heart\ngannet,g-a-nn-e-t,\nshell,sh-e-l-l,\ncat,,\nc4t,,\nskua,,yes\ngull,g-u-l,\n"


def test_a_list_says_what_it_would_change_then_comes_in_as_one_step(client):
    total = client.get("/api/bank/words").json()["total"]
    seen = client.post("/api/bank/list/look", content=LIST.encode()).json()
    counts = {name: seen[name] for name in ("new", "corrected", "same", "proposed", "bad_lines")}
    assert counts == {"new": 2, "corrected": 1, "same": 1, "proposed": 1, "bad_lines": 2}
    assert [(one["number"], one["text"]) for one in seen["bad"]] == [(5, "c4t,,"), (7, "gull,g-u-l,")]
    assert seen["words"][0]["text"] == "skua"  # what is only proposed is shown first
    assert next(one for one in seen["words"] if one["text"] == "shell")["was"] == ["sh", "e", "ll"]
    assert client.get("/api/bank/words").json()["total"] == total
    assert client.post("/api/bank/list?job=mine", content=LIST.encode()).json() == seen
    assert client.get("/api/bank/words").json()["total"] == total + 2
    again = client.post("/api/bank/list/look", content=client.get("/api/bank/list.csv").content).json()
    assert (again["new"], again["corrected"], again["bad_lines"]) == (0, 0, 0)
    assert client.post("/api/bank/undo").json() == {"words": 3}
    assert client.get("/api/bank/words").json()["total"] == total


def test_a_long_list_tells_how_far_it_is_and_what_is_no_list_is_refused(client):
    letters = "abcdefghijklmnopqrst"
    words = [f"{a}{b}{c}zq" for a in letters for b in letters for c in letters][:6000]
    assert client.post("/api/bank/list?job=long", content="\n".join(words).encode()).json()["new"] == 6000
    assert client.get("/api/bank/list/progress?job=long").json() == {"lines": 6000}
    assert client.get("/api/bank/list/progress?job=other").json() == {"lines": 0}
    for raw in (b"", b"\xff\xfe\x00\x01"):
        refused = client.post("/api/bank/list", content=raw)
        assert refused.status_code == 400
        assert refused.json()["detail"]


def test_two_who_change_the_bank_at_once_both_are_kept(client):
    client.put("/api/bank/words/skua", json={})
    client.put("/api/bank/words/gannet", json={})
    assert {"skua", "gannet"} <= set(texts(client.get("/api/bank/words?only_own=true").json()["words"]))
