"""The way of a model along ink: no other way costs less."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.ways import follow as ways
from firstloop.core.check.ways.follow import NOWHERE, Guide, Lines, follow

SPOTS, STEPS = 3, 4
COORDINATE = st.floats(-0.3, 0.3).map(lambda value: round(value, 2))
PLACE = st.tuples(COORDINATE, COORDINATE)


def a_line(spots: list[tuple[float, float]]) -> Lines:
    """Ink that goes from spot to spot; from each the pen comes to the next ones only."""
    every = np.arange(len(spots))
    near = np.clip(np.column_stack([every, every - 1, every + 1]), 0, len(spots) - 1)
    beside = tuple(tuple({int(one) for one in row} - {i}) for i, row in enumerate(near))
    return Lines(np.array(spots), (every,), near, beside, 0.1)


def cost_of(at: tuple[int, ...], lines: Lines, model: Guide) -> float:
    """What the way costs that has its steps at these spots, step by step."""
    total = 0.0
    for t, here in enumerate(at):
        if here == NOWHERE:
            total += ways._NO_INK_COST
        else:
            off = model.points[t] - lines.spots[here]
            total += min((off**2).sum() / ways._NEAR_XH**2, ways._FAR_COST)
        if not t:
            continue
        before, begins = at[t - 1], t in model.begins
        if (before == NOWHERE) != (here == NOWHERE):
            total += 0.0 if begins else ways._LEAVE_COST
        elif here != NOWHERE and not begins:
            if before not in lines.near[here]:
                return np.inf
            turn = lines.spots[here] - lines.spots[before] - (model.points[t] - model.points[t - 1])
            total += ways._TURN_COST * (turn**2).sum() / ways.STEP_XH**2
    return total


@given(
    st.lists(PLACE, min_size=SPOTS, max_size=SPOTS),
    st.lists(PLACE, min_size=STEPS, max_size=STEPS),
    st.integers(1, STEPS),
)
def test_no_way_along_the_ink_costs_less(spots, points, lift):
    lines = a_line(spots)
    model = Guide(np.array(points), np.array([0, lift] if lift < STEPS else [0]))
    found = follow(lines, model, [model.points], relay=lambda model, best, lines: best.laid.points)
    least = min(cost_of(at, lines, model) for at in product([NOWHERE, *range(SPOTS)], repeat=STEPS))
    assert cost_of(tuple(found.at), lines, model) == pytest.approx(least, abs=1e-9)
    assert found.way_cost * STEPS == pytest.approx(least, abs=1e-9)
