from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from firstloop.core.ruling import RULINGS, Ruling, RulingError, ruling_kind
from firstloop.core.slots import letter_left_xh, slot_width_xh
from tests.pen import model

rulings = st.builds(
    lambda top, band, rise, drop: Ruling(top + rise, top + rise + band, top, top + rise + band + drop),
    st.floats(0, 200),
    st.floats(4, 20),
    st.floats(3, 30),
    st.floats(3, 30),
)
points = arrays(float, st.tuples(st.integers(1, 20), st.just(2)), elements=st.floats(-3, 4))


@given(rulings, points, st.floats(0, 50))
def test_page_and_letter_space_are_inverse(ruling, run, left):
    back = ruling.to_letter(ruling.to_page(run, left))
    np.testing.assert_allclose(back[:, 1], run[:, 1], atol=1e-6)
    np.testing.assert_allclose(back[:, 0] - left / ruling.xh_mm, run[:, 0], atol=1e-6)


@given(rulings)
def test_every_line_of_the_page_is_its_height_in_letter_space(ruling):
    on = np.column_stack([np.zeros(4), ruling.lines_mm])
    np.testing.assert_allclose(ruling.to_letter(on)[:, 1], [2, 1, 0, -1], atol=1e-9)


def test_lines_that_are_not_given_stand_where_four_lines_would():
    assert Ruling(18.0, 26.0).lines_mm == (10.0, 18.0, 26.0, 34.0)


@pytest.mark.parametrize(
    "lines",
    [(26.0, 18.0), (18.0, 18.0), (18.0, 26.0, 19.0), (18.0, 26.0, 10.0, 25.0), (float("nan"), 26.0)],
)
def test_lines_nothing_can_be_written_between_are_refused(lines):
    with pytest.raises(RulingError):
        Ruling(*lines)


@pytest.mark.parametrize("key", RULINGS)
def test_every_kind_of_ruling_rules_a_page(key):
    ruling = ruling_kind(key).ruled(8.0, top_mm=3.0)
    assert ruling.xh_mm == pytest.approx(8.0)
    assert ruling.rise_mm == 3.0


@pytest.mark.parametrize("xh", [3.9, 20.1])
def test_an_x_height_no_child_writes_is_refused(xh):
    with pytest.raises(RulingError, match="x-height"):
        ruling_kind("four-lines").ruled(xh)


def test_a_ruling_that_does_not_exist_is_named_with_those_that_do():
    with pytest.raises(RulingError, match="four-lines"):
        ruling_kind("tram")


@given(st.sampled_from("abcdefghijklmnopqrstuvwxyz"), st.integers(0, 8))
def test_a_letter_stands_inside_its_own_slot(char, slot):
    from firstloop.core.letterforms.library import letter

    width = slot_width_xh(letter(char))
    x = np.concatenate(model(char))[:, 0] + letter_left_xh(letter(char), slot)
    assert slot * width < x.min()
    assert x.max() < (slot + 1) * width
