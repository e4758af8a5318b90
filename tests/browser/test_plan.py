"""The term and the lesson as a teacher handles them: planned, moved, taken back, run from one key."""

from __future__ import annotations

import re
import time
from collections.abc import Callable
from datetime import date, timedelta

import pypdfium2 as pdfium
import pytest
from icalendar import Calendar
from playwright.sync_api import Locator, Page, expect

from tests.browser.shots import PATIENCE_S
from tests.browser.test_screens import findings, sound

pytestmark = pytest.mark.browser
EVERY_DAY = [15] * 7
LETTERS = "abcdefghijklmnopqrstuvwxyz"


@pytest.fixture
def planned(page: Page, api, group: int) -> dict:
    """A class that has a lesson every day from today on."""
    on = date.fromisoformat(api.get("/api/about").json()["today"])
    wish = {
        "name": "This term",
        "first": on.isoformat(),
        "last": (on + timedelta(days=40)).isoformat(),
        "minutes": EVERY_DAY,
        "topics": ["lower case"],
    }
    made = api.post(f"/api/classes/{group}/plan", json=wish)
    made.raise_for_status()
    return {"path": f"/api/classes/{group}/plan", **made.json()}


def letter(page: Page, char: str) -> Locator:
    return page.get_by_role("button", name=re.compile(f"^{char}, "))


def day_of(page: Page, char: str) -> str:
    name = letter(page, char).get_attribute("aria-label")
    return name.split(", ", 1)[1]


def plan_of(api, planned) -> list[dict]:
    weeks = api.get(planned["path"]).json()["weeks"]
    return [one for week in weeks for one in week["lessons"]]


def until(is_so: Callable[[], object]) -> None:
    """Wait until the server has been told."""
    end = time.monotonic() + PATIENCE_S
    while not is_so():
        assert time.monotonic() < end, "it was never told"
        time.sleep(0.05)


def long(day: str) -> str:
    of = date.fromisoformat(day)
    return f"{of:%A} {of.day} {of:%B}"


def centre(one: Locator) -> tuple[float, float]:
    box = one.bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, one: Locator, onto: Locator) -> None:
    page.mouse.move(*centre(one))
    page.mouse.down()
    x, y = centre(onto)
    page.mouse.move(x + 12, y, steps=6)
    page.mouse.up()


@pytest.mark.parametrize("path", ["", "/days", "/new", "/lesson/{lesson}", "/lesson/{lesson}/run"])
def test_every_screen_of_the_plan_is_accessible_and_fits_its_width(page: Page, api, planned, path: str):
    sound(page, "/plan" + path.format(lesson=plan_of(api, planned)[7]["key"]))


def test_the_dialog_of_a_lesson_is_accessible(page: Page, api, planned):
    page.goto("/plan")
    page.get_by_role("button", name=re.compile(f"^{long(plan_of(api, planned)[0]['day'])}, ")).click()
    page.get_by_role("dialog").wait_for()
    assert findings(page) == []


def test_a_term_is_planned_from_nothing_in_a_few_clicks(page: Page, api, group: int):
    clicks = 0

    def click(one: Locator) -> None:
        nonlocal clicks
        clicks += 1
        one.click()

    page.goto("/today")
    click(page.get_by_role("link", name="Plan", exact=True))
    expect(page.get_by_text("no plan yet")).to_be_visible()
    click(page.get_by_role("button", name="Add a holiday"))
    first = date.fromisoformat(page.get_by_label("First day").input_value())
    off = first + timedelta(days=14)
    page.get_by_label("From").fill(off.isoformat())
    page.get_by_label("To", exact=True).fill((off + timedelta(days=4)).isoformat())
    page.get_by_label("Called").fill("Half-term")
    click(page.get_by_text("Most words soonest"))
    click(page.get_by_role("button", name="Plan the term"))
    expect(page.get_by_text("The term is planned.")).to_be_visible()
    assert clicks <= 10
    term = page.get_by_role("region", name="The term, week by week")
    expect(term.get_by_text("Half-term")).to_be_visible()
    for char in LETTERS:
        expect(letter(page, char)).to_have_count(1)
    orders = page.get_by_role("region", name="In which order?")
    expect(orders.get_by_role("button", name="Most words soonest")).to_have_attribute("aria-pressed", "true")
    expect(orders.get_by_text(re.compile("words by half-way")).first).to_be_visible()


def test_a_letter_is_dragged_what_moves_is_said_and_it_is_taken_back(page: Page, planned):
    page.goto("/plan")
    before = {char: day_of(page, char) for char in LETTERS}
    first, later = before["l"], before["r"]
    assert first != later
    drag(page, letter(page, "l"), letter(page, "r"))
    expect(letter(page, "l")).to_have_accessible_name(f"l, {later}")
    said = page.get_by_role("region", name="The latest change")
    expect(said).to_contain_text(f"is now on {first}" if day_of(page, "i") == first else later)
    page.get_by_role("button", name="Undo").click()
    expect(letter(page, "l")).to_have_accessible_name(f"l, {first}")
    assert {char: day_of(page, char) for char in LETTERS} == before


def test_a_lesson_is_dragged_by_its_day_and_a_locked_one_does_not_move(page: Page, api, planned):
    one, other, third = [lesson for lesson in plan_of(api, planned) if lesson["new"]][:3]
    page.goto("/plan")

    def handle(lesson: dict) -> Locator:
        return page.get_by_role("button", name=re.compile(f"^{long(lesson['day'])}, "))

    handle(other).click()
    page.get_by_role("button", name="Lock it").click()
    expect(handle(other)).to_have_accessible_name(re.compile("locked"))
    drag(page, handle(one), handle(third))
    expect(letter(page, one["new"][0])).to_have_accessible_name(re.compile(long(third["day"])))
    expect(letter(page, third["new"][0])).to_have_accessible_name(re.compile(long(one["day"])))
    expect(handle(other)).to_have_accessible_name(re.compile(f"New: {other['new'][0]}"))


def test_letters_and_lessons_are_moved_by_keys_and_keep_the_focus(page: Page, api, planned):
    one, other = [lesson for lesson in plan_of(api, planned) if lesson["new"]][:2]
    page.goto("/plan")
    char = one["new"][0]
    letter(page, char).focus()
    page.keyboard.press("ArrowRight")
    expect(letter(page, char)).to_have_accessible_name(f"{char}, {long(other['day'])}")
    expect(letter(page, char)).to_be_focused()
    page.keyboard.press("u")
    expect(letter(page, char)).to_have_accessible_name(f"{char}, {long(one['day'])}")
    handle = page.get_by_role("button", name=re.compile(f"^{long(one['day'])}, "))
    handle.focus()
    page.keyboard.press("ArrowRight")
    moved = page.get_by_role("button", name=re.compile(f"^{long(other['day'])}, New: {char}"))
    expect(moved).to_be_focused()


def test_a_letter_is_carried_with_a_finger(browser, base_url, api, planned, group: int):
    context = browser.new_context(base_url=base_url, has_touch=True, viewport={"width": 1280, "height": 800})
    context.add_init_script(f"localStorage.setItem('first-loop.class', '{group}')")
    page = context.new_page()
    page.goto("/plan")
    goal = day_of(page, "r")
    start, end = centre(letter(page, "l")), centre(letter(page, "r"))
    session = context.new_cdp_session(page)

    def touch(kind: str, *at: tuple[float, float]) -> None:
        points = [{"x": x, "y": y} for x, y in at]
        session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    touch("touchStart", start)
    for share in (0.2, 0.6, 1.0):
        touch("touchMove", tuple(a + share * (b - a) for a, b in zip(start, end, strict=True)))
    touch("touchEnd")
    expect(letter(page, "l")).to_have_accessible_name(f"l, {goal}")
    context.close()


def test_a_missed_lesson_is_told_and_its_letters_move_on(page: Page, api, planned):
    lesson = plan_of(api, planned)[0]
    page.goto("/plan")
    page.get_by_role("button", name=re.compile(f"^{long(lesson['day'])}, ")).click()
    page.get_by_role("button", name="It was missed").click()
    expect(page.get_by_role("region", name="The latest change")).to_contain_text("was missed")
    for char in lesson["new"]:
        assert day_of(page, char) != long(lesson["day"])
    page.get_by_role("button", name="Put it back").click()
    expect(letter(page, lesson["new"][0])).to_have_accessible_name(
        f"{lesson['new'][0]}, {long(lesson['day'])}"
    )


def slide(page: Page, slider: Locator, steps: int) -> None:
    """Drag a slider from its middle to its end, step by step."""
    box = slider.bounding_box()
    assert box is not None
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + box["width"] / 2, middle)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"], middle, steps=steps)
    page.mouse.up()


def test_another_order_is_chosen_with_what_it_costs_and_one_between(page: Page, api, planned):
    page.goto("/plan")
    orders = page.get_by_role("region", name="In which order?")
    words = orders.get_by_role("button", name="Most words soonest")
    expect(words).to_contain_text("words by half-way")
    words.click()
    expect(words).to_have_attribute("aria-pressed", "true")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url) if "movement=" in request.url else None)
    orders.get_by_role("button", name="Something between").click()
    use = orders.get_by_role("button", name="Use this order")
    expect(use).to_be_enabled()
    slide(page, orders.get_by_label("similar movements"), steps=20)
    expect(use).to_be_enabled()
    assert ["movement=0.5" in asked[0], "movement=1&" in asked[-1]] == [True, True]
    assert len(asked) <= 3, "what a slider passes on its way is not looked for"
    use.click()
    expect(page.get_by_text("The order is now: Between the three.")).to_be_visible()
    assert api.get(planned["path"]).json()["share"][0] == 1.0


def test_a_whole_lesson_is_run_from_one_key_and_the_plan_follows(page: Page, api, planned):
    lesson = plan_of(api, planned)[0]
    skipped = lesson["new"][-1]
    page.goto("/today")
    page.get_by_role("link", name="Run the lesson").click()
    expect(page.get_by_role("heading", name="Before we write")).to_be_visible()
    for number in range(1, 60):
        if page.get_by_role("button", name="End the lesson").is_visible():
            break
        expect(page.get_by_text(re.compile(rf"^{number} of \d+$"))).to_be_visible()
        if number == 2:
            expect(page.get_by_role("region", name=skipped, exact=True)).to_be_visible()
            expect(page.get_by_role("timer")).to_have_text(re.compile("left$"))
        page.keyboard.press("s" if number == 2 else "ArrowRight")
        expect(page.get_by_text(re.compile(rf"^{number} of \d+$"))).to_have_count(0)
    expect(page.get_by_text(f"Not shown, and so moved on in the plan: {skipped}.")).to_be_visible()
    page.get_by_role("button", name="End the lesson").click()
    expect(page.get_by_role("heading", name="Today", exact=True)).to_be_visible()
    after = plan_of(api, planned)
    assert after[0]["came"] == "cut"
    assert skipped not in after[0]["shown"]
    assert any(skipped in one["new"] for one in after[1:])
    page.goto(f"/plan/lesson/{lesson['key']}")
    done = page.get_by_role("region", name="What was done")
    expect(done).to_contain_text(f"show {lesson['new'][0]}")
    done.get_by_role("checkbox", name=skipped).check()
    done.get_by_role("button", name="It was held as planned").click()
    expect(done).to_be_visible()
    until(lambda: plan_of(api, planned)[0]["came"] == "held")


def test_a_lesson_broken_off_goes_on_where_it_was(page: Page, api, planned):
    lesson = plan_of(api, planned)[0]
    page.goto(f"/plan/lesson/{lesson['key']}/run")
    page.get_by_role("heading", name="Before we write").wait_for()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    here = page.get_by_text(re.compile(r"^4 of \d+$"))
    expect(here).to_be_visible()
    kept = f"{planned['path']}/lessons/{lesson['key']}"
    until(lambda: len((api.get(kept).json()["run"] or {"parts": ()})["parts"]) == 4)
    page.reload()
    expect(here).to_be_visible()
    page.goto("/today")
    expect(page.get_by_role("link", name="Go on with the lesson")).to_be_visible()


def test_a_lessons_page_is_changed_in_place_and_printed_on_one_page(page: Page, api, planned):
    lesson = plan_of(api, planned)[7]
    page.goto(f"/plan/lesson/{lesson['key']}")
    words = page.get_by_label(re.compile("^Minutes for Words"))
    words.fill("7")
    expect(page.get_by_role("status").filter(has_text="more than the lesson has")).to_be_visible()
    page.get_by_role("button", name=re.compile("^In the air")).click()
    page.get_by_role("button", name="Leave it out").click()
    expect(page.get_by_text("Left out:")).to_be_visible()
    page.get_by_label("Your own note").fill("Bashir by the window")
    page.get_by_label("Your own note").blur()
    page.get_by_role("button", name="As it was worked out").wait_for()
    address = page.get_by_role("link", name="Print the page").get_attribute("href")
    until(lambda: api.get(f"{planned['path']}/lessons/{lesson['key']}").json()["beside_note"])
    printed = pdfium.PdfDocument(api.get(address).content)
    assert len(printed) == 1
    assert "Bashir by the window" in printed[0].get_textpage().get_text_bounded()
    page.get_by_role("button", name="As it was worked out").click()
    expect(page.get_by_role("button", name="As it was worked out")).to_have_count(0)
    expect(page.get_by_text("Left out:")).to_have_count(0)


def test_the_calendar_is_saved_again_after_a_change_and_days_are_read_from_one(
    page: Page, api, planned, tmp_path
):
    page.goto("/plan")

    def saved() -> dict[str, str]:
        with page.expect_download() as coming:
            page.get_by_role("link", name="Calendar file").click()
        events = Calendar.from_ical(coming.value.path().read_bytes()).walk("VEVENT")
        return {str(one["UID"]): str(one["STATUS"]) for one in events}

    first = saved()
    lesson = next(one for one in plan_of(api, planned)[2:] if one["new"])
    day = date.fromisoformat(lesson["day"])
    file = tmp_path / "school.ics"
    file.write_text(
        "\r\n".join(
            (
                "BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//s//EN", "BEGIN:VEVENT", "UID:a",
                "DTSTAMP:20260101T000000Z", "SUMMARY:Staff day", f"DTSTART;VALUE=DATE:{day:%Y%m%d}",
                "END:VEVENT", "END:VCALENDAR", "",
            )
        )
    )  # fmt: skip
    page.get_by_role("link", name="Days and holidays").click()
    page.get_by_label("Calendar file with holidays").set_input_files(file)
    expect(page.get_by_text("Read from school.ics: Staff day.")).to_be_visible()
    page.get_by_role("button", name="Keep these days").click()
    expect(page.get_by_text("The days of the term are changed.")).to_be_visible()
    second = saved()
    assert set(second) == set(first)
    assert [uid for uid in second if second[uid] == "CANCELLED"] == [
        uid for uid in first if uid.endswith(f"-{lesson['key']}@first-loop")
    ]
