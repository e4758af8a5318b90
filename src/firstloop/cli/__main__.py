"""``python -m firstloop.cli``."""

from firstloop.cli import app

app()
