"""Judging stored ink again with the present checker, in all processors."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from itertools import groupby
from operator import attrgetter
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.services import evidence
from firstloop.services.judging import judge_row, judge_word, row_task, word_task
from firstloop.services.results import counted_codes
from firstloop.store import rows as store
from firstloop.store import written as written_store
from firstloop.store.rows import AttemptResult
from firstloop.store.tables import Attempt, WrittenWord
from firstloop.store.written import WordResult

_AT_ONCE = 200


@dataclass
class Recheck:
    """What the present checker says otherwise."""

    attempts: int = 0
    words: int = 0
    changed: int = 0
    verdicts: Counter[tuple[str, str]] = field(default_factory=Counter)
    gained: Counter[str] = field(default_factory=Counter)
    lost: Counter[str] = field(default_factory=Counter)
    checkers: Counter[str] = field(default_factory=Counter)


def _codes(document: Mapping[str, Any]) -> set[str]:
    every = [document, *document.get("letters", [])]
    return {code for one in every for code in counted_codes(one)}


def _count_word(table: Recheck, word: WrittenWord, now: WordResult) -> bool:
    """Note what changed in a word; whether anything did."""
    table.words += 1
    table.checkers[word.checker or "none"] += 1
    return _codes_changed(table, word.document, now.document)


def _codes_changed(table: Recheck, old: Mapping[str, Any], now: Mapping[str, Any]) -> bool:
    gained, lost = _codes(now) - _codes(old), _codes(old) - _codes(now)
    table.gained.update(gained)
    table.lost.update(lost)
    return bool(gained or lost)


def _count(table: Recheck, attempt: Attempt, now: AttemptResult) -> bool:
    """Note what changed; whether anything did."""
    before = attempt.result
    table.attempts += 1
    table.checkers[before.checker if before else "none"] += 1
    old_verdict, old = (before.verdict, before.document) if before else (str(Verdict.NOT_SEEN), {})
    changed = _codes_changed(table, old, now.document)
    if old_verdict != now.verdict:
        table.verdicts[old_verdict, now.verdict] += 1
    return changed or old_verdict != now.verdict


def recheck(
    session: Session,
    keep: bool,
    workers: int,
    progress: Callable[[int, int], None] = lambda done, total: None,
) -> Recheck:
    """Judge every stored attempt and word again.

    Parameters
    ----------
    keep : bool
        Whether the new results hold from now on. Those of earlier checkers are kept beside them.
    workers : int
        Processes to judge in.
    progress : callable
        Called with (attempts done, attempts in all).
    """
    table = Recheck()
    ids = store.attempt_ids(session)
    with ProcessPoolExecutor(workers) as pool:
        for first in range(0, len(ids), _AT_ONCE):
            attempts = store.attempts(session, ids[first : first + _AT_ONCE])
            rows = [list(some) for _, some in groupby(attempts, key=attrgetter("row_id"))]
            tasks = [row_task(session, some, some[0].row) for some in rows]
            for some, task, found in zip(rows, tasks, pool.map(judge_row, tasks, chunksize=2), strict=True):
                for attempt, now in zip(some, found, strict=True):
                    table.changed += _count(table, attempt, now)
                    if keep:
                        store.add_result(attempt, CHECKER_VERSION, task.terms.level, now)
            session.commit()
            session.expunge_all()
            progress(table.attempts, len(ids))
        words = written_store.written(session)
        tasks_of_words = list(map(word_task, words))
        found_words = pool.map(judge_word, tasks_of_words, chunksize=4)
        for word, word_terms, word_now in zip(words, tasks_of_words, found_words, strict=True):
            table.changed += _count_word(table, word, word_now)
            if keep:
                written_store.keep_result(word, CHECKER_VERSION, word_terms.terms.level, word_now)
        session.commit()
    evidence.work_out_all(session)
    return table
