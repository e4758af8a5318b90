"""What is crossed out, and what is not: lines through letters and along them, scribbles, other letters."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.scanning.states import Found
from firstloop.core.sheets.wish import WritingRow
from tests.core.scanning.paper import PENCIL, Paper, by_key, made
from tests.core.scanning.test_reading import alone


def test_a_line_through_a_narrow_letter_or_a_word_crosses_it_out_whatever_it_makes_of_it():
    paper = Paper(made(WritingRow(("l",), "alone*"), WritingRow(("mast",), "alone"), xh_mm=7))
    through, level, plain, word = *alone(paper)[:3], "w2p1"
    for key in (through, level, plain, word):
        paper.write(key)
    paper.strike(through, 0.3)  # steep: it looks like x
    left, top, right, bottom = paper.across(level)
    middle = np.full(30, (top + bottom) / 2)
    paper.draw(np.column_stack([np.linspace(left - 2.0, right + 2.0, 30), middle]))  # like t
    paper.strike(word, 0.4)
    told = by_key(paper.read())
    assert [told[key].found for key in (through, level, word)] == [Found.CROSSED_OUT] * 3
    assert told[plain].found is Found.INK


def test_a_line_is_told_from_the_letter_it_goes_through_and_no_other_letter_is_crossed_out():
    """Whether a bar is a letter's own, a zigzag one of its strokes, is told by following the letter."""
    paper = Paper(made(WritingRow(("e", "a", "i"), "alone*"), xh_mm=9))
    rows = [[key for key in alone(paper) if paper.entry(key).expected == char] for char in "eai"]
    (level, plain), (zigzag, steep), (other, _) = (row[:2] for row in rows)
    for key in (level, plain, zigzag, steep):
        paper.write(key)
    paper.write(other, text="m")
    left, top, right, bottom = paper.across(level)
    bar = top + 0.42 * (bottom - top)  # along the letter's own, nearly
    paper.draw(np.column_stack([np.linspace(left - 2.0, right + 2.0, 30), np.full(30, bar)]))
    _zigzag(paper, zigzag, 7)
    paper.strike(steep, 1.1)
    told = by_key(paper.read())
    assert [told[key].found for key in (level, zigzag, steep)] == [Found.CROSSED_OUT] * 3
    assert [told[key].found for key in (plain, other)] == [Found.INK] * 2


@pytest.mark.parametrize("script", Script)
def test_a_letter_with_more_to_it_than_was_asked_for_is_not_crossed_out(script):
    """One arch more, a stem that grew: what is more than the letter is no line through it."""
    style, more = HouseStyle(script=script), {"n": "m", "r": "n", "a": "d"}
    rows = [WritingRow((char,), "alone*") for char in more]
    paper = Paper(made(*rows, xh_mm=7, style=style), style=style)
    for key in alone(paper):
        paper.write(key, text=more[paper.entry(key).expected])
    assert _share_of_ink(paper) > 0.85


def test_a_line_along_a_letter_that_has_none_of_the_letter_at_its_ends_crosses_it_out():
    """Not through it: all of a j is on one side of it."""
    paper = Paper(made(WritingRow(("j",), "alone*"), xh_mm=8))
    struck, plain = alone(paper)[:2]
    for key in (struck, plain):
        paper.write(key)
    x, y = max((one.points_mm[0] for one in paper.ink_for(struck).strokes), key=lambda at: at[1])
    paper.draw(np.linspace((x + 3.0, y - 6.0), (x - 9.0, y + 18.0), 40))
    told = by_key(paper.read())
    assert [told[key].found for key in (struck, plain)] == [Found.CROSSED_OUT, Found.INK]


def _share_of_ink(paper: Paper) -> float:
    told = by_key(paper.read())
    return float(np.mean([told[key].found is Found.INK for key in alone(paper)]))


def test_a_scribble_is_something_else_and_not_crossed_out():
    """No letter is under it that was crossed out: of 56 scribbles 15 were said to be once."""
    rows = (WritingRow(("k", "x", "w"), "alone*"), WritingRow(("a", "h", "e"), "alone*"))
    paper = Paper(made(*rows), rng=np.random.default_rng(0))
    for key in alone(paper):
        paper.write(key, fault="shape.form", size=4.0)
    assert _share_of_ink(paper) > 0.9


def test_a_tiny_letter_that_runs_together_is_not_crossed_out():
    paper = Paper(made(WritingRow(("n", "w", "e"), "alone*"), xh_mm=7), lead=replace(PENCIL, width_mm=0.7))
    for number, key in enumerate(alone(paper)):
        ink = [stroke.points_mm for stroke in paper.ink_for(key).strokes]
        paper.draw(*(ink if number % 3 else _shrunk(ink, 0.25)))
    assert _share_of_ink(paper) == 1.0


def test_a_letter_is_never_crossed_out_by_its_own_lines_however_wide_they_are():
    """The legs of a wide x go on beyond what is asked for, and a wide s is one long line."""
    paper = Paper(made(WritingRow(("x", "s"), "alone*"), xh_mm=6), rng=np.random.default_rng(7))
    keys = alone(paper)[::2]
    struck = next(key for key in keys if paper.entry(key).expected == "x")
    for key in keys:
        ink = [stroke.points_mm for stroke in paper.ink_for(key).strokes]
        wide = np.array([1.0 if key == struck else 1.7 if paper.entry(key).expected == "x" else 2.3, 1.0])
        middle = np.concatenate(ink).mean(0)
        paper.draw(*((one - middle) * wide + middle for one in ink))
    x, y = middle_of(paper, struck)
    paper.draw(np.linspace((x - 5.0, y), (x + 5.0, y), 40))
    told = by_key(paper.read())
    assert {key for key in keys if told[key].found is Found.CROSSED_OUT} == {struck}


def test_a_bar_far_too_high_is_the_letters_own_and_no_line_along_it():
    paper = Paper(made(WritingRow(("t",), "alone*"), xh_mm=8))
    struck, *high = alone(paper)
    for key in high:
        stem, bar = (stroke.points_mm for stroke in paper.ink_for(key).strokes)
        lines = paper.entry(key).lines
        rise = (stem[:, 1].min() + 0.15 * lines.xh_mm) - bar[:, 1].mean()
        paper.draw(stem, bar + np.array([0.0, rise]))
    paper.write(struck)
    x, y = middle_of(paper, struck)
    paper.draw(np.linspace((x - 5.0, y + 1.0), (x + 5.0, y - 2.0), 40))
    told = by_key(paper.read())
    assert {key for key in alone(paper) if told[key].found is not Found.INK} == {struck}


def middle_of(paper: Paper, key: str) -> tuple[float, float]:
    """The middle of the small letters of a place."""
    entry = paper.entry(key)
    return (entry.box[0] + entry.box[2]) / 2, entry.lines.base_mm - entry.lines.xh_mm / 2


def test_the_tops_of_letters_in_a_row_are_no_line_through_their_word():
    paper = Paper(made(WritingRow(("rzlr", "vzlr"), "alone", 2), xh_mm=5), lead=replace(PENCIL, width_mm=0.4))
    words = [one.key for one in paper.page.entries if not one.is_letter]
    for key in words:
        entry = paper.entry(key)
        left, mid = entry.box[0], entry.lines.base_mm - 0.7 * entry.lines.xh_mm
        for x in np.linspace(left + 6, left + 21, 4):
            paper.draw(np.linspace((x - 2.1, mid), (x + 2.1, mid), 20))
            paper.draw(np.linspace((x, mid - 1.5), (x, mid + 3.5), 20))
    told = by_key(paper.read())
    assert [told[key].found for key in words] == [Found.INK] * len(words)


def _shrunk(strokes: list[np.ndarray], to: float) -> list[np.ndarray]:
    every = np.concatenate(strokes)
    foot = np.array([np.ptp(every[:, 0]) / 2 + every[:, 0].min(), every[:, 1].max()])
    return [(one - foot) * to + foot for one in strokes]


def test_what_is_filled_in_until_no_line_can_be_seen_is_crossed_out():
    """A zigzag of a blunt pen runs into one blot, whose middle line may look like a letter."""
    rows = (WritingRow(("l", "c", "f", "m"), "alone*"), WritingRow(("crab",), "alone"))
    paper = Paper(made(*rows, xh_mm=7), lead=replace(PENCIL, width_mm=0.85))
    keys = [next(key for key in alone(paper) if paper.entry(key).expected == char) for char in ("lcf")]
    word = next(one.key for one in paper.page.entries if not one.is_letter)
    for key in alone(paper):
        paper.write(key)
    for key in keys:
        _zigzag(paper, key, 7)
    _zigzag(paper, word, 40)
    told = by_key(paper.read())
    assert {key for key, one in told.items() if one.found is Found.CROSSED_OUT} == {*keys, word}


@pytest.mark.parametrize("width_mm", [0.35, 0.75])
def test_a_zigzag_crosses_out_what_is_under_it_whatever_that_is(width_mm):
    """It goes up and down again and again, also where a blunt pen makes its ways run together."""
    rows = [WritingRow((char,), "alone alone") for char in "xaegv"]
    paper = Paper(made(*rows, xh_mm=6), lead=replace(PENCIL, width_mm=width_mm))
    for key in alone(paper):
        paper.write(key, fault="shape.mirrored" if paper.entry(key).expected in "aeg" else None, size=1.0)
    struck = [key for key in alone(paper) if key.endswith("c1")]
    for key in struck:
        _zigzag(paper, key, 7)
    told = by_key(paper.read())
    assert [key for key in alone(paper) if told[key].found is Found.CROSSED_OUT] == struck


def test_a_line_through_an_i_is_none_of_it_because_of_the_dot_and_through_one_in_the_mirror_too():
    rows = [WritingRow((char,), "alone alone alone") for char in "ise"]
    paper = Paper(made(*rows, xh_mm=9))
    keys = alone(paper)
    for key in keys:
        char, wrong = paper.entry(key).expected, key.endswith("c3")
        mirrored = {"fault": "shape.mirrored", "size": 1.0} if char == "s" else {}
        paper.write(key, **({"text": "t"} if wrong and char == "i" else mirrored))
    struck = [key for key in keys if key.endswith("c1")]
    for key in struck:
        left, _, right, _ = paper.across(key)
        _, y = middle_of(paper, key)
        paper.draw(np.linspace((left - 1.6, y), (right + 1.6, y), 30))
    told = by_key(paper.read())
    assert [key for key in keys if told[key].found is Found.CROSSED_OUT] == struck


def _zigzag(paper: Paper, key: str, ways: int) -> None:
    left, top, right, bottom = paper.across(key)
    x = np.linspace(left - 0.8, right + 0.8, ways)
    corners = np.column_stack([x, np.where(np.arange(ways) % 2, top, bottom)])
    at, every = np.linspace(0, ways - 1, 30 * ways), np.arange(ways)
    paper.draw(np.column_stack([np.interp(at, every, corners[:, k]) for k in (0, 1)]))
