"""Sheets: laws of the layout, and the printed page measured against it."""

from __future__ import annotations

import json
from itertools import combinations, pairwise

import cv2
import numpy as np
import pypdfium2 as pdfium
import pytest
import zxingcpp
from hypothesis import given, settings
from hypothesis import strategies as st
from typer.testing import CliRunner

from firstloop.cli import app
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.ruling import RULINGS
from firstloop.core.sheets.blocks import Printed
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.fit import slot_mm, text_model
from firstloop.core.sheets.scene import Rule, Sheet, Tone, Way, Words, Written
from firstloop.core.sheets.wish import (
    BoxedWord,
    CardRow,
    DateRow,
    DrawRow,
    GapRow,
    HeadingRow,
    Help,
    Printing,
    SheetError,
    SheetWish,
    SoundRow,
    WritingRow,
    read_pattern,
)
from firstloop.core.supports import Support
from firstloop.formats.sheet_layout import LayoutError, read_layout, write_layout
from firstloop.formats.sheet_pdf import sheet_pdf

CURSIVE = HouseStyle(name="Joined", script=Script.CURSIVE)
USUAL = "model trace trace finish alone*"
patterns = st.sampled_from(
    [USUAL, "model trace alone*", "ring alone alone", "trace*", "model model finish ring alone*"]
)


OTHERS = (
    DateRow("trace"),
    SoundRow((BoxedWord("ship", 3), BoxedWord("at", 2))),
    GapRow(("s[h]ip", "c[a]t")),
    CardRow(("n", "m"), 2),
    HeadingRow("Slowly, and stop while it goes well"),
    DrawRow(40),
    WritingRow(rows=2),
    WritingRow(("n",), "alone*", rows=None),
)


@st.composite
def wishes(draw) -> SheetWish:
    letters = tuple(draw(st.lists(st.sampled_from("nmoagAB7ij"), min_size=1, max_size=3)))
    words = tuple(draw(st.lists(st.sampled_from(("mast", "a crab", "tin")), max_size=2)))
    rows = [WritingRow(letters, draw(patterns), draw(st.integers(1, 3)), draw(st.booleans()))]
    if words:
        rows.append(WritingRow(words, draw(patterns), 1, cut=draw(st.booleans())))
    rows += draw(st.lists(st.sampled_from(OTHERS), max_size=2))
    return SheetWish(
        tuple(rows),
        page=draw(st.sampled_from(("a4", "letter"))),
        across=draw(st.booleans()),
        ruling=draw(st.sampled_from(tuple(RULINGS))),
        xh_mm=draw(st.floats(4, 12)),
        margin_mm=draw(st.floats(10, 30)),
        left_hand=draw(st.booleans()),
        rings_to_tick=draw(st.booleans()),
    )


styles = st.sampled_from((DEFAULT_STYLE, CURSIVE))


def made(wish: SheetWish, style: HouseStyle = DEFAULT_STYLE) -> Sheet:
    return compose(wish, style, "K7Q2M9", printed=Printed(long_date="Monday 30 November"))


@settings(max_examples=12)
@given(wishes(), styles)
def test_nothing_leaves_its_page_or_lies_on_anything_else(wish, style):
    for page in made(wish, style).pages:
        wide, tall = page.size_mm
        boxes = [one.box for one in page.entries]
        for left, top, right, bottom in boxes:
            assert wish.margin_mm - 1e-6 <= left < right <= wide - wish.margin_mm + 1e-6
            assert 0 < top < bottom < tall
        marks = [(*one.corners[0], *one.corners[2]) for one in (*page.marks, *page.codes)]
        for one, other in combinations([*boxes, *marks], 2):
            apart = one[2] <= other[0] + 1e-6 or other[2] <= one[0] + 1e-6
            assert apart or one[3] <= other[1] + 1e-6 or other[3] <= one[1] + 1e-6
        for item in page.items:
            spots = item.points if isinstance(item, Way) else ()
            assert all(0 <= x <= wide and 0 <= y <= tall for x, y in spots)


@pytest.mark.parametrize("xh", [5.0, 6.0, 8.0])
@pytest.mark.parametrize("char", "abdfhikmnpqrtuxyAEFGHKMRX47")
@pytest.mark.parametrize("style", [DEFAULT_STYLE, CURSIVE])
def test_no_number_of_a_stroke_stands_on_the_letter(char, xh, style):
    entry = compose(SheetWish((WritingRow((char,), "trace"),), xh_mm=xh), style, "K7Q2M9").pages[0].entries[0]
    way = np.concatenate([np.array(stroke) for stroke in entry.printed])
    for item in entry.aside:
        if isinstance(item, Words):
            middle = np.array(item.at) - [0.0, 0.85]  # its foot is there, and it is so much higher
            assert np.hypot(*(way - middle).T).min() > 1.6


@settings(max_examples=12)
@given(wishes(), styles)
def test_what_is_printed_to_trace_stands_on_the_lines_of_its_cell(wish, style):
    for page in made(wish, style).pages:
        for entry in page.entries:
            lines = entry.lines
            assert lines.xh_mm == pytest.approx(wish.xh_mm)
            assert list(lines.lines_mm) == sorted(lines.lines_mm)
            if entry.support is not Support.TRACE:
                continue
            model = text_model(entry.expected, style)
            ys = [y for stroke in entry.printed for _, y in stroke]
            assert max(ys) == pytest.approx(lines.base_mm - model.bounds[1] * wish.xh_mm, abs=0.05)
            assert min(ys) == pytest.approx(lines.base_mm - model.bounds[3] * wish.xh_mm, abs=0.05)
            xs = [x for stroke in entry.printed for x, _ in stroke]
            assert entry.box[0] <= min(xs) <= max(xs) <= entry.box[2]


@given(st.sampled_from("nmoag"), st.floats(4, 14), styles)
def test_what_fits_is_what_stands_on_a_line(char, xh, style):
    wish = SheetWish((WritingRow((char,), "alone*"),), xh_mm=xh)
    (page,) = made(wish, style).pages
    found = made(wish, style).fit[0][char]
    assert len(page.entries) == found
    slot = slot_mm(text_model(char, style), xh)
    assert found * slot <= wish.line_mm + 1e-6 < (found + 1) * slot


@given(st.floats(5, 9), st.floats(9, 14))
def test_another_size_keeps_the_pattern(small, large):
    def helps(xh: float) -> list[Support]:
        wish = SheetWish((WritingRow(("n",), USUAL),), xh_mm=xh)
        return [one.support for one in made(wish).pages[0].entries]

    few, many = helps(large), helps(small)
    assert len(few) <= len(many)
    assert few == many[: len(few)]
    assert few[:3] == [Support.TRACE, Support.TRACE, Support.FINISH]


@settings(max_examples=12)
@given(wishes())
def test_every_row_that_was_asked_for_is_there_once_and_in_order(wish):
    entries = [one for page in made(wish).pages for one in page.entries]
    keys = [one.key for one in entries]
    assert len(set(keys)) == len(keys)
    assert all(a.row <= b.row for a, b in pairwise(entries))
    wanted = {"ship", "at", "h", "a", "n", *["Monday", "30", "November"], "Monday 30 November", "Monday 30"}
    wanted |= {
        text
        for row in wish.rows
        if isinstance(row, WritingRow)
        for text in row.texts
        for one in read_pattern(row.pattern)
        if any(h is not Help.MODEL for h in (*one.fixed, one.fill))
    }
    assert wanted >= {one.expected for one in entries}


def test_a_model_stands_at_both_ends_for_a_left_hand():
    def models(left_hand: bool) -> list[float]:
        wish = SheetWish((WritingRow(("l",), USUAL),), left_hand=left_hand)
        (page,) = made(wish).pages
        return [one.origin[0] for one in page.items if isinstance(one, Written) and one.tone is Tone.INK]

    assert len(models(False)) == 1
    first, last = models(True)
    assert last - first > 140


@pytest.mark.parametrize(
    ("wish", "why"),
    [
        (lambda: SheetWish((), xh_mm=3), "4 to 20 mm"),
        (lambda: SheetWish((), margin_mm=110), "no line"),
        (lambda: SheetWish((), page="a7"), "there are a4, letter"),
        (lambda: read_pattern("model hop"), "hop"),
        (lambda: read_pattern("alone* trace"), "only the last"),
        (lambda: read_pattern(" "), "names at least one"),
        (lambda: made(SheetWish((WritingRow(("ж",), USUAL),))), "no model"),
        (lambda: made(SheetWish((WritingRow(("m" * 60,), USUAL),))), "it fits at"),
        (lambda: made(SheetWish((WritingRow(("n",) * 20, USUAL, 60),))), "pages"),
        (lambda: made(SheetWish((), across=True, xh_mm=20, page="a4")), ""),
    ],
)  # fmt: skip
def test_a_wish_that_cannot_be_met_says_why(wish, why):
    if not why:
        assert len(wish().pages) == 1
        return
    with pytest.raises(SheetError, match=why):
        wish()


def rendered(sheet: Sheet, dpi: float, printing: Printing = Printing.COLOUR) -> np.ndarray:
    page = pdfium.PdfDocument(sheet_pdf(sheet.pages, "a sheet", printing))[0]
    return np.asarray(page.render(scale=dpi / 72).to_pil().convert("L"))


@pytest.mark.parametrize("page", ["a4", "letter"])
@pytest.mark.parametrize("across", [False, True])
def test_marks_and_codes_stand_as_far_from_every_edge(page, across):
    sheet = made(SheetWish(page=page, across=across)).pages[0]
    wide, tall = sheet.size_mm
    for one in sheet.marks:
        xs, ys = zip(*one.corners, strict=True)
        assert min(*xs, wide - max(xs)) == pytest.approx(8)
        assert min(*ys, tall - max(ys)) == pytest.approx(8)
    upper, lower = (one.corners for one in sheet.codes)
    assert upper[0][1] == pytest.approx(8)
    assert lower[2][1] == pytest.approx(tall - 8)


@pytest.mark.parametrize("style", [DEFAULT_STYLE, CURSIVE], ids=["print", "joined"])
@pytest.mark.parametrize("text", ["m", "k", "mast"])
def test_what_the_layout_says_is_printed_is_what_is_on_the_paper(text, style):
    """On blank paper: what is to be finished is all that is there inside its box."""
    dpi = 300
    sheet = made(SheetWish((WritingRow((text,), "finish"),), ruling="blank", xh_mm=12), style)
    (entry,) = sheet.pages[0].entries
    picture = rendered(sheet, dpi)
    room = np.array([-1.5, -1.5, 1.5, 1.5])  # the pen's own width reaches out of the box
    left, top, right, bottom = np.rint((entry.box + room) * dpi / 25.4).astype(int)
    ys, xs = np.nonzero(picture[top:bottom, left:right] < 240)
    spots = np.concatenate([*map(np.array, entry.printed)])
    pen = 0.09 * 12 / 2
    first = np.array([xs.min() + left, ys.min() + top]) * 25.4 / dpi
    last = np.array([xs.max() + 1 + left, ys.max() + 1 + top]) * 25.4 / dpi
    assert first == pytest.approx(spots.min(axis=0) - pen, abs=0.15)
    assert last == pytest.approx(spots.max(axis=0) + pen, abs=0.15)


def detector() -> cv2.aruco.ArucoDetector:
    return cv2.aruco.ArucoDetector(cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50))


@pytest.fixture(scope="module")
def usual() -> Sheet:
    rows = (
        WritingRow(("n", "g"), USUAL),
        WritingRow(("mast",), "trace alone*"),
    )
    return made(SheetWish(rows))


@pytest.mark.parametrize("printing", Printing)
def test_marks_and_codes_are_found_on_a_page_at_100_dpi(usual, printing):
    picture = rendered(usual, 100, printing)
    corners, ids, _ = detector().detectMarkers(picture)
    assert sorted(ids.ravel().tolist()) == [0, 1, 2, 3]
    where = {one.number: np.array(one.corners) for one in usual.pages[0].marks}
    for found, number in zip(corners, ids.ravel(), strict=True):
        assert np.abs(found[0] * 25.4 / 100 - where[int(number)]).max() < 0.4
    texts = [one.text for one in zxingcpp.read_barcodes(picture)]
    assert texts == ["FL1:K7Q2M9:1:1"] * 2


@pytest.mark.parametrize("printing", Printing)
def test_lines_are_printed_where_the_layout_says_in_any_ink(usual, printing):
    dpi = 600
    picture = rendered(usual, dpi, printing)
    for entry in usual.pages[0].entries:
        column = round((entry.box[2] - 1.0) * dpi / 25.4)  # clear of what is written in it
        base = round(entry.lines.base_mm * dpi / 25.4)
        near = picture[base - 24 : base + 24, column].astype(float)
        dark = np.flatnonzero(near < near.min() + 1)
        assert abs(dark.mean() + base - 24 - entry.lines.base_mm * dpi / 25.4) < 0.05 * dpi / 25.4
        mid = round(entry.lines.mid_mm * dpi / 25.4)
        strip = picture[mid - 6 : mid + 7, column - 200 : column].min(axis=0)
        assert (strip < 235).mean() > 0.3, "also the faint lines show"


def test_a_copy_of_black_and_white_still_shows_lines_letters_and_marks(usual):
    """A copier that knows no grey: what is less than half black is gone."""
    dpi = 300
    copy = np.where(rendered(usual, dpi, Printing.BLACK) < 128, 0, 255).astype(np.uint8)
    _, ids, _ = detector().detectMarkers(copy)
    assert sorted(ids.ravel().tolist()) == [0, 1, 2, 3]
    assert [one.text for one in zxingcpp.read_barcodes(copy)] == ["FL1:K7Q2M9:1:1"] * 2
    for entry in usual.pages[0].entries:
        left, _, right, _ = (round(one * dpi / 25.4) for one in entry.box)
        for line, least in zip(entry.lines.lines_mm, (0.1, 0.25, 0.5, 0.1), strict=True):
            y = round(line * dpi / 25.4)
            shown = (copy[y - 3 : y + 4, left:right] == 0).any(axis=0).mean()
            assert shown > least
        if entry.support is Support.TRACE:
            spots = [
                (round(x * dpi / 25.4), round(y * dpi / 25.4)) for stroke in entry.printed for x, y in stroke
            ]
            assert np.mean([(copy[y - 3 : y + 4, x - 3 : x + 4] == 0).any() for x, y in spots]) > 0.3


@pytest.mark.parametrize("corner", range(4))
def test_a_copy_at_seventy_per_cent_with_a_corner_torn_off_is_still_known(usual, corner):
    picture = rendered(usual, 300)
    tall, wide = picture.shape
    small = cv2.resize(picture, (int(wide * 0.7), int(tall * 0.7)), interpolation=cv2.INTER_AREA)
    page = np.full_like(picture, 255)
    page[200 : 200 + small.shape[0], 300 : 300 + small.shape[1]] = small
    cut = round(45 / 25.4 * 300 * 0.7)
    top = 200 if corner in (0, 1) else 200 + small.shape[0] - cut
    left = 300 if corner in (0, 3) else 300 + small.shape[1] - cut
    page[top : top + cut, left : left + cut] = 255
    _, ids, _ = detector().detectMarkers(page)
    assert sorted(ids.ravel().tolist()) == [number for number in range(4) if number != corner]
    assert "FL1:K7Q2M9:1:1" in [one.text for one in zxingcpp.read_barcodes(page)]


def test_the_lines_of_the_scene_are_those_of_the_pdf(usual):
    page = pdfium.PdfDocument(sheet_pdf(usual.pages, "a sheet"))[0]
    tall = usual.pages[0].size_mm[1]
    drawn = []
    for thing in page.get_objects():
        left, low, right, high = (one * 25.4 / 72 for one in thing.get_bounds())
        if right - left > 100:
            drawn.append(tall - (low + high) / 2)
    rules = [one for one in usual.pages[0].items if isinstance(one, Rule) and one.end[0] - one.start[0] > 100]
    for rule in rules:
        assert min(abs(y - rule.start[1]) for y in drawn) < 0.01


def test_the_layout_is_the_file_of_the_spec(usual):
    layout = json.loads(json.dumps(write_layout(usual)))
    assert (layout["format"], layout["sheet"]) == ("first-loop-sheet/1", "K7Q2M9")
    (page,) = layout["pages"]
    assert [one["id"] for one in page["marks"]] == [0, 1, 2, 3]
    assert page["qr"][0]["text"] == "FL1:K7Q2M9:1:1"
    cell = page["cells"][0]
    assert (cell["expected"], cell["support"], cell["script"]) == ("n", "trace", "print")
    assert cell["printed_mm"]
    assert cell["best_mm"] is None
    alone = next(one for one in page["cells"] if one["support"] == "alone")
    assert len(alone["best_mm"]) == 3
    assert [one["expected"] for one in page["lines"]] == ["mast"] * len(page["lines"])


@settings(max_examples=12)
@given(wishes(), styles)
def test_a_layout_read_again_is_the_sheet_as_far_as_a_machine_looks(wish, style):
    sheet = made(wish, style)
    layout = json.loads(json.dumps(write_layout(sheet)))
    again = read_layout(layout)
    assert write_layout(again) == layout
    for page, read in zip(sheet.pages, again.pages, strict=True):
        assert [one.key for one in read.entries] == [one.key for one in page.entries]
        assert (read.size_mm, len(read.marks), len(read.codes)) == (page.size_mm, 4, 2)


@pytest.mark.parametrize(
    "wrong",
    [None, [], {}, {"format": "first-loop-sheet/2"}, {"format": "first-loop-sheet/1"},
     {"format": "first-loop-sheet/1", "sheet": "K7Q2M9", "pages": [{"page": 1}]},
     {"format": "first-loop-sheet/1", "sheet": "K7Q2M9", "pages": 7}],
)  # fmt: skip
def test_what_is_no_layout_is_refused(wrong):
    with pytest.raises(LayoutError, match="layout"):
        read_layout(wrong)


def test_the_command_writes_a_page_and_its_layout_and_says_what_is_wrong(tmp_path):
    run = CliRunner()
    out, layout = tmp_path / "s.pdf", tmp_path / "s.json"
    args = ["sheet", "--letters", "n m", "--words", "mast raft", "--line", "a crab", "--rows", "1"]
    done = run.invoke(app, [*args, "--xh", "7", "--out", str(out), "--layout", str(layout)])
    assert done.exit_code == 0, done.output
    assert len(pdfium.PdfDocument(out.read_bytes())) == len(json.loads(layout.read_bytes())["pages"])
    expected = {one["expected"] for page in json.loads(layout.read_bytes())["pages"] for one in page["lines"]}
    assert expected == {"mast", "raft", "a crab"}
    for suffix in (".svg", ".png"):
        picture = tmp_path / f"s{suffix}"
        assert run.invoke(app, [*args, "--xh", "7", "--out", str(picture)]).exit_code == 0
        assert picture.read_bytes()[:4] in (b"<svg", b"\x89PNG")
    for wrong in (["--letters", "n", "--xh", "3"], ["--letters", "nm"], [], ["--words", "ж"]):
        refused = run.invoke(app, ["sheet", *wrong, "--out", str(tmp_path / "no.pdf")])
        assert refused.exit_code != 0
        assert not (tmp_path / "no.pdf").exists()
