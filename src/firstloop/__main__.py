"""``python -m firstloop``: the command line."""

from firstloop.cli import app

app()
