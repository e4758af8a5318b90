"""Judging stored ink again with the present checker, in all processors."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from itertools import groupby
from operator import attrgetter
from typing import Any

from sqlalchemy.orm import Session

from firstloop.api.settling import settle_all
from firstloop.api.writing import Terms, attempt_group, check_on, child_level, terms_of
from firstloop.api.written import judged as judged_word
from firstloop.api.written import task_of
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.ink import InkGroup
from firstloop.core.ruling import Ruling
from firstloop.formats.check_json import letter_document
from firstloop.store import rows as store
from firstloop.store import written as written_store
from firstloop.store.rows import Judged
from firstloop.store.tables import Attempt, WrittenWord
from firstloop.store.written import Told

_AT_ONCE = 200


@dataclass(frozen=True)
class _Task:
    """Attempts of one row."""

    groups: tuple[InkGroup, ...]
    char: str
    terms: Terms
    ruling: Ruling


def _judged(task: _Task) -> list[Judged]:
    """What is said of each; one letter that cannot be judged must not stop the others."""
    try:
        results = check_on(task.groups, task.char, task.terms)
    except Exception as problem:
        if len(task.groups) == 1:
            return [Judged("not-seen", {}, f"{type(problem).__name__}: {problem}")]
        return [one for group in task.groups for one in _judged(replace(task, groups=(group,)))]
    return [Judged(result.verdict, letter_document(result, task.ruling)) for result in results]


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
            tasks = [_task(session, some) for some in rows]
            for some, task, judged in zip(rows, tasks, pool.map(_judged, tasks, chunksize=2), strict=True):
                for attempt, now in zip(some, judged, strict=True):
                    table.changed += _count(table, attempt, now)
                    if keep:
                        store.add_result(attempt, CHECKER_VERSION, str(task.terms.level), now)
            session.commit()
            session.expunge_all()
            told(table.attempts, len(ids))
        words = written_store.written(session)
        for word, told_now in zip(
            words, pool.map(judged_word, map(task_of, words), chunksize=4), strict=True
        ):
            table.changed += _count_word(table, word, told_now)
            if keep:
                level = str(child_level(word.child))
                written_store.keep_result(session, word, CHECKER_VERSION, level, told_now)
    settle_all(session)
    return table


def _task(session: Session, attempts: Sequence[Attempt]) -> _Task:
    row = attempts[0].row
    terms = terms_of(session, row)
    groups = tuple(attempt_group(attempt, row, str(terms.style.script)) for attempt in attempts)
    return _Task(groups, row.letter, terms, row.lines)
