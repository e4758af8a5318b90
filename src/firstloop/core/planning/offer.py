"""What a lesson may ask children to write: nothing but what is taught by its day."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.words.bank import Bank
from firstloop.core.words.find import Conditions, find
from firstloop.core.words.joins import JoinKind
from firstloop.core.words.sentences import Taught, within_reach

WORDS_MOST = 12
_LETTERS_MOST = 6  # of a word


def can_write(text: str, known: Iterable[str]) -> bool:
    """Whether all letters of a text are known, in either of their heights."""
    letters = {char.lower() for char in known}
    return all(char.lower() in letters for char in text if char.isalpha())


def words_for(
    bank: Bank, known: Sequence[str], new: Sequence[str], due: Iterable[str], style: HouseStyle
) -> list[str]:
    """Words for a lesson, those with most of what is new first, then those with most that is due.

    Parameters
    ----------
    known : sequence of str
        What is taught by then, in order, what is new among it.
    new : sequence of str
        Letters, or kinds of joins. A capital is met at the head of words whose other letters are known.
    """
    order = [char for char in known if len(char) == 1]
    recalled = frozenset(due)

    def found(
        letters: Iterable[str], practise: frozenset[str] | None = None, join: JoinKind | None = None
    ) -> list[str]:
        given = Conditions(frozenset(letters), least=2, most=_LETTERS_MOST, practise=practise, join=join)
        return [one.text for one in find(bank, given, style, order, recalled)]

    capitals = {char for char in new if char.isupper()}
    kinds = [JoinKind(one) for one in new if len(one) > 1]
    if capitals:
        lower = found(char for char in order if char.islower())
        words = [text[0].upper() + text[1:] for text in lower if text[0].upper() in capitals]
    elif kinds:
        words = list(dict.fromkeys(text for kind in kinds for text in found(order, join=kind)))
    else:
        wanted = frozenset(new)
        words = found(order, practise=wanted or recalled or None)
        words.sort(key=lambda text: (-len(wanted & set(text)), -len(recalled & set(text))))
    return words[:WORDS_MOST]


def sentence_for(
    sentences: Sequence[str], bank: Bank, known: Iterable[str], new: Sequence[str], turn: int
) -> str:
    """A sentence within reach, with something new in it where there is one; empty where none is.

    Parameters
    ----------
    turn : int
        Which one in turn, so that lessons do not all have the same.
    """
    taught = Taught(frozenset(char.lower() for char in known if len(char) == 1))
    able = within_reach(sentences, bank, taught)
    held = [text for text in able if any(char.lower() in text.lower() for char in new)]
    some = held or able
    return some[turn % len(some)] if some else ""
