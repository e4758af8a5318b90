"""A room full of tablets, each in true time at its own pace: ``make bench-room``.

How soon is an attempt answered, and how soon is the ink on the teacher's screen? With nothing beside, then
beside reports of the class as PDF, a backup and a page being read, again and again. With 30 tablets, and 60.
Last, what memory the server takes after a thousand attempts and after ten thousand.
"""

from __future__ import annotations

import json
import os
import re
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from multiprocessing import get_context
from pathlib import Path
from statistics import median, quantiles
from typing import Any
from uuid import uuid4

import httpx2
import numpy as np

from benchmarks.load import ink
from benchmarks.pages import Device, loop_s, printed, written
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.demo.tablets import Nature, SimulatedTablet, client_of
from firstloop.formats.pictures import jpeg

PASSPHRASE = "seven herons over saltmarsh"
SECONDS, WARMS_UP_S, COMES_IN_S = 40.0, 12.0, 6.0
STEADY = Nature(slips_often=0.2, pause_s=1.0, loses_often=0.0)
FEW, MANY = 1_000, 10_000
WRITE_AT_ONCE = 8


class House:
    """First Loop as it is served to a room, in a process of its own."""

    def __init__(self, data: Path) -> None:
        ports = []
        for _ in range(2):
            with socket.socket() as sock:
                sock.bind(("127.0.0.1", 0))
                ports.append(sock.getsockname()[1])
        self.url, self.authority = f"https://127.0.0.1:{ports[1]}", data / "door" / "authority.pem"
        self.command = [sys.executable, "-m", "firstloop.cli", "serve", "--room", "--data", str(data)]
        self.command += ["--port", str(ports[0]), "--secure-port", str(ports[1])]
        self.running: subprocess.Popen[bytes] | None = None

    def __enter__(self) -> House:
        told = {**os.environ, "FIRST_LOOP_PASSPHRASE": PASSPHRASE}
        self.running = subprocess.Popen(self.command, stdout=subprocess.DEVNULL, env=told)
        for _ in range(600):
            try:
                with client_of(self.url, self.authority) as api:
                    api.get("/api/door/")
                return self
            except (httpx2.TransportError, OSError):
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def __exit__(self, *_: object) -> None:
        assert self.running is not None
        self.running.terminate()
        self.running.wait()

    @contextmanager
    def teacher(self) -> Iterator[httpx2.Client]:
        """A browser of the teacher's."""
        with client_of(self.url, self.authority) as api:
            api.post("/api/door/enter", json={"passphrase": PASSPHRASE}).raise_for_status()
            yield api

    @property
    def memory_mb(self) -> float:
        """What the server holds, with no process beside it."""
        assert self.running is not None
        status = Path(f"/proc/{self.running.pid}/status").read_text(encoding="utf-8")
        found = re.search(r"VmRSS:\s+(\d+) kB", status)
        return 0.0 if found is None else int(found[1]) / 1024


def tablets(url: str, authority: Path, code: str, children: list[int], out: Any, done: Any) -> None:
    """So many tablets, in a process of their own; every answer goes out with when the pen went up."""
    stopped = threading.Event()

    def told(answer: httpx2.Response, pen_up_s: float) -> None:
        if answer.status_code == httpx2.codes.CREATED:
            out.put((answer.json()["attempt_id"], pen_up_s, time.time()))

    def child(number: int) -> None:
        with client_of(url, authority) as client:
            rng = np.random.default_rng(number)
            tablet = SimulatedTablet(client, rng, DEFAULT_STYLE, STEADY, told)
            tablet.join(code, number)
            tablet.work(stopped)

    for number in children:
        threading.Thread(target=child, args=(number,), daemon=True).start()
    done.wait()
    stopped.set()


def teachers_screen(url: str, authority: Path, class_id: int, out: Any, done: Any) -> None:
    """Listens as the teacher's screen does; what arrives goes out with when it came, the first time."""
    house = House(authority.parent.parent)
    house.url = url
    seen: set[int] = set()
    with (
        house.teacher() as api,
        api.stream("GET", f"/api/classes/{class_id}/room/arriving") as answer,
    ):
        for line in answer.iter_lines():
            if done.is_set():
                return
            if not line.startswith("data:"):
                continue
            came, now = json.loads(line[5:]), time.time()
            children = (came["room"] or {}).get("children", []) if came["whole"] else came["children"]
            fresh = [one["id"] for child in children if child["line"] for one in child["line"]["attempts"]]
            for number in fresh:
                if number not in seen:
                    seen.add(number)
                    out.put((number, now))


def long_work(
    url: str, authority: Path, class_id: int, children: list[int], page: bytes, times: Any, done: Any
) -> None:
    """A report of every child as PDF, a backup, and a page to be read, again and again."""
    house = House(authority.parent.parent)
    house.url = url
    with house.teacher() as api:
        while not done.is_set():
            for child in children:
                api.get(f"/api/children/{child}/report.pdf").raise_for_status()
            api.get("/api/records/backup.zip").raise_for_status()
            fresh = page + os.urandom(8)  # the same file twice would be refused
            api.post(f"/api/classes/{class_id}/pages?name=page.jpg", content=fresh)
            times.value += 1


def told(what: str, took: list[float], unit: str) -> None:
    """Print a line of figures."""
    ms = [1000 * one for one in took]
    print(
        f"{what:44} {len(ms):5} {unit:9} median {median(ms):6.0f} ms  p95 {quantiles(ms, n=20)[-1]:6.0f} ms"
        f"  worst {max(ms):6.0f} ms",
        flush=True,
    )


@contextmanager
def process(target: Any, *given: Any) -> Iterator[None]:
    """Something in a process of its own, until this is left."""
    one = get_context("spawn").Process(target=target, args=given, daemon=True)
    one.start()
    try:
        yield
    finally:
        one.kill()
        one.join()


def a_class(api: httpx2.Client, count: int) -> tuple[int, list[int]]:
    """A class of so many, and the room of it opened."""
    made = api.post("/api/classes", json={"name": f"Class of {count}"}).json()["id"]
    ids = []
    for k in range(count):
        body = {"first_name": f"Child{chr(97 + k % 26)}{k // 26}", "initial": chr(65 + k % 26)}
        ids.append(api.post(f"/api/classes/{made}/children", json=body).json()["id"])
    api.post(f"/api/classes/{made}/room").raise_for_status()
    return made, ids


def measure_room(house: House, count: int, page: bytes) -> None:
    """So many tablets, with nothing beside and with all of it."""
    context = get_context("spawn")
    answers, arrived, done = context.Queue(), context.Queue(), context.Event()
    times = context.Value("i", 0)
    with house.teacher() as api:
        class_id, children = a_class(api, count)
        room = f"/api/classes/{class_id}/room"
        code = api.get(room).json()["room"]["code"]
        whole = (house.url, house.authority)
        with (
            process(tablets, *whole, code, children, answers, done),
            process(teachers_screen, *whole, class_id, arrived, done),
        ):
            while len(api.get(room).json()["room"]["door"]) < count:
                time.sleep(1)
            time.sleep(COMES_IN_S)
            api.post(f"{room}/admit", json={}).raise_for_status()
            _while_they_write(api, room, WARMS_UP_S)
            _drained(answers), _drained(arrived)
            stolen = Stolen()
            _while_they_write(api, room, SECONDS)
            _told_of(f"{count} tablets", _drained(answers), arrived, stolen)
            with process(long_work, *whole, class_id, children, page, times, done):
                stolen = Stolen()
                _while_they_write(api, room, SECONDS)
                what = f"{count} beside PDFs, backup, page ({times.value}x)"
                _told_of(what, _drained(answers), arrived, stolen)
            done.set()
        api.delete(room)


class Stolen:
    """How much of this machine's time others on the same host took, since this was made."""

    def __init__(self) -> None:
        self._before = self._ticks()

    @staticmethod
    def _ticks() -> list[int]:
        with Path("/proc/stat").open(encoding="utf-8") as stat:
            return [int(one) for one in stat.readline().split()[1:9]]

    def share(self) -> float:
        """Of the processors' time, 0 to 1; ticks as in proc(5), the eighth of which is what was stolen."""
        took = [now - before for now, before in zip(self._ticks(), self._before, strict=True)]
        return took[7] / max(sum(took), 1)


def _while_they_write(api: httpx2.Client, room: str, seconds: float) -> None:
    """Hand out a new row whenever half of the children have none to write on."""
    until, letters = time.monotonic() + seconds, iter("nmhrbpuyacodgqvwxzklitjefs" * 9)
    while time.monotonic() < until:
        now = api.get(room).json()["room"]
        idle = [one["child"]["id"] for one in now["children"] if not (one["line"] or {}).get("to_write")]
        if idle:
            api.post(f"{room}/hand-out", json={"letter": next(letters), "child_ids": idle})
        time.sleep(3.0)


def _drained(queue: Any) -> list[tuple[Any, ...]]:
    out = []
    while not queue.empty():
        out.append(queue.get())
    return out


def _told_of(what: str, answered: list[tuple[Any, ...]], arrived: Any, stolen: Stolen) -> None:
    if (share := stolen.share()) > 0.01:
        print(f"another on this host took {100 * share:.0f} % of the time in what follows", flush=True)
    time.sleep(1.5)
    seen = dict(_drained(arrived))
    told(f"{what}: answered after", [at - pen_up for _, pen_up, at in answered], "attempts")
    there = [seen[number] - pen_up for number, pen_up, _ in answered if number in seen]
    told(f"{what}: seen by the teacher after", there, "of them")


def measure_memory(house: House) -> None:
    """What the server holds after many attempts, sent as quickly as they are taken."""
    with house.teacher() as api:
        class_id, children = a_class(api, WRITE_AT_ONCE)
        room = f"/api/classes/{class_id}/room"
        code = api.get(room).json()["room"]["code"]
        strokes = ink("n", 0, np.random.default_rng(1))
        tokens = []
        for child in children:
            joined = api.post("/api/tablet/join", json={"code": code}).json()["token"]
            tokens.append({"Authorization": f"Bearer {joined}"})
            api.put("/api/tablet/name", json={"child_id": child}, headers=tokens[-1])
        api.post(f"{room}/admit", json={})
        sent = 0
        for goal in (FEW, MANY):
            begun = time.monotonic()
            while sent < goal:
                api.post(f"{room}/hand-out", json={"letter": "n"}).raise_for_status()
                for token in tokens:
                    sheet = api.get("/api/tablet/now", headers=token).json()["sheet"]
                    for support in sheet["to_write"]:
                        body = {"key": str(uuid4()), "support": support, "strokes": strokes}
                        path = f"/api/tablet/rows/{sheet['id']}/attempts"
                        api.post(path, json=body, headers=token).raise_for_status()
                        sent += 1
            rate = sent / (time.monotonic() - begun)
            time.sleep(5)
            print(f"after {sent} attempts ({rate:.0f} a second): {house.memory_mb:.0f} MB", flush=True)


async def _a_page(url: str, house: House) -> bytes:
    import ssl  # noqa: PLC0415

    trusted = ssl.create_default_context(cafile=house.authority)
    async with httpx2.AsyncClient(base_url=url, verify=trusted, timeout=60) as api:
        (await api.post("/api/door/enter", json={"passphrase": PASSPHRASE})).raise_for_status()
        made = (await api.post("/api/classes", json={"name": "Class of a page"})).json()["id"]
        child = (
            await api.post(f"/api/classes/{made}/children", json={"first_name": "A", "initial": "B"})
        ).json()
        pdf, layouts = await printed(api, made, [child["id"]])
    return jpeg(written(pdf, 0, layouts[0], Device.SCANNER)[1], 90)


def main() -> None:
    """Everything; with ``memory`` only what it takes of that."""
    import asyncio  # noqa: PLC0415

    print(f"a plain loop takes {loop_s():.2f} s", flush=True)
    with tempfile.TemporaryDirectory() as folder, House(Path(folder)) as house:
        if "memory" in sys.argv:
            measure_memory(house)
            return
        page = asyncio.run(_a_page(house.url, house))
        for count in (30, 60):
            measure_room(house, count, page)


if __name__ == "__main__":
    main()
