"""Where First Loop is reached over a network: every door, tried by everybody who has no business there.

The doors are read from the application's own description, so that one that is new is tried too.
"""

from __future__ import annotations

import pickle
import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from firstloop.api.app import create_app
from firstloop.api.server.guard import SESSION_COOKIE, TEACHERS_AT_ONCE
from firstloop.api.server.rates import Rates
from firstloop.api.settings import Settings
from firstloop.core.letterforms.alphabets import UnknownLetterError
from firstloop.core.letterforms.style import StyleError
from firstloop.services import report, tablets
from firstloop.services.door import SESSION_HOURS, Door, DoorError, SlowDownError, WeakError, strength
from firstloop.store.door_keys import KeysError, read_keys
from firstloop.store.errors import NotFoundError
from tests.api.room.conftest import Teacher, written
from tests.api.test_doors import doors, records_of

PASSPHRASE = "seven herons over saltmarsh"
IN_THE_ROOM = "https://192.0.2.7:8443"
OPEN = {  # what answers a stranger, and why it may
    ("get", "/api/door/"),  # whether the passphrase is wanted
    ("post", "/api/door/enter"),  # the passphrase is said here
    ("post", "/api/door/leave"),  # ends a session, its own
    ("post", "/api/door/recover"),  # wants the recovery words
    ("post", "/api/door/passphrase"),  # wants the passphrase
    ("post", "/api/tablet/join"),  # wants the code on the board
}
TABLETS = "/api/tablet/"


@pytest.fixture
def words(records) -> str:
    return Door(records).set_passphrase(PASSPHRASE)


@pytest.fixture
def room(records, words) -> Iterator[TestClient]:
    """First Loop as it is served to a network, asked by somebody who is nobody yet."""
    settings = Settings(records, listens_on=("192.0.2.7",), room=True, secure_port=8443)
    with TestClient(create_app(settings, web_dir=None), base_url=IN_THE_ROOM) as client:
        yield client


def enter(client: TestClient, passphrase: str = PASSPHRASE):
    return client.post("/api/door/enter", json={"passphrase": passphrase})


@pytest.fixture
def lesson(room) -> Teacher:
    """A teacher who has said the passphrase, and her room with a row handed out to two children."""
    enter(room).raise_for_status()
    made = room.post("/api/classes", json={"name": "Turnstone class"}).json()
    children = {
        name: room.post(
            f"/api/classes/{made['id']}/children", json={"first_name": name, "initial": "A", "hand": "right"}
        ).json()["id"]
        for name in ("Anouk", "Bashir")
    }
    teacher = Teacher(room, made["id"], children)
    teacher.ask("post").raise_for_status()
    return teacher


@pytest.fixture
def stranger(room) -> TestClient:
    """The same First Loop from another browser."""
    return TestClient(room.app, base_url=IN_THE_ROOM)


def all_doors() -> list[tuple[str, str]]:
    assert len(doors()) > 150
    return [*doors(), ("get", "/openapi.json"), ("get", "/docs")]


def test_every_door_is_closed_to_nobody(lesson, stranger):
    before = records_of(lesson.client)
    for method, path in all_doors():
        answer = stranger.request(method, path, json={})
        if (method, path) in OPEN:
            assert answer.status_code != 401, path
        else:
            assert (answer.status_code, path) == (401, path)
            assert "detail" in answer.json()
    assert records_of(lesson.client) == before


def test_every_door_of_the_teachers_is_closed_to_a_tablet(lesson, stranger):
    tablet = lesson.tablet("Anouk")
    lesson.hand_out(letter="n")
    before = records_of(lesson.client)
    for method, path in all_doors():
        if path.startswith(TABLETS) or (method, path) in OPEN:
            continue
        for how in ({"headers": tablet.headers}, {"cookies": {SESSION_COOKIE: tablet.token}}):
            asker = TestClient(stranger.app, base_url=IN_THE_ROOM, cookies=how.get("cookies"))
            answer = asker.request(method, path, json={}, headers=how.get("headers"))
            assert (answer.status_code, path) == (401, path)
    assert records_of(lesson.client) == before


def test_every_door_of_a_tablet_is_closed_to_a_token_that_nobody_gave_out(lesson, stranger):
    enter(stranger)
    for method, path in all_doors():
        if path.startswith(TABLETS) and (method, path) not in OPEN:
            for token in ("", "Bearer ", "Bearer " + "x" * 43, "Basic eHg6eHg="):
                answer = stranger.request(method, path, json={}, headers={"Authorization": token})
                assert (answer.status_code, path) == (401, path), "not the teacher's session either"


def test_every_sheet_of_another_tablet_is_closed(lesson):
    mine, other = lesson.tablet("Anouk"), lesson.tablet("Bashir")
    lesson.hand_out(letter="n")
    row, theirs = mine.now()["sheet"], other.now()["sheet"]
    lesson.hand_out(text="nun")
    word, their_word = mine.now()["sheet"], other.now()["sheet"]
    assert mine.write("a-letter-of-mine", row_id=row["id"]).status_code == 201
    assert mine.write("on-their-row", row_id=theirs["id"]).status_code == 404
    best = {"key": "a-letter-of-mine"}
    assert other.ask("put", f"/rows/{row['id']}/best", json=best).status_code == 404
    ink = {"strokes": written("n")}
    assert mine.ask("put", f"/words/{their_word['id']}/ink", json=ink).status_code == 404
    assert mine.ask("put", f"/words/{word['id']}/ink", json=ink).status_code == 204
    assert len(lesson.attempts(row["id"])) == 1
    assert lesson.attempts(theirs["id"]) == []


def test_a_tablet_that_nobody_let_in_or_that_was_sent_away_writes_nothing(lesson):
    waiting = lesson.tablet("Anouk", admitted=False)
    let_in = lesson.tablet("Bashir", admitted=False)
    number = next(one["id"] for one in lesson.room()["door"] if one["wants"] == "Bashir A")
    lesson.ask("post", "/admit", json={"tablet_ids": [number]}).raise_for_status()
    lesson.hand_out(letter="n")
    row = let_in.now()["sheet"]["id"]
    assert waiting.write("not-let-in-yet", row_id=row).status_code == 404
    lesson.ask("delete", f"/tablets/{number}").raise_for_status()
    assert let_in.write("sent-away-now", row_id=row).status_code == 401


def test_every_changing_door_is_closed_to_a_page_of_another_site_and_to_a_wrong_host(lesson):
    changing = [(m, p) for m, p in all_doors() if m != "get"]
    for method, path in changing:
        answer = lesson.client.request(method, path, json={}, headers={"Origin": "https://evil.example"})
        assert (answer.status_code, path) == (403, path)
        answer = lesson.client.request(method, path, json={}, headers={"Host": "evil.example"})
        assert (answer.status_code, path) == (421, path)


def test_a_door_that_is_new_and_unnamed_is_closed(records, words):
    app = create_app(Settings(records, listens_on=("192.0.2.7",), room=True), web_dir=None)

    @app.get("/api/brand-new")
    def brand_new() -> str:
        return "every child's name"

    with TestClient(app, base_url=IN_THE_ROOM) as client:
        assert client.get("/api/brand-new").status_code == 401
        enter(client)
        assert client.get("/api/brand-new").status_code == 200


def test_the_session_is_the_browsers_own_and_ends(room, stranger):
    said = enter(room)
    assert said.status_code == 204
    cookie = said.headers["set-cookie"].lower()
    for wanted in ("__host-first-loop=", "httponly", "secure", "samesite=strict", "path=/"):
        assert wanted in cookie
    assert "domain" not in cookie
    assert room.get("/api/classes").status_code == 200
    assert room.get("/api/door/").json() == {"needed": True, "is_open": True}
    now = room.app.state.clock
    room.app.state.clock = lambda: now() + timedelta(hours=SESSION_HOURS, seconds=1)
    assert room.get("/api/classes").status_code == 401, "it ended by itself"
    room.app.state.clock = now
    token = room.cookies[SESSION_COOKIE]
    assert room.post("/api/door/leave").status_code == 204
    stranger.cookies.set(SESSION_COOKIE, token)
    assert stranger.get("/api/classes").status_code == 401, "and it ends for whoever copied it"


def test_sessions_outlast_a_start_and_are_ended_by_a_new_passphrase(records, room):
    enter(room)
    again = create_app(Settings(records, listens_on=("192.0.2.7",), room=True), web_dir=None)
    with TestClient(again, base_url=IN_THE_ROOM, cookies=dict(room.cookies)) as client:
        assert client.get("/api/classes").status_code == 200
        changed = {"passphrase": PASSPHRASE, "following": "lanterns under nine quiet bridges"}
        told = client.post("/api/door/passphrase", json=changed)
        assert len(told.json()["words"].split()) == 6
        assert client.get("/api/classes").status_code == 401
        assert enter(client).status_code == 403
        assert enter(client, changed["following"]).status_code == 204


def test_whoever_guesses_wrong_has_to_wait_longer_and_longer(room):
    answers = [enter(room, "open sesame").status_code for _ in range(6)]
    assert answers == [403] * 4 + [429] * 2
    slowed = enter(room)
    assert slowed.status_code == 429, "the right one has to wait as well"
    assert 0 < int(slowed.headers["Retry-After"]) <= 2
    now = room.app.state.clock
    room.app.state.clock = lambda: now() + timedelta(seconds=3)
    assert enter(room).status_code == 204


def test_waiting_grows_to_five_minutes_and_others_are_not_held_up(records, words):
    from datetime import UTC, datetime

    door, at = Door(records), datetime(2026, 11, 30, 9, tzinfo=UTC)
    waits = []
    for _ in range(14):
        with pytest.raises(DoorError) as told:
            door.enter("open sesame", "192.0.2.9", at)
        if isinstance(told.value, SlowDownError):
            waits.append(told.value.wait_s)
            at += timedelta(seconds=told.value.wait_s + 0.01)
    assert waits == sorted(waits)
    assert max(waits) <= 300
    door.enter(PASSPHRASE, "192.0.2.10", at)


def test_the_recovery_words_open_once_and_end_what_held_before(room, words):
    enter(room)
    following = "lanterns under nine quiet bridges"
    told = room.post("/api/door/recover", json={"words": words.upper(), "passphrase": following})
    assert told.status_code == 200
    assert told.json()["words"] != words
    assert room.get("/api/classes").status_code == 401
    assert enter(room).status_code == 403
    assert enter(room, following).status_code == 204
    once_more = room.post("/api/door/recover", json={"words": words, "passphrase": PASSPHRASE})
    assert once_more.status_code == 403


@pytest.mark.parametrize("weak", ["password1", "aaaaaaaaaaaa", "first loop", "qwertyuiop", "12345678910"])
def test_a_passphrase_that_is_guessed_easily_is_refused_and_it_is_said_why(records, weak):
    with pytest.raises(WeakError):
        Door(records).set_passphrase(weak)
    assert read_keys(records) is None
    assert strength(weak).advice


def test_a_long_passphrase_is_judged_and_has_to_be_said_to_its_end(records):
    long = "lanterns under nine quiet bridges and herons " * 4
    door, at = Door(records), datetime(2026, 11, 30, 9, tzinfo=UTC)
    door.set_passphrase(long)
    assert door.is_open_to(door.enter(long, "here", at), at)
    with pytest.raises(DoorError):
        door.enter(long[:-1], "here", at)
    with pytest.raises(WeakError):
        door.set_passphrase(long * 2)


def test_nothing_that_opens_the_door_is_kept_in_the_open(records, words, room):
    enter(room)
    kept = (records / "door" / "keys.json").read_text()
    for secret in (PASSPHRASE, words, room.cookies[SESSION_COOKIE]):
        assert secret not in kept
    assert kept.count("$argon2id$") == 2
    assert (records / "door" / "keys.json").stat().st_mode & 0o077 == 0
    backup = room.get("/api/records/backup.zip").content
    assert re.search(rb"argon2", backup) is None


def test_keys_that_cannot_be_read_let_nobody_in(records, words):
    (records / "door" / "keys.json").write_text("{")
    with pytest.raises(KeysError, match="first-loop passphrase"):
        Door(records)


def test_a_machine_of_its_own_needs_no_passphrase(client):
    assert client.get("/api/door/").json() == {"needed": False, "is_open": True}
    assert client.post("/api/door/enter", json={"passphrase": "x"}).status_code == 409


def test_whoever_asks_too_often_waits_and_keeps_nobody_else_out(lesson, stranger):
    tablet = lesson.tablet("Anouk")
    now = lesson.client.app.state.clock()
    lesson.client.app.state.clock = lambda: now  # time stands still: the bucket does not fill
    answers = [stranger.get("/api/door/").status_code for _ in range(220)]
    assert answers.count(429) in range(20, 220)
    assert stranger.get("/api/door/").headers["Retry-After"] == "1"
    assert tablet.ask("get", "/now").status_code == 200, "another who asks"
    assert lesson.ask("get").status_code == 200, "and the teacher"
    lesson.client.app.state.clock = lambda: now + timedelta(seconds=2)
    assert stranger.get("/api/door/").status_code == 200


def test_a_teachers_session_cannot_keep_the_tablets_out_either(lesson):
    tablet = lesson.tablet("Anouk")
    now = lesson.client.app.state.clock()
    lesson.client.app.state.clock = lambda: now
    answers = [lesson.client.get("/api/no-such-door").status_code for _ in range(int(TEACHERS_AT_ONCE) + 1)]
    assert answers[0] == 404
    assert answers[-1] == 429
    assert lesson.ask("get").status_code == 429, "by whatever door"
    assert tablet.ask("get", "/now").status_code == 200
    lesson.client.app.state.clock = lambda: now + timedelta(seconds=1)
    assert lesson.ask("get").status_code == 200


def test_what_is_made_of_the_records_in_a_room_is_made_beside_it(lesson, monkeypatch):
    child, beside, works = lesson.children["Anouk"], lesson.client.app.state.beside, []
    run = beside.run

    def noted(patience_s, *work_and_given):
        works.append(work_and_given[3])
        return run(patience_s, *work_and_given)

    monkeypatch.setattr(beside, "run", noted)
    for path in (f"children/{child}/report", f"children/{child}/practice", "classes/1/letters/n/practice"):
        assert lesson.client.get(f"/api/{path}.pdf").content.startswith(b"%PDF")
    assert works == [report.child_report, report.practice_strip, report.letter_practice]
    answer = lesson.client.get("/api/classes/999999/letters/n/practice.pdf")
    assert (answer.status_code, answer.json()["detail"]) == (404, "There is no class with the number 999999.")


@pytest.mark.parametrize("error", [NotFoundError("class", 9), UnknownLetterError("é"), StyleError("so")])
def test_what_goes_wrong_beside_the_server_is_told_as_if_it_were_here(error):
    assert str(pickle.loads(pickle.dumps(error))) == str(error)


def test_tablets_that_came_and_went_keep_no_place_at_a_door_that_is_full(lesson, monkeypatch):
    monkeypatch.setattr(tablets, "NAMELESS_MOST", 3)
    app, now = lesson.client.app, lesson.client.app.state.clock()
    app.state.clock = lambda: now
    named, still_here, gone, another = (lesson.tablet(name) for name in ("Anouk", None, None, None))

    def join():
        return lesson.client.post("/api/tablet/join", json={"code": lesson.room()["code"]})

    assert join().status_code == 409, "three stand there without a name"
    app.state.clock = lambda: now + timedelta(minutes=2)
    assert still_here.ask("get", "/now").status_code == 200
    assert join().status_code == 201
    answers = [one.ask("get", "/now").status_code for one in (named, still_here, gone, another)]
    assert answers == [200, 200, 401, 401]


@given(st.lists(st.floats(0, 5), min_size=1, max_size=200))
def test_over_any_while_no_more_is_let_through_than_the_bucket_and_what_filled_it(pauses):
    rates, at_s, let = Rates(a_second=2.0, at_once=5.0), 0.0, 0
    for pause_s in pauses:
        at_s += pause_s
        let += rates.may("one", at_s)
        assert let <= 5 + 2.0 * (at_s - pauses[0]) + 1e-6
    assert rates.may("another", at_s)


def test_codes_are_not_guessed_one_after_another(lesson, stranger):
    answers = [stranger.post("/api/tablet/join", json={"code": f"AAAA{n}"}).status_code for n in range(8)]
    assert 429 in answers
    assert answers[0] == 409
