"""The command line: serve, demo, check, recheck, scan, evaluate, sheet, letters, backup, restore.

What only one command needs is imported there, so that asking for help, or judging a file, waits for nothing
else.
"""

from __future__ import annotations

from firstloop.cli import files, measure, records
from firstloop.cli.shared import app

__all__ = ["app", "files", "measure", "records"]
