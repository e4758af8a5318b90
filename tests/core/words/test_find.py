"""Every word found meets every condition, and none that does is left out."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.words.bank import BankWord
from firstloop.core.words.find import Conditions, Counted, Place, able, find, of_one_length
from firstloop.core.words.joins import JoinKind, join, joins, tricky
from firstloop.core.words.units import SOUNDS
from firstloop.formats.word_bank import shipped_bank

BANK = shipped_bank()
PRINT, JOINED = HouseStyle(), HouseStyle(script=Script.CURSIVE)
LETTERS = "abcdefghijklmnopqrstuvwxyz"


def meets(word: BankWord, given_: Conditions) -> bool:
    """The conditions once more, spelt out another way."""
    units, text = list(word.units), word.text.lower()
    size = len(units) if given_.counted is Counted.UNITS else len(text)
    ok = given_.least <= size <= (given_.most or 99)
    ok &= given_.letters is None or all(char in given_.letters for char in word.text)
    ok &= given_.units is None or all(unit in given_.units for unit in units)
    ok &= given_.by_heart in (None, word.by_heart)
    ok &= given_.practise is None or any(char in word.text for char in given_.practise)
    if given_.holds:
        by_units = given_.as_sound or len(given_.holds) > 1
        parts = units if by_units else list(text)
        if given_.place is Place.LAST and "_" in given_.holds:
            parts = parts[:-1]
        at = [i for i, one in enumerate(parts) if one == given_.holds]
        ok &= {
            Place.ANYWHERE: bool(at),
            Place.FIRST: 0 in at,
            Place.LAST: len(parts) - 1 in at,
            Place.MIDDLE: any(0 < i < len(parts) - 1 for i in at),
            Place.DOUBLED: len(at) > 1 if by_units else 2 * given_.holds in text,
        }[given_.place]
    if given_.pair or given_.join:
        own = [one for one in joins(word.text, PRINT) if given_.pair in ("", one.pair)]
        ok &= any(given_.join is None or given_.join in one.kinds for one in own)
    return ok


conditions = st.builds(
    Conditions,
    letters=st.none() | st.sets(st.sampled_from(LETTERS), min_size=12).map(frozenset),
    units=st.none() | st.sets(st.sampled_from(sorted(SOUNDS)), min_size=40).map(frozenset),
    holds=st.sampled_from(["", "e", "s", "t", "l", "sh", "ck", "a_e", "ll", "oo"]),
    place=st.sampled_from(Place),
    as_sound=st.booleans(),
    least=st.integers(1, 4),
    most=st.none() | st.integers(3, 6),
    counted=st.sampled_from(Counted),
    practise=st.none() | st.sets(st.sampled_from(LETTERS), max_size=2).map(frozenset),
    pair=st.sampled_from(["", "", "on", "ro", "wa", "st"]),
    join=st.none() | st.sampled_from(JoinKind),
    by_heart=st.none() | st.booleans(),
)


@given(conditions)
def test_the_words_found_are_those_that_meet_every_condition(asked):
    found = {one.text for one in find(BANK, asked, PRINT)}
    assert found == {word.text for word in BANK if meets(word, asked)}


def test_the_letter_taught_last_comes_first_then_what_is_due_then_the_short_ones():
    taught = "litrjnhbpmuycoad"
    found = find(BANK, Conditions(letters=frozenset(taught)), PRINT, list(taught), frozenset("bp"))
    newest = [max(taught.index(char) for char in one.text) for one in found]
    assert newest == sorted(newest, reverse=True)
    first = [one for one, place in zip(found, newest, strict=True) if place == newest[0]]
    due = [len(one.letters & {"b", "p"}) for one in first]
    assert due == sorted(due, reverse=True)
    assert due[0] > due[-1]


def test_each_word_says_how_many_children_have_all_its_letters():
    children = [frozenset("cat"), frozenset("catr"), frozenset("at")]
    counts = [able(BANK.by_text[text], children) for text in ("cat", "at", "cart", "dog")]
    assert counts == [2, 3, 1, 0]


def test_words_of_one_length_for_a_sheet():
    words = [BANK.by_text[text] for text in ("ship", "cat", "dog", "hen", "sand", "a")]
    assert [one.text for one in of_one_length(words, 3)] == ["cat", "dog", "hen"]
    assert [one.text for one in of_one_length(words, 2)] == ["ship", "sand"]
    assert of_one_length([], 2) == []


def test_joins_leave_the_mid_line_after_o_r_v_w_and_meet_rounds():
    assert tricky("road", PRINT) == ["ro", "oa"]
    assert tricky("van", JOINED) == ["va"]
    assert tricky("land", JOINED) == []
    assert join("oa", JOINED).kinds == {JoinKind.FROM_MID, JoinKind.INTO_ROUND}
    assert join("nd", JOINED).kinds == {JoinKind.INTO_ROUND}
    assert join("el", JOINED).kinds == {JoinKind.INTO_TALL}
    assert join("Ca", JOINED) is None
    lifting = HouseStyle(script=Script.CURSIVE, breaks="os")
    assert join("oa", lifting).kinds == {JoinKind.LIFTED}
    assert tricky("road", lifting) == ["ro"]
