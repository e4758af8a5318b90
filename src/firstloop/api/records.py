"""Care of records: how much there is, everything in one file, and back."""

from __future__ import annotations

from collections.abc import AsyncIterator, Iterator
from contextlib import asynccontextmanager
from datetime import datetime
from tempfile import TemporaryFile
from typing import IO, Annotated
from urllib.parse import unquote

from fastapi import Query, Request, Response
from fastapi.concurrency import contextmanager_in_threadpool, run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from firstloop.api.deps import BesideDep, Db, GateDep, LeftOverDep, Now, SettingsDep
from firstloop.api.given import Given
from firstloop.api.routers import resource
from firstloop.api.server.bodies import BACKUP_MOST, MB, file_body, read_into
from firstloop.api.server.errors import BAD_FILE, CONFLICT, NOT_NOW, TOO_LARGE
from firstloop.formats.sealed import SealedError, is_sealed, unseal
from firstloop.services import audit, records, retention
from firstloop.services.audit import AuditLine
from firstloop.services.backups import sealed_backup
from firstloop.services.door import strength
from firstloop.services.records import Counts, SetAside, TimeZone
from firstloop.services.retention import Retention
from firstloop.store import backup
from firstloop.store.backup import Contents
from firstloop.store.places import backups_folder, work_folder

router = resource("records", "/records")
BACKUP_PATIENCE_S = 3600.0
_BODY = file_body("application/octet-stream", "A backup file.")
AGE_FILE = {"content": {"application/octet-stream": {}}, "description": "A file closed with a passphrase."}
ZIP_FILE = {"content": {"application/zip": {}}, "description": "A zip file."}


class BackupOut(BaseModel):
    """What a backup holds, and when it was made."""

    classes: int
    children: int
    rows: int
    attempts: int
    made_at: datetime


class RestoredOut(BaseModel):
    """What was put in place, and the file in the folder backups that holds what was there before."""

    now: BackupOut
    aside: str


class SealIn(Given):
    """The passphrase that opens the file again; nobody can open it without."""

    passphrase: str = Field(min_length=1, max_length=200)


class RetentionIn(Given):
    """Days after a class is put away; null for ever."""

    days: int | None = Field(ge=30, le=36_500)


class TimeZoneIn(Given):
    """A time zone by its name in the public list: Europe/London."""

    name: str = Field(max_length=60)


def backup_out(contents: Contents) -> BackupOut:
    """What a backup holds, as an answer."""
    return BackupOut.model_validate(contents, from_attributes=True)


@asynccontextmanager
async def _upload(request: Request, settings: SettingsDep) -> AsyncIterator[IO[bytes]]:
    """A body as a file without a name beside the records: it is gone with whoever holds it.

    One that is closed with a passphrase is opened with the one in the header Backup-Passphrase.
    """
    with TemporaryFile(dir=settings.data_dir) as file, TemporaryFile(dir=settings.data_dir) as opened:
        await read_into(request, file)
        file.seek(0)
        if not is_sealed(file):
            yield file
            return
        said = unquote(request.headers.get("backup-passphrase", ""))
        if not said:
            raise SealedError("This backup is closed with a passphrase. Say it, then bring it once more.")
        await run_in_threadpool(unseal, file, opened, said)
        yield opened


@router.get("")
def count_records(session: Db) -> Counts:
    """How much there is."""
    return records.count(session)


@router.post("/backup.age", response_class=Response, responses={200: AGE_FILE, **BAD_FILE})
def make_sealed_backup(
    request: Request, settings: SettingsDep, beside: BesideDep, at: Now, given: SealIn
) -> Response:
    """Everything in the records, in one file that is closed with a passphrase (age)."""
    if not strength(given.passphrase).enough:
        raise SealedError("That passphrase is guessed too easily. Take four or five words.")
    with request.app.state.sessions() as session:
        day = records.today(session, at)
    with work_folder(settings.data_dir) as folder:
        made = folder / "backup.age"
        beside.run(BACKUP_PATIENCE_S, sealed_backup, settings.database, made, given.passphrase, at)
        content = made.read_bytes()
    headers = {"Content-Disposition": f'attachment; filename="first-loop-{day:%Y-%m-%d}.age"'}
    return Response(content, media_type="application/octet-stream", headers=headers)


@router.get("/backup.zip", response_class=Response, responses={200: ZIP_FILE})
def get_backup(request: Request, settings: SettingsDep, beside: BesideDep, at: Now) -> Response:
    """Everything in the records, in one file."""
    with request.app.state.sessions() as session:  # no longer than that: the copy takes its time
        day = records.today(session, at)
    with work_folder(settings.data_dir) as folder:
        made = folder / "backup.zip"
        beside.run(BACKUP_PATIENCE_S, backup.backup, settings.database, made, at)
        file = made.open("rb")  # on systems that let an open file go, it goes with whoever reads it
        size = made.stat().st_size
    name = f"first-loop-{day:%Y-%m-%d}.zip"
    headers = {"Content-Disposition": f'attachment; filename="{name}"', "Content-Length": str(size)}
    return StreamingResponse(_pieces(file), media_type="application/zip", headers=headers)


def _pieces(file: IO[bytes]) -> Iterator[bytes]:
    with file:
        while piece := file.read(MB):
            yield piece


@router.post(
    "/restore/check",
    openapi_extra=_BODY,
    responses={**BAD_FILE, **TOO_LARGE, **NOT_NOW},
    max_body_size=BACKUP_MOST,
)
async def check_backup(request: Request, settings: SettingsDep) -> BackupOut:
    """What a backup holds, once it has been found whole; nothing is changed."""
    async with _upload(request, settings) as file:
        return backup_out(await run_in_threadpool(backup.check, file, settings.data_dir))


@router.post(
    "/restore",
    openapi_extra=_BODY,
    responses={**BAD_FILE, **TOO_LARGE, **NOT_NOW},
    max_body_size=BACKUP_MOST,
)
async def restore_backup(
    request: Request, settings: SettingsDep, gate: GateDep, left_over: LeftOverDep, at: Now
) -> RestoredOut:
    """Put a backup in place of the records, which are kept in a file of their own.

    The file is checked while others go on; whoever comes while the records are replaced is asked to
    come again.
    """
    async with (
        _upload(request, settings) as file,
        contextmanager_in_threadpool(backup.checked(file, settings.data_dir)) as found,
        gate.closed(),
    ):
        folder = backups_folder(settings.data_dir)
        aside = await run_in_threadpool(backup.replace, found, settings.database, folder, at)
        await run_in_threadpool(_begin, request)
    left_over.start()
    return RestoredOut(now=backup_out(found.contents), aside=aside.name)


def _begin(request: Request) -> None:
    with request.app.state.sessions() as session:
        records.begin(session)  # a backup from before schools had a time zone has none


@router.get("/audit")
def list_audit(
    session: Db,
    settings: SettingsDep,
    limit: Annotated[int, Query(ge=1, le=500)] = 100,
    skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
) -> list[AuditLine]:
    """Who opened, changed, took out and erased what, latest first; it is kept for 400 days."""
    return audit.lines(session, settings.data_dir, limit, skip)


@router.get("/kept-after-a-year")
def get_retention(session: Db) -> Retention:
    """For how long children are kept once their class is put away, and which classes that concerns."""
    return retention.present(session)


@router.put("/kept-after-a-year")
def change_retention(session: Db, at: Now, given: RetentionIn) -> Retention:
    """Keep children so long once their class is put away; null for ever. Nobody goes within two weeks."""
    return retention.change(session, given.days, at)


@router.get("/time-zone")
def get_time_zone(session: Db) -> TimeZone:
    """The time zone in which the school's days begin and end, and all that can be chosen."""
    return records.time_zone(session)


@router.put("/time-zone", responses=CONFLICT)
def change_time_zone(session: Db, given: TimeZoneIn) -> TimeZone:
    """Let the school's days begin and end elsewhere; all evidence is worked out again."""
    return records.move(session, given.name)


@router.get("/set-aside")
def list_set_aside(session: Db) -> list[SetAside]:
    """Days of writing that could not be worked out; they count for nothing until they change."""
    return records.set_aside(session)
