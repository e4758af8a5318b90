"""House styles for the wire: every choice drawn on the letters themselves, before anything is kept."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from pydantic import BaseModel, Field

from firstloop.api.families import MovedOut, moved_out
from firstloop.api.models import LetterDrawing, LineOut, drawing, line
from firstloop.api.schemas import Given, StyleDoc
from firstloop.core.families import BY_MOVEMENT, board
from firstloop.core.families.board import Column
from firstloop.core.letterforms.alphabets import ALPHABETS, plain, shared_by
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.parts import MEASURES
from firstloop.core.letterforms.style import HouseStyle


class OptionOut(BaseModel):
    """One form of a letter, drawn."""

    value: str
    words: str
    drawing: LetterDrawing
    chosen: bool


class ChoiceOut(BaseModel):
    """A question that a school answers once, with its answers drawn in the style at hand."""

    key: str
    letters: str
    question: str
    options: list[OptionOut]


class MeasureOut(BaseModel):
    """A measure of one letter: its value, its limits, and which letters share the part."""

    key: str
    words: str
    value: float
    usual: float
    low: float
    high: float
    shared_by: list[str]


class StyleLookIn(Given):
    """A style to be looked at, and the one it is compared with."""

    style: StyleDoc
    against: StyleDoc | None = None
    text: str = Field(default="a quick brown fox", max_length=60)
    letter: str = Field(default="", max_length=1)


class StyleLookOut(BaseModel):
    """A style on the letters: a line of text, every choice, and what changes against another style.

    ``before`` is the same line in the other style; ``changed`` the letters that look different.
    """

    line: LineOut
    before: LineOut | None
    choices: list[ChoiceOut]
    letters: list[LetterDrawing]
    changed: list[str]
    moved: list[MovedOut]
    measures: list[MeasureOut]


class StyleVersionOut(BaseModel):
    """A version of a style that is kept."""

    id: int
    name: str
    version: int
    classes: list[str]
    style: StyleDoc


def to_style(given: StyleDoc) -> HouseStyle:
    """The style for the core.

    Raises
    ------
    StyleError
    """
    return style_from(given.model_dump())


def look(given: StyleLookIn) -> StyleLookOut:
    """Draw a style.

    Raises
    ------
    StyleError, UnknownLetterError
    """
    style = to_style(given.style)
    other = to_style(given.against) if given.against else None
    every = [char for key in ("lower case", "capitals", "digits") for char in ALPHABETS[key]]
    return StyleLookOut(
        line=line(given.text, style),
        before=line(given.text, other) if other else None,
        choices=_choices(style),
        letters=[drawing(letter(char, style)) for char in ALPHABETS["lower case"]],
        changed=[c for c in every if other and not _same(letter(c, style), letter(c, other))],
        moved=moved_out(_columns(other), _columns(style)) if other else [],
        measures=_measures(given.letter, style) if given.letter else [],
    )


def _choices(style: HouseStyle) -> list[ChoiceOut]:
    out = []
    for choice in CHOICES.values():
        if choice.joined_only and not style.is_joined:
            continue
        char = choice.letters[0]
        options: list[OptionOut] = []
        for value, words in choice.options.items():
            drawn = drawing(letter(char, style.choosing(choice.key, value)))
            if any(drawn.paths == one.drawing.paths for one in options):
                continue  # it makes no difference in this style
            chosen = style.pick(choice.key) == value
            options.append(OptionOut(value=value, words=words, drawing=drawn, chosen=chosen))
        if len(options) < 2:
            continue
        out.append(
            ChoiceOut(key=choice.key, letters=choice.letters, question=choice.question, options=options)
        )
    return out


def _measures(char: str, style: HouseStyle) -> list[MeasureOut]:
    parts = style.parts(char)
    out = []
    for key, measure in MEASURES.items():
        users = shared_by(key, style)
        if char in users:
            value = float(getattr(parts, key))
            out.append(
                MeasureOut(
                    key=key,
                    words=measure.words,
                    value=value,
                    usual=measure.usual,
                    low=measure.low,
                    high=measure.high,
                    shared_by=[one for one in users if one != char],
                )
            )
    return out


@lru_cache(maxsize=32)
def _columns(style: HouseStyle) -> tuple[Column, ...]:
    letters = [plain(char, style) for char in ALPHABETS["lower case"]]
    return board.arranged(letters, board.from_scheme(BY_MOVEMENT), BY_MOVEMENT, style)


def _same(one: Letter, other: Letter) -> bool:
    """Whether two letters are made of the same curves."""
    if one.kinds != other.kinds:
        return False
    return all(
        np.array_equal(a.path.cubics, b.path.cubics)
        for before, after in zip(one.strokes, other.strokes, strict=True)
        for a, b in zip(before.moves, after.moves, strict=True)
    )
