"""An unlucky world, bounded: ``make chaos``.

Children write, half of them on tablets, against a First Loop in a process of its own, while it is killed, its
file is locked, its disk is full, records are restored, and a child is erased and taken in again, at random.
Children behave as the browser does: what is not acknowledged is sent again under the same key. In the end
everything that was ever acknowledged must be there once and only once: in the records, or in the file a
restore put aside.
"""

from __future__ import annotations

import random
import resource
import sqlite3
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import closing, suppress
from dataclasses import dataclass, field
from pathlib import Path

import httpx2
import numpy as np

from firstloop.core.ruling import ruling_kind
from firstloop.core.simulate.writer import write
from firstloop.services.ink import from_stroke
from firstloop.store.backup import checked
from firstloop.store.database import open_engine, sessions
from firstloop.store.days import all_set_aside, unsettled
from tests.house import House

WRITERS = 4
LOOKED_AT_WITHIN_S = 20.0  # the next of what was left over, on a machine that has just been killed
BEFORE = 3  # letters that are kept before the bad luck begins
CALM_S = 60.0  # at most, until the first one after it is kept
LINES = ruling_kind("four-lines").ruled(10.0, top_mm=4.0)
NEVER_LOOKED_AT = "SELECT count(*) FROM attempt WHERE id NOT IN (SELECT attempt_id FROM result WHERE current)"


@dataclass
class Told:
    """What was acknowledged, what broke, and what happened on the way."""

    acknowledged: set[str] = field(default_factory=set)
    answers: Counter[int] = field(default_factory=Counter)
    events: Counter[str] = field(default_factory=Counter)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def kept(self, key: str, status: int) -> None:
        with self.lock:
            self.acknowledged.add(key)
            self.answers[status] += 1

    def answered(self, status: int) -> None:
        with self.lock:
            self.answers[status] += 1


class Child(threading.Thread):
    """Writes row after row until told to stop; sends again what was not acknowledged."""

    def __init__(self, house: House, number: int, told: Told, done: threading.Event) -> None:
        super().__init__(name=f"child {number}", daemon=True)  # whoever waits for them may have failed
        self.house, self.number, self.told, self.done = house, number, told, done
        rng = np.random.default_rng(number)
        self.inks = [[from_stroke(s) for s in write("n", rng, ruling=LINES).strokes] for _ in range(3)]
        self.row: dict | None = None
        self.problem: BaseException | None = None

    def run(self) -> None:
        try:
            with httpx2.Client(base_url=self.house.url, timeout=40) as api:
                for letter in range(1_000_000):
                    if self.done.is_set():
                        return
                    self.write(api, f"chaos-{self.number}-{letter:06}", self.inks[letter % 3])
        except BaseException as problem:  # told by whoever waits for this thread
            self.problem = problem

    def write(self, api: httpx2.Client, key: str, ink: list[dict]) -> None:
        while not self.done.is_set():
            try:
                if self.row is None:
                    children = api.get("/api/classes").json()[0]["children"]
                    body = {"child_id": children[self.number]["id"], "letter": "n"}
                    answer = api.post("/api/rows", json=body)
                    if answer.status_code != 201:
                        self.told.answered(answer.status_code)
                        time.sleep(0.2)
                        continue
                    self.row = answer.json()
                body = {
                    "key": key,
                    "support": "alone",
                    "strokes": ink,
                    "row_started_at": self.row["started_at"],
                }
                answer = api.post(f"/api/rows/{self.row['id']}/attempts", json=body)
            except (httpx2.TransportError, ValueError, KeyError, IndexError):
                time.sleep(0.2)
                continue
            if answer.status_code == 201:
                self.told.kept(key, 201)
                return
            self.told.answered(answer.status_code)
            if answer.status_code in (404, 409):  # the row went with a restore: as the browser, turned away
                self.row = None
                return
            time.sleep(0.2)


class TabletChild(Child):
    """Writes on a tablet: comes in anew when it is not known any more, and behaves as its page does."""

    token: str | None = None
    to_write = 0

    def write(self, api: httpx2.Client, key: str, ink: list[dict]) -> None:
        while not self.done.is_set():
            try:
                if self.token is None:
                    self.come_in(api)
                if not self.to_write:
                    self.take_a_sheet(api)
                body = {"key": key, "support": "alone", "strokes": ink}
                body["row_started_at"] = self.row["started_at"]
                answer = api.post(
                    f"/api/tablet/rows/{self.row['id']}/attempts", json=body, headers=self.headers
                )
            except (httpx2.TransportError, httpx2.HTTPStatusError, LookupError, TypeError, ValueError):
                time.sleep(0.2)
                continue
            if answer.status_code == 201:
                self.told.kept(key, 201)
                self.to_write = len(answer.json()["to_write"])
                return
            self.told.answered(answer.status_code)
            if answer.status_code == 401:  # a restore knows nothing of it
                self.token = None
            if answer.status_code in (404, 409):  # the row went with a restore: turned away
                self.to_write = 0
                return
            time.sleep(0.2)

    @property
    def headers(self) -> dict[str, str]:
        return {"Authorization": f"Bearer {self.token}"}

    def come_in(self, api: httpx2.Client) -> None:
        """Join, with the teacher's help: another tablet that has the name is sent away."""
        school = api.get("/api/classes").json()[0]
        child, room = school["children"][self.number]["id"], f"/api/classes/{school['id']}/room"
        now = api.post(room).raise_for_status().json()["room"]
        for one in now["children"]:
            if one["child"]["id"] == child and one["tablet_id"]:
                api.delete(f"{room}/tablets/{one['tablet_id']}").raise_for_status()
        joined = api.post("/api/tablet/join", json={"code": now["code"]}).raise_for_status()
        token = joined.json()["token"]
        told = {"Authorization": f"Bearer {token}"}
        api.put("/api/tablet/name", json={"child_id": child}, headers=told).raise_for_status()
        api.post(f"{room}/admit", json={}).raise_for_status()
        self.token, self.to_write = token, 0

    def take_a_sheet(self, api: httpx2.Client) -> None:
        school = api.get("/api/classes").json()[0]
        what = {"letter": "n", "child_ids": [school["children"][self.number]["id"]]}
        answer = api.post(f"/api/classes/{school['id']}/room/hand-out", json=what)
        page = api.get("/api/tablet/now", headers=self.headers)
        self.told.answered(page.status_code)
        if page.status_code == 401 or answer.status_code == 409:
            self.token = None
        answer.raise_for_status()
        self.row = page.raise_for_status().json()["sheet"]
        self.to_write = len(self.row["to_write"])


def _killed(house: House, dice: random.Random, told: Told) -> None:
    house.kill()
    house.start()


def _locked(house: House, dice: random.Random, told: Told) -> None:
    with closing(sqlite3.connect(house.database, timeout=10)) as other:
        other.execute("BEGIN IMMEDIATE")
        time.sleep(dice.uniform(0.2, 2.0))


def _full(house: House, dice: random.Random, told: Told) -> None:
    """The server may make no file larger than the records are now: to it the disk is full."""
    assert house.running is not None
    wal = house.database.with_name(house.database.name + "-wal")
    size = wal.stat().st_size if wal.exists() else 4096
    _, hard = resource.prlimit(house.running.pid, resource.RLIMIT_FSIZE)
    resource.prlimit(house.running.pid, resource.RLIMIT_FSIZE, (max(size, 4096), hard))
    time.sleep(dice.uniform(0.2, 2.0))
    resource.prlimit(house.running.pid, resource.RLIMIT_FSIZE, (hard, hard))


def _restored(house: House, dice: random.Random, told: Told) -> None:
    with httpx2.Client(base_url=house.url, timeout=60) as api:
        saved = api.get("/api/records/backup.zip")
        time.sleep(dice.uniform(0.0, 0.5))
        if saved.status_code == 200:
            told.answered(api.post("/api/records/restore", content=saved.content).status_code)


def _restored_and_killed(house: House, dice: random.Random, told: Told) -> None:
    killer = threading.Timer(dice.uniform(0.1, 1.5), house.kill)
    killer.start()
    with suppress(httpx2.TransportError):
        _restored(house, dice, told)
    killer.join()
    house.start()


def _moved(house: House, dice: random.Random, told: Told) -> None:
    """The last child goes out as a file, is erased, and comes in again."""
    with httpx2.Client(base_url=house.url, timeout=60) as api:
        chosen = api.get("/api/classes").json()[0]
        child = chosen["children"][WRITERS]
        saved = api.get(f"/api/children/{child['id']}/export.zip")
        if saved.status_code != 200:
            return
        erased = api.delete(f"/api/children/{child['id']}").status_code
        assert erased in (200, 503), erased
        if erased == 503:  # not just now
            return
        for _ in range(100):
            answer = api.post(f"/api/classes/{chosen['id']}/children/import", content=saved.content)
            told.answered(answer.status_code)
            if answer.status_code in (201, 409):
                return
            time.sleep(0.3)
        raise AssertionError("the child does not come in again")


EVENTS: dict[str, tuple[int, Callable[[House, random.Random, Told], None]]] = {
    "killed": (24, _killed),  # two hundred in ten minutes of a machine that is not busy
    "locked": (2, _locked),
    "disk full": (2, _full),
    "restored": (1, _restored),
    "restored and killed": (3, _restored_and_killed),
    "erased and taken in": (1, _moved),
}


def found(school: httpx2.Client) -> None:
    made = school.post("/api/classes", json={"name": "Kittiwake class"}).json()
    for k in range(WRITERS + 1):
        body = {"first_name": f"Child{k}", "initial": "X"}
        school.post(f"/api/classes/{made['id']}/children", json=body).raise_for_status()


def keys_in(database: Path) -> list[str]:
    with closing(sqlite3.connect(database)) as db:
        return [key for (key,) in db.execute("SELECT key FROM attempt")]


def chaos(seconds: float, seed: int) -> Told:
    """Let it all happen for so long, then look that nothing is lost and nothing doubled.

    Raises
    ------
    AssertionError
        If something is.
    """
    dice, told, done = random.Random(seed), Told(), threading.Event()
    with tempfile.TemporaryDirectory() as folder, House(Path(folder)) as house:
        with httpx2.Client(base_url=house.url) as api:
            found(api)
            still = Child(house, WRITERS, told, threading.Event())
            for letter in range(BEFORE):
                still.write(api, f"moved-{letter:03}", still.inks[letter])
        children = [(TabletChild if k % 2 else Child)(house, k, told, done) for k in range(WRITERS)]
        for child in children:
            child.start()
        until = time.monotonic() + seconds
        names, weights = list(EVENTS), [weight for weight, _ in EVENTS.values()]
        while time.monotonic() < until:
            time.sleep(dice.uniform(0.0, 0.8))
            (name,) = dice.choices(names, weights)
            with suppress(httpx2.TransportError, sqlite3.OperationalError):  # it came at a bad moment itself
                EVENTS[name][1](house, dice, told)
            told.events[name] += 1
        calm = time.monotonic() + CALM_S  # on a slow machine a short one is nothing but bad luck
        while len(told.acknowledged) <= BEFORE and time.monotonic() < calm:
            time.sleep(0.1)
        done.set()
        for child in children:
            child.join()
            if child.problem is not None:
                raise child.problem
        house.kill()
        house.start()  # what was left over is judged
        _look(house, told)
    return told


def _never_looked_at(house: House) -> int:
    with closing(sqlite3.connect(house.database)) as db:
        return int(db.execute(NEVER_LOOKED_AT).fetchone()[0])


def _look(house: House, told: Told) -> None:
    left, since = _never_looked_at(house), time.monotonic()
    while left:
        time.sleep(0.2)
        before, left = left, _never_looked_at(house)
        since = time.monotonic() if left < before else since
        assert time.monotonic() - since < LOOKED_AT_WITHIN_S, f"{left} letters are never looked at"
    with httpx2.Client(base_url=house.url, timeout=60) as api:
        for chosen in api.get("/api/classes").json():
            assert api.get(f"/api/classes/{chosen['id']}/today").status_code == 200
    with closing(sqlite3.connect(house.database)) as db:
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        assert db.execute("PRAGMA foreign_key_check").fetchall() == []
        doubled = "SELECT attempt_id FROM result WHERE current GROUP BY attempt_id HAVING count(*) <> 1"
        assert db.execute(doubled).fetchall() == []
    assert not list(house.data.glob("work-*")), "what killed work left is still there"
    here = keys_in(house.database)
    assert len(here) == len(set(here)), "some ink is there twice"
    everywhere = set(here)
    for file in (house.data / "backups").glob("*.zip"):
        if file.stat().st_size:  # a name that was taken and not written: its restore was killed
            with checked(file, house.data) as kept:
                everywhere |= set(keys_in(kept.records))
    lost = told.acknowledged - everywhere
    assert not lost, f"{len(lost)} acknowledged and gone: {sorted(lost)[:5]}"
    assert told.answers[500] == 0, f"{told.answers[500]} bare faults"
    engine = open_engine(house.database)
    with sessions(engine)() as session:
        assert unsettled(session) == []
        assert all_set_aside(session) == []
    engine.dispose()


def main() -> None:
    """Ten minutes of it, or as many seconds as are given."""
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 600.0
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else int(time.time())
    print(f"{seconds:.0f} seconds of bad luck, seed {seed}")
    told = chaos(seconds, seed)
    print(f"{len(told.acknowledged)} attempts acknowledged; each is there once and only once")
    kills = told.events["killed"] + told.events["restored and killed"]
    print(f"{kills} kills among {told.events.total()} events:", dict(told.events))
    print("answers:", dict(sorted(told.answers.items())))


if __name__ == "__main__":
    main()
