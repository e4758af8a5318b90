"""A class's own names for the lines, wherever something is said of its letters."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.text import say
from firstloop.text.lines import LINES, cached_by_names, call_lines, renamed


@pytest.fixture(autouse=True)
def usual():
    yield
    call_lines(None)


def test_lines_are_called_as_the_class_calls_them():
    call_lines({"mid": "roof line"})
    assert renamed("Stop at the mid line, not the midline. Base line.") == (
        "Stop at the roof line, not the midline. Base line."
    )
    assert say("height.mid") == "the roof line"
    call_lines(None)
    assert say("height.mid") == "the mid line"


@given(st.text(), st.dictionaries(st.sampled_from(LINES), st.text("abc ", min_size=1), max_size=4))
def test_nothing_but_the_names_of_lines_changes(words, names):
    call_lines(names)
    if not any(f"{line} line" in words.lower() for line in names):
        assert renamed(words) == words


def test_what_is_remembered_is_remembered_by_the_names():
    asked = []

    @cached_by_names(8)
    def sentence(letter: str) -> str:
        asked.append(letter)
        return renamed(f"{letter} starts at the mid line")

    assert sentence("n") == sentence("n") == "n starts at the mid line"
    call_lines({"mid": "roof line"})
    assert sentence("n") == "n starts at the roof line"
    call_lines(None)
    assert sentence("n") == "n starts at the mid line"
    assert asked == ["n", "n"]
