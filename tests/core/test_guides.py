from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.guides import BESIDE_XH, guides
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER

chars = st.sampled_from(sorted(LOWER))


@given(chars)
def test_every_stroke_has_its_ring_at_the_start_and_its_number_off_the_ink(char):
    model = letter(char)
    for stroke, marks in zip(model.strokes, guides(model), strict=True):
        assert marks.ring == pytest.approx(stroke.start)
        assert np.hypot(*(model.points - np.array(marks.label)).T).min() > 0.12


@given(chars)
def test_chevrons_point_the_way_the_pen_goes(char):
    model = letter(char)
    for sampled, marks in zip(model.sampled, guides(model), strict=True):
        for chevron in marks.chevrons:
            mine = sampled.points[sampled.move == chevron.move]
            near = int(np.hypot(*(mine - [chevron.x, chevron.y]).T).argmin())
            step = mine[min(near + 4, len(mine) - 1)] - mine[max(near - 4, 0)]
            heading = np.degrees(np.arctan2(step[1], step[0]))
            assert abs((heading - chevron.heading_deg + 180) % 360 - 180) < 30


@given(chars)
def test_chevrons_stand_on_the_ink_or_beside_it(char):
    model = letter(char)
    for marks in guides(model):
        for chevron in marks.chevrons:
            off = np.hypot(*(model.points - [chevron.x, chevron.y]).T).min()
            assert off < 0.02 or (chevron.beside and off <= BESIDE_XH + 0.02)


@pytest.mark.parametrize("char", ["n", "m", "h", "b", "p", "r", "a", "d", "g", "q", "u", "y"])
def test_a_way_back_is_drawn_beside_the_line_it_goes_over(char):
    marks = guides(letter(char))[0]
    assert marks.beside
    assert any(chevron.beside for chevron in marks.chevrons)


@pytest.mark.parametrize("char", ["l", "o", "c", "v", "w", "x", "z", "s", "e", "i", "j", "f", "t", "k"])
def test_a_letter_without_a_way_back_has_none(char):
    assert not any(marks.beside for marks in guides(letter(char)))


def test_m_goes_back_twice():
    assert len(guides(letter("m"))[0].beside) == 2
