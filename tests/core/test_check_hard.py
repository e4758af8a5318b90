"""Ink that is plainly the letter although something about it is far out: told as that one thing."""

from __future__ import annotations

from collections import Counter

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.letter import check_letter
from firstloop.core.curves import FloatArray, length
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.simulate.hand import ORDINARY_HAND, vary
from firstloop.core.simulate.makers import moved_start
from tests.pen import even, ink, model

SEEDS = range(6)


def told(char: str, strokes, seed: int = 0) -> set[str]:
    """What is told of strokes as an ordinary hand would write them."""
    hand = ORDINARY_HAND.steadier(0.7)
    written = vary([even(stroke) for stroke in strokes], hand, np.random.default_rng(seed))
    result = check_letter(ink(written, char), char)
    return {f.code for f in result.findings if f.counts} | ({"unreadable"} & {result.verdict})


def usually(char: str, strokes) -> set[str]:
    """What is told of most of six such letters."""
    every = Counter(code for seed in SEEDS for code in told(char, strokes, seed))
    return {code for code, count in every.items() if count > len(SEEDS) / 2}


def curl(at: FloatArray, long: float, turns: float, heading: float) -> FloatArray:
    """A curl from a place: so long, going round so often, at first in a direction; shape (n, 2)."""
    angle = heading + np.linspace(0, 2 * np.pi * turns, round(150 * turns))
    steps = np.column_stack([np.cos(angle), np.sin(angle)]) * (long / len(angle))
    return at + np.cumsum(steps, axis=0)


@settings(max_examples=40)
@given(
    st.sampled_from("abdhnpu"), st.floats(0.8, 2.0), st.floats(1.2, 3), st.floats(0, 6.2), st.integers(0, 99)
)
def test_a_letter_with_a_curl_longer_than_itself_can_be_read(char, times, turns, heading, seed):
    (stroke,) = model(char)
    more = curl(stroke[-1], times * length(stroke), turns, heading)
    assert "unreadable" not in told(char, [np.concatenate([stroke, more])], seed)


@pytest.mark.parametrize("char", "bdhnpu")
@pytest.mark.parametrize("times", [1.0, 1.8])
def test_a_long_curl_is_extra_and_the_letter_is_judged_without_it(char, times):
    (stroke,) = model(char)
    long = times * length(stroke)
    assert usually(char, [np.concatenate([stroke, curl(stroke[-1], long, 2, 0.4)])]) == {"shape.part-extra"}


@pytest.mark.parametrize("char", "hnlu")
def test_a_long_loop_before_the_letter_is_extra_too(char):
    (stroke,) = model(char)
    before = curl(stroke[0], 1.2 * length(stroke), 1.6, 2.5)[::-1]
    assert "shape.part-extra" in usually(char, [np.concatenate([before, stroke])])


@settings(max_examples=40)
@given(st.sampled_from("abdhnpu"), st.integers(0, 999))
def test_a_scribble_is_no_letter_with_a_curl(char, seed):
    corners = np.random.default_rng(seed).uniform([-0.3, -0.3], [1.5, 1.6], (40, 2))
    assert told(char, [even(corners)], seed) == {"unreadable"}


@pytest.mark.parametrize("off", [0.48, 0.36, -0.36, -0.48])
@pytest.mark.parametrize("char", "tfAEFH")
def test_a_bar_far_from_its_place_is_there_and_is_told_as_that(char, off):
    low, high = (float(v) for v in (letter(char).bounds[1], letter(char).bounds[3]))
    strokes = model(char)
    for i, stroke in enumerate(strokes):
        if np.ptp(stroke[:, 1]) < 0.08 and low + 0.3 < stroke[:, 1].mean() < high - 0.3:
            strokes[i] = stroke + np.array([0, off])
    assert usually(char, strokes) == {"shape.bar-height"}


@pytest.mark.parametrize("share", [0.2, 0.35, 0.45])
def test_a_middle_bar_of_an_e_that_is_far_too_short_is_there(share):
    strokes = model("E")
    short = [i for i, s in enumerate(strokes) if np.ptp(s[:, 1]) < 0.05 and 0.5 < s[:, 1].mean() < 1.5]
    assert len(short) == 1
    strokes[short[0]] = strokes[short[0]][0] + (strokes[short[0]] - strokes[short[0]][0]) * share
    assert usually("E", strokes) == {"shape.bars-uneven"}


@pytest.mark.parametrize("char", "ij")
@pytest.mark.parametrize("way", [0.0, 0.25])
def test_a_dot_made_without_lifting_is_a_lift_left_out(char, way):
    stem, dot = model(char)
    top = dot.mean(axis=0)
    back = even(np.array([stem[-1], [(stem[-1][0] + top[0]) / 2 + way, 0.6], top]))
    assert usually(char, [np.concatenate([stem, back])]) == {"lift.missing"}


def test_a_stem_of_an_i_that_is_too_tall_has_no_dot():
    stem, _ = model("i")
    tall = even(np.array([[stem[0][0], 1.5], stem[-1]]))
    assert "shape.part-missing" in usually("i", [tall])


@pytest.mark.parametrize(("char", "move"), [("d", 1), ("g", 1), ("a", 1), ("G", 2)])
def test_the_pieces_of_a_letter_in_another_order_are_that_and_no_lift(char, move):
    sampled = letter(char).sampled[0]
    pieces = [sampled.points[sampled.move >= move], sampled.points[sampled.move < move]]
    assert usually(char, pieces) == {"order.swapped"}
    assert usually(char, pieces[::-1]) == {"lift.extra"}  # in order it is only a lift


@pytest.mark.parametrize("char", "acdos")
def test_a_round_begun_low_is_not_begun_at_the_bottom(char):
    begun = moved_start(1, -1)(letter(char), 0.55, np.random.default_rng(0), DEFAULT_STYLE)
    assert usually(char, begun) & {"start.low", "start.bottom"} == {"start.low"}


def test_strokes_in_another_order_hide_no_lift_that_they_do_not_need():
    stem, bar = model("t")
    broken = [bar, stem[: len(stem) // 2], stem[len(stem) // 2 :]]
    assert usually("t", broken) == {"order.swapped", "lift.extra"}
