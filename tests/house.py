"""First Loop in a process of its own, as ``first-loop serve`` begins it, to be killed without warning."""

from __future__ import annotations

import os
import socket
import sys
import time
from multiprocessing import get_context
from multiprocessing.context import ForkServerProcess
from pathlib import Path

import httpx2

from firstloop.cli import app

READY_MADE = get_context("forkserver")  # a process of what is loaded already: started in no time, any number
READY_MADE.set_forkserver_preload(["tests.ready", "uvicorn"])


def _serve(data: Path, port: int) -> None:
    """What `first-loop serve` does, in a process of its own that says nothing."""
    nowhere = os.open(os.devnull, os.O_WRONLY)
    for said in (sys.stdout, sys.stderr):
        os.dup2(nowhere, said.fileno())
    app(["serve", "--data", str(data), "--port", str(port)])


class House:
    """First Loop as a process that ends without warning and is started again."""

    def __init__(self, data: Path) -> None:
        self.data = data
        with socket.socket() as sock:
            sock.bind(("127.0.0.1", 0))
            self.port = sock.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.asking = httpx2.Client(base_url=self.url, timeout=60)
        self.running: ForkServerProcess | None = None

    @property
    def database(self) -> Path:
        return self.data / "first-loop.sqlite3"

    def start(self) -> None:
        self.running = READY_MADE.Process(target=_serve, args=(self.data, self.port))
        self.running.start()
        for _ in range(1200):
            try:
                self.asking.get("/api/about")
                return
            except httpx2.TransportError:
                if not self.running.is_alive():
                    raise AssertionError("it does not start again") from None
                time.sleep(0.05)
        raise AssertionError("it does not start")

    def __enter__(self) -> House:
        self.start()
        return self

    def __exit__(self, *_: object) -> None:
        self.kill()
        self.asking.close()

    def kill(self) -> None:
        assert self.running is not None
        self.running.kill()
        self.running.join()
