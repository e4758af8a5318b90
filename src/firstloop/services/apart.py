"""Work on the records in a process of its own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TypeVar

from firstloop.store.database import session_on
from firstloop.text.lines import call_lines

Made = TypeVar("Made")


def on_file(database: Path, names: Mapping[str, str], work: Callable[..., Made], *given: object) -> Made:
    """Do some work on the file of the records, the lines called as they are where it was asked for.

    Parameters
    ----------
    names : mapping
        What the class calls its lines, as :func:`firstloop.text.lines.call_lines` takes it.
    work : callable
        Called with a session and what is `given`.
    """
    call_lines(names)
    with session_on(database) as session:
        return work(session, *given)
