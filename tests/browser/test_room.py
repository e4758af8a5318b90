"""The room: one teacher and three tablets, each a browser of its own."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect

from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.letterforms.words import word
from tests.browser.conftest import PATIENCE_MS, corners, draw, write
from tests.browser.test_plan import until
from tests.browser.test_screens import findings

pytestmark = pytest.mark.browser

NAMES = ("Anouk", "Bashir", "Cleo")
TABLET = {"width": 1180, "height": 820}


@dataclass
class Room:
    """The teacher's browser at the room of a class of three."""

    page: Page
    api: object
    class_id: int
    browser: Browser
    base_url: str
    contexts: list[BrowserContext]

    def code(self) -> str:
        return self.api.get(f"/api/classes/{self.class_id}/room").json()["room"]["code"]

    def tablet(self, name: str) -> Page:
        """A tablet that comes in by the picture's address and takes a name."""
        context = self.browser.new_context(base_url=self.base_url, viewport=TABLET, has_touch=True)
        self.contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        page.goto(f"/tablet?code={self.code()}")
        page.get_by_role("button", name=f"{name} A").tap()
        expect(page.get_by_text("Your teacher lets you in")).to_be_visible()
        return page

    def let_all_in(self) -> None:
        expect(self.page.get_by_role("region", name="At the door")).to_contain_text("Let")
        self.page.keyboard.press("a")
        expect(self.page.get_by_role("list", name="Children")).to_be_visible()

    def hand_out(self, letter: str) -> None:
        self.page.keyboard.press("n")
        sheet = self.page.get_by_role("dialog")
        sheet.get_by_role("radio", name=letter, exact=True).click()
        sheet.get_by_role("button", name="Hand it out").click()
        expect(sheet).to_have_count(0)
        for context in self.contexts:  # each tablet has it in its turn
            context.pages[0].locator("[data-slot] canvas").wait_for()
            expect(context.pages[0].get_by_label(f"Write {letter} here")).to_be_visible()

    def line(self, name: str, written: int):
        return self.page.get_by_role("img", name=f"{name}: n, {written} written")

    def child(self, name: str) -> int:
        room = self.api.get(f"/api/classes/{self.class_id}/room").json()["room"]
        return next(one["child"]["id"] for one in room["children"] if one["child"]["first_name"] == name)

    def kept(self, child: str) -> list[dict]:
        rows = self.api.get("/api/rows", params={"child_id": self.child(child)}).json()
        return [one for row in rows for one in self.api.get(f"/api/rows/{row['id']}").json()["attempts"]]


@pytest.fixture
def room(page: Page, api, group: int, browser: Browser, base_url: str) -> Iterator[Room]:
    for name in NAMES:
        body = {"first_name": name, "initial": "A", "hand": "right"}
        api.post(f"/api/classes/{group}/children", json=body).raise_for_status()
    page.goto("/write/room")
    page.get_by_role("button", name="Open the room").click()
    page.get_by_role("region", name="Coming in").wait_for()
    one = Room(page, api, group, browser, base_url, [])
    yield one
    for context in one.contexts:
        context.close()


def write_one(tablet: Page, char: str, slot: int) -> None:
    write(tablet, corners(char), slot)
    tablet.get_by_role("button", name="Next").tap()


def sent(tablet: Page) -> None:
    tablet.wait_for_function("() => document.documentElement.dataset.waiting === '0'")


def test_three_tablets_come_in_write_and_put_their_pens_down(room: Room):
    anouk, bashir, cleo = (room.tablet(name) for name in NAMES)
    room.let_all_in()
    for tablet in (anouk, bashir, cleo):
        expect(tablet.get_by_text("Pen ready")).to_be_visible()
    room.hand_out("n")
    write_one(anouk, "n", 0)
    expect(room.line("Anouk", 1)).to_be_visible()
    backwards = [stroke[::-1] for stroke in reversed(corners("n"))]
    write(bashir, backwards, 0)
    bashir.get_by_role("button", name="Next").tap()
    expect(room.page.get_by_text("Bashir just now: begun at the bottom")).to_be_visible()
    expect(bashir.get_by_text("bottom")).to_have_count(0)  # what is seen in it is the teacher's to say
    write(cleo, corners("n"), 0)
    room.page.keyboard.press("p")
    for tablet in (anouk, bashir, cleo):
        expect(tablet.get_by_text("Pens down")).to_be_visible()
    room.page.keyboard.press("p")
    expect(cleo.get_by_text("Pens down")).to_have_count(0)
    expect(cleo.get_by_role("button", name="Next")).to_be_enabled()  # the ink under the pen is still there
    room.hand_out("u")
    expect(cleo.get_by_label("Write u here")).to_be_visible()
    until(lambda: len(room.kept("Cleo")) == 1)  # it was ended, and kept, when another sheet came
    room.page.get_by_role("button", name="Collect").click()
    expect(anouk.get_by_text("Pen ready")).to_be_visible()


def test_pens_go_up_again_before_the_answer_to_pens_down_has_come(room: Room):
    anouk = room.tablet("Anouk")
    room.let_all_in()
    expect(anouk.get_by_text("Pen ready")).to_be_visible()
    asked: list[Route] = []

    def hold(route: Route) -> None:
        asked.append(route)

    room.page.route("**/room/pens", hold)
    room.page.keyboard.press("p")
    expect(room.page.get_by_role("button", name="Pens up")).to_be_visible()
    room.page.keyboard.press("p")
    expect(room.page.get_by_role("button", name="Pens down")).to_be_visible()
    with room.page.expect_response("**/room/pens"):
        asked[0].continue_()
    until(lambda: room.page.wait_for_timeout(50) or len(asked) == 2)
    assert [one.request.post_data_json for one in asked] == [{"down": True}, {"down": False}]
    expect(room.page.get_by_role("button", name="Pens down")).to_be_visible()
    asked[1].continue_()
    expect(anouk.get_by_text("Pens down")).to_have_count(0)
    expect(room.page.get_by_role("button", name="Pens down")).to_be_visible()


def test_a_tablet_goes_on_without_a_network_and_sends_everything_once(room: Room):
    anouk = room.tablet("Anouk")
    room.let_all_in()
    room.hand_out("n")
    write_one(anouk, "n", 0)
    expect(room.line("Anouk", 1)).to_be_visible()
    anouk.wait_for_function("() => navigator.serviceWorker.controller !== null")
    anouk.context.set_offline(True)
    write_one(anouk, "n", 1)
    write_one(anouk, "n", 2)
    expect(anouk.get_by_text("No network: kept")).to_be_visible()
    write(anouk, corners("n"), 3)
    anouk.reload()  # the page itself is kept on the tablet
    expect(anouk.get_by_text("4 of 6")).to_be_visible()
    expect(anouk.get_by_role("button", name="Next")).to_be_enabled()  # also what was under the pen
    anouk.get_by_role("button", name="Next").tap()
    write_one(anouk, "n", 4)
    write_one(anouk, "n", 5)
    anouk.get_by_role("radio", name="Number 5").tap()
    expect(anouk.get_by_text("Well done")).to_be_visible()
    assert len(room.kept("Anouk")) == 1
    anouk.context.set_offline(False)
    sent(anouk)
    expect(room.line("Anouk", 6)).to_be_visible()
    kept = room.kept("Anouk")
    assert [one["position"] for one in kept] == list(range(6))
    assert len({one["key"] for one in kept}) == 6
    lefts = [min(min(stroke["x"]) for stroke in one["strokes"]) for one in kept]
    assert lefts == sorted(lefts), "in the order in which they were written"
    assert [one["best"] for one in kept].index(True) == 4


def test_a_tablet_swapped_between_two_children_keeps_each_ones_ink_apart(room: Room):
    tablet = room.tablet("Anouk")
    room.let_all_in()
    room.hand_out("n")
    write_one(tablet, "n", 0)
    expect(room.line("Anouk", 1)).to_be_visible()
    tablet.context.set_offline(True)
    write_one(tablet, "n", 1)
    page = room.page
    page.get_by_role("button", name="Anouk", exact=True).click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Give the tablet to").select_option(label="Bashir A")
    sheet.get_by_label("The name was wrong").uncheck()
    sheet.get_by_role("button", name="Give it").click()
    expect(sheet).to_have_count(0)
    tablet.context.set_offline(False)
    expect(tablet.get_by_role("heading", name="Bashir")).to_be_visible()
    sent(tablet)
    room.hand_out("n")
    write_one(tablet, "n", 0)
    until(lambda: len(room.kept("Bashir")) == 1)
    assert len(room.kept("Anouk")) == 2


def write_word(tablet: Page, text: str) -> None:
    for sampled in word(text, DEFAULT_STYLE).sampled:
        draw(tablet, "Lines to write on", [sampled.points], 1.0, 30)
    tablet.get_by_role("button", name="Done").tap()


def test_a_dictation_is_said_word_by_word_and_a_word_is_crossed_out_without_a_network(room: Room):
    anouk = room.tablet("Anouk")
    room.let_all_in()
    body = {"words": ["tin", "nut"]}
    made = room.api.post(f"/api/classes/{room.class_id}/dictations", json=body).json()
    page = room.page
    page.goto(f"/dictation/{made['id']}")
    page.get_by_role("link", name="On tablets").click()
    page.get_by_role("button", name=re.compile("^Hand out")).click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("button", name="1 tin")).to_have_attribute("aria-pressed", "true")
    sheet.get_by_role("button", name="Hand it out").click()
    expect(anouk.get_by_role("img", name="3 sounds")).to_be_visible()
    expect(anouk.get_by_text("tin")).to_have_count(0)
    anouk.context.set_offline(True)
    write_word(anouk, "nit")
    anouk.get_by_role("button", name="Cross it out").tap()
    expect(anouk.get_by_text("Crossed out. A clean line comes.")).to_be_visible()
    anouk.context.set_offline(False)
    expect(anouk.get_by_role("button", name="Done")).to_be_visible()
    write_word(anouk, "tin")
    expect(anouk.get_by_text("Well done. Look up.")).to_be_visible()
    page.keyboard.press("w")
    expect(page.get_by_text("the word they hear, nut")).to_be_visible()
    expect(page.get_by_role("button", name="Next word")).to_have_count(0)
    expect(anouk.get_by_role("button", name="Done")).to_be_visible()
    sent(anouk)
    child = room.child("Anouk")
    written = room.api.get(f"/api/children/{child}/written").json()
    assert [one["crossed_out"] for one in written] == [False, True]
    page.get_by_role("link", name="Mark the dictation").click()
    expect(page.get_by_role("button", name=re.compile("^Anouk A, tin"))).to_contain_text("formation secure")


def test_what_the_records_refuse_is_said_on_the_tablet_and_stays_on_it(room: Room):
    cleo = room.tablet("Cleo")
    room.let_all_in()
    room.hand_out("n")
    cleo.get_by_label("Write n here").wait_for()
    cleo.context.set_offline(True)
    write_one(cleo, "n", 0)
    room.api.delete(f"/api/children/{room.child('Cleo')}").raise_for_status()
    cleo.context.set_offline(False)
    expect(cleo.get_by_role("alert")).to_contain_text("could not be kept")
    expect(cleo.get_by_role("link", name="Save its ink")).to_be_visible()


def test_the_rooms_pages_are_for_everyone(room: Room):
    assert findings(room.page) == []
    anouk = room.tablet("Anouk")
    assert findings(anouk) == []
    room.let_all_in()
    assert findings(room.page) == []
    room.page.keyboard.press("n")
    room.page.get_by_role("dialog").wait_for()
    assert findings(room.page) == []
    room.page.keyboard.press("Escape")
    room.hand_out("n")
    anouk.get_by_label("Write n here").wait_for()
    assert findings(anouk) == []
    for button in anouk.get_by_role("button").all():
        box = button.bounding_box()
        assert min(box["width"], box["height"]) >= 44
