"""Laws of the checker, on ink of the simulated writer."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.letter import Asked, check_letter, check_letters
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Severity
from firstloop.core.ink import InkError, InkGroup, InkStroke
from firstloop.core.letterforms.library import UnknownLetterError
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import HouseStyle, Width
from firstloop.core.ruling import Ruling
from firstloop.core.simulate.evaluate import fault_size
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.core.simulate.writer import write
from tests.pen import child, teacher

chars = st.sampled_from(sorted(LOWER))
seeds = st.integers(0, 10_000)
styles = st.builds(HouseStyle, slant_deg=st.sampled_from([0.0, 5.0, 10.0]), width=st.sampled_from(Width))


def found(result):
    return {f.code for f in result.findings if f.severity is not Severity.TOLD}


def written(char, seed, **kwargs):
    return write(char, np.random.default_rng(seed), **kwargs)


@given(chars, seeds, styles)
def test_clean_letters_have_nothing_to_fix_and_read_as_themselves(char, seed, style):
    result = check_letter(written(char, seed, style=style), char, style)
    assert Severity.FIX not in {f.severity for f in result.findings}
    assert result.reads_as in (char, {"a": "o", "o": "a"}.get(char, char))


faulty = st.sampled_from([None, "start.bottom", "shape.form", "size.tall", "shape.slant", "lift.extra"])


@settings(max_examples=25)
@given(st.lists(st.tuples(chars, faulty, seeds, styles), min_size=1, max_size=8))
def test_letters_judged_together_are_judged_as_each_alone(asked):
    inks = []
    for char, fault, seed, style in asked:
        can = fault if fault and char in FAULTS[fault].letters else None
        size = fault_size(can, 2) if can else 0.0
        inks.append((written(char, seed, fault=can, size=size, style=style), char, style))
    for one, ink in zip(check_letters([Asked(*ink) for ink in inks]), inks, strict=True):
        alone = check_letter(*ink)
        assert (one.verdict, one.reads_as) == (alone.verdict, alone.reads_as)
        assert [f.code for f in one.findings] == [f.code for f in alone.findings]
        assert [f.value for f in one.findings] == pytest.approx([f.value for f in alone.findings])


@given(chars, seeds, st.floats(-30, 150))
def test_where_on_the_page_it_stands_changes_nothing(char, seed, dx):
    group = written(char, seed, fault="position.floating", size=0.3)
    moved = replace(
        group, strokes=tuple(InkStroke(s.points_mm + np.array([dx, 0.0]), s.t_ms) for s in group.strokes)
    )
    here, there = check_letter(group, char), check_letter(moved, char)
    assert found(here) == found(there)
    assert here.measures.top_xh == pytest.approx(there.measures.top_xh)


@given(chars, seeds, st.floats(0.4, 2.0))
def test_a_larger_page_changes_nothing_but_the_millimetres(char, seed, factor):
    group = written(char, seed)
    r = group.ruling
    ruling = Ruling(r.mid_mm * factor, r.base_mm * factor, r.rise_mm * factor, r.drop_mm * factor)
    larger = InkGroup(tuple(InkStroke(s.points_mm * factor, s.t_ms) for s in group.strokes), ruling, char)
    here, there = check_letter(group, char), check_letter(larger, char)
    assert found(here) == found(there)
    assert there.measures.height_mm == pytest.approx(here.measures.height_mm * factor)


@given(chars, seeds)
def test_times_and_pressure_change_no_heading_but_flow(char, seed):
    group = written(char, seed, fault="size.tall", size=40)
    bare = replace(group, strokes=tuple(InkStroke(s.points_mm) for s in group.strokes))
    assert found(check_letter(group, char)) == found(check_letter(bare, char))
    assert check_letter(bare, char).measures.duration_ms is None


mirrored = FAULTS["shape.mirrored"]


@given(st.sampled_from(mirrored.letters + mirrored.others), seeds)
def test_a_mirrored_letter_is_told_as_that_and_as_nothing_else(char, seed):
    group = written(char, seed, fault="shape.mirrored", hand=ORDINARY_HAND.steadier(0.5))
    assert found(check_letter(group, char)) == {"shape.mirrored"}


@settings(max_examples=60)
@given(st.data(), seeds)
def test_a_large_fault_is_seen(data, seed):
    sure = sorted(
        {code for code, fault in FAULTS.items() if fault.letters}
        - {"shape.form", "start.side", "shape.reads-as", "position.floating", "shape.width", "start.low"}
        - {"shape.corner", "shape.open"}
    )
    fault = FAULTS[data.draw(st.sampled_from(sure))]
    char = data.draw(st.sampled_from(fault.letters))
    result = check_letter(written(char, seed, fault=fault.code, size=fault_size(fault.code, 4)), char)
    assert result.verdict != "secure"


@given(chars, seeds)
def test_every_finding_points_at_the_ink_and_fills_its_sentences(char, seed):
    codes = [code for code, fault in FAULTS.items() if char in fault.letters]
    assert len(codes) > 4
    for code in codes[:: len(codes) // 4]:
        group = written(char, seed, fault=code, size=fault_size(code, 2))
        every = np.concatenate(group.in_letter_space)
        for finding in check_letter(group, char).findings:
            assert finding.code in CODES
            assert "{" not in teacher(finding) + child(finding)
            assert np.hypot(*(every - finding.at).T).min() < 0.2


@given(chars, st.integers(1, 12), st.integers(1, 6), seeds)
def test_any_ink_at_all_is_judged_without_stumbling(char, points, strokes, seed):
    rng = np.random.default_rng(seed)
    group = InkGroup(
        tuple(InkStroke(rng.uniform(0, 40, (points, 2))) for _ in range(strokes)), Ruling(20.0, 30.0), char
    )
    assert check_letter(group, char).verdict in ("secure", "near", "fix", "unreadable")


@given(chars, seeds)
def test_a_slow_pen_and_a_coarse_tablet_still_give_a_readable_letter(char, seed):
    group = written(char, seed)
    few = tuple(InkStroke(np.round(s.points_mm[::4] / 0.25) * 0.25) for s in group.strokes)
    assert check_letter(replace(group, strokes=few), char).reads_as in (
        char,
        {"a": "o", "o": "a"}.get(char, char),
    )


def test_no_ink_and_no_such_letter_are_named():
    with pytest.raises(InkError):
        check_letter(InkGroup((), Ruling(20.0, 30.0)), "n")
    with pytest.raises(UnknownLetterError):
        check_letter(written("n", 1), "§")


def test_the_same_seed_writes_the_same_ink():
    for one, two in zip(written("g", 5).strokes, written("g", 5).strokes, strict=True):
        np.testing.assert_array_equal(one.points_mm, two.points_mm)
        np.testing.assert_array_equal(one.t_ms, two.t_ms)
