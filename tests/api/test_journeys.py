"""The API as the screens use it."""

from __future__ import annotations

from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.core.simulate.writer import write
from firstloop.formats.inkml import read_inkml
from firstloop.services.ink import from_stroke
from firstloop.store import rows
from tests.conftest import HERE


def strokes(char, rng, left_mm=4.0, **kwargs):
    from firstloop.core.ruling import ruling_kind

    ruling = ruling_kind("four-lines").ruled(10.0, top_mm=4.0)
    ink = write(char, rng, ruling=ruling, left_mm=left_mm, **kwargs)
    return [from_stroke(stroke) for stroke in ink.strokes]


def school(client: TestClient, name: str = "Edie", hand: str = "right") -> dict:
    made = client.post("/api/classes", json={"name": f"Class of {name}"}).json()
    child = client.post(
        f"/api/classes/{made['id']}/children", json={"first_name": name, "initial": "w", "hand": hand}
    ).json()
    return {"class": made, "child": child}


def start(client: TestClient, child_id: int, letter: str = "n", **more) -> dict:
    answer = client.post("/api/rows", json={"child_id": child_id, "letter": letter, **more})
    assert answer.status_code == 201
    return answer.json()


def post(client, row, key, ink, support="alone", **more):
    return client.post(
        f"/api/rows/{row['id']}/attempts",
        json={"key": f"key-{key:05d}", "support": support, "strokes": ink, **more},
    )


def test_a_row_is_written_judged_marked_and_remembered(client, edie, rng):
    row = start(client, edie["id"])
    assert row["support"] == ["trace", "trace", "finish", "alone", "alone", "alone"]
    good = post(client, row, 1, strokes("n", rng)).json()
    below = post(client, row, 2, strokes("n", rng, fault="start.bottom", size=1)).json()
    post(client, row, 3, strokes("n", rng), crossed_out=True)
    assert good["verdict"] == "secure"
    assert [f["code"] for f in below["result"]["findings"]] == ["start.bottom"]

    marked = client.post(
        f"/api/rows/{row['id']}/edits", json={"attempt_ids": [below["id"]], "mark": "near"}
    ).json()
    assert marked["attempts"][1]["verdict"] == "near"
    assert marked["attempts"][1]["result"]["verdict"] == "fix"
    best = client.post(
        f"/api/rows/{row['id']}/edits", json={"attempt_ids": [good["id"]], "best": True}
    ).json()
    assert [a["best"] for a in best["attempts"]] == [True, False, False]
    assert best["next_time"] == "Start at the mid line, then straight down."

    history = client.get(f"/api/children/{edie['id']}/letters/n").json()
    assert len(history["attempts"]) == 3
    assert history["weeks"][0] | {"monday": ""} == {
        "week": 1, "monday": "", "heading": "direction", "secure": 1, "near": 0, "fix": 1, "usual": "fix",
    }  # fmt: skip
    assert history["slips"][0]["code"] == "start.bottom"
    page = client.get(f"/api/children/{edie['id']}").json()
    assert page["letters"] == [
        {"letter": "n", "attempts": 2, "last_day": page["letters"][0]["last_day"], "state": "learning"}
    ]
    assert client.get("/api/rows", params={"child_id": edie["id"]}).json()[0]["verdicts"] == [
        "secure",
        "near",
        None,
    ]


def test_a_row_ends_with_its_last_letter_that_counts_though_nobody_says_so(client, edie, rng):
    row = start(client, edie["id"], support=["alone", "alone"])
    for key, crossed_out, ended in ((1, True, False), (2, False, False), (3, False, True)):
        post(client, row, key, strokes("n", rng), crossed_out=crossed_out)
        assert client.get(f"/api/rows/{row['id']}").json()["finished"] == ended


def test_agreeing_marks_what_counts_and_undo_takes_all_of_it_back(client, edie, rng):
    row = start(client, edie["id"])
    post(client, row, 1, strokes("n", rng))
    post(client, row, 2, strokes("n", rng, fault="start.bottom", size=1))
    post(client, row, 3, strokes("n", rng), crossed_out=True)
    agreed = client.post(f"/api/rows/{row['id']}/agree").json()
    assert [a["mark"] for a in agreed["attempts"]] == ["secure", "fix", None]
    undone = client.post(f"/api/rows/{row['id']}/undo").json()
    assert [a["mark"] for a in undone["attempts"]] == [None, None, None]
    assert not undone["can_undo"]
    assert client.post(f"/api/rows/{row['id']}/undo").status_code == 409


def test_ink_is_kept_when_the_checker_fails(tmp_path: Path, rng):
    def stumbling(*_):
        raise ZeroDivisionError("no such luck")

    with TestClient(create_app(Settings(tmp_path), judge=stumbling, web_dir=None), base_url=HERE) as client:
        child = school(client)["child"]
        row = start(client, child["id"])
        ink = strokes("n", rng)
        answer = post(client, row, 1, ink)
        assert answer.status_code == 201
        assert answer.json()["verdict"] == "unreadable"
        assert "no such luck" in answer.json()["error"]
    with TestClient(create_app(Settings(tmp_path), web_dir=None), base_url=HERE) as client:
        attempt = client.get(f"/api/rows/{row['id']}").json()["attempts"][0]
        assert [stroke["x"] for stroke in attempt["strokes"]] == [stroke["x"] for stroke in ink]
        marked = client.post(
            f"/api/rows/{row['id']}/edits", json={"attempt_ids": [attempt["id"]], "mark": "secure"}
        )
        assert marked.json()["attempts"][0]["verdict"] == "secure"


def test_ink_kept_just_before_a_crash_is_judged_at_the_next_start(tmp_path: Path, rng):
    with TestClient(create_app(Settings(tmp_path), web_dir=None), base_url=HERE) as client:
        row = start(client, school(client)["child"]["id"])
        with client.app.state.sessions() as session:  # the ink arrives, and then the plug is pulled
            kept = rows.get_row(session, row["id"])
            rows.keep_attempt(session, kept, "key-00001", "alone", kept.started_at, strokes("n", rng), False)
            session.commit()
    with TestClient(create_app(Settings(tmp_path), web_dir=None), base_url=HERE) as client:
        client.app.state.left_over.wait()
        (attempt,) = client.get(f"/api/rows/{row['id']}").json()["attempts"]
        assert attempt["verdict"] == "secure"


def test_sending_an_attempt_again_changes_nothing(client, edie, rng):
    row = start(client, edie["id"])
    first = post(client, row, 1, strokes("n", rng)).json()
    assert post(client, row, 1, strokes("o", rng)).json() == first
    assert len(client.get(f"/api/rows/{row['id']}").json()["attempts"]) == 1


def test_sending_an_attempt_again_crosses_it_out_if_it_was_meanwhile(client, edie, rng):
    row = start(client, edie["id"])
    ink = strokes("n", rng)
    post(client, row, 1, ink)
    assert post(client, row, 1, ink, crossed_out=True).json()["crossed_out"]
    assert post(client, row, 1, ink).json()["crossed_out"]  # and coming late, the first takes nothing back


def test_ink_for_a_row_that_is_gone_lands_in_no_other(client, edie, rng):
    gone = start(client, edie["id"])
    client.delete(f"/api/children/{edie['id']}")
    ada = school(client, "Ada")["child"]["id"]
    row = start(client, ada)
    assert ada > edie["id"]  # no number is given again
    assert row["id"] > gone["id"]
    assert post(client, gone, 1, strokes("n", rng)).status_code == 404
    # and were the number given again all the same, the ink would be known by when its row was started
    answer = post(client, row, 1, strokes("n", rng), row_started_at=gone["started_at"])
    assert (answer.status_code, answer.json()["detail"][-25:]) == (409, "no longer in the records.")
    assert client.get(f"/api/rows/{row['id']}").json()["attempts"] == []
    assert post(client, row, 1, strokes("n", rng), row_started_at=row["started_at"]).status_code == 201


def test_a_left_handed_childs_bars_are_accepted(client, rng):
    for hand, verdict in (("left", "secure"), ("right", "fix")):
        child = school(client, name=hand.title(), hand=hand)["child"]
        row = start(client, child["id"], "t")
        answer = post(
            client, row, 1 if hand == "left" else 2, strokes("t", rng, fault="direction.reversed", size=1)
        )
        assert answer.json()["verdict"] == verdict


def test_the_simulated_pen_writes_into_the_next_slot(client, edie, rng):
    row = start(client, edie["id"], "b")
    for slot in range(3):
        ink = client.get(f"/api/rows/{row['id']}/simulated-pen").json()
        xs = [x for stroke in ink for x in stroke["x"]]
        assert slot * row["slot_mm"] < min(xs)
        assert max(xs) < (slot + 1) * row["slot_mm"]
        assert ink[0]["t"][0] == 0
        assert post(client, row, slot, ink).status_code == 201
    again = start(client, edie["id"], "b")
    replayed = client.get(f"/api/rows/{again['id']}/simulated-pen").json()
    first = client.get(f"/api/rows/{row['id']}").json()["attempts"][0]["strokes"]
    assert replayed[0]["x"] == pytest.approx(first[0]["x"], abs=0.02)


def test_all_ink_of_a_child_can_be_taken_away_and_the_child_erased(client, edie, rng):
    row = start(client, edie["id"], "g")
    post(client, row, 1, strokes("g", rng))
    post(client, row, 2, strokes("g", rng), crossed_out=True)
    answer = client.get(f"/api/children/{edie['id']}/ink.inkml")
    assert "Edie-W-ink.inkml" in answer.headers["content-disposition"]
    groups = read_inkml(answer.content)
    assert [group.truth for group in groups] == ["g", "g"]
    assert client.delete(f"/api/children/{edie['id']}").status_code == 200
    assert client.get(f"/api/children/{edie['id']}").status_code == 404
    assert client.get(f"/api/rows/{row['id']}").status_code == 404


def test_a_letter_page_has_all_it_needs_to_draw_and_say_the_letter(client):
    model = client.get("/api/letters/n").json()
    assert model["family_name"] == "Up-and-overs"
    assert model["band"] == "middle band only"
    assert {one["letter"] for one in model["look_alikes"]} == {"u", "h"}
    stroke = model["strokes"][0]
    assert len(stroke["points"]) == len(stroke["t_ms"])
    assert [move["kind"] for move in stroke["moves"]] == ["down", "retrace", "arch", "down"]
    ends = [phrase["to_ms"] for phrase in model["patter"]]
    assert ends == sorted(ends)
    assert ends[-1] == model["duration_ms"]
    families = client.get("/api/families").json()["families"]
    assert sum(len(family["members"]) for family in families) == 26
    assert client.get("/api/letters.svg").headers["content-type"].startswith("image/svg+xml")
    assert client.get("/api/line", params={"text": "Monday 23 November"}).json()["width"] > 0


def test_the_class_map_shows_every_child_with_the_letters_written(client, rng):
    made = school(client)
    row = start(client, made["child"]["id"], "o")
    post(client, row, 1, strokes("o", rng))
    client.post(f"/api/rows/{row['id']}/finish")
    found = client.get(f"/api/classes/{made['class']['id']}/map").json()
    assert sum(len(family["letters"]) for family in found["families"]) == 26
    assert found["children"][0]["cells"][0]["letter"] == "o"
    assert found["children"][0]["cells"][0]["state"] == "learning"


BAD_ATTEMPTS = {
    "no strokes": {"strokes": []},
    "channels of other lengths": {"strokes": [{"x": [1, 2], "y": [1]}]},
    "no points": {"strokes": [{"x": [], "y": []}]},
    "a short key": {"key": "k"},
    "a new kind of support": {"support": "guess"},
}


@pytest.mark.parametrize("name", BAD_ATTEMPTS)
def test_a_bad_attempt_is_refused_and_keeps_nothing(client, edie, rng, name):
    row = start(client, edie["id"])
    body = {"key": "key-00001", "support": "alone", "strokes": strokes("n", rng)} | BAD_ATTEMPTS[name]
    assert client.post(f"/api/rows/{row['id']}/attempts", json=body).status_code == 422
    assert client.get(f"/api/rows/{row['id']}").json()["attempts"] == []


def test_numbers_that_are_not_finite_are_refused(client, edie):
    row = start(client, edie["id"])
    body = '{"key": "key-00001", "support": "alone", "strokes": [{"x": [1, NaN], "y": [1, 2]}]}'
    answer = client.post(
        f"/api/rows/{row['id']}/attempts", content=body, headers={"content-type": "application/json"}
    )
    assert answer.status_code in (400, 422)


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("GET", "/api/rows/999", None, 404),
        ("GET", "/api/children/999", None, 404),
        ("GET", "/api/letters/%C3%9F", None, 404),
        ("GET", "/api/classes/999/map", None, 404),
        ("POST", "/api/rows", {"child_id": 999, "letter": "n"}, 404),
        ("POST", "/api/classes", {"name": "Tiny", "xh_mm": 1}, 400),
        ("POST", "/api/classes", {"name": "Odd", "ruling": "tram"}, 400),
        ("POST", "/api/classes/1/children", {"first_name": "Edie", "initial": "W"}, 409),
        ("POST", "/api/classes/1/children", {"first_name": "Two Names", "initial": "W"}, 422),
    ],
)
def test_what_cannot_be_done_is_said_in_words(client, edie, method, path, body, status):
    answer = client.request(method, path, json=body)
    assert answer.status_code == status
    assert answer.json()["detail"]


@pytest.mark.parametrize(
    "body",
    [
        {"attempt_ids": [1], "best": 0},
        {"attempt_ids": ["1"], "best": True},
        {"attempt_ids": [1], "best": "yes"},
    ],
)
def test_what_is_nearly_a_value_is_refused_and_not_guessed(client, edie, rng, body):
    row = start(client, edie["id"])
    post(client, row, 1, strokes("n", rng))
    assert client.post(f"/api/rows/{row['id']}/edits", json=body).status_code == 422
