from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.style import Ascenders, HouseStyle, Script
from firstloop.core.simulate.writer import TEN_MM, write
from firstloop.text import put
from tests.pen import ink, model


def row(chars, rng, pitch_mm=24.0, faults=()):
    strokes = []
    for i, char in enumerate(chars):
        fault, size = dict(faults).get(i, (None, 0.0))
        strokes += write(char, rng, fault=fault, size=size, left_mm=10 + i * pitch_mm).strokes
    return InkGroup(tuple(strokes), TEN_MM, truth="".join(chars))


@pytest.mark.parametrize("truth", ["aaaaaa", "iiii", "mast", "fix", "jiffy", "quay"])
def test_a_row_or_word_is_cut_into_its_letters(truth, rng):
    result = check_group(row(truth, rng))
    assert [letter.expected for letter in result.letters] == list(truth)
    assert all(letter.verdict in ("secure", "near") for letter in result.letters)
    assert all(letter.reads_as == letter.expected for letter in result.letters)


def test_only_the_letter_with_the_slip_is_told_of(rng):
    result = check_group(row("nnnn", rng, faults={2: ("start.bottom", 1.0)}))
    assert [letter.verdict for letter in result.letters] == ["secure", "secure", "fix", "secure"]


def test_letters_written_out_of_order_still_stand_in_their_places(rng):
    group = row("crab", rng)
    shuffled = InkGroup(group.strokes[::-1], group.ruling, group.truth)
    assert [one.reads_as for one in check_group(shuffled).letters] == list("crab")


def test_a_dot_put_on_at_the_end_of_the_word_finds_its_letter(rng):
    strokes = list(row("tide", rng).strokes)
    dot = strokes.pop(3)
    result = check_group(InkGroup((*strokes, dot), TEN_MM, "tide"))
    assert result.letters[1].verdict == "secure"


def test_a_letter_left_out_is_not_seen(rng):
    group = row("rft", rng)
    result = check_group(InkGroup(group.strokes, group.ruling, "raft"))
    assert [one.verdict for one in result.letters].count("not-seen") == 1
    assert result.letters[1].verdict == "not-seen"


def test_spaces_between_words_are_no_letters(rng):
    group = row("acrab", rng)
    result = check_group(InkGroup(group.strokes, group.ruling, "a crab"))
    assert [one.expected for one in result.letters] == list("acrab")


def test_ink_that_nobody_named_is_taken_for_what_it_looks_like(rng):
    group = write("g", rng)
    assert check_group(InkGroup(group.strokes, group.ruling, "")).letters[0].expected == "g"


def test_what_the_house_cannot_judge_is_not_seen_and_says_so():
    result = check_group(ink(model("a"), "%"))
    assert "%" in put(result.note)
    assert {one.verdict for one in result.letters} == {"not-seen"}


@pytest.mark.parametrize("script", Script)
def test_ink_that_is_not_the_word_at_all_is_one_unreadable_entry(script):
    result = check_group(ink(model("a"), "mast", script=script))
    assert [(one.expected, one.verdict) for one in result.letters] == [("mast", "unreadable")]


def test_measures_are_those_of_the_ink_on_its_lines():
    measures = check_group(ink([stroke * 1.1 for stroke in model("n")], "n")).letters[0].measures
    assert measures.height_mm == pytest.approx(11.0, abs=0.1)
    assert measures.top_xh == pytest.approx(1.1, abs=0.01)
    assert measures.bottom_xh == pytest.approx(0.0, abs=0.01)
    assert measures.width_xh == pytest.approx(0.72 * 1.1, abs=0.02)
    assert (measures.start_x_xh, measures.start_y_xh) == pytest.approx((0.0, 1.1), abs=0.01)
    assert measures.slant_deg == pytest.approx(0.0, abs=1.0)
    assert measures.strokes == 1
    assert np.isfinite(measures.form_xh)


EVERY_HAND = [
    ("capitals", HouseStyle()),
    ("digits", HouseStyle()),
    ("lower case", HouseStyle(script=Script.PRINT_EXITS)),
    ("lower case", HouseStyle(script=Script.CURSIVE)),
    ("lower case", HouseStyle(script=Script.CURSIVE, ascenders=Ascenders.LOOPED, slant_deg=8)),
    ("lower case", HouseStyle().choosing("k", "one").choosing("y", "slopes").choosing("f", "tail")),
]


@pytest.mark.parametrize(("alphabet", "style"), EVERY_HAND)
def test_a_well_written_letter_of_any_alphabet_and_hand_is_hardly_ever_faulted(alphabet, style, rng):
    judged = [
        check_letter(write(char, rng, style=style), char, style)
        for char in ALPHABETS[alphabet]
        for _ in (1, 2)
    ]
    assert [one.expected for one in judged if one.verdict in ("fix", "unreadable")] == []
    assert sum(one.verdict == "near" for one in judged) <= 0.08 * len(judged)


@pytest.mark.parametrize("char", "BDPR")
def test_after_the_stem_of_a_capital_a_lift_and_a_way_back_up_are_both_accepted(char, rng):
    lift, back = HouseStyle(), HouseStyle().choosing("stems", "retrace")
    for written, taught in ((lift, back), (back, lift)):
        assert check_letter(write(char, rng, style=written), char, taught).verdict == "secure"


def test_a_capital_begun_at_the_bottom_is_told(rng):
    found = check_letter(write("L", rng, fault="start.bottom", size=1), "L").findings
    assert [one.code for one in found] == ["start.bottom"]


def test_a_digit_in_the_mirror_is_told(rng):
    for char in "2357":
        found = check_letter(write(char, rng, fault="shape.mirrored", size=1), char).findings
        assert "shape.mirrored" in {one.code for one in found}, char


def test_the_groups_own_script_wins_over_the_styles(rng):
    joined = HouseStyle(script=Script.CURSIVE)
    group = write("h", rng, style=joined)
    mine = InkGroup(group.strokes, group.ruling, "h", script="cursive")
    assert check_group(mine).letters[0].verdict == "secure"
