"""What a teacher does on a first day: a class, its children, how it is set up; and what is taken back."""

from __future__ import annotations

import re
from contextlib import suppress
from itertools import pairwise

import httpx2
import pytest
from playwright.sync_api import Error, Page, Route, expect

from tests.browser.conftest import choose_row, corners, write
from tests.browser.shots import PATIENCE_S

pytestmark = pytest.mark.browser

LIST = "Wilf Ashby, left\nNell C\nSolo\nOrla\tF"


@pytest.fixture
def records(school):
    with httpx2.Client(base_url=school, timeout=PATIENCE_S) as api:
        yield api


def new_class(page: Page, school: str, name: str) -> None:
    page.goto(school)
    page.get_by_label("What is your class called?").fill(name)
    page.get_by_role("button", name="Make the class").click()
    page.get_by_role("link", name="Class", exact=True).click()


def add_list(page: Page, names: str) -> None:
    page.get_by_role("button", name="Add", exact=False).first.click()
    page.get_by_text("A list of names").click()
    page.get_by_label("One child a line").fill(names)


def test_a_list_of_names_makes_a_class_and_says_what_it_could_not_read(page: Page, school, records):
    new_class(page, school, "Kittiwake class")
    add_list(page, LIST)
    expect(page.get_by_role("list", name="Children found").get_by_role("listitem")).to_have_text(
        ["Wilf A left hand", "Nell C", "Orla F"]
    )
    expect(page.get_by_role("list", name="Lines that could not be read")).to_contain_text("Line 3, “Solo”")
    page.get_by_role("button", name="Add 3 children").click()
    for name in ("Nell C", "Orla F", "Wilf A"):
        expect(page.get_by_role("link", name=name, exact=True)).to_be_visible()
    (made,) = records.get("/api/classes").json()
    assert {child["first_name"]: child["hand"] for child in made["children"]}["Wilf"] == "left"


def test_a_file_of_names_is_read_as_well(page: Page, school):
    new_class(page, school, "Kittiwake class")
    add_list(page, "")
    csv = b"First name,Initial,Hand\r\nIda,K,left\r\n"
    page.get_by_label("or a file").set_input_files(
        {"name": "class.csv", "mimeType": "text/csv", "buffer": csv}
    )
    page.get_by_role("button", name="Add 1 child").click()
    expect(page.get_by_role("link", name="Ida K", exact=True)).to_be_visible()


def test_a_class_is_set_up_on_its_line_and_its_next_row_goes_so(page: Page, school, records):
    new_class(page, school, "Kittiwake class")
    add_list(page, "Edie W")
    page.get_by_role("button", name="Add 1 child").click()
    page.get_by_role("link", name="Set up").click()
    line = page.get_by_role("img", name="The class's line")
    expect(line.locator("line")).to_have_count(4)
    tall = line.bounding_box()["height"]
    page.get_by_role("radio", name="Base line only").click()
    expect(line.locator("line")).to_have_count(1)
    page.get_by_label("From base to mid line").focus()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_text("14 mm")).to_be_visible()
    assert line.bounding_box()["height"] > 1.3 * tall
    page.get_by_role("button", name="One less to trace").click()
    expect(page.get_by_label("to trace", exact=True)).to_have_text("1")
    page.get_by_role("button", name="One less to finish").click()
    expect(page.get_by_text("4 letters: those to trace")).to_be_visible()
    page.get_by_role("radio", name="Starting").click()
    expect(page.get_by_role("radio", name="Starting")).to_be_checked()
    page.get_by_label("mid line", exact=True).fill("roof line")
    page.get_by_role("button", name="Call them so").click()
    expect(page.get_by_role("button", name="Call them so")).to_be_disabled()
    page.get_by_text("Rub it out and write it again").click()
    expect(page.get_by_label("Rub it out and write it again")).to_be_checked()
    page.wait_for_load_state("networkidle")
    choose_row(page, "Edie W", "l", school)
    expect(page.get_by_text("1 of 4")).to_be_visible()
    (made,) = records.get("/api/classes").json()
    assert (made["ruling"], made["xh_mm"], made["level"]) == ("base-only", 14.0, "starting")
    assert made["style"]["correction"] == "rub-out"
    expect(page.get_by_role("button", name="Rub out the last one")).to_be_visible()
    row = records.get("/api/rows/1").json()
    assert (row["ruling"], row["xh_mm"]) == ("base-only", 14.0)
    assert row["support"] == ["trace", "alone", "alone", "alone"]
    write(page, corners("l"), 0, points=6)
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 of 4")).to_be_visible()


def test_letters_on_top_of_one_another_are_kept_side_by_side(page: Page, school, records):
    new_class(page, school, "Kittiwake class")
    add_list(page, "Edie W")
    page.get_by_role("button", name="Add 1 child").click()
    page.get_by_role("link", name="Set up").click()
    page.get_by_label("The same letter on top of itself").check()
    page.get_by_role("button", name="One more from a ring").click()
    expect(page.get_by_text("7 letters: those to trace")).to_be_visible()
    page.get_by_label("The middle band in a faint wash").uncheck()
    expect(page.get_by_role("img", name="The class's line").locator("rect")).to_have_count(0)
    page.wait_for_load_state("networkidle")
    choose_row(page, "Edie W", "l", school)
    paper = page.get_by_role("img", name="Row of l")
    for number in range(3):
        write(page, corners("l"), 0, points=6)
        page.keyboard.press("Enter")
        expect(page.get_by_text(f"{number + 2} of 7")).to_be_visible()
    strokes = paper.locator("g[pointer-events=none] > g")
    colours = strokes.evaluate_all("all => all.map((one) => one.getAttribute('stroke'))")
    assert len(set(colours)) == 3
    lefts = strokes.evaluate_all("all => all.map((one) => one.getBoundingClientRect().left)")
    assert max(lefts) - min(lefts) < 3  # on top of one another
    page.wait_for_function("() => document.documentElement.dataset.waiting === '0'")
    row = records.get("/api/rows/1").json()
    kept = [one["strokes"][0]["x"][0] for one in row["attempts"]]
    steps = [b - a for a, b in pairwise(kept)]
    assert steps == pytest.approx([row["slot_mm"]] * 2, abs=0.5)  # and beside one another to be looked at
    assert {one["verdict"] for one in row["attempts"]} == {"secure"}


def test_the_lines_are_called_as_the_class_calls_them(page: Page, school):
    new_class(page, school, "Kittiwake class")
    page.goto(f"{school}/letters/n")
    words = page.get_by_role("region", name="Words")
    expect(words).to_contain_text("Start at the mid line.")
    page.get_by_role("link", name="Class", exact=True).click()
    page.get_by_role("link", name="Set up").click()
    page.get_by_label("mid line", exact=True).fill("roof line")
    page.get_by_role("button", name="Call them so").click()
    expect(page.get_by_role("button", name="Call them so")).to_be_disabled()
    page.get_by_role("link", name="Letters", exact=True).click()
    page.get_by_role("link", name="n", exact=True).click()
    expect(words).to_contain_text("Start at the roof line.")
    expect(page.get_by_role("img", name="n on the four lines").get_by_text("roof")).to_be_visible()


def test_a_child_is_changed_moved_erased_and_brought_back(page: Page, school):
    new_class(page, school, "Kittiwake class")
    add_list(page, "Edie W")
    page.get_by_role("button", name="Add 1 child").click()
    page.get_by_role("link", name="New class").click()
    page.get_by_label("What is the class called?").fill("Dunlin class")
    page.get_by_role("button", name="Make the class").click()
    expect(page.get_by_role("heading", name="Dunlin class")).to_be_visible()
    page.get_by_label("Class", exact=True).select_option(label="Kittiwake class")
    page.get_by_role("link", name="Edie W", exact=True).click()
    page.get_by_role("button", name="Change").click()
    page.get_by_label("First name").fill("Edith")
    page.get_by_role("radio", name="left hand").check()
    page.get_by_role("dialog").get_by_label("Class").select_option(label="Dunlin class")
    page.get_by_role("dialog").get_by_role("button", name="Change").click()
    expect(page.get_by_role("heading", name="Edith W")).to_be_visible()
    expect(page.get_by_text("left-handed")).to_be_visible()
    page.get_by_role("link", name="Class", exact=True).click()
    expect(page.get_by_role("heading", name="Dunlin class")).to_be_visible()
    page.get_by_role("link", name="Edith W", exact=True).click()
    page.get_by_role("button", name="Erase").click()
    expect(
        page.get_by_role("dialog").get_by_role("link", name="take the file of Edith out first")
    ).to_be_visible()
    page.get_by_label("Type Edith to go on").fill("Edith")
    page.get_by_role("button", name="Erase Edith").click()
    erased = page.get_by_role("region", name="Erased")
    expect(erased).to_contain_text("can be brought back until")
    erased.get_by_role("button", name="Bring Edith W back").click()
    expect(page.get_by_role("link", name="Edith W", exact=True)).to_be_visible()
    expect(erased).to_have_count(0)


def test_putting_the_last_class_away_asks_and_the_first_screen_brings_it_back(page: Page, school):
    new_class(page, school, "Kittiwake class")
    page.goto(f"{school}/records")
    page.get_by_role("button", name="Put Kittiwake class away").click()
    expect(page.get_by_role("dialog")).to_contain_text("It is the last class")
    page.get_by_role("button", name="Put it away").click()
    expect(page.get_by_label("What is your class called?")).to_be_visible()
    expect(page.get_by_text("Make a backup")).to_be_visible()
    page.get_by_role("button", name="Bring Kittiwake class back").click()
    expect(page.get_by_role("navigation", name="Screens")).to_be_visible()


def test_an_answer_that_comes_late_does_not_take_a_setting_back(page: Page, api, group: int):
    """Three quick presses; the classes as they stood after the first come when the second is on its way."""
    holding: set[str] = set()
    held: dict[str, list[Route]] = {"GET": [], "PATCH": []}

    def answer(route: Route) -> None:
        method = route.request.method
        if method in holding:
            held[method].append(route)
        else:
            route.continue_()

    page.route(re.compile(r"/api/classes(/\d+)?$"), answer)
    page.goto("/class/settings")
    trace, finish = (page.get_by_label(f"to {what}", exact=True) for what in ("trace", "finish"))
    less = page.get_by_role("button", name="One less to trace")
    less.wait_for()
    holding.add("GET")
    less.click()
    page.wait_for_timeout(500)
    expect(trace).to_have_text("1")
    assert held["GET"], "the classes were not asked for again: nothing can come late"
    after_the_first = api.get("/api/classes").text
    holding.add("PATCH")
    less.click()
    expect(trace).to_have_text("0")
    for route in held["GET"]:
        with suppress(Error):  # nobody waits for it any more
            route.fulfill(body=after_the_first, content_type="application/json")
    page.wait_for_timeout(300)
    page.get_by_role("button", name="One less to finish").click()
    holding.clear()
    for route in held["PATCH"]:
        route.continue_()
    expect(finish).to_have_text("0")
    expect(trace).to_have_text("0")
    page.wait_for_timeout(500)
    pattern = next(one["pattern"] for one in api.get("/api/classes").json() if one["id"] == group)
    assert pattern == ["alone", "alone", "alone"]
