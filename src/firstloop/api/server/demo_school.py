"""The demo school beside one's own: served by a process of its own, from a folder of its own.

Nothing of it comes into the records: it is another First Loop at another port of this machine, which ends
with the one that started it.
"""

from __future__ import annotations

import socket
import subprocess
import sys
import threading
from collections.abc import Sequence
from enum import StrEnum
from pathlib import Path

_DEMO = (sys.executable, "-m", "firstloop", "demo")
_HERE = "127.0.0.1"
_SOON_S = 0.5
_ENDS_S = 10.0


class DemoState(StrEnum):
    """How far the demo school is."""

    OFF = "off"
    MAKING = "making"
    READY = "ready"
    FAILED = "failed"


class DemoSchool:
    """Starts the demo school when it is asked for, and ends it.

    Parameters
    ----------
    folder : Path
        Where its records are kept, so that it is made once.
    command : sequence of str
        What makes and serves it; ``--data`` and ``--port`` are put behind.
    """

    def __init__(self, folder: Path, command: Sequence[str] = _DEMO) -> None:
        self._folder, self._command = folder, command
        self._process: subprocess.Popen[bytes] | None = None
        self._port = 0
        self._lock = threading.Lock()

    @property
    def url(self) -> str:
        """Where it is served once it is ready; empty while it is not."""
        return f"http://{_HERE}:{self._port}" if self.state is DemoState.READY else ""

    @property
    def state(self) -> DemoState:
        """How far it is: it is ready as soon as it can be reached."""
        if self._process is None:
            return DemoState.OFF
        if self._process.poll() is not None:
            return DemoState.FAILED
        try:
            socket.create_connection((_HERE, self._port), _SOON_S).close()
        except OSError:
            return DemoState.MAKING
        return DemoState.READY

    def start(self) -> None:
        """Begin to make and serve it; nothing where that is under way."""
        with self._lock:
            if self.state in (DemoState.MAKING, DemoState.READY):
                return
            with socket.socket() as free:
                free.bind((_HERE, 0))
                self._port = free.getsockname()[1]
            self._process = subprocess.Popen(
                [*self._command, "--data", str(self._folder), "--port", str(self._port)],
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
            )

    def stop(self) -> None:
        """End it."""
        with self._lock:
            if self._process is None:
                return
            self._process.terminate()
            try:
                self._process.wait(_ENDS_S)
            except subprocess.TimeoutExpired:
                self._process.kill()
                self._process.wait()
