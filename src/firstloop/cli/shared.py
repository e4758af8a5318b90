"""What all commands share: the application they are commands of, and how they speak and stop."""

from __future__ import annotations

import gc
import os
from collections.abc import Iterator
from contextlib import contextmanager
from enum import StrEnum
from typing import TYPE_CHECKING, Any

import typer

if TYPE_CHECKING:
    from rich.table import Table

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
    help="Models letters, catches how children write them, and remembers who needs what.",
)
CANNOT = 2
PROCESSORS = os.cpu_count() or 1


class LevelName(StrEnum):
    """How strict to be, as of :class:`firstloop.core.check.vocabulary.grades.Level`."""

    STARTING = "starting"
    GROWING = "growing"
    SETTLED = "settled"


def stop(message: str) -> typer.Exit:
    """Say why on the error stream; to be raised."""
    typer.echo(message, err=True)
    return typer.Exit(CANNOT)


@contextmanager
def loaded_for_good() -> Iterator[None]:
    """Load what stays as long as a server, which does not look through it for rubbish, and for other seldom.

    A start takes a fifth less time so, and an answer an eighth less of the processor.
    """
    gc.disable()
    try:
        yield
    finally:
        gc.freeze()
        gc.enable()
    gc.set_threshold(50_000, 10, 10)


@contextmanager
def progress_of(what: str) -> Iterator[Any]:
    """Something to call with (done, of all) while long work goes on."""
    from rich.console import Console  # noqa: PLC0415
    from rich.progress import Progress  # noqa: PLC0415

    with Progress(console=Console(stderr=True), transient=True) as progress:
        task = progress.add_task(what, total=None)
        yield lambda done, total: progress.update(task, completed=done, total=total)


def show(table: Table) -> None:
    """Print a table."""
    from rich.console import Console  # noqa: PLC0415

    Console().print(table)
