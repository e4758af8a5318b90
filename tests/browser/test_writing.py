"""A child writes a row; a teacher looks at it; it is remembered."""

from __future__ import annotations

import json
import time
from collections.abc import Callable

import numpy as np
import pytest
from playwright.sync_api import APIResponse, Page, Route, expect

from firstloop.core.letterforms.library import letter
from tests.browser.conftest import (
    attempts_kept,
    choose_row,
    corners,
    found_school,
    row_id,
    teacher_opens,
    write,
)
from tests.house import House
from tests.pen import even

pytestmark = pytest.mark.browser


def from_the_base_line() -> list[np.ndarray]:
    sampled = letter("n").sampled[0]
    return [even(sampled.points[sampled.move >= 1])]


def count(page: Page, words: str) -> None:
    expect(page.get_by_text(words, exact=True)).to_be_visible()


def wait_until(page: Page, true: Callable[[], bool]) -> None:
    for _ in range(300):
        if true():
            return
        page.wait_for_timeout(100)
    raise AssertionError("it did not come about in 30 seconds")


def test_a_row_of_n_from_the_first_trace_to_the_childs_page(page: Page, api):
    choose_row(page, "Edie W", "n")
    count(page, "1 of 6")
    write(page, corners("n"), 0)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    write(page, from_the_base_line(), 1)
    page.get_by_role("button", name="Next").click()
    count(page, "3 of 6")
    write(page, corners("n"), 2)
    page.keyboard.press("c")
    count(page, "3 of 6")
    for slot, words in ((3, "4 of 6"), (4, "5 of 6"), (5, "6 of 6")):
        write(page, corners("n"), slot)
        page.keyboard.press("Enter")
        count(page, words)
    # writing on into the next slot ends an attempt too: the last one is ended by its button
    write(page, corners("n"), 6)
    page.get_by_role("button", name="Next").click()
    count(page, "Touch your best one.")
    expect(page.get_by_role("radio")).to_have_count(6)
    page.get_by_role("radio", name="Number 4").click()
    count(page, "Start at the mid line, then straight down.")
    kept = attempts_kept(api, page)
    assert [a["crossed_out"] for a in kept] == [False, False, True, False, False, False, False]
    assert [a["verdict"] for a in kept] == ["secure", "fix", "secure", "secure", "secure", "secure", "secure"]
    assert [a["best"] for a in kept] == [False, False, False, True, False, False, False]
    assert [a["support"] for a in kept] == ["trace", "trace", "finish", "finish", "alone", "alone", "alone"]
    assert api.get(f"/api/rows/{row_id(page)}").json()["finished"]

    teacher_opens(page)
    page.get_by_role("link", name="Look at it together").click()
    _look_and_mark(page)
    page.get_by_role("link", name="Every n").click()
    expect(page.get_by_role("heading", name="Edie W")).to_be_visible()
    expect(page.get_by_role("region", name="Every n")).to_contain_text("7 written")
    expect(page.get_by_role("img", name="First and latest n")).to_be_visible()
    expect(page.get_by_role("row", name="Direction")).to_contain_text("3/3")


def _look_and_mark(page: Page) -> None:
    """What a teacher does with the row: see the slip, mark by keys, take back, agree."""
    expect(page.get_by_role("heading", name="Edie W, letter n")).to_be_visible()
    # the one to see first is the one begun at the base line, and its start is pointed at
    expect(page.get_by_role("button", name="Attempt 2, fix")).to_have_attribute("aria-pressed", "true")
    direction = page.get_by_role("region", name="Direction")
    expect(direction).to_contain_text("Began at the bottom")
    expect(page.locator('[data-pointed="start.bottom"]')).to_be_attached()
    expect(page.get_by_role("region", name="Shape")).to_contain_text("Reads as n")

    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("button", name="Attempt 1, secure")).to_have_attribute("aria-pressed", "true")
    for heading in ("Direction", "Shape", "Size"):
        expect(page.get_by_role("region", name=heading)).to_contain_text("secure")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("2")
    expect(page.get_by_role("button", name="Attempt 2, near, your mark")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_role("button", name="Attempt 2, fix", exact=True)).to_be_visible()
    page.get_by_role("button", name="Mark as fix").click()
    expect(page.get_by_role("button", name="Attempt 2, fix, your mark")).to_be_visible()
    page.get_by_role("button", name="Agree with the row").click()
    expect(page.get_by_role("button", name="Attempt 1, secure, your mark")).to_be_visible()
    expect(page.get_by_role("button", name="Attempt 3, crossed out", exact=True)).to_be_visible()


def test_a_mirrored_b_is_told_as_reading_d(page: Page, api):
    choose_row(page, "Gus L", "b")
    write(page, [stroke * np.array([-1.0, 1.0]) for stroke in corners("b")], 0, points=20)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    page.goto(f"/check/{row_id(page)}")
    shape = page.get_by_role("region", name="Shape")
    expect(shape).to_contain_text("Written as its mirror image, reads as d.")
    expect(page.get_by_role("region", name="Direction").get_by_role("listitem")).to_have_count(0)


def test_writing_on_in_the_next_slot_ends_the_letter_before(page: Page, api):
    choose_row(page, "Gus L", "l")
    write(page, corners("l"), 0, points=6)
    write(page, corners("l"), 1, points=6)
    count(page, "2 of 6")
    page.keyboard.press("Enter")
    count(page, "3 of 6")
    assert [a["verdict"] for a in attempts_kept(api, page)] == ["secure", "secure"]


def test_a_finished_letter_can_still_be_crossed_out(page: Page, api):
    choose_row(page, "Gus L", "i")
    write(page, corners("i"), 0, points=6)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    page.get_by_role("button", name="Cross out the last one").click()
    count(page, "1 of 6")
    assert [a["crossed_out"] for a in attempts_kept(api, page)] == [True]


def test_an_answer_that_comes_late_does_not_undo_a_cross_out(page: Page, api):
    choose_row(page, "Gus L", "i")
    asked: list[Route] = []
    late: list[APIResponse] = []

    def keep_back_the_first(route: Route) -> None:
        if asked or route.request.method != "GET":
            route.continue_()
        else:
            asked.append(route)
            late.append(route.fetch())

    write(page, corners("i"), 0, points=6)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    attempts_kept(api, page)
    page.wait_for_load_state("networkidle")
    page.route("**/api/rows/*", keep_back_the_first)
    page.get_by_role("button", name="Cross out the last one").click()
    count(page, "1 of 6")
    wait_until(page, lambda: bool(late))
    asked[0].fulfill(response=late[0])
    page.wait_for_timeout(300)  # time for the late answer to do its harm
    count(page, "1 of 6")


def test_a_letter_is_crossed_out_while_the_records_do_not_answer(page: Page, api):
    choose_row(page, "Gus L", "t")
    write(page, corners("t"), 0, points=6)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    page.route("**/api/rows/*/attempts", lambda route: route.abort())
    write(page, corners("t"), 1, points=6)
    page.keyboard.press("Enter")
    count(page, "3 of 6")
    page.get_by_role("button", name="Cross out the last one").click()
    count(page, "2 of 6")
    page.unroute("**/api/rows/*/attempts")
    assert [a["crossed_out"] for a in attempts_kept(api, page)] == [False, True]


def test_what_the_records_turn_away_holds_up_nothing_and_is_the_teachers_to_throw_away(
    page: Page, api, kittiwake
):
    named = {"first_name": "Bram", "initial": "T", "hand": "right"}
    gone = api.post(f"/api/classes/{kittiwake.id}/children", json=named).json()["id"]
    choose_row(page, "Bram T", "l")
    number = row_id(page)
    api.delete(f"/api/children/{gone}").raise_for_status()
    write(page, corners("l"), 0, points=6)
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("could not be kept")
    choose_row(page, "Cleo M", "l")
    write(page, corners("l"), 0, points=6)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    assert row_id(page) > number  # no number is given again
    wait_until(page, lambda: len(api.get(f"/api/rows/{row_id(page)}").json()["attempts"]) == 1)
    with page.expect_download() as download:
        page.get_by_role("link", name="Save its ink").click()
    (stroke,) = json.loads(download.value.path().read_text())
    assert len(stroke["x"]) >= 6
    page.get_by_role("button", name="Throw it away").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.wait_for_function("() => document.documentElement.dataset.waiting === '0'")


def test_a_pen_keeps_every_point_with_its_pressure_and_time(page: Page, api):
    choose_row(page, "Cleo M", "l")
    box = page.get_by_label("Write l here").bounding_box()
    cdp = page.context.new_cdp_session(page)
    begin = time.time()

    def pen(kind: str, i: int) -> None:
        at = {"x": box["x"] + 260, "y": box["y"] + 120 + 6 * i, "button": "left", "pointerType": "pen"}
        cdp.send(
            "Input.dispatchMouseEvent",
            {**at, "type": kind, "force": 0.25 + i / 100, "timestamp": begin + i * 0.008},
        )

    pen("mousePressed", 0)
    for i in range(1, 40):
        pen("mouseMoved", i)
    pen("mouseReleased", 40)
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    (stroke,) = attempts_kept(api, page)[0]["strokes"]
    assert len(stroke["x"]) >= 38
    assert np.ptp(stroke["f"]) > 0.3
    assert np.median(np.diff(stroke["t"])) == pytest.approx(8.0, abs=1.0)


def test_a_resting_hand_leaves_no_ink_beside_a_pen(page: Page, api):
    choose_row(page, "Cleo M", "l")
    page.get_by_label("Write l here").evaluate(
        """(sheet) => {
            const box = sheet.getBoundingClientRect();
            const event = (type, kind, id, x, y) => sheet.dispatchEvent(new PointerEvent(type, {
                pointerId: id, pointerType: kind, button: 0, pressure: 0.5, bubbles: true,
                clientX: box.x + x, clientY: box.y + y, isPrimary: kind === 'pen',
            }));
            event('pointerdown', 'pen', 5, 260, 120);
            event('pointermove', 'pen', 5, 260, 200);
            event('pointerdown', 'touch', 6, 500, 400);
            event('pointermove', 'touch', 6, 520, 420);
            event('pointermove', 'pen', 5, 260, 300);
            event('pointerup', 'touch', 6, 520, 420);
            event('pointerup', 'pen', 5, 260, 300);
        }"""
    )
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    (stroke,) = attempts_kept(api, page)[0]["strokes"]
    assert len(stroke["x"]) == 3
    assert len(set(stroke["x"])) == 1


def test_the_simulated_pen_writes_live(page: Page, api):
    choose_row(page, "Edie W", "r")
    page.get_by_role("button", name="Simulated pen").click()
    expect(page.get_by_role("button", name="Simulated pen")).to_be_disabled()
    expect(page.get_by_role("button", name="Simulated pen")).to_be_enabled()
    page.keyboard.press("Enter")
    count(page, "2 of 6")
    (attempt,) = attempts_kept(api, page)
    assert attempt["result"]["reads_as"] == "r"
    assert attempt["result"]["measures"]["duration_ms"] > 500


def test_no_finished_attempt_is_lost_when_the_server_is_killed(page: Page, tmp_path):
    with House(tmp_path) as house:
        found_school(house.asking)
        page.goto(f"{house.url}/write")
        page.get_by_role("radio", name="Edie W").click()
        page.get_by_role("radio", name="l", exact=True).click()
        page.get_by_role("button", name="Start the row").click()
        page.get_by_label("Write l here").wait_for()
        write(page, corners("l"), 0, points=6)
        page.keyboard.press("Enter")
        count(page, "2 of 6")
        house.kill()
        for slot, words in ((1, "3 of 6"), (2, "4 of 6")):
            write(page, corners("l"), slot, points=6)
            page.keyboard.press("Enter")
            count(page, words)
        expect(page.get_by_text("letters are kept on this device")).to_be_visible()
        house.start()
        expect(page.get_by_text("kept on this device")).to_have_count(0)
        page.reload()
        count(page, "4 of 6")
        kept = house.asking.get(f"/api/rows/{row_id(page)}").json()["attempts"]
        assert [a["verdict"] for a in kept] == ["secure"] * 3


def test_an_answer_of_before_another_step_does_not_undo_it(page: Page, api):
    choose_row(page, "Gus L", "l")
    late: list[Route] = []
    answers: list[APIResponse] = []

    def hold(route: Route) -> None:
        late.append(route)
        answers.append(route.fetch())

    page.route("**/api/rows/*/finish", hold)
    for slot, words in enumerate(["2 of 6", "3 of 6", "4 of 6", "5 of 6", "6 of 6", "Touch your best one."]):
        write(page, corners("l"), slot, points=6)
        page.keyboard.press("Enter")
        count(page, words)
    wait_until(page, lambda: bool(answers))  # the row is finished, and its answer still on its way
    page.get_by_role("radio", name="Number 4").click()
    expect(page.get_by_text("Next time")).to_be_visible()
    late[0].fulfill(response=answers[0])
    page.wait_for_timeout(500)  # time for the late answer to do its harm
    expect(page.get_by_role("radio", name="Number 4")).to_be_checked()
