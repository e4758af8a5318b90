"""What takes most of a start, done once: a server that is forked from here begins with it."""

from pathlib import Path
from tempfile import TemporaryDirectory

import firstloop.cli  # noqa: F401
from firstloop.api.app import create_app
from firstloop.api.settings import Settings

with TemporaryDirectory() as folder:
    create_app(Settings(Path(folder)))
