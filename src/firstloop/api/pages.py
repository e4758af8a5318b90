"""Pages that came back: brought in, read, put right by hand, agreed with, and taken out again."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field, StringConstraints

from firstloop.api.deps import BesideDep, Day, Db, GateDep, JudgeDep, Now, PageReaderDep, SettingsDep
from firstloop.api.given import Given, RecordId
from firstloop.api.routers import resource
from firstloop.api.server.bodies import MB, file_body, read_into
from firstloop.api.server.errors import BAD_FILE, CONFLICT, NOT_FOUND, NOT_NOW, TOO_LARGE
from firstloop.api.server.gate import Gate
from firstloop.api.server.page_reader import PageReader
from firstloop.api.settings import Settings
from firstloop.api.sheets import CopyNumber, SheetCode
from firstloop.core.ruling import X_HEIGHT_MAX_MM, X_HEIGHT_MIN_MM
from firstloop.core.scanning.states import Found
from firstloop.formats.bounds import WordStrokes
from firstloop.formats.pictures import MEGABYTES
from firstloop.services import (
    incoming,
    other_writing,
    page_agreeing,
    page_pile,
    page_reading,
    page_views,
    pages,
    simulated_scanner,
)
from firstloop.services.incoming import Brought
from firstloop.services.other_writing import WritingLine
from firstloop.services.page_views import PageView, Pile
from firstloop.services.pages import Decision
from firstloop.store.errors import ConflictError

router = resource("pages")
JPEG = {"content": {"image/jpeg": {}}, "description": "JPEG, grey."}
PATIENCE_S = 60.0
PAGES_MOST = (MEGABYTES + 1) * MB
PAGES_BODY = file_body(
    "application/octet-stream", "A picture, or several in one file: PDF, PNG, JPEG, HEIC, TIFF."
)
_UNCHANGED = {"Cache-Control": "private, max-age=86400, immutable"}
_PAGES_MOST, _DAYS_MOST = 400, 3650
_Pixel = Annotated[float, Field(ge=-20_000, le=40_000, allow_inf_nan=False)]
_SomeText = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
Corner = Annotated[list[_Pixel], Field(min_length=2, max_length=2)]
Corners = Annotated[list[Corner], Field(min_length=4, max_length=4)]
_NUMBER = r"-?\d{1,5}(\.\d{1,3})?"
CornersText = Annotated[str, Query(pattern=f"^{_NUMBER}(,{_NUMBER}){{7}}$", max_length=120)]


class DecisionIn(Given):
    """What a place is after all; what is left out stays. ``strokes`` were drawn by hand, page millimetres."""

    found: Literal["ink", "crossed-out", "empty"] | None = None
    expected: _SomeText | None = None
    ticked: bool | None = None
    strokes: WordStrokes | None = None


class WhoseIn(Given):
    """Whose page it is."""

    child_id: RecordId


class WrittenOnIn(Given):
    """On which day it was written."""

    day: Annotated[Day, Field(strict=False)]


class PageIdsIn(Given):
    """Pages to be let into the records."""

    page_ids: list[RecordId] = Field(min_length=1, max_length=_PAGES_MOST)


class SheetPageIn(Given):
    """Which page of which copy of a printed sheet it is.

    ``corners_px`` are those of the paper in the picture, clockwise from the paper's own top left; without
    them it lies as it was found.
    """

    sheet: SheetCode
    copy_number: CopyNumber
    page: int = Field(ge=1, le=60)
    corners_px: Corners | None = None


class CornersIn(Given):
    """Where the corners of the paper are in the picture, if a person has said so."""

    corners_px: Corners | None = None


class WritingLineIn(Given):
    """A row of writing: its mid and base line as shares of the flat page's height, and what it says."""

    mid: float = Field(ge=0.0, le=1.0, allow_inf_nan=False)
    base: float = Field(ge=0.0, le=1.0, allow_inf_nan=False)
    text: _SomeText


class WritingIn(Given):
    """What is written where in a picture, by whom, and how far its mid and base lines are apart on paper."""

    child_id: RecordId
    corners_px: Corners
    lines: list[WritingLineIn] = Field(min_length=1, max_length=40)
    mid_to_base_mm: float = Field(ge=X_HEIGHT_MIN_MM / 2, le=4 * X_HEIGHT_MAX_MM, allow_inf_nan=False)


class StoppedIn(Given):
    """Whether reading is to stop."""

    stopped: bool


class PicturesKeptIn(Given):
    """For how many days pictures of pages are kept once the teacher has decided."""

    days: int = Field(ge=0, le=_DAYS_MOST)


class PicturesKept(PicturesKeptIn):
    """For how many days pictures of pages are kept."""


@router.post(
    "/classes/{class_id}/pages",
    status_code=201,
    openapi_extra=PAGES_BODY,
    responses={**NOT_FOUND, **CONFLICT, **TOO_LARGE, **NOT_NOW},
    max_body_size=PAGES_MOST,
)
async def bring_pages_in(
    request: Request,
    settings: SettingsDep,
    gate: GateDep,
    reader: PageReaderDep,
    at: Now,
    class_id: RecordId,
    name: Annotated[str, Query(min_length=1, max_length=200)] = "picture",
) -> Brought:
    """Bring a file with pictures of pages in; they are read one after the other, on the side."""
    return await take_in(request, settings, gate, reader, at, class_id, name)


async def take_in(
    request: Request,
    settings: Settings,
    gate: Gate,
    reader: PageReader,
    at: datetime,
    class_id: int,
    name: str,
) -> Brought:
    """Take in the file that a request brings, for a class."""

    def keep() -> Brought:
        with request.app.state.sessions() as session:
            return incoming.bring_in(session, class_id, name, file, settings.data_dir, at)

    with incoming.coming_in(settings.data_dir) as file:
        await read_into(request, file)
        async with gate.entered():
            brought = await run_in_threadpool(keep)
    reader.wake()
    return brought


@router.post(
    "/classes/{class_id}/pages/simulated", status_code=202, responses={**NOT_FOUND, **CONFLICT, **NOT_NOW}
)
def let_simulated_scanner_send(
    session: Db, settings: SettingsDep, reader: PageReaderDep, class_id: RecordId
) -> None:
    """Let a stand-in for children, a scanner, a copier and a phone bring pages of printed sheets in."""
    if not settings.simulated_pen:
        raise ConflictError("Only the demo school has a simulated scanner.")
    simulated_scanner.ready(session, class_id)
    reader.simulate(class_id)


@router.get("/classes/{class_id}/pages", responses=NOT_FOUND)
def list_pages(session: Db, reader: PageReaderDep, at: Now, class_id: RecordId) -> Pile:
    """What came back to a class: what wants the teacher first."""
    reader.warm_up()
    return page_views.pile(session, class_id, at)


@router.put("/classes/{class_id}/pages/stopped", responses=NOT_FOUND)
def stop_reading(session: Db, reader: PageReaderDep, at: Now, class_id: RecordId, given: StoppedIn) -> Pile:
    """Leave what is still to be read for now, or go on with it."""
    found = page_pile.set_stopped(session, class_id, given.stopped, at)
    reader.wake()
    return found


@router.delete("/brought/{file_id}", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def dismiss_file(session: Db, file_id: RecordId) -> None:
    """Let go of a file that could not be read; pages that were read of it stay."""
    page_pile.dismiss(session, file_id)


@router.post("/agree-with-pages", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def agree_with_pages(session: Db, at: Now, given: PageIdsIn) -> None:
    """Let pages into the records, all of them or none."""
    page_agreeing.agree(session, given.page_ids, at)


@router.post("/pages/{page_id}/out", responses={**NOT_FOUND, **CONFLICT})
def take_page_out(session: Db, page_id: RecordId) -> PageView:
    """Take a page out of the records again; the marks that its letters had are kept with it."""
    page_agreeing.take_out(session, page_id)
    return page_views.get(session, page_id)


@router.get("/pages/{page_id}", responses=NOT_FOUND)
def get_page(session: Db, page_id: RecordId) -> PageView:
    """A page with everything that was found on it."""
    return page_views.get(session, page_id)


@router.get(
    "/pages/{page_id}/straight.jpg", response_class=Response, responses={200: JPEG, **NOT_FOUND, **CONFLICT}
)
def get_straight_page(session: Db, page_id: RecordId) -> Response:
    """A page made straight, 150 dots to the inch."""
    return Response(page_views.straight(session, page_id), media_type="image/jpeg", headers=_UNCHANGED)


@router.get(
    "/pictures/{picture_id}.jpg", response_class=Response, responses={200: JPEG, **NOT_FOUND, **CONFLICT}
)
def get_picture(session: Db, picture_id: RecordId) -> Response:
    """A picture as it came in."""
    return Response(page_views.picture(session, picture_id), media_type="image/jpeg", headers=_UNCHANGED)


@router.put("/pages/{page_id}/entries/{key}", responses={**NOT_FOUND, **BAD_FILE, **CONFLICT})
def decide_about_place(
    session: Db, judge: JudgeDep, page_id: RecordId, key: str, given: DecisionIn
) -> PageView:
    """Put one place of a page right."""
    strokes = None if given.strokes is None else [one.model_dump(exclude_none=True) for one in given.strokes]
    found = None if given.found is None else Found(given.found)
    return pages.decide(session, page_id, key, Decision(found, given.expected, given.ticked, strokes), judge)


@router.post("/pages/{page_id}/undo", responses={**NOT_FOUND, **CONFLICT})
def undo_on_page(session: Db, page_id: RecordId) -> PageView:
    """Take back the last thing that was decided about a place."""
    return pages.undo(session, page_id)


@router.put("/pages/{page_id}/child", responses={**NOT_FOUND, **CONFLICT})
def say_whose_page(session: Db, judge: JudgeDep, page_id: RecordId, given: WhoseIn) -> PageView:
    """Say whose page it is."""
    return pages.give_to(session, page_id, given.child_id, judge)


@router.put("/pages/{page_id}/written-on", responses={**NOT_FOUND, **CONFLICT})
def say_when_written(session: Db, at: Now, page_id: RecordId, given: WrittenOnIn) -> PageView:
    """Say on which day a page was written."""
    return pages.date_it(session, page_id, given.day, at)


@router.put("/pages/{page_id}/sheet", responses={**NOT_FOUND, **CONFLICT, **NOT_NOW})
def say_which_sheet(
    session: Db, settings: SettingsDep, beside: BesideDep, page_id: RecordId, given: SheetPageIn
) -> PageView:
    """Say which page of which sheet it is, and where it lies; it is read once more."""
    printed = page_views.printed_page(session, given.sheet, given.copy_number, given.page)
    if given.corners_px is None:
        to_px = page_views.how_it_lies(session, page_id)
    else:
        wide, tall = printed.layout["pages"][0]["size_mm"]
        to_px = page_reading.lies_so((wide, tall), given.corners_px)

    def read(image: bytes) -> page_reading.TakenPage:
        return beside.run(PATIENCE_S, page_reading.read_as, settings.database, image, printed, to_px)

    named = (given.sheet, given.copy_number, given.page)
    return page_pile.read_again(session, page_id, named, read)


@router.post("/pages/{page_id}/proposal", responses={**NOT_FOUND, **CONFLICT, **NOT_NOW})
def propose_lines(
    session: Db, beside: BesideDep, page_id: RecordId, given: CornersIn
) -> other_writing.ProposalView:
    """Where the paper, its lines and the rows of writing seem to be in a picture that is of no sheet."""
    image = page_views.image_of(session, page_id)
    return beside.run(PATIENCE_S, other_writing.propose_in, image, given.corners_px)


@router.get(
    "/pages/{page_id}/flat.jpg", response_class=Response, responses={200: JPEG, **NOT_FOUND, **CONFLICT}
)
def get_flat_page(session: Db, page_id: RecordId, corners: CornersText) -> Response:
    """The paper between four corners of a picture, made flat."""
    spots = [float(one) for one in corners.split(",")]
    found = other_writing.flat_jpeg(
        page_views.image_of(session, page_id), [*zip(spots[::2], spots[1::2], strict=True)]
    )
    return Response(found, media_type="image/jpeg", headers=_UNCHANGED)


@router.put("/pages/{page_id}/writing", responses={**NOT_FOUND, **BAD_FILE, **CONFLICT, **NOT_NOW})
def say_what_is_written(
    session: Db, settings: SettingsDep, beside: BesideDep, page_id: RecordId, given: WritingIn
) -> PageView:
    """Say where the lines of some writing are and what it says; it is read like a sheet then."""
    lines = [WritingLine(one.mid, one.base, one.text) for one in given.lines]
    asked = other_writing.asked(session, given.child_id, given.corners_px, lines, given.mid_to_base_mm)

    def read(image: bytes) -> page_reading.TakenPage:
        return beside.run(PATIENCE_S, other_writing.read_writing, settings.database, image, asked)

    return page_pile.read_again(session, page_id, None, read)


@router.post("/pages/{page_id}/instead", responses={**NOT_FOUND, **CONFLICT})
def take_page_instead(session: Db, page_id: RecordId) -> PageView:
    """Take a page that came twice in place of the one before."""
    return pages.take_instead(session, page_id)


@router.delete("/pages/{page_id}", status_code=204, responses={**NOT_FOUND, **CONFLICT})
def throw_page_away(session: Db, at: Now, page_id: RecordId) -> None:
    """Throw a page away; it can be brought back for as long as pictures are kept."""
    pages.throw_away(session, page_id, at)


@router.post("/pages/{page_id}/back", responses={**NOT_FOUND, **CONFLICT})
def bring_page_back(session: Db, page_id: RecordId) -> PageView:
    """Bring a page back that was thrown away."""
    return pages.bring_back(session, page_id)


@router.get("/records/pictures")
def get_pictures_kept(session: Db) -> PicturesKept:
    """For how many days pictures of pages are kept once the teacher has decided about them."""
    return PicturesKept(days=page_pile.pictures_days(session))


@router.put("/records/pictures")
def change_pictures_kept(session: Db, at: Now, given: PicturesKeptIn) -> PicturesKept:
    """Keep pictures longer or less long; what is older goes at once."""
    page_pile.keep_pictures(session, given.days)
    page_pile.forget_the_old(session, at)
    return PicturesKept(days=given.days)
