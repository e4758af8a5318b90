from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.group import check_group
from firstloop.core.check.ink.limits import LETTER_MOST_XH, STROKES_MOST, too_much
from firstloop.core.check.letter import Asked, check_letter, check_letters
from firstloop.core.check.recognise.pictures import class_set, own_costs, picture, reading_costs
from firstloop.core.ink import InkError, InkStroke
from firstloop.core.letterforms.alphabets import ALPHABETS, EVERY
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.ruling import Ruling, RulingError
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from tests.pen import ink, model


def zigzag(length_xh: float, strokes: int = 1) -> list[np.ndarray]:
    """Strokes that go to and fro, so long all together."""
    each = int(length_xh / strokes / 0.5) + 1
    return [np.array([[k % 2 * 0.5, 0.4 + 0.02 * s] for k in range(each + 1)]) for s in range(strokes)]


def test_no_letter_of_the_house_written_four_times_over_is_too_much():
    for char in EVERY:
        strokes = [np.concatenate([stroke] * 4) for stroke in model(char)]
        assert not too_much(ink(strokes, char)), char


@given(st.floats(LETTER_MOST_XH + 1, 5000))
def test_more_ink_than_a_letter_can_be_is_unreadable_whatever_was_asked_for(length_xh):
    for char in "mil":
        result = check_letter(ink(zigzag(length_xh), char), char)
        assert result.verdict == "unreadable"
        assert set(result.headings.values()) == {"not-seen"}


def test_more_strokes_than_a_letter_can_have_are_unreadable():
    taps = [np.array([[k / 50, 0.5], [k / 50, 0.7]]) for k in range(STROKES_MOST + 1)]
    assert check_letter(ink(taps, "i"), "i").verdict == "unreadable"


def test_too_much_ink_beside_good_letters_spoils_none_of_them(rng):
    good = [ink(model(char), char) for char in "nm"]
    asked = [Asked(good[0], "n"), Asked(ink(zigzag(900), "n"), "n"), Asked(good[1], "m")]
    assert [one.verdict for one in check_letters(asked)] == ["secure", "unreadable", "secure"]


def test_a_long_line_of_real_writing_is_not_too_much(rng):
    for script in ("print", "cursive"):
        group = write_text("a crab in the sand and a gull on a mast", rng)
        assert not too_much(group, 30), script


def test_a_line_that_is_all_scribble_is_one_unreadable_thing(rng):
    group = ink(zigzag(1500, 20), "a crab in the sand")
    result = check_group(group)
    assert [one.verdict for one in result.letters] == ["unreadable"]


@pytest.mark.parametrize("char", ALPHABETS["marks"])
def test_marks_are_found_and_not_judged(char):
    result = check_letter(ink([np.array([[0.0, 0.0], [0.01, 0.02]])], char), char)
    assert (result.verdict, result.findings) == ("secure", ())
    assert set(result.headings.values()) == {"not-seen"}


@pytest.mark.parametrize("far", [1e4, -1e6, 1e308])
def test_ink_off_any_page_is_refused(far):
    with pytest.raises(InkError, match="corner of the page"):
        InkStroke(np.array([[0.0, 0.0], [far, 1.0]]))


@pytest.mark.parametrize("lines", [(0, 1e-7), (0, 300.0), (1e9, 1e9 + 8)])
def test_lines_that_no_page_has_are_refused(lines):
    with pytest.raises(RulingError):
        Ruling(*lines)


def test_a_letter_costs_the_same_in_company_as_alone(rng):
    together = class_set("abdmnost", DEFAULT_STYLE, joins=True)
    for char in "anbx":
        group = write(char, rng, size=1.0)
        seen = picture([np.asarray(stroke) for stroke in group.in_letter_space])
        alone = [
            float(reading_costs(seen, class_set(one, DEFAULT_STYLE, joins=True))[0]) for one in together.chars
        ]
        assert own_costs(seen, together) == pytest.approx(alone, abs=1e-6)
