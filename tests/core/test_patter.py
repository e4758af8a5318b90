from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.heights import HEIGHTS, height_name
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.patter import patter
from firstloop.text import say
from firstloop.text.movement import sentence, short, spoken


def test_the_words_of_n_are_what_a_teacher_says():
    assert spoken(letter("n")) == (
        "Start at the mid line. Straight down to the base line. "
        "Back up the same line. Over and down to the base line."
    )


@pytest.mark.parametrize(
    ("char", "words"),
    [
        ("e", "Start halfway up the middle band. Straight across."),
        ("d", "Straight on up to the rise line. Back down the same line to the base line."),
        ("y", "Down past the base line and curl to the left on the drop line."),
        ("i", "Lift, and go above the stem. Dot above."),
        ("k", "Lift. Start at the mid line, on the right. Slope in to the stem."),
        ("o", "Round to the left, all the way to where you began."),
    ],
)
def test_words_come_from_the_movement(char, words):
    assert words in spoken(letter(char))


@given(st.sampled_from(sorted(LOWER)))
def test_every_move_is_said_exactly_once(char):
    model = letter(char)
    said = [
        (phrase.stroke, move)
        for phrase in patter(model)
        if not phrase.is_start
        for move in range(phrase.first_move, phrase.last_move + 1)
    ]
    assert said == [(s, m) for s, stroke in enumerate(model.strokes) for m in range(len(stroke.moves))]
    assert sum(phrase.is_start for phrase in patter(model)) == len(model.strokes)


@given(st.sampled_from(sorted(LOWER)))
def test_phrases_are_whole_sentences(char):
    for phrase in patter(letter(char)):
        text = sentence(phrase)
        assert text[0].isupper()
        assert text.endswith(".")
        assert "{" not in text
        assert 1 <= len(short(phrase).split()) <= 5


@given(st.floats(-1, 2))
def test_every_height_has_words(y):
    assert height_name(y) in HEIGHTS
    assert any(word in say(f"height.{height_name(y)}") for word in ("line", "band"))
