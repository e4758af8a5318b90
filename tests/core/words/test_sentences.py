"""Sentences looked at, how long they take, and lists of words brought in."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.words.bank import BankWord
from firstloop.core.words.bringing_in import Bad, Effect, Line, bring_in
from firstloop.core.words.pace import LEAST_LETTERS, USUAL_S, Pace, pace
from firstloop.core.words.sentences import Form, Taught, check_sentence, mended, within_reach
from firstloop.core.words.units import spell
from firstloop.formats.word_bank import (
    WordListError,
    read_word_list,
    shipped_bank,
    shipped_sentences,
    write_word_list,
)

BANK = shipped_bank()
LETTERS = frozenset("litrjnhbpmuycoadgesw")
UNITS = LETTERS


def check(text: str, **more):
    return check_sentence(text, BANK, Taught(**more))


def test_what_is_not_taught_is_marked_on_its_word_with_a_swap_that_is_taught():
    seen = check("The big ship has a red flag.", letters=LETTERS, units=UNITS)
    missing = {token.text: (token.letters, token.sounds) for token in seen.tokens if not token.is_taught}
    assert missing == {
        "ship": ((), ("sh",)),
        "flag": (("f",), ("f",)),
    }  # The and has are known by heart, or taught
    for token in seen.tokens:
        assert bool(token.swaps) is not token.is_taught
        for swap in token.swaps:
            assert set(swap) <= LETTERS
            assert BANK.by_text[swap].kind == BANK.by_text[token.text].kind
    assert not seen.is_within_reach
    assert check("A hen sat on the mat.", letters=LETTERS, units=UNITS).is_within_reach


def test_a_swap_keeps_the_capital_the_s_and_the_article():
    seen = check("Fish swam. An elk met a fox.", letters=LETTERS, units=UNITS)
    fish, elk, fox = (next(t for t in seen.tokens if t.text.lower() == one) for one in ("fish", "elk", "fox"))
    assert fish.swaps
    assert all(swap[0].isupper() for swap in fish.swaps)
    assert elk.swaps
    assert all(swap[0] in "aeiou" for swap in elk.swaps)
    assert fox.swaps
    assert all(swap[0] not in "aeiou" for swap in fox.swaps)
    boats = check("Two boats.", letters=LETTERS, units=UNITS).tokens[1]
    assert boats.sounds == ("oa",)
    assert all(swap.endswith("s") and swap[:-1] in BANK for swap in boats.swaps)


def test_a_word_that_no_bank_has_is_cut_and_looked_at_too():
    token = check("zorb", letters=LETTERS, units=UNITS).tokens[0]
    assert not token.in_bank
    assert token.units == ("z", "or", "b")
    assert token.letters == ("z",)
    assert token.sounds == ("z", "or")


@pytest.mark.parametrize(
    ("text", "forms"),
    [
        ("The cat sat.", []),
        ("the cat sat.", [Form.CAPITAL_START]),
        ("The cat sat", [Form.STOP_END]),
        ("The cat and i sat.", [Form.CAPITAL_I]),
        ("The caT sat.", [Form.CAPITAL_INSIDE]),
        ("The  cat sat.", [Form.SPACES]),
        ("The cat sat .", [Form.SPACE_BEFORE_STOP]),
        ("Can I sit?", []),
        ("", []),
        ("...", []),
    ],
)
def test_how_a_sentence_begins_and_ends(text, forms):
    assert [slip.form for slip in check(text).slips] == forms


@given(st.text("abcI i.?  ,sT", max_size=40))
def test_a_mended_sentence_has_nothing_more_to_mend_but_capitals_inside_words(text):
    now = mended(text)
    assert {slip.form for slip in check(now).slips} <= {Form.CAPITAL_INSIDE, Form.CAPITAL_START}
    assert mended(now) == now
    assert re.findall(r"[a-z]+", now.lower()) == re.findall(r"[a-z]+", text.lower())


@given(st.sets(st.sampled_from("abcdefghijklmnopqrstuvwxyz")))
def test_sentences_within_reach_hold_only_letters_taught(letters):
    for sentence in within_reach(shipped_sentences(), BANK, Taught(frozenset(letters))):
        assert {char for char in sentence.lower() if char.isalpha()} <= letters


def test_the_pace_is_the_usual_one_until_there_are_thirty_letters_and_then_the_middle_of_the_words():
    assert pace([(9, 9.0)] * 3, Level.STARTING) == Pace(USUAL_S[Level.STARTING])
    own = pace([(5, 10.0)] * 6 + [(5, 15.0)] * 3 + [(3, 300.0)], Level.STARTING)  # one child went away
    assert own == Pace(2.0, 48)
    assert own.is_measured
    assert pace([(0, 5.0), (5, 0.0)] * 20, Level.GROWING).letters == 0
    assert LEAST_LETTERS == 30
    assert Pace(2.0).seconds("the cat sat") == pytest.approx(2.0 * (9 + 2 * 0.5))
    assert Pace(2.0).seconds("") == 0


def brought(*rows: str, names=()):
    return bring_in([Line(i, tuple(row.split(","))) for i, row in enumerate(rows, start=1)], BANK, names)


def test_a_list_says_what_it_would_change_and_names_every_line_that_cannot_be_read():
    seen = brought(
        "gannet", "shell,sh-e-l-l", "cat,c-a-t", "mast,,yes", "c4t", "gull,g-u-l", "gull,g-u-ll", "gull",
        "", "skerry,s-k-e-rr-y,perhaps", "bram", "verylongwordthatneverends", "a,a,,what", names={"bram"},
    )  # fmt: skip
    effects = {entry.word.text: (entry.effect, entry.proposed) for entry in seen.entries}
    assert effects == {
        "gannet": (Effect.NEW, True),
        "shell": (Effect.CORRECTED, False),
        "cat": (Effect.SAME, False),
        "mast": (Effect.CORRECTED, False),
        "gull": (Effect.SAME, False),
    }
    assert {line.number: line.why for line in seen.bad} == {
        5: Bad.LETTERS, 6: Bad.SPELLING, 8: Bad.TWICE, 9: Bad.EMPTY, 10: Bad.BY_HEART, 11: Bad.NAME,
        12: Bad.LONG, 13: Bad.COLUMNS,
    }  # fmt: skip
    assert next(e.word for e in seen.entries if e.word.text == "mast").by_heart


@given(st.lists(st.lists(st.text(max_size=8), min_size=1, max_size=4), max_size=8))
def test_every_line_is_read_or_named(rows):
    lines = [Line(i, tuple(row)) for i, row in enumerate(rows, start=1)]
    seen = bring_in(lines, BANK)
    assert sorted([e.number for e in seen.entries] + [b.number for b in seen.bad]) == [
        one.number for one in lines
    ]
    assert all(spell(entry.word.units) == entry.word.text.lower() for entry in seen.entries)


def test_the_bank_goes_out_as_a_list_and_comes_in_the_same():
    raw = write_word_list(BANK).encode()
    seen = bring_in(read_word_list(raw), BANK)
    assert not seen.bad
    assert {entry.effect for entry in seen.entries} == {Effect.SAME}
    assert len(seen.entries) == len(BANK)
    own = write_word_list([BankWord("gannet", ("g", "a", "nn", "e", "t"), by_heart=True)])
    assert own == "word,units,by_heart\ngannet,g-a-nn-e-t,yes\n"


@pytest.mark.parametrize(
    "raw", ["\ufeffword;units\nshell;sh-e-ll\n", "shell\tsh-e-ll", "word,units\r\n\r\nshell,sh-e-ll\r\n"]
)
def test_lists_as_other_programs_write_them(raw):
    (line,) = read_word_list(raw.encode())
    assert line.columns == ("shell", "sh-e-ll")


@pytest.mark.parametrize("raw", [b"", b"word,units\n", b"\xff\xfe\x00", b"a\n" * 50_001])
def test_what_is_no_list_is_refused(raw):
    with pytest.raises(WordListError):
        read_word_list(raw)
