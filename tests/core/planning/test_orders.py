"""Orders: what they cost, and that the search finds what trying everything finds."""

from __future__ import annotations

from itertools import pairwise, permutations, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.planning.costs import FORTNIGHT, LONG_AGO, Measure, ready
from firstloop.core.planning.costs import gaps as gaps_of
from firstloop.core.planning.course import Family, course, spread
from firstloop.core.planning.orders import SEARCHED, Aim, Search

ABC = "abcdefgh"


def measure(chars: str, words=(), alike=(), fixed=(), distance=None, span=(0, 60)) -> Measure:
    count = len(chars)
    table = np.ones((count, count)) if distance is None else np.asarray(distance, dtype=float)
    return Measure(
        tuple(chars), count - len(fixed), tuple(fixed), table,
        tuple((chars.index(a), chars.index(b)) for a, b in alike), tuple(map(frozenset, words)), span,
    )  # fmt: skip


@st.composite
def small(draw):
    """A few letters in families, over lessons of a term, with words and look-alikes among them."""
    sizes = draw(st.lists(st.integers(1, 3), min_size=1, max_size=3))
    chars = ABC[: sum(sizes)]
    families, rest = [], chars
    for i, size in enumerate(sizes):
        families.append(Family(f"f{i}", tuple(rest[:size])))
        rest = rest[size:]
    words = draw(st.lists(st.text(st.sampled_from(chars), min_size=1, max_size=3), max_size=6))
    pairs = st.tuples(st.sampled_from(chars), st.sampled_from(chars)).filter(lambda pair: pair[0] < pair[1])
    alike = draw(st.lists(pairs, max_size=3, unique=True)) if len(chars) > 1 else []
    seed = draw(st.integers(0, 99))
    table = np.random.default_rng(seed).uniform(0.3, 3, (len(chars), len(chars)))
    gap = draw(st.sampled_from((2, 7)))
    made = course(families, draw(st.integers(len(sizes), len(chars))))
    days = [gap * i for i in range(made.lessons)]
    return made, days, measure(chars, words, alike, distance=table + table.T, span=(0, days[-1] + 1))


def every_order(made, days):
    """All orders of a course, spelt out: parts any way round, letters of a family any way over its parts."""
    for parts in permutations(range(len(made.parts))):
        for letters in product(*(permutations(one.chars) for one in made.families)):
            shares, used = [], [0] * len(letters)
            for part in made.parts:
                mine = []
                for size in part.sizes:
                    mine.append(letters[part.family][used[part.family] : used[part.family] + size])
                    used[part.family] += size
                shares.append(mine)
            yield tuple(lesson for part in parts for lesson in shares[part])


@settings(max_examples=25)
@given(small())
def test_the_search_finds_the_best_order_there_is(given_small):
    made, days, ruler = given_small
    search = Search(made, days, ruler, np.random.default_rng(1))
    scheme = search.scheme().costs
    costs = [ruler.costs(list(zip(days, one, strict=True))) for one in every_order(made, days)]
    for aim in SEARCHED:
        found = search.orders()[aim].costs
        own = getattr(scheme, aim)
        allowed = [(c.clashes, getattr(c, aim)) for c in costs if getattr(c, aim) <= own + 1e-9]
        best = min(allowed)
        assert found.clashes == best[0]
        assert getattr(found, aim) == pytest.approx(best[1], abs=1e-6)


@settings(max_examples=25)
@given(small(), st.tuples(*[st.floats(0, 1)] * 3))
def test_no_order_is_worse_than_the_schemes_by_what_was_asked(given_small, share):
    made, days, ruler = given_small
    search = Search(made, days, ruler, np.random.default_rng(2))
    ends = search.orders()
    for aim in SEARCHED:
        assert getattr(ends[aim].costs, aim) <= getattr(ends[Aim.SCHEME].costs, aim) + 1e-6
        assert sorted(char for one in ends[aim].lessons for char in one) == sorted(ruler.chars)
    mixed = search.between(share, ends).costs
    scale = [
        (getattr(ends[Aim.SCHEME].costs, aim), min(getattr(one.costs, aim) for one in ends.values()),
         max(getattr(one.costs, aim) for one in ends.values()))
        for aim in SEARCHED
    ]  # fmt: skip
    asked = sum(
        s * (getattr(mixed, aim) - own) / max(high - low, 1e-9)
        for s, aim, (own, low, high) in zip(share, SEARCHED, scale, strict=True)
    )
    assert asked <= 1e-4


def test_words_soonest_begins_with_the_letters_of_most_words():
    made = course([Family("one", tuple("ab")), Family("two", tuple("cd"))], 4)
    ruler = measure("abcd", words=["cd", "dc", "cdd", "ad"], span=(0, 28))
    found = Search(made, [0, 7, 14, 21], ruler, np.random.default_rng(0)).orders()[Aim.WORDS]
    order = [char for one in found.lessons for char in one]
    assert set(order[:2]) == set("cd")
    assert order[2] == "a"
    assert found.costs.words == pytest.approx((3 * 7 / 28 + 14 / 28) / 4)


def test_similar_movements_follow_one_another():
    line = np.abs(np.arange(6)[:, None] - np.arange(6)[None, :]).astype(float)
    shuffled = [Family("one", tuple("cab")), Family("two", tuple("fde"))]
    made = course(shuffled, 6)
    ruler = measure("cabfde", distance=line[np.ix_([2, 0, 1, 5, 3, 4], [2, 0, 1, 5, 3, 4])])
    found = Search(made, list(range(0, 42, 7)), ruler, np.random.default_rng(0)).orders()[Aim.MOVEMENT]
    order = "".join(char for one in found.lessons for char in one)
    assert order in ("abcdef", "fedcba")
    assert found.costs.movement == pytest.approx(1.0)


def test_look_alikes_come_at_the_two_ends():
    made = course([Family(char, (char,)) for char in "abcd"], 4)
    ruler = measure("abcd", alike=["ab"])
    found = Search(made, [0, 7, 14, 21], ruler, np.random.default_rng(0)).orders()[Aim.APART]
    order = [char for one in found.lessons for char in one]
    assert {order[0], order[3]} == {"a", "b"}
    assert found.costs.apart == pytest.approx(7 / 21)
    assert found.costs.clashes == 0


@given(st.permutations("abcde"), st.integers(1, 9))
def test_costs_are_what_they_say(order, gap):
    rng = np.random.default_rng(gap)
    table = rng.uniform(0, 3, (5, 5))
    table = table + table.T
    ruler = measure("abcde", words=["ab", "ba", "cde"], alike=["ac", "de"], distance=table, span=(0, 4 * gap))
    lessons = [(gap * i, (char,)) for i, char in enumerate(order)]
    day = {char: at for at, (char,) in lessons}
    costs = ruler.costs(lessons)
    steps = [table["abcde".index(a), "abcde".index(b)] for a, b in pairwise(order)]
    assert costs.movement == pytest.approx(np.mean(steps))
    waits = [max(day["a"], day["b"])] * 2 + [max(day["c"], day["d"], day["e"])]
    assert costs.words == pytest.approx(np.mean(waits) / (4 * gap), abs=1e-6)
    gaps = [abs(day["a"] - day["c"]), abs(day["d"] - day["e"])]
    assert costs.apart == pytest.approx(np.mean([7 / max(one, 1) for one in gaps]))
    assert costs.clashes == sum(one < FORTNIGHT for one in gaps)
    assert ready(ruler.words, day, [4 * gap]) == [3]
    pairs = [frozenset("ac"), frozenset("de")]
    assert [one[2] for one in gaps_of(day, lambda a, b: frozenset({a, b}) in pairs)] == sorted(gaps)


def test_a_letter_taught_long_ago_clashes_with_nothing_and_its_words_wait_for_the_rest():
    ruler = measure("abz", words=["az", "zz"], alike=["az", "ab"], fixed=(LONG_AGO,), span=(0, 20))
    costs = ruler.costs([(0, ("b",)), (20, ("a",))])
    assert costs.clashes == 0
    assert costs.words == pytest.approx(0.5)
    every = {"a": 20, "b": 0, "z": LONG_AGO}
    assert ready(ruler.words, every, [0, 20]) == [1, 2]
    assert ready([frozenset("q"), *ruler.words], every, [20]) == [2], "no word before all its letters"


def test_more_days_than_lessons_are_spread_over():
    made = course([Family("one", tuple("ab"))], 2)
    search = Search(made, [0, 7, 14, 21], measure("ab"), np.random.default_rng(0))
    assert search.days == [0, 14]


@given(st.integers(1, 40), st.data())
def test_lessons_are_spread_over_all_days_and_none_has_two(days, data):
    count = data.draw(st.integers(0, days))
    found = spread(range(days), count)
    assert len(set(found)) == count
    assert found == sorted(found)
    if count:
        assert found[0] == 0
        steps = [b - a for a, b in pairwise([*found, days])]
        assert max(steps) - min(steps) <= 1
