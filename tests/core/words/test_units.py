"""Units spell the word, and the bank that ships is a bank for children."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.words.bank import Bank, BankWord, Change, Kind
from firstloop.core.words.units import SOUNDS, UnitError, cut, places, read_cut, sound_alike, spell
from firstloop.demo.school import CHILDREN, JOINED_CHILDREN
from firstloop.formats.word_bank import shipped_bank, shipped_sentences, words_besides

BANK = shipped_bank()
PLAIN = sorted(unit for unit in SOUNDS if "_" not in unit)
SPLITS = sorted(unit for unit in SOUNDS if "_" in unit)
# what a five-year-old should not meet in a list of words
UNFIT = """
    anus arse ass bang-up beer bitch blood bloody bomb bonk booze boob breast bugger bum bust butt cock
    coffin corpse crap cuss damn dead death devil dick die died dies dope drug drugs drunk dumb dyke evil
    fag faggot fanny fart fat ghost gay gin gob gore grave gun guns hag hate hell ho hoe horny hump idiot
    jail kill killed kills knob lesbian mad murder naked noose nude pee penis pig-headed piss pistol
    poison poo poof porn prick pub puke pus pussy queer rape rifle rum satan scum sex sexy shag shit shoot
    shot sin skull slap slave slut smack snot spank spit stab stupid suck swear sword tit tits tobacco
    tomb tramp turd ugly vomit war wee whip whore wine witch womb
"""


def any_cut():
    """Rows of units: plain ones, or a split one around a single letter."""
    split = st.tuples(st.sampled_from(SPLITS), st.sampled_from("bcdklmnprst"))
    part = st.one_of(st.tuples(st.sampled_from(PLAIN)), split)
    return st.lists(part, min_size=1, max_size=5).map(lambda parts: tuple(u for part in parts for u in part))


@given(any_cut())
def test_units_spell_the_word_and_say_where_each_letter_stands(units):
    word = spell(units)
    own = places(units)
    assert sorted(at for one in own for at in one) == list(range(len(word)))
    for unit, at in zip(units, own, strict=True):
        assert "".join(word[i] for i in at) == unit.replace("_", "")


@given(st.text("abcdefghijklmnopqrstuvwxyz", min_size=1, max_size=12))
def test_any_word_of_letters_is_cut_into_units_that_spell_it(word):
    assert spell(cut(word)) == word


def test_a_cut_takes_the_longest_unit_and_a_final_e_belongs_to_a_split_one():
    assert cut("night") == ("n", "igh", "t")
    assert cut("snakes") == ("s", "n", "a_e", "k", "s")
    assert cut("catch") == ("c", "a", "tch")
    with pytest.raises(UnitError, match="’"):
        cut("don’t")


@pytest.mark.parametrize("text", ["", "c--t", "c-a_-t", "_e-t", "l-a_e", "l-a_e-i_e-k", "ab1-c", "abcde-f"])
def test_what_is_no_row_of_units_is_refused(text):
    with pytest.raises(UnitError):
        read_cut(text)


def test_units_must_spell_their_word():
    assert BankWord("lake", ("l", "a_e", "k")).letters == set("lake")
    with pytest.raises(UnitError, match="does not spell"):
        BankWord("lakes", ("l", "a_e", "k"))


def test_sound_alikes():
    assert all(
        sound_alike(a, b) for a, b in (("ck", "k"), ("oa", "o_e"), ("e", "i"), ("b", "p"), ("ow", "ou"))
    )
    assert not any(sound_alike(a, b) for a, b in (("m", "t"), ("sh", "oo"), ("a", "a")))


def test_the_bank_that_ships_is_large_known_and_fit_for_children():
    texts = [word.text for word in BANK]
    assert len(texts) == len(set(texts)) >= 1500
    assert {unit for word in BANK for unit in word.units} <= set(SOUNDS)
    assert set(UNFIT.split()).isdisjoint(texts)
    names = {name.split()[0].lower() for name in (*CHILDREN, *JOINED_CHILDREN)}
    assert names.isdisjoint(texts)
    assert all(word.kind is not None for word in BANK)
    assert {word.text for word in BANK if word.by_heart} >= {"the", "was", "said", "one", "where"}
    assert {"mast", "raft", "quay", "gull", "kelp", "tide"} <= set(texts)
    assert {word.text for word in BANK if word.text != word.text.lower()} == {"I"}


def test_every_unit_that_ships_is_in_words_of_the_bank():
    used = [unit for word in BANK for unit in word.units]
    assert [unit for unit in SOUNDS if used.count(unit) == 0] == []


def test_two_hundred_sentences_of_words_of_the_bank():
    sentences = shipped_sentences()
    assert len(sentences) == len(set(sentences)) >= 200
    for sentence in sentences:
        assert re.fullmatch(r"[A-Z][A-Za-z ,]*[.?]", sentence)
        for word in re.findall(r"[A-Za-z]+", sentence):
            own = {word, word.lower(), word.lower().removesuffix("s")}
            assert any(one in BANK for one in own), (word, sentence)


def test_no_unfit_word_can_come_of_a_gap():
    # a wrong answer to "which one fits" that makes such a word is known, and its gap is never offered
    assert len(words_besides()) > 1000
    assert {"tit", "sex", "gun", "damn", "bum"} <= words_besides()


def test_a_school_adds_corrects_and_hides_and_the_later_change_holds():
    gannet = BankWord("gannet", ("g", "a", "nn", "e", "t"))
    changes = [
        Change("gannet", gannet),
        Change("shell", BankWord("shell", ("sh", "e", "l", "l"))),
        Change("mast", None),
        Change("raft", None),
        Change("raft", BankWord("raft", ("r", "a", "f", "t"), by_heart=True)),
    ]
    bank = BANK.after(changes)
    assert len(bank) == len(BANK)
    assert bank.by_text["gannet"] is gannet
    assert bank.by_text["shell"].units[-2:] == ("l", "l")
    assert bank.by_text["shell"].kind is Kind.NAMING
    assert "mast" not in bank
    assert bank.by_text["raft"].by_heart
    assert "mast" in BANK


@given(st.sets(st.sampled_from("abcdefghijklmnopqrstuvwxyz")), st.sets(st.sampled_from(sorted(SOUNDS))))
def test_a_bank_of_some_letters_and_units_has_those_words_and_no_others(letters, units):
    own = BANK.only(frozenset(letters), frozenset(units))
    inside = {word.text for word in own}
    for word in BANK:
        assert (word.text in inside) == (set(word.text) <= letters and set(word.units) <= units)
    assert isinstance(own, Bank)


def test_a_childs_first_name_is_no_word_but_where_no_sentence_can_do_without():
    own = BANK.without_names(frozenset({"robin", "will", "bram"}))
    assert "robin" not in own
    assert "will" in own
    assert len(own) == len(BANK) - 1
