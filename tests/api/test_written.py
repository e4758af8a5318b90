"""Words that children write: kept first, judged as a whole, and followed over the weeks."""

from __future__ import annotations

from dataclasses import asdict
from datetime import timedelta

import numpy as np
import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.ruling import Ruling
from firstloop.core.simulate.text import write_text
from firstloop.services import child_story, judging, written_words
from firstloop.services.ink import from_stroke
from firstloop.services.recheck import recheck
from firstloop.store import classes
from firstloop.store import written as store
from tests.api.test_journeys import post, school, start, strokes
from tests.conftest import HERE
from tests.services.test_letter_history import FIRST

ORDERS = ("newest", "worrying")


def asked(client: TestClient, text: str = "mint", name: str = "Edie") -> dict:
    child = school(client, name)["child"]
    return client.post("/api/written", json={"child_id": child["id"], "text": text}).json()


def pen(word: dict, fault: str | None = None, size: float = 0.0, seed: int = 1, **more) -> list[dict]:
    """Strokes of the word on the lines it was asked for."""
    lines = word["lines"]
    ruling = Ruling(lines["mid"], lines["base"], lines["rise"], lines["drop"])
    rng = np.random.default_rng(seed)
    asked_for = {"fault": fault, "size": size, "ruling": ruling, "left_mm": word["left_mm"]}
    made = write_text(word["text"], rng, **asked_for, **more)
    return [from_stroke(stroke) for stroke in made.strokes]


def send(client: TestClient, word: dict, ink: list[dict], **more):
    return client.put(f"/api/written/{word['id']}/ink", json={"strokes": ink, **more})


def test_a_word_is_asked_for_written_and_judged_as_a_whole(client):
    word = asked(client)
    assert (word["strokes"], word["result"]) == ([], None)
    told = send(client, word, pen(word, "spacing.tight", 0.7)).json()
    assert [one["expected"] for one in told["result"]["letters"]] == list("mint")
    assert "spacing.tight" in [one["code"] for one in told["result"]["findings"]]
    assert told["result"]["measures"]["gap_off_xh"] < -0.4
    assert told["to_say"][0]["of"] == "the whole"
    (listed,) = client.get(f"/api/children/{word['child']['id']}/written").json()
    assert {**listed, "strokes": told["strokes"]} == told
    for shown, whole in zip(listed["strokes"], told["strokes"], strict=True):  # what can be told apart
        assert len(shown["x"]) < max(len(whole["x"]) / 4, 3)
        assert (shown["x"][0], shown["y"][-1]) == (whole["x"][0], whole["y"][-1])


def test_what_is_said_of_a_word_is_the_whole_then_what_is_missing_then_its_letters(client):
    word = asked(client, "lit")
    ink = pen(word, "start.bottom", 1.0)
    said = send(client, word, ink[:-2]).json()["to_say"]  # without the t
    assert (said[0]["of"], said[0]["teacher"]) == ("not seen", "There is no ink for t.")
    assert [one["of_letters"] for one in said[1:]] == [True] * (len(said) - 1)
    clean = asked(client, "mint", name="Ada")
    assert send(client, clean, pen(clean)).json()["to_say"] == []


def test_what_is_the_same_with_several_letters_is_said_once(client):
    word = asked(client)
    slips = dict.fromkeys((1, 2, 3), ("position.floating", 0.5))
    every = send(client, word, pen(word, slips=slips)).json()["to_say"]
    (said,) = [one for one in every if one["of_letters"]]
    assert said["of"] == "i n t"
    assert said["teacher"].endswith("mm above the base line (i); n, t too.")
    assert said["child"] == "Let it sit on the base line."


def test_a_word_waits_until_the_teacher_has_looked_at_it(client):
    word = asked(client)
    waiting = f"/api/classes/{word['child']['class_id']}/words-to-look-at"
    assert client.get(waiting).json() == []  # it is not written yet
    send(client, word, pen(word))
    assert [one["id"] for one in client.get(waiting).json()] == [word["id"]]
    looked = {"word_ids": [word["id"]], "looked_at": True}
    assert client.post("/api/words-looked-at", json=looked).status_code == 204
    assert client.get(waiting).json() == []
    client.post("/api/words-looked-at", json=looked | {"looked_at": False})
    assert len(client.get(waiting).json()) == 1
    client.put(f"/api/written/{word['id']}/crossed-out", json={"crossed_out": True})
    assert client.get(waiting).json() == []


def test_words_that_wait_come_with_the_most_worrying_first_within_their_day(client):
    worse = asked(client, name="Edie")
    send(client, worse, pen(worse, slips=dict.fromkeys((1, 2, 3), ("position.floating", 0.5))))
    better = client.post("/api/written", json={"child_id": worse["child"]["id"], "text": "mint"}).json()
    send(client, better, pen(better))
    waiting = f"/api/classes/{worse['child']['class_id']}/words-to-look-at"
    ids = [[one["id"] for one in client.get(waiting, params={"order": order}).json()] for order in ORDERS]
    assert ids == [[better["id"], worse["id"]], [worse["id"], better["id"]]]


def test_looking_at_a_word_that_is_not_there_notes_nothing(client):
    word = asked(client)
    send(client, word, pen(word))
    wrong = {"word_ids": [word["id"], 999], "looked_at": True}
    assert client.post("/api/words-looked-at", json=wrong).status_code == 404
    assert len(client.get(f"/api/classes/{word['child']['class_id']}/words-to-look-at").json()) == 1


def test_a_word_that_was_never_written_is_not_listed(client):
    word = asked(client)
    assert client.get(f"/api/children/{word['child']['id']}/written").json() == []


def test_the_same_ink_twice_changes_nothing_and_other_ink_is_refused(client):
    word = asked(client)
    first = send(client, word, pen(word)).json()
    assert send(client, word, pen(word)).json() == first
    assert send(client, word, pen(word, seed=2)).status_code == 409
    assert client.get(f"/api/written/{word['id']}").json() == first


def test_ink_for_a_word_that_is_gone_lands_in_no_other(client):
    gone = asked(client)
    client.delete(f"/api/children/{gone['child']['id']}")
    word = asked(client, name="Ada")
    assert word["id"] > gone["id"]
    assert send(client, word, pen(word), word_started_at=gone["started_at"]).status_code == 409
    assert client.get(f"/api/written/{word['id']}").json()["strokes"] == []


@pytest.mark.parametrize(("text", "status"), [("a", 422), ("  x ", 422), ("né", 404), ("m" * 41, 422)])
def test_what_the_house_cannot_write_is_refused(client, text, status):
    child = school(client)["child"]
    answer = client.post("/api/written", json={"child_id": child["id"], "text": text})
    assert answer.status_code == status


def test_a_checker_that_fails_leaves_the_ink_and_says_so(client, monkeypatch):
    def broken(*_args, **_kwargs):
        raise ZeroDivisionError("no")

    word = asked(client)
    monkeypatch.setattr(judging, "check_group", broken)
    told = send(client, word, pen(word)).json()
    assert [stroke["x"] for stroke in told["strokes"]] == [stroke["x"] for stroke in pen(word)]
    assert told["result"] is None
    assert "ZeroDivisionError" in told["error"]


def test_ink_left_unjudged_is_judged_at_the_next_start(tmp_path):
    settings = Settings(tmp_path)
    with TestClient(create_app(settings, web_dir=None), base_url=HERE) as client:
        word = asked(client)
        with client.app.state.sessions() as session:
            store.keep_ink(session, store.get_word(session, word["id"]), pen(word))
            session.commit()
    with TestClient(create_app(settings, web_dir=None), base_url=HERE) as client:
        client.app.state.left_over.wait()
        assert client.get(f"/api/written/{word['id']}").json()["result"]["truth"] == "mint"


def test_only_words_of_letters_begun_are_offered(client, rng):
    child = school(client)["child"]
    assert client.get(f"/api/children/{child['id']}/words-within-reach").json() == []
    for number, char in enumerate("int"):
        row = start(client, child["id"], char)
        post(client, row, number, strokes(char, rng))
        client.post(f"/api/rows/{row['id']}/finish")
    offered = client.get(f"/api/children/{child['id']}/words-within-reach").json()
    texts = [one["text"] for one in offered]
    assert "tin" in texts
    assert all(set(text) <= set("int") for text in texts)
    assert texts[0] in ("it", "tin", "tint", "nit", "in")
    assert all(one["tricky"] == [] for one in offered)  # nothing in them leaves along the mid line


def test_a_recheck_shows_words_that_would_change_and_keeps_what_was_said(session):
    child_id = words_over(session, [0.0])
    word = store.words_of(session, child_id, 1)[0]
    store.keep_result(word, "0", "growing", store.WordResult({}, {}))
    shown = recheck(session, keep=False, workers=1)
    assert (shown.words, shown.changed, shown.checkers) == (1, 0, {"0": 1})
    assert word.checker == "0"
    recheck(session, keep=True, workers=1)
    kept = store.words_of(session, child_id, 1)[0]
    assert kept.document["truth"] == "mint"
    assert [one["checker"] for one in kept.earlier] == [CHECKER_VERSION, "0"]


def words_over(session, gaps_xh: list[float]) -> int:
    """A child who writes a word every third day, its letters so much too close; gives the child's id."""
    made = classes.add_class(session, "Kittiwake class", DEFAULT_STYLE, "four-lines", 10.0, "growing")
    child = classes.add_child(session, made.id, "Ada", "X", "right")
    for number, gap in enumerate(gaps_xh):
        at = FIRST + timedelta(days=3 * number)
        word = written_words.ask(session, child.id, "mint", at)
        ink = pen(asdict(word), "spacing.tight", gap, seed=number)
        written_words.write(session, word.id, ink, None)
    return child.id


def room(session, child_id: int, days: int = 90):
    told = child_story.story(session, child_id, (FIRST + timedelta(days=days)).date())
    return next(one for one in told.measures if one.key == "room")


def test_letters_that_come_to_stand_apart_are_told_with_the_day(session):
    child_id = words_over(session, [0.35] * 9 + [0.0] * 9)
    told = room(session, child_id)
    assert len(told.points) == 18
    assert told.change.startswith("as it should be now")
    assert "less than the model" in told.change
    assert told.turned is not None
    assert abs((told.turned - FIRST.date()).days - 27) <= 3


def test_room_that_stays_the_same_claims_nothing(session):
    assert room(session, words_over(session, [0.2] * 12)).change == ""


def test_a_word_crossed_out_does_not_count(session):
    child_id = words_over(session, [0.0] * 3)
    written_words.cross_out(session, store.words_of(session, child_id, 1)[0].id, crossed_out=True)
    assert len(room(session, child_id).points) == 2
