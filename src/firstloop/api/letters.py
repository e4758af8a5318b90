"""Letters, words and lines of text in a class's house style."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import Query, Response
from pydantic import StringConstraints

from firstloop.api.deps import ClassId, Db
from firstloop.api.given import AlphabetKey
from firstloop.api.routers import resource
from firstloop.api.server.errors import BAD_RULING, NOT_FOUND
from firstloop.core.letterforms.library import letter, letter_or_word
from firstloop.core.letterforms.model import Letter
from firstloop.core.sheets.wall import wall
from firstloop.formats.inkml import model_ink, write_inkml
from firstloop.formats.moves_json import write_moves
from firstloop.formats.png import model_png
from firstloop.formats.sheet_svg import page_svg
from firstloop.formats.svg import animated_svg, model_svg
from firstloop.services import classes, letters, styles
from firstloop.services.letters import LetterModel, LineDrawing, SlipDrawing, TextModel

router = resource("letters")
LetterName = Annotated[str, StringConstraints(min_length=1, max_length=9)]
Text = Annotated[str, Query(min_length=1, max_length=60, pattern=r"\S")]
RulingKey = Annotated[str | None, Query(max_length=30, description="The class's own without one.")]
Form = Annotated[Literal["svg", "animated-svg", "png", "inkml", "json"], Query()]
EXPORTS: dict[str, tuple[str, Callable[[Letter, str], str | bytes]]] = {
    "svg": ("image/svg+xml", model_svg),
    "animated-svg": ("image/svg+xml", animated_svg),
    "png": ("image/png", model_png),
    "inkml": ("application/inkml+xml", lambda model, _: write_inkml([model_ink(model)])),
    "json": ("application/json", lambda model, _: write_moves(model)),
}
ENDINGS = {"svg": "svg", "animated-svg": "svg", "png": "png", "inkml": "inkml", "json": "json"}


def _char(name: str) -> str:
    """A letter by its name in an address, where a full stop would mean something else."""
    return "." if name == "full-stop" else name


@router.get("/letters/{char}", responses=NOT_FOUND)
def get_letter(session: Db, char: LetterName, class_id: ClassId = None) -> LetterModel:
    """One letter: its strokes in time, its marks, words, family and look-alikes."""
    return letters.page(session, _char(char), class_id)


@router.get("/letters/{char}/slips", responses=NOT_FOUND)
def get_slips(session: Db, char: LetterName, class_id: ClassId = None) -> list[SlipDrawing]:
    """Common ways in which a letter goes wrong, each written by the simulated writer."""
    return letters.slip_drawings(_char(char), styles.of_class(session, class_id))


@router.get("/model", responses=NOT_FOUND)
def get_model(session: Db, text: Text, class_id: ClassId = None) -> TextModel:
    """A letter, a word or a line in time, joined where the class joins."""
    return letters.text_model(text, styles.of_class(session, class_id))


@router.get(
    "/model/file",
    response_class=Response,
    responses={
        200: {
            "content": {kind: {} for kind in dict.fromkeys(media for media, _ in EXPORTS.values())},
            "description": "The file.",
        },
        **NOT_FOUND,
        **BAD_RULING,
    },
)
def export_model(
    session: Db, text: Text, form: Form, class_id: ClassId = None, ruling: RulingKey = None
) -> Response:
    """A letter or word as a file: still or playing SVG, PNG, InkML of the timed model, JSON of the moves.

    Pictures stand on the class's ruling unless another is asked for.
    """
    style = styles.of_class(session, class_id)
    model = letter_or_word(text, style)
    media, write = EXPORTS[form]
    name = f"{'-'.join(re.findall(r'[A-Za-z0-9]+', text)) or 'letter'}.{ENDINGS[form]}"
    headers = {"content-disposition": f'attachment; filename="{name}"'}
    return Response(
        write(model, ruling or classes.ruling_of(session, class_id)), media_type=media, headers=headers
    )


@router.get("/line", responses=NOT_FOUND)
def get_line(
    session: Db, text: Annotated[str, Query(max_length=60)], class_id: ClassId = None
) -> LineDrawing:
    """A line of text drawn in the class's letterforms."""
    return letters.line(text, styles.of_class(session, class_id))


@router.get(
    "/letters.svg",
    response_class=Response,
    responses={
        200: {"content": {"image/svg+xml": {}}, "description": "The sheet."},
        **NOT_FOUND,
        **BAD_RULING,
    },
)
def get_sheet(
    session: Db,
    class_id: ClassId = None,
    alphabet: AlphabetKey = "lower case",
    ruling: RulingKey = None,
) -> Response:
    """All letters of an alphabet on one sheet for the wall, with an arrow beside every move."""
    style = styles.of_class(session, class_id)
    members = [m.char for grouping in letters.groupings(style, alphabet) for m in grouping.members]
    models = [letter(char, style) for char in members]
    page = wall(models, ruling or classes.ruling_of(session, class_id))
    return Response(page_svg(page, alphabet), media_type="image/svg+xml")
