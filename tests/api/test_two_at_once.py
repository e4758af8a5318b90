"""Many at once, a locked file, a full disk, a restore in the middle: nothing is lost, nothing doubled."""

from __future__ import annotations

import sqlite3
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from datetime import UTC, datetime

import httpx2
import pytest
from sqlalchemy import event, select

from firstloop.api.app import create_app
from firstloop.api.server import errors
from firstloop.api.settings import Settings
from firstloop.services import rows
from firstloop.store import backup
from firstloop.store.rows import Edit, get_row
from firstloop.store.tables import Attempt, Result
from tests.api.serving import served
from tests.api.test_journeys import school, start, strokes

PATIENCE_S = 60
NOT_NOW = 503


@pytest.fixture
def running(records):
    app = create_app(Settings(records), web_dir=None)
    with served(app) as url, httpx2.Client(base_url=url, timeout=PATIENCE_S) as client:
        client.app = app
        yield client


@pytest.fixture
def row(running):
    return start(running, school(running)["child"]["id"])


def at_once(count, work, asks_again=True):
    """What `count` threads get that begin at the same moment; who is told "not just now" may ask again."""
    ready = threading.Barrier(count)

    def one(number):
        ready.wait()
        until = time.monotonic() + (PATIENCE_S if asks_again else 0)
        while (answer := work(number)).status_code == NOT_NOW and time.monotonic() < until:
            time.sleep(0.1)
        return answer

    with ThreadPoolExecutor(count) as pool:
        return list(pool.map(one, range(count)))


def attempt(key: str, ink) -> dict:
    return {"key": key, "support": "alone", "strokes": ink}


def kept_keys(app) -> list[str]:
    with app.state.sessions() as session:
        return list(session.scalars(select(Attempt.key)))


def test_one_key_sent_by_many_at_once_is_one_attempt_with_one_result(running, row, rng):
    body = attempt("the-same-key", strokes("n", rng))
    for _ in range(3):
        answers = at_once(12, lambda _: running.post(f"/api/rows/{row['id']}/attempts", json=body))
        assert {answer.status_code for answer in answers} == {201}
        assert len({answer.json()["id"] for answer in answers}) == 1
    with running.app.state.sessions() as session:
        assert len(session.scalars(select(Attempt)).all()) == 1
        assert [one.current for one in session.scalars(select(Result))] == [True]


def test_many_letters_of_one_row_at_once_stand_in_places_of_their_own(running, row, rng):
    ink = strokes("n", rng)
    path = f"/api/rows/{row['id']}/attempts"
    answers = at_once(10, lambda k: running.post(path, json=attempt(f"letter-{k:03}", ink)))
    assert {answer.status_code for answer in answers} == {201}
    assert sorted(answer.json()["position"] for answer in answers) == list(range(10))


def test_of_eight_inks_for_one_word_one_is_kept_and_the_others_are_told(running, rng):
    child = school(running)["child"]
    word = running.post("/api/written", json={"child_id": child["id"], "text": "nun"}).json()
    inks = [strokes("n", rng) for _ in range(8)]
    path = f"/api/written/{word['id']}/ink"
    answers = at_once(8, lambda k: running.put(path, json={"strokes": inks[k]}))
    told_kept = [k for k, answer in enumerate(answers) if answer.status_code == 200]
    assert sorted(answer.status_code for answer in answers) == [200] + [409] * 7
    kept = running.get(f"/api/written/{word['id']}").json()["strokes"]
    assert [stroke["x"] for stroke in kept] == [stroke["x"] for stroke in inks[told_kept[0]]]


def test_many_who_agree_and_take_back_at_once_leave_a_row_as_one_after_another_would(running, row, rng):
    running.post(f"/api/rows/{row['id']}/attempts", json=attempt("agreed-00", strokes("n", rng)))
    url = f"/api/rows/{row['id']}"
    assert {one.status_code for one in at_once(8, lambda _: running.post(f"{url}/agree"))} == {200}
    assert running.get(url).json()["attempts"][0]["mark"] == "secure"
    undone = [one.status_code for one in at_once(10, lambda _: running.post(f"{url}/undo"))]
    assert set(undone) == {200, 409}
    kept = running.get(url).json()
    assert (kept["attempts"][0]["mark"], kept["can_undo"]) == (None, False)


def test_who_changes_a_row_that_another_changed_meanwhile_changes_it_as_it_is_by_then(running, row, rng):
    url = f"/api/rows/{row['id']}"
    first, second = (
        running.post(f"{url}/attempts", json=attempt(f"letter-{k:03}", strokes("n", rng))).json()["id"]
        for k in range(2)
    )
    with running.app.state.sessions() as mine:
        seen = get_row(mine, row["id"])  # before the other's step, and kept in mind
        step = {"best": True, "mark": "fix"}
        assert running.post(f"{url}/edits", json={"attempt_ids": [second], **step}).is_success
        rows.edit(mine, seen.id, [Edit(first, "best", True)], datetime.now(UTC))
        rows.agree(mine, seen.id, datetime.now(UTC))
    kept = running.get(url).json()["attempts"]
    assert [one["best"] for one in kept] == [True, False]  # one best, whoever chose last
    assert [one["mark"] for one in kept] == ["secure", "fix"]  # no mark is agreed away


def test_a_hundred_and_twenty_at_once_are_all_answered(running, row, rng):
    body = attempt("a-key-of-120", strokes("n", rng))
    paths = ["/api/classes", f"/api/rows/{row['id']}", "/api/classes/1/today", "/api/classes/1/map"]

    def one(number):
        if number % 5 == 0:
            return running.post(f"/api/rows/{row['id']}/attempts", json=body | {"key": f"{number:08}"})
        return running.get(paths[number % len(paths)])

    begun = time.monotonic()
    answers = at_once(120, one)
    assert {answer.status_code for answer in answers} == {200, 201}
    assert time.monotonic() - begun < PATIENCE_S / 2  # nobody waited for somebody who waited for him
    assert len(kept_keys(running.app)) == 24


def test_while_the_file_is_locked_the_answer_says_what_is_safe_and_to_come_again(running, row, rng):
    body = attempt("a-locked-key", strokes("n", rng))
    path = f"/api/rows/{row['id']}/attempts"
    with closing(sqlite3.connect(running.app.state.settings.database)) as other:
        other.execute("BEGIN IMMEDIATE")
        for answer in at_once(6, lambda _: running.post(path, json=body), asks_again=False):
            assert (answer.status_code, answer.json()["detail"]) == (503, errors.BUSY)
            assert int(answer.headers["retry-after"]) > 0
        assert running.get(f"/api/rows/{row['id']}").status_code == 200  # to be read they still are
    assert running.post(path, json=body).status_code == 201
    assert kept_keys(running.app) == ["a-locked-key"]


@pytest.mark.parametrize(
    ("pragma", "said"), [("max_page_count=1", errors.FULL), ("query_only=ON", errors.READ_ONLY)]
)
def test_a_full_disk_and_a_read_only_file_are_said_and_what_was_sent_is_taken_later(
    running, row, rng, pragma, said
):
    engine = running.app.state.sessions.kw["bind"]
    body = attempt("an-unlucky-key", strokes("n", rng) * 30)
    path = f"/api/rows/{row['id']}/attempts"

    def spoil(connection, *_):
        connection.execute(f"PRAGMA {pragma}")

    event.listen(engine, "checkout", spoil)
    answer = running.post(path, json=body)
    assert (answer.status_code, answer.json()["detail"]) == (503, said)
    event.remove(engine, "checkout", spoil)
    engine.dispose()
    assert kept_keys(running.app) == []
    assert running.post(path, json=body).status_code == 201


def test_what_is_acknowledged_during_a_restore_is_in_the_new_records_or_in_those_kept_aside(
    running, row, rng, monkeypatch
):
    replace, replacing = backup.replace, threading.Event()

    def slowly(*given):
        replacing.set()
        time.sleep(0.5)
        made = replace(*given)
        time.sleep(0.5)
        return made

    monkeypatch.setattr(backup, "replace", slowly)
    ink, path = strokes("n", rng), f"/api/rows/{row['id']}/attempts"
    saved = running.get("/api/records/backup.zip").content
    done, acknowledged, refused = threading.Event(), [], []

    def write_on(writer):
        number = 0
        while not done.is_set():
            key = f"key-{writer}-{number:05}"
            answer = running.post(path, json=attempt(key, ink))
            (acknowledged if answer.status_code == 201 else refused).append((key, answer))
            number += 1
            if answer.status_code != 201:
                time.sleep(0.05)

    with ThreadPoolExecutor(5) as pool:
        writers = [pool.submit(write_on, writer) for writer in range(4)]
        time.sleep(0.5)
        answer = running.post("/api/records/restore", content=saved)
        time.sleep(0.5)
        done.set()
        for writer in writers:
            writer.result()
    assert answer.status_code == 200
    assert replacing.is_set()
    assert {(one.status_code, one.json()["detail"]) for _, one in refused} == {(503, errors.REPLACED)}
    aside = running.app.state.settings.data_dir / "backups" / answer.json()["aside"]
    with (
        backup.checked(aside, running.app.state.settings.data_dir) as found,
        closing(sqlite3.connect(found.records)) as old,
    ):
        before = {key for (key,) in old.execute("SELECT key FROM attempt")}
    after = kept_keys(running.app)
    assert len(set(after)) == len(after)
    told_kept = {key for key, _ in acknowledged}
    assert told_kept & before
    assert told_kept & set(after)
    assert told_kept <= before | set(after)


def test_two_restores_in_one_second_keep_both_originals(running, row):
    saved = running.get("/api/records/backup.zip").content
    first, second = (running.post("/api/records/restore", content=saved).json()["aside"] for _ in range(2))
    folder = running.app.state.settings.data_dir / "backups"
    assert first != second
    for name in (first, second):
        assert backup.check(folder / name, folder.parent).rows == 1


def test_no_number_is_given_again_after_a_restore(running, row, rng):
    saved = running.get("/api/records/backup.zip").content
    later = start(running, row["child"]["id"])
    ada = running.post("/api/classes/1/children", json={"first_name": "Ada", "initial": "X"}).json()
    running.post("/api/records/restore", content=saved)
    assert running.get(f"/api/rows/{later['id']}").status_code == 404
    ben = running.post("/api/classes/1/children", json={"first_name": "Ben", "initial": "Y"}).json()
    assert ben["id"] > ada["id"]
    assert start(running, ben["id"])["id"] > later["id"]
