"""A hand on the glass: pens, fingers and palms, in whatever order they come."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from playwright.sync_api import CDPSession, Page, expect

from tests.browser.conftest import attempts_kept, choose_row, corners, on_screen

pytestmark = pytest.mark.browser


class Glass:
    """Fingers, palms and pens as the system reports them."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.cdp: CDPSession = page.context.new_cdp_session(page)
        self.cdp.send("Emulation.setTouchEmulationEnabled", {"enabled": True, "maxTouchPoints": 5})
        self.touches: dict[int, tuple[float, float]] = {}

    def _touch(self, kind: str) -> None:
        points = [
            {"x": x, "y": y, "id": id, "radiusX": 9, "radiusY": 9} for id, (x, y) in self.touches.items()
        ]
        self.cdp.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    def touch(self, id: int, at: tuple[float, float]) -> None:
        kind = "touchMove" if id in self.touches else "touchStart"
        self.touches[id] = at
        self._touch(kind)

    def lift(self, id: int) -> None:
        del self.touches[id]
        self._touch("touchEnd")

    def pen(self, kind: str, at: tuple[float, float]) -> None:
        more = (
            {"button": "left", "buttons": 1, "clickCount": 1}
            if kind != "mouseReleased"
            else {"button": "left"}
        )
        self.cdp.send(
            "Input.dispatchMouseEvent",
            {"type": kind, "x": at[0], "y": at[1], "pointerType": "pen", "force": 0.5, **more},
        )

    def write(
        self, way: list[tuple[float, float]], with_pen: bool, between: Callable[[], None] | None = None
    ) -> None:
        """One stroke, by pen or by the second finger; something else happens halfway."""
        for number, at in enumerate(way):
            if with_pen:
                self.pen("mouseMoved" if number else "mousePressed", at)
            else:
                self.touch(2, at)
            if between and number == len(way) // 2:
                between()
        if with_pen:
            self.pen("mouseReleased", way[-1])
        else:
            self.lift(2)


def palm_rests(glass: Glass, palm: tuple[float, float]) -> None:
    glass.touch(1, palm)
    glass.page.wait_for_timeout(800)


def palm_comes_and_goes(glass: Glass, palm: tuple[float, float]) -> None:
    palm_rests(glass, palm)
    glass.lift(1)


def palm_slides(glass: Glass, palm: tuple[float, float]) -> None:
    palm_rests(glass, palm)
    glass.touch(1, (palm[0] + 12, palm[1]))


BEFORE = {"first": palm_rests, "there and gone": palm_comes_and_goes, "sliding": palm_slides}


@pytest.mark.parametrize("with_pen", [True, False], ids=["pen", "finger"])
@pytest.mark.parametrize("palm", [*BEFORE, "in the middle"])
def test_a_resting_palm_is_no_letter_and_keeps_none_from_being_written(page: Page, api, with_pen, palm):
    choose_row(page, "Gus L", "n")
    page.get_by_text("1 of 6").wait_for()
    (way,) = on_screen(page, "Row of", corners("n"), slot=0, points=40)
    place = (way[0][0] + 260, way[0][1] + 90)
    glass = Glass(page)
    if palm in BEFORE:
        BEFORE[palm](glass, place)
        glass.write(way, with_pen)
    else:
        glass.write(way, with_pen, between=lambda: glass.touch(1, place))
    if 1 in glass.touches:
        glass.lift(1)
    page.keyboard.press("Enter")
    page.get_by_text("2 of 6").wait_for()
    (attempt,) = attempts_kept(api, page)
    (stroke,) = attempt["strokes"]
    assert np.ptp(stroke["y"]) > 8  # the letter, all of it
    assert attempt["verdict"] == "secure"


def centre(page: Page, button: str) -> tuple[float, float]:
    box = page.get_by_role("button", name=button).bounding_box()
    assert box is not None
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def test_a_child_finds_no_way_out_and_a_teacher_holds_the_button(page: Page):
    choose_row(page, "Gus L", "i")
    expect(page.get_by_role("link")).to_have_count(0)
    glass = Glass(page)
    glass.touch(1, centre(page, "Teacher: hold"))
    page.wait_for_timeout(300)
    glass.lift(1)
    page.wait_for_timeout(1500)
    expect(page.get_by_role("link")).to_have_count(0)
    glass.touch(1, centre(page, "Teacher: hold"))
    page.get_by_role("button", name="Let go").wait_for()
    glass.lift(1)
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_role("link")).to_have_count(0)
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Leave").click()
    expect(page.get_by_role("heading", name="Who writes?")).to_be_visible()


def test_all_that_a_child_touches_is_as_large_as_a_fingertip(page: Page):
    choose_row(page, "Gus L", "i")
    for button in page.get_by_role("button").all():
        box = button.bounding_box()
        assert box is not None
        assert min(box["width"], box["height"]) >= 44, button.inner_text()


def test_crossing_out_says_what_it_crosses_out(page: Page, api):
    choose_row(page, "Gus L", "l")
    expect(page.get_by_role("button", name="Cross out the last one")).to_be_disabled()
    page.keyboard.press("c")  # nothing is there: nothing happens
    for slot in (0, 1):
        for way in on_screen(page, "Row of", corners("l"), slot, points=8):
            Glass(page).write(way, with_pen=True)
        if slot == 0:
            page.keyboard.press("Enter")
            page.get_by_text("2 of 6").wait_for()
    page.get_by_role("button", name="Cross it out").click()
    page.get_by_role("button", name="Cross out the last one").click()
    page.get_by_text("1 of 6").wait_for()
    assert [one["crossed_out"] for one in attempts_kept(api, page)] == [True, True]
