"""The class's own words for the movement of a letter, in place of the generated ones."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from firstloop.core.letterforms.library import letter
from firstloop.core.patter import checked_words
from firstloop.store import boards as store
from firstloop.store.styles import style_of_class


@dataclass(frozen=True)
class OwnWordsView:
    """The class's own phrases of one letter."""

    letter: str
    phrases: list[str]


def every(session: Session, class_id: int) -> list[OwnWordsView]:
    """Every letter for which the class has words of its own.

    Raises
    ------
    NotFoundError
    """
    style_of_class(session, class_id)
    own = store.own_words(session, class_id)
    return [OwnWordsView(one, own[one]) for one in sorted(own)]


def keep(session: Session, class_id: int, char: str, phrases: list[str]) -> OwnWordsView:
    """Keep the class's own words for a letter; none means the generated ones again.

    Raises
    ------
    NotFoundError, UnknownLetterError
    WordsError
        If there are not as many phrases as its moves need.
    """
    model = letter(char, style_of_class(session, class_id))
    checked = checked_words(model, phrases) if phrases else []
    store.keep_words(session, class_id, char, checked)
    session.commit()
    return OwnWordsView(char, checked)
