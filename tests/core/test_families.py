from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.check.recognise.lookalikes import Likeness, look_alikes
from firstloop.core.families import BY_MOVEMENT, edit_distance, group, stepping_stone
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import HouseStyle, Width
from firstloop.text import put

chars = st.sampled_from(sorted(LOWER))
FAMILIES = {
    "straight-drops": "litj",
    "up-and-overs": "rnmhbp",
    "rounds": "coadgq",
    "scoops": "uy",
    "slopes": "vwxzk",
    "one-offs": "esf",
}


def _letters(style=HouseStyle()):
    return [letter(char, style) for char in LOWER]


@given(st.builds(HouseStyle, slant_deg=st.floats(0, 15), width=st.sampled_from(Width)))
def test_letters_fall_into_the_families_by_rule_whatever_slant_and_width(style):
    found = {
        g.family.key: {m.char for m in g.members} for g in group(_letters(style), BY_MOVEMENT) if g.members
    }
    assert found == {key: set(members) for key, members in FAMILIES.items()}


def test_every_letter_says_why_it_belongs():
    for grouping in group(_letters(), BY_MOVEMENT):
        for member in grouping.members:
            assert put(member.reason).startswith(member.char)
            assert put(member.reason).endswith(".")


def test_a_family_is_taught_from_the_simplest_by_small_steps():
    overs = next(g for g in group(_letters(), BY_MOVEMENT) if g.family.key == "up-and-overs")
    order = [member.char for member in overs.members]
    assert order[:2] == ["r", "n"]
    assert order.index("n") < order.index("m")


@given(chars, chars)
def test_distance_is_symmetric_and_nothing_only_for_letters_made_alike(a, b):
    there, back = edit_distance(letter(a), letter(b)), edit_distance(letter(b), letter(a))
    assert there == pytest.approx(back)
    assert (there == 0) == (a == b)


@given(chars, chars, chars)
def test_a_way_round_is_never_shorter(a, b, c):
    ab, bc, ac = (edit_distance(letter(x), letter(y)) for x, y in ((a, b), (b, c), (a, c)))
    assert ac <= ab + bc + 1e-9


@pytest.mark.parametrize(
    ("new", "known", "stone"), [("h", "litn", "n"), ("b", "rnh", "h"), ("d", "coa", "a")]
)
def test_the_stepping_stone_is_the_letter_made_most_alike(new, known, stone):
    assert stepping_stone(letter(new), [letter(char) for char in known]).char == stone
    assert stepping_stone(letter(new), []) is None


@pytest.mark.parametrize(
    ("char", "other", "how"),
    [
        ("b", "d", Likeness.MIRRORED),
        ("n", "u", Likeness.TURNED),
        ("h", "n", Likeness.STEM),
        ("a", "o", Likeness.AS_IT_STANDS),
        ("p", "q", Likeness.MIRRORED),
    ],
)
def test_look_alikes_are_found_in_their_own_way(char, other, how):
    found = {one.char: one.how for one in look_alikes(char)}
    assert found.get(other) is how or other in found


def test_a_letter_unlike_any_other_has_no_look_alikes():
    assert look_alikes("r") == ()
