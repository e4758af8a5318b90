"""The school's own order of sounds, typed in sets."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.families.sounds import read_sounds
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.core.words.order import unit_sets, words_by_set
from firstloop.formats.word_bank import shipped_bank
from firstloop.services import word_bank
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
    """Sounds taught together; ``words`` of the bank can be made once they are known."""

    number: int
    units: list[SoundUnit]
    words: int


@dataclass(frozen=True)
class SoundsView:
    """An order of sounds, one set a line in ``text``: the school's ``own``, or the one that ships."""

    text: str
    sets: list[SoundSetView]
    own: bool


def view(session: Session, class_id: int) -> SoundsView:
    """The class's sound order, or the one that ships until one is typed.

    Raises
    ------
    NotFoundError
    """
    style = style_of_class(session, class_id)
    text = text_of(session, class_id)
    sets = read_sounds(text)
    counts = words_by_set(word_bank.present(session), [one.units for one in sets])
    views = [
        SoundSetView(one.number, [SoundUnit(unit, _unit(unit, style)) for unit in one.units], words)
        for one, words in zip(sets, counts, strict=True)
    ]
    return SoundsView(text=text, sets=views, own=text != shipped_order())


def text_of(session: Session, class_id: int) -> str:
    """The class's order of sounds as it was typed, or else the one that ships."""
    document = store.present(session, class_id, _SCHEME, "all")
    return shipped_order() if document is None else str(document["text"])


@lru_cache(maxsize=1)
def shipped_order() -> str:
    """The order worked out from the bank that ships: one set a line."""
    sets = unit_sets(shipped_bank(), lambda one, other: are_alike(one, other, DEFAULT_STYLE))
    return "\n".join(" ".join(one) for one in sets)


def _unit(text: str, style: HouseStyle) -> LetterDrawing:
    return drawing(letter(text, style) if len(text) == 1 else word(text.replace("_", "-"), style))


def keep(session: Session, class_id: int, text: str) -> SoundsView:
    """Keep a sound order once it can be read; an empty one means the one that ships.

    Raises
    ------
    NotFoundError, SoundError
    """
    get_class(session, class_id)
    text = text.strip() or shipped_order()
    read_sounds(text)
    store.keep(session, class_id, _SCHEME, "all", {"text": text})
    session.commit()
    return view(session, class_id)
