"""Sheets as a teacher makes them: taken ready-made, changed, kept, and printed for the class."""

from __future__ import annotations

import re
from pathlib import Path

import httpx2
import numpy as np
import pypdfium2 as pdfium
import pytest
import zxingcpp
from playwright.sync_api import Page, expect

from tests.browser.shots import PATIENCE_S
from tests.browser.test_screens import findings, sound

pytestmark = pytest.mark.browser


def ready(page: Page, name: str) -> None:
    page.goto("/sheets")
    page.get_by_role("list", name="Ready-made sheets").get_by_role(
        "button", name=re.compile(f"^{name}")
    ).click()
    expect(page.get_by_role("img", name=re.compile(f"^{name}, page 1"))).to_be_visible()


def rows(page: Page) -> list[str]:
    return page.get_by_role("region", name="Rows").locator("li button[aria-expanded] b").all_inner_texts()


def printed_pdf(page: Page, base_url: str) -> pdfium.PdfDocument:
    """Press Print and fetch the pages that open in a tab of their own."""
    with page.context.expect_page() as opened:
        page.get_by_role("button", name="Print", exact=True).click()
    link = page.get_by_role("link", name="Its pages")
    expect(link).to_be_visible()
    opened.value.close()
    answer = httpx2.get(base_url + link.get_attribute("href"), timeout=PATIENCE_S)
    assert answer.headers["content-type"] == "application/pdf"
    return pdfium.PdfDocument(answer.content)


def codes(document: pdfium.PdfDocument) -> list[set[str]]:
    pictures = (np.asarray(one.render(scale=100 / 72).to_pil().convert("L")) for one in document)
    return [{one.text for one in zxingcpp.read_barcodes(picture)} for picture in pictures]


def test_a_letter_sheet_is_taken_changed_in_place_and_printed_for_the_class(page: Page, api, group, base_url):
    children = [
        api.post(f"/api/classes/{group}/children", json={"first_name": name, "initial": "A", "hand": hand})
        for name, hand in (("Wren", "right"), ("Yara", "left"))
    ]
    ready(page, "Letter sheet")
    before = rows(page)
    page.get_by_role("button", name="Add words").click()
    field = page.get_by_label("Letters or words")
    field.fill("hen  men")
    field.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^hen and men"))).to_be_visible()
    assert len(rows(page)) == len(before) + 1

    page.get_by_label("Small letters, mm").fill("8")
    expect(page.get_by_text("8 mm", exact=False).first).to_be_visible()
    page.get_by_label("How it goes").select_option(label="model, below it trace, below it alone")
    page.get_by_label("Lines for each").fill("3")
    expect(page.get_by_text("model; below: trace; below: alone")).to_be_visible()

    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("model; below: trace; below: alone")).to_have_count(0)
    expect(page.get_by_label("Small letters, mm")).to_have_value("8")

    expect(page.get_by_text("Yara gets the model on the right too")).to_be_visible()
    document = printed_pdf(page, base_url)
    everybody = api.get("/api/classes").json()
    here = next(one for one in everybody if one["id"] == group)
    assert len(here["children"]) >= len(children)
    found = codes(document)
    assert len(set.union(*found)) == len(document), "every page has a code of its own"
    assert all(len(one) == 1 for one in found)


def test_rows_go_into_another_order_by_dragging_and_by_keys(page: Page, group):
    ready(page, "Letter sheet")
    start = rows(page)
    page.get_by_role("button", name="Add a line").click()
    expect(page.get_by_role("button", name=re.compile("^a nest"))).to_be_visible()
    last = len(start)
    handle = page.get_by_role("button", name=re.compile(rf"^Move row {last + 1},"))
    top = page.get_by_role("button", name=re.compile(r"^Move row 1,")).bounding_box()
    at = handle.bounding_box()
    page.mouse.move(at["x"] + 5, at["y"] + 8)
    page.mouse.down()
    page.mouse.move(top["x"] + 40, top["y"] + 20, steps=6)
    page.mouse.move(top["x"] + 40, top["y"] + 6, steps=3)
    page.mouse.up()
    expect(page.get_by_role("button", name=re.compile(r"^Move row 1, a nest"))).to_be_visible()
    page.get_by_role("button", name=re.compile(r"^Move row 1, a nest")).press("ArrowDown")
    moved = page.get_by_role("button", name=re.compile(r"^Move row 2, a nest"))
    expect(moved).to_be_focused()
    page.keyboard.press("u")
    expect(page.get_by_role("button", name=re.compile(r"^Move row 1, a nest"))).to_be_visible()
    page.get_by_role("button", name=re.compile(r"^Take row 1, a nest")).click()
    expect(page.get_by_role("button", name=re.compile(r"^Move row"))).to_have_count(last)
    page.reload()
    expect(page.get_by_role("button", name=re.compile(r"^Move row"))).to_have_count(last)


def test_what_does_not_fit_is_said_with_what_would_and_the_page_stays(page: Page, group):
    ready(page, "Words")
    page.get_by_role("button", name=re.compile("model, trace, then alone")).first.click()
    field = page.get_by_label("Letters or words")
    field.fill("mammothmammothmammothmammoth")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("it fits at")
    expect(page.get_by_role("button", name="Print", exact=True)).to_be_disabled()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.get_by_role("button", name="Print", exact=True)).to_be_enabled()


def test_a_sheet_is_kept_under_a_name_changed_put_away_and_brought_back(page: Page, group, tmp_path: Path):
    ready(page, "Recall rows")
    page.get_by_role("button", name="Save as").click()
    page.get_by_role("menuitem", name="A sheet of the class, under a name").click()
    page.get_by_label("Name", exact=True).fill("Every Monday")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="Empty lines").click()
    page.get_by_role("button", name="Save as").click()
    page.get_by_role("menuitem", name="A sheet of the class, under a name").click()
    page.get_by_role("button", name="Keep it as it is now").click()
    expect(page.get_by_role("dialog")).to_have_count(0)

    page.goto("/sheets")
    kept = page.get_by_role("region", name="Sheets you keep")
    with page.expect_download() as got:
        kept.get_by_role("link", name="As a file").click()
    file = tmp_path / "sheet.json"
    got.value.save_as(file)
    kept.get_by_role("button", name="Put away").click()
    expect(kept.get_by_text("Every Monday is put away.")).to_be_visible()
    kept.get_by_role("button", name="Undo").click()
    expect(kept.get_by_role("button", name="Every Monday")).to_be_visible()
    kept.get_by_label("Bring in a sheet").set_input_files(file)
    expect(kept.get_by_role("button", name="Every Monday")).to_have_count(2)
    kept.get_by_role("button", name="Every Monday").first.click()
    expect(page.get_by_role("button", name=re.compile("^Empty lines.*lines only"))).to_be_visible()
    wrong = tmp_path / "wrong.json"
    wrong.write_text("{}")
    page.goto("/sheets")
    kept.get_by_label("Bring in a sheet").set_input_files(wrong)
    expect(kept.get_by_role("alert")).to_contain_text("no file of a sheet")


@pytest.mark.parametrize(
    ("path", "press", "row"),
    [
        ("/letters/n", "Sheet for it", "^n"),
        ("/letters/n/class", "Sheet for it", "^n"),
        ("/words?chosen=hen men", "Sheet for them", "^hen and men"),
    ],
)
def test_a_sheet_for_it_is_a_press_away_and_leaves_the_address(page: Page, group, path, press, row):
    page.goto(path)
    page.get_by_text(press, exact=True).click()
    expect(page.get_by_role("button", name=re.compile(row)).first).to_be_visible()
    expect(page).to_have_url(re.compile(r"/sheets/this$"))


@pytest.mark.parametrize("part", ["", "/this", "/each", "/printed"])
def test_every_part_of_the_sheets_is_sound_for_everybody(page: Page, group, part):
    ready(page, "Letter sheet")
    page.get_by_role("button", name="Add words").click()
    page.get_by_text("Page and options").click()
    expect(page.get_by_label("Title")).to_be_visible()
    if part == "/this":
        assert findings(page) == []
    sound(page, f"/sheets{part}")
