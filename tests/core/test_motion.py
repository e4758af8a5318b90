from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.curves import steps
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.motion import MODEL_TEMPO, timed

chars = st.sampled_from(sorted(LOWER))


@given(chars)
def test_time_runs_on_through_the_whole_letter(char):
    strokes = timed(letter(char))
    clock = np.concatenate([stroke.t_ms for stroke in strokes])
    assert clock[0] == 0
    assert (np.diff(clock) > 0).all()
    for before, after in pairwise(strokes):
        assert after.t_ms[0] - before.t_ms[-1] == pytest.approx(MODEL_TEMPO.hop_ms)


@given(chars)
def test_the_pen_goes_exactly_where_the_letter_goes(char):
    for stroke, sampled in zip(timed(letter(char)), letter(char).sampled, strict=True):
        np.testing.assert_array_equal(stroke.points, sampled.points)


def _speed(stroke):
    return steps(stroke.points) / np.diff(stroke.t_ms) * 1000


@given(st.sampled_from(sorted(set(LOWER) - set("ij"))))
def test_a_stroke_begins_and_ends_slowly(char):
    speed = _speed(timed(letter(char))[0])
    assert speed[0] < 0.5 * speed.max()
    assert speed[-1] < 0.5 * speed.max()
    assert speed.max() <= MODEL_TEMPO.cruise_xh_s * 1.001


def test_the_pen_slows_at_a_corner_and_on_a_curve():
    v = _speed(timed(letter("v"))[0])
    assert v[len(v) // 2 - 3 : len(v) // 2 + 3].min() < 0.3 * v.max()
    straight, curve = _speed(timed(letter("l"))[0]), _speed(timed(letter("o"))[0])
    assert np.median(curve) < np.median(straight)
