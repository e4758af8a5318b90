"""Rules of families made by pointing: the moves of a letter, and what a rule would do before it is used."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from firstloop.core.families import SCHEMES, board
from firstloop.core.families.board import Arrangement
from firstloop.core.families.rules import rule_word
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.model import SvgPen
from firstloop.services.families import BoardPlace, present
from firstloop.services.letters import LetterDrawing, drawing
from firstloop.store.styles import style_of_class
from firstloop.text import say


@dataclass(frozen=True)
class MoveWord:
    """A move of a letter as a rule names it, with its path (SVG, hundredths of the middle band)."""

    word: str
    path: str
    stroke: int


@dataclass(frozen=True)
class RulePreview:
    """A rule before it is used: it as it is read, the letters it would have, and those that come and go."""

    rule: str
    letters: list[LetterDrawing]
    come: list[str]
    go: list[str]


def moves_of(session: Session, class_id: int | None, char: str) -> list[MoveWord]:
    """The moves of a letter as it is made apart from others, in order.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    model = plain(char, style_of_class(session, class_id))
    pen = SvgPen()
    model.draw(pen)
    return [
        MoveWord(rule_word(move), path, s)
        for s, (stroke, paths) in enumerate(zip(model.strokes, pen.moves, strict=True))
        for move, path in zip(stroke.moves, paths, strict=True)
    ]


def preview(session: Session, place: BoardPlace, key: str | None, rule: str) -> RulePreview:
    """Which letters a rule would have, in a family that is there or in a new one.

    Raises
    ------
    NotFoundError, BoardError, RuleError
    """
    style = style_of_class(session, place.class_id)
    here = present(session, place)
    after = board.with_rule(here, key, rule) if key else board.add(here, say("family.new"), rule)
    changed = key or after.families[0].key
    letters = [plain(char, style) for char in ALPHABETS[place.alphabet]]

    def members(arrangement: Arrangement) -> list[str]:
        columns = board.arranged(letters, arrangement, SCHEMES[place.scheme], style)
        return [one.char for column in columns if column.family.key == changed for one in column.places]

    was, now = members(here), members(after)
    return RulePreview(
        rule=after.family(changed).rule,
        letters=[drawing(letter(char, style)) for char in now],
        come=[char for char in now if char not in was],
        go=[char for char in was if char not in now],
    )
