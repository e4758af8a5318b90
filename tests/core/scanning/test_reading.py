"""Pages that were written on: what is in each place, and what the checker says of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from firstloop.core import ruling
from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.check.vocabulary.grades import Heading, Severity, Verdict
from firstloop.core.ink import Evidence
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.ruling import RULINGS
from firstloop.core.scanning.darkness import Darkness
from firstloop.core.scanning.printed_lines import PrintedLine, without_lines
from firstloop.core.scanning.read import ReadPage
from firstloop.core.scanning.states import Found
from firstloop.core.sheets.wish import Printing, Traced, WritingRow
from firstloop.core.simulate.camera import Device, take
from firstloop.core.simulate.pencil import Lead
from tests.core.scanning.paper import DPI, PENCIL, Paper, by_key, made
from tests.core.scanning.test_pages import turned

CURSIVE = HouseStyle(script=Script.CURSIVE)
COUNTED = (Heading.SHAPE, Heading.SIZE)


def alone(paper: Paper) -> list[str]:
    return [one.key for one in paper.page.entries if one.support == "alone"]


@pytest.fixture(scope="module")
def written() -> Paper:
    """Three letters in rows, written with and without faults."""
    paper = Paper(made(WritingRow(("n", "a", "k"), "alone*")))
    faults = {"n": ("size.tall", 60.0), "a": ("position.floating", 0.6), "k": ("shape.slant", 34.0)}
    for number, key in enumerate(alone(paper)):
        fault, size = faults[paper.entry(key).expected] if number % 3 == 2 else (None, 0.0)
        paper.write(key, fault=fault, size=size)
    return paper


def verdicts(read) -> dict[str, tuple]:
    return {
        key: tuple(one.letter.headings[heading] for heading in COUNTED)
        for key, one in by_key(read).items()
        if one.letter
    }


def same_share(paper: Paper, read) -> float:
    told, same = verdicts(read), []
    for key, ink in paper.written.items():
        directly = check_letter(ink, paper.entry(key).expected, paper.style)
        same += [told.get(key) and told[key][i] is directly.headings[h] for i, h in enumerate(COUNTED)]
    return sum(map(bool, same)) / len(same)


@pytest.mark.parametrize("device", Device)
def test_what_was_written_and_photographed_is_judged_as_what_was_written(written, device):
    picture = take(device, written.grey, DPI, np.random.default_rng(8)).grey
    read = written.read(picture)
    assert {one.found for one in read.entries} == {Found.INK}
    assert same_share(written, read) >= 0.9
    high = [
        abs(
            one.letter.measures.height_mm
            - check_letter(written.written[key], one.entry.expected).measures.height_mm
        )
        for key, one in by_key(read).items()
    ]
    assert np.median(high) < 0.3


def test_the_faults_of_size_and_shape_are_found_and_direction_is_not_seen(written, as_written):
    read, told = by_key(as_written), 0
    for number, key in enumerate(alone(written)):
        codes = {finding.code for finding in read[key].letter.findings}
        wanted = {"n": "size.tall", "a": "position.floating", "k": "shape.slant"}[read[key].entry.expected]
        told += (wanted in codes) == (number % 3 == 2)
        assert read[key].letter.headings[Heading.DIRECTION] is Verdict.NOT_SEEN
        assert read[key].ink.evidence is Evidence.SCAN
    assert told >= 0.95 * len(written.written)


@pytest.fixture(scope="module")
def as_written(written):
    """The same page, read as it lies."""
    return written.read()


@pytest.mark.parametrize("deg", [23, 180, 301])
def test_a_page_turned_by_any_angle_gives_the_same_letters(written, as_written, deg):
    straight, crooked = verdicts(as_written), verdicts(written.read(turned(written.grey, deg)))
    assert straight.keys() == crooked.keys()
    assert sum(straight[key] == crooked[key] for key in straight) >= 0.93 * len(straight)


def test_a_darker_pencil_changes_nothing():
    told = []
    for dark in (0.4, 0.9):
        rows = (WritingRow((char,), "alone*") for char in "enk")
        paper = Paper(made(*rows), lead=replace(PENCIL, dark=dark))
        for key in alone(paper):
            paper.write(key)
        told.append(verdicts(paper.read()))
    assert told[0].keys() == told[1].keys()
    assert sum(told[0][key] == told[1][key] for key in told[0]) >= 0.93 * len(told[0])


# black only is the hardest: dashes, and lines as dark as ink
PRINTED = [(ruling, Printing.BLACK) for ruling in RULINGS]
PRINTED += [("three-blocks", Printing.COLOUR), ("four-lines", Printing.GREY), ("word-boxes", Printing.COLOUR)]


@pytest.mark.parametrize(("ruling", "printing"), PRINTED)
def test_an_empty_page_finds_nothing(ruling, printing):
    rows = (
        WritingRow(("n", "g")),
        WritingRow(("i",), "model trace ring alone*"),
        WritingRow(("mast raft",), "trace alone"),
    )
    traced = Traced.DOTTED if printing is Printing.BLACK else Traced.PALE
    paper = Paper(made(*rows, ruling=ruling, printing=printing, traced=traced), printing)
    read = paper.read()
    assert [(one.entry.key, one.found) for one in read.entries if one.found is not Found.EMPTY] == []
    assert not any(one.is_ticked for one in read.entries)


def test_a_page_with_no_places_to_write_in_has_nothing_written():
    paper = Paper(made(WritingRow(("n",), "alone*")))
    paper.page = replace(paper.page, entries=())
    assert paper.read().entries == ()


def test_what_is_written_beside_a_page_leaves_it_as_it_is():
    paper = Paper(made(WritingRow(("n",), "alone*")))
    before, (ink, away) = (
        paper.grey.copy(),
        (Paper(paper.page).write(alone(paper)[0]), np.array([400.0, 0.0])),
    )
    beside = replace(ink, strokes=tuple(replace(one, points_mm=one.points_mm + away) for one in ink.strokes))
    paper.draw(*(stroke.points_mm for stroke in beside.strokes))
    paper.draw()
    paper.rub_out(beside)
    assert np.array_equal(paper.grey, before)


def test_every_state_of_a_place_is_told():
    paper = Paper(made(WritingRow(("n",), "trace trace finish ring alone*"), WritingRow(("e",), "alone*")))
    row, other = alone(paper)[:5], alone(paper)[5:]
    for key in ("r1c2", "r1c4", *row[1:], *other):
        paper.write(key)
    paper.tick(row[2])
    paper.strike(row[3], 0.9)
    paper.strike(other[1], -0.9)
    left, top, right, bottom = paper.across(other[2])
    x = np.linspace(left - 0.6, right + 0.6, 9)
    paper.draw(np.column_stack([x, np.where(np.arange(9) % 2, top, bottom)]))
    aside = [0.15 * 9, 0.05 * 9]  # gone over again
    paper.draw(*(stroke.points_mm + aside for stroke in paper.written[other[3]].strokes))
    told = by_key(paper.read())
    assert {key: told[key].found for key in ("r1c1", "r1c2", "r1c3", "r1c4")} == {
        "r1c1": Found.EMPTY, "r1c2": Found.INK, "r1c3": Found.EMPTY, "r1c4": Found.INK
    }  # fmt: skip
    assert told[row[0]].found is Found.EMPTY
    assert [told[key].found for key in (row[3], other[1], other[2])] == [Found.CROSSED_OUT] * 3
    assert told[other[3]].found is Found.WRITTEN_OVER
    assert told[other[3]].letter is not None
    assert [key for key, one in told.items() if one.is_ticked] == [row[2]]
    assert told[row[3]].letter is None


@pytest.mark.parametrize(("char", "xh_mm", "style"), [("i", 5, CURSIVE), ("w", 9, DEFAULT_STYLE)])
def test_letters_of_a_row_that_a_child_has_joined_are_each_read_in_their_place(char, xh_mm, style):
    paper = Paper(made(WritingRow((char,), "alone*"), xh_mm=xh_mm, style=style), style=style)
    row, last = alone(paper)[:6], None
    for key in row[:4]:
        (x, y), *_, end = paper.write(key).strokes[0].points_mm
        if last is not None:
            paper.draw(np.linspace(last, (x, y), 20))
        last = end
    told = by_key(paper.read())
    assert [told[key].found for key in row] == [Found.INK] * 4 + [Found.EMPTY] * 2
    codes = {finding.code for key in row[:4] for finding in told[key].letter.findings}
    assert codes <= {"shape.width", "shape.form", "shape.part-extra"}, codes  # what joins them


def test_a_letter_that_sinks_far_below_its_place_is_in_it_all_the_same():
    paper = Paper(made(WritingRow(("j", "l"), "alone*"), xh_mm=7))
    for key in alone(paper)[:8]:
        paper.write(key, fault="position.sinking", size=1.1)
    found = [one.found for one in paper.read().entries]
    assert found.count(Found.INK) == 8


def test_a_stem_that_rises_too_far_is_no_line_through_its_letter():
    paper = Paper(made(WritingRow(("b", "k", "h"), "alone*", 2), ruling="base-only", xh_mm=7))
    for key in alone(paper):
        paper.write(key, fault="size.rise-tall", size=1.3)
    assert {one.found for one in paper.read().entries} == {Found.INK}


@pytest.mark.parametrize(("char", "style"), [("d", DEFAULT_STYLE), ("k", CURSIVE)])
def test_a_stem_that_is_gone_back_along_and_rises_too_far_is_that_and_no_other_form(char, style):
    paper = Paper(made(WritingRow((char,), "alone*"), ruling="base-only", xh_mm=7, style=style), style=style)
    for key in alone(paper):
        paper.write(key, fault="size.rise-tall", size=0.9)
    told = [{one.code for one in read.letter.findings} for read in paper.read().entries]
    assert np.mean(["size.rise-tall" in codes for codes in told]) > 0.8
    assert np.mean(["shape.form" in codes for codes in told]) < 0.2


def test_a_dot_of_a_blunt_pen_is_seen_above_its_box_and_a_code_near_a_place_is_none_of_it():
    blunt = Paper(
        made(WritingRow(("j",), "alone*"), ruling="word-boxes", xh_mm=8), lead=replace(PENCIL, width_mm=0.85)
    )
    beside = Paper(made(WritingRow(("i",), "alone*"), ruling="three-blocks", xh_mm=10), "black")
    for paper in (blunt, beside):
        for key in alone(paper):
            paper.write(key)
        codes = {one.code for read in paper.read().entries for one in read.letter.findings}
        assert not codes & {"shape.part-missing", "shape.dot-gap"}


def test_the_dot_of_a_letter_that_floats_is_its_own_though_it_is_above_its_place():
    paper = Paper(made(WritingRow(("i",), "alone*"), xh_mm=7))
    for key in alone(paper):
        paper.write(key, fault="position.floating", size=0.75)
    codes = [{one.code for one in read.letter.findings} for read in by_key(paper.read()).values()]
    assert all("position.floating" in some for some in codes)
    assert not any("shape.part-missing" in some for some in codes)


def test_a_stem_that_rises_into_the_row_above_is_cut_from_what_it_meets_there():
    """Narrow as f is, it is a letter of its own and stands on its own line."""
    paper = Paper(made(WritingRow(("g",), "alone*"), WritingRow(("f",), "alone*"), xh_mm=7))
    places = zip(
        *([key for key in alone(paper) if key.startswith(row)] for row in ("r1", "r2")), strict=False
    )
    pairs = [pair for number, pair in enumerate(places) if number % 2 == 0][:4]
    for above, key in pairs:
        paper.write(above)
        foot = max((one.points_mm for one in paper.written[above].strokes), key=lambda at: at[:, 1].max())
        paper.write(key)
        top = min((one.points_mm[0] for one in paper.written[key].strokes), key=lambda at: at[1])
        paper.draw(np.linspace(top, foot[foot[:, 1].argmax()], 40))
    told = by_key(paper.read())
    assert {told[key].found for pair in pairs for key in pair} == {Found.INK}


def test_a_line_that_a_copy_breaks_about_what_is_written_is_taken_out_all_the_same():
    """Feet of letters stand where the line is lost, at other heights; nothing is written beyond the last."""
    values = np.zeros((240, 1500))
    feet = [slice(start, start + 70) for start in range(80, 1200, 150)]
    for number, foot in enumerate(feet):
        values[126 - 4 * (number % 4) : 130 - 4 * (number % 4), foot] = 1.0
        for stem in (foot.start, foot.stop - 4):
            values[60:120, stem : stem + 4] = 1.0
        values[119:122, foot.stop + 25 : foot.stop + 55] = 1.0
    values[119:122, 1225:] = 1.0
    dark = Darkness(values.copy(), 8.0, 0.01)
    without_lines(dark, [PrintedLine(120.5 / 8, 0.0, 1500 / 8)])
    assert not dark.values[119:122, 1240:].any()
    assert not any(dark.values[119:122, foot.stop + 30 : foot.stop + 50].any() for foot in feet)
    assert all((dark.values[60:112, foot] == values[60:112, foot]).all() for foot in feet)


def test_dust_a_smear_and_what_was_rubbed_out_are_no_ink():
    written = Paper(made(WritingRow(("n",), "alone*")))
    first, second, third = alone(written)[:3]
    clean = Paper(written.page)
    clean.rub_out(written.write(first))
    x, y, *_ = clean.entry(second).box
    clean.grey[round((y + 4) * DPI / 25.4), round((x + 4) * DPI / 25.4)] = 0  # a speck
    smeared = clean.entry(third).box
    low, top, high, bottom = (round(one * DPI / 25.4) for one in smeared)
    clean.grey[top:bottom, low:high] = (clean.grey[top:bottom, low:high] * 0.93).astype(np.uint8)
    assert {one.found for one in clean.read().entries} == {Found.EMPTY}


def test_a_letter_that_was_begun_is_judged_with_its_printed_half():
    paper = Paper(made(WritingRow(("n",), "finish alone*")))
    entry = paper.entry("r1c1")
    ink = paper.write("r1c2")
    shift = np.array(entry.box[:2]) - np.array(paper.entry("r1c2").box[:2])
    half = ink.strokes[0].points_mm[len(ink.strokes[0].points_mm) // 2 :] + shift
    paper.draw(half)
    read = by_key(paper.read())["r1c1"]
    assert read.found is Found.INK
    assert "shape.part-missing" not in {finding.code for finding in read.letter.findings}


@pytest.mark.parametrize(("style", "text"), [(DEFAULT_STYLE, "mast raft"), (CURSIVE, "jump")])
def test_words_and_lines_on_paper_are_read_letter_by_letter(style, text):
    paper = Paper(made(WritingRow((text,), "trace alone", 2), style=style, xh_mm=8), style=style)
    keys = alone(paper)
    paper.write(keys[0])
    read = by_key(paper.read())
    assert read[keys[1]].found is Found.EMPTY
    group, directly = read[keys[0]].group, check_group(paper.written[keys[0]], style)
    assert [one.expected for one in group.letters] == [one.expected for one in directly.letters]
    same = [
        a.headings[heading] is b.headings[heading]
        for a, b in zip(group.letters, directly.letters, strict=True)
        for heading in COUNTED
    ]
    assert sum(same) >= 0.8 * len(same)


def heights_off(paper: Paper, read: ReadPage | None = None) -> dict[str, float]:
    """How much higher the letters of a page are found than they were written, mm."""
    told = by_key(read or paper.read())
    return {
        key: told[key].letter.measures.height_mm
        - check_letter(ink, paper.entry(key).expected, paper.style).measures.height_mm
        for key, ink in paper.written.items()
    }


@pytest.mark.parametrize("printing", ["colour", "black"])
def test_feet_near_a_printed_line_end_where_the_pen_ended(printing):
    paper = Paper(made(WritingRow(("t", "n", "e"), "alone*")), printing)
    for number, key in enumerate(alone(paper)):
        paper.write(key, fault="position.floating", size=0.06 * (number % 3))  # on the line and just above
    assert max(np.abs(list(heights_off(paper).values()))) < 0.4


@pytest.mark.parametrize(("ruling", "xh_mm"), [("word-boxes", 6), ("four-lines", 9)])
def test_where_a_copy_has_lost_the_lines_nothing_of_the_letters_is_taken_for_one(ruling, xh_mm):
    paper = Paper(made(WritingRow(("u", "l"), "alone*", 2), ruling=ruling, xh_mm=xh_mm), "grey")
    paper.grey[paper.grey > 110] = 255
    for key in alone(paper):
        paper.write(key)
    assert max(np.abs(list(heights_off(paper).values()))) < 0.4


@pytest.mark.parametrize("seed", [0, 2])
def test_a_blunt_pencil_between_narrow_lines_makes_no_other_letters(seed):
    """Feet lie on the line, the stem of p is as wide as half its bowl, n is nearly its own mirror image."""
    paper = Paper(made(WritingRow(("p", "n", "u"), "alone*"), xh_mm=5), lead=Lead(0.75, 0.6, 0.3, 0.15))
    paper.rng = np.random.default_rng(seed)
    for key in alone(paper):
        paper.write(key)
    findings = [finding.code for one in paper.read().entries for finding in one.letter.findings]
    assert len(findings) <= 1, findings


@pytest.mark.parametrize(("char", "width_mm"), [("s", 0.4), ("g", 0.55)])
def test_where_lines_meet_a_blunt_pencil_makes_no_corner_in_a_round(char, width_mm):
    page = made(WritingRow((char,), "alone*"), style=CURSIVE, xh_mm=5, ruling="base-only")
    paper = Paper(page, style=CURSIVE, lead=replace(PENCIL, width_mm=width_mm))
    for entry in page.entries:
        paper.write(entry.key)
    told = [{one.code for one in place.letter.findings} for place in paper.read().entries]
    assert len(told) > 8
    assert not any("shape.corner" in codes for codes in told)


@pytest.mark.parametrize("seed", [0, 1])
def test_a_stem_between_the_dotted_edges_of_a_narrow_block_is_a_stem_alone(monkeypatch, seed):
    """On sheets printed before blocks were given room an edge has the stem beside it all along."""
    monkeypatch.setattr(ruling, "_BLOCKS_LEAST_XH", 0.0)
    page = made(WritingRow(("l",), "alone*"), xh_mm=5, ruling="three-blocks", printing=Printing.BLACK)
    paper = Paper(page, printing="black", lead=Lead(0.74, 0.49, 0.2, 0.1), rng=np.random.default_rng(seed))
    for key in alone(paper):
        paper.write(key)
    found = [place.found for place in paper.read().entries]
    assert found.count(Found.INK) > 2 / 3 * len(found), found


def test_a_tail_that_goes_far_beyond_its_place_is_as_long_as_it_was_written():
    paper = Paper(made(WritingRow(("y",), "alone*", 2)))
    for key in alone(paper)[:3]:
        paper.write(key, fault="size.drop-long", size=1.6)
    assert max(np.abs(list(heights_off(paper).values()))) < 0.4


def test_a_row_is_judged_as_a_whole():
    paper = Paper(made(WritingRow(("n",), "alone*")))
    for number, key in enumerate(alone(paper)):
        paper.write(key, fault="size.tall" if number % 2 else None, size=55.0)
    (row,) = paper.read().rows.values()
    assert "size.uneven" in {finding.code for finding in row.findings}


def test_a_page_without_lines_is_straightened_by_its_rings():
    paper = Paper(made(WritingRow(("n",), "alone*", 3), ruling="blank"))
    for key in alone(paper)[::2]:
        paper.write(key)
    picture = take(Device.PHONE, paper.grey, DPI, np.random.default_rng(21))
    read = paper.read(picture.grey)
    assert read.straight.curl_mm > 0
    assert {one.found for one in read.entries if one.entry.key in paper.written} == {Found.INK}
    assert Severity.FIX not in {f.severity for one in read.entries if one.letter for f in one.letter.findings}


def test_a_letter_larger_than_its_place_is_whole_and_a_neighbours_ink_is_not_its_own():
    paper = Paper(made(WritingRow(("l",), "alone*", 2)))
    keys = [key for key in alone(paper) if key.startswith("r2")]
    for key in keys[:3]:
        paper.write(key, fault="size.rise-tall" if key == keys[1] else None, size=1.2)
    read = by_key(paper.read())
    assert "size.rise-tall" in {finding.code for finding in read[keys[1]].letter.findings}
    assert read[keys[3]].found is Found.EMPTY
    assert not read[keys[2]].letter.findings


def test_a_stem_that_runs_into_a_whole_row_above_is_the_letter_it_stands_for():
    paper = Paper(made(WritingRow(("n",), "alone*"), WritingRow(("l",), "alone*"), xh_mm=8))
    above, below = ([key for key in alone(paper) if paper.entry(key).expected == char] for char in ("n", "l"))
    for key in above:
        paper.write(key)
    first, last = (paper.entry(key) for key in (above[0], above[-1]))
    foot = first.lines.base_mm
    paper.draw([(first.box[0] + 3, foot), (last.box[2] - 3, foot)])  # the row hangs together
    middle, base = sum(paper.entry(below[2]).box[::2]) / 2, paper.entry(below[2]).lines.base_mm
    paper.draw([(middle, foot), (middle, base)])
    read = by_key(paper.read())
    assert [read[key].found is Found.EMPTY for key in below] == [key != below[2] for key in below]
    assert not any(read[key].found is Found.EMPTY for key in above)


@pytest.mark.parametrize("char", "ftz")
def test_a_row_that_is_traced_all_along_keeps_its_bars_on_the_line(char):
    paper = Paper(made(WritingRow((char,), "trace*"), xh_mm=8), lead=replace(PENCIL, dark=0.85))
    for entry in paper.page.entries:
        paper.write(entry.key)
    told = {finding.code for one in paper.read().entries for finding in one.letter.findings}
    assert not told & {"shape.part-missing", "shape.bars-uneven", "shape.form"}


def test_pale_pencil_over_print_is_whole_where_all_of_it_was_traced():
    paper = Paper(
        made(*(WritingRow((char,), "trace*") for char in "hva"), xh_mm=8),
        lead=replace(PENCIL, dark=0.5, width_mm=0.7),
    )
    for entry in paper.page.entries:
        paper.write(entry.key)
    assert same_share(paper, paper.read()) > 0.95
