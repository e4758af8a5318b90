"""The second simulated hand, bad pens, lines of text, and the evaluation that counts what they wrote."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.letter import check_letter
from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.curves import along, nearest
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.letterforms.words import word
from firstloop.core.simulate.evaluate import CURSIVE, HANDS, INK_SETS, evaluate, fault_size, jobs, run
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import AGES, SimHand
from firstloop.core.simulate.makers import plain
from firstloop.core.simulate.own_forms import OwnForms
from firstloop.core.simulate.pens import PENS
from firstloop.core.simulate.splines import run_through
from firstloop.core.simulate.strokelets import move, targets
from firstloop.core.simulate.text import WHOLE_FAULTS, write_text
from firstloop.core.simulate.writer import write
from firstloop.formats.evaluation_md import evaluation_markdown
from firstloop.formats.samples_svg import sample_sheet

KEPT = HANDS["kept"]
STILL = SimHand(0, 0, 0, 0, 0, 0, 0, 0.8, "strokelets")
chars = st.sampled_from(sorted(ALPHABETS["lower case"]))
seeds = st.integers(0, 5000)


@given(chars, seeds)
def test_strokelets_reach_their_targets_and_end_at_rest(char, seed):
    points, times = move(plain(letter(char)), STILL, np.random.default_rng(seed))
    for meant, drawn, t in zip(plain(letter(char)), points, times, strict=True):
        np.testing.assert_allclose(drawn[0], meant[0], atol=0.02)
        np.testing.assert_allclose(drawn[-1], meant[-1], atol=0.02)
        assert (np.diff(t) > 0).all()
        if len(drawn) > 20:
            speed = np.hypot(*np.diff(drawn, axis=0).T)
            assert speed[-3:].mean() < 0.5 * speed.max()


@given(chars)
def test_targets_go_from_end_to_end_and_the_point_of_a_v_is_one(char):
    run_ = plain(letter(char))[0]
    if float(along(run_)[-1]) > 0.3:
        where, corners = targets(run_)
        assert where[0] == 0
        assert where[-1] == len(run_) - 1
        assert where == sorted(set(where))
        assert len(where) == len(corners)


def test_two_hands_of_one_size_vary_about_as_much():
    def spread(hand):
        tops = [
            np.concatenate(write("n", np.random.default_rng(seed), hand=hand).in_letter_space)[:, 1].max()
            for seed in range(40)
        ]
        return float(np.std(tops))

    assert 0.4 < spread(KEPT) / spread(HANDS["tuning"]) < 2.5


@given(chars, seeds)
def test_letterforms_of_ones_own_stand_on_the_lines_and_begin_and_turn_as_the_models_do(char, seed):
    model = letter(char)
    own = OwnForms.someone(np.random.default_rng(seed)).of(model)
    assert own.kinds == model.kinds
    np.testing.assert_allclose(own.bounds[1::2], model.bounds[1::2], atol=0.06)
    for mine, theirs in zip(own.sampled, model.sampled, strict=True):
        assert np.hypot(*(mine.points[0] - theirs.points[0])) < 0.25
    if model.bounds[2] > 0.5:
        assert np.abs(nearest(own.points, model.points)).max() > 0.005


@given(st.sampled_from(["raft", "mend", "dog"]), st.sampled_from([CURSIVE, DEFAULT_STYLE]), seeds)
def test_words_in_ones_own_letterforms_stay_whole(text, style, seed):
    own = OwnForms.someone(np.random.default_rng(seed)).of(word(text, style))
    assert own.char == text
    assert len(own.lefts) == len(text)
    for stroke in own.strokes:
        for before, after in pairwise(stroke.moves):
            np.testing.assert_allclose(before.path.end, after.path.start, atol=1e-9)


@given(chars, seeds)
def test_splines_begin_and_end_where_they_mean_to_and_stop_there(char, seed):
    meant = plain(letter(char))
    drawn, times = run_through(meant, replace(STILL, built="splines"), np.random.default_rng(seed))
    for stroke, points, t in zip(meant, drawn, times, strict=True):
        np.testing.assert_allclose(points[0], stroke[0], atol=0.02)
        np.testing.assert_allclose(points[-1], stroke[-1], atol=0.05)
        assert (np.diff(t) > 0).all()


@settings(max_examples=40)
@given(st.sampled_from(sorted(PENS)), st.sampled_from(sorted(HANDS)), chars, seeds)
def test_a_bad_pen_makes_no_letter_wrong(pen, hand, char, seed):
    rng = np.random.default_rng(seed)
    steady = HANDS[hand].steadier(0.6)
    result = check_letter(PENS[pen](write(char, rng, hand=steady), rng), char)
    assert result.verdict in ("secure", "near")
    assert result.reads_as == char


@pytest.mark.parametrize("pen", PENS)
def test_a_bad_pen_keeps_the_ink_in_its_place(pen, rng):
    clean = write("m", rng)
    spoilt = PENS[pen](clean, rng)
    whole = np.concatenate([s.points_mm for s in clean.strokes])
    writing = max(spoilt.strokes, key=lambda s: len(s.points_mm)).points_mm
    apart = np.hypot(*(writing[:, None] - whole[None]).T).min(0)
    assert apart.max() < 1.0
    for stroke in spoilt.strokes:
        if stroke.t_ms is not None:
            assert (np.diff(stroke.t_ms) >= 0).all()


def test_the_younger_the_hand_the_more_it_varies_and_the_slower_it_is():
    young, middle, old = AGES.values()
    assert young.wobble_xh > middle.wobble_xh > old.wobble_xh
    assert young.pace < middle.pace < old.pace


@pytest.mark.parametrize("code", WHOLE_FAULTS)
def test_a_fault_of_a_line_moves_its_letters_by_the_size(code):
    text = "a crab" if code.startswith("words") else "crab"
    hand = SimHand(0, 0, 0, 0, 0, 0, 0, 0.8)
    clean, made = (
        write_text(text, np.random.default_rng(1), fault=fault, size=fault_size(code, 2), hand=hand)
        for fault in (None, code)
    )
    a, b = (np.concatenate([s.points_mm for s in group.strokes]) for group in (clean, made))
    if a.shape != b.shape:  # larger letters take longer
        assert code in ("size.uneven", "line.drift")
        return
    assert np.abs(a - b).max() > 0.5
    assert np.abs(a[:, 1] - b[:, 1]).max() < 1e-6 or code == "line.drift"


@given(st.sampled_from(sorted(CODES)))
def test_four_tolerances_are_worse_than_two(code):
    spec = CODES[code]
    if spec.tolerance is not None:
        assert (fault_size(code, 4) < fault_size(code, 2)) == spec.small_is_worse


def test_every_code_that_can_be_made_is_evaluated_in_some_part():
    tried = {job.code for job in jobs(1, 1)}
    assert tried - {None} >= set(FAULTS) | set(WHOLE_FAULTS)
    assert {job.pen for job in jobs(1, 1)} >= set(PENS)


def test_an_evaluation_counts_what_it_wrote_whatever_the_order_and_says_so():
    todo = jobs(1, 3, parts=[INK_SETS[0]], hands=("kept", "own"), codes=["start.bottom", "shape.form"])
    told = []
    table = evaluate(todo, lambda done, total: told.append((done, total)))
    back = evaluate(todo[::-1])
    everything, again = (t.where(lambda job: True) for t in (table, back))
    assert everything.clean == again.clean == 2 * 4 * 26
    row = everything.rows["start.bottom"]
    assert row.tried == {2: 2 * len(FAULTS["start.bottom"].letters), 4: row.tried[2]}
    assert row.found == again.rows["start.bottom"].found
    assert row.recall(2) > 0.9
    assert np.isnan(again.row("size.tall").recall(2))
    assert told[-1] == (len(todo), len(todo))
    text = evaluation_markdown(table, 1, 3)
    assert "| print | kept | 104 |" in text
    assert "`start.bottom`" in text
    sheet = sample_sheet(everything.samples)
    assert sheet.count("<path") >= len(everything.samples) > 0


def test_a_job_has_its_own_numbers():
    job = jobs(1, 3, parts=[INK_SETS[0]], codes=[])[0]
    assert run(job).clean_any == run(job).clean_any
    assert job.rng.random() != replace(job, hand="kept").rng.random()
    assert job.part.style == DEFAULT_STYLE


def test_a_rest_on_the_way_is_told_as_a_pause_and_nothing_else(rng):
    group = PENS["a-rest-on-the-way"](write("m", rng, hand=KEPT.steadier(0.5)), rng)
    assert {f.code for f in check_letter(group, "m").findings} == {"flow.pauses"}
