"""Sheets of paper: ready-made ones, how one looks, kept ones, printing, and one without any records."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import Response
from pydantic import Field, StringConstraints, WrapValidator

from firstloop.api.deps import Db, Now, Today
from firstloop.api.given import Given, LetterChar, RecordId, StyleDoc
from firstloop.api.routers import resource
from firstloop.api.server.errors import BAD_FILE, CONFLICT, NOT_FOUND
from firstloop.core.letterforms.document import style_from
from firstloop.core.sheets.marks import CODE_LENGTH, CODE_LETTERS
from firstloop.core.sheets.scene import Sheet
from firstloop.core.sheets.wish import SheetWish
from firstloop.formats.sheet_json import FILE_MOST, NAME_LONGEST, NamedSheet, read_wish
from firstloop.formats.sheet_layout import write_layout
from firstloop.formats.sheet_pdf import page_png, sheet_pdf
from firstloop.services import child_sheets, class_sheets, kept_sheets, printed_sheets, sheets
from firstloop.services.child_sheets import ChildSheet
from firstloop.services.class_sheets import NamedWish, ReadySheet, SheetPreview, WantedFor
from firstloop.services.kept_sheets import KeptView
from firstloop.services.printed_sheets import COPIES_MOST, CopyWish, PrintedView

router = resource("sheets")
PDF = {"content": {"application/pdf": {}}, "description": "PDF, to the millimetre."}
PNG = {"content": {"image/png": {}}, "description": "PNG, 150 dots to the inch."}
FILE = {"content": {"application/json": {}}, "description": "The sheet as a file."}
SheetCode = Annotated[
    str, StringConstraints(pattern=f"^[{CODE_LETTERS}]{{{CODE_LENGTH}}}$", min_length=CODE_LENGTH)
]
CopyNumber = Annotated[int, Field(ge=1, le=COPIES_MOST)]
WishDoc = Annotated[SheetWish, WrapValidator(lambda given, _: read_wish(given))]
_Text = Annotated[str, Field(min_length=1, max_length=120)]
_TEXTS_MOST = 60


class WishIn(Given):
    """A sheet to be looked at; ``child`` is the name that stands on it."""

    wish: WishDoc
    child: str = Field(default="", max_length=40)


class PictureIn(Given):
    """A page of a sheet, counted from 1."""

    wish: WishDoc
    page: int = Field(default=1, ge=1, le=60)


class NamedWishIn(Given):
    """A sheet to be kept under a name."""

    name: str = Field(min_length=1, max_length=NAME_LONGEST)
    wish: WishDoc


class WantedIn(Given):
    """What a sheet is wanted for."""

    letters: list[LetterChar] = Field(default=[], max_length=_TEXTS_MOST)
    words: list[_Text] = Field(default=[], max_length=_TEXTS_MOST)
    recall: list[LetterChar] = Field(default=[], max_length=_TEXTS_MOST)
    line: str = Field(default="", max_length=200)
    dictation_id: RecordId | None = None


class SheetFileIn(Given):
    """The text of a sheet's file."""

    text: str = Field(min_length=1, max_length=FILE_MOST)


class EachIn(Given):
    """Page, lines and options of every child's sheet; as the class has them without it."""

    base: WishDoc | None = None


class CopyIn(Given):
    """A copy to be printed, for a child or for anybody."""

    child_id: RecordId | None = None
    wish: WishDoc


class PrintIn(Given):
    """Copies of a sheet to be printed together."""

    name: str = Field(min_length=1, max_length=NAME_LONGEST)
    copies: list[CopyIn] = Field(min_length=1, max_length=COPIES_MOST)


class BackIn(Given):
    """Whether a copy came back."""

    back: bool


class PlainSheetIn(Given):
    """A sheet without any records, as the command ``first-loop sheet`` has it."""

    letters: list[_Text] = Field(default=[], max_length=_TEXTS_MOST)
    words: list[_Text] = Field(default=[], max_length=_TEXTS_MOST)
    line: str = Field(default="", max_length=200)
    rows: int = Field(default=1, ge=1, le=60)
    pattern: str = Field(default="model trace trace finish alone*", min_length=1, max_length=400)
    ruling: str = Field(default="four-lines", max_length=30)
    xh_mm: float = Field(default=10.0, allow_inf_nan=False)
    page: str = Field(default="a4", max_length=10)
    left_hand: bool = False
    style: StyleDoc | None = None


@dataclass(frozen=True)
class LaidOut:
    """Where everything on a sheet is, as in the layout file."""

    format: str
    sheet: str
    pages: list[dict[str, Any]]


def _plain(given: PlainSheetIn) -> Sheet:
    style = style_from({} if given.style is None else given.style.model_dump())
    values = given.model_dump(exclude={"style"})
    return sheets.lay_out(sheets.Wanted(**values), style)


@router.post("/sheet/layout", responses=BAD_FILE)
def lay_sheet_out(given: PlainSheetIn) -> LaidOut:
    """Where everything on a sheet is that needs no records."""
    return LaidOut(**write_layout(_plain(given)))


@router.post("/sheet/pdf", response_class=Response, responses={200: PDF, **BAD_FILE})
def draw_sheet(given: PlainSheetIn) -> Response:
    """A sheet that needs no records, as PDF."""
    return Response(sheet_pdf(_plain(given).pages, "First Loop"), media_type="application/pdf")


@router.post("/sheet/png", response_class=Response, responses={200: PNG, **BAD_FILE})
def draw_sheet_png(given: PlainSheetIn) -> Response:
    """Its first page as a picture."""
    return Response(page_png(_plain(given).pages[0]), media_type="image/png")


@router.get("/classes/{class_id}/sheets/ready", responses=NOT_FOUND)
def list_ready_sheets(session: Db, on: Today, class_id: RecordId) -> list[ReadySheet]:
    """The ready-made sheets with what each holds for this class today."""
    return class_sheets.ready_sheets(session, class_id, on)


@router.post("/classes/{class_id}/sheets/for", responses={**NOT_FOUND, **BAD_FILE})
def make_sheet_for(session: Db, on: Today, class_id: RecordId, given: WantedIn) -> NamedWish:
    """A sheet for letters, words, a line or a dictation."""
    return class_sheets.sheet_for(session, class_id, WantedFor(**given.model_dump()), on)


@router.post("/classes/{class_id}/sheets/preview", responses={**NOT_FOUND, **BAD_FILE})
def preview_sheet(session: Db, on: Today, class_id: RecordId, given: WishIn) -> SheetPreview:
    """How a sheet looks in the style of a class, its rows in words, and what fits."""
    return class_sheets.preview(session, class_id, given.wish, on, given.child)


@router.post(
    "/classes/{class_id}/sheets/picture",
    response_class=Response,
    responses={200: PNG, **NOT_FOUND, **BAD_FILE},
)
def picture_of_sheet(session: Db, on: Today, class_id: RecordId, given: PictureIn) -> Response:
    """A page of a sheet as a picture."""
    picture = class_sheets.picture(session, class_id, given.wish, given.page, on)
    return Response(picture, media_type="image/png")


@router.post("/classes/{class_id}/sheets/each", responses={**NOT_FOUND, **BAD_FILE})
def make_each_sheet(session: Db, on: Today, class_id: RecordId, given: EachIn) -> list[ChildSheet]:
    """A sheet for every child, with what is on it and why, in order of name."""
    return child_sheets.each(session, class_id, given.base, on)


@router.get("/children/{child_id}/sheet", responses={**NOT_FOUND, **BAD_FILE})
def make_child_sheet(session: Db, on: Today, child_id: RecordId) -> ChildSheet:
    """A sheet for one child, of what it needs next."""
    return child_sheets.one_of(session, child_id, on)


@router.get("/classes/{class_id}/sheets", responses=NOT_FOUND)
def list_kept_sheets(session: Db, class_id: RecordId) -> list[KeptView]:
    """The sheets that a class keeps, by name."""
    return kept_sheets.every(session, class_id)


@router.post("/classes/{class_id}/sheets", status_code=201, responses={**NOT_FOUND, **BAD_FILE})
def keep_sheet(session: Db, at: Now, class_id: RecordId, given: NamedWishIn) -> KeptView:
    """Keep a sheet under a name."""
    return kept_sheets.keep(session, class_id, NamedSheet(given.name, given.wish), at)


@router.post("/classes/{class_id}/sheets/file", status_code=201, responses={**NOT_FOUND, **BAD_FILE})
def take_sheet_in(session: Db, at: Now, class_id: RecordId, given: SheetFileIn) -> KeptView:
    """Keep a sheet from a file that another class or school has exported."""
    return kept_sheets.take_in(session, class_id, given.text.encode(), at)


@router.get("/sheets/{sheet_id}/file.json", response_class=Response, responses={200: FILE, **NOT_FOUND})
def get_sheet_file(session: Db, sheet_id: RecordId) -> Response:
    """A kept sheet as a file."""
    return Response(kept_sheets.file_of(session, sheet_id), media_type="application/json")


@router.put("/sheets/{sheet_id}", responses={**NOT_FOUND, **BAD_FILE})
def change_sheet(session: Db, at: Now, sheet_id: RecordId, given: NamedWishIn) -> KeptView:
    """Keep a sheet otherwise, or under another name."""
    return kept_sheets.change(session, sheet_id, NamedSheet(given.name, given.wish), at)


@router.delete("/sheets/{sheet_id}", status_code=204, responses=NOT_FOUND)
def drop_sheet(session: Db, at: Now, sheet_id: RecordId) -> None:
    """Put a kept sheet away."""
    kept_sheets.drop(session, sheet_id, at)


@router.post("/sheets/{sheet_id}/back", responses=NOT_FOUND)
def bring_sheet_back(session: Db, sheet_id: RecordId) -> KeptView:
    """Bring a sheet back that was put away."""
    return kept_sheets.bring_back(session, sheet_id)


@router.get("/classes/{class_id}/printed", responses=NOT_FOUND)
def list_printed(session: Db, class_id: RecordId) -> list[PrintedView]:
    """What was printed for a class, latest first."""
    return printed_sheets.every(session, class_id)


@router.post("/classes/{class_id}/printed", status_code=201, responses={**NOT_FOUND, **BAD_FILE, **CONFLICT})
def print_sheet(session: Db, on: Today, at: Now, class_id: RecordId, given: PrintIn) -> PrintedView:
    """Lay copies out to be printed, each with a code of its own."""
    copies = [CopyWish(one.child_id, one.wish) for one in given.copies]
    return printed_sheets.print_copies(session, class_id, given.name, copies, on, at)


@router.get(
    "/printed/{code}/sheet.pdf", response_class=Response, responses={200: PDF, **NOT_FOUND, **CONFLICT}
)
def get_printed_pdf(session: Db, code: SheetCode) -> Response:
    """All copies of a printed sheet in one file."""
    return Response(printed_sheets.pdf(session, code), media_type="application/pdf")


@router.get("/printed/{code}/{number}/layout.json", responses=NOT_FOUND)
def get_printed_layout(session: Db, code: SheetCode, number: CopyNumber) -> LaidOut:
    """Where everything on a copy is."""
    return LaidOut(**printed_sheets.layout(session, code, number))


@router.post("/printed/{code}/again", status_code=201, responses={**NOT_FOUND, **BAD_FILE, **CONFLICT})
def print_again(session: Db, on: Today, at: Now, code: SheetCode) -> PrintedView:
    """Print a sheet once more, with a code of its own."""
    return printed_sheets.again(session, code, on, at)


@router.put("/printed/{code}/{number}/back", responses=NOT_FOUND)
def note_copy_back(session: Db, on: Today, code: SheetCode, number: CopyNumber, given: BackIn) -> PrintedView:
    """Note that a copy came back, or that it did not."""
    return printed_sheets.came_back(session, code, number, on if given.back else None)
