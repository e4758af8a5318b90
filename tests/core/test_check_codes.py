"""Each code on hand-made ink: found where the fault was put, and nothing else with it."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.check.letter import check_letter
from firstloop.core.check.match.cases import build_case
from firstloop.core.check.recognise.readings import nearest_readings
from firstloop.core.check.results import LetterResult
from firstloop.core.check.vocabulary.grades import Heading, Level, Severity
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.core.simulate.writer import write
from tests.pen import child, even, ink, lines, model, teacher

STEADY = ORDINARY_HAND.steadier(0.3)


def codes(result: LetterResult) -> set[str]:
    return {f.code for f in result.findings if f.spec.heading is not Heading.FLOW}


def judged(strokes, char, **kwargs) -> LetterResult:
    level = kwargs.pop("level", Level.GROWING)
    return check_letter(ink(strokes, char, **kwargs), char, level=level)


def slip(char: str, rng, fault: str, size: float) -> set[str]:
    """What is found in a letter written by a steady hand with one fault."""
    return codes(check_letter(write(char, rng, fault=fault, size=size, hand=STEADY), char))


def only(result: LetterResult):
    found = [f for f in result.findings if f.spec.heading is not Heading.FLOW]
    assert len(found) == 1, [f.code for f in found]
    return found[0]


def part(char: str, first_move: int, last_move: int | None = None, stroke: int = 0):
    sampled = letter(char).sampled[stroke]
    last = sampled.move.max() if last_move is None else last_move
    return even(sampled.points[(sampled.move >= first_move) & (sampled.move <= last)])


@pytest.mark.parametrize("char", sorted(LOWER))
def test_the_model_itself_is_secure_under_every_heading(char):
    result = judged(model(char), char)
    assert codes(result) == set()
    assert result.verdict == "secure"
    assert result.reads_as == char


def test_begun_at_the_base_line_is_one_finding_that_points_there():
    finding = only(judged([part("n", 1)], "n"))
    assert finding.code == "start.bottom"
    assert finding.severity == "fix"
    assert finding.value == pytest.approx(1.0, abs=0.05)
    np.testing.assert_allclose(finding.at, [1.5, 0.0], atol=0.05)
    assert child(finding) == "Start at the mid line, then straight down."


def test_a_stem_written_upwards_is_a_start_at_the_bottom():
    assert only(judged([model("l")[0][::-1]], "l")).code == "start.bottom"


@pytest.mark.parametrize(("dy", "code"), [(0.45, "start.high"), (-0.42, "start.low")])
def test_a_start_too_high_or_too_low_is_measured_from_the_models_start(dy, code):
    strokes = lines([(0, 1.0 + dy), (0, 0), (0, 0.55)])
    arch = part("n", 2)
    finding = only(judged([np.concatenate([strokes[0], arch])], "n"))
    assert finding.code == code
    assert finding.value == pytest.approx(abs(dy), abs=0.08)


def test_a_start_to_one_side_is_told_with_its_side():
    u = model("u")[0].copy()
    fade = np.clip(1 - np.arange(len(u)) * 0.03 / 0.35, 0, 1)
    u[:, 0] -= 0.6 * fade
    finding = only(judged([u], "u"))
    assert finding.code == "start.side"
    assert "to the left" in teacher(finding)


def test_a_bar_drawn_backwards_is_reversed_for_a_right_hand_only():
    strokes = model("t")
    backwards = [strokes[0], strokes[1][::-1]]
    finding = only(judged(backwards, "t"))
    assert finding.code == "direction.reversed"
    assert child(finding) == "Write the bar from left to right."
    assert codes(judged(backwards, "t", hand="left")) == set()


def test_a_round_written_clockwise_is_told_and_not_blamed_on_its_shape():
    o = [model("o")[0][::-1]]
    finding = only(judged(o, "o"))
    assert finding.code == "direction.turn"
    assert "clockwise" in teacher(finding)


def test_the_bar_before_the_stem_is_another_order():
    strokes = model("t")
    finding = only(judged(strokes[::-1], "t"))
    assert finding.code == "order.swapped"
    assert teacher(finding) == "The bar was written before the stem."


def test_lifts_are_counted_one_is_near_and_two_are_to_fix():
    m = model("m")[0]
    third = len(m) // 3
    once = judged([m[: 2 * third], m[2 * third :]], "m")
    twice = judged([m[:third], m[third : 2 * third], m[2 * third :]], "m")
    assert [(f.code, f.severity) for f in once.findings] == [("lift.extra", "near")]
    assert [(f.code, f.severity) for f in twice.findings] == [("lift.extra", "fix")]


def test_strokes_run_together_where_the_model_lifts():
    x = model("x")
    drag = even(np.array([x[0][-1], x[1][0]]))
    assert "lift.missing" in codes(judged([np.concatenate([x[0], drag, x[1]])], "x"))


def test_the_way_back_beside_the_way_down_is_measured_at_its_widest():
    n = model("n")[0].copy()
    going_back = (letter("n").sampled[0].move == 1).sum() * 0.01
    y = n[:, 1]
    start = int(np.argmin(y[: len(y) // 2]))
    length = int(going_back / 0.03)
    bump = np.zeros(len(n))
    bump[start : start + length] = 0.35 * np.sin(np.linspace(0, np.pi, length))
    n[:, 0] += bump
    finding = next(f for f in judged([n], "n").findings if f.code == "retrace.gap")
    assert finding.value == pytest.approx(0.35, abs=0.08)


@pytest.mark.parametrize(
    ("char", "other"), [("b", "d"), ("d", "b"), ("p", "q"), ("s", ""), ("z", ""), ("j", "")]
)
def test_a_mirrored_letter_is_that_and_nothing_else(char, other):
    strokes = [stroke * np.array([-1.0, 1.0]) for stroke in model(char)]
    finding = only(judged(strokes, char))
    assert finding.code == "shape.mirrored"
    if other:
        assert f"reads as {other}" in teacher(finding)


@pytest.mark.parametrize("char", ["o", "v", "w", "x", "l", "i"])
def test_a_letter_that_is_its_own_mirror_image_is_never_mirrored(char):
    strokes = [stroke * np.array([-1.0, 1.0]) for stroke in model(char)]
    assert "shape.mirrored" not in codes(judged(strokes, char))


def test_h_with_a_short_stem_reads_as_n_at_its_place_on_the_lines():
    h = model("h")[0].copy()
    h[:, 1] = np.minimum(h[:, 1], 1.05)
    result = judged([even(h)], "h")
    assert result.reads_as == "n"
    assert "shape.reads-as" in codes(result)


def test_n_with_a_tall_stem_reads_as_h():
    assert judged(model("h"), "n").reads_as == "h"


def test_a_bowl_left_open_is_measured_by_its_gap():
    o = model("o")[0]
    gap = np.hypot(*(o - o[0]).T)
    stop = len(o) - int(np.argmax(gap[::-1] > 0.45))
    finding = only(judged([o[:stop]], "o"))
    assert finding.code == "shape.open"
    assert finding.value == pytest.approx(0.45, abs=0.06)


@pytest.mark.parametrize(
    ("char", "kept", "named"),
    [("t", [0], "bar"), ("i", [0], "dot"), ("j", [0], "dot"), ("f", [0], "bar"), ("x", [0], "slope")],
)
def test_a_missing_part_is_named(char, kept, named):
    strokes = model(char)
    result = judged([strokes[i] for i in kept], char)
    finding = next(f for f in result.findings if f.code == "shape.part-missing")
    assert teacher(finding) == f"There is no {named}."


@pytest.mark.parametrize(("factor", "word"), [(1.7, "wider"), (0.55, "narrower")])
def test_width_is_judged_at_the_letters_own_height(factor, word):
    n = [stroke * np.array([factor, 1.0]) for stroke in model("n")]
    finding = only(judged(n, "n"))
    assert finding.code == "shape.width"
    assert word in teacher(finding).lower()
    assert codes(judged([stroke * 1.2 for stroke in model("n")], "n")) == set()


@pytest.mark.parametrize(
    ("char", "scale", "code"), [("n", 1.4, "size.tall"), ("e", 1.45, "size.tall"), ("a", 0.65, "size.short")]
)
def test_a_letter_too_tall_or_too_short_is_that_and_nothing_else(char, scale, code):
    finding = only(judged([stroke * scale for stroke in model(char)], char))
    assert finding.code == code
    assert finding.value == pytest.approx(abs(scale - 1) * 100, abs=4)


@pytest.mark.parametrize(
    ("char", "top", "code"),
    [("h", 1.55, "size.rise-short"), ("l", 2.5, "size.rise-tall"), ("d", 2.5, "size.rise-tall")],
)
def test_the_tall_part_is_measured_at_its_top(char, top, code):
    strokes = [stroke.copy() for stroke in model(char)]
    for stroke in strokes:
        beyond = stroke[:, 1] > 1
        stroke[beyond, 1] = 1 + (stroke[beyond, 1] - 1) * (top - 1)
    finding = next(f for f in judged(strokes, char).findings if f.code.startswith("size.rise"))
    assert finding.code == code
    assert finding.value == pytest.approx(abs(top - 2), abs=0.06)


@pytest.mark.parametrize(("bottom", "code"), [(-0.5, "size.drop-short"), (-1.6, "size.drop-long")])
def test_the_tail_is_measured_at_its_lowest(bottom, code):
    strokes = [stroke.copy() for stroke in model("g")]
    for stroke in strokes:
        beyond = stroke[:, 1] < 0
        stroke[beyond, 1] *= -bottom
    finding = only(judged(strokes, "g"))
    assert finding.code == code
    assert finding.value == pytest.approx(abs(bottom + 1), abs=0.06)


@pytest.mark.parametrize("char", sorted(LOWER))
@pytest.mark.parametrize(("dy", "code"), [(0.3, "position.floating"), (-0.3, "position.sinking")])
def test_a_letter_off_the_base_line_is_that_and_nothing_else(char, dy, code):
    finding = only(judged([stroke + np.array([0.0, dy]) for stroke in model(char)], char))
    assert finding.code == code
    assert finding.value == pytest.approx(0.3, abs=0.04)
    assert finding.severity == "near"


@pytest.mark.parametrize("char", "gjpqy")
def test_a_tail_that_stands_on_the_base_line(char):
    finding = only(judged([stroke + np.array([0.0, 1.0]) for stroke in model(char)], char))
    assert finding.code == "position.tail-on-line"


def test_a_scribble_and_a_tap_are_unreadable_with_no_other_finding():
    t = np.linspace(0, 1, 400)
    scribble = np.column_stack([0.6 + 0.8 * np.sin(55 * t) + 0.4 * t, 0.5 + 0.8 * np.sin(41 * t + 1)])
    for strokes in ([scribble], [np.array([[0.5, 0.5]])], [np.array([[0.5, 0.5], [0.52, 0.5]])]):
        result = judged(strokes, "n")
        assert result.verdict == "unreadable"
        assert [f.code for f in result.findings] == ["unreadable"]
        assert set(result.headings.values()) == {"not-seen"}


def test_a_rest_of_the_pen_is_told_under_flow_and_never_counted():
    n = model("n")[0]
    group = ink([n], "n")
    times = group.strokes[0].t_ms.copy()
    times[20:] += 800
    still = np.insert(group.strokes[0].points_mm, 20, group.strokes[0].points_mm[20] + 0.001, axis=0)
    held = type(group.strokes[0])(still, np.insert(times, 20, times[20] - 400))
    result = check_letter(type(group)((held,), group.ruling, "n"), "n")
    assert {f.code for f in result.findings} == {"flow.pauses"}
    assert result.verdict == "secure"
    assert result.headings[Heading.FLOW] == "secure"


def test_levels_widen_and_narrow_every_tolerance():
    floating = [stroke + np.array([0.0, 0.25]) for stroke in model("n")]
    verdicts = {level: judged(floating, "n", level=level).verdict for level in Level}
    assert verdicts == {Level.STARTING: "secure", Level.GROWING: "near", Level.SETTLED: "near"}
    far = [stroke + np.array([0.0, 0.35]) for stroke in model("n")]
    assert judged(far, "n", level=Level.SETTLED).verdict == "fix"


def test_a_curl_after_the_end_is_told_alone_and_the_rest_is_judged_without_it(rng):
    for char in "ahnu":
        result = check_letter(write(char, rng, fault="shape.part-extra", size=1.2, hand=STEADY), char)
        codes = [finding.code for finding in result.findings if finding.severity is not Severity.TOLD]
        assert codes == ["shape.part-extra"], char
        assert result.reads_as == char


def test_a_curl_that_runs_back_along_the_letter_is_extra_too(rng):
    told = [
        "shape.part-extra" in slip(char, rng, "shape.part-extra", 0.8) for char in "adu" for _ in range(8)
    ]
    assert sum(told) >= 23


@pytest.mark.parametrize("char", ["b", "h"])
def test_a_tall_stem_climbed_first_is_begun_at_the_bottom_and_nothing_else(char, rng):
    group = write(char, rng, fault="start.bottom", size=1, hand=STEADY)
    assert codes(check_letter(group, char)) == {"start.bottom"}
    case = build_case(group, char)
    assert case.match.variant == "climbed-first"
    assert case.match.cost < 0.08


@pytest.mark.parametrize("char", ["c", "s", "e"])
def test_a_start_far_to_one_side_is_no_wide_letter_and_a_wide_letter_no_start(char, rng):
    for _ in range(6):
        aside = slip(char, rng, "start.side", 0.7)
        assert "start.side" in aside
        assert "shape.width" not in aside
        wide = slip(char, rng, "shape.width", 75)
        assert "start.side" not in wide


def test_a_letter_bent_all_over_is_told_as_that_whatever_its_parts_seem_to_be(rng):
    told = [slip(char, rng, "shape.form", 0.28) for char in "abdeghkmnpruv"]
    assert sum("shape.form" in one for one in told) >= 12


def test_an_o_written_as_an_a_is_an_a(rng):
    for _ in range(8):
        result = check_letter(write("o", rng, fault="shape.reads-as", size=1, hand=STEADY), "o")
        assert result.reads_as == "a"


def test_a_w_whose_middle_stays_low_is_not_a_short_w():
    half = judged(lines([(0, 1), (0.3, 0), (0.6, 0.5), (0.9, 0), (1.2, 1)]), "w")
    hardly = judged(lines([(0, 1), (0.3, 0), (0.6, 0.2), (0.9, 0), (1.2, 1)]), "w")
    assert codes(half) == set()
    assert half.headings[Heading.SIZE] == hardly.headings[Heading.SIZE] == "secure"
    assert "shape.part-missing" in codes(hardly)


def test_a_p_gone_round_from_its_stem_up_is_the_other_way_about(rng):
    for _ in range(6):
        assert "direction.turn" in slip("p", rng, "direction.turn", 1.0)


def test_an_r_begun_aside_is_not_written_from_its_end(rng):
    for _ in range(6):
        assert "direction.reversed" not in slip("r", rng, "start.side", 0.8)


@pytest.mark.parametrize("char", "bi")
def test_a_letter_that_leans_far_is_not_begun_aside(char, rng):
    for _ in range(4):
        assert slip(char, rng, "shape.slant", 40.0) == {"shape.slant"}


def test_the_letters_it_looks_most_like_come_nearest_first():
    case = build_case(ink(model("n"), "n"), "n")
    found = nearest_readings(case, DEFAULT_STYLE, "abchnru")
    assert found[0][0] == "n"
    assert [cost for _, cost in found] == sorted(cost for _, cost in found)
    assert len(found) == 4


def test_a_stem_that_is_too_long_is_no_extra_ink(rng):
    codes = {f.code for f in check_letter(write("l", rng, fault="position.sinking", size=0.5), "l").findings}
    assert "shape.part-extra" not in codes


@pytest.mark.parametrize(
    ("own", "other", "why"),
    [("h", "n", "stem is too short"), ("n", "h", "reaches up too far"), ("c", "o", "ends meet"),
     ("a", "c", "round is left open"), ("r", "n", "goes on too long"), ("n", "r", "stops too soon"),
     ("g", "a", "tail does not hang down")],
)  # fmt: skip
def test_a_letter_taken_for_another_is_told_why(own, other, why):
    finding = next(f for f in judged(model(other), own).findings if f.code == "shape.reads-as")
    assert f"Reads as {other}" in teacher(finding)
    assert why in teacher(finding)
    assert child(finding).endswith(".")


@pytest.mark.parametrize(
    ("strokes", "char", "goal"),
    [
        ([stroke + np.array([0.0, 0.3]) for stroke in model("n")], "n", (None, 0.0)),
        ([stroke * 1.4 for stroke in model("n")], "n", (None, 1.0)),
        ([part("n", 1)], "n", (0.0, 1.0)),
        ([model("i")[0], model("i")[1] + np.array([0.0, 0.5])], "i", (0.0, None)),
    ],
)
def test_a_finding_says_where_its_place_should_be(strokes, char, goal):
    finding = only(judged(strokes, char))
    for found, wanted in zip(finding.goal - np.array([1.5, 0.0]), goal, strict=True):
        assert wanted is None or found == pytest.approx(wanted, abs=0.12)
    assert np.hypot(*(finding.goal - finding.at)) > 0.2
