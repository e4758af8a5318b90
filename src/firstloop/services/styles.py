"""House styles: every choice drawn on the letters themselves before anything is kept; keeping, following."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Any

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.families import BY_MOVEMENT, board
from firstloop.core.families.board import Column
from firstloop.core.letterforms.alphabets import ALPHABETS, plain, shared_by
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.parts import MEASURES
from firstloop.core.letterforms.style import HouseStyle
from firstloop.services.classes import ClassView, StyleView, class_view, style_fields
from firstloop.services.families import MovedLetter, moved_letters
from firstloop.services.letters import LetterDrawing, LineDrawing, drawing, line
from firstloop.store import styles as store
from firstloop.store.classes import all_classes, get_class
from firstloop.text import say
from firstloop.text.families import family_names


@dataclass(frozen=True)
class OptionView:
    """One form of a letter, drawn."""

    value: str
    words: str
    drawing: LetterDrawing
    chosen: bool


@dataclass(frozen=True)
class ChoiceView:
    """A question that a school answers once, with its answers drawn in the style at hand."""

    key: str
    letters: str
    question: str
    options: list[OptionView]


@dataclass(frozen=True)
class MeasureView:
    """A measure of one letter: its value, its limits, and which letters share the part."""

    key: str
    words: str
    value: float
    usual: float
    low: float
    high: float
    shared_by: list[str]


@dataclass(frozen=True)
class StyleLook:
    """A style on the letters: a line of text, every choice, and what changes against another style.

    ``before`` is the same line in the other style; ``changed`` the letters that look different.
    """

    line: LineDrawing
    before: LineDrawing | None
    choices: list[ChoiceView]
    letters: list[LetterDrawing]
    changed: list[str]
    moved: list[MovedLetter]
    measures: list[MeasureView]


@dataclass(frozen=True)
class StyleVersion:
    """A version of a style that is kept."""

    id: int
    name: str
    version: int
    classes: list[str]
    style: StyleView


def look(document: dict[str, Any], against: dict[str, Any] | None, text: str, char: str) -> StyleLook:
    """Draw a style.

    Parameters
    ----------
    document, against : dict
        The style and the one it is compared with, as plain values.
    text : str
        A line to be drawn in both.
    char : str
        The letter whose measures are shown; empty for none.

    Raises
    ------
    StyleError, UnknownLetterError
    """
    style = style_from(document)
    other = style_from(against) if against else None
    every = [one for key in ("lower case", "capitals", "digits") for one in ALPHABETS[key]]
    return StyleLook(
        line=line(text, style),
        before=line(text, other) if other else None,
        choices=_choices(style),
        letters=[drawing(letter(one, style)) for one in ALPHABETS["lower case"]],
        changed=[c for c in every if other and not _same(letter(c, style), letter(c, other))],
        moved=moved_letters(_columns(other), _columns(style)) if other else [],
        measures=_measures(char, style) if char else [],
    )


def kept(session: Session) -> list[StyleVersion]:
    """The latest version of every style, and which classes follow it."""
    followers: dict[int, list[str]] = {}
    for one in all_classes(session):
        followers.setdefault(one.style_id, []).append(one.name)
    return [
        StyleVersion(
            id=row.id,
            name=row.name,
            version=row.version,
            classes=followers.get(row.id, []),
            style=StyleView(**style_fields(store.read(row))),
        )
        for row in store.latest_styles(session)
    ]


def keep(session: Session, class_id: int, document: dict[str, Any], at: datetime) -> ClassView:
    """Let a class follow a style: the next version of the present one, or a new one by another name.

    Rows that were written keep the version they were written in.

    Raises
    ------
    NotFoundError, StyleError
    """
    school_class = get_class(session, class_id)
    store.keep_style(session, school_class, style_from(document), at)
    session.commit()
    return class_view(school_class)


def of_class(session: Session, class_id: int | None) -> HouseStyle:
    """The style a class follows; the default style without a class.

    Raises
    ------
    NotFoundError
    """
    return store.style_of_class(session, class_id)


def follow(session: Session, class_id: int, style_id: int) -> ClassView:
    """Let a class follow a version that is kept already.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    store.follow(session, school_class, style_id)
    session.commit()
    return class_view(school_class)


def _choices(style: HouseStyle) -> list[ChoiceView]:
    out = []
    for choice in CHOICES.values():
        if choice.joined_only and not style.is_joined:
            continue
        char = choice.letters[0]
        options: list[OptionView] = []
        for value in choice.options:
            drawn = drawing(letter(char, style.choosing(choice.key, value)))
            if any(drawn.paths == one.drawing.paths for one in options):
                continue  # it makes no difference in this style
            chosen = style.pick(choice.key) == value
            options.append(OptionView(value, say(f"choice.{choice.key}.{value}"), drawn, chosen))
        if len(options) < 2:
            continue
        out.append(
            ChoiceView(
                key=choice.key, letters=choice.letters, question=say(f"choice.{choice.key}"), options=options
            )
        )
    return out


def _measures(char: str, style: HouseStyle) -> list[MeasureView]:
    parts = style.parts(char)
    out = []
    for key, measure in MEASURES.items():
        users = shared_by(key, style)
        if char in users:
            value = float(getattr(parts, key))
            out.append(
                MeasureView(
                    key=key,
                    words=say(f"measure.{key}"),
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
    return board.arranged(
        letters, board.from_scheme(BY_MOVEMENT, family_names(BY_MOVEMENT)), BY_MOVEMENT, style
    )


def _same(one: Letter, other: Letter) -> bool:
    """Whether two letters are made of the same curves."""
    if one.kinds != other.kinds:
        return False
    return all(
        np.array_equal(a.path.cubics, b.path.cubics)
        for before, after in zip(one.strokes, other.strokes, strict=True)
        for a, b in zip(before.moves, after.moves, strict=True)
    )
