"""Pages that come back, as a teacher has them: dropped, put right, let in, looked at, taken out, erased."""

from __future__ import annotations

import base64
import re

import httpx2
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from firstloop.core.simulate.camera import Device, take
from firstloop.core.simulate.notebook import exercise_book
from firstloop.formats.sheet_json import write_wish
from tests.browser.test_screens import findings, sound
from tests.core.scanning.paper import DPI
from tests.returned import WISH, png, written

pytestmark = pytest.mark.browser

# files held over the page and let go there, as from a folder
DROP = """([names, contents]) => {
    const held = new DataTransfer();
    names.forEach((name, i) => {
        const bytes = Uint8Array.from(atob(contents[i]), (c) => c.charCodeAt(0));
        held.items.add(new File([bytes], name, { type: 'image/png' }));
    });
    for (const kind of ['dragover', 'drop'])
        window.dispatchEvent(new DragEvent(kind, { dataTransfer: held, bubbles: true, cancelable: true }));
}"""


@pytest.fixture
def came_back(api: httpx2.Client, group: int) -> list[bytes]:
    """Pages of three children of the class, written on."""
    to = f"/api/classes/{group}/children"
    children = [api.post(to, json={"first_name": one, "initial": "T"}).json() for one in ("Ann", "Ben", "Cy")]
    copies = [{"child_id": one["id"], "wish": write_wish(WISH)} for one in children]
    sheet = api.post(f"/api/classes/{group}/printed", json={"name": "Tunnels", "copies": copies}).json()
    pdf = api.get(f"/api/printed/{sheet['code']}/sheet.pdf").content
    layouts = [api.get(f"/api/printed/{sheet['code']}/{i + 1}/layout.json").json() for i in range(3)]
    return [written(pdf, i, layout)[0] for i, layout in enumerate(layouts)]


def drop(page: Page, files: dict[str, bytes]) -> None:
    expect(page.get_by_text("No page has come back yet")).to_be_visible()
    contents = [base64.b64encode(one).decode() for one in files.values()]
    page.evaluate(DROP, [list(files), contents])


def place(page: Page, name: str):
    return page.get_by_role("group", name="The page").get_by_role("button", name=re.compile(f"^{name}"))


def test_three_pages_are_dropped_put_right_let_in_looked_at_and_taken_out(page: Page, api, group, came_back):
    page.goto("/check/pages")
    drop(page, {f"{i}.png": one for i, one in enumerate(came_back)})
    take = page.get_by_role("button", name="Take 3 pages in")
    expect(take).to_be_enabled()
    page.get_by_role("list", name="The pile").get_by_role("button", name=re.compile("^Ben T")).click()
    expect(page.get_by_label("Whose page it is")).to_have_value(re.compile(r"\d+"))

    # by keys: to the second n, which is another letter; then the crossed-out one, which is right
    second = place(page, "n, second, alone")
    second.click()
    expect(page.get_by_role("region", name="The place")).to_contain_text("n, second, alone")
    page.keyboard.press("l")
    page.get_by_label("It is the letter").fill("h")
    page.keyboard.press("Enter")
    expect(place(page, "h, second, alone")).to_have_count(1)
    expect(place(page, "h, second, alone")).to_have_attribute("aria-label", re.compile("decided"))
    page.get_by_role("button", name="Undo").click()
    expect(place(page, "n, second, alone")).to_have_count(1)
    place(page, "n, third, alone").click()
    page.keyboard.press("c")
    expect(place(page, "n, third, alone")).to_have_attribute("aria-label", re.compile("crossed out"))
    place(page, "n, fourth, alone").click()
    expect(page.get_by_text("On paper the way of the pen does not show")).to_have_count(
        0
    )  # crossed out: unsaid
    assert findings(page) == []

    take.click()
    expect(page.get_by_text("nothing to decide")).to_be_visible()
    expect(page.get_by_text("in the records.")).to_be_visible()

    page.goto("/check")
    queue = page.get_by_role("region", name="To look at")
    expect(queue.get_by_text("Ben T", exact=True)).to_be_visible()
    expect(queue.locator("[data-paper] image").first).to_be_visible()
    queue.get_by_role("button", name=re.compile("^Ben T, n, number 2")).click()
    page.keyboard.press("Enter")
    expect(page.get_by_role("region", name="Direction")).to_contain_text("not seen")
    expect(page.get_by_role("button", name="Watch on paper")).to_be_visible()
    expect(page.locator("[data-paper] image").first).to_be_visible()
    page.get_by_role("link", name="Every n").click()
    expect(page.locator("[data-paper] image").first).to_be_visible()

    page.goto("/check/pages")
    page.get_by_role("list", name="The pile").get_by_role("button", name=re.compile("^Ben T")).click()
    page.get_by_role("button", name="Take it out again").click()
    expect(page.get_by_role("button", name="Take 1 page in")).to_be_enabled()
    page.goto("/check")
    expect(page.get_by_role("region", name="To look at").get_by_text("Cy T", exact=True)).to_be_visible()
    expect(page.get_by_role("region", name="To look at").get_by_text("Ben T", exact=True)).to_have_count(0)

    pages = api.get(f"/api/classes/{group}/pages").json()["pages"]
    erase_and_find_no_picture(page, api, next(one for one in pages if one["child"]["first_name"] == "Cy"))


def erase_and_find_no_picture(page: Page, api, of: dict) -> None:
    page.goto(f"/children/{of['child']['id']}")
    page.get_by_role("button", name="Erase").click()
    name = of["child"]["first_name"]
    page.get_by_label(f"Type {name} to go on").fill(name)
    page.get_by_role("button", name=f"Erase {name}").click()
    expect(page).to_have_url(re.compile("/class"))
    assert api.get(f"/api/pages/{of['id']}/straight.jpg").status_code == 404
    assert api.get(f"/api/pictures/{of['picture_id']}.jpg").status_code == 409


def test_the_line_is_drawn_by_hand_where_none_was_found(page: Page, api, group, came_back):
    page.goto("/check/pages")
    page.get_by_label("Files with pages").set_input_files(
        {"name": "one.png", "mimeType": "image/png", "buffer": came_back[0]}
    )
    empty = place(page, "n, tenth, alone").or_(place(page, "n, 11th, alone")).last
    expect(empty).to_have_attribute("aria-label", re.compile("empty"))
    empty.click()
    page.keyboard.press("d")
    canvas = page.get_by_label("Draw the line here")
    box = canvas.bounding_box()
    x, y = box["x"] + box["width"] * 0.55, box["y"]
    page.mouse.move(x, y + box["height"] * 0.35)
    page.mouse.down()
    for share in np.linspace(0.35, 0.62, 8):
        page.mouse.move(x, y + box["height"] * share)
    page.mouse.up()
    page.get_by_role("button", name="This is the line").click()
    expect(empty).to_have_attribute("aria-label", re.compile("decided"))
    expect(empty).not_to_have_attribute("aria-label", re.compile("empty"))
    page.get_by_role("button", name="Undo").click()
    expect(empty).to_have_attribute("aria-label", re.compile("empty"))


def test_a_page_of_an_exercise_book_is_read(page: Page, api, group):
    api.post(f"/api/classes/{group}/children", json={"first_name": "Dot", "initial": "V"})
    book, _ = exercise_book(("mud and sand", "n n n n"), np.random.default_rng(5), DPI)
    upright = np.random.default_rng(3)
    page.goto("/check/pages")
    drop(page, {"book.png": png(take(Device.PHONE, book, DPI, upright).grey)})
    expect(page.get_by_text("No sheet of First Loop is seen in this picture.")).to_be_visible()
    assert findings(page) == []
    page.get_by_role("button", name="It is other writing").click()
    corner = page.get_by_role("button", name="Top left corner")
    before = corner.get_attribute("cx")
    corner.focus()
    page.keyboard.press("ArrowRight")
    assert corner.get_attribute("cx") != before
    page.keyboard.press("ArrowLeft")
    page.get_by_role("button", name="Now the rows").click()
    page.get_by_label("Row 1 says").fill("mud and sand")
    page.get_by_label("Row 2 says").fill("n n n n")
    line = page.get_by_role("slider", name="Row 1, base line")
    value = line.get_attribute("aria-valuenow")
    line.focus()
    page.keyboard.press("ArrowDown")
    expect(line).not_to_have_attribute("aria-valuenow", value)
    page.keyboard.press("ArrowUp")
    page.get_by_label("Who wrote it").select_option(label="Dot V")
    page.get_by_label("How tall a small letter").fill("6")
    assert findings(page) == []
    page.get_by_role("button", name="Read it").click()
    expect(place(page, "n, fourth, alone")).to_be_visible()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="Take 1 page in").click()
    expect(page.get_by_text("in the records.")).to_be_visible()
    page.goto("/check?at=words")
    expect(page.get_by_role("button", name="Dot V, mud and sand")).to_be_visible()


def test_the_pages_hold_together_at_any_width(page: Page, group, came_back):
    page.goto("/check/pages")
    drop(page, {"0.png": came_back[0], "broken.png": b"no picture"})
    expect(page.get_by_text("broken.png was not read")).to_be_visible()
    expect(page.get_by_role("group", name="The page")).to_be_visible()
    sound(page, "/check/pages")
    page.get_by_role("button", name="Dismiss").click()
    expect(page.get_by_text("broken.png was not read")).to_have_count(0)
