"""A ruling is one entry of a table, and every output draws what stands there."""

from __future__ import annotations

import base64
import io
import re
import zlib
from itertools import pairwise
from xml.etree import ElementTree as ET

import numpy as np
import pytest
from PIL import Image

from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.letterforms.words import word
from firstloop.core.ruling import RULINGS, Boxes, RulingKind
from firstloop.core.sheets.wall import wall
from firstloop.formats.page_pdf import Pages
from firstloop.formats.png import _BAND, model_png
from firstloop.formats.sheet_svg import page_svg
from firstloop.formats.svg import model_svg

TEXT = "jig sat"
SIDES = 2 * 4  # of the blocks of two words of three letters
SVG = "{http://www.w3.org/2000/svg}"
ALL = pytest.mark.parametrize("kind", RULINGS.values(), ids=list(RULINGS))


def boxes(kind: RulingKind) -> int:
    return {None: 0, Boxes.LETTER: 3 * 6, Boxes.WORD: 2}[kind.boxes]


def commands(data: bytes) -> str:
    """The drawing commands of a PDF of one page."""
    (packed,) = re.findall(rb"stream\r?\n(.*?)endstream", data, re.DOTALL)
    return zlib.decompress(base64.a85decode(packed.strip().removesuffix(b"~>"))).decode()


def dashed(kind: RulingKind) -> int:
    return sum(line.dashed for line in kind.lines)


@ALL
def test_svg_draws_its_lines_boxes_and_band(kind):
    root = ET.fromstring(model_svg(word(TEXT), kind.key))
    lines = [
        one
        for one in root.iter(f"{SVG}line")
        if one.get("x2") != one.get("x1") and one.get("y1") == one.get("y2")
    ]
    ruled = [one for one in lines if one.get("stroke-width") in ("1.6", "2.4")]
    assert len(ruled) == len(kind.lines)
    assert sum(one.get("stroke-dasharray") is not None for one in ruled) == dashed(kind)
    rects = list(root.iter(f"{SVG}rect"))
    assert sum(one.get("fill") == "none" for one in rects) == boxes(kind)
    assert len(rects) - boxes(kind) == 1 + kind.washed  # the paper itself is one


@ALL
def test_png_tints_the_band_only_where_the_ruling_does(kind):
    picture = np.array(Image.open(io.BytesIO(model_png(letter("l"), kind.key, 300))).convert("RGB"))
    band = tuple(int(_BAND[i : i + 2], 16) for i in (1, 3, 5))
    assert bool((picture == band).all(2).any()) == kind.washed


@ALL
def test_png_has_as_many_lines_and_boxes_as_the_ruling(kind):
    blank = np.array(Image.open(io.BytesIO(model_png(word(TEXT), "blank", 300))).convert("L"), dtype=int)
    ruled = np.array(Image.open(io.BytesIO(model_png(word(TEXT), kind.key, 300))).convert("L"), dtype=int)
    changed = np.abs(blank - ruled) > 25
    rows = changed[:, :4].any(1) if kind.lines else changed.any(1)
    assert bool(changed.any()) == bool(kind.lines or kind.boxes)
    assert int((np.diff(rows.astype(int)) == 1).sum()) >= len(kind.lines) - dashed(kind)


@ALL
def test_pdf_draws_its_lines_boxes_and_band(kind):
    pages = Pages("Ruled")
    pages.lines(20, 60, 120, 10, ruling=kind.key, words=letter_boxes(word(TEXT)))
    drawn = commands(pages.done())
    blocks = kind.boxes is Boxes.LETTER  # which stand between ruled lines: only their sides are printed
    assert len(re.findall(r" l\b", drawn)) == len(kind.lines) + (SIDES if blocks else 0)
    assert len(re.findall(r" re\b", drawn)) == kind.washed + (0 if blocks else boxes(kind))
    assert len(re.findall(r"\[ ?\.?\d[^\]]*\] 0 d", drawn)) == dashed(kind)


def test_no_edge_of_a_block_makes_the_base_line_pale():
    blocks = np.array(Image.open(io.BytesIO(model_png(word(TEXT), "three-blocks", 300))).convert("L"))
    strong = blocks[:, 2].min()
    base = blocks[:, 2] == strong
    assert (blocks[base] <= strong + 20.0).all(), "something pale is drawn over the base line"
    kinds = [one.tag for one in ET.fromstring(model_svg(word(TEXT), "three-blocks")).iter()]
    assert max(i for i, tag in enumerate(kinds) if tag == f"{SVG}rect") < kinds.index(f"{SVG}line")


def test_a_letter_is_drawn_in_pdf_by_its_own_curves():
    pages, model = Pages("Curves"), letter("o")
    pages.model(model, 30, 60, 10)
    cubics = sum(len(move.path.cubics) for stroke in model.strokes for move in stroke.moves)
    assert len(re.findall(r" c\b", commands(pages.done()))) == cubics


@ALL
def test_the_wall_sheet_takes_any_ruling(kind):
    root = ET.fromstring(page_svg(wall([letter("a"), letter("l")], kind.key, 2), "two letters"))
    broken = [one for one in root.iter(f"{SVG}path") if one.get("stroke-dasharray")]
    assert len(broken) == 2 * dashed(kind)


def test_blocks_of_neighbours_meet_and_hold_their_letters():
    kind, (jig, sat) = RULINGS["three-blocks"], letter_boxes(word(TEXT))
    for letters in (jig, sat):
        cells = sorted({(left, right) for left, _, right, _ in kind.drawn_boxes([letters])})
        assert [one[1] for one in cells[:-1]] == [one[0] for one in cells[1:]]
        assert all(right > left for left, right in cells)
        middles = [(left + right) / 2 for left, _, right, _ in letters]
        assert all(left < middle < right for (left, right), middle in zip(cells, middles, strict=True))


def test_blocks_of_a_joined_word_part_it_between_the_letters_themselves():
    (boxes,) = letter_boxes(word("tide", HouseStyle(script=Script.CURSIVE)))
    whole = word("tide", HouseStyle(script=Script.CURSIVE)).bounds
    assert (boxes[0][0], boxes[-1][2]) == pytest.approx((whole[0], whole[2]))  # ways in and out at the ends
    assert all(one[2] < other[0] for one, other in pairwise(boxes))  # else a block would cut a letter
