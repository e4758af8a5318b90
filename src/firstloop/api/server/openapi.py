"""Print the OpenAPI document, from which the front end's types are made."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

import orjson

from firstloop.api.app import create_app
from firstloop.api.settings import Settings


def document() -> bytes:
    """The OpenAPI document as JSON."""
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(Path(folder)), web_dir=None)
        return orjson.dumps(app.openapi(), option=orjson.OPT_INDENT_2)


if __name__ == "__main__":
    sys.stdout.buffer.write(document())
