"""What a lesson asks children to write is of what is taught by its day."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.planning.offer import WORDS_MOST, can_write, sentence_for, words_for
from firstloop.core.words.joins import JoinKind, pairs_of
from firstloop.formats.word_bank import shipped_bank, shipped_sentences

ORDER = "litjrnmhbpuycoadgqvwxzkesf"
BANK, SENTENCES = shipped_bank(), shipped_sentences()
taught = st.integers(2, len(ORDER))


@given(taught)
def test_no_word_holds_a_letter_that_is_not_taught_and_what_is_new_comes_first(count):
    known, new = ORDER[:count], ORDER[count - 2 : count]
    words = words_for(BANK, known, new, "", DEFAULT_STYLE)
    assert len(words) <= WORDS_MOST
    assert all(set(word) <= set(known) for word in words)
    held = [len(set(word) & set(new)) for word in words]
    assert held == sorted(held, reverse=True)
    assert all(held)


@given(taught, st.integers(0, 60))
def test_no_sentence_holds_a_letter_that_is_not_taught(count, turn):
    known, new = ORDER[:count], ORDER[count - 1 : count]
    text = sentence_for(SENTENCES, BANK, known, new, turn)
    assert {char for char in text.lower() if char.isalpha()} <= set(known)


def test_a_sentence_has_the_new_letter_where_one_does_and_lessons_take_turns():
    several = {sentence_for(SENTENCES, BANK, ORDER, "k", turn) for turn in range(8)}
    assert len(several) > 1
    assert all("k" in text.lower() for text in several)
    assert sentence_for(SENTENCES, BANK, "x", "x", 0) == ""


def test_a_capital_is_met_at_the_head_of_words_of_known_letters():
    words = words_for(BANK, [*ORDER, "T"], ["T"], "", DEFAULT_STYLE)
    assert words
    assert all(word[0] == "T" and word[1:].islower() for word in words)


@pytest.mark.parametrize("kind", [JoinKind.INTO_ROUND, JoinKind.FROM_MID])
def test_words_for_joins_have_the_join(kind):
    pairs = pairs_of(kind, DEFAULT_STYLE)
    words = words_for(BANK, ORDER, [str(kind)], "", DEFAULT_STYLE)
    assert words
    assert all(any(pair in word for pair in pairs) for word in words)


def test_where_nothing_is_new_words_have_what_is_due():
    words = words_for(BANK, ORDER, [], "gq", DEFAULT_STYLE)
    assert all({"g", "q"} & set(word) for word in words)


def test_letters_are_known_in_both_heights_and_figures_need_no_lesson():
    assert can_write("Tuesday 1 December", "tuesdaycmbr")
    assert not can_write("Tuesday 1 December", "tuesday")
