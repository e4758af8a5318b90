"""Sentences of a class: looked at, and those of the bank within reach."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from firstloop.core.words.sentences import Taught, check_sentence
from firstloop.core.words.sentences import within_reach as all_taught
from firstloop.formats.word_bank import shipped_sentences
from firstloop.services.taught import Asked, class_pace, ground
from firstloop.text import say

_SHOWN = 60


@dataclass(frozen=True)
class TokenView:
    """A word of a sentence: where it stands, what of it is not taught, and words that could stand there."""

    text: str
    start: int
    end: int
    letters: list[str]
    sounds: list[str]
    swaps: list[str]


@dataclass(frozen=True)
class FormView:
    """Something amiss with how a sentence is put down, and where."""

    form: str
    at: int
    says: str


@dataclass(frozen=True)
class SentenceView:
    """A sentence that was looked at; ``mended`` is it with its form put right."""

    text: str
    tokens: list[TokenView]
    slips: list[FormView]
    mended: str
    words: int
    within_reach: bool
    seconds: float


@dataclass(frozen=True)
class SentenceList:
    """Sentences of the bank of which all words are taught; ``found`` of ``total``."""

    sentences: list[str]
    found: int
    total: int


def look_at(session: Session, asked: Asked, text: str) -> SentenceView:
    """A sentence looked at: what in it is not taught, how it begins and ends, how long it takes.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    seen = check_sentence(text, on.bank, _in_both_heights(on.taught), on.newest)
    return SentenceView(
        text=text,
        tokens=[
            TokenView(one.text, one.start, one.end, list(one.letters), list(one.sounds), list(one.swaps))
            for one in seen.tokens
        ],
        slips=[FormView(str(one.form), one.at, say(f"form.{one.form}")) for one in seen.slips],
        mended=seen.mended,
        words=len(seen.tokens),
        within_reach=seen.is_within_reach,
        seconds=class_pace(session, asked.class_id).seconds(text),
    )


def within_reach(session: Session, asked: Asked, holds: str) -> SentenceList:
    """Sentences of the bank within reach, those with a wanted letter or word only.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    able = all_taught(shipped_sentences(), on.bank, _in_both_heights(on.taught))
    kept = [text for text in able if holds.lower() in text.lower()]
    return SentenceList(kept[:_SHOWN], len(kept), len(shipped_sentences()))


def _in_both_heights(taught: Taught) -> Taught:
    """In a sentence a letter is known in both its heights once it is known in one."""
    letters = None if taught.letters is None else frozenset(char.lower() for char in taught.letters)
    return Taught(letters, taught.units)
