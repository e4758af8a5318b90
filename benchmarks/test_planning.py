"""The term and the lesson: orders of 26 letters, a year of 38 weeks, a change, a page of a lesson."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from benchmarks.plan_bounds import AIMS, problem, year
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.planning import changes
from firstloop.core.planning.orders import Aim, Search
from firstloop.core.planning.plan import dealt, empty
from firstloop.core.planning.recall import recalls
from firstloop.core.planning.term import slots
from firstloop.formats.plan_json import Wish
from firstloop.services import classes, lessons, plan_orders, plan_view, plans
from firstloop.store.database import open_engine, sessions, upgrade


@pytest.mark.parametrize("aim", AIMS)
def test_an_order_of_26_letters(benchmark: Any, aim: Aim):
    given = problem()
    benchmark.pedantic(lambda: given.search().order(aim), rounds=5)


def test_a_plan_of_38_weeks(benchmark: Any):
    """Days, the order with most words soonest, every lesson, and what each recalls."""
    given = problem(year())

    def plan() -> object:
        made = slots(given.term)
        search: Search = given.search()
        laid = dealt(empty(made), made, search.order(Aim.WORDS).lessons, (), given.term.first)
        return recalls(laid, given.family, lambda one, other: False)

    benchmark.pedantic(plan, rounds=5)


def test_a_letter_is_moved_in_a_year(benchmark: Any):
    given = problem(year())
    made = slots(given.term)
    plan = dealt(empty(made), made, given.search().scheme().lessons, (), given.term.first)
    last = plan.lessons[-3].key
    benchmark(changes.move_letter, plan, "l", last, given.term.first)


@pytest.fixture(scope="module")
def planned(tmp_path_factory: pytest.TempPathFactory) -> Any:
    path: Path = tmp_path_factory.mktemp("plan") / "first-loop.db"
    engine = open_engine(path)
    upgrade(engine)
    with sessions(engine)() as session:
        at = datetime(2026, 9, 7, tzinfo=UTC)
        made = classes.add(session, "Kittiwake class", "four-lines", 10.0, Level.GROWING, DEFAULT_STYLE, at)
        term = problem().term
        wish = Wish("Autumn term", term, "by-movement", ("lower case",), order="words")
        plans.make(session, made.id, wish, date.fromordinal(term.first), at, plan_orders.solve)
        yield session, made.id, date.fromordinal(term.first)
    engine.dispose()


def test_the_term_is_shown(benchmark: Any, planned: Any):
    session, class_id, on = planned
    benchmark(plan_view.view, session, class_id, on + timedelta(days=20))


def test_a_page_of_a_lesson(benchmark: Any, planned: Any):
    session, class_id, on = planned
    benchmark(lessons.page, session, class_id, 12, on)


def test_what_is_known_of_how_good_orders_are():
    """No order found is better than its bound: a bound that is beaten is none."""
    given = problem()
    found = given.search().orders()
    assert found[Aim.MOVEMENT].costs.movement >= given.movement_bound() - 1e-9
    assert np.isfinite(given.movement_bound())
