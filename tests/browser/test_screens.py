"""Families, letters, the class and everything around them."""

from __future__ import annotations

import gzip
import re
from collections.abc import Iterator

import httpx2
import pytest
from playwright.sync_api import Browser, Page, Request, expect

from firstloop.api.app import WEB_DIR
from tests.browser.conftest import (
    AT_FIRST,
    PATIENCE_MS,
    choose_row,
    corners,
    finger,
    found_school,
    row_id,
    teacher_opens,
    write,
)

pytestmark = pytest.mark.browser

NO_TEACHERS_WORDS = r"\bxh\b|°|\bbands\b|\bcode\b|InkML|JSON|sqlite"

AXE = WEB_DIR.parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
SCRIPT_MOST_KB = 250


def test_a_letter_is_opened_from_its_family_and_played_move_by_move(page: Page):
    page.goto("/families")
    expect(page.get_by_role("heading", name="Families")).to_be_visible()
    overs = page.get_by_role("region", name="Up-and-overs")
    expect(overs.get_by_role("link")).to_have_count(6)
    overs.get_by_role("link", name="n.").click()
    expect(page.get_by_role("heading", name="Letter n")).to_be_visible()
    expect(page.get_by_role("region", name="About this letter")).to_contain_text("back up the same line")
    words = page.get_by_role("region", name="Words")
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    expect(words.locator("[aria-current=step]")).to_be_visible()
    expect(page.get_by_role("button", name="Play")).to_be_visible()
    expect(words.locator("[aria-current=step]")).to_have_count(0)
    said = []
    page.keyboard.press("ArrowLeft")
    for _ in range(3):
        said.insert(0, words.locator("[aria-current=step]").inner_text())
        page.keyboard.press("ArrowLeft")
    assert said == [
        "Straight down to the base line.",
        "Back up the same line.",
        "Over and down to the base line.",
    ]


def test_the_speed_is_chosen_and_kept_while_playing(page: Page):
    page.goto("/letters/l")
    page.get_by_role("button", name="Brisk").click()
    page.get_by_role("button", name="Repeat").click()
    expect(page.get_by_role("button", name="Brisk")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("button", name="Play")).to_be_visible()


# the page keeps the record: on a busy machine a glance may come too late
LOG_STEPS = """(words) => {
    window.steps = [];
    new MutationObserver(() => {
        const step = words.querySelector('[aria-current=step]')?.textContent;
        if (step && step !== window.steps.at(-1)) window.steps.push(step);
    }).observe(words, { attributes: true, childList: true, subtree: true });
}"""


def test_with_reduced_motion_playing_steps_by_itself(page: Page):
    page.emulate_media(reduced_motion="reduce")
    page.goto("/letters/n")
    words = page.get_by_role("region", name="Words")
    words.evaluate(LOG_STEPS)
    page.get_by_role("button", name="Repeat").click()
    expect(page.get_by_role("button", name="Play")).to_be_visible()
    assert page.evaluate("() => window.steps") == [
        "Straight down to the base line.",
        "Back up the same line.",
        "Over and down to the base line.",
    ]


def test_keys_go_anywhere(page: Page):
    page.goto("/families")
    page.get_by_role("heading", name="Families").wait_for()
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Keys")
    expect(dialog).to_contain_text("mark secure, near, fix")
    page.keyboard.press("Escape")
    expect(dialog).to_be_hidden()
    for key, heading in (("c", "Check"), ("w", "Write"), ("k", "Kittiwake class"), ("l", "Letter l")):
        page.keyboard.press("g")
        page.keyboard.press(key)
        expect(page.get_by_role("heading", level=1, name=heading)).to_be_visible()
    page.keyboard.press("/")
    field = page.get_by_label("A letter, a child or a screen")
    expect(field).to_be_focused()
    assert field.evaluate("(one) => getComputedStyle(one).outlineStyle") != "none"
    page.keyboard.type("gus")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Gus L")).to_be_visible()


def test_a_closed_dialog_gives_the_focus_back(page: Page):
    page.goto("/class")
    add = page.get_by_role("button", name="Add children")
    add.click()
    expect(page.get_by_label("First name")).to_be_focused()
    page.keyboard.press("Escape")
    expect(add).to_be_focused()


def test_a_child_joins_the_class_and_is_erased_only_by_name(page: Page):
    page.goto("/class")
    page.get_by_role("button", name="Add children").click()
    page.get_by_label("First name").fill("Quill")
    page.get_by_label("Initial").fill("h")
    page.get_by_label("left hand").check()
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Quill H is in the class.")).to_be_visible()
    expect(page.get_by_label("First name")).to_be_focused()
    expect(page.get_by_label("First name")).to_have_value("")
    expect(page.get_by_label("right hand")).to_be_checked()
    page.get_by_role("button", name="Close").click()
    page.get_by_role("link", name="Quill H", exact=True).click()
    expect(page.get_by_text("has not written a row yet")).to_be_visible()
    page.get_by_role("button", name="Erase").click()
    gone = page.get_by_role("button", name="Erase Quill")
    expect(gone).to_be_disabled()
    page.get_by_label("Type Quill to go on").fill("Quill")
    gone.click()
    expect(page.get_by_role("heading", name="Kittiwake class")).to_be_visible()
    expect(page.get_by_role("link", name="Quill H", exact=True)).to_have_count(0)


def test_the_name_of_a_child_already_there_is_refused_in_words(page: Page):
    page.goto("/class")
    page.get_by_role("button", name="Add children").click()
    page.get_by_label("First name").fill("Edie")
    page.get_by_label("Initial").fill("W")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("alert")).to_have_text("Edie W is already in this class.")


def test_a_row_left_half_written_can_be_gone_on_with(page: Page):
    choose_row(page, "Gus L", "t")
    write(page, corners("t"), 0, points=8)
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 of 6")).to_be_visible()
    teacher_opens(page)
    page.get_by_role("link", name="Leave").click()
    page.get_by_role("link", name="Gus L, t: 1 written").click()
    expect(page.get_by_text("2 of 6")).to_be_visible()


def test_what_is_not_there_is_said_and_what_does_not_answer_can_be_tried_again(page: Page):
    page.goto("/check/987654")
    expect(page.get_by_role("alert")).to_contain_text("There is no row with the number 987654.")
    page.goto("/nowhere")
    expect(page.get_by_text("There is no such page")).to_be_visible()
    page.route("**/api/families*", lambda route: route.abort())
    page.goto("/families")
    expect(page.get_by_role("alert")).to_contain_text("First Loop is not answering")
    page.unroute("**/api/families*")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("region", name="Rounds")).to_be_visible()


def test_a_new_school_starts_with_its_class(page: Page, school: str):
    page.goto(school)
    page.get_by_label("What is your class called?").fill("Turnstone group")
    page.get_by_role("button", name="Make the class").click()
    expect(page.get_by_role("heading", name="Today")).to_be_visible()
    expect(page.get_by_text("No children yet")).to_be_visible()
    page.get_by_role("link", name="Check", exact=True).click()
    expect(page.get_by_text("No row has been written yet")).to_be_visible()
    page.get_by_role("link", name="Write", exact=True).click()
    expect(page.get_by_text("There are no children in this class yet")).to_be_visible()
    page.get_by_role("link", name="Add the first child").click()
    expect(page.get_by_text("No children yet")).to_be_visible()
    page.goto(page.url.replace("/class", "/write/1"))
    expect(page.get_by_role("alert")).to_contain_text("There is no row")


@pytest.fixture
def written_row(page: Page) -> int:
    choose_row(page, "Edie W", "u")
    write(page, corners("u"), 0)
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 of 6")).to_be_visible()
    return row_id(page)


def row_of_two(api, child: int) -> int:
    """A row in the middle: two letters of six are written."""
    row = api.post("/api/rows", json={"child_id": child, "letter": "u"}).json()
    for key in ("one", "two"):
        ink = api.get(f"/api/rows/{row['id']}/simulated-pen").json()
        given = {"key": f"screen-{key}-{row['id']}", "support": "trace", "strokes": ink}
        api.post(f"/api/rows/{row['id']}/attempts", json=given).raise_for_status()
    return row["id"]


SCREENS = (
    "/families",
    "/families?scheme=by-sound",
    "/letters/b",
    "/letters/n/class",
    "/style",
    "/differences",
    "/board?text=b",
    "/board?text=m n&look=dark",
    "/write",
    "/write?child={child}&letter=m",
    "/check",
    "/check/{row}",
    "/check/trust",
    "/check/watch",
    "/check/words",
    "/today",
    "/class",
    "/class/settings",
    "/class/new",
    "/children/{child}",
    "/children/{child}/u",
    "/children/{child}/words",
    "/records",
    "/write/{row}",
    "/words?any_letters=true&chosen=nest",
    "/words/rings?any_letters=true",
    "/words/fits?any_letters=true",
    "/words/sorts?any_letters=true",
    "/words/sentences?any_letters=true&sets=5&text=the ship is here",
    "/words/bank",
    "/words/dictation?any_letters=true",
    "/board/words/rings?any_letters=true",
    "/board/words/sorts?any_letters=true&look=dark",
    "/plan",
    "/write/room",
    "/nowhere",
)
SIZES = ((1280, 800), (1024, 768), (640, 400))  # the last is a laptop at 200 %


def findings(page: Page) -> list[str]:
    """What axe finds wrong with the page as it is."""
    page.evaluate(AXE.read_text())  # as the page's own policy lets no script in
    return page.evaluate(
        """async () => (await axe.run()).violations
            .map((v) => `${v.id}: ${v.nodes.length} × ${v.nodes[0].html.slice(0, 160)}`)"""
    )


@pytest.fixture(scope="session")
def on_show(api: httpx2.Client) -> tuple[int, int, int]:
    """A class that is only looked at, a child of it and her row."""
    school = found_school(api, "Kittiwake class on show")
    edie = school.children["Edie W"]
    return school.id, edie, row_of_two(api, edie)


@pytest.fixture(scope="session")
def window(browser: Browser, server: str, on_show) -> Iterator[Page]:
    """One page for all that is only looked at."""
    with browser.new_context(base_url=server) as context:
        context.set_default_timeout(PATIENCE_MS)
        context.add_init_script(f"localStorage['first-loop.class'] = '{on_show[0]}'")
        yield context.new_page()


@pytest.mark.parametrize("path", SCREENS)
def test_every_screen_is_accessible_fits_its_width_and_needs_no_other_host(window: Page, on_show, path: str):
    _, edie, row = on_show
    sound(window, path.format(child=edie, row=row))


def sound(page: Page, path: str) -> None:
    """A page is accessible, says no word that is not a teacher's, fits its width and asks nobody else."""
    hosts = set()

    def asked(request: Request) -> None:
        hosts.add(request.url.split("/")[2].split(":")[0])

    page.set_viewport_size(AT_FIRST)
    page.on("request", asked)
    page.goto(path)
    page.get_by_role("heading", level=1).wait_for()
    page.wait_for_load_state("networkidle")
    assert findings(page) == []
    said = page.locator("body").inner_text()
    assert not re.search(NO_TEACHERS_WORDS, said)
    assert hosts == {"127.0.0.1"}
    for width, height in SIZES:
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_timeout(100)
        over = page.evaluate(
            "() => document.documentElement.scrollWidth - document.documentElement.clientWidth"
        )
        assert over <= 0, width
    page.remove_listener("request", asked)


def _arranging(page: Page, button: str) -> None:
    page.get_by_role("button", name="Arrange").click()
    page.get_by_role("button", name=button).click()


DIALOGS = {
    "keys": ("/today", lambda page: page.keyboard.press("?")),
    "find": ("/today", lambda page: page.keyboard.press("/")),
    "add children": ("/class", lambda page: page.get_by_role("button", name="Add children").click()),
    "change a child": ("/children/{child}", lambda page: page.get_by_role("button", name="Change").click()),
    "erase a child": ("/children/{child}", lambda page: page.get_by_role("button", name="Erase").click()),
    "compare": ("/families", lambda page: page.get_by_role("button", name="Compare").click()),
    "a family": ("/families", lambda page: _arranging(page, "Change Up-and-overs")),
    "a new family": ("/families", lambda page: _arranging(page, "New family")),
    "own words": ("/board?text=b", lambda page: page.get_by_role("button", name="Our own words").click()),
}


@pytest.mark.parametrize("name", DIALOGS)
def test_every_dialog_is_accessible(page: Page, kittiwake, name: str):
    path, opens = DIALOGS[name]
    page.goto(path.format(child=kittiwake.children["Edie W"]))
    page.get_by_role("heading", level=1).wait_for()
    page.wait_for_load_state("networkidle")
    opens(page)
    page.get_by_role("dialog").wait_for()
    page.wait_for_load_state("networkidle")
    assert findings(page) == []


@pytest.mark.parametrize("size", SIZES)
def test_on_the_board_the_letter_is_seen_and_every_button_reached_at_any_size(page: Page, size):
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto("/board?text=b")
    letter = page.get_by_role("img", name="b on the board")
    expect(letter).to_be_in_viewport(ratio=0.9)
    box = letter.bounding_box()
    assert box["height"] >= 180
    buttons = page.get_by_role("button")
    for i in range(buttons.count()):
        buttons.nth(i).scroll_into_view_if_needed()
        expect(buttons.nth(i)).to_be_in_viewport(ratio=1)


@pytest.mark.parametrize("size", [(1280, 800), (1024, 768)])
def test_the_main_task_needs_no_scrolling(page: Page, kittiwake, written_row: int, size):
    page.set_viewport_size({"width": size[0], "height": size[1]})
    choosing = f"/write?child={kittiwake.children['Edie W']}&letter=m"
    for path in ("/families", "/letters/m", choosing, f"/write/{written_row}"):
        page.goto(path)
        page.get_by_role("heading", level=1).wait_for()
        page.wait_for_load_state("networkidle")
        over = page.evaluate(
            """() => { const e = document.documentElement;
                return [e.scrollWidth - e.clientWidth, e.scrollHeight - e.clientHeight]; }"""
        )
        assert over[0] <= 0, path
        assert over[1] <= 0, path


def test_a_finger_on_a_tablet_writes_too(browser, server, kittiwake):
    context = browser.new_context(base_url=server, viewport={"width": 1024, "height": 768}, has_touch=True)
    context.add_init_script(f"localStorage.setItem('first-loop.class', '{kittiwake.id}')")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    choose_row(page, "Cleo M", "l")
    box = page.get_by_label("Write l here").bounding_box()
    finger(page, [(box["x"] + 200, box["y"] + y) for y in range(120, 300, 20)])
    page.get_by_role("button", name="Next").tap()
    expect(page.get_by_text("2 of 6")).to_be_visible()
    context.close()


def test_the_first_page_loads_little_script():
    page = (WEB_DIR / "index.html").read_text(encoding="utf-8")
    named = set(re.findall(r"assets/[\w.-]+\.js", page))  # what a room of its own needs is fetched there
    assert named
    script = sum(len(gzip.compress((WEB_DIR / name).read_bytes())) for name in named)
    assert script <= SCRIPT_MOST_KB * 1000
