"""Words and lines that children write: asked for, kept before anything looks at them, and judged."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.ink import Evidence
from firstloop.core.letterforms.library import UnknownLetterError
from firstloop.core.letterforms.words import word as word_model
from firstloop.core.teaching.advice import worry
from firstloop.core.words.find import Conditions, find
from firstloop.core.words.joins import tricky
from firstloop.services import evidence, word_bank
from firstloop.services.children import ChildView, child_view
from firstloop.services.classes import RulingView, ruling_view
from firstloop.services.ink import KeptStroke, seen
from firstloop.services.judging import Judge, here, word_result
from firstloop.services.letters import Boxed, boxed
from firstloop.services.queue import Order
from firstloop.services.results import GroupView, RemarkView, group_view, remarks
from firstloop.services.row_views import Lines, lines_view
from firstloop.services.rows import fresh_lines, same_sheet
from firstloop.store import days
from firstloop.store import pages as page_store
from firstloop.store import written as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.pages import Paper
from firstloop.store.school import school_time
from firstloop.store.styles import house_style
from firstloop.store.tables import LetterDay, WrittenWord

LEFT_XH = 1.0  # clear paper before the first letter
_OFFERED_MOST = 24
_LETTERS_MOST = 7


@dataclass(frozen=True)
class WordView:
    """A word or a line of a child; ``result`` is null until it is written and looked at.

    The model's origin stands at ``left_mm`` on the page. Where there is nothing ``to_say`` of a result,
    every letter is secure and the room between them is even. ``boxes`` is how many sounds a dictated word
    has: it is written without a model. Alone it has all of its ink, in a list the points that can be told
    apart. ``boxed`` stands where the model would; null where the page itself is shown.
    """

    id: int
    child: ChildView
    text: str
    started_at: datetime
    ruled: RulingView
    lines: Lines
    xh_mm: float
    left_mm: float
    boxed: Boxed | None
    strokes: list[KeptStroke]
    crossed_out: bool
    checker: str | None
    error: str | None
    result: GroupView | None
    to_say: list[RemarkView]
    boxes: int | None
    paper: Paper | None


def word_view(word: WrittenWord, papers: Mapping[int, Paper] | None = None) -> WordView:
    """A word to be shown; ``papers`` are the pages that words came from."""
    ruling = word.lines
    result = group_view(word.document, ruling.xh_mm) if word.document else None
    return WordView(
        id=word.id,
        child=child_view(word.child),
        text=word.text,
        started_at=word.started_at,
        ruled=ruling_view(word.ruling, word.child.school_class.washed),
        lines=lines_view(ruling),
        xh_mm=ruling.xh_mm,
        left_mm=LEFT_XH * ruling.xh_mm,
        boxed=_boxed(word),
        strokes=word.ink or [],  # type: ignore[arg-type]  # as it was kept
        crossed_out=word.crossed_out,
        checker=word.checker,
        error=word.error,
        result=result,
        to_say=[] if result is None else remarks(result),
        boxes=None if word.dictated is None else len(word.dictated.units),
        paper=(papers or {}).get(word.id),
    )


def _boxed(word: WrittenWord) -> Boxed | None:
    if word.evidence == Evidence.SCAN:
        return None
    try:
        return boxed(word.text, house_style(word))
    except UnknownLetterError:  # of another school's file
        return None


def _views(session: Session, words: Sequence[WrittenWord]) -> list[WordView]:
    scanned = [one.id for one in words if one.evidence == Evidence.SCAN]
    papers = page_store.papers(session, word_ids=scanned)
    return [word_view(one, papers) for one in words]


def _listed(session: Session, words: Sequence[WrittenWord]) -> list[WordView]:
    """Many words to be looked at; each alone has all of its ink."""
    return [replace(one, strokes=seen(one.strokes)) for one in _views(session, words)]


def ask(session: Session, child_id: int, text: str, at: datetime) -> WordView:
    """Note what a child is to write, on the class's ruling.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    word = begin(session, child_id, text, at)
    session.commit()
    return word_view(word)


def begin(session: Session, child_id: int, text: str, at: datetime) -> WrittenWord:
    """As :func:`ask`, as part of something larger that the caller commits.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    child = get_child(session, child_id)
    school_class = child.school_class
    word_model(text, house_style(school_class))
    return store.ask(session, child, text, at, school_class.ruling, fresh_lines(school_class))


def get(session: Session, word_id: int) -> WordView:
    """One word or line.

    Raises
    ------
    NotFoundError
    """
    return _views(session, [store.get_word(session, word_id)])[0]


def write(
    session: Session,
    word_id: int,
    strokes: list[dict[str, Any]],
    started_at: datetime | None,
    judge: Judge = here,
) -> WordView:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

    Parameters
    ----------
    started_at : datetime or None
        For which word it was written.

    Raises
    ------
    NotFoundError
    ConflictError
        If other ink is there already, or it was written for another word.
    """
    word = store.get_word(session, word_id)
    same_sheet(started_at, word)
    store.keep_ink(session, word, strokes)
    session.commit()
    see_to(session, word, judge)
    return word_view(word)


def see_to(session: Session, word: WrittenWord, judge: Judge = here) -> None:
    """Judge a kept word unless it is judged by now, and work out its day unless that is done."""
    if word.checker is None:
        terms, found = word_result(word, judge)
        store.keep_result(word, CHECKER_VERSION, terms.level, found)
        session.commit()
    if not word.settled:
        evidence.work_out_word(session, word)


def cross_out(session: Session, word_id: int, crossed_out: bool) -> WordView:
    """Cross a word out, or take that back. It does not count while it is crossed out; its ink stays.

    Raises
    ------
    NotFoundError
    """
    word = store.get_word(session, word_id)
    word.crossed_out, word.settled = crossed_out, False
    session.commit()
    evidence.work_out_word(session, word)
    return word_view(word)


def look_at(session: Session, word_ids: Sequence[int], at: datetime | None) -> None:
    """Note that the teacher looked at words, or (None) take that back.

    Raises
    ------
    NotFoundError
        If one is not there; nothing is noted.
    """
    store.look_at(session, word_ids, at)
    session.commit()


def waiting(session: Session, class_id: int, order: Order, limit: int) -> list[WordView]:
    """Words of a class that the teacher has not looked at yet: the latest day first, each in the order asked.

    Raises
    ------
    NotFoundError
    """
    get_class(session, class_id)
    words = _listed(session, store.waiting(session, class_id, limit))
    if order == "worrying":
        day = school_time(session).day
        words.sort(key=lambda word: (-day(word.started_at).toordinal(), -_worry(word)))
    return words


def _worry(word: WordView) -> float:
    return worry([letter.verdict for letter in word.result.letters]) if word.result else 0.0


def of_child(session: Session, child_id: int, limit: int) -> list[WordView]:
    """What a child has written, latest first.

    Raises
    ------
    NotFoundError
    """
    get_child(session, child_id)
    return _listed(session, store.words_of(session, child_id, limit))


@dataclass(frozen=True)
class OfferedWord:
    """A word that a child could write; ``tricky`` are the pairs whose join is tricky in a joined hand."""

    text: str
    tricky: list[str]


def offered(session: Session, child_id: int) -> list[OfferedWord]:
    """Words whose letters the child has begun, the ones with the latest letters first.

    Raises
    ------
    NotFoundError
    """
    child = get_child(session, child_id)
    kept = sorted(days.days(session, LetterDay.child_id == child_id), key=lambda one: one.day)
    begun = {one.letter: None for one in kept}
    asked = Conditions(letters=frozenset(begun), least=2, most=_LETTERS_MOST)
    style = house_style(child.school_class)
    found = find(word_bank.present(session), asked, style, list(begun))
    return [OfferedWord(one.text, tricky(one.text, style)) for one in found[:_OFFERED_MOST]]
