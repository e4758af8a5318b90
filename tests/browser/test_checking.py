"""Marking as a teacher does it: the queue, keys alone, replay, what was watched, a tolerance of one's own."""

from __future__ import annotations

import re

import httpx2
import numpy as np
import pytest
from playwright.sync_api import Page, Route, expect

from firstloop.core.ruling import Ruling
from firstloop.core.simulate.text import write_text
from firstloop.services.ink import from_stroke
from tests.api.test_journeys import strokes

pytestmark = pytest.mark.browser


@pytest.fixture
def children(kittiwake) -> list[int]:
    """The three of the class, by the list."""
    return list(kittiwake.children.values())


def row(api: httpx2.Client, child: int, letter: str, faults=(None,), seed: int = 1) -> int:
    """A row of ink by the simulated writer; `faults` gives (code, size) or None for each attempt."""
    rng = np.random.default_rng(seed)
    made = api.post("/api/rows", json={"child_id": child, "letter": letter}).json()["id"]
    for k, fault in enumerate(faults):
        code, size = fault or (None, 0.0)
        ink = strokes(letter, rng, left_mm=4.0 + 20.0 * k, fault=code, size=size)
        body = {"key": f"{made:04d}-{k:04d}", "support": "alone", "strokes": ink}
        api.post(f"/api/rows/{made}/attempts", json=body).raise_for_status()
    return made


# the page keeps the record: on a busy machine a glance may come too late
LOG_SHORTEST = """(path) => {
    window.shortest = Infinity;
    new MutationObserver(() => {
        window.shortest = Math.min(window.shortest, path.getAttribute('d').length);
    }).observe(path, { attributes: true });
}"""

BELOW = ("start.bottom", 1.0)
TALL = ("size.tall", 45.0)


def waiting(page: Page):
    return page.get_by_role("region", name="To look at").get_by_role("listitem")


def letter(page: Page, name: str):
    """A letter in the queue, by who wrote it, what it is and how it stands."""
    return page.get_by_role("button", name=name, exact=True)


def marks(api: httpx2.Client, row_id: int) -> list[str | None]:
    return [attempt["mark"] for attempt in api.get(f"/api/rows/{row_id}").json()["attempts"]]


def test_letters_written_in_boxes_are_looked_at_in_them(page: Page, api, kittiwake, children):
    api.patch(f"/api/classes/{kittiwake.id}", json={"ruling": "word-boxes"}).raise_for_status()
    made = row(api, children[0], "n", [None, BELOW])
    page.goto("/check")
    boxes = page.get_by_role("group", name="Edie W, row of n").locator("rect[fill=none]")
    expect(boxes).to_have_count(2)
    page.goto(f"/check/{made}")  # with the model beside them
    expect(page.get_by_role("group", name="Row of n", exact=True).locator("rect[fill=none]")).to_have_count(3)


def test_the_queue_shows_the_ink_by_day_and_letter_and_is_agreed_with(page: Page, api, children):
    worrying = row(api, children[0], "n", [BELOW, BELOW], 1)
    for k in (2, 3):
        row(api, children[1], "n", [None, None], k)
    other = row(api, children[2], "l", [None], 4)
    page.goto("/check")
    today = page.get_by_role("region", name="n, ")
    expect(today.get_by_role("listitem")).to_have_count(3)
    expect(today).to_contain_text("3 rows, 1 wants you")
    expect(today.get_by_role("listitem").first).to_contain_text("Edie W")
    expect(today.get_by_role("listitem").first).to_contain_text("begun at the bottom, twice")
    expect(page.get_by_role("group", name="Edie W, row of n").locator("circle[stroke*=brick]")).to_have_count(
        4
    )
    page.get_by_text("Newest first").click()
    expect(waiting(page).first).to_contain_text("Cleo M")
    page.get_by_role("button", name="Agree with the 3 that are all secure").click()
    expect(waiting(page).filter(has_text="marked")).to_have_count(3)
    page.get_by_role("button", name="Undo").click()
    expect(waiting(page).filter(has_text="marked")).to_have_count(0)
    page.get_by_role("button", name="Agree with all").click()
    expect(waiting(page).filter(has_text="marked")).to_have_count(4)
    assert marks(api, worrying) == ["fix", "fix"]
    assert marks(api, other) == ["secure"]
    page.goto("/check")
    expect(page.get_by_text("No row waits: every one has your mark.")).to_be_visible()


def test_a_class_is_marked_by_keys_alone_where_the_rows_stand(page: Page, api, children):
    first = row(api, children[0], "n", [BELOW, None, None], 1)
    others = [row(api, child, "n", [None, None], k) for k, child in enumerate(children[1:], start=2)]
    page.goto("/check")
    expect(letter(page, "Edie W, n, number 1, fix")).to_be_focused()
    expect(page.get_by_role("status")).to_contain_text("Edie, first n")
    press = page.keyboard.press
    press("2")
    expect(letter(page, "Edie W, n, number 1, near, your mark")).to_be_focused()
    press("ArrowRight")
    press("c")
    expect(letter(page, "Edie W, n, number 2, crossed out")).to_be_focused()
    press("ArrowRight")
    press("b")
    expect(letter(page, "Edie W, n, number 3, secure, your best")).to_be_focused()
    press("3")
    expect(letter(page, "Edie W, n, number 3, fix, your mark, your best")).to_be_focused()
    press("u")
    expect(letter(page, "Edie W, n, number 3, secure, your best")).to_be_focused()
    press("a")  # what is left of the row, and on to the next that waits
    expect(letter(page, "Edie W, n, number 3, secure, your mark, your best")).to_be_visible()
    expect(waiting(page).filter(has_text="marked")).to_have_count(1)
    for _ in others:
        expect(page.locator("g[role=button]:focus")).to_have_count(1)
        press("a")
    expect(waiting(page).filter(has_text="marked")).to_have_count(3)
    assert marks(api, first) == ["near", None, "secure"]
    assert [marks(api, number) for number in others] == [["secure", "secure"]] * 2


def held(page: Page, path: str) -> list[Route]:
    """What is asked of a path from now on, none of which goes on by itself."""
    asked: list[Route] = []

    def hold(route: Route) -> None:
        asked.append(route)

    page.route(path, hold)
    return asked


def test_a_mark_is_taken_back_before_its_answer_has_come(page: Page, api, children):
    number = row(api, children[0], "n", [None, None])
    page.goto(f"/check/{number}")
    secure = page.get_by_role("button", name="Mark as secure")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()  # nothing is marked yet
    slow = held(page, "**/edits")
    with page.expect_request("**/edits"):
        page.keyboard.press("1")
    page.keyboard.press("u")
    with page.expect_response("**/undo") as undone:
        slow[0].continue_()
    assert undone.value.ok
    expect(secure).to_have_attribute("aria-pressed", "false")
    expect(page.get_by_role("alert")).to_have_count(0)
    assert marks(api, number) == [None, None]


def test_the_arrows_go_through_the_queue_and_enter_comes_closer(page: Page, api, children):
    for k, child in enumerate(children, start=1):
        row(api, child, "n", [None, None], k)
    page.goto("/check")
    press = page.keyboard.press
    expect(letter(page, "Cleo M, n, number 1, secure")).to_be_focused()
    press("ArrowRight")
    press("ArrowRight")
    expect(letter(page, "Gus L, n, number 1, secure")).to_be_focused()
    press("ArrowLeft")
    expect(letter(page, "Cleo M, n, number 2, secure")).to_be_focused()
    press("ArrowDown")
    expect(letter(page, "Edie W, n, number 1, secure")).to_be_focused()
    press("ArrowUp")
    press("ArrowRight")
    press("Enter")
    page.get_by_role("group", name="Row of n", exact=True).wait_for()
    assert "attempt=2" in page.url
    expect(page.get_by_role("heading", name="Cleo M, letter n")).to_be_visible()


def test_a_row_close_up_is_marked_by_keys_and_leads_to_the_next(page: Page, api, children):
    ids = [row(api, child, "n", [None, None], k) for k, child in enumerate(children)]
    page.goto("/check")
    page.get_by_text("Newest first").click()
    expect(waiting(page)).to_have_count(3)
    expect(letter(page, "Cleo M, n, number 1, secure")).to_be_focused()
    page.keyboard.press("Enter")
    for number in reversed(ids):
        expect(page.get_by_role("button", name="Attempt 1, secure", exact=True)).to_be_visible()
        page.keyboard.press("2")
        expect(page.get_by_role("button", name="Attempt 1, near, your mark", exact=True)).to_be_visible()
        page.keyboard.press("a")
        expect(page.get_by_role("button", name="Attempt 2, secure, your mark", exact=True)).to_be_visible()
        assert marks(api, number) == ["near", "secure"]
        page.keyboard.press("n")
        if number != ids[0]:
            page.wait_for_url(lambda url, here=number: f"/check/{here}" not in url)
    expect(page.get_by_text("No row waits: every one has your mark.")).to_be_visible()


def test_the_ink_is_explained_move_by_move_and_replayed(page: Page, api, children):
    number = row(api, children[0], "n", [BELOW])
    page.goto(f"/check/{number}")
    strip = page.get_by_role("group", name="Row of n", exact=True)
    page.get_by_role("button", name="3 Over and down").focus()
    expect(strip.locator("[data-lit]")).to_have_count(1)
    expect(strip.locator("[data-way] path")).not_to_have_count(0)
    page.keyboard.press("m")
    expect(page.get_by_role("radio", name="Laid on")).to_be_checked()
    page.keyboard.press("m")
    expect(page.get_by_role("radio", name="Off")).to_be_checked()
    pen = page.get_by_role("img", name="The child's pen").locator("path").last
    whole = pen.get_attribute("d")
    pen.evaluate(LOG_SHORTEST)
    page.keyboard.press("r")
    page.wait_for_function("(whole) => window.shortest < whole.length / 2", arg=whole)
    expect(pen).to_have_attribute("d", whole)


def test_each_has_a_best_one_and_the_teacher_swaps_the_next_step(page: Page, api, children):
    number = row(api, children[0], "n", [BELOW, TALL, None])
    page.goto(f"/check/{number}?attempt=2")
    expect(page.get_by_role("button", name="Attempt 2")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_role("button", name="Best by you: attempt 2")).to_be_visible()
    expect(page.get_by_role("button", name="Best by checker: attempt 3")).to_be_visible()
    with page.expect_response(lambda answer: answer.url.endswith("/next-step") and answer.ok):
        page.get_by_label("Next time, for Edie").select_option(label="Stop at the mid line.")
    assert api.get(f"/api/rows/{number}").json()["next_time"] == "Stop at the mid line."


def test_what_is_watched_on_paper_is_one_key_and_shows_on_the_childs_page(page: Page, api, children):
    number = row(api, children[1], "m", [None])
    page.goto(f"/check/{number}")
    expect(page.get_by_role("button", name="Attempt 1, secure")).to_be_visible()
    page.keyboard.press("o")
    said = page.get_by_role("status")
    expect(page.get_by_role("button", name="Gus L")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("b")
    expect(said).to_have_text("Gus L, m: began at the bottom.")
    expect(page.get_by_role("button", name="Gus L")).to_contain_text("began at the bottom")
    page.keyboard.press("l")
    expect(page.get_by_role("button", name="Gus L")).to_contain_text("lifted")
    page.keyboard.press("u")
    expect(said).to_have_text("Taken back.")
    expect(page.get_by_role("button", name="Gus L")).not_to_contain_text("lifted")
    page.goto(f"/children/{children[1]}/m")
    expect(page.get_by_text("Watched on paper: began at the bottom")).to_be_visible()


def test_what_is_taken_back_at_once_is_the_note_still_on_its_way(page: Page, api, children):
    for seen in ("bottom", "lift"):
        api.post(
            "/api/watched", json={"child_id": children[1], "letter": "u", "seen": seen}
        ).raise_for_status()
    page.goto(f"/check/watch?letter=u&child={children[1]}")
    gus = page.get_by_role("button", name="Gus L")
    expect(gus).to_contain_text("lifted")
    page.get_by_label("Letter").select_option("o")
    expect(gus).not_to_contain_text("lifted")
    page.keyboard.press("u")
    expect(page.get_by_role("status")).to_have_text("There is nothing to take back.")
    page.get_by_label("Letter").select_option("u")
    expect(gus).to_contain_text("lifted")
    slow = held(page, "**/api/watched")
    with page.expect_request("**/api/watched"):
        page.keyboard.press("w")
    page.keyboard.press("u")
    for _ in range(2):  # time in which it could ask for the latest, and take that back
        page.evaluate("() => fetch('/api/about').then((answer) => answer.text())")
    with page.expect_response(lambda answer: answer.request.method == "DELETE"):
        slow[0].continue_()
    expect(gus).to_contain_text("lifted")
    expect(gus).not_to_contain_text("went the wrong way")
    expect(page.get_by_role("status")).to_have_text("Taken back.")


def test_a_tolerance_is_offered_with_its_numbers_and_taken_back(page: Page, api, kittiwake, children):
    for k in range(8):
        number = row(api, children[0], "n", [("position.floating", 0.25)], k)
        (attempt,) = api.get(f"/api/rows/{number}").json()["attempts"]
        body = {"attempt_ids": [attempt["id"]], "mark": "secure"}
        api.post(f"/api/rows/{number}/edits", json=body).raise_for_status()
    page.goto("/check")
    page.get_by_role("link", name="Marks and checks").click()
    code = page.get_by_role("listitem").filter(has_text="floating above the line")
    expect(code).to_contain_text("You ticked")
    expect(code).to_contain_text("growing allows 2.0 mm")
    assert api.get(f"/api/classes/{kittiwake.id}/trust").json()["own"] == {}
    code.get_by_role("button", name="Allow").click()
    expect(code).to_contain_text("This class allows")
    assert api.get(f"/api/classes/{kittiwake.id}/trust").json()["own"]["position.floating"] > 0.2
    code.get_by_role("button", name="Back to 2.0 mm").click()
    expect(code.get_by_role("button", name="Allow")).to_be_visible()


def test_a_class_and_a_child_have_levels_of_their_own(page: Page, api, kittiwake, children):
    page.goto("/class")
    with page.expect_response(lambda one: one.ok and one.url.endswith(f"/api/classes/{kittiwake.id}")):
        page.get_by_label("Level").select_option("starting")
    page.goto(f"/children/{children[0]}")
    expect(page.get_by_label("Level")).to_contain_text("as the class (starting)")
    with page.expect_response(lambda one: one.ok and one.url.endswith(f"/api/children/{children[0]}")):
        page.get_by_label("Level").select_option("settled")
    assert api.get(f"/api/children/{children[0]}").json()["child"]["level"] == "settled"
    assert {one["id"]: one["level"] for one in api.get("/api/classes").json()}[kittiwake.id] == "starting"


def word(api: httpx2.Client, child: int, text: str, fault: str | None = None, size: float = 0.0) -> int:
    """A word by the simulated writer, on the lines it was asked for."""
    asked = api.post("/api/written", json={"child_id": child, "text": text}).json()
    lines = asked["lines"]
    ruling = Ruling(lines["mid"], lines["base"], lines["rise"], lines["drop"])
    rng = np.random.default_rng(1)
    made = write_text(text, rng, fault=fault, size=size, ruling=ruling, left_mm=asked["left_mm"])
    ink = [from_stroke(stroke) for stroke in made.strokes]
    api.put(f"/api/written/{asked['id']}/ink", json={"strokes": ink}).raise_for_status()
    return asked["id"]


def test_words_wait_until_they_are_looked_at(page: Page, api, kittiwake, children):
    word(api, children[0], "tin")
    word(api, children[1], "mint", "spacing.tight", 0.7)
    word(api, children[2], "sand")
    page.goto("/today")
    waiting = page.get_by_role("region", name="Waiting to be checked")
    expect(waiting).to_contain_text("3 words and lines")
    waiting.get_by_role("link", name="Look at them").click()
    words = page.get_by_role("region", name="Words to look at")
    sand, mint, tin = (words.get_by_role("button", name=name) for name in ("sand", "mint", "tin"))
    expect(sand).to_be_focused()
    of_mint = words.get_by_role("listitem").filter(has=page.get_by_role("button", name="mint"))
    expect(of_mint).to_contain_text("closer than the model")
    words.get_by_role("button", name="Looked at the 2 all secure").click()
    expect(words.get_by_role("status")).to_have_text("1 waits")
    page.keyboard.press("u")
    expect(words.get_by_role("status")).to_have_text("3 wait")
    page.keyboard.press("a")
    expect(words.get_by_role("status")).to_have_text("2 wait")
    expect(mint).to_be_focused()  # the next that waits
    page.keyboard.press("c")
    expect(of_mint).to_contain_text("crossed out")
    expect(words.get_by_role("status")).to_have_text("1 waits")
    page.keyboard.press("ArrowDown")
    expect(tin).to_be_focused()
    page.keyboard.press("u")
    expect(words.get_by_role("status")).to_have_text("2 wait")
    words.get_by_role("button", name="Looked at all").click()
    expect(words.get_by_role("status")).to_have_text("0 wait")
    assert [one["id"] for one in api.get(f"/api/classes/{kittiwake.id}/words-to-look-at").json()] == []


def test_rows_and_words_stand_in_one_queue_and_share_its_keys(page: Page, api, children):
    row(api, children[0], "n", [BELOW, None], 1)
    row(api, children[1], "n", [None, None], 2)
    word(api, children[0], "tin")
    page.goto("/check")
    tin = page.get_by_role("region", name="Words to look at").get_by_role("button", name="tin")
    for _ in range(12):
        if tin.get_attribute("aria-pressed") == "true":
            break
        page.keyboard.press("ArrowDown")
    expect(tin).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(page.locator("[data-row] [aria-pressed=true]")).to_be_focused()
    page.keyboard.press("2")
    expect(page.locator("[data-row] [aria-pressed=true]")).to_have_accessible_name(
        re.compile("near, your mark")
    )
