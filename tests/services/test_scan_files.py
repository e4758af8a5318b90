"""``first-loop scan``: pictures of pages in, one document out, as the contract says it."""

from __future__ import annotations

import io
import json
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from typer.testing import CliRunner

from firstloop.cli import app
from firstloop.core.ink import Evidence
from firstloop.formats.inkml import read_inkml
from firstloop.formats.sheet_layout import read_layout
from tests.core.scanning.paper import Paper, made


def run(*arguments):
    return CliRunner().invoke(app, [str(one) for one in arguments])


@pytest.fixture(scope="module")
def folder(tmp_path_factory) -> Path:
    """A sheet with its layout, and the page written on: one as a scan, one upside down without its codes."""
    there = tmp_path_factory.mktemp("scan")
    sheet, layout = there / "sheet.pdf", there / "sheet.json"
    wanted = ["--letters", "n e", "--pattern", "alone*", "--xh", "9"]
    assert run("sheet", *wanted, "--out", sheet, "--layout", layout).exit_code == 0
    read = read_layout(json.loads(layout.read_text()))
    paper = Paper(read.pages[0])
    paper.grey = np.array(Image.open(io.BytesIO(_drawn(sheet))).convert("L"))
    for number, key in enumerate(one.key for one in paper.page.entries):
        if number % 4 != 3:
            paper.write(key, fault="size.tall" if number == 1 else None, size=75.0)
    paper.tick("r1c1")
    paper.strike("r1c3", 0.9)
    Image.fromarray(paper.grey).save(there / "p1.png")
    lost = paper.grey.copy()
    for code in paper.page.codes:
        (x0, y0), (x1, y1) = (
            np.array(code.corners).min(0) * 200 / 25.4,
            np.array(code.corners).max(0) * 200 / 25.4,
        )
        lost[int(y0) - 2 : int(y1) + 3, int(x0) - 2 : int(x1) + 3] = 255
    Image.fromarray(lost[::-1, ::-1]).save(there / "lost.jpg", quality=90)
    other = Paper(made(code="ZZZZZ2"))
    Image.fromarray(other.grey).save(there / "other.tif")
    Image.new("L", (800, 600), 235).save(there / "blank.jpg")
    both = np.full((paper.grey.shape[0], 2 * paper.grey.shape[1] + 60), 200, dtype=np.uint8)
    both[:, : paper.grey.shape[1]] = paper.grey
    both[:, -paper.grey.shape[1] :] = other.grey[: paper.grey.shape[0], : paper.grey.shape[1]]
    Image.fromarray(both).save(there / "both.png")
    return there


def _drawn(pdf: Path) -> bytes:
    import pypdfium2 as pdfium

    out = io.BytesIO()
    document = pdfium.PdfDocument(pdf)
    document[0].render(scale=200 / 72).to_pil().save(out, "PNG")
    document.close()
    return out.getvalue()


def scanned(folder: Path, *pictures: str, more=()) -> tuple[int, dict, str]:
    done = run(
        "scan", *(folder / one for one in pictures), "--layout", folder / "sheet.json", "--json", *more
    )
    return done.exit_code, json.loads(done.stdout), done.stderr


def test_a_page_is_read_cell_by_cell(folder):
    code, document, _ = scanned(folder, "p1.png")
    assert (code, document["format"]) == (0, "first-loop-scan/1")
    (page,) = document["pages"]
    layout = json.loads((folder / "sheet.json").read_text())
    wanted = (
        page["status"],
        page["sheet"],
        page["copy"],
        page["page"],
        page["picture"],
        page["picture_page"],
    )
    assert wanted == ("read", layout["sheet"], 1, 1, "p1.png", 1)
    assert page["dpi"] == pytest.approx(200, abs=1)
    assert page["residual_mm"] < 0.1
    assert min(page["turned_deg"], 360 - page["turned_deg"]) < 0.2
    cells = {cell["id"]: cell for cell in page["cells"]}
    assert list(cells) == [cell["id"] for cell in layout["pages"][0]["cells"]]
    found = {key: cell["found"] for key, cell in cells.items()}
    assert (found["r1c1"], found["r1c3"], found["r1c4"]) == ("ink", "crossed-out", "empty")
    assert [key for key, cell in cells.items() if cell["best"]] == ["r1c1"]
    tall = cells["r1c2"]["letter"]
    assert (tall["expected"], tall["headings"]["direction"], tall["headings"]["size"]) == (
        "n",
        "not-seen",
        "fix",
    )
    (finding,) = [one for one in tall["findings"] if one["code"] == "size.tall"]
    left, top, right, bottom = layout["pages"][0]["cells"][1]["box_mm"]
    assert left <= finding["at"][0] <= right
    assert top - 8 <= finding["at"][1] <= bottom + 8
    assert finding["teacher"]
    assert cells["r1c3"]["letter"] is None
    assert [row["row"] for row in page["rows"]] == [1, 2]


def test_a_page_without_its_codes_upside_down_is_read_as_the_only_one_it_can_be(folder):
    _, document, _ = scanned(folder, "lost.jpg")
    (page,) = document["pages"]
    assert (page["status"], page["copy"]) == ("unnamed", None)
    assert page["turned_deg"] == pytest.approx(180, abs=0.3)
    assert [cell["found"] for cell in page["cells"]][:4] == ["ink", "ink", "crossed-out", "empty"]


def test_what_is_no_page_of_this_sheet_is_said_and_a_page_that_came_before_is_not_read_again(folder):
    code, document, _ = scanned(folder, "p1.png", "other.tif", "blank.jpg", "p1.png")
    assert code == 0
    assert [page["status"] for page in document["pages"]] == [
        "read",
        "other-sheet",
        "not-a-sheet",
        "repeated",
    ]
    assert document["pages"][1]["sheet"] == "ZZZZZ2"
    assert all(page["why"] and not page["cells"] for page in document["pages"][1:])


def test_two_pages_in_one_picture_are_two_entries(folder):
    _, document, _ = scanned(folder, "both.png")
    assert sorted(page["status"] for page in document["pages"]) == ["other-sheet", "read"]


def test_the_ways_found_are_ink_that_says_where_it_is_from(folder):
    out = folder / "ways.inkml"
    scanned(folder, "p1.png", more=("--ink", out))
    text = out.read_text()
    groups = read_inkml(out.read_bytes())
    assert {group.evidence for group in groups} == {Evidence.SCAN}
    assert {"n", "e"} == {group.truth for group in groups}
    for note in ('type="sheet"', 'type="copy">1<', 'type="page">1<', 'type="cell">r1c1<'):
        assert note in text
    done = run("check", out, "--json")
    assert done.exit_code == 0
    letters = [letter for group in json.loads(done.stdout)["groups"] for letter in group["letters"]]
    assert {letter["headings"]["direction"] for letter in letters} == {"not-seen"}


def test_a_picture_that_cannot_be_opened_does_not_stop_the_others(folder):
    (folder / "broken.png").write_bytes(b"\x89PNG\r\n\x1a\n")
    code, document, said = scanned(folder, "broken.png", "p1.png", "nowhere.png")
    assert code == 2
    assert [page["status"] for page in document["pages"]] == ["read"]
    assert [line.count("broken.png") + line.count("nowhere.png") for line in said.strip().splitlines()] == [
        1,
        1,
    ]


@pytest.mark.parametrize(
    "layout", ["", "[]", "{}", '{"format": "first-loop-sheet/1", "sheet": "A", "pages": [{}]}']
)
def test_a_layout_that_is_none_is_refused_in_one_line(folder, layout):
    bad = folder / "bad.json"
    bad.write_text(layout)
    done = run("scan", folder / "p1.png", "--layout", bad)
    assert done.exit_code == 2
    assert len(done.stderr.strip().splitlines()) == 1


def test_without_json_a_table_is_printed(folder):
    done = run("scan", folder / "p1.png", "--layout", folder / "sheet.json")
    assert done.exit_code == 0
    assert "crossed-out" in done.stdout
