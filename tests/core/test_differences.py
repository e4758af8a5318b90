"""Where schools differ: both ways are drawn, differ, and the first is what nobody chose."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.letterforms.differences import differences
from firstloop.core.letterforms.style import DEFAULT_STYLE, Dots, HouseStyle, Script
from firstloop.services.differences import where_schools_differ
from firstloop.services.letters import numbered_paths
from firstloop.text import say


@pytest.mark.parametrize("one", differences(), ids=lambda one: one.key)
def test_both_ways_differ_to_the_eye_and_are_said(one):
    drawn = [
        (side.crossed, side.ruled, [(len(s.points), *s.points[0].round(2)) for s in side.model.sampled])
        for side in one.sides
    ]
    assert drawn[0] != drawn[1]
    for name in ("question", "one", "one.for", "two", "two.for", "why"):
        assert say(f"difference.{one.key}.{name}")
    assert one.chosen(DEFAULT_STYLE) == 0


def test_numbers_stand_clear_of_the_ink():
    for one in differences():
        for side in one.sides:
            ink = np.concatenate([s.points for s in side.model.sampled])
            for _, (x, y) in numbered_paths(side.model) if side.numbered else ():
                assert np.hypot(*(ink * (100, -100) - (x, y)).T).min() > 12, one.key


def test_a_class_sees_what_it_takes_itself(session):
    told = {one.key: one for one in where_schools_differ(session, None)}
    assert told["choice-k"].chosen == 0
    assert told["correction"].chosen is None
    own = HouseStyle(script=Script.CURSIVE, entry=False, breaks="s", dots=Dots.AFTER_WORD).choosing(
        "k", "one"
    )
    chosen = {one.key: one.chosen(own) for one in differences()}
    assert [chosen[key] for key in ("choice-k", "dots", "entry", "breaks", "choice-E")] == [1, 1, 1, 1, 0]
