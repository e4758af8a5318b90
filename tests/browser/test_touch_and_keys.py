"""Every job of a teacher done by touch alone and by keys alone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import PATIENCE_MS, finger
from tests.browser.test_plan import centre, until
from tests.browser.test_whole_day import tab_to

pytestmark = pytest.mark.browser


@dataclass(frozen=True)
class Teacher:
    """Someone at a page who has only one way to press, to type and to choose."""

    page: Page
    by_keys: bool

    def press(self, one: Locator) -> None:
        if not self.by_keys:
            one.tap()
            return
        tab_to(self.page, one)
        radio = one.get_attribute("role") == "radio" or one.get_attribute("type") in ("radio", "checkbox")
        self.page.keyboard.press("Space" if radio else "Enter")

    def fill(self, one: Locator, text: str) -> None:
        if not self.by_keys:
            one.tap()
            one.fill(text)
            return
        tab_to(self.page, one)
        self.page.keyboard.press("ControlOrMeta+a")
        self.page.keyboard.type(text)

    def choose(self, group: Locator, words: str) -> None:
        """One of a few options: a tap on its words, or arrows from the one that is chosen."""
        if not self.by_keys:
            group.get_by_text(words, exact=True).tap()
            return
        tab_to(self.page, group.locator("input:checked"))
        options = group.get_by_role("radio")
        checked = [options.nth(i).is_checked() for i in range(options.count())]
        for i in range(checked.index(True) + 1, len(checked)):
            self.page.keyboard.press("ArrowRight")
            expect(options.nth(i)).to_be_checked()
            if options.nth(i).evaluate("one => one.parentElement.textContent") == words:
                return
        pytest.fail(f"{words} is not to be reached by arrows")

    def goto(self, path: str) -> None:
        self.page.goto(path)
        self.page.get_by_role("heading", level=1).wait_for()


@pytest.fixture
def own(api) -> dict:
    """A class of its own with three children and a row of Bashir's that waits."""
    number = len(api.get("/api/classes").json())
    made = api.post("/api/classes", json={"name": f"Turnstone hands {number}"}).json()
    path = f"/api/classes/{made['id']}"
    children = {}
    for name in ("Anouk", "Bashir", "Cleo"):
        body = {"first_name": name, "initial": "A", "hand": "right"}
        children[name] = api.post(f"{path}/children", json=body).json()["id"]
    row = api.post("/api/rows", json={"child_id": children["Bashir"], "letter": "u"}).json()
    for key in range(2):
        ink = api.get(f"/api/rows/{row['id']}/simulated-pen").json()
        given = {"key": f"hands-{row['id']}-{key}", "support": "alone", "strokes": ink}
        api.post(f"/api/rows/{row['id']}/attempts", json=given).raise_for_status()
    api.post(f"/api/rows/{row['id']}/finish").raise_for_status()
    return {"id": made["id"], "path": path, "row": row["id"], **children}


@pytest.fixture(params=["touch", "keys"])
def teacher(request, browser: Browser, base_url: str, own) -> Iterator[Teacher]:
    touch = request.param == "touch"
    context = browser.new_context(base_url=base_url, has_touch=touch, viewport={"width": 1180, "height": 820})
    context.add_init_script(f"localStorage.setItem('first-loop.class', '{own['id']}')")
    context.add_init_script("sessionStorage.setItem('first-loop.cautions', '1')")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    yield Teacher(page, not touch)
    context.close()


def carried(teacher: Teacher, one: Locator, onto: Locator, keys: str) -> None:
    """A letter taken elsewhere: with a finger, or with an arrow on it."""
    if teacher.by_keys:
        tab_to(teacher.page, one)
        teacher.page.keyboard.press(keys)
        return
    (a, b), (c, d) = centre(one), centre(onto)
    way = [(a + share * (c - a), b + share * (d - b)) for share in (0, 0.3, 0.7, 1)]
    finger(teacher.page, way)


def test_families_are_arranged(teacher: Teacher):
    page = teacher.page
    teacher.goto("/families")
    teacher.press(page.get_by_role("button", name="Arrange"))
    slopes = page.get_by_role("region", name="Slopes")
    there = slopes.get_by_role("button", name=re.compile("^Move e"))
    carried(teacher, page.get_by_role("button", name=re.compile("^Move e")), slopes, "ArrowUp")
    expect(there).to_be_visible()
    teacher.press(page.get_by_role("button", name="Undo"))
    expect(there).to_have_count(0)


def test_a_letter_is_shown_on_the_board(teacher: Teacher):
    page = teacher.page
    teacher.goto("/board?text=n")
    said = page.locator("p[aria-live=polite]")
    teacher.press(page.get_by_role("button", name="One move on"))
    expect(said).not_to_be_empty()
    teacher.press(page.get_by_role("button", name="Slip", exact=True))
    teacher.press(page.get_by_role("button", name="Cross it out"))
    expect(page.get_by_role("button", name="Cross it out")).to_be_disabled()
    teacher.press(page.get_by_role("button", name="Write it properly"))
    expect(page.get_by_role("button", name="Pause")).to_be_visible()


def test_a_row_is_looked_at_and_marked(teacher: Teacher, api, own):
    page = teacher.page
    teacher.goto(f"/check/{own['row']}")
    page.get_by_role("group", name="Row of u", exact=True).wait_for()
    teacher.press(page.get_by_role("button", name="Mark as near"))
    until_marked = page.get_by_role("button", name=re.compile("near, your mark"))
    expect(until_marked.first).to_be_visible()
    teacher.press(page.get_by_role("button", name="Undo"))
    expect(until_marked).to_have_count(0)


def test_rows_that_wait_are_agreed_with(teacher: Teacher):
    page = teacher.page
    teacher.goto("/check")
    teacher.press(page.get_by_role("button", name="Agree with all"))
    expect(page.get_by_role("button", name=re.compile("number 2, secure, your mark"))).to_be_visible()
    teacher.press(page.get_by_role("button", name="Undo"))
    expect(page.get_by_role("button", name=re.compile("your mark"))).to_have_count(0)


def test_what_is_seen_on_paper_is_logged(teacher: Teacher):
    page = teacher.page
    teacher.goto("/check/watch")
    teacher.press(page.get_by_role("button", name="Cleo A"))
    teacher.press(page.get_by_role("button", name=re.compile("^Began at the bottom")))
    expect(page.get_by_role("button", name="Cleo A")).to_contain_text("began at the bottom")
    teacher.press(page.get_by_role("button", name="Undo"))
    expect(page.get_by_role("button", name="Cleo A")).not_to_contain_text("began at the bottom")


def test_words_are_found_dictated_and_marked(teacher: Teacher):
    page = teacher.page
    teacher.goto("/words?any_letters=true&holds=sh&most=4")
    word = page.get_by_role("button", name=re.compile("^shed,|^dish,|^fish,|^ship,|^shop,")).first
    name = word.get_attribute("aria-label").split(",")[0]
    teacher.press(word)
    teacher.press(page.get_by_role("button", name="Dictate them"))
    teacher.press(page.get_by_role("button", name=re.compile("^Dictate this word|^Dictate these")))
    expect(page.get_by_role("status").filter(has_text=f"Anouk A, {name}")).to_be_visible()
    teacher.press(page.get_by_role("button", name=re.compile("^Right")).first)
    expect(page.get_by_role("status").filter(has_text=f"Bashir A, {name}")).to_be_visible()


def class_of(api, own) -> dict:
    return next(one for one in api.get("/api/classes").json() if one["id"] == own["id"])


def test_a_class_is_set_up(teacher: Teacher, api, own):
    page = teacher.page
    teacher.goto("/class/settings")
    name = page.get_by_label("Name", exact=True).first
    teacher.fill(name, f"Turnstone renamed {own['id']}")
    teacher.press(page.get_by_role("button", name="Call it so"))
    expect(page.get_by_role("button", name="Call it so")).to_be_disabled()
    teacher.choose(
        page.get_by_role("group", name="When a letter goes wrong"), "Rub it out and write it again"
    )
    expect(page.get_by_role("heading", name=f"Turnstone renamed {own['id']}, set up")).to_be_visible()
    until(lambda: class_of(api, own)["style"]["correction"] == "rub-out")
    assert class_of(api, own)["name"] == f"Turnstone renamed {own['id']}"


def test_a_child_gets_a_note(teacher: Teacher, own):
    page = teacher.page
    teacher.goto(f"/children/{own['Bashir']}")
    teacher.fill(page.get_by_label("A note of today"), "Sat well today.")
    teacher.press(page.get_by_role("button", name="Keep", exact=True))
    notes = page.get_by_role("region", name="Notes")
    expect(notes.get_by_text("Sat well today.")).to_be_visible()
    teacher.press(notes.get_by_role("button", name=re.compile("^Take back")))
    expect(notes.get_by_text("Sat well today.")).to_have_count(0)


def test_a_lesson_is_planned_and_run(teacher: Teacher, api, own):
    page = teacher.page
    on = date.fromisoformat(api.get("/api/about").json()["today"])
    wish = {"first": on.isoformat(), "last": (on + timedelta(days=40)).isoformat(), "minutes": [15] * 7}
    made = api.post(f"{own['path']}/plan", json={"name": "Term", **wish, "topics": ["lower case"]}).json()
    key = made["weeks"][0]["lessons"][0]["key"]
    teacher.goto(f"/plan/lesson/{key}")
    teacher.press(page.get_by_role("button", name=re.compile("^In the air")))
    teacher.press(page.get_by_role("button", name="Leave it out"))
    expect(page.get_by_text("Left out:")).to_be_visible()
    teacher.press(page.get_by_role("link", name="Run the lesson"))
    end = page.get_by_role("button", name="End the lesson")
    for number in range(1, 12):
        expect(page.get_by_text(re.compile(rf"^{number} of \d+$")).or_(end)).to_be_visible()
        if end.is_visible():
            break
        teacher.press(page.get_by_role("button", name="On", exact=True))
    teacher.press(end)
    expect(page.get_by_role("region", name="Today's lesson")).to_contain_text("What was done")


def test_a_sheet_is_made_put_in_order_and_printed(teacher: Teacher, api, own):
    page = teacher.page
    teacher.goto("/sheets")
    teacher.press(page.get_by_role("button", name=re.compile("^Letter sheet")))
    teacher.press(page.get_by_role("button", name="Empty lines"))
    last = page.get_by_role("button", name=re.compile("^Move row [0-9]+, Empty lines"))
    place = last.get_attribute("aria-label")
    above = page.get_by_role("button", name=re.compile(rf"^Move row {int(place.split()[2][:-1]) - 1}, "))
    carried(teacher, last, above, "ArrowUp")
    expect(last).not_to_have_attribute("aria-label", place)
    teacher.press(page.get_by_role("button", name="Undo"))
    expect(last).to_have_attribute("aria-label", place)
    with page.context.expect_page():
        teacher.press(page.get_by_role("button", name="Print", exact=True))
    expect(page.get_by_text("Laid out as sheet")).to_be_visible()
    teacher.goto("/sheets/printed")
    teacher.press(page.get_by_role("button", name="Which came back"))
    teacher.press(page.get_by_label("Anouk A"))
    until(lambda: any(one["back_on"] for one in api.get(f"{own['path']}/printed").json()[0]["copies"]))


CHOICES = {
    "how families are made": ("/families", "By", "height", "Middle band only"),
    "what the map shows": ("/class", "By", "Families", "Scoops"),
}


@pytest.mark.parametrize("what", CHOICES)
def test_one_of_a_few_is_chosen(teacher: Teacher, what: str):
    path, group, words, shows = CHOICES[what]
    teacher.goto(path)
    teacher.page.get_by_text("Fetching").wait_for(state="hidden")
    teacher.choose(teacher.page.get_by_role("group", name=group, exact=True), words)
    expect(teacher.page.get_by_text(shows).first).to_be_visible()
    expect(teacher.page.get_by_role("radio", name=words, exact=True)).to_be_checked()
