"""Words that a child writes count towards its letters, whenever they arrive and whatever becomes of them."""

from __future__ import annotations

from sqlalchemy import update

from firstloop.services import evidence
from firstloop.store.tables import LetterDay, WrittenWord
from tests.api.test_journeys import post, school, start, strokes
from tests.api.test_written import pen, send


def begin(client, child: int, chars: str, rng) -> None:
    for number, char in enumerate(chars):
        row = start(client, child, char)
        post(client, row, 1000 * child + number, strokes(char, rng))
        client.post(f"/api/rows/{row['id']}/finish")


def write(client, child: int, text: str = "tin", **more) -> dict:
    word = client.post("/api/written", json={"child_id": child, "text": text}).json()
    return send(client, word, pen(word, **more)).json()


def why(client, child: int, char: str) -> str:
    letters = client.get(f"/api/children/{child}/story").json()["letters"]
    return next(one["why"] for one in letters if one["letter"] == char)


def test_a_word_counts_at_once_and_no_more_when_it_is_crossed_out(client, rng):
    child = school(client)["child"]["id"]
    begin(client, child, "int", rng)
    assert "in words" not in why(client, child, "n")
    word = write(client, child)
    assert "1 of 1 in words" in why(client, child, "n")
    client.put(f"/api/written/{word['id']}/crossed-out", json={"crossed_out": True})
    assert "in words" not in why(client, child, "n")
    client.put(f"/api/written/{word['id']}/crossed-out", json={"crossed_out": False})
    assert "1 of 1 in words" in why(client, child, "n")


def test_a_slip_of_the_letter_itself_counts_and_a_word_begins_no_letter(client, rng):
    child = school(client)["child"]["id"]
    begin(client, child, "n", rng)
    write(client, child, slips={2: ("position.floating", 0.5)})
    assert "0 of 1 in words" in why(client, child, "n")
    assert "not yet in a row of its own" in why(client, child, "t")
    begin(client, child, "t", rng)
    assert "in words" in why(client, child, "t")  # now that it is begun, the word counts too


def test_words_of_before_are_worked_out_at_the_next_start(client, rng):
    child = school(client)["child"]["id"]
    begin(client, child, "int", rng)
    write(client, child)
    with client.app.state.sessions() as session:  # as records of an earlier First Loop are
        session.execute(update(LetterDay).values(in_words=[], rules=1))
        session.execute(update(WrittenWord).values(settled=False))
        session.commit()
    assert "in words" not in why(client, child, "n")
    with client.app.state.sessions() as session:
        evidence.work_out_all(session)
    assert "1 of 1 in words" in why(client, child, "n")
