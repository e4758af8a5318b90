"""One letter that the checker fails on is told as that; the letters beside it are judged all the same."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.services import judging, recheck
from firstloop.services.judging import RowTask, Terms, WordTask, judge_row, judge_word
from firstloop.services.recheck import Recheck
from firstloop.store import rows
from firstloop.store.rows import AttemptResult
from tests.services.test_letter_history import BELOW, GOOD, child  # noqa: F401
from tests.services.test_letter_history import write as write_row

BAD_STROKES = 2  # an ink of so many strokes makes the checker fall over below
TERMS = Terms(HouseStyle(), Strictness())


@pytest.fixture
def stumbling(monkeypatch):
    """A checker that falls over whenever a certain letter is among those it is given."""
    right = judging.check_letters

    def check_letters(asked):
        asked = list(asked)
        if any(len(one.group.strokes) == BAD_STROKES for one in asked):
            raise ZeroDivisionError("no such luck")
        return right(asked)

    monkeypatch.setattr(judging, "check_letters", check_letters)


def test_a_letter_that_cannot_be_judged_stops_none_of_its_row(stumbling, rng):
    inks = tuple(write("n", rng, fault=fault, size=1) for fault in (None, "lift.extra", "start.bottom"))
    assert [len(ink.strokes) for ink in inks] == [1, BAD_STROKES, 1]
    found = judge_row(RowTask(inks, "n", TERMS, inks[0].ruling))
    assert [one.verdict for one in found] == ["secure", "unreadable", "fix"]
    assert [one.error for one in found] == [None, "ZeroDivisionError: no such luck", None]
    assert found[1].document == {}
    assert found[2].document["findings"][0]["code"] == "start.bottom"


def test_a_word_that_cannot_be_judged_is_told_as_that(monkeypatch):
    def check_group(*_args, **_named):
        raise RuntimeError("x" * 900)

    monkeypatch.setattr(judging, "check_group", check_group)
    found = judge_word(WordTask(write_text("tide", np.random.default_rng(1)), TERMS))
    assert found.document == {}
    assert found.error.startswith("RuntimeError: xxx")
    assert len(found.error) == 400


def test_a_recheck_goes_on_over_a_letter_that_cannot_be_judged(session, child, stumbling, monkeypatch):  # noqa: F811
    class Here:
        """Judges in this process, where the checker stumbles."""

        def __init__(self, _workers: int) -> None: ...
        def __enter__(self) -> Here:
            return self

        def __exit__(self, *_problem: object) -> None: ...

        def map(self, judge, tasks, chunksize):
            assert chunksize
            return map(judge, tasks)

    monkeypatch.setattr(recheck, "ProcessPoolExecutor", Here)
    row = write_row(session, child, 0, GOOD, BELOW)
    dots = [[{"x": [40.0, 40.0], "y": [14.0, 24.0]}] * strokes for strokes in (1, BAD_STROKES)]
    for attempt, ink in zip(row.attempts, dots, strict=True):
        attempt.ink = ink
    session.commit()
    found: Recheck = recheck.recheck(session, keep=True, workers=1)
    assert found.attempts == 2
    first, second = rows.get_row(session, row.id).attempts
    assert first.result.error is None
    assert first.result.document["findings"] != []
    assert second.result.verdict == "unreadable"
    assert second.result.error.startswith("ZeroDivisionError")
    assert [one.verdict for one in second.results] == ["fix", "unreadable"]  # what was said is kept


def test_why_a_letter_was_not_judged_is_kept_short():
    assert judging.cannot_letter("x" * 900) == AttemptResult("unreadable", {}, "x" * 400)
