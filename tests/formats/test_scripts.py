from __future__ import annotations

import io

import pypdfium2
import pytest
from fontTools.pens.recordingPen import RecordingPen
from fontTools.pens.transformPen import TransformPen

from firstloop.formats import scripts
from firstloop.formats.page_pdf import Pages
from firstloop.formats.spreadsheet import spreadsheet


def latin(char: str) -> bool:
    return ord(char) < 256


def outline(run: scripts.Run) -> list:
    """What is drawn of a run, in font units."""
    pen = RecordingPen()
    scripts.draw(run, lambda x, y, scale: TransformPen(pen, (scale, 0, 0, scale, x, y)), 1000.0)
    return pen.value


@pytest.mark.parametrize(
    ("name", "font"),
    [
        ("ليلى", "arabic"), ("小雨", "chinese"), ("Ελένη", "greek"), ("Ірина", "cyrillic"), ("שרה", "hebrew"),
        ("आरव", "devanagari"), ("আরিফ", "bengali"), ("હેતલ", "gujarati"), ("ਗੁਰ", "gurmukhi"),
        ("தமிழ்", "tamil"),
    ],
)  # fmt: skip
def test_a_name_of_another_script_is_one_run_of_its_own_font_and_draws(name, font):
    ((plain, run),) = scripts.runs(name, latin)
    assert not plain
    assert font in run.font.name
    assert scripts.width(run, 10.0) > 4
    assert len(outline(run)) > 20


def test_arabic_letters_are_joined_and_run_from_the_right():
    ((_, run),) = scripts.runs("ليلى", latin)
    apart = sum(scripts.width(scripts.Run(char, run.font), 1000.0) for char in "ليلى")
    assert scripts.width(run, 1000.0) < 0.8 * apart  # joined they take less room
    first = scripts.Run("ل", run.font)
    xs = [point[0] for op, points in outline(run) for point in points if point]
    assert max(xs) > scripts.width(run, 1000.0) - scripts.width(first, 1000.0)


def test_a_space_between_scripts_stands_after_what_it_follows():
    assert [(plain, run.text) for plain, run in scripts.runs("Ada ليلى X", latin)] == [
        (True, "Ada "), (False, "ليلى"), (True, " "), (True, "X")
    ]  # fmt: skip


def test_what_no_font_has_is_said_at_the_foot_and_once():
    pages = Pages("t")
    pages.text("For Ann 👩 B 👩")
    pages.footer("Foot.")
    pages.next_page()
    pages.footer("Next foot.")
    document = pypdfium2.PdfDocument(io.BytesIO(pages.done()))
    first, second = (page.get_textpage().get_text_range() for page in document)
    assert "no typeface at hand has it: woman." in first
    assert "no typeface" not in second
    assert "For Ann" in first


def test_cells_that_a_spreadsheet_would_run_are_text_and_others_are_left_alone():
    text = spreadsheet([["=1+1", "+44", "-5", "@x", "\tx", "Zoë", -5, 3.5, ""]])
    assert text == "\ufeff'=1+1,'+44,'-5,'@x,'\tx,Zoë,-5,3.5,\r\n"
