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

from firstloop.api.settling import settle_all
from firstloop.api.writing import child_level, judged, task_of, terms_of
from firstloop.api.written import judged as judged_word
from firstloop.api.written import task_of as word_task
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.store import rows as store
from firstloop.store import written as written_store
from firstloop.store.rows import Judged
from firstloop.store.tables import Attempt, WrittenWord
from firstloop.store.written import Told

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
    return {f["code"] for one in every for f in one.get("findings", []) if f["severity"] != "told"}


def _count_word(table: Recheck, word: WrittenWord, now: Told) -> bool:
    """Note what changed in a word; whether anything did."""
    table.words += 1
    table.checkers[word.checker or "none"] += 1
    return _codes_changed(table, word.document, now.document)


def _codes_changed(table: Recheck, old: Mapping[str, Any], now: Mapping[str, Any]) -> bool:
    gained, lost = _codes(now) - _codes(old), _codes(old) - _codes(now)
    table.gained.update(gained)
    table.lost.update(lost)
    return bool(gained or lost)


def _count(table: Recheck, attempt: Attempt, now: Judged) -> bool:
    """Note what changed; whether anything did."""
    before = attempt.result
    table.attempts += 1
    table.checkers[before.checker if before else "none"] += 1
    old_verdict, old = (before.verdict, before.document) if before else ("not-seen", {})
    changed = _codes_changed(table, old, now.document)
    if old_verdict != now.verdict:
        table.verdicts[old_verdict, now.verdict] += 1
    return changed or old_verdict != now.verdict


def recheck(
    session: Session,
    keep: bool,
    workers: int,
    told: Callable[[int, int], None] = lambda done, total: None,
) -> Recheck:
    """Judge every stored attempt and word again.

    Parameters
    ----------
    keep : bool
        Whether the new results hold from now on. Those of earlier checkers are kept beside them.
    workers : int
        Processes to judge in.
    told : callable
        Called with (attempts done, attempts in all).
    """
    table = Recheck()
    ids = store.attempt_ids(session)
    with ProcessPoolExecutor(workers) as pool:
        for first in range(0, len(ids), _AT_ONCE):
            attempts = store.attempts(session, ids[first : first + _AT_ONCE])
            rows = [list(some) for _, some in groupby(attempts, key=attrgetter("row_id"))]
            tasks = [task_of(some, some[0].row, terms_of(session, some[0].row)) for some in rows]
            for some, task, found in zip(rows, tasks, pool.map(judged, tasks, chunksize=2), strict=True):
                for attempt, now in zip(some, found, strict=True):
                    table.changed += _count(table, attempt, now)
                    if keep:
                        store.add_result(attempt, CHECKER_VERSION, str(task.terms.level), now)
            session.commit()
            session.expunge_all()
            told(table.attempts, len(ids))
        words = written_store.written(session)
        for word, told_now in zip(
            words, pool.map(judged_word, map(word_task, words), chunksize=4), strict=True
        ):
            table.changed += _count_word(table, word, told_now)
            if keep:
                level = str(child_level(word.child))
                written_store.keep_result(session, word, CHECKER_VERSION, level, told_now)
    settle_all(session)
    return table
