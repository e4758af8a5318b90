"""Letters, words and lines of text in a class's house style."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import StringConstraints

from firstloop.api import models
from firstloop.api.deps import ClassId, Db, style_of
from firstloop.api.errors import NOT_FOUND
from firstloop.api.families import AlphabetKey
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.words import word
from firstloop.formats.inkml import model_ink, write_inkml
from firstloop.formats.moves_json import write_moves
from firstloop.formats.png import model_png
from firstloop.formats.svg import animated_svg, letter_sheet, model_svg
from firstloop.store.rows import letters_before

router = APIRouter(tags=["letters"])
LetterName = Annotated[str, StringConstraints(min_length=1, max_length=9)]
Text = Annotated[str, Query(min_length=1, max_length=60, pattern=r"\S")]
Form = Annotated[Literal["svg", "animated-svg", "png", "inkml", "json"], Query()]
EXPORTS: dict[str, tuple[str, Callable[[Letter], str | bytes]]] = {
    "svg": ("image/svg+xml", model_svg),
    "animated-svg": ("image/svg+xml", animated_svg),
    "png": ("image/png", model_png),
    "inkml": ("application/inkml+xml", lambda model: write_inkml([model_ink(model)])),
    "json": ("application/json", write_moves),
}
ENDINGS = {"svg": "svg", "animated-svg": "svg", "png": "png", "inkml": "inkml", "json": "json"}


def _char(name: str) -> str:
    """A letter by its name in an address, where a full stop would mean something else."""
    return "." if name == "full-stop" else name


@router.get("/letters/{char}", responses=NOT_FOUND)
def get_letter(session: Db, char: LetterName, class_id: ClassId = None) -> models.LetterModelOut:
    """One letter: its strokes in time, its marks, words, family and look-alikes."""
    style = style_of(session, class_id)
    page = models.letter_model(_char(char), style)
    taught = [] if class_id is None else letters_before(session, class_id, page.char)
    return models.from_what_is_taught(page, taught, style)


@router.get("/letters/{char}/slips", responses=NOT_FOUND)
def get_slips(session: Db, char: LetterName, class_id: ClassId = None) -> list[models.ShownSlipOut]:
    """Common ways in which a letter goes wrong, each written by the simulated writer."""
    return models.slips_out(_char(char), style_of(session, class_id))


@router.get("/model", responses=NOT_FOUND)
def get_model(session: Db, text: Text, class_id: ClassId = None) -> models.TextModelOut:
    """A letter, a word or a line in time, joined where the class joins."""
    return models.text_model(text, style_of(session, class_id))


@router.get(
    "/model/file",
    response_class=Response,
    responses={
        200: {
            "content": {kind: {} for kind in dict.fromkeys(media for media, _ in EXPORTS.values())},
            "description": "The file.",
        },
        **NOT_FOUND,
    },
)
def export_model(session: Db, text: Text, form: Form, class_id: ClassId = None) -> Response:
    """A letter or word as a file: still or playing SVG, PNG, InkML of the timed model, JSON of the moves."""
    style = style_of(session, class_id)
    model = letter(text, style) if len(text) == 1 else word(text, style)
    media, write = EXPORTS[form]
    name = f"{'-'.join(re.findall(r'[A-Za-z0-9]+', text)) or 'letter'}.{ENDINGS[form]}"
    headers = {"content-disposition": f'attachment; filename="{name}"'}
    return Response(write(model), media_type=media, headers=headers)


@router.get("/line", responses=NOT_FOUND)
def get_line(
    session: Db, text: Annotated[str, Query(max_length=60)], class_id: ClassId = None
) -> models.LineOut:
    """A line of text drawn in the class's letterforms."""
    return models.line(text, style_of(session, class_id))


@router.get(
    "/letters.svg",
    response_class=Response,
    responses={200: {"content": {"image/svg+xml": {}}, "description": "The sheet."}, **NOT_FOUND},
)
def get_sheet(session: Db, class_id: ClassId = None, alphabet: AlphabetKey = "lower case") -> Response:
    """All letters of an alphabet on one sheet, with stroke numbers and chevrons, for the wall."""
    style = style_of(session, class_id)
    members = [m.char for grouping in models.groupings(style, alphabet) for m in grouping.members]
    return Response(letter_sheet([letter(char, style) for char in members]), media_type="image/svg+xml")
