"""Care of records: how much there is, everything in one file, and back."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from tempfile import NamedTemporaryFile, TemporaryDirectory

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool

from firstloop.api.bodies import file_body, read_into
from firstloop.api.deps import Db, Now, SettingsDep
from firstloop.api.errors import BAD_FILE, TOO_LARGE
from firstloop.api.records import (
    BackupOut,
    CountsOut,
    RestoredOut,
    aside_name,
    backup_out,
    backups_folder,
)
from firstloop.store import backup
from firstloop.store.classes import counts

router = APIRouter(prefix="/records", tags=["records"])
BACKUP_MAX_BYTES = 8_000_000_000
_BODY = file_body("application/octet-stream", "A backup file.")
ZIP_FILE = {"content": {"application/zip": {}}, "description": "A zip file."}


@asynccontextmanager
async def _upload(request: Request) -> AsyncIterator[Path]:
    with NamedTemporaryFile(suffix=".zip") as file:
        await read_into(request, file.file, BACKUP_MAX_BYTES)
        file.flush()
        yield Path(file.name)


@router.get("")
def count_records(session: Db) -> CountsOut:
    """How much there is."""
    return CountsOut(**counts(session))


@router.get("/backup.zip", response_class=Response, responses={200: ZIP_FILE})
def get_backup(settings: SettingsDep, at: Now) -> Response:
    """Everything in the records, in one file."""
    with TemporaryDirectory() as folder:
        target = Path(folder) / "backup.zip"
        backup.backup(settings.database, target, at)
        data = target.read_bytes()
    name = f"first-loop-{at:%Y-%m-%d}.zip"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(data, media_type="application/zip", headers=headers)


@router.post("/restore/check", openapi_extra=_BODY, responses={**BAD_FILE, **TOO_LARGE})
async def check_backup(request: Request) -> BackupOut:
    """What a backup holds, once it has been found whole; nothing is changed."""
    async with _upload(request) as file:
        return backup_out(await run_in_threadpool(backup.check, file))


@router.post("/restore", openapi_extra=_BODY, responses={**BAD_FILE, **TOO_LARGE})
async def restore_backup(request: Request, settings: SettingsDep, at: Now) -> RestoredOut:
    """Put a backup in place of the records, which are kept in a file of their own."""
    async with _upload(request) as file:
        aside = backups_folder(settings.data_dir) / aside_name(at)
        found = await run_in_threadpool(backup.restore, file, settings.database, aside)
    return RestoredOut(now=backup_out(found), aside=str(aside))
