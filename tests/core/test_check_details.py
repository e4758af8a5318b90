"""The codes of bars, dots, bends, arms and joins, on hand-made ink."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.check.letter import check_letter
from firstloop.core.check.vocabulary.grades import Severity
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.simulate.writer import sketch
from tests.pen import child, ink, lines, model, teacher

CURSIVE = HouseStyle(script=Script.CURSIVE)


def found(strokes, char, style=HouseStyle(), **kwargs):
    result = check_letter(ink(strokes, char, script=str(style.script), **kwargs), char, style)
    return {f.code: f for f in result.findings if f.severity is not Severity.TOLD}


def only(strokes, char, code, **kwargs):
    codes = found(strokes, char, **kwargs)
    assert list(codes) == [code]
    return codes[code]


@pytest.mark.parametrize(("lean", "way"), [(20, "forward"), (-20, "back")])
def test_downstrokes_that_lean_are_told_with_their_angle(lean, way):
    shear = np.array([[1.0, 0.0], [np.tan(np.radians(lean)), 1.0]])
    finding = only([stroke @ shear for stroke in model("h")], "h", "shape.slant")
    assert finding.value == pytest.approx(20, abs=2)
    assert way in teacher(finding)


def test_a_slanted_house_does_not_blame_a_slanted_letter():
    style = HouseStyle(slant_deg=10.0)
    assert found(model("h", style), "h", style) == {}
    assert found(model("h", HouseStyle(slant_deg=2.0)), "h", style) == {}


@pytest.mark.parametrize(("dy", "high"), [(0.4, "high"), (-0.4, "low")])
def test_a_bar_too_high_or_too_low(dy, high):
    stem, bar = model("t")
    finding = only([stem, bar + np.array([0.0, dy])], "t", "shape.bar-height")
    assert finding.value == pytest.approx(0.4, abs=0.05)
    assert f"too {high}" in teacher(finding)


def test_a_bar_that_stands_away_from_its_stem():
    strokes = model("E")
    middle = max(range(len(strokes)), key=lambda i: (np.ptp(strokes[i][:, 1]) < 0.1, strokes[i][:, 1].mean()))
    strokes[middle] = strokes[middle] + np.array([0.3, 0.0])
    codes = found(strokes, "E")
    assert codes["shape.bar-detached"].value == pytest.approx(0.3, abs=0.09)


def test_bars_of_different_length():
    strokes = model("E")
    bars = [i for i, s in enumerate(strokes) if np.ptp(s[:, 1]) < 0.1]
    long = bars[-1]
    left = strokes[long][:, 0].min()
    strokes[long] = np.column_stack([left + 1.9 * (strokes[long][:, 0] - left), strokes[long][:, 1]])
    assert found(strokes, "E")["shape.bars-uneven"].value == pytest.approx(90, abs=12)


@pytest.mark.parametrize("shift", [(0.0, 0.5), (0.5, 0.0), (0.0, -0.4)])
def test_a_dot_too_far_from_beside_or_too_close_to_its_stem(shift):
    stem, dot = model("i")
    finding = only([stem, dot + np.array(shift)], "i", "shape.dot-gap")
    assert finding.value == pytest.approx(float(np.hypot(*shift)), abs=0.08)


def test_an_arm_that_is_too_long():
    (r,) = model("r")
    arch = np.flatnonzero(r[:, 0] > 0.08)
    r[arch, 0] *= 2.0
    assert found([r], "r")["shape.reach"].value == pytest.approx(100, abs=20)


def test_an_n_with_a_pointed_arch():
    stem = [(0.0, 1.0), (0.0, 0.0), (0.0, 0.6), (0.36, 1.0), (0.72, 0.6), (0.72, 0.0)]
    finding = found(lines(stem), "n")["shape.corner"]
    assert child(finding) == "Go round in a curve, without a point."


def test_a_v_with_a_round_bottom_is_told_to_come_to_a_point():
    t = np.linspace(0, np.pi, 60)
    cup = np.column_stack([0.34 - 0.34 * np.cos(t), 0.34 - 0.34 * np.sin(t)])
    v = np.concatenate([[[0.0, 1.0]], cup, [[0.68, 1.0]]])
    codes = found([v], "v")
    assert "shape.corner" in codes or "shape.reads-as" in codes


def joined(char):
    return model(char, CURSIVE)


@pytest.mark.parametrize("char", "adhlnu")
def test_a_joined_letter_without_its_way_out(char):
    (stroke, *rest) = letter(char, CURSIVE).sampled
    last = len(letter(char, CURSIVE).strokes[0].moves) - 1
    short = [stroke.points[stroke.move < last][::3], *(s.points[::3] for s in rest)]
    finding = found(short, char, CURSIVE)["join.missing"]
    assert teacher(finding) == "There is no exit."


def test_a_pen_lifted_in_the_way_out_is_a_broken_join_and_no_extra_lift():
    (o,) = joined("o")
    cut = len(o) - 12
    codes = found([o[:cut], o[cut:] + np.array([0.02, 0.0])], "o", CURSIVE)
    assert list(codes) == ["join.break"]
    assert codes["join.break"].severity is Severity.NEAR


def test_a_loop_that_crosses_above_the_base_line():
    raised = sketch("g", np.random.default_rng(1), "join.crossing", 0.4, CURSIVE)
    codes = found(raised, "g", CURSIVE)
    assert codes["join.crossing"].value == pytest.approx(0.4, abs=0.1)
    assert "above the base line" in teacher(codes["join.crossing"])


def test_the_joined_model_itself_is_secure():
    for char in "abcdefghijklmnopqrstuvwxyz":
        assert found(joined(char), char, CURSIVE) == {}, char


def test_a_letter_far_slower_than_the_child_usually_writes_is_told_under_flow_only():
    group = ink(model("n"), "n")
    usual = check_letter(group, "n").measures.speed_xh_s
    slow = check_letter(group, "n", usual_xh_s=3 * usual)
    assert [(f.code, f.severity) for f in slow.findings] == [("flow.slow", Severity.TOLD)]
    assert slow.verdict == "secure"
    assert check_letter(group, "n", usual_xh_s=1.2 * usual).findings == ()


def test_a_capital_too_tall_is_judged_as_a_whole():
    strokes = [stroke * 1.4 for stroke in model("B")]
    assert only(strokes, "B", "size.tall").value == pytest.approx(40, abs=5)


def test_a_left_handers_bar_from_right_to_left_is_no_fault_in_any_alphabet():
    for char in "AHTt":
        strokes = model(char)
        bar = max(range(len(strokes)), key=lambda i: np.ptp(strokes[i][:, 0]) - np.ptp(strokes[i][:, 1]))
        strokes[bar] = strokes[bar][::-1]
        assert found(strokes, char, hand="left") == {}, char
        assert "direction.reversed" in found(strokes, char), char


@pytest.mark.parametrize("char", "oacdgqs")
def test_a_round_letter_come_down_on_from_far_above_is_begun_high_and_neither_tall_nor_open(char):
    (strokes, *_) = [sketch(char, np.random.default_rng(1), "start.high", 0.8, HouseStyle())]
    codes = found(strokes, char)
    assert "start.high" in codes
    assert codes.keys().isdisjoint({"size.tall", "shape.open", "shape.width", "size.rise-tall"})


@pytest.mark.parametrize("char", "bhklpvwy")
def test_a_letter_that_begins_with_a_stem_or_a_slope_is_meant_to_come_down(char):
    """It is no start from above: a lean of it stays a lean, a tall one is tall."""
    shear = np.array([[1.0, 0.0], [np.tan(np.radians(20)), 1.0]])
    assert "start.high" not in found([stroke @ shear for stroke in model(char)], char)
    tall = found([1.6 * stroke for stroke in model(char)], char)
    assert tall.keys() & {"size.tall", "size.rise-tall"}
