"""Laws that every letter of every style must keep."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.letterforms.capitals import CAPITALS
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.digits import DIGITS
from firstloop.core.letterforms.library import EVERY, UnknownLetterError, letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.model import SvgPen
from firstloop.core.letterforms.parts import MEASURES
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script, StyleError, Width
from firstloop.core.letterforms.words import word
from firstloop.core.moves import MoveKind as K

ON_LINE_XH = 0.02
chars = st.sampled_from(sorted(LOWER))
styles = st.builds(HouseStyle, slant_deg=st.floats(0, 15), width=st.sampled_from(Width))

# top and bottom of every letter, as the house's letter reference gives them
RISES = {char: 2.0 for char in "bdfhkl"} | {"t": 1.6, "i": 1.5, "j": 1.5}
DROPS = {char: -1.0 for char in "gjpqy"}

STARTS = {
    "rise line": ("bhkl", 2.0, 2.0),
    "just under the rise line": ("f", 1.75, 1.95),
    "about 1.6": ("t", 1.6, 1.6),
    "mid line": ("ijmnpruvwxyz", 1.0, 1.0),
    "just under the mid line": ("acdgoqs", 0.8, 0.97),
    "halfway up the middle band": ("e", 0.5, 0.5),
}
MOVES = {
    "a": [[K.ROUND_LEFT, K.DOWN]],
    "b": [[K.DOWN, K.RETRACE, K.ARCH, K.ROUND_RIGHT]],
    "c": [[K.ROUND_LEFT]],
    "d": [[K.ROUND_LEFT, K.UP, K.RETRACE]],
    "e": [[K.BAR, K.ROUND_LEFT]],
    "f": [[K.ROUND_LEFT, K.DOWN], [K.BAR]],
    "g": [[K.ROUND_LEFT, K.DOWN, K.HOOK_LEFT]],
    "h": [[K.DOWN, K.RETRACE, K.ARCH, K.DOWN]],
    "i": [[K.DOWN], [K.DOT]],
    "j": [[K.DOWN, K.HOOK_LEFT], [K.DOT]],
    "k": [[K.DOWN], [K.SLOPE_LEFT, K.SLOPE_RIGHT]],
    "l": [[K.DOWN]],
    "m": [[K.DOWN, K.RETRACE, K.ARCH, K.DOWN, K.RETRACE, K.ARCH, K.DOWN]],
    "n": [[K.DOWN, K.RETRACE, K.ARCH, K.DOWN]],
    "o": [[K.ROUND_LEFT]],
    "p": [[K.DOWN, K.RETRACE, K.ARCH, K.ROUND_RIGHT]],
    "q": [[K.ROUND_LEFT, K.DOWN]],
    "r": [[K.DOWN, K.RETRACE, K.ARCH]],
    "s": [[K.ROUND_LEFT, K.ROUND_RIGHT]],
    "t": [[K.DOWN, K.CUP], [K.BAR]],
    "u": [[K.CUP, K.RETRACE]],
    "v": [[K.SLOPE_RIGHT, K.SLOPE_UP]],
    "w": [[K.SLOPE_RIGHT, K.SLOPE_UP, K.SLOPE_RIGHT, K.SLOPE_UP]],
    "x": [[K.SLOPE_RIGHT], [K.SLOPE_LEFT]],
    "y": [[K.CUP, K.DOWN, K.HOOK_LEFT]],
    "z": [[K.BAR, K.SLOPE_LEFT, K.BAR]],
}


def test_there_are_26_letters():
    assert "".join(sorted(LOWER)) == "abcdefghijklmnopqrstuvwxyz"


@pytest.mark.parametrize("char", sorted(MOVES))
def test_moves_and_their_order_are_the_house_reference(char):
    assert [list(kinds) for kinds in letter(char).kinds] == MOVES[char]


@pytest.mark.parametrize("where", STARTS)
def test_every_letter_starts_where_the_reference_says(where):
    letters, low, high = STARTS[where]
    for char in letters:
        assert low - 1e-9 <= letter(char).strokes[0].start[1] <= high + 1e-9, char


@given(chars, styles)
def test_every_letter_touches_its_lines(char, style):
    _, bottom, _, top = letter(char, style).bounds
    assert top == pytest.approx(RISES.get(char, 1.0), abs=ON_LINE_XH)
    assert bottom == pytest.approx(DROPS.get(char, 0.0), abs=ON_LINE_XH)


@given(chars, styles)
def test_strokes_are_continuous(char, style):
    model = letter(char, style)
    for stroke in model.strokes:
        for before, after in zip(stroke.moves, stroke.moves[1:], strict=False):
            np.testing.assert_allclose(before.path.end, after.path.start, atol=1e-9)
    for sampled in model.sampled:
        gaps = np.hypot(*np.diff(sampled.points, axis=0).T)
        assert gaps.max() < 0.03
        assert (np.diff(sampled.move) >= 0).all()


@given(styles, st.sampled_from([("adgq", 0), ("nmhr", 1), ("nmh", 2), ("bp", 2), ("bp", 3)]))
def test_shared_parts_are_one_part(style, shared):
    letters, move = shared
    index = {0: 0, 1: 1, 2: 2, 3: 3}[move]
    parts = []
    for char in letters:
        path = letter(char, style).strokes[0].moves[index].path
        parts.append(path.points(0.02) - path.end)
    if move == 1:  # the way back up: the arch leaves the stem at one height
        ends = {round(float(letter(c, style).strokes[0].moves[1].path.end[1]), 6) for c in letters}
        assert len(ends) == 1
        return
    for part in parts[1:]:
        np.testing.assert_allclose(part, parts[0], atol=1e-9)


@given(styles)
def test_tails_end_alike(style):
    tails = [letter(char, style).strokes[0].moves[-1].path for char in "gjy"]
    for tail in tails[1:]:
        np.testing.assert_allclose(
            tail.points(0.02) - tail.end, tails[0].points(0.02) - tails[0].end, atol=1e-9
        )


@given(chars)
def test_downstrokes_of_the_upright_style_are_true_verticals(char):
    for stroke in letter(char).strokes:
        for move in stroke.moves:
            if move.kind in (K.DOWN, K.UP) or (move.kind is K.RETRACE):
                assert np.ptp(move.path.points(0.05)[:, 0]) < 1e-9


@given(chars, styles)
def test_slant_and_width_move_every_point_by_one_rule(char, style):
    upright, styled = letter(char, DEFAULT_STYLE).strokes, letter(char, style).strokes
    for plain, made in zip(upright, styled, strict=True):
        for before, after in zip(plain.moves, made.moves, strict=True):
            np.testing.assert_allclose(after.path.cubics, before.path.cubics @ style.matrix.T, atol=1e-12)
            assert after.kind is before.kind


@given(chars, styles)
def test_bowls_that_close_do_close(char, style):
    model = letter(char, style)
    for stroke, sampled in zip(model.strokes, model.sampled, strict=True):
        for m, move in enumerate(stroke.moves):
            if move.closes:
                others = sampled.points[sampled.move < max(m, 1)][:-40]
                assert np.hypot(*(others - move.path.end).T).min() < ON_LINE_XH


def test_a_letter_the_house_lacks_is_named():
    with pytest.raises(UnknownLetterError, match="'ß'"):
        letter("ß")


@pytest.mark.parametrize("slant", [-1, 15.1, float("nan")])
def test_a_slant_no_letter_can_follow_is_refused(slant):
    with pytest.raises(StyleError):
        HouseStyle(slant_deg=slant)


@given(chars, styles)
def test_svg_paths_begin_where_the_strokes_begin(char, style):
    model = letter(char, style)
    pen = SvgPen(100)
    model.draw(pen)
    assert len(pen.strokes) == len(model.strokes)
    for path, stroke in zip(pen.strokes, model.strokes, strict=True):
        x, y = (float(v) for v in path.removeprefix("M ").split(" C ")[0].split())
        assert (x, -y) == pytest.approx((stroke.start[0] * 100, stroke.start[1] * 100), abs=0.01)


def test_the_long_date_can_be_written_in_every_script():
    days = "Monday Tuesday Wednesday Thursday Friday Saturday Sunday"
    months = "January February March April May June July August September October November December"
    for script in Script:
        style = HouseStyle(script=script)
        for text in [*days.split(), *months.split(), "0123456789"]:
            assert set(range(len(text))) == {span.index for span in word(text, style).spans}


@pytest.mark.parametrize("char", sorted({**CAPITALS, **DIGITS}))
def test_capitals_and_digits_stand_from_the_rise_line_to_the_base_line(char):
    for style in every_form(char):
        _, bottom, _, top = letter(char, style).bounds
        assert top == pytest.approx(2.0, abs=ON_LINE_XH)
        assert bottom == pytest.approx(0.0, abs=ON_LINE_XH)


@pytest.mark.parametrize("key", sorted(CHOICES))
def test_every_choice_changes_the_letters_it_names_and_no_other(key):
    base = HouseStyle(script=Script.CURSIVE if CHOICES[key].joined_only else Script.PRINT)
    for option in list(CHOICES[key].options)[1:]:
        chosen = base.choosing(key, option)
        changed = {c for c in EVERY if not same_ink(letter(c, base), letter(c, chosen))}
        if (key, option) == ("z", "tail"):  # a tail is for joined writing
            assert changed == set()
            continue
        assert changed, option
        assert changed <= set(CHOICES[key].letters), option


@given(st.sampled_from(sorted(EVERY)), st.sampled_from(Script))
def test_every_letter_of_every_form_is_drawn_without_a_jump(char, script):
    for style in every_form(char, script):
        for stroke in letter(char, style).strokes:
            for before, after in pairwise(stroke.moves):
                np.testing.assert_allclose(before.path.end, after.path.start, atol=1e-9)


def test_bars_of_e_are_equal_and_the_middle_may_be_short():
    def bars(style):
        return [round(float(np.ptp(s.points[:, 0])), 6) for s in letter("E", style).sampled[1:]]

    assert len(set(bars(DEFAULT_STYLE))) == 1
    top, middle, base = bars(DEFAULT_STYLE.choosing("E", "short"))
    assert top == base > middle


def test_a_capital_goes_on_by_a_lift_or_by_a_retrace():
    retraced = DEFAULT_STYLE.choosing("stems", "retrace")
    for char in "BDMNPR":
        assert len(letter(char).strokes) == len(letter(char, retraced).strokes) + 1
        assert letter(char, retraced).kinds[0][:2] == (K.DOWN, K.RETRACE)


@pytest.mark.parametrize("char", "0689")
def test_these_digits_turn_counterclockwise_at_the_start(char):
    assert letter(char).kinds[0][0] is K.ROUND_LEFT


@pytest.mark.parametrize("char", "235")
def test_these_digits_turn_clockwise(char):
    kinds = letter(char).kinds[0]
    assert K.ROUND_RIGHT in kinds
    assert K.ROUND_LEFT not in kinds


def test_an_adjusted_part_changes_the_letter_it_is_changed_for():
    low = DEFAULT_STYLE.adjusting("n", "branch_xh", 0.4)
    assert float(letter("n", low).strokes[0].moves[1].path.end[1]) == pytest.approx(0.4)
    assert float(letter("h", low).strokes[0].moves[1].path.end[1]) == pytest.approx(0.55)
    everywhere = DEFAULT_STYLE.adjusting("", "branch_xh", 0.4)
    for char in "nmhr":
        assert float(letter(char, everywhere).strokes[0].moves[1].path.end[1]) == pytest.approx(0.4)


@given(
    st.sampled_from(sorted(MEASURES)),
    st.floats(0, 1),
    st.sampled_from(sorted(LOWER)),
    st.sampled_from(Script),
)
def test_any_adjustment_within_its_limits_keeps_a_legal_letter(measure, share, char, script):
    limits = MEASURES[measure]
    value = limits.low + share * (limits.high - limits.low)
    plain, style = HouseStyle(script=script), HouseStyle(script=script).adjusting(char, measure, value)
    assert letter(char, style).kinds == letter(char, plain).kinds
    for stroke in letter(char, style).strokes:
        for before, after in pairwise(stroke.moves):
            np.testing.assert_allclose(before.path.end, after.path.start, atol=1e-9)


@pytest.mark.parametrize(("measure", "value"), [("branch_xh", 0.05), ("bowl_width_xh", 3.0), ("colour", 0.5)])
def test_an_adjustment_outside_its_limits_is_refused(measure, value):
    with pytest.raises(StyleError):
        DEFAULT_STYLE.adjusting("n", measure, value)


@pytest.mark.parametrize(("key", "option"), [("k", "three"), ("%", "two")])
def test_a_choice_the_house_does_not_have_is_refused(key, option):
    with pytest.raises(StyleError):
        DEFAULT_STYLE.choosing(key, option)
    with pytest.raises(StyleError):
        HouseStyle(choices=((key, option),))


def every_form(char, script=Script.PRINT):
    plain = HouseStyle(script=script)
    keys = [key for key, choice in CHOICES.items() if char in choice.letters]
    return [plain, *(plain.choosing(key, option) for key in keys for option in CHOICES[key].options)]


def same_ink(one, other):
    return len(one.points) == len(other.points) and np.allclose(one.points, other.points)
