"""Dictations: made of words, written on paper or a tablet, marked unit by unit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.sheets.wish import BoxedWord, SheetWish, SoundRow
from firstloop.core.words.bank import BankWord
from firstloop.core.words.dictation import BOX_MOST, DictationError, checked_tries, shown_units
from firstloop.core.words.units import CUT, cut, read_cut, spell
from firstloop.services import word_bank, written_words
from firstloop.services.children import ChildView, child_view
from firstloop.services.letters import LetterDrawing
from firstloop.services.sheets import sheet_once
from firstloop.services.word_lists import drawn_text
from firstloop.services.written_words import WordView
from firstloop.store import dictations as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, DictatedWord, Dictation, WrittenWord
from firstloop.text.progress import day

WORDS_MOST = 20
_LISTED = 40
_LETTERS_LEAST = 2
_PAGE_XH_MOST_MM = 12.0  # of higher lines too few go on a page


@dataclass(frozen=True)
class DictationWord:
    """A word of a dictation: ``boxes`` are what stands in its sound boxes."""

    text: str
    boxes: list[str]
    drawing: LetterDrawing


@dataclass(frozen=True)
class DictatedView:
    """A word with a child. ``tries`` are the boxes to mend in each writing; empty until it is marked.

    ``formation`` is the first thing to say of how it was written, where it was written on a tablet.
    """

    position: int
    tries: list[list[int]]
    word_id: int | None
    written: bool
    formation: str


@dataclass(frozen=True)
class DictatedChild:
    """A child with what there is of every word, in the order of the words; None where there is nothing."""

    child: ChildView
    words: list[DictatedView | None]


@dataclass(frozen=True)
class DictationView:
    """A dictation with everything that became of it."""

    id: int
    class_id: int
    day: date
    words: list[DictationWord]
    children: list[DictatedChild]


@dataclass(frozen=True)
class DictationSummary:
    """A dictation in a list: its words, and how many of them are marked, of all children."""

    id: int
    day: date
    words: list[str]
    marked: int
    of: int


def make(session: Session, class_id: int, words: Sequence[str], at: datetime) -> DictationView:
    """Make a dictation of some words, each as it is written or with its units (``sh-e-ll``).

    Raises
    ------
    NotFoundError, UnitError, UnknownLetterError
    DictationError
        If there is no word, or there are too many.
    """
    get_class(session, class_id)
    if not 0 < len(words) <= WORDS_MOST:
        raise DictationError(f"a dictation has one to {WORDS_MOST} words")
    bank = word_bank.present(session)
    given = []
    for typed in words:
        word = bank.by_text.get(typed) or bank.by_text.get(typed.lower()) or _own_word(typed.lower())
        if len(word.text) < _LETTERS_LEAST:
            raise DictationError(f"“{word.text}” is one letter; a dictated word has two or more")
        if len(word.units) > BOX_MOST:
            raise DictationError(f"“{word.text}” has more than {BOX_MOST} sounds")
        given.append({"text": word.text, "units": list(word.units)})
    made = store.add(session, class_id, given, at)
    session.commit()
    return view(session, made.id)


def _own_word(typed: str) -> BankWord:
    """A word that is in no bank, cut as it was typed, or else as is proposed."""
    units = read_cut(typed) if CUT in typed else cut(typed)
    return BankWord(spell(units), units)


def view(session: Session, dictation_id: int) -> DictationView:
    """A dictation with what became of it.

    Raises
    ------
    NotFoundError
    """
    dictation = store.get(session, dictation_id)
    school_class = get_class(session, dictation.class_id)
    style = house_style(school_class)
    known = {(one.child_id, one.position): one for one in store.words(session, dictation_id)}
    return DictationView(
        id=dictation.id,
        class_id=dictation.class_id,
        day=school_time(session).day(dictation.made_at),
        words=[_word(one["text"], one["units"], style) for one in dictation.words],
        children=[
            DictatedChild(
                child_view(child),
                [
                    _dictated(known[child.id, place]) if (child.id, place) in known else None
                    for place in range(len(dictation.words))
                ],
            )
            for child in school_class.children
        ],
    )


def _word(text: str, units: Sequence[str], style: HouseStyle) -> DictationWord:
    return DictationWord(text, shown_units(text, units), drawn_text(text, style))


def _dictated(one: DictatedWord) -> DictatedView:
    seen = None if one.word is None or one.word.crossed_out else written_words.word_view(one.word)
    said = seen.to_say[0].teacher if seen and seen.to_say else ""
    written = bool(seen and seen.strokes)
    return DictatedView(one.position, one.tries, one.word_id, written, said)


def page(session: Session, dictation_id: int) -> bytes:
    """A page to write a dictation on by hand, as PDF: sound boxes and lines, and no word.

    Raises
    ------
    NotFoundError
    """
    dictation = store.get(session, dictation_id)
    school_class = get_class(session, dictation.class_id)
    words = tuple(BoxedWord(one["text"], len(one["units"])) for one in dictation.words)
    wish = SheetWish(
        (SoundRow(words),),
        title=day(school_time(session).day(dictation.made_at), year=True),
        ruling=school_class.ruling,
        xh_mm=min(school_class.xh_mm, _PAGE_XH_MOST_MM),
        measured=False,
    )
    return sheet_once(wish, house_style(school_class))


def every(session: Session, class_id: int) -> list[DictationSummary]:
    """The latest dictations of a class.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    found = store.of_class(session, class_id, _LISTED)
    marked = store.how_many_marked(session, [one.id for one in found])
    day = school_time(session).day
    return [
        DictationSummary(
            one.id,
            day(one.made_at),
            [word["text"] for word in one.words],
            marked.get(one.id, 0),
            len(one.words) * len(school_class.children),
        )
        for one in found
    ]


def drop(session: Session, dictation_id: int) -> None:
    """Take a dictation back of which nothing is marked or written.

    Raises
    ------
    NotFoundError
    ConflictError
        If something is.
    """
    dictation = store.get(session, dictation_id)
    if any(one.tries or one.word_id for one in store.words(session, dictation_id)):
        raise ConflictError("words of this dictation are marked or written; it stays with the children")
    store.drop(session, dictation)
    session.commit()


def _found(session: Session, dictation_id: int, child_id: int) -> tuple[Dictation, Child]:
    dictation, child = store.get(session, dictation_id), get_child(session, child_id)
    if child.class_id != dictation.class_id:
        raise NotFoundError("child in the class of this dictation", child_id)
    return dictation, child


def mark(
    session: Session,
    dictation_id: int,
    child_id: int,
    position: int,
    tries: Sequence[Sequence[int]],
    at: datetime,
) -> DictatedView:
    """Say which units of a word a child has to mend, in the first writing and in the one after it.

    Parameters
    ----------
    tries : sequence of sequences of int
        For each writing the places of its units to mend; none at all takes the marks back.

    Raises
    ------
    NotFoundError, DictationError
    """
    dictation, child = _found(session, dictation_id, child_id)
    word = store.word(session, dictation, child, position, at)
    word.tries = checked_tries(word.units, tries)
    session.commit()
    return _dictated(word)


def write(session: Session, dictation_id: int, child_id: int, position: int, at: datetime) -> WordView:
    """Ask a child to write a dictated word on a tablet: anew where it is crossed out or to be written again.

    A word that was asked for and not written yet is given again. One that was written gets a line through
    it, and is asked for once more.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    dictation, child = _found(session, dictation_id, child_id)
    word = store.word(session, dictation, child, position, at)
    before = word.word
    if before is not None and before.ink is None and not before.crossed_out:
        return written_words.word_view(before)
    asked = begin_again(session, word, at)
    session.commit()
    if before is not None:
        written_words.cross_out(session, before.id, True)
    return written_words.get(session, asked.id)


def begin(session: Session, dictation_id: int, child_id: int, position: int, at: datetime) -> WrittenWord:
    """What a child writes a dictated word on: what it was given before, unless that is crossed out.

    It is part of something larger that the caller commits.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    dictation, child = _found(session, dictation_id, child_id)
    word = store.word(session, dictation, child, position, at)
    if word.word is not None and not word.word.crossed_out:
        return word.word
    return begin_again(session, word, at)


def let_be_of(session: Session, word: DictatedWord, child: Child) -> None:
    """Let the ink of a dictated word be another child's, who has none for it; the caller commits."""
    if word.dictation_id is None:
        return
    dictation = store.get(session, word.dictation_id)
    theirs = store.word(session, dictation, child, word.position, word.at)
    ink, word.word_id = word.word_id, None
    if theirs.word_id is None:
        theirs.word_id = ink


def begin_again(session: Session, word: DictatedWord, at: datetime) -> WrittenWord:
    """A clean line for a dictated word, as part of something larger that the caller commits.

    Raises
    ------
    UnknownLetterError
    """
    asked = written_words.begin(session, word.child_id, word.text, at)
    word.word = asked
    return asked
