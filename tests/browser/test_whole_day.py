"""A whole first day from an empty start, without help: by mouse, by keys alone, by touch alone."""

from __future__ import annotations

from collections.abc import Callable

import httpx2
import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import PATIENCE_MS, corners, finger, on_screen, write
from tests.browser.shots import PATIENCE_S
from tests.browser.test_hands import Glass

pytestmark = pytest.mark.browser

Act = Callable[[Locator], None]
Fill = Callable[[Locator, str], None]
MOST_TABS = 90


def first_day(page: Page, school: str, press: Act, fill: Fill, write_letter: Callable[[int], None]) -> None:
    """The five steps, then the row looked at and marked; `press` and `fill` are all that is done by hand."""
    page.goto(school)
    fill(page.get_by_label("What is your class called?"), "Kittiwake class")
    press(page.get_by_role("button", name="Make the class"))
    day = page.get_by_role("region", name="First day")
    expect(day.locator("[aria-current=step]")).to_have_text("2Children")
    press(day.get_by_role("button", name="Add the children"))
    press(page.get_by_role("button", name="Add the first children"))
    fill(page.get_by_label("First name"), "Edie")
    fill(page.get_by_label("Initial"), "W")
    press(page.get_by_role("button", name="Add", exact=True))
    expect(page.get_by_role("status").filter(has_text="Edie W is in the class.")).to_be_visible()
    press(page.get_by_role("button", name="Close", exact=True))
    press(day.get_by_role("button", name="Pick your letters"))
    expect(page.get_by_role("group", name="How is k made?")).to_be_visible()
    press(day.get_by_role("button", name="These are our letters"))
    press(day.get_by_role("button", name="Show it on the board"))
    expect(page.get_by_role("img", name="l on the board")).to_be_visible()
    press(page.get_by_role("button", name="Play"))
    expect(page.locator("p[aria-live=polite]")).to_have_text("Straight down to the base line.")
    press(page.get_by_role("button", name="Close the board"))
    press(day.get_by_role("button", name="Start a row"))
    press(page.get_by_role("radio", name="Edie W"))
    press(page.get_by_role("button", name="Start the row"))
    page.get_by_label("Write l here").wait_for()
    expect(page.get_by_role("navigation")).to_have_count(0)  # a child's page leads nowhere
    for number in range(6):
        write_letter(number)
        if number < 5:
            expect(page.get_by_text(f"{number + 2} of 6")).to_be_visible()
    expect(page.get_by_text("Touch your best one.")).to_be_visible()


def row_looked_at(page: Page, school: str, press: Act) -> None:
    """What the row came to: every letter agreed with, and the day is done."""
    press(page.get_by_role("link", name="Check", exact=True))
    press(page.get_by_role("button", name="Agree with the row"))
    expect(page.get_by_role("button", name="Edie W, l, number 6, secure, your mark")).to_be_visible()
    day = page.get_by_role("region", name="First day")
    expect(day).to_contain_text("That was the first day")
    press(day.get_by_role("button", name="Close"))
    expect(day).to_have_count(0)
    with httpx2.Client(base_url=school, timeout=PATIENCE_S) as api:
        (row,) = api.get("/api/rows").json()
        assert (row["letter"], row["finished"], len(row["verdicts"])) == ("l", True, 6)
        assert all(one["mark"] for one in api.get(f"/api/rows/{row['id']}").json()["attempts"])


def test_a_whole_first_day_by_mouse(page: Page, school: str):
    def write_letter(number: int) -> None:
        write(page, corners("l"), number, points=8)
        page.get_by_role("button", name="Next").click()

    first_day(page, school, lambda one: one.click(), lambda one, text: one.fill(text), write_letter)
    page.get_by_role("radio", name="Number 3").click()
    expect(page.get_by_text("Next time")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Leave").click()
    row_looked_at(page, school, lambda one: one.click())


def tab_to(page: Page, goal: Locator) -> None:
    """Go on from control to control until this one has the focus."""
    goal.wait_for()
    for _ in range(MOST_TABS):
        if goal.evaluate("(one) => one === document.activeElement"):
            return
        page.keyboard.press("Tab")
    pytest.fail(f"no way to {goal} by Tab")


def test_a_whole_first_day_by_keys_alone(page: Page, school: str):
    def press(one: Locator) -> None:
        tab_to(page, one)
        if one.get_attribute("role") == "radio":
            page.keyboard.press("Space")
        else:
            page.keyboard.press("Enter")

    def fill(one: Locator, text: str) -> None:
        tab_to(page, one)
        page.keyboard.type(text)

    def write_letter(number: int) -> None:
        write(page, corners("l"), number, points=8)  # the pen is the child's, not the teacher's
        page.keyboard.press("Enter")

    first_day(page, school, press, fill, write_letter)
    page.keyboard.press("Escape")
    press(page.get_by_role("link", name="Leave"))
    row_looked_at(page, school, press)


def test_a_whole_first_day_by_touch_alone(browser: Browser, school: str):
    context = browser.new_context(viewport={"width": 1180, "height": 820}, has_touch=True)
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)

    def write_letter(number: int) -> None:
        for way in on_screen(page, "Row of", corners("l"), number, points=8):
            finger(page, way)
        expect(page.get_by_role("button", name="Next")).to_be_enabled()
        page.get_by_role("button", name="Next").tap()

    first_day(page, school, lambda one: one.tap(), lambda one, text: one.fill(text), write_letter)
    hold = page.get_by_role("button", name="Teacher: hold")
    box = hold.bounding_box()
    at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    glass = Glass(page)
    glass.touch(3, at)
    expect(page.get_by_text("Let go")).to_be_visible()
    glass.lift(3)
    page.get_by_role("link", name="Leave").tap()
    row_looked_at(page, school, lambda one: one.tap())
    context.close()


def test_the_first_day_can_be_left_and_does_not_come_back(page: Page, school: str):
    page.goto(school)
    page.get_by_label("What is your class called?").fill("Kittiwake class")
    page.get_by_role("button", name="Make the class").click()
    page.get_by_role("button", name="Leave the first day").click()
    expect(page.get_by_role("region", name="First day")).to_have_count(0)
    page.reload()
    expect(page.get_by_role("heading", name="Today")).to_be_visible()
    expect(page.get_by_role("region", name="First day")).to_have_count(0)
