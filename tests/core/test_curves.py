from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from firstloop.core import curves

runs = arrays(float, st.tuples(st.integers(2, 30), st.just(2)), elements=st.floats(-5, 5))


@given(runs, st.integers(2, 50))
def test_resampling_keeps_both_ends_and_never_lengthens(run, count):
    out = curves.resample(run, count)
    assert out.shape == (count, 2)
    np.testing.assert_allclose(out[0], run[0], atol=1e-9)
    if curves.length(run) > 0:
        np.testing.assert_allclose(out[-1], run[-1], atol=1e-9)
    assert curves.length(out) <= curves.length(run) + 1e-9


def test_resampling_a_tap_repeats_its_point():
    out = curves.resample(np.array([[1.0, 2.0]]), 3)
    np.testing.assert_array_equal(out, [[1, 2]] * 3)


@given(st.floats(0.2, 3), st.floats(0.2, 3), st.floats(0, 360), st.floats(30, 400))
def test_an_arc_stays_on_its_ellipse(rx, ry, begin, sweep):
    points = curves.ellipse_arc((1.0, -2.0), rx, ry, begin, begin + sweep).points(0.02)
    off = ((points[:, 0] - 1) / rx) ** 2 + ((points[:, 1] + 2) / ry) ** 2
    np.testing.assert_allclose(off, 1.0, atol=2e-3)


@pytest.mark.parametrize(("sweep", "turn"), [(360, 360), (-360, -360), (90, 90)])
def test_turning_is_signed_counterclockwise(sweep, turn):
    points = curves.ellipse_arc((0, 0), 1, 1, 10, 10 + sweep).points(0.01)
    assert curves.turning_deg(points) == pytest.approx(turn, abs=5)


def test_a_length_written_twice_is_found_and_a_crossing_is_not():
    down_and_back = np.concatenate([np.linspace([0, 1], [0, 0], 101), np.linspace([0, 0], [0, 1], 101)[1:]])
    across = np.linspace([-1, 0.5], [1, 0.5], 201)
    mask, earlier = curves.written_twice(np.concatenate([down_and_back, across]), 0.02, 0.3, 0.01)
    assert mask[110:195].all()
    assert not mask[:100].any()
    assert not mask[210:].any()
    np.testing.assert_allclose(down_and_back[earlier[150]], down_and_back[150], atol=0.02)


@given(st.integers(4, 12), st.integers(0, 1000))
def test_a_spline_goes_through_every_point(count, seed):
    points = np.cumsum(np.random.default_rng(seed).uniform(0.1, 1, (count, 2)), axis=0)
    smooth = curves.spline(points, between=6)
    np.testing.assert_allclose(smooth[::6], points, atol=1e-9)


def test_a_spline_is_nearer_the_circle_than_the_chords_between_its_points():
    few = curves.ellipse_arc((0, 0), 1, 1, 0, 300).points(0.5)
    off = abs(np.hypot(*curves.spline(few).T) - 1)
    chords = abs(np.hypot(*((few[1:] + few[:-1]) / 2).T) - 1)
    assert off[8:-8].max() < 0.3 * chords.max()


def test_nearest_is_the_distance_to_the_closest_point():
    square = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], dtype=float)
    np.testing.assert_allclose(curves.nearest(np.array([[2.0, 0.0]]), square), [1.0])
