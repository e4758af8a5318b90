"""Sharing the ink of a word out between its letters: laws, whatever was left out or added."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.group import check_group
from firstloop.core.check.segment.cutting import cut_letters, follow_letters
from firstloop.core.curves import length
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.simulate.evaluate import CURSIVE, EXITS, LOOPED, WORDS
from firstloop.core.simulate.text import write_text

texts = st.sampled_from(WORDS)
seeds = st.integers(0, 5000)
apart = st.sampled_from((HouseStyle(), EXITS))
joined = st.sampled_from((CURSIVE, LOOPED))


def ink_length(strokes) -> float:
    return sum(length(stroke.points_mm) for stroke in strokes)


@settings(max_examples=25)
@given(texts, apart, seeds, st.data())
def test_no_stroke_goes_to_two_letters_and_none_is_made_up(text, style, seed, data):
    group = write_text(text, np.random.default_rng(seed), style=style)
    gone = data.draw(st.sets(st.integers(0, len(group.strokes) - 1), max_size=2))
    left = tuple(stroke for i, stroke in enumerate(group.strokes) if i not in gone)
    if not left:
        return
    found = cut_letters(replace(group, strokes=left), text, style)
    assert len(found) == len(text)
    given_out = [stroke for piece in found for stroke in piece.strokes]
    assert ink_length(given_out) <= ink_length(left) + 1e-6
    whole = [stroke for stroke in given_out if any(stroke is one for one in left)]
    assert len({id(stroke) for stroke in whole}) == len(whole)


@settings(max_examples=15)
@given(texts, joined, seeds, st.data())
def test_a_joined_word_loses_no_letter_but_the_one_left_out(text, style, seed, data):
    at = data.draw(st.integers(0, len(text) - 1))
    group = write_text(text[:at] + text[at + 1 :], np.random.default_rng(seed), style=style)
    found = follow_letters(replace(group, truth=text), text, style)
    assert found is not None
    empty = [text[i] for i, piece in enumerate(found.pieces) if not piece.strokes]
    assert empty == [text[at]]


@settings(max_examples=15)
@given(texts, apart, seeds, st.floats(-40, 40), st.floats(-15, 15))
def test_taps_of_a_palm_take_no_dot_and_no_letter(text, style, seed, x_mm, y_mm):
    """Wherever a palm rests below the line, every letter keeps its ink."""
    group = write_text(text, np.random.default_rng(seed), style=style)
    tap = InkStroke(np.array([[60.0 + x_mm, 48.0 + abs(y_mm)], [60.2 + x_mm, 48.1 + abs(y_mm)]]))
    before = [one.reads_as for one in check_group(group, style).letters]
    with_tap = InkGroup((*group.strokes, tap), group.ruling, text, group.script)
    assert [one.reads_as for one in check_group(with_tap, style).letters] == before
