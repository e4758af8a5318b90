"""Words for a class: found by conditions, and what is made of them, drawn in the class's hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word as word_model
from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.find import Conditions, Place, able, find, of_one_length
from firstloop.core.words.fits import Gap, gaps
from firstloop.core.words.joins import joined_style, tricky
from firstloop.core.words.ladders import ladder
from firstloop.core.words.rings import Ring, RingFinder, Wanted
from firstloop.core.words.sorts import sort
from firstloop.core.words.units import places
from firstloop.formats.word_bank import words_besides
from firstloop.services.letters import LetterDrawing, drawing
from firstloop.services.taught import Asked, Ground, class_pace, ground
from firstloop.store.styles import style_of_class

_COLUMN_LEAST = 4  # words of one length, for a sheet


@dataclass(frozen=True)
class DrawnWord:
    """A word of the bank in the class's hand; ``places`` tells for each unit which letters it is.

    ``tricky`` are the pairs whose join is tricky in a joined hand. ``letter_spans`` is the room of each
    letter, left and right from where the ink begins, SVG units.
    """

    text: str
    units: list[str]
    places: list[list[int]]
    by_heart: bool
    drawing: LetterDrawing
    letter_spans: list[list[float]]
    tricky: list[str]


@dataclass(frozen=True)
class FoundWord(DrawnWord):
    """A word that was found, and how many of the class have all its letters."""

    able: int


@dataclass(frozen=True)
class FoundWords:
    """Words that meet the conditions, the best first; ``found`` of them in all.

    ``taught`` are the letters in the order in which they were taught, ``within`` how many words of the bank
    are of those letters, ``total`` how many there are, ``children`` how many the class has.
    """

    words: list[FoundWord]
    found: int
    within: int
    total: int
    children: int
    taught: list[str]


@dataclass(frozen=True)
class RingStep:
    """What changes on the way to the next word: the unit at a place goes, another comes."""

    place: int
    gone: str
    new: str


@dataclass(frozen=True)
class RingView:
    """A ring of words; the last step leads back to the first word."""

    words: list[DrawnWord]
    steps: list[RingStep]


@dataclass(frozen=True)
class GapView:
    """A word with a unit left open; ``before`` and ``after`` are what stands around it, if anything."""

    word: DrawnWord
    place: int
    before: LetterDrawing | None
    after: LetterDrawing | None
    options: list[str]
    fitting: list[str]


@dataclass(frozen=True)
class SortWord:
    """A word of a sort, and whether it belongs."""

    word: DrawnWord
    belongs: bool


@dataclass(frozen=True)
class TimeView:
    """How long texts take a class to write, and whether that is its own pace."""

    seconds: float
    letters: int
    measured: bool


@lru_cache(maxsize=4096)
def drawn_text(text: str, style: HouseStyle) -> LetterDrawing:
    """A word as a style writes it."""
    return drawing(word_model(text, style))


@lru_cache(maxsize=4096)
def _letter_spans(text: str, style: HouseStyle) -> list[list[float]]:
    """The room of each letter: halfway to the letters beside it."""
    model = word_model(text, style)
    bounds = [model.letter_at(i).shifted(model.lefts[i]).bounds for i in range(len(text))]
    begin = model.bounds[0]
    between = [(before[2] + after[0]) / 2 for before, after in pairwise(bounds)]
    edges = [begin, *between, model.bounds[2]]
    return [
        [round(100 * (left - begin), 1), round(100 * (right - begin), 1)] for left, right in pairwise(edges)
    ]


def drawn_word(word: BankWord, style: HouseStyle) -> DrawnWord:
    """A word as the class writes it."""
    return DrawnWord(
        text=word.text,
        units=list(word.units),
        places=[list(one) for one in places(word.units)],
        by_heart=word.by_heart,
        drawing=drawn_text(word.text, style),
        letter_spans=_letter_spans(word.text, style),
        tricky=tricky(word.text, style),
    )


def found(
    session: Session, asked: Asked, given: Conditions, practise: str, one_length: bool, limit: int
) -> FoundWords:
    """Words that meet every condition.

    Parameters
    ----------
    practise : str
        "due" or "wrong" to ask for a letter that is due, or that is not yet secure; else empty.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    wanted = {"due": on.due, "wrong": on.wrong}.get(practise)
    asked_for = replace(given, letters=on.taught.letters, units=on.taught.units, practise=wanted)
    words = find(on.bank, asked_for, on.style, on.newest, on.due)
    shown = of_one_length(words, _COLUMN_LEAST) if one_length else words
    begun = frozenset(on.newest)
    return FoundWords(
        words=[
            FoundWord(**vars(drawn_word(word, on.style)), able=able(word, on.by_child))
            for word in shown[:limit]
        ],
        found=len(shown),
        within=sum(word.letters <= begun for word in on.bank),
        total=len(on.bank),
        children=len(on.by_child),
        taught=on.newest,
    )


def joined_form(session: Session, class_id: int, text: str) -> LetterDrawing:
    """A word in the class's joined hand, or as its letters would be joined.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    return drawn_text(text, joined_style(style_of_class(session, class_id)))


def _taught_bank(on: Ground) -> Bank:
    return on.bank.only(on.taught.letters, on.taught.units)


@lru_cache(maxsize=4)
def _finder(
    bank: Bank, letters: frozenset[str] | None, units: frozenset[str] | None, drop: bool
) -> RingFinder:
    return RingFinder(bank.only(letters, units), drop)


def rings(
    session: Session,
    asked: Asked,
    seed: int,
    start: str | None,
    through: str | None,
    length: int,
    wanted: Wanted,
    allow_drop: bool,
) -> list[RingView]:
    """Rings of words that are taught, several to choose from; none where there is none.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    finder = _finder(on.bank, on.taught.letters, on.taught.units, allow_drop)
    made = finder.rings(
        np.random.default_rng(seed), start or None, through or None, length, wanted, known=on.units
    )
    return [_ring(one, on.style) for one in made]


def _ring(one: Ring, style: HouseStyle) -> RingView:
    steps = [RingStep(step.place, step.gone, step.new) for step in one.steps]
    return RingView([drawn_word(word, style) for word in one.words], steps)


def gap_words(
    session: Session, asked: Asked, seed: int, one: str, other: str, both: bool, most: int
) -> list[GapView]:
    """Words with a gap into which one of two units fits, or, where that is wanted, both.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    rng = np.random.default_rng(seed)
    made = gaps(on.bank, one, other, rng, words_besides(), both, most, among=_taught_bank(on))
    return [_gap(gap, on.style) for gap in made]


def _gap(gap: Gap, style: HouseStyle) -> GapView:
    open_at = set(places(gap.word.units)[gap.place])
    letters = list(gap.word.text)
    first = min(open_at)
    before = "".join(letters[:first])
    after = "".join(char for at, char in enumerate(letters) if at > first and at not in open_at)
    return GapView(
        word=drawn_word(gap.word, style),
        place=gap.place,
        before=drawn_text(before, style) if before else None,
        after=drawn_text(after, style) if after else None,
        options=list(gap.options),
        fitting=sorted(gap.fitting),
    )


def sort_words(
    session: Session, asked: Asked, seed: int, unit: str, place: Place, half: int
) -> list[SortWord]:
    """Words that begin, end or hold a unit among words that do not; none where there are too few.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    made = sort(_taught_bank(on), unit, place, np.random.default_rng(seed), half)
    return [SortWord(drawn_word(one.word, on.style), one.belongs) for one in made]


def ladder_words(
    session: Session, asked: Asked, seed: int, count: int, practise: frozenset[str]
) -> list[DrawnWord]:
    """Words to dictate, from two units to four, what is new last.

    Raises
    ------
    NotFoundError
    """
    on = ground(session, asked)
    known = on.units if asked.sets else []  # without a set that counts as taught, none of them is new
    made = ladder(_taught_bank(on), known, np.random.default_rng(seed), count, practise)
    return [drawn_word(word, on.style) for word in made]


def writing_time(session: Session, class_id: int, texts: Sequence[str]) -> TimeView:
    """How long some texts take a class to write.

    Raises
    ------
    NotFoundError
    """
    own = class_pace(session, class_id)
    return TimeView(sum(own.seconds(text) for text in texts), own.letters, own.is_measured)
