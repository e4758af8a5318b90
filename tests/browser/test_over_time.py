"""Today, the class over the term, one child's story, and records taken out and brought back."""

from __future__ import annotations

import os
import re
import shutil
from datetime import date, timedelta
from pathlib import Path

import httpx2
import pytest
from filelock import FileLock
from playwright.sync_api import Page, expect

from firstloop.api.settings import Settings
from firstloop.demo.seed import seed
from firstloop.store.database import open_engine, sessions, upgrade
from tests.browser.shots import PATIENCE_S, serve
from tests.browser.test_sheets import printed_pdf

pytestmark = pytest.mark.browser
WEEKS, TERM_WEEKS = 6, 13  # half-term is one of them


@pytest.fixture(scope="module")
def school(tmp_path_factory: pytest.TempPathFactory) -> str:
    """The demo school as it stands after five weeks, which end now; made by one worker for all of them."""
    folder, shared = tmp_path_factory.mktemp("over-time"), tmp_path_factory.getbasetemp()
    if "PYTEST_XDIST_WORKER" in os.environ:
        shared = shared.parent
    with FileLock(shared / "over-time.lock"):
        made = shared / "over-time-made"
        if not made.exists():
            making = tmp_path_factory.mktemp("making")
            _make(making)
            making.rename(made)
    shutil.copytree(made, folder, dirs_exist_ok=True)
    return serve(folder)


def _make(folder: Path) -> None:
    engine = open_engine(Settings(folder).database)
    upgrade(engine)
    with sessions(engine)() as session:
        seed(session, date.today() + timedelta(weeks=TERM_WEEKS - WEEKS), weeks=WEEKS)
    engine.dispose()


@pytest.fixture
def records(school: str):
    with httpx2.Client(base_url=school, timeout=PATIENCE_S) as api:
        yield api


def child_id(records: httpx2.Client, name: str) -> int:
    classes = records.get("/api/classes").json()
    return next(child["id"] for one in classes for child in one["children"] if child["name"] == name)


def test_today_leads_to_everything_in_one_click(page: Page, school: str):
    page.goto(school)
    expect(page.get_by_role("heading", name="Today", exact=True)).to_be_visible()
    page.get_by_role("link", name="Check them").click()
    expect(page.get_by_role("heading", name="Check", exact=True)).to_be_visible()
    page.go_back()
    recall = page.get_by_role("group", name="Recall row").get_by_role("link")
    expect(recall.first).to_be_visible()
    letter = recall.first.get_attribute("href").rpartition("=")[2]
    recall.first.click()
    expect(page.get_by_role("radio", name=letter, exact=True)).to_be_checked()
    page.go_back()
    page.get_by_role("link", name="Show m, n on the board").or_(
        page.get_by_role("link", name="Show n, m on the board")
    ).click()
    expect(page.get_by_role("img", name="on the board")).to_be_visible()


def test_a_group_that_the_teacher_changed_stays_changed(page: Page, school: str):
    page.goto(f"{school}/today")
    group = page.get_by_role("listitem", name="begun at the bottom in")
    expect(group.get_by_role("link", name="Bashir T")).to_be_visible()
    page.get_by_role("button", name="Change the groups").click()
    with page.expect_response(lambda answer: answer.url.endswith("/groups") and answer.ok):
        group.get_by_role("button", name="Take Bashir T out").click()
    with page.expect_response(lambda answer: answer.url.endswith("/groups") and answer.ok):
        group.get_by_label("Add a child").select_option(label="Priya J")
    page.reload()
    expect(group.get_by_role("link", name="Priya J")).to_be_visible()
    expect(group.get_by_role("link", name="Bashir T")).to_have_count(0)
    page.get_by_role("button", name="Work them out afresh").click()
    expect(group.get_by_role("link", name="Bashir T")).to_be_visible()
    expect(group.get_by_role("link", name="Priya J")).to_have_count(0)


def test_a_group_is_made_of_those_who_share_another_slip(page: Page, school: str):
    page.goto(f"{school}/today")
    groups = page.get_by_role("region", name="Groups")
    expect(groups.get_by_role("listitem", name=" in ").first).to_be_visible()
    before = groups.get_by_role("listitem", name=" in ").count()
    page.get_by_role("button", name="Change the groups").click()
    with page.expect_response(lambda answer: answer.url.endswith("/groups") and answer.ok):
        groups.get_by_label("Make another group").select_option(index=1)
    expect(groups.get_by_role("listitem", name=" in ")).to_have_count(before + 1)
    page.get_by_role("button", name="Work them out afresh").click()
    expect(groups.get_by_role("listitem", name=" in ")).to_have_count(before)


def test_the_class_map_is_walked_by_keys_and_tells_why(page: Page, school: str):
    page.goto(f"{school}/class")
    cell = page.get_by_role("link", name="Bashir T, n: learning")
    cell.focus()
    expect(page.get_by_role("status")).to_contain_text("Bashir T, n now learning:")
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("status")).to_contain_text("Cleo M, n now secure: ")
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("status")).to_contain_text("Cleo M, r now")
    page.keyboard.press("Enter")
    here = page.get_by_role("link", name=re.compile("^r, (learning|secure)$"))
    expect(here).to_have_attribute("aria-current", "page")


def test_the_class_map_changes_with_the_heading_and_the_day(page: Page, school: str):
    page.goto(f"{school}/class")
    expect(page.get_by_role("link", name="Bashir T, n: learning")).to_be_visible()
    page.get_by_role("group", name="Heading").get_by_text("Size").click()
    expect(page.get_by_role("link", name="Bashir T, n: secure")).to_be_visible()
    slider = page.get_by_role("slider", name="As it stood on")
    slider.focus()
    page.keyboard.press("Home")
    expect(page.get_by_role("link", name="Bashir T, n: not started")).to_be_visible()
    page.get_by_role("button", name="Play the term").click()
    expect(page.get_by_role("button", name="Stop")).to_be_hidden()  # played to today
    expect(page.get_by_role("link", name="Bashir T, n: secure")).to_be_visible()
    page.get_by_role("group", name="By").get_by_text("Families").click()
    expect(page.get_by_role("row", name="Bashir T")).to_contain_text("of 4")
    expect(page.get_by_role("table", name="Commonest slips")).to_contain_text("floating above the line")
    page.get_by_role("link", name="Bashir T, Up-and-overs").click()
    expect(page.get_by_role("heading", name="Bashir T")).to_be_visible()


def test_a_childs_story_says_what_to_do_and_what_became_of_slips(page: Page, school: str, records):
    page.goto(f"{school}/class")
    page.get_by_role("link", name="Bashir T", exact=True).click()
    expect(page.get_by_role("region", name="Next steps")).to_contain_text("begun at the bottom")
    expect(page.get_by_role("region", name="Slips over time")).to_contain_text("goes on")
    pairs = page.get_by_role("region", name="First and latest").get_by_role("link")
    expect(pairs.first).to_be_visible()
    charts = page.get_by_role("region", name="Headings over time")
    charts.get_by_text("As a table").click()
    expect(charts.get_by_role("columnheader", name="Direction")).to_be_visible()
    page.get_by_label("A note of today").fill("Started n at the top today.")
    page.get_by_role("button", name="Keep").click()
    notes = page.get_by_role("region", name="Notes")
    expect(notes.get_by_text("Started n at the top today.")).to_be_visible()
    notes.get_by_role("button", name="Take back: Started n").click()
    expect(notes.get_by_text("Started n at the top today.")).to_have_count(0)
    page.get_by_role("link", name="n, learning").click()
    expect(page.get_by_text("learning: ").first).to_be_visible()
    page.get_by_role("button", name="All on top of each other").click()
    expect(page.get_by_role("img", name="on top of each other")).to_be_visible()


def test_a_letters_page_has_the_record_of_the_class(page: Page, school: str):
    page.goto(f"{school}/letters/n")
    record = page.get_by_role("region", name="Kittiwake class and n")
    expect(record).to_contain_text("secure")
    record.get_by_role("link", name="Bashir").click()
    expect(page.get_by_role("heading", name="Bashir T")).to_be_visible()


def test_who_needs_a_letter_is_taken_aside_from_its_page(page: Page, school: str, records):
    page.goto(f"{school}/letters/n")
    page.get_by_role("link", name="who needs what of n").click()
    children = page.get_by_role("list", name="Children, who needs n most first")
    first = children.get_by_role("listitem").filter(has=page.get_by_role("checkbox")).first
    expect(first).to_contain_text("teach again")
    expect(first.get_by_role("img", name="wrote it on")).to_be_visible()
    before = len(records.get("/api/classes/1/today").json()["groups"])
    some = [page.get_by_role("checkbox").nth(i) for i in range(2)]
    names = [one.get_attribute("aria-label").removeprefix("Take ").removesuffix(" aside") for one in some]
    for one in some:
        one.check()
    page.get_by_role("button", name="Take them aside over").click()
    expect(page.get_by_role("status")).to_contain_text("stand on Today as a group")
    expect(page.get_by_role("checkbox", checked=True)).to_have_count(0)
    page.get_by_role("link", name="See Today").click()
    group = page.get_by_role("region", name="Groups").locator("ol > li").first
    for name in names:
        expect(group).to_contain_text(name)
    assert len(records.get("/api/classes/1/today").json()["groups"]) == before + 1
    page.get_by_role("button", name="Work them out afresh").click()
    expect(page.get_by_role("button", name="Work them out afresh")).to_have_count(0)


def downloaded(page: Page, link: str) -> Path:
    with page.expect_download() as caught:
        page.get_by_role("link", name=link).click()
    return Path(caught.value.path())


def test_report_and_practice_strip_are_pages_to_print(page: Page, school: str, records):
    page.goto(f"{school}/children/{child_id(records, 'Edie W')}")
    for link in ("Report", "Practice strip"):
        assert downloaded(page, link).read_bytes().startswith(b"%PDF")


def test_a_child_goes_out_is_erased_and_comes_back(page: Page, school: str, records):
    number = child_id(records, "Orla F")
    before = records.get(f"/api/children/{number}/story").json()
    page.goto(f"{school}/children/{number}")
    file = downloaded(page, "Export")
    page.get_by_role("button", name="Erase").click()
    expect(page.get_by_role("dialog")).to_contain_text("For thirty days")
    page.get_by_label("Type Orla to go on").fill("Orla")
    with page.expect_response(lambda answer: answer.request.method == "DELETE" and answer.ok):
        page.get_by_role("button", name="Erase Orla").click()
    expect(page.get_by_role("heading", name="Kittiwake class")).to_be_visible()
    page.goto(f"{school}/records")
    page.get_by_label("Take a child into Kittiwake class").set_input_files(
        {"name": "orla.zip", "mimeType": "application/zip", "buffer": file.read_bytes()}
    )
    page.get_by_role("status").get_by_role("link", name="Orla F").click()
    expect(page.get_by_role("heading", name="Orla F")).to_be_visible()
    after = records.get(f"/api/children/{child_id(records, 'Orla F')}/story").json()
    assert [one["why"] for one in after["letters"]] == [one["why"] for one in before["letters"]]


def test_a_backup_is_checked_before_it_is_put_in_place(page: Page, school: str, records):
    page.goto(f"{school}/records")
    backup = downloaded(page, "Make a backup").read_bytes()
    choose = page.get_by_label("Bring one back")
    choose.set_input_files({"name": "b.zip", "mimeType": "application/zip", "buffer": backup[:5000]})
    expect(page.get_by_role("alert")).to_contain_text("damaged")
    records.delete(f"/api/children/{child_id(records, 'Juno S')}")
    choose.set_input_files({"name": "b.zip", "mimeType": "application/zip", "buffer": backup})
    expect(page.get_by_role("dialog")).to_contain_text("The file is whole")
    page.get_by_role("button", name="Put it in place").click()
    expect(page.get_by_role("status")).to_contain_text("Restored")
    assert child_id(records, "Juno S")


def test_a_class_is_put_away_and_brought_back(page: Page, school: str):
    page.goto(f"{school}/records")
    page.get_by_label("Class", exact=True).select_option(label="Turnstone group")
    page.get_by_role("button", name="Put Turnstone group away").click()
    page.get_by_role("button", name="Bring Turnstone group back").click()
    page.get_by_label("Class", exact=True).select_option(label="Turnstone group")
    expect(page.get_by_role("button", name="Put Turnstone group away")).to_be_visible()


def test_one_for_each_child_of_a_class_of_eighteen_is_looked_at_changed_and_printed(page: Page, school: str):
    page.goto(f"{school}/sheets/each")
    children = page.get_by_role("region", name="Children")
    expect(children.get_by_text("18 of 18 children")).to_be_visible()
    expect(children.get_by_role("checkbox")).to_have_count(18)
    expect(children.get_by_text(re.compile("due again|being learned|begun at")).first).to_be_visible()
    children.get_by_role("button", name=re.compile("^Bashir T")).click()
    expect(page.get_by_role("img", name=re.compile("The sheet of Bashir T"))).to_be_visible()
    page.get_by_role("button", name="Change this one").click()
    page.get_by_role("button", name="Empty lines").click()
    expect(children.get_by_text("changed;")).to_be_visible()
    children.get_by_label("A sheet for Anouk P").uncheck()
    expect(children.get_by_text("17 of 18 children")).to_be_visible()
    document = printed_pdf(page, school)
    assert len(document) >= 17
    texts = [one.get_textpage().get_text_range() for one in document]
    assert "Bashir T" in texts[0]
    assert not any("Anouk" in text for text in texts)

    page.get_by_role("link", name="Printed before").click()
    line = page.get_by_role("listitem").filter(has_text="One for each child").first
    line.get_by_role("button", name="Which came back").click()
    line.get_by_label("Bashir T").check()
    expect(line.get_by_text("1 of 17 came back")).to_be_visible()
    line.get_by_role("button", name="Print again").click()
    expect(page.get_by_role("listitem").filter(has_text="0 of 17 came back")).to_be_visible()


def test_a_childs_next_steps_are_a_sheet_for_that_child_and_nobody_else(page: Page, school: str, records):
    page.goto(f"{school}/children/{child_id(records, 'Dafydd R')}")
    page.get_by_role("link", name="Sheet for this").click()
    expect(page.get_by_role("radio", name="Dafydd R")).to_be_checked()
    expect(page.get_by_text("What comes next · A4")).to_be_visible()
    document = printed_pdf(page, school)
    assert len(document) == 1
    assert "Dafydd R" in document[0].get_textpage().get_text_range()
    page.get_by_text("one page to copy").click()
    document = printed_pdf(page, school)
    assert "Dafydd R" not in document[0].get_textpage().get_text_range()
