"""The word bank: searched, added to, corrected, brought in as a list and taken out as one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from fastapi import Path, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field

from firstloop.api.deps import Db, Now
from firstloop.api.given import Given
from firstloop.api.routers import resource
from firstloop.api.server.bodies import file_body
from firstloop.api.server.errors import BAD_FILE, CONFLICT, NOT_FOUND
from firstloop.services import word_bank
from firstloop.services.word_bank import BankPage, ListView, WordOfBank

router = resource("word bank", "/bank")

Text = Annotated[str, Path(min_length=1, max_length=20)]
Job = Annotated[
    str, Query(pattern=r"^[0-9a-z-]{1,40}$", description="By which its progress can be asked for.")
]
JOBS_MOST = 20
_LIST = file_body("text/csv", "Lines of word,units,by_heart; the last two may be missing.")


class WordIn(Given):
    """A word with its units, ``-`` between them; without units those that are proposed."""

    units: str = Field(default="", max_length=60)
    by_heart: bool = False


class UndoneOut(BaseModel):
    """How many words the step was of that was taken back."""

    words: int


@router.get("/words")
def list_bank_words(
    session: Db,
    search: Annotated[str, Query(max_length=20)] = "",
    only_own: bool = False,
    limit: Annotated[int, Query(ge=1, le=500)] = 120,
) -> BankPage:
    """Words of the bank that hold some letters, or, as ``-sh-``, a unit."""
    return word_bank.page(session, search, only_own, limit)


@router.put("/words/{text}", responses={**BAD_FILE})
def keep_word(session: Db, at: Now, text: Text, given: WordIn) -> WordOfBank:
    """Add a word, or correct its units."""
    return word_bank.keep(session, text, given.units, given.by_heart, at)


@router.post("/words/{text}/hidden", status_code=204, responses=NOT_FOUND)
def hide_word(session: Db, at: Now, text: Text) -> None:
    """Leave a word out of everything."""
    word_bank.hide(session, text, at)


@router.post("/words/{text}/shown", responses=NOT_FOUND)
def show_word(session: Db, at: Now, text: Text) -> WordOfBank:
    """Take a hidden word back in."""
    return word_bank.show(session, text, at)


class ProgressOut(BaseModel):
    """How many lines of a list are read."""

    lines: int


def _counting(request: Request, job: str) -> Callable[[int], None]:
    """Keeps how far a list is read, where the progress of its job can be asked for."""
    kept: dict[str, int] = request.app.state.lists_read
    while len(kept) > JOBS_MOST:
        kept.pop(next(iter(kept)))
    return lambda lines: kept.update({job: lines})


@router.post("/list/look", responses=BAD_FILE, openapi_extra=_LIST)
async def look_at_list(request: Request, session: Db, job: Job = "list") -> ListView:
    """What a list of words would change; nothing is changed."""
    raw = await request.body()
    return await run_in_threadpool(word_bank.look_at_list, session, raw, _counting(request, job))


@router.post("/list", responses=BAD_FILE, openapi_extra=_LIST)
async def take_list(request: Request, session: Db, at: Now, job: Job = "list") -> ListView:
    """Bring a list of words in, but for the lines that cannot be read. It is one step to undo."""
    raw = await request.body()
    return await run_in_threadpool(word_bank.take_list, session, raw, at, _counting(request, job))


@router.get("/list/progress")
async def list_progress(request: Request, job: Job = "list") -> ProgressOut:
    """How far the list of a job is read."""
    return ProgressOut(lines=request.app.state.lists_read.get(job, 0))


@router.post("/undo", responses=CONFLICT)
def undo_bank(session: Db) -> UndoneOut:
    """Take the latest step back: a word, or a whole list."""
    return UndoneOut(words=word_bank.undo(session))


@router.get("/list.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def export_bank(session: Db) -> Response:
    """The bank as CSV."""
    headers = {"Content-Disposition": 'attachment; filename="word-bank.csv"'}
    return Response(word_bank.export(session), media_type="text/csv; charset=utf-8", headers=headers)
