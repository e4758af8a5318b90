"""What was written comes back after a reload, a full device, a page left; pages keep to their policy."""

from __future__ import annotations

import json

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import attempts_kept, choose_row, corners, row_id, teacher_opens, write
from tests.browser.test_writing import count

pytestmark = pytest.mark.browser

NO_SHELF = "Object.defineProperty(window, 'indexedDB', { value: undefined });"
BUSY_SHELF = "if (!sessionStorage.gone) IDBObjectStore.prototype.put = () => { throw Error('busy'); };"
FULL_SHELF = """
const add = IDBObjectStore.prototype.put;
window.deviceIsFull = true;
IDBObjectStore.prototype.put = function (...given) {
    if (window.deviceIsFull) throw new DOMException('no room', 'QuotaExceededError');
    return add.apply(this, given);
};
"""


def test_a_letter_under_the_pen_comes_back_after_a_reload_and_after_leaving(page: Page, api):
    choose_row(page, "Edie W", "i")
    stem, dot = corners("i")
    write(page, [stem], 0, points=6)
    page.reload()
    expect(page.get_by_role("button", name="Next")).to_be_enabled()  # there is ink on the paper
    address = page.url
    teacher_opens(page)
    page.get_by_role("link", name="Leave").click()
    page.get_by_role("link", name="Go on: Edie W, i").click()
    expect(page).to_have_url(address)
    expect(page.get_by_role("button", name="Next")).to_be_enabled()
    write(page, [dot], 0, points=2)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    (attempt,) = attempts_kept(api, page)
    assert len(attempt["strokes"]) == 2
    first, second = attempt["strokes"]
    assert second["t"][0] > first["t"][-1]
    page.goto("/write")
    expect(page.get_by_role("radio", name="Edie W")).to_be_visible()
    expect(page.get_by_role("link", name="Go on: Edie W, i")).to_have_count(0)  # it is in the records now


def test_a_letter_comes_back_of_a_page_that_went_before_the_device_had_it(page: Page):
    page.add_init_script(BUSY_SHELF)
    choose_row(page, "Edie W", "i")
    write(page, corners("i"), 0, points=6)
    page.evaluate("sessionStorage.gone = 'yes'")
    page.reload()
    expect(page.get_by_role("button", name="Next")).to_be_enabled()


def test_a_letter_under_the_pen_comes_back_after_the_browsers_back(page: Page, api):
    page.goto("/today")
    choose_row(page, "Gus L", "i")
    stem, dot = corners("i")
    write(page, [stem], 0, points=6)
    page.go_back()
    expect(page.get_by_role("button", name="Start the row")).to_be_visible()
    page.go_forward()
    expect(page.get_by_role("button", name="Next")).to_be_enabled()
    write(page, [dot], 0, points=2)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    (attempt,) = attempts_kept(api, page)
    assert len(attempt["strokes"]) == 2


def test_a_row_and_a_word_go_on_where_they_were_when_the_lid_is_opened_again(page: Page, api, kittiwake):
    choose_row(page, "Cleo M", "i")
    stem, dot = corners("i")
    write(page, [stem, dot], 0, points=6)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    write(page, [stem], 1, points=6)
    row = page.url
    word = api.post("/api/written", json={"child_id": kittiwake.children["Cleo M"], "text": "ill"}).json()
    other = page.context.new_page()
    other.goto(f"/write/word/{word['id']}")
    box = other.get_by_label("Write ill here").bounding_box()
    other.mouse.move(box["x"] + 200, box["y"] + 80)
    other.mouse.down()
    other.mouse.move(box["x"] + 200, box["y"] + 160, steps=4)
    other.mouse.up()
    other.wait_for_timeout(300)
    context = page.context
    page.close()  # the lid: pages go without a word
    other.close()
    again = context.new_page()
    again.goto(row)
    count(again, "2 of 6")
    expect(again.get_by_role("button", name="Next")).to_be_enabled()
    write(again, [dot], 1, points=2)
    again.keyboard.press("Enter")
    count(again, "3 of 6")
    assert [len(one["strokes"]) for one in attempts_kept(api, again)] == [2, 2]
    again.goto(f"/write/word/{word['id']}")
    expect(again.get_by_role("button", name="Done")).to_be_enabled()


def test_a_word_under_the_pen_comes_back_and_what_is_thrown_away_does_not(page: Page, api, kittiwake):
    word = api.post("/api/written", json={"child_id": kittiwake.children["Edie W"], "text": "ill"}).json()
    page.goto(f"/write/word/{word['id']}")
    sheet = page.get_by_label("Write ill here")
    box = sheet.bounding_box()
    page.mouse.move(box["x"] + 200, box["y"] + 80)
    page.mouse.down()
    page.mouse.move(box["x"] + 200, box["y"] + 160, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name="Done")).to_be_enabled()
    page.reload()
    expect(page.get_by_role("button", name="Done")).to_be_enabled()
    page.goto("/write?what=words")
    page.get_by_role("button", name="Throw away: Edie W, ill").click()
    expect(page.get_by_role("link", name="Go on: Edie W, ill")).to_have_count(0)
    page.goto(f"/write/word/{word['id']}")
    expect(page.get_by_role("button", name="Done")).to_be_disabled()


def test_without_a_place_on_the_device_a_letter_goes_straight_to_the_records(page: Page, api):
    page.add_init_script(NO_SHELF)
    choose_row(page, "Gus L", "l")
    write(page, corners("l"), 0, points=6)
    page.get_by_role("button", name="Next").click()
    count(page, "2 of 6")
    assert [one["verdict"] for one in attempts_kept(api, page)] == ["secure"]


def test_a_letter_that_can_be_kept_nowhere_stays_on_the_paper_and_is_one_attempt_in_the_end(page: Page, api):
    page.add_init_script(FULL_SHELF)
    choose_row(page, "Gus L", "t")
    page.route("**/api/rows/*/attempts", lambda route: route.abort())
    write(page, corners("t"), 0, points=6)
    page.get_by_role("button", name="Next").click()
    expect(page.get_by_role("alert")).to_contain_text("stays on the paper")
    count(page, "1 of 6")
    expect(page.get_by_role("button", name="Next")).to_be_enabled()
    page.evaluate("() => { window.deviceIsFull = false; }")
    page.unroute("**/api/rows/*/attempts")
    page.get_by_role("button", name="Next").click()
    count(page, "2 of 6")
    expect(page.get_by_role("alert")).to_have_count(0)
    (attempt,) = attempts_kept(api, page)
    assert len(attempt["strokes"]) == 2


def test_what_an_earlier_first_loop_left_on_the_device_is_moved_over_and_sent(page: Page, api):
    choose_row(page, "Cleo M", "l")
    row = api.get(f"/api/rows/{row_id(page)}").json()
    ink = [{"x": [10, 10], "y": [5, 24], "t": [0, 300]}]
    attempt = {"key": "left-from-before", "support": "trace", "strokes": ink}
    left = [{"rowId": row["id"], "attempt": {**attempt, "row_started_at": row["started_at"]}}]
    page.evaluate("(left) => localStorage.setItem('first-loop.outbox', left)", json.dumps(left))
    page.reload()
    count(page, "2 of 6")
    (kept,) = attempts_kept(api, page)
    assert kept["strokes"][0]["y"] == [5, 24]
    assert page.evaluate("() => localStorage.getItem('first-loop.outbox')") is None


def test_records_that_are_busy_keep_a_letter_waiting_and_take_it_once(page: Page, api):
    answers = iter([503, 503, 429])

    def busy(route):
        status = next(answers, None)
        if status is None:
            route.fallback()
        else:
            route.fulfill(status=status, json={"detail": "Something else is using the records."})

    choose_row(page, "Edie W", "l")
    page.route("**/api/rows/*/attempts", busy)
    write(page, corners("l"), 0, points=6)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    expect(page.get_by_text("kept on this device")).to_be_visible()
    assert len(attempts_kept(api, page)) == 1
    expect(page.get_by_role("alert")).to_have_count(0)  # it was no refusal


def test_no_page_breaks_its_own_policy_and_dialogs_hold_the_page_still(page: Page):
    broken = []
    page.on("console", lambda said: broken.append(said.text) if "Security Policy" in said.text else None)
    for path in ("/today", "/families", "/letters/n", "/write", "/check", "/class", "/records"):
        page.goto(path)
        page.get_by_role("heading", level=1).wait_for()
        page.wait_for_load_state("networkidle")
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_be_visible()
        assert page.evaluate("() => getComputedStyle(document.body).overflow") == "hidden"
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
    page.evaluate(
        "() => { const s = document.createElement('script'); s.text = 'window.let_in = 1';"
        " document.head.append(s); }"
    )
    assert page.evaluate("() => window.let_in") is None  # the policy holds
    assert len(broken) == 1


def test_a_day_is_the_schools_whatever_clock_the_browser_has(browser: Browser, server: str, api, kittiwake):
    zone = api.get("/api/records/time-zone").json()["name"]
    try:
        api.put("/api/records/time-zone", json={"name": "Europe/London"}).raise_for_status()
        today = api.get("/api/about").json()["today"]
        child = kittiwake.children["Edie W"]
        api.post(f"/api/children/{child}/notes", json={"text": "Sat well today."}).raise_for_status()
        wanted = str(int(today[-2:]))
        for clock in ("America/New_York", "Pacific/Kiritimati"):
            context = browser.new_context(base_url=server, timezone_id=clock)
            page = context.new_page()
            page.goto("/today")
            head = page.get_by_role("img", name=f" {wanted} ")
            expect(head.first).to_be_visible()
            page.goto(f"/children/{child}")
            expect(page.get_by_text("Sat well today.")).to_be_visible()
            notes = page.get_by_role("listitem").filter(has_text="Sat well today.")
            expect(notes.first).to_contain_text(f"{wanted} ")
            context.close()
    finally:
        api.put("/api/records/time-zone", json={"name": zone})


def test_the_school_is_moved_to_another_time_zone_on_its_page(page: Page, api):
    zone = api.get("/api/records/time-zone").json()["name"]
    try:
        page.goto("/records")
        part = page.get_by_role("region", name="When a day begins")
        part.get_by_label("Time zone").select_option("Asia/Kathmandu")
        part.get_by_role("button", name="Use this one").click()
        expect(part).to_contain_text("the clock of Kathmandu, Asia")
        assert api.get("/api/about").json()["time_zone"] == "Asia/Kathmandu"
    finally:
        api.put("/api/records/time-zone", json={"name": zone})


def test_a_row_is_finished_only_when_its_last_letter_is_kept(page: Page):
    choose_row(page, "Gus L", "l")
    for slot in range(5):
        write(page, corners("l"), slot, points=6)
        page.keyboard.press("Enter")
        expect(page.get_by_text(f"{slot + 2} of 6")).to_be_visible()
    page.wait_for_function("() => document.documentElement.dataset.waiting === '0'")

    held = {}
    page.route("**/attempts", lambda route: held.setdefault("attempt", route))
    page.route("**/finish", lambda route: held.setdefault("finish", route))
    page.evaluate(
        """() => {
            window.ends = [];
            new MutationObserver(() => {
                const now = document.querySelector('header [aria-live]').textContent;
                if (window.ends.at(-1) !== now) window.ends.push(now);
            }).observe(document.body, { childList: true, subtree: true, characterData: true });
        }"""
    )
    write(page, corners("l"), 5, points=6)
    page.keyboard.press("Enter")
    page.wait_for_timeout(600)
    too_soon = held["finish"].fetch() if "finish" in held else None
    held["attempt"].continue_()
    for _ in range(100):  # a busy machine is slow, not wrong
        if "finish" in held:
            break
        page.wait_for_timeout(200)
    if too_soon is None:
        held["finish"].continue_()
    else:
        held["finish"].fulfill(response=too_soon)
    page.wait_for_timeout(600)
    expect(page.get_by_text("Touch your best one.")).to_be_visible()
    ends = page.evaluate("() => window.ends")
    assert ends[ends.index("done") :] == ["done"]
