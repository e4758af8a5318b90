"""What is made of words: rings, gaps, sorts, ladders, the order of units."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.recognise.lookalikes import are_alike
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.words.bank import Bank, BankWord, Kind
from firstloop.core.words.find import Place, holds
from firstloop.core.words.fits import gaps
from firstloop.core.words.ladders import ladder
from firstloop.core.words.order import unit_sets, words_by_set
from firstloop.core.words.rings import Ring, RingFinder, Wanted, step
from firstloop.core.words.sorts import RUN_MOST, gives_away, sort
from firstloop.core.words.units import sound_alike
from firstloop.formats.word_bank import shipped_bank, words_besides

BANK = shipped_bank()
SHORT = Bank(tuple(word for word in BANK if len(word.units) <= 3))


def alike(one: str, other: str) -> bool:
    return are_alike(one, other, DEFAULT_STYLE)


SETS = unit_sets(BANK, alike)
KNOWN = [unit for one in SETS for unit in one]


def changed(ring: Ring) -> list[int]:
    """By how many units each word differs from the next one."""
    pairs = zip(ring.words, (*ring.words[1:], ring.words[0]), strict=True)
    return [sum(a != b for a, b in zip(x.units, y.units, strict=True)) for x, y in pairs]


@settings(deadline=None, max_examples=20)
@given(st.integers(0, 10**6), st.integers(4, 14), st.sampled_from(Wanted))
def test_every_step_of_a_ring_changes_one_unit_and_all_its_words_are_in_the_bank(seed, sets, wanted):
    taught = SHORT.only(units=frozenset(unit for one in SETS[:sets] for unit in one))
    found = RingFinder(taught).rings(np.random.default_rng(seed), wanted=wanted, known=KNOWN)
    for ring in found:
        texts = [word.text for word in ring.words]
        assert len(texts) == len(set(texts)) >= 4
        assert all(text in taught for text in texts)
        assert changed(ring) == [1] * len(texts)
        where = [one.place for one in ring.steps]
        assert all(
            a != b for a, b in zip(where, (*where[1:], where[0]), strict=True)
        )  # another place each time
    assert len({frozenset(word.text for word in ring.words) for ring in found}) == len(found)


def test_rings_as_they_are_wanted():
    finder = RingFinder(SHORT)

    def rings(**more):
        return finder.rings(np.random.default_rng(3), known=KNOWN, **more)

    assert {len(ring.words) for ring in rings(length=7)} == {7}
    assert {len(ring.words) for ring in rings(length=6)} == {6}
    assert max(len(ring.words) for ring in rings(wanted=Wanted.LONGEST)) >= 10
    assert max(len(ring.words) for ring in rings(wanted=Wanted.SHORTEST)) == 4
    assert all(ring.words[0].text == "men" for ring in rings(start="men"))
    through = rings(through="sh")
    assert through
    assert all("sh" in ring.units for ring in through)
    easy = [max(KNOWN.index(u) for u in ring.units) for ring in rings(wanted=Wanted.EASIEST)]
    usual = [max(KNOWN.index(u) for u in ring.units) for ring in rings()]
    assert max(easy) <= max(usual)
    assert rings(start="gooseberry") == []
    assert rings(start="nowhere") == []


def test_a_unit_is_added_or_dropped_only_where_that_is_allowed():
    words = {"cat": "c-a-t", "cart": "c-ar-t", "at": "a-t", "an": "a-n", "can": "c-a-n"}
    small = Bank(tuple(BankWord(text, tuple(cut.split("-"))) for text, cut in words.items()))
    rng = np.random.default_rng(0)
    assert RingFinder(small).rings(rng) == []
    (ring,) = RingFinder(small, allow_drop=True).rings(rng, start="at")
    assert {word.text for word in ring.words} == {"at", "cat", "can", "an"}
    assert sorted((one.gone, one.new) for one in ring.steps) in (
        [("", "c"), ("c", ""), ("n", "t"), ("t", "n")],
        [("", "c"), ("c", ""), ("t", "n"), ("n", "t")],
    )
    with pytest.raises(ValueError, match="more than one step"):
        step(("c", "a", "t"), ("d", "o", "t"))


@settings(deadline=None, max_examples=6)
@given(st.integers(0, 10**6))
def test_with_dropping_allowed_every_step_still_changes_one_unit(seed):
    finder = RingFinder(SHORT, allow_drop=True)
    for ring in finder.rings(np.random.default_rng(seed), known=KNOWN):
        assert len(ring.steps) == len(ring.words)  # a step of two changes would raise
        for word, one, after in zip(ring.words, ring.steps, (*ring.words[1:], ring.words[0]), strict=True):
            units = list(word.units)
            units[one.place : one.place + bool(one.gone)] = [one.new] if one.new else []
            assert tuple(units) == after.units


def test_an_empty_bank_has_no_rings():
    assert RingFinder(Bank(())).rings(np.random.default_rng(0)) == []


@settings(deadline=None, max_examples=40)
@given(
    st.integers(0, 10**6), st.sampled_from([("e", "i"), ("b", "d"), ("k", "ck"), ("ai", "ay"), ("s", "sh")])
)
def test_of_two_units_only_the_one_that_fits_makes_a_word(seed, pair):
    found = gaps(BANK, *pair, np.random.default_rng(seed), words_besides())
    assert found
    for gap in found:
        assert set(gap.options) == set(pair)
        (fits,) = gap.fitting
        assert gap.word.units[gap.place] == fits
        (rival,) = set(pair) - {fits}
        other = (*gap.word.units[: gap.place], rival, *gap.word.units[gap.place + 1 :])
        assert other not in BANK.by_units
    assert {next(iter(gap.fitting)) for gap in found} == set(pair)  # both of them are asked for


def test_where_both_fit_is_known_and_used_only_on_purpose():
    rng = np.random.default_rng(1)
    both = gaps(BANK, "e", "i", rng, words_besides(), both=True)
    assert both
    assert all(gap.both_fit for gap in both)
    one = {gap.word.units for gap in gaps(BANK, "e", "i", rng, words_besides(), most=500)}
    assert one.isdisjoint(gap.word.units for gap in both)
    # "red" and "rid" are both in the bank, "led" and "lid" too; "den" and "din" has a word besides
    assert {"red", "bed", "den"}.isdisjoint("".join(units) for units in one)


@settings(deadline=None, max_examples=60)
@given(st.integers(0, 10**6), st.sampled_from(["sh", "ch", "s", "ee", "ck", "a_e"]), st.sampled_from(Place))
def test_a_sort_has_both_kinds_and_its_order_does_not_tell_which(seed, unit, place):
    words = sort(BANK, unit, place, np.random.default_rng(seed))
    if not words:
        return
    belongs = [one.belongs for one in words]
    assert belongs.count(True) == belongs.count(False)
    for one in words:
        assert holds(one.word, unit, place, as_sound=True) == one.belongs
        assert one.belongs or unit not in one.word.units
    assert len({one.word.text for one in words}) == len(words)
    if len(words) >= 8:
        assert not gives_away(belongs)


def test_an_order_gives_itself_away():
    yes, no = [True], [False]
    assert gives_away(yes * 6 + no * 6)
    assert gives_away((yes + no) * 4)
    assert gives_away(yes * (RUN_MOST + 1) + no + yes + no)
    assert not gives_away([True, False, False, True, True, False])


def test_where_the_belonging_stands_in_a_sort_is_evenly_spread():
    first = [sort(BANK, "sh", Place.FIRST, np.random.default_rng(seed))[0].belongs for seed in range(60)]
    assert 15 < sum(first) < 45


def test_a_ladder_goes_from_two_units_to_four_what_is_new_last():
    known = KNOWN[:30]
    taught = BANK.only(units=frozenset(known))
    rungs = ladder(taught, known, np.random.default_rng(5), count=6, practise=frozenset({"ck"}))
    sizes = [len(word.units) for word in rungs]
    assert sizes == [2, 2, 3, 3, 4, 4]
    for size in (2, 3, 4):
        newest = [max(known.index(unit) for unit in word.units) for word in rungs if len(word.units) == size]
        assert newest == sorted(newest)
    assert any("ck" in word.units for word in rungs)
    assert ladder(Bank(()), known, np.random.default_rng(5)) == []


def test_units_are_ordered_by_the_words_they_make_alike_ones_apart():
    flat = [unit for one in SETS for unit in one]
    assert len(flat) == len(set(flat))
    assert {unit for word in BANK for unit in word.units if len(unit) == 1} <= set(flat)
    for one in SETS:
        for a in one:
            assert not any(
                sound_alike(a, b) or (len(a) == len(b) == 1 and alike(a, b)) for b in one if a != b
            )
    for place, unit in enumerate(flat):
        if len(unit) > 1:
            assert set(unit.replace("_", "")) & set(flat) <= set(flat[:place])
    # most words soonest: better than the same sets the other way round, and than the alphabet
    naming = Bank(tuple(word for word in BANK if not word.by_heart and word.kind is Kind.NAMING))
    alphabet = [sorted(flat)[i : i + 4] for i in range(0, len(flat), 4)]
    assert sum(words_by_set(naming, SETS)) > 1.5 * sum(words_by_set(naming, alphabet))
    assert words_by_set(naming, SETS)[0] > 0
