"""One attempt, one file, one day that is not as it should be must not bring the house down."""

from __future__ import annotations

import errno
import io
import os
import subprocess
import sys
import threading
import time
import zipfile
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
import orjson
import pytest
from fastapi.testclient import TestClient
from sqlalchemy import select

from firstloop.api.app import create_app
from firstloop.api.server.beside import Beside, GaveUpError
from firstloop.api.server.day_keeper import DayKeeper
from firstloop.api.settings import Settings
from firstloop.core.progress import evidence
from firstloop.services import evidence as evidence_service
from firstloop.store import rows
from firstloop.store.tables import Child
from tests.api.test_journeys import post, school, start, strokes
from tests.conftest import HERE


def scribble(minutes: float, hz: int = 240) -> dict:
    """Back and forth across the paper, as a child in a temper writes."""
    t = np.arange(int(minutes * 60 * hz)) / hz
    x, y = 60 + 45 * np.sin(11 * t) + 8 * np.sin(1.3 * t), 24 + 14 * np.sin(17 * t + 1)
    return {"x": x.round(2).tolist(), "y": y.round(2).tolist(), "t": (1000 * t).round(1).tolist()}


def test_a_stroke_across_the_town_is_refused_in_a_line(client, edie):
    row = start(client, edie["id"])
    answer = post(client, row, 1, [{"x": [0, 1_000_000], "y": [20, 20]}])
    assert answer.status_code == 422
    (said,) = answer.json()["detail"]
    assert "a point lies more than 5 m from the corner of the page" in said["msg"]
    assert client.get(f"/api/rows/{row['id']}").json()["attempts"] == []


def test_a_hundred_thousand_wrong_points_are_said_in_few_words(client, edie):
    row = start(client, edie["id"])
    wrong = [{"x": ["far"] * 50_000, "y": ["away"] * 50_000}]
    answer = post(client, row, 1, wrong)
    assert answer.status_code == 422
    assert len(answer.json()["detail"]) <= 5


def test_a_scribble_of_two_minutes_is_kept_and_told_as_unreadable(client, edie):
    row = start(client, edie["id"])
    answer = post(client, row, 1, [scribble(2.0)])
    assert (answer.status_code, answer.json()["verdict"]) == (201, "unreadable")
    attempt = client.get(f"/api/rows/{row['id']}").json()["attempts"][0]
    assert len(attempt["strokes"][0]["x"]) == 28_800
    explained = client.get(f"/api/rows/{row['id']}/attempts/{attempt['id']}/explained")
    assert explained.status_code == 409
    assert "It is kept" in explained.json()["detail"]
    word = client.post("/api/written", json={"child_id": edie["id"], "text": "crab net"}).json()
    told = client.put(f"/api/written/{word['id']}/ink", json={"strokes": [scribble(2.0)]}).json()
    assert [one["verdict"] for one in told["result"]["letters"]] == ["unreadable"]


@pytest.mark.parametrize("mark", ["full-stop", ",", "-", "!"])
def test_marks_have_no_slips_and_are_found_and_not_judged(client, edie, mark):
    assert client.get(f"/api/letters/{mark}/slips").json() == []
    row = start(client, edie["id"], "." if mark == "full-stop" else mark)
    answer = post(client, row, 1, [{"x": [10.0, 10.1], "y": [23.9, 24.0], "t": [0, 20]}])
    assert answer.json()["error"] is None


def test_work_that_ends_its_process_or_never_ends_is_given_up_and_the_next_is_done():
    beside = Beside(1, idle=False)
    try:
        with pytest.raises(GaveUpError):
            beside.run(30, os._exit, 1)
        assert beside.run(30, sum, (1, 2)) == 3
        with pytest.raises(GaveUpError):
            beside.run(0.2, time.sleep, 60)
        with pytest.raises(ZeroDivisionError):
            beside.run(30, divmod, 1, 0)
    finally:
        beside.stop()


def test_work_that_gets_time_only_when_nobody_wants_it_is_given_up_by_its_own_time_and_not_by_the_clock(
    monkeypatch,
):
    beside = Beside(1, idle=True)
    try:
        assert beside.run(2, time.sleep, 3) is None  # as on a machine that is busy with something else
        process = beside.run(30, os.getpid)
        with monkeypatch.context() as busy:  # with these tests: for a while it may get no time at all
            busy.setattr("firstloop.api.server.beside._IDLE_WAITS", 1000)
            with pytest.raises(GaveUpError):
                beside.run(0.5, exec, "while True: pass")
        assert beside.run(30, os.getpid) == process  # and another's work in it or beside it is not ended
        with pytest.raises(GaveUpError):
            beside.run(0.1, sum, range(10**12))  # it hears no signal: the clock ends it, long after
        assert beside.run(30, sum, (1, 2)) == 3
    finally:
        beside.stop()


def test_work_waits_for_no_process_that_cannot_begin(monkeypatch):
    class Full(ProcessPoolExecutor):
        def submit(self, *_):
            raise OSError(errno.ENOSPC, "No space left on device")

    beside = Beside(1, idle=False)
    try:
        with monkeypatch.context() as full:
            full.setattr("firstloop.api.server.beside.ProcessPoolExecutor", Full)
            with pytest.raises(GaveUpError):
                beside.run(30, sum, (1, 2))
        assert beside.run(30, sum, (1, 2)) == 3  # there is room again
    finally:
        beside.stop()


def test_a_server_that_is_killed_leaves_no_process_behind():
    program = (
        "import os, time\nfrom firstloop.api.server.beside import Beside\n"
        "if __name__ == '__main__':\n    beside = Beside(1, idle=False)\n"  # its process ends where it goes
        "    print(beside.run(60, os.getpid), flush=True)\n    time.sleep(600)\n"
    )
    with subprocess.Popen([sys.executable, "-c", program], stdout=subprocess.PIPE, text=True) as server:
        try:
            beside = int(server.stdout.readline())
            os.kill(beside, 0)  # it is there
        finally:
            server.kill()
    for _ in range(300):
        if not _runs(beside):
            return
        time.sleep(0.1)
    raise AssertionError("it waits for ever")


def _runs(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except FileNotFoundError:
        return False


@pytest.fixture
def never_judged(tmp_path, rng) -> dict:
    """A row with ink that was kept and, since First Loop ended just then, not judged."""
    with TestClient(create_app(Settings(tmp_path), web_dir=None), base_url=HERE) as client:
        return _keep_unjudged(client, start(client, school(client)["child"]["id"]), rng)


def _keep_unjudged(client: TestClient, row: dict, rng) -> dict:
    with client.app.state.sessions() as session:
        kept = rows.get_row(session, row["id"])
        key = f"key-{row['id']:05}"
        rows.keep_attempt(session, kept, key, "alone", kept.started_at, strokes("n", rng), False)
        session.commit()
    return row


def test_ink_that_cannot_be_judged_is_told_so_at_the_next_start_and_not_tried_again(never_judged, tmp_path):
    row = never_judged
    app = create_app(Settings(tmp_path), web_dir=None)
    app.state.left_over._beside = _Hopeless()
    with TestClient(app, base_url=HERE) as client:
        app.state.left_over.wait()
        (attempt,) = client.get(f"/api/rows/{row['id']}").json()["attempts"]
        assert (attempt["verdict"], attempt["result"]) == ("unreadable", None)
        assert "too much time or memory" in attempt["error"]
        with app.state.sessions() as session:
            assert rows.unjudged(session) == []
            assert evidence_service.work_out_all(session) == 0  # worked out by now
        assert client.get("/api/classes/1/today").status_code == 200
        (cell,) = client.get("/api/classes/1/map").json()["children"][0]["cells"]
        assert cell["state"] == "learning"  # it says nothing of the child


def test_nobody_waits_for_what_is_left_over_when_a_backup_is_put_in_place(never_judged, tmp_path):
    app, judged = create_app(Settings(tmp_path), web_dir=None), threading.Event()
    app.state.left_over._beside = _Slow(judged)
    impatient = threading.Timer(20, judged.set)
    with TestClient(app, base_url=HERE) as client:
        impatient.start()
        made = client.get("/api/records/backup.zip").content
        assert client.post("/api/records/restore", content=made).status_code == 200
        assert client.get("/api/classes/1/today").status_code == 200
        assert not judged.is_set()
        judged.set()
        impatient.cancel()
        app.state.left_over.wait()
        (attempt,) = client.get(f"/api/rows/{never_judged['id']}").json()["attempts"]
        assert attempt["verdict"] == "secure"


def test_a_child_erased_while_what_was_left_over_is_judged_keeps_no_other_waiting(tmp_path, rng):
    with TestClient(create_app(Settings(tmp_path), web_dir=None), base_url=HERE) as client:
        edie = school(client)["child"]["id"]
        ada = client.post("/api/classes/1/children", json={"first_name": "Ada", "initial": "X"}).json()["id"]
        of_edie, of_ada = (_keep_unjudged(client, start(client, child), rng) for child in (edie, ada))
    app = create_app(Settings(tmp_path), web_dir=None)
    app.state.left_over._beside = _Erases(app, edie)
    with TestClient(app, base_url=HERE) as client:
        app.state.left_over.wait()
        assert client.get(f"/api/rows/{of_edie['id']}").status_code == 404
        (attempt,) = client.get(f"/api/rows/{of_ada['id']}").json()["attempts"]
        assert attempt["verdict"] == "secure"


class _Hopeless:
    def run(self, *_):
        raise GaveUpError

    def rest(self):
        pass

    def stop(self):
        pass


class _Slow(_Hopeless):
    def __init__(self, free: threading.Event):
        self.free = free

    def run(self, _patience_s, work, *given):
        self.free.wait()
        return work(*given)


class _Erases(_Hopeless):
    def __init__(self, app, child_id: int):
        self.app, self.child_id = app, child_id

    def run(self, _patience_s, work, *given):
        with self.app.state.sessions() as session:
            for child in session.scalars(select(Child).where(Child.id == self.child_id)):
                session.delete(child)
            session.commit()
        return work(*given)


# a day that cannot be worked out


def test_a_day_that_cannot_be_worked_out_is_set_aside_and_said_and_spoils_no_other(
    client, edie, rng, monkeypatch
):
    ada = client.post("/api/classes/1/children", json={"first_name": "Ada", "initial": "X"}).json()
    written = {}
    for child in (edie, ada):
        for char in "nm":
            row = start(client, child["id"], char)
            post(client, row, row["id"], strokes(char, rng))
            written[child["id"], char] = row["id"]
    usual = evidence.evidence_of

    def odd_for_edies_m(verdict, headings, mark, *rest):
        if odd["on"] and headings.get("odd"):
            raise ValueError("no such thing")
        return usual(verdict, headings, mark, *rest)

    odd = {"on": True}
    monkeypatch.setattr(evidence_service, "evidence_of", odd_for_edies_m)
    with client.app.state.sessions() as session:
        result = rows.get_row(session, written[edie["id"], "m"]).attempts[0].result
        result.document = {**result.document, "headings": {**result.document["headings"], "odd": "yes"}}
        session.commit()
    for path in ("today", "map", "coverage"):
        assert client.get(f"/api/classes/1/{path}").status_code == 200
    assert client.get(f"/api/children/{edie['id']}/story").status_code == 200
    for row_id in written.values():
        assert client.post(f"/api/rows/{row_id}/finish").status_code == 200
    cells = {
        (row["child"]["first_name"], cell["letter"])
        for row in client.get("/api/classes/1/map").json()["children"]
        for cell in row["cells"]
    }
    assert cells == {("Edie", "n"), ("Ada", "n"), ("Ada", "m")}
    (aside,) = client.get("/api/records/set-aside").json()
    assert (aside["child"]["first_name"], aside["letter"]) == ("Edie", "m")
    assert "no such thing" in aside["why"]

    odd["on"] = False  # what was wrong is mended, and something on the day changes
    attempt = client.get(f"/api/rows/{written[edie['id'], 'm']}").json()["attempts"][0]
    edit = {"attempt_ids": [attempt["id"]], "mark": "secure"}
    assert client.post(f"/api/rows/{written[edie['id'], 'm']}/edits", json=edit).status_code == 200
    assert client.get("/api/records/set-aside").json() == []


# a child's file from elsewhere


def exported(client, child, rng) -> dict:
    row = start(client, child["id"])
    post(client, row, 1, strokes("n", rng))
    post(client, row, 2, strokes("n", rng, fault="start.bottom", size=1))
    data = client.get(f"/api/children/{child['id']}/export.zip").content
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        return orjson.loads(packed.read("records.json"))


def taken_in(client, document: dict):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("records.json", orjson.dumps(document))
    made = client.post("/api/classes", json={"name": f"Elsewhere {time.monotonic()}"}).json()
    return client.post(f"/api/classes/{made['id']}/children/import", content=out.getvalue())


def _in(document: dict, *path):
    for step in path[:-1]:
        document = document[step]
    return document, path[-1]


ROW, ATTEMPT = ("rows", 0), ("rows", 0, "attempts", 0)
RESULT = (*ATTEMPT, "results", 0)
ODD = [
    ((*ROW, "started_at"), "9999-12-31T23:59:59Z"),
    ((*ROW, "started_at"), "0001-01-01T00:00:00Z"),
    ((*ROW, "started_at"), "2190-01-01T00:00:00Z"),
    ((*ROW, "finished_at"), "9999-01-01T00:00:00Z"),
    ((*ROW, "mid_mm"), 1e300),
    ((*ROW, "letter"), "😀"),
    ((*ATTEMPT, "written_at"), "2026-11-27T09:00:00"),
    ((*ATTEMPT, "ink"), [{"x": [0, 1e9], "y": [0, 0]}]),
    ((*ATTEMPT, "position"), 1),
    ((*ATTEMPT, "key"), "key-00002"),
    ((*RESULT, "document"), {"headings": {"direction": "odd"}}),
    ((*RESULT, "document", "findings"), [{"code": 7}]),
    ((*RESULT, "document", "measures"), []),
    ((*RESULT, "verdict"), "splendid"),
]


@pytest.mark.parametrize(("path", "value"), ODD, ids=lambda one: str(one)[-40:])
def test_a_file_with_something_odd_in_it_is_refused_whole(client, edie, rng, path, value):
    document = exported(client, edie, rng)
    before = client.get("/api/records").json()
    holder, name = _in(document, *path)
    holder[name] = value
    answer = taken_in(client, document)
    assert answer.status_code == 400, answer.text
    assert "Nothing was taken in" in answer.json()["detail"]
    after = client.get("/api/records").json()
    assert {**before, "classes": before["classes"] + 1} == after
    assert client.get("/api/classes/1/today").status_code == 200


def test_two_results_of_a_letter_that_both_hold_are_refused(client, edie, rng):
    document = exported(client, edie, rng)
    results = document["rows"][0]["attempts"][0]["results"]
    results.append(dict(results[0]))
    assert taken_in(client, document).status_code == 400


@pytest.mark.parametrize(
    ("name", "initial", "status"),
    [
        ("Zoë", "Ž", 201),
        ("ليلى", "م", 201),
        ("小雨", "王", 201),
        ("Ελένη", "Κ", 201),
        ("Nóra" + "\u0301" * 5, "e\u0301", 201),  # marks on a letter are part of it
        ("👩‍👩‍👧", "🇬🇧", 201),
        ("a" * 41, "B", 422),
        ("Ann", "AB", 422),
        ("Ann", "", 422),
    ],
)
def test_names_are_measured_in_characters_that_a_person_sees(client, edie, name, initial, status):
    answer = client.post("/api/classes/1/children", json={"first_name": name, "initial": initial})
    assert answer.status_code == status, answer.text
    if status == 201:
        child = answer.json()["id"]
        assert client.get(f"/api/children/{child}/export.zip").status_code == 200
        assert client.get(f"/api/children/{child}/report.pdf").content.startswith(b"%PDF")


def states(client) -> list[str]:
    """How the letters of a class stand."""
    (child,) = client.get("/api/classes/1/map").json()["children"]
    return [cell["state"] for cell in child["cells"]]


def test_a_full_row_counts_at_once_and_one_left_in_the_middle_within_seconds(client, edie, rng):
    left, full = start(client, edie["id"], "n"), start(client, edie["id"], "o", support=["alone"])
    post(client, left, 1, strokes("n", rng))
    assert states(client) == []
    post(client, full, 2, strokes("o", rng))
    assert states(client) == ["learning"]
    keeper = DayKeeper(client.app.state.sessions, client.app.state.settings.data_dir, every_s=0.05)
    keeper.start()
    try:
        until = time.monotonic() + 30
        while len(states(client)) < 2 and time.monotonic() < until:
            time.sleep(0.05)
    finally:
        keeper.stop()
    assert states(client) == ["learning", "learning"]
