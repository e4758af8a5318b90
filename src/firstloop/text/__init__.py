"""Everything that is said of ink, letters and progress: to the teacher, the child and the parent.

The core gives codes and data; here they become sentences, where they are shown and not before. All
words stand in one catalogue a language (``text.english``); the modules beside it only choose an entry
and fill its places. Another language is another catalogue. Labels of screens stay in the screens.
"""

from firstloop.core.message import Message, Value
from firstloop.text.catalogue import Catalogue
from firstloop.text.english import ENGLISH
from firstloop.text.lines import renamed

catalogue: Catalogue = ENGLISH
"""The language in use."""

all_of = catalogue.all_of


def say(key: str, **values: Value) -> str:
    """The sentence of a key, with the class's own names for the lines.

    Raises
    ------
    NoWordsError
    """
    return renamed(catalogue.say(key, **values))


def put(message: Message) -> str:
    """A message in words, with the class's own names for the lines.

    Raises
    ------
    NoWordsError
    """
    return renamed(catalogue.put(message))


__all__ = ["all_of", "catalogue", "put", "say"]
