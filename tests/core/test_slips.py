from __future__ import annotations

import pytest

from firstloop.core.letterforms.alphabets import measures_of, shared_by
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.patter import WordsError, checked_words, patter
from firstloop.core.simulate.makers import LOOK_ALIKES
from firstloop.core.simulate.slips import MOST, slips
from firstloop.text import catalogue, say


@pytest.mark.parametrize("char", list("abdeghmnpuB25"))
def test_a_slip_is_told_by_the_checker_and_read_as_something(char):
    found = slips(char)
    assert 1 <= len(found) <= MOST
    for slip in found:
        assert slip.finding.code == slip.code
        assert say(f"slip.{slip.name}")
        assert slip.reads_as
        assert all(len(points) == len(t) for points, t in zip(slip.strokes, slip.t_ms, strict=True))
    assert len({slip.code for slip in found}) == len(found)


def test_the_slips_a_teacher_knows():
    by_code = {slip.code: slip for slip in slips("h")}
    assert by_code["shape.reads-as"].reads_as == "n"
    assert say(f"slip.{by_code['shape.reads-as'].name}") == "Stem too short"
    assert {slip.reads_as for slip in slips("e") if slip.code == "shape.reads-as"} == {"c"}
    assert "retrace.gap" in {slip.code for slip in slips("m")}
    assert next(slip for slip in slips("b") if slip.code == "shape.mirrored").reads_as == "d"


def test_every_likeness_that_is_shown_has_words():
    assert {char for char in LOOK_ALIKES if catalogue.has(f"slip.made-like.{char}")} == set(LOOK_ALIKES)


def test_slips_are_the_same_every_time():
    one, two = slips("n"), slips("n")
    assert all((a.strokes[0] == b.strokes[0]).all() for a, b in zip(one, two, strict=True))


def test_a_shared_part_names_all_letters_that_have_it():
    assert set("nmhrbp") <= set(shared_by("branch_xh"))
    assert set("adgq") <= set(shared_by("bowl_start_xh"))
    assert "l" not in shared_by("branch_xh")
    assert shared_by("dot_xh") == ("i", "j")
    assert "bowl_width_xh" in measures_of(DEFAULT_STYLE)["o"]


def test_own_words_need_a_phrase_for_each_part():
    n = letter("n")
    own = [f" phrase  {i} " for i in range(len(patter(n)))]
    assert checked_words(n, own)[0] == "phrase 0"
    with pytest.raises(WordsError, match="needs"):
        checked_words(n, own[1:])
    with pytest.raises(WordsError, match="empty"):
        checked_words(n, [" ", *own[1:]])
