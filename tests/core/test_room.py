"""Room in words: measured against the model, and words that a child is able to write."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.group import check_group
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.letterforms.words import word
from firstloop.core.progress.measured import measured_of_text
from firstloop.core.progress.trends import MEASURES, change
from firstloop.core.simulate.evaluate import CURSIVE, LOOPED
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.core.simulate.text import write_text
from firstloop.text import progress
from tests.pen import even, ink

STEADY = ORDINARY_HAND.steadier(0.3)
seeds = st.integers(0, 3000)


def model_word(text: str, apart_xh: float = 0.0):
    """The model's own strokes, each letter so much further from the one before."""
    model = word(text, DEFAULT_STYLE)
    owner = {span.stroke: span.index for span in model.spans}
    return [
        even(sampled.points + np.array([apart_xh * owner[s], 0.0])) for s, sampled in enumerate(model.sampled)
    ]


def measures(text: str, apart_xh: float = 0.0) -> dict:
    return check_group(ink(model_word(text, apart_xh), text)).measures


@pytest.mark.parametrize("text", ["tin", "mast", "dock", "gull"])
def test_the_model_has_the_room_it_should_have(text):
    assert measures(text)["gap_off_xh"] == pytest.approx(0.0, abs=0.02)


@settings(max_examples=20)
@given(st.sampled_from(("tin", "mast", "lamp", "rope")), st.floats(-0.3, 0.8))
def test_room_that_is_added_is_measured(text, apart):
    assert measures(text, apart)["gap_off_xh"] == pytest.approx(apart, abs=0.03)


@settings(max_examples=12)
@given(st.sampled_from(("mast", "tide", "sand")), st.sampled_from((DEFAULT_STYLE, CURSIVE, LOOPED)), seeds)
def test_close_letters_have_less_room_than_wide_ones_in_any_hand(text, style, seed):
    def off(fault: str) -> float:
        made = write_text(text, np.random.default_rng(seed), fault=fault, size=0.4, style=style, hand=STEADY)
        return check_group(made, style).measures["gap_off_xh"]

    assert off("spacing.tight") < off("spacing.wide") - 0.4


def test_room_is_kept_in_millimetres_and_in_fingers():
    assert measured_of_text({"gap_off_xh": -0.2, "finger_spaces": 1.5}, 7.0) == {
        "room": -1.4,
        "fingers": 50.0,
    }
    assert measured_of_text({"gap_off_xh": None, "finger_spaces": None}, 7.0) == {}


def test_a_change_of_room_is_told_in_words():
    begin = date(2026, 9, 5).toordinal()
    days = list(range(begin, begin + 60, 3))
    found = change(days, [-3.0] * 10 + [0.1] * 10, MEASURES["room"].worth)
    assert progress.change("room", found) == (
        "as it should be now, 3.0 mm less than the model before, since 5 October"
    )
