"""What each kind of row puts on the page."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.ruling import RULINGS
from firstloop.core.sheets.blocks import Printed
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.draw import begun
from firstloop.core.sheets.fit import folded, slot_mm, text_model
from firstloop.core.sheets.readymade import Material, Ready, ready_made
from firstloop.core.sheets.scene import Box, Page, Ring, Rule, Tone, Words, Written
from firstloop.core.sheets.wish import (
    BoxedWord,
    CardRow,
    DateRow,
    DrawRow,
    Finished,
    GapRow,
    HeadingRow,
    SheetError,
    SheetWish,
    SoundRow,
    Traced,
    WritingRow,
    gap_parts,
    read_pattern,
)
from firstloop.core.supports import Support

CURSIVE = HouseStyle(name="Joined", script=Script.CURSIVE)
SOME_DAY = Printed("Name", "", "Sit well.", "100 mm", "Wednesday 30 September")


def page_of(*rows, style: HouseStyle = DEFAULT_STYLE, printed: Printed = SOME_DAY, **options) -> Page:
    (page,) = compose(SheetWish(rows, **options), style, "K7Q2M9", printed=printed).pages
    return page


def written(page: Page, tone: Tone = Tone.INK) -> list[str]:
    return [one.letter.char for one in page.items if isinstance(one, Written) and one.tone is tone]


def test_a_row_to_the_foot_leaves_no_room_for_another():
    wish = SheetWish((WritingRow(("n", "m"), "model alone*", rows=None),))
    sheet = compose(wish, DEFAULT_STYLE, "K7Q2M9", printed=SOME_DAY)
    (page,) = sheet.pages
    models = written(page)
    assert models == ["n", "m"] * (len(models) // 2) + ["n"] * (len(models) % 2)
    (_, top, bottom), *_ = page.rows
    assert sheet.room_mm < bottom - top


def test_fading_takes_help_away_row_by_row():
    page = page_of(WritingRow(("n",), "model trace* / model finish* / ring* / alone*", 5))
    by_row: dict[int, set[Support]] = {}
    for one in page.entries:
        by_row.setdefault(one.row, set()).add(one.support)
    assert [by_row[row] for row in sorted(by_row)] == [
        {Support.TRACE}, {Support.FINISH}, {Support.RING}, {Support.ALONE}, {Support.ALONE},
    ]  # fmt: skip


def test_a_recall_row_holds_its_letters_side_by_side():
    page = page_of(WritingRow(("n", "m", "h"), "model alone alone", together=True), xh_mm=6)
    assert written(page) == ["n", "m", "h"]
    assert [one.expected for one in page.entries] == ["n", "n", "m", "m", "h", "h"]
    assert {one.row for one in page.entries} == {1}


def test_sound_boxes_stand_beside_a_line_and_the_word_is_not_printed():
    page = page_of(SoundRow((BoxedWord("ship", 3), BoxedWord("at", 2))), xh_mm=8)
    boxes = [one for one in page.items if isinstance(one, Box) and not one.filled]
    assert len(boxes) == 5
    assert written(page) == written(page, Tone.PALE) == []
    assert [one.expected for one in page.entries] == ["ship", "at"]
    assert all(box.area[2] <= entry.box[0] for box in boxes for entry in page.entries)
    assert not any("ship" in one.text for one in page.items if isinstance(one, Words))


def test_a_gap_is_a_cell_of_its_own_between_what_is_printed():
    page = page_of(GapRow(("sh[i]p",)))
    assert written(page) == ["sh", "p"]
    (gap,) = page.entries
    assert (gap.expected, gap.support) == ("i", Support.ALONE)
    before, after = (one for one in page.items if isinstance(one, Written))
    right = before.origin[0] + before.letter.bounds[2] * before.xh_mm
    assert right < gap.box[0] < gap.box[2] < after.origin[0] + after.letter.bounds[0] * after.xh_mm + 0.01


@given(st.lists(st.sampled_from(["a", "[b]", "cd", "[ef]"]), min_size=1, max_size=6))
def test_the_parts_of_a_word_with_gaps_make_the_word(pieces):
    text = "".join(pieces)
    if "[" not in text:
        with pytest.raises(SheetError, match="brackets"):
            gap_parts(text)
        return
    parts = gap_parts(text)
    assert "".join(part for part, _ in parts) == text.replace("[", "").replace("]", "")
    assert "".join(part for part, out in parts if out) == "".join(
        piece.strip("[]") for piece in pieces if piece.startswith("[")
    )


@pytest.mark.parametrize("text", ["abc", "a[b", "a]b", "a[]b", "a[ ]b", "[[a]]"])
def test_a_gap_that_is_none_is_refused(text):
    with pytest.raises(SheetError, match="brackets"):
        GapRow((text,))


def test_cards_stand_in_cutting_lines_and_hold_no_more_than_fits():
    page = page_of(CardRow(tuple("nmhbr"), 3), xh_mm=8)
    cut = [one for one in page.items if isinstance(one, Box) and one.dash_mm]
    assert len(cut) == 5
    assert written(page) == list("nmhbr")
    assert page.entries == ()
    with pytest.raises(SheetError, match="it fits at"):
        page_of(CardRow(("mammoth",), 8), xh_mm=12)


def test_a_heading_goes_with_what_it_stands_over():
    rows = [WritingRow(("n",), "alone*", 5), HeadingRow("Words"), DrawRow(60)]
    first, second = compose(SheetWish(tuple(rows)), DEFAULT_STYLE, "K7Q2M9", printed=SOME_DAY).pages
    assert not any(isinstance(one, Words) and one.text == "Words" for one in first.items)
    assert [number for number, _, _ in second.rows][:2] == [1, 2]


def test_a_long_heading_and_a_long_date_go_on_on_the_next_line():
    page = page_of(HeadingRow("slowly and " * 30), DateRow("trace"), xh_mm=10)
    lines = [one for one in page.items if isinstance(one, Words) and "slowly" in one.text]
    assert len(lines) > 2
    assert written(page, Tone.PALE) == ["Wednesday 30", "September"]


@given(st.sampled_from(["a crab on a raft", "mast raft tin", "a an at it in on"]), st.floats(4, 20))
def test_folding_keeps_every_word_and_uses_each_line(text, xh):
    lines = folded(text, DEFAULT_STYLE, xh, 174.0)
    assert " ".join(lines) == text
    for one, other in pairwise(lines):
        longer = f"{one} {other.split()[0]}"
        assert slot_mm(text_model(longer, DEFAULT_STYLE), xh) > 174.0


@pytest.mark.parametrize("style", [DEFAULT_STYLE, CURSIVE], ids=["print", "joined"])
@pytest.mark.parametrize("text", ["n", "e", "l", "c", "i", "mast"])
def test_what_is_to_be_finished_is_begun_from_the_start_and_is_not_all_of_it(text, style):
    model = text_model(text, style)
    for how in Finished:
        part = begun(model, how)
        assert part.strokes[0].start == model.strokes[0].start
        assert 0 < len(part.points) < len(model.points)
    if len(model.strokes) == 1:
        assert len(begun(model, Finished.HALF).points) == pytest.approx(len(model.points) / 2, rel=0.05)


def test_dotted_letters_are_dotted_and_pale_ones_are_not():
    for how in Traced:
        page = page_of(WritingRow(("n",), "trace"), traced=how)
        assert [one.dotted for one in page.items if isinstance(one, Written)] == [how is Traced.DOTTED]


def test_units_of_several_letters_are_underlined_together():
    def underlines(word: str) -> int:
        page = page_of(WritingRow((word,), "model"), units=True)
        return sum(isinstance(one, Rule) and one.width_mm == 0.35 for one in page.items)

    assert (underlines("ship"), underlines("mast"), underlines("shell")) == (1, 0, 2)
    assert not underlines("lake"), "a split unit has nothing to be underlined in one piece"


def test_a_left_hand_has_numbers_to_the_right_or_above_of_each_start():
    def numbers(left_hand: bool) -> list[tuple[float, float]]:
        page = page_of(
            WritingRow(tuple("abcdefghimnopqrsu"), "trace", together=True), xh_mm=8, left_hand=left_hand
        )
        rings = [one.centre for one in page.items if isinstance(one, Ring) and one.on_paper]
        told = [one.at for one in page.items if isinstance(one, Words) and one.centred and one.text.isdigit()]
        return [(x - min(rings, key=lambda ring: abs(ring[0] - x) + abs(ring[1] - y))[0], y) for x, y in told]

    to_the_left = [dx for dx, _ in numbers(False) if dx < -2.5]
    assert len([dx for dx, _ in numbers(True) if dx < -2.5]) < len(to_the_left)


def test_binding_moves_everything_to_the_right():
    plain, bound = (page_of(WritingRow(("n",), "alone*"), binding_mm=mm) for mm in (0, 12))
    assert bound.entries[0].box[0] - plain.entries[0].box[0] == pytest.approx(12)
    assert bound.entries[-1].box[2] <= 210 - 18


def test_as_many_pages_as_are_wanted_and_no_more():
    rows = (WritingRow(("n",), "alone*", 12),)
    assert len(compose(SheetWish(rows), DEFAULT_STYLE, "K7Q2M9").pages) > 1
    with pytest.raises(SheetError, match=r"more than 1 page; [1-9] rows fit"):
        compose(SheetWish(rows, pages=1), DEFAULT_STYLE, "K7Q2M9")


def test_something_higher_than_the_page_is_refused_in_words():
    with pytest.raises(SheetError, match="a row is 250 mm high here, and a page has room for"):
        page_of(DrawRow(250))


MATERIAL = Material(
    known=list("nmhbrae"),
    letters=["a", "e"],
    family=list("nmhbr"),
    recall=list("nmh"),
    words=["nest", "men", "hen", "bean"],
    sentence="a hen on a bean",
    dictated=[BoxedWord("nest", 4), BoxedWord("hen", 3)],
    days=["Monday", "Tuesday", "Wednesday", "Thursday", "Friday"],
)


@pytest.mark.parametrize("style", [DEFAULT_STYLE, CURSIVE], ids=["print", "joined"])
@pytest.mark.parametrize("which", Ready)
def test_every_ready_made_sheet_is_one_page_with_something_on_it(which, style):
    for xh in (6.0, 10.0):
        wish = ready_made(which, MATERIAL, SheetWish(xh_mm=xh), style)
        (page,) = compose(wish, style, "K7Q2M9", printed=SOME_DAY).pages
        assert page.rows
        assert bool(page.entries) == (which not in (Ready.STRIPS, Ready.CARDS, Ready.EMPTY))


def test_a_pattern_of_several_rows_is_read_row_by_row():
    first, last = read_pattern("model trace* / alone*")
    assert first.fill.value == "trace"
    assert (last.fixed, last.fill.value) == ((), "alone")
    for wrong in ("model /", "/ alone", "a*", "alone* model"):
        with pytest.raises(SheetError):
            read_pattern(wrong)


@pytest.mark.parametrize("pattern", ["model trace*", "model alone*", "model alone alone"])
def test_the_model_at_the_right_end_has_its_place_to_itself(pattern):
    page = page_of(WritingRow(tuple("nmao"), pattern), left_hand=True, xh_mm=8)
    assert page.entries
    for entry in page.entries:
        assert entry.box[2] <= 210 - 18 - slot_mm(text_model(entry.expected, DEFAULT_STYLE), 8) + 1e-6


def test_a_recall_row_that_is_too_long_goes_on_on_the_next_line():
    page = page_of(WritingRow(tuple("mwmwmwm"), "model alone", together=True), xh_mm=12)
    assert max(one.row for one in page.entries) > 1
    assert all(one.box[2] <= 210 - 18 + 1e-6 for one in page.entries)
    assert [one.expected for one in page.entries] == list("mwmwmwm")


def test_rows_are_counted_through_all_the_pages():
    sheet = compose(SheetWish((WritingRow(("n",), "alone*", 14),)), DEFAULT_STYLE, "K7Q2M9")
    first, *more = sheet.pages
    assert len(more) > 1
    entries = [one for page in sheet.pages for one in page.entries]
    assert sorted({one.row for one in entries}) == list(range(1, 15))
    assert len({one.key for one in entries}) == len(entries)
    assert more[0].entries[0].row == first.entries[-1].row + 1


def test_the_ring_to_tick_stands_under_its_letter_and_above_the_next_row():
    page = page_of(WritingRow(("n",), "alone*", 2), gap_mm=0)
    for entry in page.entries:
        x, y, radius = entry.best
        assert x == pytest.approx((entry.box[0] + entry.box[2]) / 2)
        assert y - radius > entry.box[3]
        below = [one.box[1] for one in page.entries if one.row == entry.row + 1]
        assert all(y + radius <= top + 1e-6 for top in below)
        assert any(isinstance(one, Ring) and one.centre == (x, y) for one in page.items)


@pytest.mark.parametrize("ruling", RULINGS)
@pytest.mark.parametrize("xh_mm", [5, 10])
def test_no_edge_of_a_box_runs_through_a_ring_to_tick(ruling, xh_mm):
    """An edge through a ring could not be told from a tail that has been drawn into it."""
    page = page_of(*(WritingRow((char,), "alone*") for char in "gly"), ruling=ruling, xh_mm=xh_mm)
    across = [(a, b) for one in page.entries for a, b in one.lines_aside if a[1] == b[1]]
    assert page.entries
    for entry in page.entries:
        x, y, radius = entry.best
        near = [a[1] for a, b in across if min(a[0], b[0]) < x + radius and max(a[0], b[0]) > x - radius]
        assert all(abs(level - y) > radius + 0.5 for level in near)


@pytest.mark.parametrize("char", ["l", "i", "1", "m"])
def test_blocks_have_room_for_a_pencils_line_on_both_sides(char):
    for entry in page_of(WritingRow((char,), "alone*"), xh_mm=5, ruling="three-blocks").entries:
        left, right = (side[0][0] for side in entry.lines_aside)
        assert right - left >= 6.0 - 1e-6
        assert entry.box[0] < left < right < entry.box[2]


def test_between_ruled_lines_blocks_have_sides_only_and_a_word_box_has_all_its_edges():
    """An edge printed on a ruled line would hide it, and in black its dashes would fill the line's gaps."""
    row = WritingRow(("a",), "alone*")
    (entry, *_) = page_of(row, ruling="three-blocks").entries
    sides = entry.lines_aside
    assert len(sides) == 2
    assert all(a[0] == b[0] and {a[1], b[1]} == {entry.box[1], entry.box[3]} for a, b in sides)
    assert len(page_of(row, ruling="word-boxes").entries[0].lines_aside) == 4
