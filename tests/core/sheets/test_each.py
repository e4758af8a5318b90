"""What is on each child's own sheet, and why."""

from __future__ import annotations

import pytest

from firstloop.core.check.vocabulary.grades import Heading
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.progress.groups import Need
from firstloop.core.progress.steps import Kind, NextStep
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.each import Reason, Why, for_child
from firstloop.core.sheets.wish import SheetWish, WritingRow

BASE = SheetWish()


def need(chars: str, code: str = "start.bottom", heading: Heading = Heading.DIRECTION) -> Need:
    return Need(child=1, code=code, family="one", chars=chars, slips=4, letters=6, heading=heading)


def sheet(steps=(), begun="", first="", words=(), xh=10.0, left_hand=False):
    return for_child(steps, begun, first, words, xh).on(BASE, left_hand, DEFAULT_STYLE)


def letters(wish: SheetWish) -> list[str]:
    return [text for row in wish.rows if isinstance(row, WritingRow) for text in row.texts]


def test_what_is_due_comes_first_then_what_is_to_be_taught_again_with_words():
    steps = [NextStep(Kind.TEACH, "n", need("n")), NextStep(Kind.RECALL, "agd")]
    wish, why = sheet(steps, begun="m", words=["men", "dog", "nest"])
    assert letters(wish)[:5] == ["a", "g", "d", "n", "m"]
    assert Reason(Why.TEACH, ("n",), "start.bottom") in why
    assert why[0] == Reason(Why.RECALL, tuple("agd"))
    words = next(one for one in why if one.why is Why.WORDS)
    assert set(words.texts) <= {"men", "nest"}, "words hold what is practised"


def test_size_gives_larger_lines_and_says_so():
    steps = [NextStep(Kind.TEACH, "n", need("n", "size.tall", Heading.SIZE))]
    wish, why = sheet(steps)
    assert wish.xh_mm == 12
    assert why[-1].why is Why.LARGER
    assert sheet(begun="n")[0].xh_mm == 10


def test_one_letter_alone_fills_more_of_the_page_than_three():
    one, _ = sheet(begun="n")
    three, _ = sheet(begun="nmh")
    assert letters(one).count("n") == 3
    assert letters(three) == ["n", "m", "h"]


def test_a_child_who_wrote_nothing_begins_with_the_first_letters():
    wish, why = sheet(first="il")
    assert letters(wish)[:2] == ["i", "l"]
    assert why == [Reason(Why.FIRST, ("i", "l"))]


@pytest.mark.parametrize("xh", [5.0, 10.0, 18.0])
def test_it_is_one_page_and_its_reasons_are_of_what_is_on_it(xh):
    steps = [
        NextStep(Kind.TEACH, "nmh", need("nmh", "size.tall", Heading.SIZE)),
        NextStep(Kind.BRING_BACK, "ag"),
        NextStep(Kind.RECALL, "bdpqr"),
    ]
    wish, why = sheet(steps, words=["man", "ham"], xh=xh, left_hand=True)
    assert len(compose(wish, DEFAULT_STYLE, "").pages) == 1
    assert wish.left_hand
    said = {text for one in why for text in one.texts}
    assert said == set(letters(wish))
