"""Judging what was written: by what it is judged, and what is said of it. Tasks can go to other processes."""

from __future__ import annotations

import logging
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letters
from firstloop.core.check.match.cases import Asked
from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.grades import Level, Verdict
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.measured import measured_of_text
from firstloop.core.ruling import Ruling
from firstloop.formats.check_json import group_document, letter_document
from firstloop.services.ink import attempt_ink, word_ink
from firstloop.store import rows as row_store
from firstloop.store.rows import AttemptResult
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Child, Row, SchoolClass, WrittenWord
from firstloop.store.written import WordResult

log = logging.getLogger(__name__)
_WHY_MOST = 400  # characters

Judge = Callable[[Callable[[Any], Any], Any], Any]
"""Given what judges a task, and the task, gives what is said of it."""


class StoppedError(Exception):
    """Whoever judges is being stopped: nothing is said, and nothing is to be kept."""


def here(judged: Callable[[Any], Any], task: Any) -> Any:
    """Judge in this very thread."""
    return judged(task)


@dataclass(frozen=True)
class Terms:
    """By what a child's letter is judged: style, how strict to be, the child's usual speed."""

    style: HouseStyle
    strictness: Strictness
    usual_xh_s: float | None = None

    @property
    def level(self) -> str:
        """Name of the level."""
        return str(self.strictness.level)


@dataclass(frozen=True)
class RowTask:
    """Attempts of one row, and by what they are judged."""

    inks: tuple[InkGroup, ...]
    char: str
    terms: Terms
    ruling: Ruling


@dataclass(frozen=True)
class WordTask:
    """A word's ink, and by what it is judged."""

    ink: InkGroup
    terms: Terms


def strictness(child: Child) -> Strictness:
    """How strict to be with a child: at its own level or the class's, with the class's tolerances."""
    return class_strictness(child.school_class, child)


def class_strictness(school_class: SchoolClass, child: Child | None) -> Strictness:
    """As :func:`strictness`, also where nobody knows yet which child of the class it was."""
    own = None if child is None else child.level
    return Strictness(Level(own or school_class.level), school_class.tolerances)


def row_task(session: Session, attempts: Sequence[Attempt], row: Row) -> RowTask:
    """Attempts of a row as a task, by what holds for them now."""
    usual = row_store.usual_speed(session, row.child_id)
    terms = Terms(house_style(row), strictness(row.child), usual)
    return RowTask(tuple(attempt_ink(one, row) for one in attempts), row.letter, terms, row.lines)


def word_task(word: WrittenWord) -> WordTask:
    """A word as a task, by what holds for it now."""
    return WordTask(word_ink(word), Terms(house_style(word), strictness(word.child)))


def judge_row(task: RowTask) -> list[AttemptResult]:
    """What is said of each; one letter that cannot be judged must not stop the others."""
    terms = task.terms
    rules: Mapping[str, Any] = {
        "level": terms.strictness.level,
        "tolerances": terms.strictness.tolerances,
        "usual_xh_s": terms.usual_xh_s,
    }
    try:
        results = check_letters([Asked(ink, task.char, terms.style, **rules) for ink in task.inks])
    except Exception as problem:
        if len(task.inks) == 1:
            return [cannot_letter(_told(problem))]
        return [one for ink in task.inks for one in judge_row(replace(task, inks=(ink,)))]
    return [AttemptResult(str(one.verdict), letter_document(one, task.ruling)) for one in results]


def judge_word(task: WordTask) -> WordResult:
    """What is said of a word; an error where the checker fails."""
    rules, ruling = task.terms.strictness, task.ink.ruling
    try:
        result = check_group(task.ink, task.terms.style, rules.level, tolerances=rules.tolerances)
        return WordResult(group_document(result, ruling), measured_of_text(result.measures, ruling.xh_mm))
    except Exception as problem:  # the ink is safe; say so instead of losing the word
        log.exception("checking the word %s failed", task.ink.truth)
        return cannot_word(_told(problem))


def _told(problem: Exception) -> str:
    return f"{type(problem).__name__}: {problem}"


def cannot_letter(why: str) -> AttemptResult:
    """What is kept of ink that could not be judged; it says nothing of the child."""
    return AttemptResult(str(Verdict.UNREADABLE), {}, why[:_WHY_MOST])


def cannot_word(why: str) -> WordResult:
    """As :func:`cannot_letter`, of a word."""
    return WordResult({}, {}, why[:_WHY_MOST])


def attempt_result(session: Session, attempt: Attempt, row: Row, judge: Judge) -> tuple[Terms, AttemptResult]:
    """What is said of one kept attempt, whatever goes wrong in checking it; and by which terms.

    Raises
    ------
    StoppedError
    """
    task = row_task(session, [attempt], row)
    try:
        (found,) = judge(judge_row, task)
    except StoppedError:
        raise
    except Exception as problem:  # the ink is safe; say so instead of losing the row
        log.exception("checking attempt %s failed", attempt.id)
        found = cannot_letter(_told(problem))
    return task.terms, found


def word_result(word: WrittenWord, judge: Judge) -> tuple[Terms, WordResult]:
    """As :func:`attempt_result`, of a word."""
    task = word_task(word)
    try:
        found = judge(judge_word, task)
    except StoppedError:
        raise
    except Exception as problem:
        log.exception("checking word %s failed", word.id)
        found = cannot_word(_told(problem))
    return task.terms, found
