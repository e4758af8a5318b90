"""Rules in plain words, the teacher's own board, splitting, and the order of sounds."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.recognise.lookalikes import look_alikes
from firstloop.core.families import BY_MOVEMENT, SCHEMES, board, group
from firstloop.core.families.rules import RuleError, read_rule
from firstloop.core.families.sounds import SoundError, read_sounds
from firstloop.core.families.splitting import split
from firstloop.core.letterforms.alphabets import ALPHABETS, plain
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.text import put
from firstloop.text.families import family_names, part_reason

LOWER = "abcdefghijklmnopqrstuvwxyz"
JOINED = HouseStyle(script=Script.CURSIVE)
keys = st.sampled_from([family.key for family in BY_MOVEMENT.families])


def letters(style=DEFAULT_STYLE, alphabet="lower case"):
    return [plain(char, style) for char in ALPHABETS[alphabet]]


def taken(rule, style=DEFAULT_STYLE, alphabet="lower case"):
    return "".join(one.char for one in letters(style, alphabet) if read_rule(rule).why(one, style))


def plain_board():
    return board.from_scheme(BY_MOVEMENT, family_names(BY_MOVEMENT))


def standing(arrangement, style=DEFAULT_STYLE):
    found = board.arranged(letters(style), arrangement, BY_MOVEMENT, style)
    return {column.family.key: "".join(sorted(place.char for place in column.places)) for column in found}


def in_order(arrangement):
    found = board.arranged(letters(), arrangement, BY_MOVEMENT, DEFAULT_STYLE)
    return {column.family.key: "".join(place.char for place in column.places) for column in found}


def families(scheme, alphabet, style=DEFAULT_STYLE):
    found = group(letters(style, alphabet), SCHEMES[scheme], style)
    return {g.family.key: "".join(sorted(m.char for m in g.members)) for g in found if g.members}


@pytest.mark.parametrize(
    ("rule", "chars"),
    [
        ("begins with: down, back, over", "bhmnpr"),
        ("begins with: cup", "uy"),
        ("has: dot", "ij"),
        ("ends with: bar", "ftz"),
        ("reaches: the drop line", "gjpqy"),
        ("starts at: the middle", "e"),
        ("begins with: round to the left; has no: round to the right; reaches: the rise line", "d"),
        ("has only: slope", "vwx"),
        ("begins with: cup or bar; reaches: the middle band only", "euz"),
        ("ANY OTHER", LOWER),
    ],
)
def test_a_rule_in_plain_words_takes_its_letters(rule, chars):
    assert taken(rule) == chars


def test_a_rule_says_why_in_words():
    assert put(read_rule("begins with: down, back, over").why(plain("n"))) == (
        "n begins with straight down, back along the same line, over to the right."
    )


def test_where_a_letter_leaves_is_asked_of_the_joined_hand():
    assert taken("leaves from: the mid line", JOINED) == "orvw"
    assert taken("leaves from: the mid line", JOINED.choosing("b", "open")) == "borvw"
    assert taken("leaves from: a loop", JOINED) == "gjy"


@pytest.mark.parametrize(
    ("rule", "named"),
    [
        ("begins with: zigzag", "zigzag"),
        ("dances: down", "dances"),
        ("begins with down", "begins with down"),
        ("reaches: the moon", "moon"),
        ("starts at: the end", "end"),
        ("leaves from: the room", "room"),
        ("   ", "nothing"),
    ],
)
def test_a_rule_that_cannot_be_read_names_the_word(rule, named):
    with pytest.raises(RuleError, match=named):
        read_rule(rule)


@pytest.mark.parametrize("scheme", SCHEMES)
@pytest.mark.parametrize("alphabet", ["lower case", "capitals", "digits"])
def test_every_scheme_places_every_letter_once(scheme, alphabet):
    placed = "".join(families(scheme, alphabet, JOINED).values())
    assert sorted(placed) == sorted(ALPHABETS[alphabet])


def test_the_schemes_of_the_reference():
    assert families("by-height", "lower case") == {
        "middle": "aceimnorsuvwxz",
        "rise": "bdfhklt",
        "drop": "gjpqy",
    }
    assert families("by-first-move", "lower case")["middle-first"] == "e"
    assert families("by-join", "lower case", JOINED)["mid"] == "orvw"


def test_capitals_and_digits_are_grouped_by_the_same_rules():
    assert families("by-movement", "capitals") == {
        "straight-drops": "EFHIJLT",
        "scoops": "U",
        "rounds": "CGOQ",
        "stems-with-rounds": "BDPR",
        "slopes": "AKMNVWXYZ",
        "one-offs": "S",
    }
    assert families("by-movement", "digits")["rounds"] == "069"


def test_a_change_of_house_style_moves_letters_by_itself():
    sloped = DEFAULT_STYLE.choosing("y", "slopes")
    before, after = standing(plain_board()), standing(plain_board(), sloped)
    assert before["scoops"] == "uy"
    assert after["scoops"] == "u"
    assert "y" in after["slopes"]


@given(st.sampled_from(LOWER), keys)
def test_a_letter_moved_by_hand_stands_there_and_keeps_the_verdict_of_its_rule(char, key):
    start = plain_board()
    moved = board.move(start, char, key)
    place = next(
        (column.family.key, one)
        for column in board.arranged(letters(), moved, BY_MOVEMENT)
        for one in column.places
        if one.char == char
    )
    assert place[0] == key
    by_rule = BY_MOVEMENT.place(plain(char))[0]
    assert place[1].by_rule == by_rule
    assert place[1].by_hand == (by_rule != key)
    assert standing(board.back_to_rule(moved, char)) == standing(start)


def test_a_letter_that_sits_badly_shows_its_reason():
    moved = board.move(plain_board(), "c", "one-offs")
    places = {p.char: p for c in board.arranged(letters(), moved, BY_MOVEMENT) for p in c.places}
    assert put(places["c"].reason).startswith("By rule in Rounds: c begins counterclockwise")


@given(st.lists(st.tuples(st.sampled_from(LOWER), keys), max_size=8))
def test_no_letter_is_ever_lost_or_doubled(moves):
    arrangement = plain_board()
    for char, key in moves:
        arrangement = board.move(arrangement, char, key)
    arrangement = board.merge(arrangement, "scoops", "rounds", standing(arrangement)["scoops"])
    arrangement = board.add(arrangement, "Tall ones", "reaches: the rise line")
    assert sorted("".join(standing(arrangement).values())) == list(LOWER)


def test_families_are_renamed_merged_and_added():
    start = plain_board()
    named = board.rename(start, "scoops", "  Cups  and tails ")
    assert named.family("scoops").name == "Cups and tails"
    merged = board.merge(named, "scoops", "rounds", "uy")
    assert standing(merged)["rounds"] == "acdgoquy"
    tall = board.add(start, "Tall ones", "reaches: rise line")
    assert standing(tall)["tall-ones"] == "bdfhklt"
    by_hand = board.add(start, "For Friday")
    assert standing(by_hand)["for-friday"] == ""
    ruled = board.with_rule(by_hand, "for-friday", "has: dot")
    assert standing(ruled)["for-friday"] == "ij"


def test_rules_of_one_kind_become_one_rule_with_two_ways():
    start = board.add(board.add(plain_board(), "One", "has: dot"), "Two", "has: bar")
    merged = board.merge(start, "one", "two", "ij")
    assert merged.family("two").rule == "has: bar or dot"
    assert merged.placed == ()
    assert standing(merged)["two"] == "efijtz"


@pytest.mark.parametrize(
    "change",
    [
        lambda b: board.rename(b, "scoops", "Rounds"),
        lambda b: board.rename(b, "scoops", "   "),
        lambda b: board.add(b, "Rounds"),
        lambda b: board.move(b, "a", "nowhere"),
        lambda b: board.merge(b, "rounds", "rounds", ""),
    ],
)
def test_a_change_that_makes_no_sense_is_refused(change):
    with pytest.raises(board.BoardError):
        change(plain_board())


def test_comparing_says_which_letters_move_and_why():
    style = DEFAULT_STYLE
    before = board.arranged(letters(), plain_board(), BY_MOVEMENT, style)
    sloped = style.choosing("y", "slopes")
    after = board.arranged(letters(sloped), plain_board(), BY_MOVEMENT, sloped)
    (moved,) = board.compare(before, after)
    assert (moved.char, moved.before, moved.after) == ("y", "Scoops", "Slopes")
    assert put(moved.reason) == "y has 2 straight slopes."
    assert board.compare(before, before) == ()


def test_comparing_says_who_goes_another_way_than_most_of_a_family():
    style = DEFAULT_STYLE
    before = board.arranged(letters(), plain_board(), BY_MOVEMENT, style)
    moved = board.move(plain_board(), "a", "slopes")
    (one,) = board.compare(before, board.arranged(letters(), moved, BY_MOVEMENT, style))
    assert (one.char, one.parts) == ("a", True)
    renamed = board.rename(plain_board(), "scoops", "Cups")
    together = board.compare(before, board.arranged(letters(), renamed, BY_MOVEMENT, style))
    assert [(one.char, one.parts) for one in together] == [("u", False), ("y", False)]


@given(st.permutations([family.key for family in plain_board().families]), st.data())
def test_an_order_changes_where_things_stand_and_not_where_they_belong(keys, data):
    some = keys[: data.draw(st.integers(1, len(keys)))]
    here = board.order_families(plain_board(), some)
    members = standing(plain_board())
    assert {key: sorted(chars) for key, chars in standing(here).items()} == {
        key: sorted(chars) for key, chars in members.items()
    }
    assert list(standing(here))[: len(some)] == some
    key = data.draw(st.sampled_from(keys))
    own = data.draw(st.permutations(sorted(members[key])))
    assert list(in_order(board.order_letters(here, key, "".join(own)))[key]) == own


def test_a_letter_that_comes_later_stands_behind_the_teachers_order():
    own = board.order_letters(plain_board(), "scoops", "yu")
    assert in_order(board.move(own, "v", "scoops"))["scoops"] == "yuv"
    new = board.add(board.order_families(plain_board(), ["scoops"]), "Dotted", "has: dot")
    assert list(standing(new))[:2] == ["dotted", "scoops"]


@given(st.sets(st.sampled_from(LOWER), min_size=1, max_size=12), st.integers(1, 6))
def test_parts_are_even_and_hold_every_letter_once(chars, most):
    parts = split([plain(char) for char in sorted(chars)], most)
    assert sorted(char for part in parts for char in part.chars) == sorted(chars)
    sizes = [len(part.chars) for part in parts]
    assert max(sizes) <= most
    assert max(sizes) - min(sizes) <= 1
    assert len(parts) == -(-len(chars) // most)


def test_look_alikes_are_kept_in_different_parts_and_the_reason_says_so():
    chars = "bdpqhn"
    apart = frozenset(
        frozenset({c, other.char}) for c in chars for other in look_alikes(c) if other.char in chars
    )
    parts = split([plain(char) for char in chars], 3, apart)
    where = {char: number for number, part in enumerate(parts) for char in part.chars}
    assert where["b"] != where["d"]
    assert where["p"] != where["q"]
    assert any("Kept apart" in part_reason(part) for part in parts)


def test_a_split_family_is_filled_by_hand():
    parts = split([plain(char) for char in "rnmhbp"], 3)
    cut = board.split_into(plain_board(), "up-and-overs", [part.chars for part in parts])
    found = standing(cut)
    assert sorted(found["up-and-overs"] + found["up-and-overs-2"]) == sorted("rnmhbp")


def test_an_order_of_sounds_is_read_set_by_set():
    sets = read_sounds("n e t g\n\nck, a, sh\n")
    assert [(one.number, one.units) for one in sets] == [(1, ("n", "e", "t", "g")), (2, ("ck", "a", "sh"))]


@pytest.mark.parametrize(
    ("text", "said"), [("", "no sounds"), ("s a\nt s", "line 2"), ("s 50%", "50%"), ("aeiou", "aeiou")]
)
def test_an_order_of_sounds_that_cannot_be_read_says_where(text, said):
    with pytest.raises(SoundError, match=said):
        read_sounds(text)
