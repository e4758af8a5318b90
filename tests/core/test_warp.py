from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from firstloop.core.check.match.warp import warp_costs, warp_path, warp_paths

runs = arrays(float, st.tuples(st.integers(1, 12), st.just(2)), elements=st.floats(-1, 1))


def slow(ink: np.ndarray, model: np.ndarray) -> float:
    """The recurrence as it is written down."""
    gap = np.minimum(np.hypot(*(ink[:, None] - model[None]).transpose(2, 0, 1)), 0.9)
    best = np.full((len(ink) + 1, len(model) + 1), np.inf)
    best[0, 0] = 0
    for i in range(len(ink)):
        for j in range(len(model)):
            best[i + 1, j + 1] = gap[i, j] + min(best[i, j], best[i, j + 1], best[i + 1, j])
    return best[-1, -1] / max(len(ink), len(model))


@given(runs, runs)
def test_the_running_minimum_gives_what_the_recurrence_gives(ink, model):
    assert warp_costs(ink[None], model[None])[0] == pytest.approx(slow(ink, model), abs=1e-9)


@given(runs, runs)
def test_the_path_goes_from_end_to_end_without_going_back_and_costs_what_it_says(ink, model):
    pairs, cost = warp_path(ink, model)
    assert tuple(pairs[0]) == (0, 0)
    assert tuple(pairs[-1]) == (len(ink) - 1, len(model) - 1)
    steps = np.diff(pairs, axis=0)
    assert ((steps >= 0) & (steps <= 1)).all()
    assert (steps.sum(1) >= 1).all()
    gaps = np.minimum(np.hypot(*(ink[pairs[:, 0]] - model[pairs[:, 1]]).T), 0.9)
    assert gaps.sum() / max(len(ink), len(model)) == pytest.approx(cost, abs=1e-9)


def test_many_candidates_at_once_are_each_matched_alone():
    rng = np.random.default_rng(3)
    ink, model = rng.uniform(-1, 1, (5, 9, 2)), rng.uniform(-1, 1, (5, 7, 2))
    together = warp_costs(ink, model)
    np.testing.assert_allclose(together, [slow(a, b) for a, b in zip(ink, model, strict=True)])


@given(st.lists(st.tuples(runs, runs), max_size=5))
def test_pairs_of_any_lengths_matched_together_are_matched_as_each_alone(pairs):
    together = warp_paths([ink for ink, _ in pairs], [model for _, model in pairs])
    for (ink, model), (path, cost) in zip(pairs, together, strict=True):
        alone, cost_alone = warp_path(ink, model)
        np.testing.assert_array_equal(path, alone)
        assert cost == pytest.approx(cost_alone, abs=1e-12)
