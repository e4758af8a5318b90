"""The simulated writer makes the fault it is asked for, of the size it is asked for."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.curves import length, steps
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.simulate.evaluate import fault_size
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import ORDINARY_HAND, REPORT_MS, SimHand, vary
from firstloop.core.simulate.writer import sketch, write

STILL = SimHand(0, 0, 0, 0, 0, 0, 0, 1.0)


CURSIVE = HouseStyle(script=Script.CURSIVE)


def drawn(char: str, code: str | None, size: float = 1.0, seed: int = 2, style: HouseStyle = DEFAULT_STYLE):
    return sketch(char, np.random.default_rng(seed), code, size, style)


def plain(char: str, style: HouseStyle = DEFAULT_STYLE):
    return drawn(char, None, style=style)


def of(code: str):
    """Letters, capitals and digits in print that a fault is made in; never none, or a test would not fail."""
    letters = sorted(FAULTS[code].letters_in(DEFAULT_STYLE.script))
    assert letters
    return letters


MADE_IN = [
    (code, style, fault.letters_in(style.script))
    for code, fault in FAULTS.items()
    for style in (DEFAULT_STYLE, CURSIVE)
    if fault.letters_in(style.script)
]


def test_every_fault_is_of_a_code_the_checker_knows_and_is_made_in_some_letter():
    assert set(FAULTS) <= set(CODES)
    assert {code for code, _, _ in MADE_IN} == set(FAULTS)


@pytest.mark.parametrize(("code", "style", "letters"), MADE_IN)
def test_every_fault_alters_every_letter_it_is_for(code, style, letters):
    size = fault_size(code, 2)
    for char in letters:
        made, model = drawn(char, code, size, style=style), plain(char, style)
        same = len(made) == len(model) and all(
            one.shape == two.shape and np.allclose(one, two, atol=0.01)
            for one, two in zip(made, model, strict=True)
        )
        assert not same, char
        assert all(len(stroke) and np.isfinite(stroke).all() for stroke in made)


def test_a_join_left_out_is_not_written_and_a_break_in_it_is_two_strokes():
    for char in FAULTS["join.missing"].joined:
        made, model = drawn(char, "join.missing", 2, style=CURSIVE), plain(char, CURSIVE)
        assert sum(map(length, made)) < sum(map(length, model)) - 0.3, char
    for char in FAULTS["join.break"].joined:
        made, model = drawn(char, "join.break", 1, style=CURSIVE), plain(char, CURSIVE)
        assert len(made) == len(model) + 1, char


def test_bars_of_capitals_are_moved_or_parted_by_the_size():
    for char in FAULTS["shape.bar-height"].others:
        off = np.concatenate(drawn(char, "shape.bar-height", 0.3)) - np.concatenate(plain(char))
        assert np.abs(off[:, 1]).max() == pytest.approx(0.3, abs=0.01)
    for char in FAULTS["shape.bar-detached"].others:
        made, model = drawn(char, "shape.bar-detached", 0.4), plain(char)
        assert max(
            float(np.hypot(*(one[0] - two[0]))) for one, two in zip(made, model, strict=True)
        ) == pytest.approx(0.4, abs=0.05), char


@pytest.mark.parametrize(("code", "sign"), [("position.floating", 1), ("position.sinking", -1)])
def test_a_letter_is_moved_up_or_down_by_the_size(code, sign):
    for char in of(code):
        for made, model in zip(drawn(char, code, 0.4), plain(char), strict=True):
            np.testing.assert_allclose(made - model, np.tile([0, sign * 0.4], (len(made), 1)), atol=1e-9)


@pytest.mark.parametrize(("code", "factor"), [("size.tall", 1.5), ("size.short", 0.5)])
def test_a_letter_is_scaled_by_the_size(code, factor):
    for char in of(code):
        for made, model in zip(drawn(char, code, 50), plain(char), strict=True):
            np.testing.assert_allclose(made, model * factor)


@pytest.mark.parametrize(
    ("code", "end", "change"),
    [("size.rise-short", "max", -0.5), ("size.rise-tall", "max", 0.5), ("size.drop-long", "min", -0.5)],
)
def test_the_end_of_a_stem_or_tail_moves_by_the_size_and_the_middle_band_does_not(code, end, change):
    for char in of(code):
        made, model = np.concatenate(drawn(char, code, 0.5)), np.concatenate(plain(char))
        assert getattr(made[:, 1], end)() - getattr(model[:, 1], end)() == pytest.approx(change, abs=1e-6)
        inside = (model[:, 1] >= 0) & (model[:, 1] <= 1)
        np.testing.assert_allclose(made[inside], model[inside])


@pytest.mark.parametrize(("code", "axis", "sign"), [("start.high", 1, 1), ("start.low", 1, -1)])
def test_a_start_is_moved_by_the_size_and_the_rest_of_the_stroke_is_not(code, axis, sign):
    for char in of(code):
        made, model = drawn(char, code, 0.4)[0], plain(char)[0]
        assert made[0, axis] - model[0, axis] == pytest.approx(sign * 0.4)
        np.testing.assert_allclose(made[len(made) // 2 :], model[len(made) // 2 :])


def test_a_stroke_is_lifted_so_many_times_as_the_size_says():
    for char in of("lift.extra"):
        for lifts in (1, 2, 3):
            assert len(drawn(char, "lift.extra", lifts)) == len(plain(char)) + lifts


def test_strokes_run_together_are_one_stroke_that_visits_both():
    for char in of("lift.missing"):
        made, model = drawn(char, "lift.missing"), plain(char)
        assert len(made) == len(model) - 1
        assert length(made[0]) > length(model[0]) + length(model[1])


def test_a_bowl_is_left_open_by_the_size():
    for char in of("shape.open"):
        (made,) = drawn(char, "shape.open", 0.4)
        moves = letter(char).strokes[0].moves
        closing = next(move.path.end for move in moves if move.closes)
        end = made[-1] if char in "bpo" else made[0]
        assert np.hypot(*(end - closing)) == pytest.approx(0.4, abs=0.02)


def test_the_mirror_image_stands_in_the_letters_own_place():
    for char in of("shape.mirrored"):
        made, model = np.concatenate(drawn(char, "shape.mirrored")), np.concatenate(plain(char))
        assert made[:, 0].min() == pytest.approx(model[:, 0].min(), abs=1e-6)
        np.testing.assert_allclose(made[:, 1], model[:, 1])


def test_the_way_back_is_off_by_the_size_at_its_widest():
    for char in of("retrace.gap"):
        off = np.concatenate(drawn(char, "retrace.gap", 0.3)) - np.concatenate(plain(char))
        assert np.abs(off[:, 0]).max() == pytest.approx(0.3, abs=0.01)


def test_a_missing_part_makes_the_ink_shorter():
    for char in of("shape.part-missing"):
        made, model = drawn(char, "shape.part-missing"), plain(char)
        assert sum(map(length, made)) < sum(map(length, model)) - 0.02


def test_a_misshape_is_off_the_model_by_the_size_on_average():
    for char in of("shape.form"):
        off = np.concatenate(drawn(char, "shape.form", 0.2)) - np.concatenate(plain(char))
        assert np.hypot(*off.T).mean() == pytest.approx(0.2, abs=0.01)


def test_a_size_beyond_sense_is_held():
    held = drawn("n", "start.high", 5.0)[0][0, 1] - plain("n")[0][0, 1]
    assert held == pytest.approx(FAULTS["start.high"].largest)


@given(st.sampled_from(sorted(LOWER)), st.integers(0, 500))
def test_a_hand_without_variation_writes_the_model(char, seed):
    made = vary(plain(char), STILL, np.random.default_rng(seed))
    for one, two in zip(made, plain(char), strict=True):
        assert np.hypot(*(one[0] - two[0])) < 1e-6
        assert np.hypot(*(one[-1] - two[-1])) < 1e-6


@given(st.sampled_from(sorted(LOWER)), st.integers(0, 500))
def test_an_ordinary_hand_stays_near_what_it_means(char, seed):
    made = np.concatenate(vary(plain(char), ORDINARY_HAND, np.random.default_rng(seed)))
    model = np.concatenate(plain(char))
    assert abs(made[:, 1].max() - model[:, 1].max()) < 0.5
    assert abs(made[:, 1].min() - model[:, 1].min()) < 0.4


def test_a_practised_hand_varies_less():
    def spread(hand: SimHand) -> float:
        tops = [
            np.concatenate(vary(plain("n"), hand, np.random.default_rng(seed)))[:, 1].max()
            for seed in range(40)
        ]
        return float(np.std(tops))

    assert spread(ORDINARY_HAND.steadier(0.5)) < 0.7 * spread(ORDINARY_HAND)


@given(st.sampled_from(sorted(LOWER)), st.integers(0, 500))
def test_the_pen_reports_in_time_and_rests_between_strokes(char, seed):
    ink = write(char, np.random.default_rng(seed))
    last = -np.inf
    for stroke in ink.strokes:
        assert stroke.t_ms[0] > last + (0 if last < 0 else 200)
        gaps = np.diff(stroke.t_ms)
        assert (gaps > 0).all()
        assert gaps.max() <= REPORT_MS + 1
        assert ((stroke.force > 0) & (stroke.force <= 1)).all()
        last = stroke.t_ms[-1]
    assert ink.truth == char


def test_a_slower_child_takes_longer():
    slow, quick = (
        write("m", np.random.default_rng(1), hand=SimHand(pace=pace)).duration_ms for pace in (0.5, 1.0)
    )
    assert slow > 1.5 * quick


def test_the_pen_is_slow_at_the_ends_of_a_stroke():
    stroke = write("l", np.random.default_rng(3)).strokes[0]
    speed = steps(stroke.points_mm) / np.diff(stroke.t_ms)
    assert speed[:3].mean() < 0.5 * speed.max()
    assert speed[-3:].mean() < 0.6 * speed.max()
