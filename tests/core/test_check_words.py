"""Words, rows and lines: cut into letters, and judged as a whole."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.group import check_group
from firstloop.core.check.ink.cleaning import mended, without_taps
from firstloop.core.check.segment.follow import follow
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.letterforms.words import word
from firstloop.core.simulate.evaluate import CURSIVE, EXITS, HANDS, LOOPED, WORDS, fault_size
from firstloop.core.simulate.text import WHOLE_FAULTS, write_text
from firstloop.core.simulate.writer import TEN_MM, write
from firstloop.text import put
from tests.pen import LINES, ink, teacher

STYLES = (HouseStyle(), EXITS, CURSIVE, LOOPED)
words = st.sampled_from(WORDS)
seeds = st.integers(0, 5000)
styles = st.sampled_from(STYLES)
hands = st.sampled_from(sorted(HANDS))


def whole(group, style) -> set[str]:
    return {f.code for f in check_group(group, style).findings}


@settings(max_examples=25)
@given(words, styles, hands, seeds)
def test_a_word_in_any_hand_is_cut_into_letters_that_read_as_themselves(text, style, hand, seed):
    group = write_text(text, np.random.default_rng(seed), style=style, hand=HANDS[hand].steadier(0.5))
    result = check_group(group, style)
    assert [one.expected for one in result.letters] == list(text)
    read = "".join(one.reads_as for one in result.letters)
    assert sum(a != b for a, b in zip(read, text, strict=True)) <= 1
    assert result.findings == ()


@settings(max_examples=20)
@given(words, st.sampled_from((CURSIVE, LOOPED)), hands, seeds)
def test_all_the_ink_of_a_joined_word_goes_to_some_letter(text, style, hand, seed):
    group = write_text(text, np.random.default_rng(seed), style=style, hand=HANDS[hand])
    cuts, cost = follow(group, text, style)
    assert cost < 0.2
    for number, stroke in enumerate(group.strokes):
        mine = sorted((c.first, c.last) for c in cuts if c.stroke == number)
        assert mine[0][0] == 0
        assert mine[-1][1] == len(stroke.points_mm) - 1
        assert all(a[1] == b[0] for a, b in pairwise(mine))


@pytest.mark.parametrize("style", STYLES, ids=lambda style: style.name)
@pytest.mark.parametrize("code", WHOLE_FAULTS)
def test_a_fault_of_the_whole_is_told_of_the_whole(code, style):
    texts = ("a crab", "red gull") if code.startswith("words.") else ("lamp", "drift")
    for text in texts:
        group = write_text(
            text, np.random.default_rng(5), fault=code, size=fault_size(code, 4), style=style,
            hand=HANDS["kept"].steadier(0.5),
        )  # fmt: skip
        assert code in whole(group, style), text


def test_a_lift_in_a_join_is_told_of_the_letter_before_it():
    group = write_text("mast", np.random.default_rng(1), style=CURSIVE, lifts=(1,))
    result = check_group(group, CURSIVE)
    broken = [one.expected for one in result.letters if any(f.code == "join.break" for f in one.findings)]
    assert broken == ["a"]


def box_row(tops, gap=1.6, slope=0.0):
    """A row of l-like strokes as tall as `tops`, the feet on a slope."""
    strokes = []
    for i, top in enumerate(tops):
        x, foot = gap * i, np.tan(np.radians(slope)) * gap * i
        y = np.linspace(foot + top, foot, 30)
        strokes.append(np.column_stack([np.full(30, x), y]))
    return ink(strokes, "l" * len(tops))


def test_the_slope_of_a_row_is_measured_in_degrees():
    result = check_group(box_row([2, 2, 2, 2, 2], slope=5.0))
    assert result.measures["drift_deg"] == pytest.approx(5.0, abs=0.2)
    (drift,) = [f for f in result.findings if f.code == "line.drift"]
    assert "climbs by 5 degrees" in teacher(drift)
    assert check_group(box_row([2, 2, 2, 2, 2], slope=2.0)).findings == ()


def test_letters_of_a_row_that_differ_in_height_are_uneven():
    (uneven,) = check_group(box_row([2, 2.32, 2, 1.7, 2])).findings
    assert uneven.code == "size.uneven"
    assert uneven.value == pytest.approx(100 * (2.32 / 1.7 - 1), abs=3)


def test_the_order_in_which_other_letters_were_written_changes_nothing():
    group = write_text("fish", np.random.default_rng(2), fault="line.drift", size=5)
    turned = replace(group, strokes=(*group.strokes[2:], *group.strokes[:2]))
    for a, b in zip(check_group(group).letters, check_group(turned).letters, strict=True):
        assert (a.expected, a.verdict, a.reads_as) == (b.expected, b.verdict, b.reads_as)


def test_marks_are_found_and_not_judged():
    group = write_text("a crab.", np.random.default_rng(1))
    result = check_group(group)
    assert [one.expected for one in result.letters] == list("acrab.")
    assert ".: found, not judged." in put(result.note)


def test_a_scribble_is_one_unreadable_entry_in_any_script():
    t = np.linspace(0, 1, 500)
    scribble = np.column_stack([3 + 3 * np.sin(37 * t) + 2 * t, 0.5 + 1.2 * np.sin(61 * t)])
    for script in Script:
        result = check_group(ink([scribble], "mast", script=str(script)))
        assert [(one.expected, one.verdict) for one in result.letters] == [("mast", "unreadable")]


def timed(*runs):
    return tuple(InkStroke(np.array(p, dtype=float), np.array(t, dtype=float)) for p, t in runs)


def test_a_stroke_that_the_pen_cut_in_two_is_put_together_and_a_lift_of_the_hand_is_not():
    first = ([(10, 20), (10, 25)], [0, 100])
    soon, late = ([(10, 25.5), (10, 30)], [120, 220]), ([(10, 25.5), (10, 30)], [400, 500])
    far = ([(16, 25.5), (16, 30)], [120, 220])
    (whole_stroke,) = mended(InkGroup(timed(first, soon), LINES, "l")).strokes
    assert len(whole_stroke.points_mm) == 4
    assert len(mended(InkGroup(timed(first, late), LINES, "l")).strokes) == 2
    assert len(mended(InkGroup(timed(first, far), LINES, "l")).strokes) == 2


def test_taps_are_no_writing_but_for_as_many_dots_as_the_letter_has():
    stem, low, high = (np.array(p, dtype=float) for p in ([(0, 1), (0, 0)], [(0.4, -0.3)], [(0, 1.4)]))
    assert without_taps([stem, low, high]) == [0]
    assert without_taps([stem, low, high], dots=1) == [0, 2]
    assert without_taps([low, high]) == [0, 1]


@settings(max_examples=25)
@given(st.sampled_from("acehimnux"), seeds, st.floats(0.28, 0.5))
def test_adding_a_second_fault_never_removes_the_first(char, seed, lift):
    """A letter that floats still floats when it is also written another way."""
    rng = np.random.default_rng(seed)
    hand = HANDS["kept"].steadier(0.3)
    for other in ("lift.extra", "size.tall", "flow"):
        fault = None if other == "flow" else other
        group = write(char, rng, fault=fault, size=1.0 if fault == "lift.extra" else 45.0, hand=hand)
        raised = tuple(replace(s, points_mm=s.points_mm - [0.0, 10 * lift]) for s in group.strokes)
        found = check_group(replace(group, strokes=raised)).letters[0].findings
        codes = {f.code for f in found}
        assert "position.floating" in codes
        if other == "size.tall" and char != "i":
            assert "size.tall" in codes


def test_a_palm_on_the_page_changes_nothing(rng):
    group = write("n", rng)
    dots = (InkStroke(np.array([[30.0, 38.0], [30.05, 38.0]])), InkStroke(np.array([[12.0, 36.0]])))
    with_palm = replace(group, strokes=(*group.strokes, *dots), ruling=TEN_MM)
    assert check_group(with_palm).letters[0].verdict == check_group(group).letters[0].verdict


@given(
    st.sampled_from(("mint", "tin", "drift", "limit", "jilt")),
    st.sampled_from((0.7, 0.9)),
    st.integers(0, 2**20),
)
def test_a_dot_put_far_off_is_still_the_dot_of_its_letter(text, off_xh, seed):
    at = next(i for i, char in enumerate(text) if char in "ij")
    group = write_text(text, np.random.default_rng(seed), slips={at: ("shape.dot-gap", off_xh)})
    letters = check_group(group).letters
    assert "shape.part-missing" not in [one.code for letter in letters for one in letter.findings]
    assert "shape.part-extra" not in [one.code for letter in letters for one in letter.findings]


@pytest.mark.parametrize("code", ["start.bottom", "shape.open", "size.tall", "position.floating"])
def test_a_slip_in_a_word_is_told_of_its_letter_alone(code, rng):
    size = {"start.bottom": 1.0, "shape.open": 0.5, "size.tall": 60.0, "position.floating": 0.5}[code]
    found = [
        [one.code for one in letter.findings if one.severity != "told"]
        for letter in check_group(write_text("sand", rng, slips={1: (code, size)})).letters
    ]
    assert code in found[1]
    assert [found[i] for i in (0, 2, 3)] == [[], [], []]


@pytest.mark.parametrize("style", STYLES, ids=lambda style: style.name)
def test_a_letter_left_out_of_a_word_is_missing_and_no_other_is_cut_to_fill_its_place(style):
    wrong = []
    for text in WORDS[::2]:
        for at in range(len(text)):
            group = write_text(text[:at] + text[at + 1 :], np.random.default_rng(at), style=style)
            letters = check_group(replace(group, truth=text), style).letters
            missing = [one.expected for one in letters if one.verdict == "not-seen"]
            if missing != [text[at]] or any(one.verdict == "fix" for one in letters):
                wrong.append((text, at))
    assert len(wrong) <= 0.1 * sum(map(len, WORDS[::2])), wrong


@pytest.mark.parametrize("written", ["crab", "a rab", "a cra"])
def test_a_letter_or_a_whole_word_left_out_of_a_joined_line_is_missing(written, rng):
    group = replace(write_text(written, rng, style=CURSIVE), truth="a crab")
    verdicts = [one.verdict for one in check_group(group, CURSIVE).letters]
    assert verdicts.count("not-seen") == 1
    assert "fix" not in verdicts


def test_letters_of_print_that_run_together_are_still_found():
    lost = []
    for text in WORDS:
        model = word(text, HouseStyle())
        owner = {one.stroke: one.index for one in model.spans}  # in print a stroke is of one letter
        group = write_text(text, np.random.default_rng(3))
        strokes = list(group.strokes)
        runs_on = next(s for s in range(len(strokes)) if owner[s] != owner[s + 1])
        both = np.vstack([stroke.points_mm for stroke in strokes[runs_on : runs_on + 2]])
        strokes[runs_on : runs_on + 2] = [InkStroke(both)]
        read = "".join(one.reads_as for one in check_group(replace(group, strokes=tuple(strokes))).letters)
        if read != text:
            lost.append((text, read))
    assert len(lost) <= 0.2 * len(WORDS), lost
