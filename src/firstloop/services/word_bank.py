"""The word bank of a school: the words that ship, with what the school added, corrected and hid."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from firstloop.core.words.bank import Bank, BankWord, Change
from firstloop.core.words.bringing_in import Bad, Brought, Effect, Line, bring_in
from firstloop.core.words.units import CUT, places
from firstloop.formats.word_bank import read_word_list, shipped_bank, write_word_list
from firstloop.store import bank as store
from firstloop.store.errors import NotFoundError
from firstloop.store.tables import Child
from firstloop.text import say

_BAD_SHOWN = 200
_NEW_SHOWN = 400


class WordError(ValueError):
    """A word that cannot be kept as it was typed; the message says why."""


@dataclass(frozen=True)
class WordOfBank:
    """A word of the bank; ``places`` tells for each unit which letters of the word it is."""

    text: str
    units: list[str]
    places: list[list[int]]
    by_heart: bool
    own: bool


@dataclass(frozen=True)
class BankPage:
    """Some words of the bank: ``found`` in all, of ``total``."""

    words: list[WordOfBank]
    found: int
    total: int
    hidden: list[str]
    can_undo: bool


@dataclass(frozen=True)
class BadLineView:
    """A line that cannot be read, and why in words."""

    number: int
    text: str
    why: str


@dataclass(frozen=True)
class NewWord:
    """A word that a list would bring in or correct; ``was`` are its units before, if it had any."""

    number: int
    text: str
    units: list[str]
    places: list[list[int]]
    by_heart: bool
    proposed: bool
    was: list[str] | None


@dataclass(frozen=True)
class ListView:
    """What a list of words would change, or has changed. Of long lists the first words are shown."""

    new: int
    corrected: int
    same: int
    proposed: int
    words: list[NewWord]
    bad: list[BadLineView]
    bad_lines: int


_KEPT: dict[tuple[object, store.Version], Bank] = {}
_KEPT_MOST = 4


def present(session: Session) -> Bank:
    """The bank as it stands. Kept between questions, until it changes."""
    version = store.version(session)
    if not version.edits:
        return shipped_bank()
    key = (session.get_bind(), version)
    if key not in _KEPT:
        bank = shipped_bank().after(store.changes(session))
        while len(_KEPT) >= _KEPT_MOST:
            _KEPT.pop(next(iter(_KEPT)))
        _KEPT[key] = bank
    return _KEPT[key]


def names(session: Session) -> frozenset[str]:
    """First names of all children, in lower case: they are no words."""
    return frozenset(name.lower() for name in session.scalars(select(Child.first_name)))


def word_view(word: BankWord) -> WordOfBank:
    """A word of the bank to be shown."""
    return WordOfBank(
        text=word.text,
        units=list(word.units),
        places=[list(one) for one in places(word.units)],
        by_heart=word.by_heart,
        own=shipped_bank().by_text.get(word.text) != word,
    )


def page(session: Session, search: str, only_own: bool, limit: int) -> BankPage:
    """Words of the bank that hold some letters, those that begin with them first; a search may be a unit.

    Parameters
    ----------
    search : str
        Letters; with a ``-`` around it (``-sh-``) a unit.
    """
    bank = present(session)
    sought = search.strip().lower()
    unit = sought.strip(CUT) if CUT in sought else ""
    found = [
        word
        for word in bank
        if (unit in word.sounds if unit else sought in word.text.lower())
        and (not only_own or shipped_bank().by_text.get(word.text) != word)
    ]
    found.sort(key=lambda word: (not word.text.lower().startswith(sought), word.text.lower()))
    return BankPage(
        words=[word_view(word) for word in found[:limit]],
        found=len(found),
        total=len(bank),
        hidden=store.hidden(session),
        can_undo=bool(store.version(session).edits),
    )


def keep(session: Session, text: str, units: str, by_heart: bool, at: datetime) -> WordOfBank:
    """Add a word, or correct its units.

    Parameters
    ----------
    units : str
        With ``-`` between them; empty to take those that are proposed.

    Raises
    ------
    WordError
        If it is no word, or the units do not spell it; nothing is kept.
    """
    line = Line(1, (text, units, "yes" if by_heart else "no"))
    brought = bring_in([line], present(session), names(session))
    if brought.bad:
        raise WordError(f"“{text}” is not kept: {say(f'bad-line.{brought.bad[0].why}')}.")
    (entry,) = brought.entries
    if entry.effect is not Effect.SAME:
        store.keep(session, [Change(entry.word.text, entry.word)], at)
        session.commit()
    return word_view(entry.word)


def hide(session: Session, text: str, at: datetime) -> None:
    """Leave a word out of everything.

    Raises
    ------
    NotFoundError
    """
    if text not in present(session):
        raise NotFoundError("word in the bank", text)
    store.keep(session, [Change(text, None)], at)
    session.commit()


def show(session: Session, text: str, at: datetime) -> WordOfBank:
    """Take a hidden word back in, as it shipped or as it was.

    Raises
    ------
    NotFoundError
        If it is not hidden.
    """
    if text not in store.hidden(session):
        raise NotFoundError("hidden word", text)
    before = [one.word for one in store.changes(session) if one.text == text and one.word is not None]
    word = before[-1] if before else shipped_bank().by_text[text]
    store.keep(session, [Change(text, word)], at)
    session.commit()
    return word_view(word)


def undo(session: Session) -> int:
    """Take the latest step back: a word, or a whole list; how many words it was of.

    Raises
    ------
    ConflictError
    """
    edits = store.undo(session)
    session.commit()
    return edits


def export(session: Session) -> str:
    """The bank as CSV."""
    return write_word_list(present(session))


def look_at_list(session: Session, raw: bytes, done: Callable[[int], None] | None = None) -> ListView:
    """What a list of words would change; nothing is changed.

    Raises
    ------
    WordListError
    """
    return _list_view(bring_in(read_word_list(raw), present(session), names(session), done), session)


def take_list(
    session: Session, raw: bytes, at: datetime, done: Callable[[int], None] | None = None
) -> ListView:
    """Bring a list of words in, but for the lines that cannot be read; it is one step to undo.

    Raises
    ------
    WordListError
    """
    brought = bring_in(read_word_list(raw), present(session), names(session), done)
    told = _list_view(brought, session)
    changed = [
        Change(entry.word.text, entry.word) for entry in brought.entries if entry.effect is not Effect.SAME
    ]
    if changed:
        store.keep(session, changed, at)
        session.commit()
    return told


def _list_view(brought: Brought, session: Session) -> ListView:
    before = present(session).by_text
    counts = {effect: sum(one.effect is effect for one in brought.entries) for effect in Effect}
    changing = [one for one in brought.entries if one.effect is not Effect.SAME]
    shown = sorted(changing, key=lambda one: (not one.proposed, one.number))[:_NEW_SHOWN]
    return ListView(
        new=counts[Effect.NEW],
        corrected=counts[Effect.CORRECTED],
        same=counts[Effect.SAME],
        proposed=sum(one.proposed for one in brought.entries),
        words=[
            NewWord(
                number=one.number,
                text=one.word.text,
                units=list(one.word.units),
                places=[list(place) for place in places(one.word.units)],
                by_heart=one.word.by_heart,
                proposed=one.proposed,
                was=list(before[one.word.text].units) if one.word.text in before else None,
            )
            for one in shown
        ],
        bad=[
            BadLineView(one.number, one.text, say(f"bad-line.{Bad(one.why)}"))
            for one in brought.bad[:_BAD_SHOWN]
        ],
        bad_lines=len(brought.bad),
    )
