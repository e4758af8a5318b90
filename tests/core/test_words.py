"""Laws of words: joined by computation, or set side by side."""

from __future__ import annotations

from itertools import pairwise, product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.letterforms.alphabets import UnknownLetterError
from firstloop.core.letterforms.joined import Leave, joined
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import Ascenders, Dots, HouseStyle, Script, Tails, Width
from firstloop.core.letterforms.words import finger_xh, word
from firstloop.core.moves import MoveKind as K
from firstloop.text.movement import spoken

LOWER = "abcdefghijklmnopqrstuvwxyz"
JOINED = HouseStyle(script=Script.CURSIVE)
LOOPED = (
    HouseStyle(script=Script.CURSIVE, ascenders=Ascenders.LOOPED, slant_deg=9)
    .choosing("q", "hook")
    .choosing("r", "shoulder")
    .choosing("s", "shoulder")
    .choosing("b", "open")
    .choosing("p", "open")
    .choosing("f", "tail")
    .choosing("v", "rounded")
    .choosing("z", "tail")
)
joined_styles = st.builds(
    HouseStyle,
    script=st.just(Script.CURSIVE),
    slant_deg=st.floats(0, 15),
    entry=st.booleans(),
    ascenders=st.sampled_from(Ascenders),
    tails=st.sampled_from(Tails),
)
words = st.text(LOWER, min_size=1, max_size=7)


def turns_deg(before, after):
    cross = before[0] * after[1] - before[1] * after[0]
    return abs(np.degrees(np.arctan2(cross, before @ after)))


def joins(model):
    """Every join of a word with the move before it and the one after."""
    for span_a, span_b in pairwise(model.spans):
        if span_a.stroke == span_b.stroke:
            moves = model.strokes[span_a.stroke].moves
            yield moves[span_a.last - 1], moves[span_a.last], moves[span_b.first]


@pytest.mark.parametrize("style", [JOINED, LOOPED], ids=["plain", "looped"])
def test_any_two_letters_join_smoothly(style):
    for a, b in product(LOWER, LOWER):
        for before, join, after in joins(word(a + b, style)):
            assert join.kind in (K.EXIT_BASE, K.EXIT_MID)
            if a not in "vw":  # whose tip at the mid line is a corner of the model
                assert turns_deg(before.path.heading_out, join.path.heading_in) < 15, a + b
            if after.kind in (K.UP, K.LOOP):  # the join runs into a stem's way up, or into e
                assert turns_deg(join.path.heading_out, after.path.heading_in) < 15, a + b


@pytest.mark.parametrize("style", [JOINED, LOOPED], ids=["plain", "looped"])
def test_no_join_has_a_kink_of_its_own(style):
    for a, b in product(LOWER, LOWER):
        for _, join, _ in joins(word(a + b, style)):
            way = np.diff(join.path.points(0.02), axis=0)
            turn = [turns_deg(p, q) for p, q in pairwise(way)]
            assert max(turn, default=0) < 30, a + b  # in 0.02 xh: a tight bend is no corner


@given(words, joined_styles)
def test_the_pen_never_jumps_inside_a_stroke(text, style):
    for stroke in word(text, style).strokes:
        for before, after in pairwise(stroke.moves):
            np.testing.assert_allclose(before.path.end, after.path.start, atol=1e-9)


@given(words, joined_styles)
def test_every_move_belongs_to_one_letter_in_order(text, style):
    model = word(text, style)
    counted = [(s.stroke, m) for s in model.spans for m in range(s.first, s.last + 1)]
    assert counted == [(i, m) for i, stroke in enumerate(model.strokes) for m in range(len(stroke.moves))]
    assert {span.index for span in model.spans} == set(range(len(text)))


@given(words, joined_styles)
def test_dots_and_bars_wait_until_the_word_is_finished(text, style):
    model = word(text, style)
    kinds = [stroke.kinds[0] for stroke in model.strokes]
    late = [kinds in ((K.DOT,), (K.BAR,), (K.SLOPE_LEFT,)) for kinds in (s.kinds for s in model.strokes)]
    assert late == sorted(late)
    assert kinds.count(K.DOT) == sum(text.count(c) for c in "ij")
    owners = [s.index for s in model.spans if model.strokes[s.stroke].kinds == (K.DOT,)]
    assert owners == sorted(owners)


@given(words)
def test_letters_stand_from_left_to_right_without_touching_in_print(text):
    model = word(text)
    for at, (left, char) in enumerate(zip(model.lefts, text, strict=True)):
        right = letter(char).bounds[2] + left
        if at + 1 < len(text):
            assert letter(text[at + 1]).bounds[0] + model.lefts[at + 1] > right + 0.2


any_style = st.one_of(
    joined_styles,
    st.builds(
        HouseStyle,
        script=st.sampled_from(Script),
        slant_deg=st.floats(0, 15),
        width=st.sampled_from(Width),
    ),
)


@given(st.lists(words, min_size=2, max_size=4), any_style)
def test_one_finger_of_clear_paper_stands_between_words_in_every_hand(some, style):
    model = word(" ".join(some), style)
    starts = np.cumsum([0, *(len(one) + 1 for one in some)])
    inks = [[] for _ in some]
    for span in model.spans:
        moves = model.strokes[span.stroke].moves[span.first : span.last + 1]
        ink = inks[int(np.searchsorted(starts, span.index, side="right")) - 1]
        ink += [move.path.points(0.01)[:, 0] for move in moves]
    edges = [(np.concatenate(ink).min(), np.concatenate(ink).max()) for ink in inks]
    for (_, right), (left, _) in pairwise(edges):
        assert left - right == pytest.approx(finger_xh(style), abs=2e-3)


def test_a_finger_is_as_wide_as_the_o_of_the_class():
    assert finger_xh(HouseStyle(width=Width.WIDE)) > 1.1 * finger_xh(HouseStyle())
    assert finger_xh(HouseStyle()) == pytest.approx(letter("o").bounds[2] - letter("o").bounds[0])


def test_a_tail_crosses_its_stem_at_the_base_line():
    for char in "gjy":
        body = joined(char, JOINED)
        assert body.moves[-1].kind is K.LOOP
        np.testing.assert_allclose(body.end, [body.moves[-1].path.start[0], 0.0], atol=1e-9)
        assert "back up across" in spoken(letter(char, JOINED))


def test_tails_that_end_in_a_hook_lift():
    hooked = HouseStyle(script=Script.CURSIVE, tails=Tails.HOOKED)
    assert [joined(c, hooked).leave for c in "gjy"] == [Leave.LIFT] * 3
    assert len(word("gas", hooked).strokes) == 2
    assert len(word("gas", JOINED).strokes) == 1


def test_letters_that_end_at_the_mid_line_join_level():
    leaves = {c: joined(c, LOOPED if c == "b" else JOINED).leave for c in LOWER}
    assert {c for c, leave in leaves.items() if leave is Leave.MID} == set("orvwb")


def test_a_school_can_name_a_break():
    style = HouseStyle(script=Script.CURSIVE, breaks="s")
    assert len(word("ass", style).strokes) == 2
    assert len(word("sum", style).strokes) == 2


def test_p_retraces_its_tail_exactly():
    p = word("p", JOINED)
    down, back = p.strokes[0].moves[1], p.strokes[0].moves[2]
    assert down.path.end[1] == pytest.approx(-1)
    assert back.kind is K.RETRACE
    assert np.ptp(np.concatenate([down.path.points(), back.path.points()])[:, 0]) < 1e-9


def test_capitals_stand_before_a_joined_word():
    model = word("Mast", JOINED)
    assert model.strokes[0].start[1] == pytest.approx(2)
    assert [span.index for span in model.spans][:2] == [0, 0]  # M is two strokes, apart
    assert {s.index for s in model.spans if s.stroke == 2} == {1, 2, 3}


def test_print_with_exits_flicks_out_of_the_base_line():
    style = HouseStyle(script=Script.PRINT_EXITS)
    flicked = {c for c in LOWER if letter(c, style).strokes[0].kinds[-1] is K.EXIT_BASE}
    assert flicked == set("adhilmnu")
    for char in flicked:
        np.testing.assert_allclose(
            letter(char, style).strokes[0].start, letter(char).strokes[0].start, atol=1e-9
        )


def test_dots_may_wait_in_print_too():
    at_once, later = word("tin"), word("tin", HouseStyle(dots=Dots.AFTER_WORD))
    assert [s.index for s in at_once.spans] == [0, 0, 1, 1, 2]
    assert [s.index for s in later.spans] == [0, 1, 2, 0, 1]


def test_a_sign_the_house_cannot_draw_is_named():
    with pytest.raises(UnknownLetterError, match="%"):
        word("50%")
