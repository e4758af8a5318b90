"""Thirty children writing at once against a server of its own: ``make bench-load``.

Two questions: how soon is an attempt answered when thirty come every second, and how many can come at
all. The first is asked once more while a backup is made, a child goes out and a large ink file is judged
beside it. Everything is bounded and goes to this machine only.
"""

from __future__ import annotations

import asyncio
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from itertools import count
from multiprocessing import get_context
from pathlib import Path
from statistics import median, quantiles
from typing import Any

import httpx2
import numpy as np

from firstloop.core.letterforms.library import letter
from firstloop.core.ruling import ruling_kind
from firstloop.core.simulate.writer import write
from firstloop.core.slots import letter_left_xh
from firstloop.formats.inkml import write_inkml
from firstloop.services.ink import from_stroke

WRITERS, A_SECOND, SECONDS, ROW = 30, 30.0, 12.0, 6
LETTERS = "nmhrbpuycaodgqvwxzklitjefs"
LINES = ruling_kind("four-lines").ruled(10.0, top_mm=4.0)


def ink(char: str, place: int, rng: np.random.Generator) -> list[dict]:
    """A letter at its place in a row, with about as many points as a tablet gives."""
    left = letter_left_xh(letter(char), place) * 10.0
    made = write(char, rng, ruling=LINES, left_mm=left)
    return [from_stroke(stroke) for stroke in made.strokes]


class Server:
    """First Loop in a process of its own."""

    def __init__(self, data: Path) -> None:
        with socket.socket() as sock:
            sock.bind(("127.0.0.1", 0))
            self.port = sock.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.command = [sys.executable, "-m", "firstloop.cli", "serve", "--data", str(data)]
        self.command += ["--port", str(self.port)]
        self.running: subprocess.Popen[bytes] | None = None

    def __enter__(self) -> Server:
        self.running = subprocess.Popen(self.command, stdout=subprocess.DEVNULL)
        for _ in range(300):
            try:
                httpx2.get(f"{self.url}/api/about")
                return self
            except httpx2.TransportError:
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def __exit__(self, *_: object) -> None:
        assert self.running is not None
        self.running.terminate()
        self.running.wait()


async def school(api: httpx2.AsyncClient) -> list[int]:
    """A class of thirty."""
    made = (await api.post("/api/classes", json={"name": f"Class {time.time()}"})).json()["id"]
    ids = []
    for k in range(WRITERS):
        body = {"first_name": f"Child{chr(97 + k % 26)}{k // 26}", "initial": chr(65 + k % 26)}
        ids.append((await api.post(f"/api/classes/{made}/children", json=body)).json()["id"])
    return ids


class Writer:
    """A child that writes row after row, each letter when its turn comes."""

    number = count()

    def __init__(self, api: httpx2.AsyncClient, child: int, inks: dict[tuple[str, int], list[dict]]) -> None:
        self.api, self.child, self.inks = api, child, inks
        self.row, self.place, self.char = 0, ROW, "n"
        self.first = child % ROW  # children do not end their rows all at once
        self.rng = np.random.default_rng(child)

    async def letter(self) -> float:
        """Write one; seconds until it was answered. Rows are begun and ended between letters."""
        if self.place == ROW:
            if self.row:
                (await self.api.post(f"/api/rows/{self.row}/finish")).raise_for_status()
            self.char, self.place = LETTERS[int(self.rng.integers(len(LETTERS)))], self.first
            self.first = 0
            body = {"child_id": self.child, "letter": self.char}
            self.row = (await self.api.post("/api/rows", json=body)).json()["id"]
        strokes = self.inks[self.char, self.place]
        body = {"key": f"load-{next(self.number):08}", "support": "alone", "strokes": strokes}
        self.place += 1
        begun = time.perf_counter()
        answer = await self.api.post(f"/api/rows/{self.row}/attempts", json=body)
        answer.raise_for_status()
        return time.perf_counter() - begun


async def at_a_pace(writers: list[Writer], seconds: float) -> list[float]:
    """Every writer writes evenly, all together `A_SECOND`; seconds to each answer."""
    every = len(writers) / A_SECOND
    until = time.perf_counter() + seconds
    took: list[float] = []

    async def one(writer: Writer, wait: float) -> None:
        due = time.perf_counter() + wait
        while due < until:
            await asyncio.sleep(max(0.0, due - time.perf_counter()))
            took.append(await writer.letter())
            due += every

    await asyncio.gather(*(one(writer, k / A_SECOND) for k, writer in enumerate(writers)))
    return took


async def flat_out(writers: list[Writer], seconds: float) -> float:
    """As many as there can be; attempts a second."""
    until = time.perf_counter() + seconds
    took: list[float] = []

    async def one(writer: Writer) -> None:
        while time.perf_counter() < until:
            took.append(await writer.letter())

    begun = time.perf_counter()
    await asyncio.gather(*(one(writer) for writer in writers))
    return len(took) / (time.perf_counter() - begun)


def told(what: str, took: list[float]) -> None:
    """Print a line of figures."""
    ms = [1000 * one for one in took]
    print(
        f"{what:34} {len(ms):5} attempts  median {median(ms):6.0f} ms  p95 {quantiles(ms, n=20)[-1]:6.0f} ms"
        f"  worst {max(ms):6.0f} ms"
    )


def again_and_again(address: str, body: bytes | None, done: Any, times: Any) -> None:
    """Ask for something long until told to stop; a process of its own, so that it delays no writer here."""
    while not done.is_set():
        with urllib.request.urlopen(urllib.request.Request(address, body)) as answer:
            while answer.read(1 << 20):
                pass
        times.value += 1


async def beside(writers: list[Writer], name: str, address: str, body: bytes | None = None) -> None:
    """The same pace while something long is done again and again."""
    here = get_context("spawn")
    done, times = here.Event(), here.Value("i", 0)
    long = here.Process(target=again_and_again, args=(address, body, done, times))
    long.start()
    took = await at_a_pace(writers, SECONDS)
    done.set()
    long.join()
    told(f"beside {name} ({times.value} times)", took)


async def measure(url: str) -> None:
    """Everything, one after another."""
    rng = np.random.default_rng(1)
    inks = {(char, place): ink(char, place, rng) for char in LETTERS for place in range(ROW)}
    large = write_inkml([write(char, rng, ruling=LINES, left_mm=10.0) for char in LETTERS * 8])
    limits = httpx2.Limits(max_connections=WRITERS + 4)
    async with httpx2.AsyncClient(base_url=url, timeout=120, limits=limits) as api:
        children = await school(api)
        writers = [Writer(api, child, inks) for child in children]
        await at_a_pace(writers, 5.0)  # warms up
        told(f"{A_SECOND:.0f} a second, {WRITERS} writers", await at_a_pace(writers, SECONDS))
        print(f"flat out: {await flat_out(writers, SECONDS / 2):.0f} attempts a second")

        await beside(writers, "backups", f"{url}/api/records/backup.zip")
        await beside(writers, "exports", f"{url}/api/children/{children[0]}/export.zip")
        await beside(writers, "an ink file", f"{url}/api/check", large)


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
        asyncio.run(measure(server.url))
