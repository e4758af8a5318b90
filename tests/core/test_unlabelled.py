"""Ink of which nobody says what it was to be."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.group import check_group
from firstloop.core.check.recognise.pictures import likeliest
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.style import DEFAULT_STYLE, Script
from firstloop.core.simulate.writer import write
from tests.pen import model

LOWER = "".join(ALPHABETS["lower case"])


@pytest.mark.parametrize("script", list(Script))
@pytest.mark.parametrize("alphabet", ["lower case", "capitals", "digits"])
def test_a_letter_in_any_hand_is_known_among_its_own_kind(script, alphabet, rng):
    style = replace(DEFAULT_STYLE, script=script)
    chars = "".join(ALPHABETS[alphabet])
    known = []
    for char in chars:
        group = replace(write(char, rng, style=style), truth="", script=str(script))
        known.append(check_group(group, style, chars=chars).letters[0].reads_as)
    assert "".join(known) == chars


@given(
    st.sampled_from([char for char in LOWER if char not in "acemnorsuvwxzit"]),
    st.floats(0.5, 1.3),
    st.floats(0.7, 1.3),
)
def test_a_hand_with_rises_and_drops_of_its_own_length_is_read(char, beyond, width):
    strokes = []
    for points in model(char):
        x, y = points.T
        y = np.where(y > 1, 1 + (y - 1) * beyond, np.where(y < 0, y * beyond, y))
        strokes.append(np.column_stack([x * width, y]))
    assert likeliest(tuple(strokes), LOWER, DEFAULT_STYLE) == char


def test_it_is_judged_as_the_letter_it_is_taken_for(rng):
    group = replace(write("d", rng, fault="start.bottom", size=1.0), truth="")
    (letter,) = check_group(group).letters
    assert (letter.expected, letter.findings[0].code) == ("d", "start.bottom")
