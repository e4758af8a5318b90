"""The school's own order of sounds, typed in sets."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from firstloop.core.families.sounds import read_sounds
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.services.letters import LetterDrawing, drawing
from firstloop.store import boards as store
from firstloop.store.classes import get_class
from firstloop.store.styles import style_of_class

_SCHEME = "by-sound"


@dataclass(frozen=True)
class SoundUnit:
    """A sound as it is written."""

    text: str
    drawing: LetterDrawing


@dataclass(frozen=True)
class SoundSetView:
    """Sounds taught together."""

    number: int
    units: list[SoundUnit]


@dataclass(frozen=True)
class SoundsView:
    """The school's own order of sounds; ``text`` is what was typed."""

    text: str
    sets: list[SoundSetView]
    can_undo: bool


def view(session: Session, class_id: int) -> SoundsView:
    """The class's sound order; empty until one is typed.

    Raises
    ------
    NotFoundError
    """
    style = style_of_class(session, class_id)
    document = store.present(session, class_id, _SCHEME, "all")
    if document is None:
        return SoundsView(text="", sets=[], can_undo=False)
    sets = [
        SoundSetView(one.number, [SoundUnit(unit, _unit(unit, style)) for unit in one.units])
        for one in read_sounds(document["text"])
    ]
    return SoundsView(text=document["text"], sets=sets, can_undo=True)


def _unit(text: str, style: HouseStyle) -> LetterDrawing:
    return drawing(letter(text, style) if len(text) == 1 else word(text, style))


def keep(session: Session, class_id: int, text: str) -> SoundsView:
    """Keep a sound order once it can be read.

    Raises
    ------
    NotFoundError, SoundError
    """
    get_class(session, class_id)
    read_sounds(text)
    store.keep(session, class_id, _SCHEME, "all", {"text": text})
    session.commit()
    return view(session, class_id)
