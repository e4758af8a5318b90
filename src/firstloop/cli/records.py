"""Commands that work on records: serve, demo, recheck, backup, restore."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, date, datetime
from pathlib import Path
from typing import IO, TYPE_CHECKING, Annotated, Any

import typer

from firstloop.cli.room import JUDGES, serve_room
from firstloop.cli.shared import PROCESSORS, app, loaded_for_good, progress_of, show, stop

if TYPE_CHECKING:
    from rich.table import Table

    from firstloop.api.settings import Settings
    from firstloop.services.door import Door
    from firstloop.services.recheck import Recheck
    from firstloop.store.backup import Contents

DataDir = Annotated[Path | None, typer.Option("--data", help="Folder that holds the records.")]
Host = Annotated[str, typer.Option(help="Address to listen on; of this machine alone without --room.")]
Port = Annotated[int, typer.Option(help="Port to listen on.")]
Room = Annotated[
    bool, typer.Option("--room", help="For tablets of the same network: with a passphrase, over https.")
]
SECURE_PORT = 8443
SecurePort = Annotated[int, typer.Option(help="Port for https, with --room; the other shows the way to it.")]
PASSPHRASE_ENV = "FIRST_LOOP_PASSPHRASE"
DEMO_PASSPHRASE = "saltmarsh heron seven lanterns"
ONLY_BY_ROOM = (
    "Not started. A network reads children's records only through the door: with a passphrase, over https. "
    "Say so: first-loop serve --room"
)


def _settings(data: Path | None, **choices: Any) -> Settings:
    from firstloop.api.settings import Settings, default_data_dir  # noqa: PLC0415

    return Settings(data or default_data_dir(), **choices)


@contextmanager
def _alone_with(data_dir: Path) -> Iterator[None]:
    """Be the only First Loop that serves these records, or puts others in their place."""
    from filelock import Timeout  # noqa: PLC0415

    from firstloop.store.places import one_server  # noqa: PLC0415

    try:
        with one_server(data_dir):
            yield
    except Timeout:
        raise stop(f"Another First Loop is using the records in {data_dir}. Close it first.") from None
    except OSError as problem:
        raise stop(
            f"The records cannot be written: {data_dir} cannot ({problem.strerror}). Nothing was changed. "
            "Give leave or make room there and start again."
        ) from None


def _run(settings: Settings, host: str, port: int) -> None:
    from dataclasses import replace  # noqa: PLC0415

    from firstloop.api.server.reach import is_loopback  # noqa: PLC0415
    from firstloop.store.errors import RecordsError  # noqa: PLC0415

    if not is_loopback(host):
        raise stop(ONLY_BY_ROOM)
    with _alone_with(settings.data_dir):
        with loaded_for_good():
            import uvicorn  # noqa: PLC0415

            from firstloop.api.app import create_app  # noqa: PLC0415

            try:
                application = create_app(replace(settings, judges=JUDGES))
            except RecordsError as problem:
                raise stop(str(problem)) from None
        typer.echo(f"First Loop is ready at http://{f'[{host}]' if ':' in host else host}:{port}")
        typer.echo(f"The records are in {settings.data_dir}")
        uvicorn.run(application, host=host, port=port, log_level="warning", server_header=False)


@app.command()
def serve(
    data: DataDir = None,
    host: Host = "127.0.0.1",
    port: Port = 8000,
    pages_from: Annotated[
        Path | None,
        typer.Option(help="Folder that a scanner writes pages to: what it has finished is taken out of it."),
    ] = None,
    room: Room = False,
    secure_port: SecurePort = SECURE_PORT,
) -> None:
    """Serve the application on this machine; with --room to tablets of the same network too."""
    if pages_from is not None and not pages_from.is_dir():
        raise stop(f"{pages_from} is no folder.")
    if room:
        with _alone_with((settings := _settings(data, pages_from=pages_from)).data_dir):
            _with_a_passphrase(settings)
            serve_room(settings, host, port, secure_port)
        return
    _run(_settings(data, offers_demo=True, pages_from=pages_from), host, port)


@app.command()
def demo(
    data: DataDir = Path("data/demo"),
    host: Host = "127.0.0.1",
    port: Port = 8000,
    fresh: Annotated[bool, typer.Option(help="Throw the demo school away and make it again.")] = False,
    seed_only: Annotated[bool, typer.Option(help="Make the demo school and stop.")] = False,
    room: Room = False,
    secure_port: SecurePort = SECURE_PORT,
) -> None:
    """Make the demo school, if it is not there yet, and serve it."""
    from firstloop.demo.build import ensure_demo  # noqa: PLC0415

    settings = _settings(data or Path("data/demo"), simulated_pen=True)
    with progress_of("Twelve weeks of writing") as progress:
        made = ensure_demo(settings, date.today(), fresh, progress)
    if made:
        typer.echo(f"Saltmarsh Row is ready: {made} letters written and judged.")
    if seed_only:
        return
    if room:
        with _alone_with(settings.data_dir):
            _demo_room(settings, host, port, secure_port)
    else:
        _run(settings, host, port)


@app.command()
def passphrase(data: DataDir = None) -> None:
    """Set the teacher's passphrase anew; every session ends."""
    from firstloop.services.door import Door  # noqa: PLC0415
    from firstloop.store.door_keys import KeysError, door_folder  # noqa: PLC0415

    settings = _settings(data)
    with _alone_with(settings.data_dir):
        try:
            door = Door(settings.data_dir)
        except KeysError:  # whoever can do this could take the records as well
            (door_folder(settings.data_dir) / "keys.json").unlink()
            door = Door(settings.data_dir)
        _ask_for_passphrase(door)


def _with_a_passphrase(settings: Settings) -> None:
    """Have a passphrase set before anybody else can reach the records."""
    from firstloop.services.door import Door  # noqa: PLC0415
    from firstloop.store.door_keys import KeysError  # noqa: PLC0415

    try:
        door = Door(settings.data_dir)
    except KeysError as problem:
        raise stop(str(problem)) from None
    if not door.has_passphrase:
        _ask_for_passphrase(door)


def _ask_for_passphrase(door: Door) -> None:
    import os  # noqa: PLC0415

    from firstloop.services.door import WeakError, strength  # noqa: PLC0415

    given = os.environ.get(PASSPHRASE_ENV)
    while True:
        said = given or typer.prompt("Passphrase of the teacher (four or five words)", hide_input=True)
        try:
            if not given and typer.prompt("Once more", hide_input=True) != said:
                typer.echo("The two were not the same.")
                continue
            words = door.set_passphrase(said)
        except WeakError as problem:
            if given:
                raise stop(str(problem)) from None
            typer.echo(" ".join([str(problem), *strength(said).advice]))
            continue
        break
    typer.echo(f"It holds. Write these recovery words down; they open the door once:\n\n    {words}\n")


def _demo_room(settings: Settings, host: str, port: int, secure_port: int) -> None:
    """The demo school with eighteen simulated tablets, which come when the room is opened."""
    from firstloop.demo.tablets import SimulatedRoom  # noqa: PLC0415
    from firstloop.services.door import Door  # noqa: PLC0415
    from firstloop.store.door_keys import door_folder  # noqa: PLC0415

    door = Door(settings.data_dir)
    if not door.has_passphrase:
        door.set_passphrase(DEMO_PASSPHRASE)
    typer.echo(f"The passphrase of the demo school is: {DEMO_PASSPHRASE}")
    _close_rooms(settings)  # their tablets ended with the last First Loop
    authority = door_folder(settings.data_dir) / "authority.pem"
    room = SimulatedRoom(settings, f"https://127.0.0.1:{secure_port}", authority)
    serve_room(settings, host, port, secure_port, beside=room)


def _close_rooms(settings: Settings) -> None:
    from firstloop.services import rooms  # noqa: PLC0415
    from firstloop.store.classes import all_classes  # noqa: PLC0415
    from firstloop.store.database import sessions  # noqa: PLC0415
    from firstloop.store.opening import open_records  # noqa: PLC0415
    from firstloop.store.rooms import open_room  # noqa: PLC0415

    engine = open_records(settings.database)
    with sessions(engine)() as session:
        for one in all_classes(session):
            if open_room(session, one.id) is not None:
                rooms.close(session, one.id, datetime.now(UTC))
    engine.dispose()


@app.command()
def recheck(
    data: DataDir = None,
    keep: Annotated[
        bool, typer.Option(help="Let the new results hold from now on; earlier ones are kept beside them.")
    ] = False,
    workers: Annotated[int, typer.Option(min=1, help="Processes to judge in.")] = PROCESSORS,
) -> None:
    """Judge stored ink again with the present checker and show what would change."""
    from firstloop.core.check.letter import CHECKER_VERSION  # noqa: PLC0415
    from firstloop.services.recheck import recheck as look_again  # noqa: PLC0415
    from firstloop.store.database import sessions  # noqa: PLC0415
    from firstloop.store.errors import RecordsError  # noqa: PLC0415
    from firstloop.store.opening import open_records  # noqa: PLC0415

    settings = _settings(data)
    if not settings.database.is_file():
        raise stop(f"There are no records in {settings.data_dir}.")
    try:
        engine = open_records(settings.database)
    except RecordsError as problem:
        raise stop(str(problem)) from None
    with sessions(engine)() as session, progress_of("Judging again") as progress:
        found = look_again(session, keep, workers, progress)
    engine.dispose()
    show(recheck_table(found))
    was = ", ".join(f"{count} times by checker {name}" for name, count in sorted(found.checkers.items()))
    typer.echo(
        f"{found.attempts} attempts and {found.words} words ({was}); "
        f"{found.changed} judged otherwise by checker {CHECKER_VERSION}."
    )
    typer.echo(
        "The new results hold from now on." if keep else "Nothing was changed; --keep makes them hold."
    )


@app.command()
def backup(
    file: Annotated[Path, typer.Argument(help="File to write.")],
    data: DataDir = None,
    encrypt: Annotated[bool, typer.Option("--encrypt", help="Close it with a passphrase (age).")] = False,
) -> None:
    """Write everything in the records to one file."""
    import sqlite3  # noqa: PLC0415

    from firstloop.formats.sealed import SealedError  # noqa: PLC0415
    from firstloop.services.backups import sealed_backup  # noqa: PLC0415
    from firstloop.store.backup import backup as write_backup  # noqa: PLC0415

    settings = _settings(data)
    if not settings.database.is_file():
        raise stop(f"There are no records in {settings.data_dir}.")
    try:
        at = datetime.now(UTC)
        if encrypt:
            said = typer.prompt("Passphrase", hide_input=True, confirmation_prompt=True)
            made = sealed_backup(settings.database, file, said, at)
        else:
            made = write_backup(settings.database, file, at)
    except SealedError as problem:
        raise stop(str(problem)) from None
    except OSError as problem:
        raise stop(f"{problem.filename or file}: {problem.strerror}") from None
    except sqlite3.DatabaseError as problem:
        raise stop(f"The records in {settings.data_dir} cannot be read ({problem}).") from None
    typer.echo(f"{file}: {_counted(made)}.")


@app.command()
def restore(
    file: Annotated[Path, typer.Argument(help="A file that `first-loop backup` or the screen wrote.")],
    data: DataDir = None,
    yes: Annotated[bool, typer.Option("--yes", help="Do not ask.")] = False,
) -> None:
    """Check a backup, then put it in place of the records; what was there is kept in a file beside."""
    from firstloop.formats.sealed import SealedError  # noqa: PLC0415
    from firstloop.store import backup as backups  # noqa: PLC0415
    from firstloop.store.places import backups_folder, clear_left_over  # noqa: PLC0415

    settings = _settings(data)
    with _alone_with(settings.data_dir):
        clear_left_over(settings.data_dir)
        try:
            with _opened(file) as whole, backups.checked(whole, settings.data_dir) as found:
                typer.echo(f"{file} is whole: {_counted(found.contents)}.")
                if not yes:
                    typer.confirm(f"Put it in place of the records in {settings.data_dir}?", abort=True)
                folder = backups_folder(settings.data_dir)
                aside = backups.replace(found, settings.database, folder, datetime.now(UTC))
        except (backups.BackupError, backups.NoRoomError, SealedError) as problem:
            raise stop(f"{file}: {problem}") from None
    typer.echo(f"Restored. What was there before is in {aside}.")


@contextmanager
def _opened(file: Path) -> Iterator[IO[bytes] | Path]:
    """A backup to be read; one that is closed is opened with its passphrase."""
    from tempfile import TemporaryFile  # noqa: PLC0415

    from firstloop.formats.sealed import is_sealed, unseal  # noqa: PLC0415

    if not file.is_file():
        yield file
        return
    with file.open("rb") as closed, TemporaryFile() as plain:
        if not is_sealed(closed):
            yield file
            return
        unseal(closed, plain, typer.prompt("Passphrase", hide_input=True))
        yield plain


def _counted(contents: Contents) -> str:
    return (
        f"{contents.classes} classes, {contents.children} children, {contents.attempts} letters written, "
        f"made {contents.made_at:%Y-%m-%d %H:%M} UTC"
    )


def recheck_table(found: Recheck) -> Table:
    """What the present checker says otherwise: verdicts first, then codes."""
    from rich.table import Table  # noqa: PLC0415

    table = Table("what", "before", "now", "times")
    for (before, now), count in found.verdicts.most_common():
        table.add_row("verdict", before, now, str(count))
    for code in sorted(set(found.gained) | set(found.lost)):
        for count, before, now in ((found.gained[code], "-", "told"), (found.lost[code], "told", "-")):
            if count:
                table.add_row(code, before, now, str(count))
    return table
