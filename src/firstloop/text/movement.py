"""The words a teacher says while the pen moves."""

from __future__ import annotations

from firstloop.core.letterforms.model import Letter
from firstloop.core.patter import Phrase, patter
from firstloop.text import say


def sentence(phrase: Phrase) -> str:
    """A phrase as a full sentence."""
    if not phrase.height:
        return say(f"move.{phrase.key}.text")
    height = phrase.height
    return say(f"move.{phrase.key}.text", height=say(f"height.{height}"), at=say(f"at.{height}"))


def short(phrase: Phrase) -> str:
    """A phrase in two to four words, for a child's screen."""
    return say(f"move.{phrase.key}.short")


def in_a_sentence(key: str) -> str:
    """The short form of a phrase as a sentence goes on with it: "straight down"."""
    words = say(f"move.{key}.short")
    return words[0].lower() + words[1:]


def spoken(letter: Letter) -> str:
    """All the words of a letter as one text."""
    return " ".join(sentence(phrase) for phrase in patter(letter))
