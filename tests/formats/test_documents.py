from __future__ import annotations

from xml.etree import ElementTree as ET

import orjson
import pytest

from firstloop.core.check.group import check_group
from firstloop.core.curves import nearest
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import HouseStyle, StyleError, Width
from firstloop.core.moves import MoveKind
from firstloop.core.sheets.scene import Words
from firstloop.core.sheets.wall import arrows, wall
from firstloop.core.simulate.evaluate import INK_SETS, evaluate, jobs
from firstloop.core.simulate.writer import write
from firstloop.formats.check_json import group_document
from firstloop.formats.evaluation_md import evaluation_markdown
from firstloop.formats.inkml import write_inkml
from firstloop.formats.sheet_svg import page_svg
from firstloop.formats.style_json import read_style, write_style
from firstloop.services.check_files import CheckDocument, check_file

LETTER_KEYS = {"expected", "verdict", "headings", "reads_as", "findings", "measures"}
FINDING_KEYS = {
    "code", "heading", "severity", "stroke", "move", "value", "unit", "tolerance", "at", "teacher", "child",
}  # fmt: skip
MEASURE_KEYS = {
    "height_xh", "height_mm", "width_xh", "top_xh", "bottom_xh", "start_x_xh", "start_y_xh", "slant_deg",
    "form_xh", "strokes", "duration_ms",
}  # fmt: skip


def as_json(document: CheckDocument) -> dict:
    return orjson.loads(orjson.dumps(document))


def test_the_check_document_has_every_field_of_its_format(rng):
    group = write("m", rng, fault="start.bottom", size=1)
    document = as_json(check_file(write_inkml([group])))
    assert document["format"] == "first-loop-check/1"
    (one,) = document["groups"]
    assert set(one) >= {"truth", "letters", "findings", "measures"}
    (judged,) = one["letters"]
    assert set(judged) >= LETTER_KEYS
    assert set(judged["headings"]) == {"direction", "shape", "size", "flow"}
    assert set(judged["measures"]) >= MEASURE_KEYS
    assert all(set(finding) >= FINDING_KEYS for finding in judged["findings"])
    bottom = next(finding for finding in judged["findings"] if finding["code"] == "start.bottom")
    assert bottom["at"][1] == pytest.approx(group.ruling.base_mm, abs=1.5)


def test_a_place_on_the_ink_is_in_page_millimetres(rng):
    group = write("n", rng, fault="start.bottom", size=1, left_mm=80)
    document = group_document(check_group(group), group.ruling)
    x, y = document["letters"][0]["findings"][0]["at"]
    start = group.strokes[0].points_mm[0]
    assert (x, y) == pytest.approx(tuple(start), abs=0.6)


@pytest.mark.parametrize("style", [HouseStyle(), HouseStyle("Leaning", slant_deg=7, width=Width.WIDE)])
def test_a_style_is_read_back_as_written(style):
    assert read_style(write_style(style)) == style


@pytest.mark.parametrize(
    "text", ["{", "[]", '{"slant_deg": 40}', '{"width": "huge"}', '{"script": "runes"}', "null"]
)
def test_a_style_that_cannot_be_followed_is_refused(text):
    with pytest.raises(StyleError):
        read_style(text)


def test_a_style_may_leave_choices_out():
    assert read_style('{"slant_deg": 5}') == HouseStyle(slant_deg=5)


def test_the_wall_sheet_has_every_letter_with_a_number_for_every_stroke_and_an_arrow_a_move():
    models = [letter(char) for char in LOWER]
    page = wall(models, "four-lines", columns=6)
    numbers = [one.text for one in page.items if isinstance(one, Words)]
    assert len(numbers) == sum(len(model.strokes) for model in models)
    root = ET.fromstring(page_svg(page, "for the wall"))
    drawn = [one.get("data-letter") for one in root.iter() if one.get("data-letter")]
    assert sorted(drawn) == sorted(LOWER)
    for model in models:
        moves = sum(kind is not MoveKind.DOT for stroke in model.strokes for kind in stroke.kinds)
        assert 1 <= len(arrows(model)) <= moves


def test_an_arrow_stands_clear_of_its_letter():
    for char in LOWER:
        model = letter(char)
        for shaft in arrows(model):
            assert nearest(shaft, model.points).min() > 0.08, char


def test_the_evaluation_page_shows_every_code_that_was_tried():
    table = evaluate(jobs(1, 2, INK_SETS[:1], ("tuning", "kept"), ["start.bottom", "unreadable"]))
    text = evaluation_markdown(table, 1, 2)
    assert "| `start.bottom` | 64 |" in text
    assert "`unreadable`" in text
    assert "--seed 2" in text
