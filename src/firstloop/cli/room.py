"""Serving tablets of the same network: https with a certificate of this machine, http that shows the way."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager, nullcontext
from datetime import UTC, datetime
from typing import TYPE_CHECKING

import typer

from firstloop.cli.shared import PROCESSORS, loaded_for_good, stop

if TYPE_CHECKING:
    from starlette.types import ASGIApp

    from firstloop.api.settings import Settings

JUDGES = max(1, min(4, PROCESSORS - 1))
_THIS_MACHINE = "127.0.0.1"
_EVERY = "0.0.0.0"  # what --room is for
_LEAVE_S = 3
_TURN_S = 0.001  # an attempt asks the records ten times, and each time it may have to wait for another's turn


def serve_room(
    settings: Settings,
    host: str,
    port: int,
    secure_port: int,
    beside: AbstractContextManager[object] | None = None,
) -> None:
    """Serve until stopped, with `beside` as long as that. A loopback host stands for every address."""
    import sys  # noqa: PLC0415

    with loaded_for_good():
        from dataclasses import replace  # noqa: PLC0415

        import uvicorn  # noqa: PLC0415

        from firstloop.api.app import create_app  # noqa: PLC0415
        from firstloop.api.server.reach import is_loopback, listening_addresses, machine_names  # noqa: PLC0415
        from firstloop.api.server.way_in import way_in  # noqa: PLC0415
        from firstloop.formats.authority import AuthorityError  # noqa: PLC0415
        from firstloop.services.door import machine_certificate  # noqa: PLC0415
        from firstloop.store.door_keys import KeysError, door_folder, write_own  # noqa: PLC0415
        from firstloop.store.errors import RecordsError  # noqa: PLC0415

        reached = listening_addresses(_EVERY if is_loopback(host) else host)
        names = [*reached, *machine_names()]
        try:
            authority, shown = machine_certificate(
                settings.data_dir, [*names, "localhost", _THIS_MACHINE, "::1"], datetime.now(UTC)
            )
            application = create_app(
                replace(settings, judges=JUDGES, listens_on=tuple(names), room=True, secure_port=secure_port)
            )
        except (RecordsError, AuthorityError, KeysError) as problem:
            raise stop(str(problem)) from None
    folder = door_folder(settings.data_dir)
    write_own(folder / "machine.pem", shown.chain)
    write_own(folder / "machine-key.pem", shown.key)
    listen = _EVERY if is_loopback(host) else host
    for name in reached or (_THIS_MACHINE,):
        typer.echo(f"First Loop is ready at https://{f'[{name}]' if ':' in name else name}:{secure_port}")
    typer.echo(f"Tablets find the way at the same addresses: http://...:{port}")
    typer.echo(f"The records are in {settings.data_dir}")
    sys.setswitchinterval(_TURN_S)
    with _on_the_side(way_in(authority, secure_port, names), listen, port), beside or nullcontext():
        uvicorn.run(
            application,
            host=listen,
            port=secure_port,
            log_level="warning",
            server_header=False,
            ssl_certfile=folder / "machine.pem",
            ssl_keyfile=folder / "machine-key.pem",
            timeout_graceful_shutdown=_LEAVE_S,  # tablets hold a line open as long as they are let
        )


@contextmanager
def _on_the_side(application: ASGIApp, host: str, port: int) -> Iterator[None]:
    """Serve something small in a thread of its own."""
    import uvicorn  # noqa: PLC0415

    server = uvicorn.Server(
        uvicorn.Config(
            application, host=host, port=port, log_level="warning", lifespan="off", server_header=False
        )
    )
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    try:
        yield
    finally:
        server.should_exit = True
        thread.join(_LEAVE_S)
