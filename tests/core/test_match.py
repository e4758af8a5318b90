"""The parts every heading stands on: template, correspondence, frame and reading."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.match.align import align
from firstloop.core.check.match.arrangements import find_dot
from firstloop.core.check.match.cases import build_case
from firstloop.core.check.match.template import template
from firstloop.core.check.recognise.pictures import class_set, mirror, picture, reading_costs
from firstloop.core.check.vocabulary.codes import CODES, Strictness
from firstloop.core.check.vocabulary.grades import Heading, Level, Severity
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from tests.pen import ink, model

chars = st.sampled_from(sorted(LOWER))
banded = st.sampled_from("abcdeghmnopqsuvwyz")  # letters whose own size the middle band shows


def prepared(char: str):
    return template(char, DEFAULT_STYLE)


@pytest.mark.parametrize(
    ("char", "tops", "feet", "rises", "drops"),
    [
        ("n", 1, 2, 0, 0), ("m", 2, 3, 0, 0), ("h", 1, 2, 1, 0), ("l", 0, 1, 1, 0), ("d", 1, 2, 1, 0),
        ("p", 1, 1, 0, 1), ("v", 1, 1, 0, 0), ("w", 2, 2, 0, 0), ("o", 1, 1, 0, 0),
    ],
)  # fmt: skip
def test_landmarks_are_found_from_the_letters_own_shape(char, tops, feet, rises, drops):
    t = prepared(char)
    assert (len(t.tops), len(t.feet), len(t.rises), len(t.drops)) == (tops, feet, rises, drops)
    np.testing.assert_allclose(t.points[t.tops, 1], 1.0, atol=0.03)
    np.testing.assert_allclose(t.points[t.feet, 1], 0.0, atol=0.03)


@pytest.mark.parametrize(
    ("char", "closes"), [("o", 1), ("a", 1), ("b", 1), ("g", 1), ("c", 0), ("n", 0), ("s", 0)]
)
def test_bowls_that_close_are_known(char, closes):
    assert len(prepared(char).closures) == closes


@pytest.mark.parametrize(
    ("char", "names"),
    [
        ("i", ["stem", "dot"]), ("t", ["stem", "cup", "bar"]), ("n", ["stem", "arch", "leg"]),
        ("k", ["stem", "slope", "slope"]), ("g", ["round", "tail", "tail"]), ("x", ["slope", "slope"]),
    ],
)  # fmt: skip
def test_parts_have_plain_names(char, names):
    assert [part.name for part in prepared(char).parts] == names


@given(chars)
def test_the_model_matches_itself_in_the_plain_arrangement(char):
    match = align(tuple(model(char)), prepared(char))
    assert match.variant == "as-modelled"
    assert match.arrangement.price == 0
    assert match.cost < 0.04
    order = match.model
    assert (np.diff(order) >= 0).all()


@pytest.mark.parametrize("char", ["t", "f", "x", "k"])
def test_order_and_direction_of_strokes_are_found(char):
    strokes = model(char)
    swapped = align(tuple(strokes[::-1]), prepared(char))
    assert swapped.arrangement.order == (1, 0)
    backwards = align((strokes[0], strokes[1][::-1]), prepared(char))
    assert backwards.arrangement.backwards == (False, True)


@given(st.sampled_from("mnhrubpyz"), st.floats(0.3, 0.7))
def test_a_stroke_in_two_pieces_is_put_together(char, share):
    stroke = model(char)[0]
    cut = int(len(stroke) * share)
    match = align((stroke[:cut], stroke[cut:]), prepared(char))
    assert match.arrangement.order == (0, 1)
    assert match.arrangement.backwards == (False, False)
    assert match.cost < 0.08


def test_the_dot_is_the_small_mark_above_even_when_made_first():
    strokes = model("i")
    assert find_dot(tuple(strokes[::-1]), prepared("i")) == 0
    assert find_dot(tuple(strokes), prepared("i")) == 1
    assert find_dot((strokes[0],), prepared("i")) is None
    assert find_dot(tuple(model("x")), prepared("x")) is None


@given(banded, st.floats(0.8, 1.3), st.floats(-0.2, 0.2), st.floats(-8, 8), st.floats(0, 6))
def test_the_frame_takes_size_place_and_slant_out(char, scale, lift, lean, dx):
    lean_xh = np.tan(np.radians(lean))
    written = [
        np.column_stack([scale * (s[:, 0] + lean_xh * s[:, 1]) + dx, scale * s[:, 1] + lift])
        for s in model(char)
    ]
    case = build_case(ink(written, char), char)
    off = case.normal - case.template.points[case.match.model]
    assert np.hypot(*off.T).mean() < 0.08


@given(st.sampled_from("aenmuvwz"), st.floats(0.7, 1.7))
def test_width_is_measured_against_the_model_at_the_same_height(char, factor):
    case = build_case(ink([s * np.array([factor, 1.0]) for s in model(char)], char), char)
    assert case.frame.width_ratio == pytest.approx(factor, rel=0.16)


@given(chars)
def test_a_letter_reads_as_itself_before_all_others(char):
    letters = class_set("".join(LOWER), DEFAULT_STYLE)
    costs = reading_costs(picture(model(char)), letters)
    assert letters.chars[int(costs.argmin())] == char
    assert costs.min() < 0.03


@given(chars, st.floats(-0.12, 0.12))
def test_a_slight_lift_off_the_line_costs_little(char, lift):
    one = class_set(char, DEFAULT_STYLE)
    level = reading_costs(picture(model(char)), one)[0]
    lifted = reading_costs(picture([s + np.array([0.0, lift]) for s in model(char)]), one)[0]
    assert lifted < level + 0.1


@given(chars)
def test_mirroring_twice_is_nothing(char):
    points = np.concatenate(model(char))
    np.testing.assert_allclose(mirror(mirror(points)), points, atol=1e-9)


def test_letters_are_compared_in_the_class_own_style():
    slanted = HouseStyle(slant_deg=12)
    letters = class_set("".join(LOWER), slanted)
    costs = reading_costs(picture(model("h", slanted)), letters)
    assert letters.chars[int(costs.argmin())] == "h"


@pytest.mark.parametrize("level", Level)
@pytest.mark.parametrize("code", [code for code, spec in CODES.items() if spec.tolerance])
def test_severity_is_nothing_then_near_then_fix(code, level):
    strictness = Strictness(level)
    tolerance = strictness.tolerance(code)
    worse = -1 if CODES[code].small_is_worse else 1
    assert strictness.severity(code, 0.99**worse * tolerance) is None
    assert strictness.severity(code, 1.5**worse * tolerance) is Severity.NEAR
    assert strictness.severity(code, 2.01**worse * tolerance) is Severity.FIX


@pytest.mark.parametrize("code", [code for code, spec in CODES.items() if spec.tolerance is None])
def test_a_code_without_a_tolerance_is_a_fault_whenever_it_occurs(code):
    expected = Severity.TOLD if CODES[code].heading is Heading.FLOW else Severity.FIX
    assert Strictness(Level.STARTING).severity(code, 0.01) is expected
