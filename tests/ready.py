"""What takes most of a start, done once: a server that is forked from here begins with it."""

from pathlib import Path
from tempfile import TemporaryDirectory

from fastapi.testclient import TestClient

import firstloop.cli  # noqa: F401
from firstloop.api.app import create_app
from firstloop.api.settings import Settings

with TemporaryDirectory() as folder:
    asked = TestClient(create_app(Settings(Path(folder))), base_url="http://localhost")
    asked.get("/api/no-such-door")  # every route is passed on the way there, and made ready
